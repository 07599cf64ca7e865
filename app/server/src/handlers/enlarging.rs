//! Enlarging: grids and tracings to print.

use crate::extract::{Path, Query};
use crate::print::{self, Reader};
use crate::problem::Problem;
use crate::state::Studio;
use axum::Json;
use axum::extract::State;
use axum::http::header;
use axum::response::{IntoResponse, Response};
use lean_picture::Picture;
use lean_piece::{PageFormat, Piece};
use lean_plan::enlarging::{self, Grid, TracedFrom, fitting, gridded, pages};
use lean_plan::paper::Sheet;
use lean_plan::planned::{painted_mixes, painted_study, painted_targets};
use serde::{Deserialize, Serialize};

/// What lies under a grid.
#[derive(Clone, Copy, Debug, Default, Deserialize, PartialEq, Eq)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
pub(crate) enum UnderGrid {
    /// The reference.
    #[default]
    Reference,
    /// The plan in its mixes.
    Plan,
    /// The study that was chosen.
    Study,
}

/// How a piece is enlarged.
#[derive(Deserialize)]
#[cfg_attr(feature = "description", derive(utoipa::IntoParams))]
#[cfg_attr(feature = "description", into_params(parameter_in = Query))]
pub(crate) struct Enlarged {
    /// Squares along the longer side, 2 to 24; 0 for a tracing without a grid.
    squares: Option<u32>,
    /// Paper.
    format: Option<PageFormat>,
    /// What lies under the grid.
    under: Option<UnderGrid>,
    /// What is traced.
    from: Option<TracedFrom>,
}

const SQUARES: u32 = 6;

/// A grid, and what a tracing takes.
#[derive(Serialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct EnlargingView {
    /// The grid on piece and print.
    grid: Grid,
    /// Pages of a tracing on this paper; none where it takes too many.
    pages: Option<usize>,
}

/// The grid of a piece, and how many pages its tracing takes.
#[cfg_attr(feature = "description", utoipa::path(get, path = "/api/pieces/{id}/enlarging", operation_id = "read_enlarging", params(("id" = i64, Path), Enlarged), responses((status = 200, body = EnlargingView), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn read(
    State(studio): State<Studio>,
    Path(id): Path<i64>,
    Query(e): Query<Enlarged>,
) -> Result<Json<EnlargingView>, Problem> {
    studio
        .run(move |s| {
            let piece = s.store.piece(id)?.piece;
            let (_, print) = enlarging::printed(&piece, e.format.unwrap_or(piece.sheet.page));
            let grid = fitting(&piece, e.squares.unwrap_or(SQUARES), print).map_err(Problem::unusable)?;
            let pages = pages(&piece, None, TracedFrom::Outlines, e.format.unwrap_or(piece.sheet.page), 0).ok().map(|p| p.len());
            Ok(Json(EnlargingView { grid, pages }))
        })
        .await
}

fn pdf(sheets: Vec<Sheet>, name: &str, reader: Reader) -> Result<Response, Problem> {
    let bytes = print::pdf::write(&reader.sheets(sheets)).map_err(Problem::internal)?;
    let named = format!("inline; filename=\"{name}\"");
    Ok(([(header::CONTENT_TYPE, "application/pdf".to_owned()), (header::CONTENT_DISPOSITION, named)], bytes).into_response())
}

fn reference(s: &Studio, piece: &Piece) -> Result<Option<Picture>, Problem> {
    piece.reference.as_ref().map(|r| Ok((*s.framed(&r.digest, r.frame)?).clone())).transpose()
}

/// The reference, the plan or the chosen study under a numbered grid, as PDF.
#[cfg_attr(feature = "description", utoipa::path(get, path = "/api/pieces/{id}/enlarging/grid.pdf", operation_id = "print_grid", params(("id" = i64, Path), Enlarged), responses((status = 200, content_type = "application/pdf", body = Vec<u8>), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn grid(
    State(studio): State<Studio>,
    Path(id): Path<i64>,
    Query(e): Query<Enlarged>,
    reader: Reader,
) -> Result<Response, Problem> {
    const ACROSS: u32 = 1600;
    studio
        .run(move |s| {
            let kept = s.store.piece(id)?;
            let paint_box = s.box_of(&kept)?;
            let piece = &kept.piece;
            let plan = || {
                let mixes = lean_plan::mixes::mixes_of(piece, paint_box.as_ref());
                if mixes.is_empty() { painted_targets(piece, ACROSS) } else { painted_mixes(piece, &mixes, ACROSS) }
            };
            let (picture, title) = match e.under.unwrap_or_default() {
                UnderGrid::Reference => (reference(s, piece)?, "reference under its grid"),
                UnderGrid::Plan => (plan(), "plan under its grid"),
                UnderGrid::Study => {
                    let study = piece.chosen_study.and_then(|n| piece.studies.iter().find(|s| s.number == n));
                    (study.and_then(|s| painted_study(piece, s, ACROSS)), "study under its grid")
                }
            };
            let picture = picture.ok_or_else(|| Problem::unusable("There is nothing of that kind to lay a grid on yet."))?;
            let picture = s.with_lines(piece, picture)?;
            let count = e.squares.unwrap_or(SQUARES);
            let sheet = gridded(piece, &picture, count, e.format.unwrap_or(piece.sheet.page), title).map_err(Problem::unusable)?;
            pdf(vec![sheet], "grid.pdf", reader)
        })
        .await
}

/// A tracing at true size over as many pages as it takes, as PDF.
#[cfg_attr(feature = "description", utoipa::path(get, path = "/api/pieces/{id}/enlarging/tracing.pdf", operation_id = "print_tracing", params(("id" = i64, Path), Enlarged), responses((status = 200, content_type = "application/pdf", body = Vec<u8>), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn tracing(
    State(studio): State<Studio>,
    Path(id): Path<i64>,
    Query(e): Query<Enlarged>,
    reader: Reader,
) -> Result<Response, Problem> {
    studio
        .run(move |s| {
            let piece = s.store.piece(id)?.piece;
            let from = e.from.unwrap_or_default();
            let picture = if from == TracedFrom::Reference { reference(s, &piece)? } else { None };
            let format = e.format.unwrap_or(piece.sheet.page);
            let sheets = enlarging::pages(&piece, picture.as_ref(), from, format, e.squares.unwrap_or(0)).map_err(Problem::unusable)?;
            pdf(sheets, "tracing.pdf", reader)
        })
        .await
}
