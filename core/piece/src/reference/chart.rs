//! The distinct colours of a picture, and those another piece wishes for.

use lean_colour::Lab;
use lean_picture::spot::Spot;
use serde::{Deserialize, Serialize};

/// One colour of a picture.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ChartCell {
    /// The colour.
    pub lab: Lab,
    /// Share of the picture.
    pub area: f64,
    /// A place where it is found.
    pub place: Spot,
    /// Row in the grid, from the lightest.
    pub row: u16,
    /// Column in the grid, from the coolest.
    pub column: u16,
}

/// The distinct colours of a picture.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Chart {
    /// Cells, lightest row first, coolest column first.
    pub cells: Vec<ChartCell>,
}

/// A colour and its share of a picture.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct WishedColour {
    /// The colour.
    pub lab: Lab,
    /// Its share.
    pub area: f64,
}

/// Colours of another picture that a lean set should serve too.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Wished {
    /// What they were taken from.
    pub from: String,
    /// The colours.
    pub colours: Vec<WishedColour>,
    /// How much they count together; the zones of this piece count 1.
    #[cfg_attr(feature = "schema", schema(minimum = 0, maximum = 10))]
    pub weight: f64,
}
