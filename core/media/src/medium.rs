//! The five media a piece can be made in.

use serde::{Deserialize, Serialize};

/// What a pigment is bound in. A Box and a piece each have one.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Medium {
    /// Sticks of pigment and chalk.
    SoftPastel,
    /// Oil paint.
    Oil,
}

impl Medium {
    /// The word on the screen.
    pub fn name(self) -> &'static str {
        match self {
            Self::SoftPastel => "soft pastel",
            Self::Oil => "oil",
        }
    }

    /// What one piece of a Box is called in this medium.
    pub fn unit(self) -> &'static str {
        match self {
            Self::SoftPastel => "stick",
            Self::Oil => "tube",
        }
    }

    /// Whether colours are computed with the model of another medium for now (the wet opaque one).
    pub fn stands_in(self) -> bool {
        self != Self::Oil
    }
}
