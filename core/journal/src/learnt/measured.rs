//! What takes a moment to measure of a finished piece: its photo against its plan, and where the time went.

use lean_colour::Value;
use lean_picture::Picture;
use lean_piece::Piece;
use lean_piece::easel::ProgressPhoto;
use lean_piece::paint_box::PaintBox;
use lean_plan::progress::compared;
use lean_plan::stages::spent::{StageTime, spent};
use serde::{Deserialize, Serialize};

/// A value as it was planned and as it came.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Came {
    /// As it should have been.
    pub planned: Value,
    /// As it came out.
    pub came: Value,
}

/// What was measured of a piece.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Measured {
    /// Every zone that could be judged.
    pub values: Vec<Came>,
    /// Every stage that was timed.
    pub stages: Vec<StageTime>,
}

/// Measures a piece, with its last photo where there is one. A photo that cannot be laid over the plan teaches nothing.
pub fn measured(piece: &Piece, paint_box: &PaintBox, photo: Option<(&Picture, &ProgressPhoto)>) -> Measured {
    let seen = photo.and_then(|(picture, about)| compared(piece, paint_box, picture, about).ok());
    let values = seen.map(|p| p.zones.iter().map(|z| Came { planned: z.wanted.value, came: z.read.value }).collect());
    Measured { values: values.unwrap_or_default(), stages: spent(piece, paint_box) }
}
