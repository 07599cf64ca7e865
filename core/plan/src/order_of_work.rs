//! In which order the zones of a piece are laid, by the schools of its brief.

use lean_piece::intent::schools::{Question, School};
use lean_piece::light::{Distance, Role};
use lean_piece::{Importance, Piece, Zone, ZoneId};
use serde::Serialize;

/// An order of work and why it is so.
#[derive(Clone, Debug, Default, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct OrderOfWork {
    /// The zones, first laid first.
    pub zones: Vec<ZoneId>,
    /// The schools it follows, in a few words.
    pub words: String,
}

/// The order of a piece: highlights at their end, then where to work, then by tone. Within the same, as they are numbered.
pub(crate) fn order_of_work(piece: &Piece) -> OrderOfWork {
    let school = |q| piece.intent.school(q, piece.brief.medium);
    let (tones, places, highlights) = (school(Question::OrderOfTones), school(Question::WhereToWork), school(Question::Highlights));
    let values: Vec<f64> = piece.zones.iter().map(|z| piece.wanted(z).value().0).collect();
    let ladder = Ladder::of(&values);
    let mut ranked: Vec<([f64; 3], ZoneId)> = piece
        .zones
        .iter()
        .zip(&values)
        .map(|(z, v)| ([of_highlight(highlights, z), of_place(places, z), ladder.rank(tones, *v)], z.id))
        .collect();
    ranked.sort_by(|(a, i), (b, j)| a.iter().zip(b).map(|(x, y)| x.total_cmp(y)).find(|o| o.is_ne()).unwrap_or_else(|| i.0.cmp(&j.0)));
    let glints = piece.zones.iter().any(|z| of_highlight(highlights, z) != 0.0);
    let ends = if glints { format!("; highlights {}", highlights.label()) } else { String::new() };
    OrderOfWork { zones: ranked.into_iter().map(|r| r.1).collect(), words: format!("{}, {}{ends}", tones.label(), places.label()) }
}

fn of_highlight(school: School, zone: &Zone) -> f64 {
    match (zone.facts.role, school) {
        (Some(Role::Highlight), School::HighlightsReserved) => -1.0,
        (Some(Role::Highlight), _) => 1.0,
        _ => 0.0,
    }
}

fn of_place(school: School, zone: &Zone) -> f64 {
    match school {
        School::FarToNear => match zone.facts.distance {
            Some(Distance::Far) => 0.0,
            Some(Distance::Middle) | None => 1.0,
            Some(Distance::Near) => 2.0,
        },
        School::FocalFirst => match zone.importance {
            Importance::Focal => 0.0,
            Importance::Usual => 1.0,
            Importance::Quiet => 2.0,
        },
        _ => 0.0,
    }
}

/// The values of a plan, for telling light, middle and dark apart.
struct Ladder {
    darkest: f64,
    lightest: f64,
}

impl Ladder {
    fn of(values: &[f64]) -> Self {
        let (darkest, lightest) = values.iter().fold((f64::INFINITY, f64::NEG_INFINITY), |(d, l), v| (d.min(*v), l.max(*v)));
        Self { darkest, lightest }
    }

    fn rank(&self, tones: School, value: f64) -> f64 {
        let third = (self.lightest - self.darkest) / 3.0;
        match tones {
            School::DarkToLight | School::DarkBaseOutward => value,
            School::MiddleOutward => (value - (self.darkest + self.lightest) / 2.0).abs(),
            School::LightBaseDarkestMiddle if value >= self.lightest - third => 0.0,
            School::LightBaseDarkestMiddle if value <= self.darkest + third => 1.0,
            School::LightBaseDarkestMiddle => 2.0,
            _ => -value,
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::staged::{Staged, staged_in};
    use lean_media::Medium;

    fn order(piece: &Piece) -> Vec<u16> {
        order_of_work(piece).zones.into_iter().map(|z| z.0).collect()
    }

    /// A far light, a middle, a near dark and a glint.
    fn yard(medium: Medium) -> Piece {
        staged_in(
            medium,
            "panel-white",
            &[
                Staged::vt(8.0, 0.0).distance(Distance::Far),
                Staged::vt(5.5, 0.0).distance(Distance::Middle).focal(),
                Staged::vt(2.0, 0.0).distance(Distance::Near),
                Staged::vt(9.0, 0.0).role(Role::Highlight),
            ],
        )
    }

    #[test]
    fn each_medium_has_its_usual_order_of_tones() {
        assert_eq!(order(&yard(Medium::SoftPastel)), [3, 2, 1, 4], "dark to light, highlights last");
        assert_eq!(order(&yard(Medium::Oil)), [2, 1, 3, 4], "from the middle outward");
        assert_eq!(order(&yard(Medium::Watercolour)), [4, 1, 2, 3], "the glint is reserved, then light to dark");
    }

    #[test]
    fn other_schools_give_other_orders() {
        let with = |q, s| {
            let mut piece = yard(Medium::SoftPastel);
            piece.intent.schools.insert(q, s);
            order(&piece)
        };
        assert_eq!(with(Question::WhereToWork, School::FarToNear), [1, 2, 3, 4]);
        assert_eq!(with(Question::WhereToWork, School::FocalFirst), [2, 3, 1, 4]);
        assert_eq!(with(Question::OrderOfTones, School::LightBaseDarkestMiddle), [1, 3, 2, 4]);
    }
}
