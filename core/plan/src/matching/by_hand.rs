//! A chart used by hand: what makes the colour of each cell, and the sheet on which they are tried.

use super::{Near, nearest};
use crate::mark::Mark;
use crate::mixes::{named, pigments_of, technique_of};
use crate::paints::card::{CardCell, CardPage, pages};
use crate::wording::Difference;
use lean_piece::paint_box::{PaintBox, Swatch};
use lean_piece::{ChartCell, Piece};
use lean_recipes::Mix;
use lean_recipes::telling::{Told, told};
use lean_search::Recipes;
use serde::Serialize;

/// The means to make the colour of a cell.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct CellByHand {
    /// The nearest of the Box as it is; `None` of an empty one.
    pub nearest: Option<Near>,
    /// The best recipe of the set in use; `None` without a set, or where bare ground comes nearest.
    pub mix: Option<Mix>,
    /// The recipe as it is read out.
    pub told: Option<Told>,
    /// Its colour.
    pub given: Option<Mark>,
    /// The difference from the cell in words; empty without a recipe.
    pub off: String,
}

/// The means to make each cell of a piece's chart, in its order; nothing without a chart.
pub fn by_hand(piece: &Piece, paint_box: &PaintBox) -> Vec<CellByHand> {
    let ground = piece.ground();
    let set = pigments_of(paint_box, &piece.chosen.pigments);
    let technique = (!set.is_empty()).then(|| technique_of(piece, paint_box, &set));
    let recipes = technique.as_ref().map(|t| Recipes::of(t.as_ref()));
    let name = named(Some(paint_box));
    let of = |cell: &ChartCell| {
        let best = recipes.as_ref().and_then(|r| r.best(cell.lab, piece.cost())).map(|b| b.1);
        let mix = best.filter(|m| !m.is_bare_ground());
        CellByHand {
            nearest: nearest(cell.lab, paint_box.searched(), piece.brief.medium, &ground).near.into_iter().next(),
            told: mix.as_ref().map(|m| told(m, &name)),
            given: mix.as_ref().map(|m| Mark::of(m.lab, piece.neutral())),
            off: mix.as_ref().map(|m| Difference::of(cell.lab, m.lab).words).unwrap_or_default(),
            mix,
        }
    };
    piece.chart.iter().flat_map(|c| &c.cells).map(of).collect()
}

/// The chart of a piece as pages to be filled: a cell for each colour that its set gives a recipe for, on its own ground.
///
/// # Errors
/// Without a chart, or without a set to make recipes of.
pub fn sheet_of_chart(piece: &Piece, paint_box: &PaintBox) -> Result<Vec<CardPage>, String> {
    let chart = piece.chart.as_ref().ok_or("There is no chart of this picture yet. Lay it out first.")?;
    let ground = piece.ground();
    let cell = |(i, hand): (usize, CellByHand)| {
        let swatch = Swatch::of_mix(&hand.mix?, ground.id.clone());
        Some(CardCell { swatch, words: hand.told?.line, aim: Some(chart.cells[i].lab) })
    };
    let cells: Vec<CardCell> = by_hand(piece, paint_box).into_iter().enumerate().filter_map(cell).collect();
    if cells.is_empty() {
        return Err("There is no set to make recipes of yet. Find or take one first.".into());
    }
    pages(paint_box, &ground, cells)
}
