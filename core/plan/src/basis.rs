//! The fingerprint of what a search or study was made from.

use lean_piece::Piece;
use lean_piece::paint_box::PaintBox;
use sha2::{Digest, Sha256};

/// Fingerprint of what a search or study depends on: the first half of a SHA-256.
pub fn basis(piece: &Piece, paint_box: Option<&PaintBox>) -> String {
    let zones: Vec<_> = piece.zones.iter().map(|z| (z.id, piece.wanted(z), z.importance, z.reading.area)).collect();
    let pigments: Vec<_> = paint_box.map(|b| b.pigments.iter().map(|p| (&p.id, &p.k, &p.s, p.white)).collect()).unwrap_or_default();
    let asked = (
        &piece.locked,
        &piece.excluded,
        &piece.asked(),
        piece.matching(),
        piece.intent.games.most_pigments,
        &piece.wished,
        &piece.aim,
        (piece.mixing.parts, piece.mixing.by_miss),
        &piece.brief.medium,
        &piece.brief.ground,
    );
    // Numbers and names always have a form; what had none would tell itself apart by its error.
    let text = serde_json::to_string(&(zones, asked, pigments)).unwrap_or_else(|e| e.to_string());
    Sha256::digest(text)[..16].iter().map(|b| format!("{b:02x}")).collect()
}
