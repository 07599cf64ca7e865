//! A shade of a plan, with the zone it is laid in.

use super::cells::EvenColour;
use super::runs::Run;
use serde::{Deserialize, Serialize};

/// A shade and the zone it is laid in.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
pub struct Laid {
    /// Its look; of a run, the mean.
    pub look: EvenColour,
    /// The smooth run it is.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub run: Option<Run>,
    /// What it weighs when colours are joined.
    pub weight: f32,
    /// The zone.
    pub zone: u16,
    /// A cell of the mass it belongs to, column and row; `None` where it lies wherever its look is found.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub within: Option<(u16, u16)>,
}

impl Laid {
    pub(super) fn at(&self, (x, y): (f32, f32)) -> EvenColour {
        self.run.as_ref().map_or(self.look, |r| r.at(x, y))
    }
}
