//! The study sheet as PDF, PNG or SVG.

use crate::extract::{Path, Query};
use crate::print;
use crate::problem::Problem;
use crate::state::Studio;
use axum::extract::State;
use axum::http::header;
use axum::response::{IntoResponse, Response};
use lean_plan::studies::ladder;
use lean_plan::studies::sheet::{Copy, Sheet, lay_out};
use serde::Deserialize;
use utoipa::{IntoParams, ToSchema};

/// Which copy.
#[derive(Clone, Copy, Default, Deserialize, ToSchema)]
#[serde(rename_all = "kebab-case")]
pub enum WhichCopy {
    /// Studies in colour.
    #[default]
    Colour,
    /// Outlines to paint over.
    Outline,
}

/// Which copy of the sheet.
#[derive(Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct Printing {
    /// Colour or outline.
    copy: Option<WhichCopy>,
}

async fn laid_out(studio: Studio, id: i64, printing: Printing, write: fn(&Sheet) -> Result<Vec<u8>, String>) -> Result<Vec<u8>, Problem> {
    let copy = match printing.copy.unwrap_or_default() {
        WhichCopy::Colour => Copy::Colour,
        WhichCopy::Outline => Copy::Outline,
    };
    studio
        .run(move |s| {
            let kept = s.store.piece(id)?;
            let paint_box =
                s.box_of(&kept)?.ok_or_else(|| Problem::unusable("This piece draws on no Box yet. Choose one in the brief."))?;
            let sheet = lay_out(&kept.piece, &paint_box, copy).map_err(Problem::unusable)?;
            write(&sheet).map_err(Problem::internal)
        })
        .await
}

fn file(kind: &'static str, name: &str, bytes: Vec<u8>) -> Response {
    ([(header::CONTENT_TYPE, kind.to_owned()), (header::CONTENT_DISPOSITION, format!("inline; filename=\"{name}\""))], bytes)
        .into_response()
}

/// The value ladder as PDF at true size, to be held against the work.
#[utoipa::path(get, path = "/api/pieces/{id}/ladder.pdf", operation_id = "print_ladder", params(("id" = i64, Path)), responses((status = 200, content_type = "application/pdf", body = Vec<u8>), (status = 404, body = Problem, content_type = "application/problem+json")))]
pub async fn ladder_pdf(State(studio): State<Studio>, Path(id): Path<i64>) -> Result<Response, Problem> {
    let bytes = studio.run(move |s| print::pdf::write(&ladder::lay_out(&s.store.piece(id)?.piece)).map_err(Problem::internal)).await?;
    Ok(file("application/pdf", "ladder.pdf", bytes))
}

/// The sheet as PDF at true size on one page.
#[utoipa::path(get, path = "/api/pieces/{id}/sheet.pdf", params(("id" = i64, Path), Printing), responses((status = 200, content_type = "application/pdf", body = Vec<u8>), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json")))]
pub async fn pdf(State(studio): State<Studio>, Path(id): Path<i64>, Query(p): Query<Printing>) -> Result<Response, Problem> {
    Ok(file("application/pdf", "studies.pdf", laid_out(studio, id, p, print::pdf::write).await?))
}

/// The sheet as PNG at 200 pixels per inch.
#[utoipa::path(get, path = "/api/pieces/{id}/sheet.png", params(("id" = i64, Path), Printing), responses((status = 200, content_type = "image/png", body = Vec<u8>), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json")))]
pub async fn png(State(studio): State<Studio>, Path(id): Path<i64>, Query(p): Query<Printing>) -> Result<Response, Problem> {
    Ok(file("image/png", "studies.png", laid_out(studio, id, p, print::png::write).await?))
}

/// The sheet as SVG in millimetres.
#[utoipa::path(get, path = "/api/pieces/{id}/sheet.svg", params(("id" = i64, Path), Printing), responses((status = 200, content_type = "image/svg+xml", body = String), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json")))]
pub async fn svg(State(studio): State<Studio>, Path(id): Path<i64>, Query(p): Query<Printing>) -> Result<Response, Problem> {
    Ok(file("image/svg+xml", "studies.svg", laid_out(studio, id, p, |s| Ok(print::svg::write(s).into_bytes())).await?))
}
