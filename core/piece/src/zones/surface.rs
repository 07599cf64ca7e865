//! Several mixes that one zone is laid in, side by side.

use crate::units::Millimetres;
use lean_media::PigmentId;
use lean_recipes::Mix;
use serde::{Deserialize, Serialize};

/// Manner in which several mixes share a zone.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Worked {
    /// Every place of the zone has a mix of its own, of one value with the others.
    Siblings,
    /// Relatives drift across it, one rules.
    Variation,
    /// Dabs that fuse from afar.
    Broken,
}

crate::worded! { Worked { Siblings: "siblings", Variation: "variation inside it", Broken: "broken colour" } }

/// One of the mixes.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct SurfaceMix {
    /// The recipe and its colour.
    pub mix: Mix,
    /// Share of the zone, 0..=1.
    pub share: f64,
}

/// Several mixes in one zone.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Surface {
    /// Manner in which they share it.
    pub worked: Worked,
    /// The mixes, those with most of it first.
    pub mixes: Vec<SurfaceMix>,
    /// Width of a dab, or of what one relative covers before the next.
    pub dab: Millimetres,
    /// The set it is mixed of.
    pub set: Vec<PigmentId>,
}

impl Surface {
    /// True where it is mixed of this set; of another it waits until that is in use again.
    pub fn is_of(&self, set: &[PigmentId]) -> bool {
        self.set.len() == set.len() && self.set.iter().all(|id| set.contains(id))
    }
}
