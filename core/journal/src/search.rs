//! What is looked for in the journal.

use crate::entry::{EntryColour, EntryKind};
use crate::season::{DayTime, Season};
use lean_colour::Lab;
use lean_colour::difference::ciede2000;
use lean_media::{Medium, PigmentId};
use lean_piece::easel::Outcome;

/// CIEDE2000 up to which a colour counts as like the one that is looked for. A choice: plainly related, not the same.
pub const ALIKE: f64 = 9.0;
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

/// How near the nearest of some colours comes to one, CIEDE2000; `None` where none is alike.
pub fn near(wanted: Lab, colours: &[EntryColour]) -> Option<f64> {
    let large = colours.iter().filter(|c| c.share >= LEAST_SHARE);
    large.map(|c| ciede2000(c.lab, wanted)).min_by(f64::total_cmp).filter(|d| *d <= ALIKE)
}

/// How far from a colour its like may lie in CIELAB: no colour within [`ALIKE`] lies outside of this box, as [l, a, b] each way.
///
/// CIEDE2000 counts a step of lightness at least 1/1.75 (its S_L is at most 1.75) and a step of chroma at least 1/(1 + 0.045 C), C up to the
/// chroma of the colour and what it is compared with.
pub fn reach(of: Lab) -> [f64; 3] {
    let chroma = of.a.hypot(of.b);
    // Where chroma is low the a axis is stretched by up to a half, which only brings the box nearer.
    let across = ALIKE * (1.0 + 0.045 * (chroma + 30.0)) * 1.6;
    [ALIKE * 1.75, across, across]
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn words_are_taken_apart_at_whatever_is_no_letter() {
        let search = Search { words: "  \"weir\" OR poplars* -mist".into(), ..Search::default() };
        assert_eq!(search.terms(), ["weir", "or", "poplars", "mist"]);
    }

    #[test]
    fn nothing_alike_lies_outside_the_box_that_is_searched() {
        // A coarse walk over colours: what is alike must lie within reach of what is looked for.
        let grid = |from: i32, to: i32, by: usize| (from..=to).step_by(by).map(f64::from);
        for l in grid(5, 95, 15) {
            for a in grid(-60, 80, 20) {
                for b in grid(-80, 80, 20) {
                    let of = Lab::new(l, a, b);
                    let r = reach(of);
                    for (i, d) in [(0, r[0]), (1, r[1]), (2, r[2])] {
                        for sign in [-1.0, 1.0] {
                            let mut at = [of.l, of.a, of.b];
                            at[i] += sign * d;
                            if at[0] < 0.0 || at[0] > 100.0 {
                                continue;
                            }
                            let other = Lab::new(at[0], at[1], at[2]);
                            assert!(ciede2000(of, other) > ALIKE, "{of:?} {other:?} {}", ciede2000(of, other));
                        }
                    }
                }
            }
        }
    }

    #[test]
    fn a_colour_that_is_hardly_there_is_not_found() {
        let grey_violet = Lab::new(50.0, 6.0, -10.0);
        let with = |share| vec![EntryColour { lab: grey_violet, share }];
        assert_eq!(near(grey_violet, &with(0.2)), Some(0.0));
        assert_eq!(near(grey_violet, &with(0.002)), None);
        assert_eq!(near(Lab::new(80.0, -30.0, 40.0), &with(0.2)), None);
    }
}
