//! What a piece is made from besides its main reference.

use lean_colour::Lab;
use lean_picture::frame::Crop;
use lean_picture::spot::Spot;
use serde::{Deserialize, Serialize};

/// What a reference is used for.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Serves {
    /// Its light and shadow.
    Light,
    /// Its shapes.
    Drawing,
    /// Its colours.
    Colour,
    /// Its detail.
    Detail,
}

/// Most references beside the main one.
pub const MOST_OTHERS: usize = 12;

/// Another reference.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Other {
    /// SHA-256 of the file.
    pub digest: String,
    /// Name it was dropped under.
    pub file_name: String,
    /// Pixels across.
    pub width: u32,
    /// Pixels down.
    pub height: u32,
    /// What it is used for.
    pub serves: Vec<Serves>,
}

/// One pencil composition on a sheet.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Composition {
    /// Where it is on the sheet.
    pub part: Crop,
    /// Why it goes on, or why not.
    pub reason: String,
}

/// A photographed sheet of pencil compositions.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Compositions {
    /// SHA-256 of the photo.
    pub digest: String,
    /// Name it was dropped under.
    pub file_name: String,
    /// Pixels across.
    pub width: u32,
    /// Pixels down.
    pub height: u32,
    /// The compositions, numbered from 1 in reading order.
    pub cut: Vec<Composition>,
    /// The one that goes on, from 0.
    pub chosen: Option<usize>,
}

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

/// A plane dragged into place: its rectangle; a slanted one rises to its middle, a figure is rounded.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct PlaneShape {
    /// What it is.
    pub kind: PlaneKind,
    /// Where it is.
    pub part: Crop,
}

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
