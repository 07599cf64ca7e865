//! The colours of a chart as a card: each with its recipe and an empty cell beside it.

use super::{CardCell, CardPage, pages};
use crate::chart::by_hand;
use lean_piece::Piece;
use lean_piece::paint_box::{PaintBox, Swatch};

/// The chart of a piece as pages to be filled: a cell for each colour that its set gives a recipe for, on its own ground.
///
/// # Errors
/// Without a chart, or without a set to make recipes of.
pub fn of_chart(piece: &Piece, paint_box: &PaintBox) -> Result<Vec<CardPage>, String> {
    let chart = piece.chart.as_ref().ok_or("There is no chart of this picture yet. Lay it out first.")?;
    let ground = piece.ground();
    let cell = |(i, hand): (usize, crate::chart::CellByHand)| {
        let swatch = Swatch::of_mix(&hand.mix?, ground.id.clone());
        Some(CardCell { swatch, words: hand.told?.line, aim: Some(chart.cells[i].lab) })
    };
    let cells: Vec<CardCell> = by_hand(piece, paint_box).into_iter().enumerate().filter_map(cell).collect();
    if cells.is_empty() {
        return Err("There is no set to make recipes of yet. Find or take one first.".into());
    }
    pages(paint_box, &ground, cells)
}
