//! Where the hand would lie on dry pigment that comes off.

use crate::stages::tasks::Task;
use lean_media::Medium;
use lean_piece::{Piece, ZoneId};

/// How far below and beside its work a hand lies, as shares of the picture. Choices.
const BELOW: (f64, f64) = (0.02, 0.4);
const BESIDE: f64 = 0.4;

/// What a task would smudge and how to guard it, in a sentence; empty where nothing is at risk.
pub(crate) fn smudges(piece: &Piece, task: &Task) -> String {
    if !matches!(piece.brief.medium, Medium::SoftPastel | Medium::Pencil) || piece.easel.is_done(task.id) {
        return String::new();
    }
    let Some((x, y)) = task.id.zone.and_then(|z| middle(piece, z)) else { return String::new() };
    let away = if piece.easel.left_handed { -1.0 } else { 1.0 };
    let under_hand = |z: ZoneId| {
        middle(piece, z).is_some_and(|(zx, zy)| {
            let (beside, below) = (away * (zx - x), zy - y);
            Some(z) != task.id.zone && (BELOW.0..BELOW.1).contains(&below) && (-0.05..BESIDE).contains(&beside)
        })
    };
    let laid = piece.easel.done.iter().filter_map(|d| d.task.zone);
    let first = laid.into_iter().find(|z| under_hand(*z));
    first.map_or_else(String::new, |z| {
        format!("Your hand would lie on {}: lay a clean sheet under it, or turn the paper.", piece.zone_label(z))
    })
}

/// The middle of a zone's largest place, in shares of the picture; `None` without one.
pub(super) fn middle(piece: &Piece, zone: ZoneId) -> Option<(f64, f64)> {
    let (w, h) = piece.zone_map.as_ref()?.size();
    let place = piece.geometry().places_of(zone.0).first()?;
    Some((f64::from(place.label_at.0) / f64::from(w), f64::from(place.label_at.1) / f64::from(h)))
}
