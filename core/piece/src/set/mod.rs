//! The lean set: what is asked of the search, what it found, and the set in use.

pub(crate) mod aim;

use crate::zones::ZoneId;
use lean_media::PigmentId;
use lean_search::SetFound;
use serde::{Deserialize, Serialize};

/// Result of the last search with what it was based on.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct SearchKept {
    /// Fingerprint of zones, locks and Box at the time; when it differs from today's, the curve is out of date.
    pub basis: String,
    /// The zones the recipes belong to, in order; a graded zone once more for each further stop.
    pub zones: Vec<ZoneId>,
    /// Best set of each size, smallest first.
    pub sizes: Vec<SetFound>,
}

/// The lean set in use.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ChosenSet {
    /// Pigments, white not counted.
    pub pigments: Vec<PigmentId>,
}
