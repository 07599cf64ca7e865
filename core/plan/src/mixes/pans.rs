//! How thin each pan is made for washes of equal strength.

use lean_media::forms::{THICKEST_WASH, deepest_wash};
use lean_media::{Pigment, PigmentId};
use serde::Serialize;

/// One pan of the set.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Pan {
    /// Which pigment.
    pub pigment: PigmentId,
    /// Parts of water to one of paint for its deepest wash.
    pub water: f64,
    /// The same in words: "as it comes", "1 to 7 of water".
    pub words: String,
}

/// Parts of water below which paint is taken as it comes. A choice.
const HARDLY_ANY: f64 = 0.5;

/// How thin the deepest wash of each pigment is made, strongest first: all look about equally strong then, and parts in a recipe are parts of
/// these washes.
pub fn pans(set: &[&Pigment]) -> Vec<Pan> {
    let pan = |p: &&Pigment| {
        let water = THICKEST_WASH / deepest_wash(p) - 1.0;
        let words = if water < HARDLY_ANY { "as it comes".into() } else { format!("1 to {:.0} of water", water.round().max(1.0)) };
        Pan { pigment: p.id.clone(), water, words }
    };
    let mut all: Vec<Pan> = set.iter().map(pan).collect();
    all.sort_by(|a, b| b.water.total_cmp(&a.water));
    all
}

#[cfg(test)]
mod tests {
    use super::*;
    use lean_media::library;

    #[test]
    fn strong_pans_are_thinned_and_weak_ones_are_not() {
        let set: Vec<&Pigment> = ["PG23", "PV23", "PB15:3"].iter().filter_map(|id| library::find(id)).collect();
        let told = pans(&set);
        assert_eq!(told[0].pigment.0, "PV23");
        assert!(told[0].water > 5.0 && told[0].words.ends_with("of water"), "{told:?}");
        assert_eq!(told[2].words, "as it comes", "{told:?}");
    }
}
