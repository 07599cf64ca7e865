//! Questions for the search, briefly.

use lean_colour::Lab;
use lean_media::{Medium, Pigment, PigmentId, Provenance, ground, library};
use lean_recipes::{Cost, Target};
use lean_search::progress::Unwatched;
use lean_search::{Ask, Choice, Need, NoAnswer, SetFound, Tables, search};
use std::ops::RangeInclusive;

pub(crate) fn pigment(id: &str, k: Vec<f64>, s: Vec<f64>, white: bool) -> Pigment {
    Pigment {
        id: id.into(),
        name: id.into(),
        colour_index: vec![],
        k,
        s,
        white,
        lightfastness: String::new(),
        hazard: String::new(),
        staining: false,
        granulating: false,
        provenance: Provenance::Given,
        model: None,
        doubt: None,
        owned: lean_media::pigment::Owned::default(),
        second: None,
    }
}

pub(crate) fn shipped(ids: &[&str]) -> Vec<Pigment> {
    ids.iter().map(|id| library::find(id).unwrap_or_else(|| panic!("{id} is not shipped")).clone()).collect()
}

pub(crate) fn ids(of: &[&str]) -> Vec<PigmentId> {
    of.iter().map(|i| PigmentId::from(*i)).collect()
}

pub(crate) fn need(medium: Medium, targets: Vec<Target>) -> Need {
    Need { ground: ground::usual(medium), targets, cost: Cost::default(), weight: 1.0 }
}

/// Nine targets all round.
pub(crate) fn some_targets() -> Vec<Target> {
    (0..9)
        .map(|i| Target { lab: Lab::from_lch(20.0 + 8.0 * f64::from(i), 6.0 + 4.0 * f64::from(i), 47.0 * f64::from(i)), weight: 1.0 })
        .collect()
}

/// The answer for one piece in oil.
pub(crate) fn in_oil(
    pigments: &[Pigment],
    targets: &[Target],
    choice: &Choice,
    sizes: RangeInclusive<usize>,
) -> Result<Vec<SetFound>, NoAnswer> {
    let needs = [need(Medium::Oil, targets.to_vec())];
    search(&Ask { pigments, medium: Medium::Oil, needs: &needs, choice, sizes }, &Tables::default(), &Unwatched, &|_| {})
}
