//! A trial judged by eye, as it is being judged: the colour it comes to, and what to add.

use super::correction::{Correction, correction};
use crate::mark::Mark;
use crate::wording::{Difference, turns};
use lean_colour::difference::ciede2000;
use lean_colour::{Lab, Temperature};
use lean_media::learn::Judged;
use lean_piece::Piece;
use lean_piece::paint_box::{EyeJudgement, PaintBox, Swatch};
use serde::Serialize;

/// A judgement before it is kept.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct EyePreview {
    /// The colour the swatch was held against.
    pub against: Mark,
    /// The colour it was judged to be.
    pub seen: Mark,
    /// Difference from the wanted colour, in a sentence; from the colour it was held against where nothing is wanted.
    pub words: String,
    /// The same as one number, CIEDE2000.
    pub difference: f64,
    /// Expected error of the judgement, one standard deviation in CIELAB units of L*, and of a* and b* each.
    pub doubt: [f64; 2],
    /// Words for its hue turned to smaller and to larger hue angles; `None` where it has no hue.
    pub turns: Option<[&'static str; 2]>,
    /// Correction of what lies there, by adding or laying over; `None` where it is a trial for nothing.
    pub correction: Option<Correction>,
}

/// A judgement of a swatch, with its correction. `aim` is the piece it is tried for, and the colour wanted there.
pub fn preview(aim: Option<(&Piece, Lab)>, paint_box: &PaintBox, swatch: &Swatch, eye: &EyeJudgement) -> EyePreview {
    let Judged { lab, value_error, colour_error } = eye.judged();
    let mark = |lab: Lab| Mark::of(lab, aim.map_or(Temperature(0.0), |(piece, _)| piece.neutral()));
    let wanted = aim.map_or(eye.against, |(_, wanted)| wanted);
    EyePreview {
        against: mark(eye.against),
        seen: mark(lab),
        words: Difference::of(wanted, lab).words,
        difference: ciede2000(wanted, lab),
        doubt: [value_error, colour_error],
        turns: turns(eye.against),
        correction: aim.map(|(piece, wanted)| correction(piece, paint_box, swatch, lab, wanted)),
    }
}
