//! A grid numbered on photo and piece alike: letters across, numbers down.

use crate::paper::{Item, Sheet, paper};
use lean_colour::Lab;
use lean_picture::Picture;
use lean_piece::{Millimetres, PageFormat, Piece, Size};
use serde::Serialize;

/// A grid over a picture.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Grid {
    /// Squares across.
    pub across: u32,
    /// Squares down.
    pub down: u32,
    /// Side of a square on the piece.
    pub on_piece: Millimetres,
    /// Side of a square on the printed reference or study.
    pub on_print: Millimetres,
    /// Where lines lie on the piece, measured from its left edge.
    pub lines_across: Vec<Millimetres>,
    /// Where lines lie on the piece, measured from its upper edge.
    pub lines_down: Vec<Millimetres>,
    /// How it is drawn, in a sentence.
    pub words: String,
}

/// Most squares across the longer side.
const MOST: u32 = 24;

/// A grid of `count` squares across the longer side of a piece, and the same on a print that is `print` wide: squares, as far as they go in.
///
/// # Errors
/// When the count is out of range.
pub fn fitting(piece: &Piece, count: u32, print: Size) -> Result<Grid, String> {
    if !(2..=MOST).contains(&count) {
        return Err(format!("{count} squares are out of range: 2 to {MOST} along the longer side."));
    }
    let size = piece.brief.size;
    let longer = size.width.0.max(size.height.0);
    let side = longer / f64::from(count);
    let squares = |length: f64| (length / side - 1e-9).ceil().max(1.0) as u32;
    let (across, down) = (squares(size.width.0), squares(size.height.0));
    let lines = |length: f64, n: u32| (1..n).map(|i| Millimetres(side * f64::from(i))).filter(|m| m.0 < length - 1e-6).collect();
    let on_print = side * (print.width.0 / size.width.0).min(print.height.0 / size.height.0);
    let units = piece.intent.units;
    let words = format!(
        "Lines every {} on the piece and every {} on the print; letters across, numbers down, so that B3 is B3 on both.",
        units.said(Millimetres(side)),
        units.said(Millimetres(on_print))
    );
    Ok(Grid {
        across,
        down,
        on_piece: Millimetres(side),
        on_print: Millimetres(on_print),
        lines_across: lines(size.width.0, across),
        lines_down: lines(size.height.0, down),
        words,
    })
}

/// Letters of the columns: A to Z.
fn letter(i: u32) -> String {
    char::from(b'A' + (i % 26) as u8).to_string()
}

/// The marks of a grid over a rectangle of a page: lines, letters above and numbers beside it.
fn draw(grid: &Grid, [x, y, w, h]: [f64; 4], side: f64) -> Vec<Item> {
    const LINE: f64 = 0.18;
    let mut marks = Vec::new();
    for i in 0..=grid.across {
        let at = x + (f64::from(i) * side).min(w);
        marks.push(Item::Line { ends: [at, y, at, y + h], width: LINE });
        if i < grid.across {
            let middle = x + ((f64::from(i) + 0.5) * side).min(w - 1.5);
            marks.push(Item::Text { x: middle - 0.9, y: y - 1.2, size: 3.2, bold: true, text: letter(i) });
        }
    }
    for i in 0..=grid.down {
        let at = y + (f64::from(i) * side).min(h);
        marks.push(Item::Line { ends: [x, at, x + w, at], width: LINE });
        if i < grid.down {
            let middle = y + ((f64::from(i) + 0.5) * side).min(h - 1.0);
            marks.push(Item::Text { x: x - 4.6, y: middle + 1.0, size: 3.2, bold: true, text: (i + 1).to_string() });
        }
    }
    marks
}

/// Paper round a print.
const MARGIN: f64 = 14.0;
/// Room for the heading.
const HEAD: f64 = 10.0;

/// The size of the page, and of the piece printed on it as large as it goes.
pub fn printed(piece: &Piece, format: PageFormat) -> ((f64, f64), Size) {
    let size = piece.brief.size;
    let (mut pw, mut ph) = paper(format);
    if size.width.0 > size.height.0 {
        (pw, ph) = (ph, pw);
    }
    let scale = ((pw - 2.0 * MARGIN) / size.width.0).min((ph - 2.0 * MARGIN - HEAD) / size.height.0);
    ((pw, ph), Size { width: Millimetres(size.width.0 * scale), height: Millimetres(size.height.0 * scale) })
}

/// A page with a picture under its grid, as large as the page holds.
///
/// # Errors
/// When the count of squares is out of range.
pub fn gridded(piece: &Piece, picture: &Picture, count: u32, format: PageFormat, title: &str) -> Result<Sheet, String> {
    let ((pw, ph), print) = printed(piece, format);
    let grid = fitting(piece, count, print)?;
    let rect = [(pw - print.width.0) / 2.0, MARGIN + HEAD, print.width.0, print.height.0];
    let mut sheet = Sheet { width: pw, height: ph, title: format!("{} – {title}", piece.brief.title), marks: Vec::new() };
    sheet.marks.push(Item::Text { x: MARGIN, y: MARGIN - 2.0, size: 4.2, bold: true, text: piece.brief.title.clone() });
    for (i, line) in crate::paper::wrapped(&grid.words, pw - 2.0 * MARGIN, 2.8).into_iter().take(2).enumerate() {
        sheet.marks.push(Item::Text { x: MARGIN, y: MARGIN + 2.0 + 3.2 * i as f64, size: 2.8, bold: false, text: line });
    }
    sheet.marks.push(Item::Fill { rect, colour: Lab::new(100.0, 0.0, 0.0) });
    sheet.marks.push(Item::Picture { rect, picture: std::sync::Arc::new(picture.clone()) });
    sheet.marks.extend(draw(&grid, rect, grid.on_print.0));
    Ok(sheet)
}
