//! What a hand can mix or lay, medium by medium, and what a miss costs.
//!
//! A [`Technique`] lists the recipes of a medium on a ground; a [`Mix`] is one of them with the colour it gives; a [`Cost`](cost::Cost) says what it
//! is worth for a colour that is wanted. The optics are those of [`lean_media`].
//!
//! ```
//! use lean_media::{Medium, ground, library};
//! use lean_recipes::{Grain, Limits, technique};
//!
//! let (blue, white) = (library::find("PB29").expect("shipped"), library::find("PW6"));
//! let oils = technique(Medium::Oil, &ground::usual(Medium::Oil), &[blue], white, Limits::default(), Grain::Parts);
//! // Alone and let down with white, in parts a hand can measure.
//! let listed = oils.listed(&[0]);
//! let mixes: Vec<_> = listed.colours().into_iter().enumerate().map(|(nth, lab)| listed.mix(nth, lab)).collect();
//! assert!(mixes.iter().any(|m| m.parts.len() == 1) && mixes.iter().any(|m| m.parts.len() == 2));
//! ```
#![deny(missing_docs)]

mod amount_names;
pub mod cost;
pub mod hand;
pub mod laid;
mod mix;
pub mod technique;
pub mod telling;
pub mod wet;

mod layered;
mod over;

pub use amount_names::amounts;
pub use cost::{Cost, Target};
pub use layered::{Layered, mix_layers};
pub use mix::{Heap, Mix, MixLayer, Part};
pub use over::Over;
pub use technique::Technique;
pub use wet::{Grain, Wet};

use crate::technique::MOST_IN_RECIPE;
use lean_media::{Ground, Medium, Pigment, Second};

/// What a mix may be.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Limits {
    /// Most pigments in one mix, 1..=3.
    pub most_pigments: usize,
    /// Most layers in one mix, 1..=5.
    pub most_layers: usize,
    /// A pigment (by number) that must be in every mix with at least this share.
    pub mother: Option<(usize, f64)>,
    /// Whether layers may be laid as a practitioner of the medium usually does not: light over dark, lifted, blended, three pens or sticks.
    pub unusual: bool,
}

impl Default for Limits {
    fn default() -> Self {
        Self { most_pigments: MOST_IN_RECIPE, most_layers: lean_media::forms::MOST_LAYERS, mother: None, unusual: false }
    }
}

impl Limits {
    /// The place of the mother colour in a group, and its least share. `Err` when the group lacks a mother colour that it must have.
    fn mother_in(&self, group: &[usize]) -> Result<Option<(usize, f64)>, MotherMissing> {
        match self.mother {
            None => Ok(None),
            Some((mother, share)) => group.iter().position(|p| *p == mother).map(|place| Some((place, share))).ok_or(MotherMissing),
        }
    }
}

struct MotherMissing;

/// Numbers of lists kept by place of the mother colour: none, or one of three.
const PLACES: usize = MOST_IN_RECIPE + 1;

fn at_place(mother: Option<(usize, f64)>) -> usize {
    mother.map_or(0, |(place, _)| place + 1)
}

/// The technique of a medium: recipes of `pigments` on `ground`; pigments of a second medium lie over the others. `white` is free in wet mixes; elsewhere it is `None`, and a white is one of `pigments`.
pub fn technique(
    medium: Medium,
    ground: &Ground,
    pigments: &[&Pigment],
    white: Option<&Pigment>,
    limits: Limits,
    grain: Grain,
) -> Box<dyn Technique + Send> {
    let over = pigments.iter().any(|p| p.second.is_some_and(Second::lies_over));
    if over && let Some(over) = Over::of(medium, ground, pigments, limits) {
        return Box::new(over);
    }
    match Layered::of(medium, ground, pigments, limits) {
        Some(layered) => Box::new(layered),
        None => Box::new(Wet::of(pigments, white, limits, grain)),
    }
}
