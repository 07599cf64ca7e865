//! Pigments that are nearly finished, and what is too large for what is left of them.

use super::Piece;
use crate::paint_box::PaintBox;
use crate::zones::ZoneId;
use lean_media::swatch::swatch;
use lean_media::{Pigment, PigmentId};
use lean_recipes::cost::apart;

/// A pigment that is left out of the search because little of it is left.
#[derive(Clone, Debug, PartialEq)]
pub struct NearlyFinished {
    /// The pigment.
    pub pigment: PigmentId,
    /// The largest zone whose colour it is nearest to.
    pub zone: ZoneId,
}

/// Share left, up to which a pigment is nearly finished. A choice.
const LITTLE: f64 = 0.15;
/// Share of the picture from which a zone is a large area. A choice.
const LARGE: f64 = 0.05;

/// Pigments of which little is left while a large zone of the piece is nearer to them than to anything else that is searched. A locked pigment is
/// never among them: the painter has decided.
pub fn nearly_finished(piece: &Piece, paint_box: &PaintBox) -> Vec<NearlyFinished> {
    let is_low = |p: &Pigment| p.owned.left.is_some_and(|left| left <= LITTLE);
    let searched: Vec<&Pigment> = paint_box.searched().iter().filter(|p| !p.white && !piece.excluded.contains(&p.id)).collect();
    if !searched.iter().any(|p| is_low(p) && !piece.locked.contains(&p.id)) {
        return Vec::new();
    }
    let ground = piece.ground();
    let looks: Vec<_> = searched.iter().map(|p| swatch(piece.brief.medium, &ground, p)).collect();
    let mut large: Vec<_> = piece.zones.iter().filter(|z| z.reading.area >= LARGE).collect();
    large.sort_by(|a, b| b.reading.area.total_cmp(&a.reading.area));
    let mut found: Vec<NearlyFinished> = Vec::new();
    for zone in large {
        let wanted = piece.wanted(zone);
        let nearest = (0..looks.len()).min_by(|a, b| apart(looks[*a], wanted).total_cmp(&apart(looks[*b], wanted)));
        let Some(p) = nearest.map(|i| searched[i]) else { continue };
        if is_low(p) && !piece.locked.contains(&p.id) && found.iter().all(|f| f.pigment != p.id) {
            found.push(NearlyFinished { pigment: p.id.clone(), zone: zone.id });
        }
    }
    found
}
