//! A spot in a picture.

use serde::{Deserialize, Serialize};

/// A spot of the picture: 0..=1 across and down.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Spot {
    /// Share of the width from the left edge.
    #[cfg_attr(feature = "schema", schema(minimum = 0, maximum = 1))]
    pub x: f64,
    /// Share of the height from the top edge.
    #[cfg_attr(feature = "schema", schema(minimum = 0, maximum = 1))]
    pub y: f64,
}

impl Spot {
    /// The spot itself, if it lies on the picture.
    ///
    /// # Errors
    /// When it lies beside it, says where.
    pub fn checked(self) -> Result<Self, String> {
        let on = |share: f64| (0.0..=1.0).contains(&share);
        if on(self.x) && on(self.y) {
            return Ok(self);
        }
        Err(format!("a point lies at {}, {}, outside the picture: both may be 0 to 1. Put it on the picture", self.x, self.y))
    }
}
