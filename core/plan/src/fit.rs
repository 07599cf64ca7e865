//! How a drawing lies on its sheet, and how large a reference can be carried.

use lean_piece::intent::fit::Fit;
use lean_piece::units::Units;
use lean_piece::{Millimetres, Size};
use serde::Serialize;

/// Whether a drawing fits its sheet.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Lies {
    /// The sheet.
    pub sheet: Size,
    /// Left edge of the picture on it.
    pub left: Millimetres,
    /// Upper edge.
    pub top: Millimetres,
    /// True when picture, margins and tape all find room.
    pub fits: bool,
    /// In a sentence.
    pub sentence: String,
    /// With deep edges: size of the drawing that also covers the sides.
    pub wrapped: Option<Size>,
}

/// How a picture of `size` lies in the middle of its sheet, said in `units`.
pub(crate) fn lies(fit: &Fit, size: Size, units: Units) -> Lies {
    let rim = Millimetres::or_none(fit.margin) + Millimetres::or_none(fit.tape);
    let need = Size { width: Millimetres(size.width.0 + 2.0 * rim), height: Millimetres(size.height.0 + 2.0 * rim) };
    let sheet = fit.sheet.unwrap_or(need);
    let spare = ((sheet.width.0 - need.width.0) / 2.0, (sheet.height.0 - need.height.0) / 2.0);
    let fits = spare.0 >= -1e-9 && spare.1 >= -1e-9;
    let said = |v: f64| units.said(Millimetres(v));
    let both = |w: f64, h: f64| units.both(Size { width: Millimetres(w), height: Millimetres(h) });
    let edge = Millimetres::or_none(fit.edge);
    let wrapped =
        (edge > 0.0).then_some(Size { width: Millimetres(size.width.0 + 2.0 * edge), height: Millimetres(size.height.0 + 2.0 * edge) });
    let sentence = if fits {
        let room = spare.0.min(spare.1);
        match (fit.sheet, wrapped) {
            (_, Some(w)) => format!(
                "With edges {} deep the drawing has to be {}: keep what matters {} away from the rim.",
                said(edge),
                both(w.width.0, w.height.0),
                said(edge.max(10.0))
            ),
            (Some(_), _) if room < 0.05 => "It fits the sheet exactly.".into(),
            (Some(_), _) => format!("It fits the sheet with {} to spare on the narrower sides.", said(room)),
            (None, _) => format!("It needs a sheet of {}.", both(need.width.0, need.height.0)),
        }
    } else {
        let (over, side) = if spare.0 < spare.1 { (-2.0 * spare.0, "across") } else { (-2.0 * spare.1, "down") };
        let scale = ((sheet.width.0 - 2.0 * rim) / size.width.0).min((sheet.height.0 - 2.0 * rim) / size.height.0);
        if scale > 0.02 {
            format!(
                "It runs {} off the sheet {side}. At the same proportion {} would fit.",
                said(over),
                both(size.width.0 * scale, size.height.0 * scale)
            )
        } else {
            "Margins and tape alone cover the sheet. Take a larger sheet or a narrower rim.".into()
        }
    };
    Lies { sheet, left: Millimetres(spare.0 + rim), top: Millimetres(spare.1 + rim), fits, sentence, wrapped }
}

/// Share by which two proportions may differ and still be called the same. A choice: a drawing stretched by less is not noticed.
const SAME: f64 = 0.01;

/// Width to height of a piece against that of its reference.
#[derive(Clone, Debug, Default, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Proportion {
    /// In a sentence.
    pub sentence: String,
    /// The size of the reference's proportion with the same longer side; `None` where the proportions agree.
    pub fitted: Option<Size>,
}

/// How the proportion of `size` stands to a reference of so many pixels.
pub(crate) fn proportion(size: Size, reference: Option<(u32, u32)>) -> Proportion {
    let own = size.width.0 / size.height.0;
    let Some(asked) = reference.map(|(w, h)| f64::from(w) / f64::from(h)) else {
        return Proportion { sentence: format!("Proportion {}.", ratio(own)), fitted: None };
    };
    if (asked / own - 1.0).abs() <= SAME {
        return Proportion { sentence: format!("Proportion {}, as the reference.", ratio(own)), fitted: None };
    }
    let long = size.width.0.max(size.height.0);
    let (width, height) = if asked >= 1.0 { (long, long / asked) } else { (long * asked, long) };
    Proportion {
        sentence: format!("Proportion {}, the reference {}.", ratio(own), ratio(asked)),
        fitted: Some(Size { width: Millimetres(width), height: Millimetres(height) }),
    }
}

/// Width to height as two small whole numbers (up to 20 to 12) where that is near enough, or to one.
fn ratio(of: f64) -> String {
    let mut whole = (1..=12).map(|down| ((of * f64::from(down)).round(), f64::from(down)));
    match whole.find(|(across, down)| (1.0..=20.0).contains(across) && (across / down / of - 1.0).abs() < 0.003) {
        Some((across, down)) => format!("{across:.0} : {down:.0}"),
        None if of >= 1.0 => format!("{of:.2} : 1"),
        None => format!("1 : {:.2}", 1.0 / of),
    }
}

/// Pixels a centimetre of the piece needs to carry fine detail, and to carry shapes at all. Choices: what 100 and 40 dots to the inch of
/// the original give to the eye at arm's length.
pub(crate) const FINE: f64 = 40.0;
/// See [`FINE`].
pub(crate) const SHAPES: f64 = 16.0;
/// Share of its resolution below which a reference is called blurred. A choice.
const BLURRED: f64 = 0.6;

/// How far a reference carries.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Carries {
    /// Pixels of the reference for a centimetre of the piece.
    pub pixels_per_cm: f64,
    /// Longest side, in the piece's proportion, that still carries detail.
    pub largest: Size,
    /// In a sentence.
    pub sentence: String,
}

/// How far a reference of `pixels` carries at `size`. `sharpness` from 0 (all blur) to 1 (every pixel its own) counts what the lens left.
pub(crate) fn carries(pixels: (u32, u32), size: Size, sharpness: f64, units: Units) -> Carries {
    let real = |n: u32| f64::from(n) * sharpness.clamp(0.05, 1.0);
    let per_cm = (real(pixels.0) / (size.width.0 / 10.0)).min(real(pixels.1) / (size.height.0 / 10.0));
    let scale = per_cm / FINE;
    let largest = Size { width: Millimetres(size.width.0 * scale), height: Millimetres(size.height.0 * scale) };
    let at = units.both(largest);
    let blurred = if sharpness < BLURRED { "The reference is blurred. " } else { "" };
    let sentence = match per_cm {
        p if p >= FINE => format!("The reference carries fine detail at this size, and up to {at}."),
        p if p >= SHAPES => format!("At this size the reference shows shapes, not fine detail. Detail holds up to {at}."),
        _ => format!("The reference is too small for this size: big shapes only. Detail holds up to {at}."),
    };
    Carries { pixels_per_cm: per_cm, largest, sentence: format!("{blurred}{sentence}") }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn size(w: f64, h: f64) -> Size {
        Size { width: Millimetres(w), height: Millimetres(h) }
    }

    #[test]
    fn a_drawing_lies_in_the_middle_of_its_sheet() {
        let fit = Fit { sheet: Some(size(420.0, 320.0)), margin: Some(Millimetres(5.0)), ..Fit::default() };
        let l = lies(&fit, size(400.0, 300.0), Units::Cm);
        assert!(l.fits && (l.left.0 - 10.0).abs() < 1e-9 && (l.top.0 - 10.0).abs() < 1e-9, "{l:?}");
    }

    #[test]
    fn a_reference_of_another_proportion_offers_its_own() {
        let p = proportion(size(400.0, 300.0), Some((1600, 1200)));
        assert_eq!((p.sentence.as_str(), p.fitted), ("Proportion 4 : 3, as the reference.", None));
        let p = proportion(size(400.0, 300.0), Some((1000, 2000)));
        assert_eq!((p.sentence.as_str(), p.fitted), ("Proportion 4 : 3, the reference 1 : 2.", Some(size(200.0, 400.0))));
        assert_eq!(proportion(size(1414.2, 1000.0), None).sentence, "Proportion 17 : 12.");
        assert_eq!(proportion(size(1000.0, 31.0), None).sentence, "Proportion 32.26 : 1.");
    }

    #[test]
    fn running_off_the_sheet_is_said_with_what_would_fit() {
        let fit = Fit { sheet: Some(size(300.0, 400.0)), tape: Some(Millimetres(10.0)), ..Fit::default() };
        let l = lies(&fit, size(300.0, 200.0), Units::Cm);
        assert!(!l.fits);
        assert!(l.sentence.contains("2 cm off the sheet across") && l.sentence.contains("28 × 18.7"), "{}", l.sentence);
        let tiny = Fit { sheet: Some(size(20.0, 20.0)), tape: Some(Millimetres(15.0)), ..Fit::default() };
        assert!(lies(&tiny, size(100.0, 100.0), Units::Cm).sentence.contains("cover the sheet"));
    }

    #[test]
    fn deep_edges_want_a_larger_drawing() {
        let fit = Fit { edge: Some(Millimetres(38.0)), ..Fit::default() };
        let l = lies(&fit, size(400.0, 500.0), Units::Cm);
        assert_eq!(l.wrapped, Some(size(476.0, 576.0)));
        assert!(l.sentence.contains("47.6 × 57.6"));
    }

    #[test]
    fn a_small_photo_cannot_feed_a_large_piece() {
        let c = carries((800, 600), size(800.0, 600.0), 1.0, Units::Cm);
        assert!((c.pixels_per_cm - 10.0).abs() < 1e-9 && c.sentence.contains("too small"));
        assert!((c.largest.width.0 - 200.0).abs() < 1e-9);
        assert!(carries((4000, 3000), size(400.0, 300.0), 1.0, Units::Cm).sentence.contains("carries fine detail"));
        assert!(carries((4000, 3000), size(400.0, 300.0), 0.3, Units::Cm).sentence.contains("shapes, not fine detail"));
        assert!(carries((4000, 3000), size(400.0, 300.0), 0.3, Units::Cm).sentence.contains("blurred"));
    }
}
