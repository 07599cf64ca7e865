//! Two patches compared, and what is equal to what.

use crate::mark::Mark;
use crate::wording;
use lean_colour::Steps;
use lean_colour::difference::ciede2000;
use lean_piece::{Piece, ZoneId};
use serde::Serialize;

/// Steps within which two values are the same to the eye. A choice.
pub(crate) const SAME_VALUE: f64 = 0.15;

/// Two patches side by side.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Compared {
    /// The first.
    pub one: Mark,
    /// The second.
    pub other: Mark,
    /// Steps the first is lighter.
    pub steps: f64,
    /// Units the first is warmer.
    pub warmer: f64,
    /// CIEDE2000 between them.
    pub difference: f64,
    /// In a sentence: value first, then chroma, hue and temperature as far as each moved.
    pub sentence: String,
}

/// Compares two patches: value first, then what else moved.
pub fn compare(one: Mark, other: Mark) -> Compared {
    let steps = one.value.steps_above(other.value);
    let warmer = one.temperature.warmer_than(other.temperature);
    let difference = ciede2000(one.lab, other.lab);
    let value = match steps {
        s if s.abs() < SAME_VALUE => "These two are the same value".to_owned(),
        s => format!("The first is {} {}", wording::steps(Steps(s.abs())), if s > 0.0 { "lighter" } else { "darker" }),
    };
    let colour = wording::Difference::of(other.lab, one.lab).comparison();
    let first = if steps.abs() < SAME_VALUE { "; the first is " } else { ", " };
    let sentence = if colour.is_empty() { format!("{value}, and much the same colour.") } else { format!("{value}{first}{colour}.") };
    Compared { one, other, steps, warmer, difference, sentence }
}

/// Zones in order of value, those the eye takes for equal together.
pub fn equal_values(piece: &Piece) -> Vec<Vec<ZoneId>> {
    let mut zones: Vec<(f64, ZoneId)> = piece.zones.iter().map(|z| (z.reading.value.0, z.id)).collect();
    zones.sort_by(|a, b| b.0.total_cmp(&a.0));
    let mut groups: Vec<(f64, Vec<ZoneId>)> = Vec::new();
    for (value, id) in zones {
        match groups.last_mut().filter(|(first, _)| first - value < SAME_VALUE) {
            Some((_, group)) => group.push(id),
            None => groups.push((value, vec![id])),
        }
    }
    groups.into_iter().map(|(_, g)| g).collect()
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::staged::{Staged, staged};
    use lean_colour::{Lab, Temperature};

    fn mark(l: f64, a: f64, b: f64) -> Mark {
        Mark::of(Lab::new(l, a, b), Temperature(0.0))
    }

    #[test]
    fn the_sentence_keeps_the_order() {
        assert_eq!(compare(mark(50.0, 0.0, 0.0), mark(50.4, 0.0, 0.0)).sentence, "These two are the same value, and much the same colour.");
        let warm = compare(mark(50.0, 12.0, 14.0), mark(50.0, 0.0, -10.0)).sentence;
        assert_eq!(warm, "These two are the same value; the first is more orange and warmer.");
        let dark = compare(mark(30.0, 0.0, 0.0), mark(60.0, 0.0, 0.0));
        assert!(dark.steps < -2.5 && dark.sentence.contains("darker"), "{}", dark.sentence);
    }

    #[test]
    fn zones_of_one_value_stand_together() {
        let piece = staged(&[Staged::vt(7.0, 4.0), Staged::vt(3.0, 0.0), Staged::vt(6.95, -9.0)]);
        assert_eq!(equal_values(&piece), [vec![ZoneId(1), ZoneId(3)], vec![ZoneId(2)]]);
    }
}
