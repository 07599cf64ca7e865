//! The study sheet: a page to work on, with studies at true size, strokes, recipes, boxes for trials and room for tape between them.
//!
//! [`arrange`] finds where studies and what is said of them go, [`notes`] what is said, [`page`] draws both.

mod arrange;
mod notes;
mod page;

pub use notes::recipe_text;

use crate::paper::{Mm, Sheet, name};
use arrange::arranged;
use lean_piece::paint_box::PaintBox;
use lean_piece::{Piece, Study, StudyNumber};

/// Which copy of the sheet.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Copy {
    /// Studies painted in the hand of their medium.
    Painted,
    /// Studies as flat colours.
    Flat,
    /// The same page with outlines to paint over.
    Outline,
}

const MARGIN: Mm = 10.0;
const HEADER: Mm = 14.0;
const FOOTER: Mm = 9.0;
/// Between studies: a strip of masking tape, and a little air on either side.
const GAP: Mm = 7.0;

/// Width and height of a study with a longer side of `long`.
fn study_size(piece: &Piece, long: Mm) -> (Mm, Mm) {
    let of_map = || piece.map().map_or(1.0, |m| f64::from(m.width) / f64::from(m.height.max(1)));
    let real = piece.reference.as_ref().filter(|r| r.width > 0 && r.height > 0);
    let aspect = real.map_or_else(of_map, |r| f64::from(r.width) / f64::from(r.height));
    if aspect >= 1.0 { (long, long / aspect) } else { (long * aspect, long) }
}

/// Lays out a piece's studies at true size, those of these numbers, or all of them when none is named: as many to a page as fit with letters that can
/// be read. Where not even the recipes of one fit beside it they go on overleaf.
///
/// # Errors
/// When there are no such studies, or a study is larger than the page; says the largest size that fits.
pub fn lay_out(piece: &Piece, paint_box: &PaintBox, copy: Copy, only: &[StudyNumber]) -> Result<Vec<Sheet>, String> {
    if piece.studies.is_empty() || piece.zone_map.is_none() {
        return Err("There are no studies to print yet. Make the studies first.".into());
    }
    let studies: Vec<&Study> = piece.studies.iter().filter(|s| only.is_empty() || only.contains(&s.number)).collect();
    if studies.is_empty() {
        return Err("None of these studies is there any more. Choose others.".into());
    }
    let size = study_size(piece, piece.sheet.longer_side.0);
    let noted: Vec<notes::Noted> = studies.iter().map(|s| notes::noted(piece, paint_box, s)).collect();
    let pages = arranged(piece.sheet.page, size, &noted).ok_or_else(|| too_large(piece))?;
    Ok(pages.iter().map(|p| page::drawn(piece, &studies, &noted, p, copy)).collect())
}

fn too_large(piece: &Piece) -> String {
    let fits = |long: &f64| arrange::picture_fits(piece.sheet.page, study_size(piece, *long));
    let largest = (20..=300).rev().map(f64::from).find(fits).unwrap_or(20.0);
    format!(
        "A study with a longer side of {} mm does not fit on {} at true size. {largest} mm is the most that does.",
        piece.sheet.longer_side.0,
        name(piece.sheet.page)
    )
}
