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
