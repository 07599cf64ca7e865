//! Parts of a whole.

use serde::{Deserialize, Serialize};

/// A part of a whole, 0..=1: of an area, of a way, of a side of the picture.
#[derive(Clone, Copy, Debug, Default, PartialEq, PartialOrd, Serialize, Deserialize)]
#[serde(transparent)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Share(pub f64);

impl Share {
    /// Nothing of it.
    pub const NONE: Self = Self(0.0);
    /// All of it.
    pub const ALL: Self = Self(1.0);

    /// What is left of the whole.
    pub fn rest(self) -> Self {
        Self(1.0 - self.0)
    }
}
