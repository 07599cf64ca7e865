//! What there is to do at the easel, by name.

use crate::zones::ZoneId;
use jiff::civil::DateTime;
use serde::{Deserialize, Serialize};

/// A stage of carrying out a piece, first to last.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Stage {
    /// The ground is toned.
    GroundTone,
    /// The preliminary drawing.
    Drawing,
    /// The value lay-in.
    LayIn,
    /// Big shapes with a large brush.
    BigShapes,
    /// Parts with a smaller one.
    Parts,
    /// Accents.
    Accents,
    /// Lights.
    Lights,
    /// The unifying glaze.
    Glaze,
    /// Fixative or varnish.
    Guard,
}

impl Stage {
    /// All of them, in their order.
    pub const ALL: [Self; 9] =
        [Self::GroundTone, Self::Drawing, Self::LayIn, Self::BigShapes, Self::Parts, Self::Accents, Self::Lights, Self::Glaze, Self::Guard];
}

/// One thing to do: a layer of a zone in its stage, or something done to all of the sheet.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct TaskId {
    /// In which stage.
    pub stage: Stage,
    /// Which zone; none for the whole sheet.
    pub zone: Option<ZoneId>,
    /// Which layer of it, from 0.
    pub layer: u8,
}

impl TaskId {
    /// Something done to all of the sheet.
    pub const fn whole(stage: Stage) -> Self {
        Self { stage, zone: None, layer: 0 }
    }
}

/// The painter wants one thing done before another.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Order {
    /// The first.
    pub task: TaskId,
    /// The other.
    pub before: TaskId,
}

/// Something that is done.
#[derive(Clone, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Done {
    /// What.
    pub task: TaskId,
    /// When, in local time as `2025-01-18T19:40`; none when nobody knows any more.
    pub at: Option<String>,
}

impl Done {
    /// When, as a time; none when nobody knows any more.
    pub fn time(&self) -> Option<DateTime> {
        self.at.as_ref().and_then(|t| t.parse().ok())
    }

    pub(super) fn check(&self) -> Result<(), String> {
        match &self.at {
            Some(t) if self.time().is_none() => Err(format!("\"{t}\" is no time. Write it as 2025-01-18T19:40.")),
            _ => Ok(()),
        }
    }
}
