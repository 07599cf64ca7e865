//! A photographed sheet of pencil compositions.

use lean_picture::frame::Crop;
use serde::{Deserialize, Serialize};

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
