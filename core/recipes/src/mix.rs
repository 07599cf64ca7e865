//! A recipe with the colour it gives.

use lean_colour::Lab;
use lean_media::PigmentId;
use serde::{Deserialize, Serialize};

/// Some of one pigment.
#[derive(Clone, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Part {
    /// Which pigment.
    pub pigment: PigmentId,
    /// Whole parts in a wet mix. In layers how much in all: coats, pressure or mass from 1 light to 3, parts of a wash times its strength.
    pub parts: u8,
    /// Only a touch: one part to twenty-four of all the rest.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub touch: bool,
}

/// One layer of a mix that is laid in layers.
#[derive(Clone, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct MixLayer {
    /// What it is of; several only where a wash is mixed.
    pub of: Vec<Part>,
    /// How it is laid, in a few words: `middle wash`, `two coats`, `firm`, `full, rubbed in`.
    pub how: String,
}

/// A recipe and the colour it gives on its ground.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Mix {
    /// What goes in, most first.
    pub parts: Vec<Part>,
    /// Layers, first laid first; empty for a wet mix laid opaque and for bare ground.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub layers: Vec<MixLayer>,
    /// Its colour under daylight.
    pub lab: Lab,
}

impl Mix {
    /// Share of one pigment in all that goes in, 0..=1.
    pub fn share_of(&self, pigment: &PigmentId) -> f64 {
        let whole: f64 = self.parts.iter().filter(|p| !p.touch).map(|p| f64::from(p.parts)).sum();
        let amount = |p: &Part| if p.touch { whole / crate::wet::parts::TOUCH } else { f64::from(p.parts) };
        let all: f64 = self.parts.iter().map(amount).sum();
        self.parts.iter().find(|p| p.pigment == *pigment).map_or(0.0, |p| amount(p) / all)
    }

    /// Whether nothing is laid: the ground stays bare.
    pub fn is_bare_ground(&self) -> bool {
        self.parts.is_empty()
    }
}
