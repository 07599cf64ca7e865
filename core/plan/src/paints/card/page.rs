//! A page of a card: empty cells between marks, a place for a grey card, and under each what is laid in it.

use super::{CardCell, CardPage};
use crate::paper::{Item, Sheet, wrapped};
use lean_colour::Lab;
use lean_media::Ground;
use lean_picture::swatch_sheet::Layout;
use lean_piece::paint_box::PaintBox;

/// Cells across and down a page, their size, and from one to the next, in millimetres.
const ACROSS: usize = 5;
const DOWN: usize = 6;
const CELL: (f64, f64) = (30.0, 22.0);
const STEP: (f64, f64) = (36.6, 35.5);
const FIRST: (f64, f64) = (16.0, 60.0);
/// A4, and its marks.
const PAPER: (f64, f64) = (210.0, 297.0);
const MARK: f64 = 8.0;
const INSET: f64 = 12.0;
const GREY: [f64; 4] = [130.0, 17.0, 46.0, 28.0];
/// Width of the colour a cell is meant to come to, and of the paper between the two, in millimetres.
const AIM: f64 = 11.0;
const GAP: f64 = 1.0;
/// Cells on a page.
pub(super) const CELLS: usize = ACROSS * DOWN;

/// One page, the `nth` of so many.
pub(super) fn laid_out(paint_box: &PaintBox, ground: &Ground, cells: &[CardCell], nth: usize, of: usize) -> CardPage {
    let place = |i: usize| (FIRST.0 + STEP.0 * (i % ACROSS) as f64, FIRST.1 + STEP.1 * (i / ACROSS) as f64);
    let (w, h) = PAPER;
    let layout = Layout {
        size: PAPER,
        marks: [(INSET, INSET), (w - INSET, INSET), (w - INSET, h - INSET), (INSET, h - INSET)],
        mark: MARK,
        first: (INSET + 14.0, INSET),
        grey: GREY,
        // Between the columns of a whole page, used or not, and beside the grey card.
        bare: (0..ACROSS * DOWN)
            .map(|i| (place(i), i))
            .map(|((x, y), _)| [x + CELL.0 + 1.2, y + 5.0, 4.0, 12.0])
            .chain([[GREY[0] - 8.0, 22.0, 5.0, 16.0], [GREY[0] + GREY[2] + 3.0, 22.0, 5.0, 16.0]])
            .collect(),
        cells: cells.iter().enumerate().map(|(i, cell)| room(place(i), cell)).collect(),
    };
    let mut marks = Vec::new();
    let black = Lab::new(5.0, 0.0, 0.0);
    for ((x, y), side) in layout.marks.iter().map(|m| (*m, MARK)).chain([(layout.first, MARK / 2.0)]) {
        marks.push(Item::Fill { rect: [x - side / 2.0, y - side / 2.0, side, side], colour: black });
    }
    let mut say = |x: f64, y: f64, size: f64, bold: bool, text: String| marks.push(Item::Text { x, y, size, bold, text });
    let title = if of > 1 { format!("{}, test card {nth} of {of}", paint_box.name) } else { format!("{}, test card", paint_box.name) };
    say(20.0, 26.0, 4.8, true, title);
    say(20.0, 31.5, 3.0, false, format!("On {}.", ground.name));
    for (i, line) in [
        "Paint every cell to its edges, let it dry,",
        "lay a grey card in the box, and photograph the",
        "whole page from above in even daylight.",
    ]
    .iter()
    .enumerate()
    {
        say(20.0, 37.0 + 4.0 * i as f64, 3.0, false, (*line).to_owned());
    }
    say(GREY[0] + 3.0, GREY[1] + GREY[3] + 4.0, 2.6, false, "grey card, 18 %".into());
    for (i, cell) in cells.iter().enumerate() {
        let (x, y) = place(i);
        for (n, line) in wrapped(&cell.words, CELL.0 + 4.0, 2.2).into_iter().take(4).enumerate() {
            say(x, y + CELL.1 + 3.2 + 2.6 * n as f64, 2.2, false, line);
        }
    }
    for (i, cell) in cells.iter().enumerate() {
        let (x, y) = place(i);
        if let Some(aim) = cell.aim {
            marks.push(Item::Fill { rect: [x, y, AIM, CELL.1], colour: aim });
        }
    }
    let ring = |[x, y, w, h]: [f64; 4]| vec![(x, y), (x + w, y), (x + w, y + h), (x, y + h)];
    for rect in layout.cells.iter().chain([&layout.grey]) {
        marks.push(Item::Shape { rings: vec![ring(*rect)], fill: None, line: 0.12 });
    }
    CardPage {
        cells: cells.to_vec(),
        sheet: Sheet { width: w, height: h, title: format!("{} – test card", paint_box.name), marks },
        layout,
    }
}

/// The cell to be painted: all of its room, or what the colour it is meant to come to leaves of it.
fn room((x, y): (f64, f64), cell: &CardCell) -> [f64; 4] {
    let taken = if cell.aim.is_some() { AIM + GAP } else { 0.0 };
    [x + taken, y, CELL.0 - taken, CELL.1]
}
