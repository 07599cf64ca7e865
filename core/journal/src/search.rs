//! What is looked for in the journal.

use crate::entry::EntryKind;
use crate::season::{DayTime, Season};
use lean_colour::Lab;
use lean_media::{Medium, PigmentId};
use lean_piece::easel::Outcome;

/// CIEDE2000 up to which a colour counts as like the one that is looked for. A choice: plainly related, not the same.
pub const ALIKE: f64 = 9.0;
/// Steps within which a mean value counts as the one looked for. A choice.
pub const VALUE_WITHIN: f64 = 0.5;
/// Share of a picture below which a colour is not looked for. A choice.
pub const LEAST_SHARE: f64 = 0.01;

/// What is looked for; everything left out asks for nothing.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Search {
    /// Words, all of which must occur; the beginnings of words are enough.
    pub words: String,
    /// Of these kinds; all when empty.
    pub kinds: Vec<EntryKind>,
    /// In this season.
    pub season: Option<Season>,
    /// South of the equator, where the seasons are turned about.
    pub southern: bool,
    /// At this part of the day.
    pub day_time: Option<DayTime>,
    /// In this weather, word for word.
    pub weather: Option<String>,
    /// In this light, word for word.
    pub light: Option<String>,
    /// Of this subject, word for word.
    pub subject: Option<String>,
    /// In this medium.
    pub medium: Option<Medium>,
    /// On this ground, by its name.
    pub ground: Option<String>,
    /// In this scheme, in words.
    pub scheme: Option<String>,
    /// Made with this pigment.
    pub pigment: Option<PigmentId>,
    /// That came out so.
    pub outcome: Option<Outcome>,
    /// From this day on, as `2025-01-14`.
    pub from: Option<String>,
    /// Up to this day.
    pub to: Option<String>,
    /// With a colour like this.
    pub colour: Option<Lab>,
    /// Whose mean value lies within half a step of this one, 0..=10.
    pub value: Option<lean_colour::Value>,
}

impl Search {
    /// The words one by one, without what is no letter or digit.
    pub fn terms(&self) -> Vec<String> {
        self.words.split(|c: char| !c.is_alphanumeric()).filter(|t| !t.is_empty()).map(str::to_lowercase).collect()
    }
}

/// How far from a colour its like may lie in CIELAB, as [l, a, b] each way: no colour within [`ALIKE`] lies outside of this box.
///
/// CIEDE2000 divides a step of lightness by at most 1.75, and a step `d` of chroma by 1 + 0.045 (C + d/2), C the chroma of the colour; solved for
/// `d` at a difference of [`ALIKE`]. Among blues its rotation term counts a step along the slant less.
pub fn reach(of: Lab) -> [f64; 3] {
    let chroma = of.a.hypot(of.b);
    let hue = of.b.atan2(of.a).to_degrees().rem_euclid(360.0);
    let slanted = chroma > 8.0 && (210.0..340.0).contains(&hue);
    let across =
        ALIKE * (1.0 + 0.045 * chroma) / (1.0 - 0.0225 * ALIKE) * if slanted { 2.0 + (chroma - 20.0).max(0.0) / 25.0 } else { 1.1 };
    [ALIKE * 1.75, across, across]
}

#[cfg(test)]
mod tests {
    use super::*;
    use lean_colour::difference::ciede2000;

    #[test]
    fn words_are_taken_apart_at_whatever_is_no_letter() {
        let search = Search { words: "  \"weir\" OR poplars* -mist".into(), ..Search::default() };
        assert_eq!(search.terms(), ["weir", "or", "poplars", "mist"]);
    }

    #[test]
    fn nothing_alike_lies_outside_the_box_that_is_searched() {
        // What is alike hangs together, so that none of it can lie outside when none lies on the six sides of the box.
        let grid = |from: i32, to: i32, by: usize| (from..=to).step_by(by).map(f64::from);
        let along = || (-4..=4).map(|n| f64::from(n) / 4.0);
        for l in grid(5, 95, 15) {
            for a in grid(-80, 80, 16) {
                for b in grid(-80, 80, 16) {
                    let of = Lab::new(l, a, b);
                    let r = reach(of);
                    let side = |i: usize, sign: f64, u: f64, v: f64| {
                        let mut step = [0.0; 3];
                        (step[i], step[(i + 1) % 3], step[(i + 2) % 3]) = (sign, u, v);
                        Lab::new(of.l + step[0] * r[0], of.a + step[1] * r[1], of.b + step[2] * r[2])
                    };
                    let sides = (0..3).flat_map(|i| [-1.0, 1.0].map(|sign| (i, sign)));
                    let points = sides.flat_map(|(i, sign)| along().flat_map(move |u| along().map(move |v| side(i, sign, u, v))));
                    for other in points.filter(|p| (0.0..=100.0).contains(&p.l)) {
                        assert!(ciede2000(of, other) > ALIKE, "{of:?} {other:?} {}", ciede2000(of, other));
                    }
                }
            }
        }
    }
}
