//! The study sheet as PDF, PNG or SVG.

use crate::extract::{Path, Query};
use crate::print::{self, Reader};
use crate::problem::Problem;
use crate::state::Studio;
use axum::extract::State;
use axum::http::header;
use axum::response::{IntoResponse, Response};
use lean_piece::StudyNumber;
use lean_plan::paper::Sheet;
use lean_plan::studies::ladder;
use lean_plan::studies::sheet::{Copy, lay_out};
use serde::Deserialize;

/// Which copy.
#[derive(Clone, Copy, Default, Deserialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
pub(crate) enum WhichCopy {
    /// Studies painted in the hand of their medium.
    #[default]
    Colour,
    /// Studies as flat colours.
    Flat,
    /// Outlines to paint over.
    Outline,
}

impl From<WhichCopy> for Copy {
    fn from(which: WhichCopy) -> Self {
        match which {
            WhichCopy::Colour => Self::Painted,
            WhichCopy::Flat => Self::Flat,
            WhichCopy::Outline => Self::Outline,
        }
    }
}

/// Which copy of the sheet.
#[derive(Deserialize)]
#[cfg_attr(feature = "description", derive(utoipa::IntoParams))]
#[cfg_attr(feature = "description", into_params(parameter_in = Query))]
pub(crate) struct Printing {
    /// Painted, flat or outlines.
    copy: Option<WhichCopy>,
    /// Numbers of the studies, as in `1,3,4`; all of them when left out.
    studies: Option<String>,
    /// Which page, from 1; the first when left out. A PDF has them all.
    page: Option<usize>,
}

impl Printing {
    fn numbers(&self) -> Result<Vec<StudyNumber>, Problem> {
        let words = self.studies.iter().flat_map(|s| s.split(',')).map(str::trim).filter(|w| !w.is_empty());
        words
            .map(|w| {
                w.parse().map(StudyNumber).map_err(|_| Problem::unusable(format!("\"{w}\" is no number of a study. Write them as 1,3,4.")))
            })
            .collect()
    }
}

/// One page of several.
fn page(sheets: &[Sheet], page: Option<usize>) -> Result<&Sheet, Problem> {
    let n = page.unwrap_or(1);
    sheets.get(n.wrapping_sub(1)).ok_or_else(|| Problem::unusable(format!("There is no page {n}; ask for one from 1 to {}.", sheets.len())))
}

async fn laid_out<T: Send + 'static>(
    studio: Studio,
    id: i64,
    printing: Printing,
    reader: Reader,
    write: impl FnOnce(&[Sheet]) -> Result<T, Problem> + Send + 'static,
) -> Result<T, Problem> {
    let copy = Copy::from(printing.copy.unwrap_or_default());
    let only = printing.numbers()?;
    studio
        .run(move |s| {
            let kept = s.store.piece(id)?;
            let paint_box = s.needed_box(&kept)?;
            let mut sheets = lay_out(&kept.piece, &paint_box, copy, &only).map_err(Problem::unusable)?;
            if let Some(lines) = s.line_art(&kept.piece)? {
                sheets.iter_mut().for_each(|sheet| sheet.draw_over(&lines));
            }
            write(&reader.sheets(sheets))
        })
        .await
}

fn file(kind: &'static str, name: &str, bytes: Vec<u8>) -> Response {
    ([(header::CONTENT_TYPE, kind.to_owned()), (header::CONTENT_DISPOSITION, format!("inline; filename=\"{name}\""))], bytes)
        .into_response()
}

/// The value ladder as PDF at true size, to be held against the work.
#[cfg_attr(feature = "description", utoipa::path(get, path = "/api/pieces/{id}/ladder.pdf", operation_id = "print_ladder", params(("id" = i64, Path)), responses((status = 200, content_type = "application/pdf", body = Vec<u8>), (status = 404, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn ladder_pdf(State(studio): State<Studio>, Path(id): Path<i64>, reader: Reader) -> Result<Response, Problem> {
    let bytes = studio
        .run(move |s| {
            let sheet = ladder::lay_out(&s.store.piece(id)?.piece);
            print::pdf::write(&reader.sheets(vec![sheet])).map_err(Problem::internal)
        })
        .await?;
    Ok(file("application/pdf", "ladder.pdf", bytes))
}

/// The sheet as PDF at true size, on as many pages as it takes.
#[cfg_attr(feature = "description", utoipa::path(get, path = "/api/pieces/{id}/sheet.pdf", params(("id" = i64, Path), Printing), responses((status = 200, content_type = "application/pdf", body = Vec<u8>), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn pdf(
    State(studio): State<Studio>,
    Path(id): Path<i64>,
    Query(p): Query<Printing>,
    reader: Reader,
) -> Result<Response, Problem> {
    Ok(file("application/pdf", "studies.pdf", laid_out(studio, id, p, reader, |s| print::pdf::write(s).map_err(Problem::internal)).await?))
}

/// The sheet as PNG at 200 pixels per inch.
#[cfg_attr(feature = "description", utoipa::path(get, path = "/api/pieces/{id}/sheet.png", params(("id" = i64, Path), Printing), responses((status = 200, content_type = "image/png", body = Vec<u8>), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn png(
    State(studio): State<Studio>,
    Path(id): Path<i64>,
    Query(p): Query<Printing>,
    reader: Reader,
) -> Result<Response, Problem> {
    let at = p.page;
    Ok(file(
        "image/png",
        "studies.png",
        laid_out(studio, id, p, reader, move |s| print::png::write(page(s, at)?).map_err(Problem::internal)).await?,
    ))
}

/// A page of the sheet as SVG in millimetres; `x-pages` says how many there are.
#[cfg_attr(feature = "description", utoipa::path(get, path = "/api/pieces/{id}/sheet.svg", params(("id" = i64, Path), Printing), responses((status = 200, content_type = "image/svg+xml", body = String), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn svg(
    State(studio): State<Studio>,
    Path(id): Path<i64>,
    Query(p): Query<Printing>,
    reader: Reader,
) -> Result<Response, Problem> {
    let at = p.page;
    let (pages, svg) =
        laid_out(studio, id, p, reader, move |s| Ok((s.len(), print::svg::write(page(s, at)?).map_err(Problem::internal)?))).await?;
    Ok(([("x-pages", pages.to_string())], file("image/svg+xml", "studies.svg", svg.into_bytes())).into_response())
}
