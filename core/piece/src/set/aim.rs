//! What the search for a piece aims at, and how its mixes are made.

use crate::zones::ZoneId;
use lean_colour::Steps;
use lean_media::Medium;
use lean_recipes::cost::Ranking;
use lean_recipes::{Cost, Grain};
use serde::{Deserialize, Serialize};

/// What counts when a mix is matched with its target.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Matching {
    /// A step of value weighs more than any hue.
    #[default]
    ValueFirst,
    /// The whole difference, value no more than the rest.
    Strict,
    /// Values, and warm or cool; the hue is free.
    ValuesOnly,
}

crate::worded! {
    Matching { ValueFirst: "value first", Strict: "all differences equally", ValuesOnly: "value and temperature only" }
}

/// Another piece the same set should serve.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Companion {
    /// Its number.
    pub piece: i64,
    /// How much it counts; this piece counts 1.
    #[cfg_attr(feature = "schema", schema(minimum = 0, maximum = 10))]
    pub weight: f64,
}

/// Most other pieces one set serves.
pub const MOST_COMPANIONS: usize = 4;

/// What the search aims at.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Aim {
    /// What counts.
    pub matching: Matching,
    /// Charge per step of value against a colour difference of 1.
    #[cfg_attr(feature = "schema", schema(minimum = 0, maximum = 100))]
    pub value_weight: f64,
    /// Whether misses too small to be seen cost nothing.
    pub good_enough: bool,
    /// Largest set searched for.
    #[cfg_attr(feature = "schema", schema(minimum = 1, maximum = 24))]
    pub largest: u8,
    /// Steps of value a second layer is charged as: little for few sticks in many layers, much for more sticks laid once. Without it, what is usual
    /// in the medium.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(minimum = 0, maximum = 2))]
    pub layer: Option<f64>,
    /// Other pieces to serve.
    pub also_for: Vec<Companion>,
}

impl Aim {
    /// Aim in a medium unless the painter says otherwise: a dozen of what is chosen rather than mixed, six of what is mixed.
    pub fn usual(medium: Medium) -> Self {
        Self { largest: if medium.is_chosen() { 12 } else { 6 }, ..Self::default() }
    }
}

impl Default for Aim {
    fn default() -> Self {
        Self {
            matching: Matching::ValueFirst,
            value_weight: Cost::default().value_weight,
            good_enough: false,
            largest: 6,
            layer: None,
            also_for: Vec::new(),
        }
    }
}

/// How mixes are made from the set in use.
#[derive(Clone, Debug, Default, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Mixing {
    /// Up to sixteen parts, or a touch of one more pigment.
    pub finer: bool,
    /// Recipes that share pigments where nobody sees the loss.
    pub kin: bool,
    /// Whole parts alone, eight at most: nothing is let down first, and recipes are ranked by their miss alone.
    #[serde(default)]
    pub parts: bool,
    /// Recipes ranked by their miss alone, however unsure a hand is of them.
    #[serde(default)]
    pub by_miss: bool,
    /// Zones mixed by the simpler recipe.
    #[serde(default)]
    pub simple: Vec<ZoneId>,
}

impl Mixing {
    /// How parts of wet mixes are measured.
    pub fn grain(&self) -> Grain {
        match self {
            Self { finer: true, .. } => Grain::Finer,
            Self { parts: true, .. } => Grain::Parts,
            _ => Grain::LetDowns,
        }
    }

    /// Charges besides the miss in a medium, with a second layer charged as so many steps of value. Whole parts are ranked by the miss alone; in
    /// layers there is no such choice.
    pub(crate) fn ranking(&self, medium: Medium, layer: Option<f64>) -> Ranking {
        let in_parts = medium.is_wet_opaque() && (self.parts || self.finer);
        if self.by_miss || in_parts {
            return Ranking::MISS;
        }
        layer.filter(|_| medium.is_chosen()).map_or_else(|| Ranking::usual(medium), |steps| Ranking::layered(Steps(steps)))
    }
}
