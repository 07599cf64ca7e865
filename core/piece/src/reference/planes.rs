//! Planes dragged into place where there is no reference.

use lean_picture::frame::Crop;
use serde::{Deserialize, Serialize};

/// What a plane dragged into place is.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum PlaneKind {
    /// The sky.
    Sky,
    /// Ground or table.
    Flat,
    /// A roof or hill.
    Slanted,
    /// A wall or a row of trees.
    Upright,
    /// An upright shape for a figure.
    Figure,
}

crate::worded! { PlaneKind { Sky: "sky", Flat: "flat", Slanted: "slanted", Upright: "upright", Figure: "a figure" } }

/// A plane dragged into place: its rectangle; a slanted one rises to its middle, a figure is rounded.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct PlaneShape {
    /// What it is.
    pub kind: PlaneKind,
    /// Where it is.
    pub part: Crop,
}
