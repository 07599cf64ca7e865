//! A scheme loosened on purpose when a study is enlarged: pigments that were added from outside it are named.

use super::scheme::{describe, hues_of};
use crate::mixes::swatch;
use lean_piece::Piece;
use lean_piece::paint_box::PaintBox;

/// Degrees from every hue of a scheme beyond which a pigment lies outside it, and the chroma from which it has a hue to speak of. Choices.
const OUTSIDE: f64 = 40.0;
const COLOURED: f64 = 12.0;

/// Which pigments of the set loosen the scheme of the study the piece went on with, in a sentence; `None` where none does.
pub fn loosened(piece: &Piece, paint_box: &PaintBox) -> Option<String> {
    let scheme = piece.scheme.as_ref()?;
    let study = piece.studies.iter().find(|s| Some(s.number) == piece.chosen_study)?;
    let hues = hues_of(scheme);
    if hues.is_empty() {
        return None;
    }
    let off = |a: f64, b: f64| ((a - b + 180.0).rem_euclid(360.0) - 180.0).abs();
    let outside = piece.chosen.pigments.iter().filter(|p| !study.pigments.contains(p)).filter_map(|id| {
        let p = paint_box.find(id)?;
        let lab = swatch(piece.brief.medium, &piece.ground(), p);
        (lab.chroma() >= COLOURED && hues.iter().all(|h| off(lab.hue().0, *h) > OUTSIDE)).then(|| p.name.clone())
    });
    let names: Vec<String> = outside.collect();
    (!names.is_empty()).then(|| format!("Loosened from study {}, {}, by {}.", study.number, describe(scheme), names.join(" and ")))
}
