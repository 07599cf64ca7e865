//! The fingerprint of what a search or study was made from.

use lean_piece::Piece;
use lean_piece::paint_box::PaintBox;

/// Fingerprint of what a search or study depends on (FNV-1a, 64 bits).
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
    let text = serde_json::to_string(&(zones, asked, pigments)).unwrap_or_default();
    let hash = text.bytes().fold(0xcbf2_9ce4_8422_2325u64, |h, b| (h ^ u64::from(b)).wrapping_mul(0x0100_0000_01b3));
    format!("{hash:016x}")
}
