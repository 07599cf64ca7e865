//! Pigments that the search leaves out because too little is left of them, and why.

use crate::wording::capital;
use lean_media::PigmentId;
use lean_piece::Piece;
use lean_piece::nearly_finished::{NearlyFinished, nearly_finished};
use lean_piece::paint_box::PaintBox;
use serde::Serialize;

/// A pigment the search leaves out because little is left of it.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct TooLittle {
    /// The pigment.
    pub pigment: PigmentId,
    /// Why, in a sentence.
    pub why: String,
}

/// Pigments that are nearly finished and would go to a large zone.
pub fn too_little(piece: &Piece, paint_box: &PaintBox) -> Vec<TooLittle> {
    let why = |n: NearlyFinished| {
        let area = piece.zone(n.zone).map_or(0.0, |z| z.reading.area * 100.0);
        let name = capital(&paint_box.name_of(&n.pigment));
        let zone = piece.zone_label(n.zone);
        TooLittle {
            pigment: n.pigment,
            why: format!(
                "{name} is nearly finished, and {zone} takes {area:.0} % of the picture: it is left out of the search unless locked."
            ),
        }
    };
    nearly_finished(piece, paint_box).into_iter().map(why).collect()
}
