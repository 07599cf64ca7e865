//! The target of a trial: a zone of a piece, or a cell of its chart.

use crate::problem::Problem;
use lean_piece::paint_box::PaintBox;
use lean_piece::{Piece, ZoneId};
use lean_plan::mixes::mixes_of;
use lean_recipes::Mix;
use serde::Deserialize;

/// Target of the trials.
#[derive(Deserialize)]
#[cfg_attr(feature = "description", derive(utoipa::IntoParams))]
#[cfg_attr(feature = "description", into_params(parameter_in = Query))]
pub(crate) struct For {
    /// A zone of the piece.
    pub(super) zone: Option<u16>,
    /// A cell of its chart, from 0.
    pub(super) cell: Option<usize>,
}

/// The planned recipe of a zone; `None` for a cell of the chart.
pub(super) fn planned(piece: &Piece, paint_box: &PaintBox, asked: &For) -> Option<Mix> {
    mixes_of(piece, Some(paint_box)).into_iter().find(|m| Some(m.zone.0) == asked.zone).map(|m| m.mix)
}

pub(super) fn wanted(piece: &Piece, asked: &For) -> Result<lean_colour::Lab, Problem> {
    match (asked.zone, asked.cell) {
        (Some(n), None) => {
            let zone = piece.zone(ZoneId(n)).ok_or_else(|| Problem::not_found(format!("Zone {n} is not there any more.")))?;
            Ok(piece.wanted(zone))
        }
        (None, Some(n)) => {
            let cell = piece.chart.as_ref().and_then(|c| c.cells.get(n));
            Ok(cell.ok_or_else(|| Problem::not_found("That cell of the chart is not there any more."))?.lab)
        }
        _ => Err(Problem::unusable("Say for which zone or for which cell, one of the two.")),
    }
}
