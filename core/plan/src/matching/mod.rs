//! Matching one colour: which of mine is this, and how do I mix it.

mod by_hand;
mod mixed;

pub use by_hand::{CellByHand, by_hand, sheet_of_chart};
pub use mixed::{Mixed, mixed};

use crate::mark::Mark;
use crate::mixes::swatch;
use crate::paints::families::family_name;
use crate::wording::Difference;
use lean_colour::{HueAngle, Lab, Temperature};
use lean_media::{Ground, Medium, Pigment, PigmentId};
use lean_recipes::cost::apart;
use lean_search::demands::HUELESS;
use serde::Serialize;

/// One of the painter's own that is near a wanted colour.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Near {
    /// The pigment.
    pub pigment: PigmentId,
    /// The painter's name for it.
    pub name: String,
    /// Its colour on this ground.
    pub mark: Mark,
    /// Distance from the wanted colour: twenty a step of value, plus CIEDE2000.
    pub apart: f64,
    /// The difference in words.
    pub off: String,
}

/// The pigments nearest to a wanted colour.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Nearest {
    /// The wanted colour.
    pub wanted: Mark,
    /// The nearest, nearest first; at most five.
    pub near: Vec<Near>,
    /// The next lighter of the family of the nearest.
    pub lighter: Option<Near>,
    /// The next darker of the family of the nearest.
    pub darker: Option<Near>,
}

/// Number of pigments listed.
const TOLD: usize = 5;
/// Steps of value by which a relative is lighter or darker at least. A choice.
const STEP: f64 = 0.4;
/// Degrees of hue within which two colours are relatives, and the chroma below which hue says nothing.
const RELATED: f64 = 25.0;
/// Degrees of hue that count as much as a step of value when the next relative is chosen. A choice.
const TURN: f64 = 10.0;

/// The pigment that is nearest to a wanted colour as they are usually laid on this ground.
pub fn nearest(wanted: Lab, owned: &[Pigment], medium: Medium, ground: &Ground) -> Nearest {
    let looks: Vec<(&Pigment, Lab)> = owned.iter().filter(|p| !p.owned.used_up).map(|p| (p, swatch(medium, ground, p))).collect();
    let mut sorted: Vec<(f64, usize)> = looks.iter().enumerate().map(|(i, (_, lab))| (apart(*lab, wanted), i)).collect();
    sorted.sort_by(|a, b| a.0.total_cmp(&b.0).then(a.1.cmp(&b.1)));
    let near = |i: usize| {
        let (pigment, lab) = looks[i];
        Near {
            pigment: pigment.id.clone(),
            name: pigment.name.clone(),
            mark: Mark::of(lab, Temperature(0.0)),
            apart: apart(lab, wanted),
            off: Difference::of(wanted, lab).words,
        }
    };
    let of = sorted.first().map(|(_, i)| *i);
    let relative = |way: f64| {
        let own = looks[of?].1;
        let steps = |lab: Lab| way * (lab.value().0 - own.value().0);
        let all = (0..looks.len()).filter(|i| steps(looks[*i].1) >= STEP && related(own, looks[*i].1));
        let far = |i: usize| steps(looks[i].1) + turned(own, looks[i].1) / TURN;
        all.min_by(|a, b| far(*a).total_cmp(&far(*b))).map(near)
    };
    Nearest {
        wanted: Mark::of(wanted, Temperature(0.0)),
        near: sorted.iter().take(TOLD).map(|(_, i)| near(*i)).collect(),
        lighter: relative(1.0),
        darker: relative(-1.0),
    }
}

/// Degrees of hue between two colours; none between greys, whose hue says nothing.
fn turned(one: Lab, other: Lab) -> f64 {
    let HueAngle(a) = one.hue();
    let HueAngle(b) = other.hue();
    if one.chroma().min(other.chroma()) < HUELESS { 0.0 } else { ((a - b + 540.0).rem_euclid(360.0) - 180.0).abs() }
}

/// True where two colours are of one family: of nearly one hue, or greys that lean the same way.
fn related(one: Lab, other: Lab) -> bool {
    match (one.chroma() >= HUELESS, other.chroma() >= HUELESS) {
        (true, true) => turned(one, other) <= RELATED,
        (false, false) => family_name(one) == family_name(other),
        _ => false,
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::paints::starter::starter;
    use lean_media::ground;

    #[test]
    fn a_stick_is_found_by_its_own_colour_with_its_relatives() {
        let (medium, paper) = (Medium::SoftPastel, ground::usual(Medium::SoftPastel));
        let owned = starter(medium, 60).pigments;
        for wanted in owned.iter().filter(|p| !p.white) {
            let own = swatch(medium, &paper, wanted);
            let found = nearest(own, &owned, medium, &paper);
            assert_eq!(found.near[0].pigment, wanted.id);
            assert_eq!(found.near[0].off, "Matches.");
            assert!(found.near.len() == 5 && found.near.windows(2).all(|w| w[0].apart <= w[1].apart));
            let related = |n: &Near| related(own, n.mark.lab);
            assert!(found.lighter.iter().all(|l| related(l) && l.mark.value.0 >= own.value().0 + STEP));
            assert!(found.darker.iter().all(|d| related(d) && d.mark.value.0 <= own.value().0 - STEP));
        }
        let blue = owned.iter().find(|p| p.name == "blue").unwrap();
        let found = nearest(swatch(medium, &paper, blue), &owned, medium, &paper);
        assert!(found.lighter.is_some() && found.darker.is_some(), "a blue of a Box of sixty has relatives");
    }

    #[test]
    fn what_is_used_up_is_not_proposed_and_an_empty_box_has_nothing() {
        let (medium, paper) = (Medium::Marker, ground::usual(Medium::Marker));
        let mut owned = starter(medium, 12).pigments;
        owned[3].owned.used_up = true;
        let found = nearest(swatch(medium, &paper, &owned[3]), &owned, medium, &paper);
        assert!(found.near.iter().all(|n| n.pigment != owned[3].id));
        let none = nearest(Lab::new(50.0, 0.0, 0.0), &[], medium, &paper);
        assert!(none.near.is_empty() && none.lighter.is_none());
    }
}
