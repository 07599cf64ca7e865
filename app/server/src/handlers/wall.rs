//! The wall a piece will hang on: its photo, and the mock-up.

use super::reference::FileName;
use super::studies::in_paint;
use crate::extract::{Body, Path, Query};
use crate::handlers::take_in::take_in_for;
use crate::pictures::TakenIn;
use crate::pictures::{jpeg, png};
use crate::problem::Problem;
use crate::state::Studio;
use crate::views::PieceView;
use axum::Json;
use axum::extract::State;
use axum::http::header;
use axum::response::{IntoResponse, Response};
use lean_piece::Command;
use lean_piece::change::SetWall;
use lean_piece::wall::Wall;
use lean_plan::wall::{loudness, mock_up};
use serde::Deserialize;

/// Takes in a photo of the wall. What was measured in an older photo is lost with it; undo brings it back.
#[cfg_attr(feature = "description", utoipa::path(put, path = "/api/pieces/{id}/wall", operation_id = "put_wall", params(("id" = i64, Path), FileName), request_body(content = Vec<u8>, content_type = "application/octet-stream"), responses((status = 200, body = PieceView), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 413, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn put(
    State(studio): State<Studio>,
    Path(id): Path<i64>,
    Query(name): Query<FileName>,
    Body(bytes): Body,
) -> Result<Json<PieceView>, Problem> {
    let read = move |p: TakenIn| Ok(Wall::of(p.digest, name.or("wall"), p.full, loudness::read(&p.working)));
    take_in_for(studio, id, bytes, read, |_, wall| Command::SetWall(SetWall { wall: Some(wall), what: "the photo of the wall".into() }))
        .await
}

/// The photo of the wall, as JPEG.
#[cfg_attr(feature = "description", utoipa::path(get, path = "/api/pieces/{id}/wall/view", operation_id = "view_wall", params(("id" = i64, Path)), responses((status = 200, content_type = "image/jpeg", body = Vec<u8>), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn look(State(studio): State<Studio>, Path(id): Path<i64>) -> Result<Response, Problem> {
    studio
        .run(move |s| {
            let piece = s.store.piece(id)?.piece;
            let wall = piece.wall.ok_or_else(|| Problem::not_found("This piece has no photo of a wall yet. Drop one on it."))?;
            jpeg(&*s.working_copy(&wall.digest)?, "no-cache")
        })
        .await
}

/// What hangs on the wall.
#[derive(Deserialize)]
#[cfg_attr(feature = "description", derive(utoipa::IntoParams))]
#[cfg_attr(feature = "description", into_params(parameter_in = Query))]
pub(crate) struct Hung {
    /// A study by its number; the plan when left out.
    study: Option<u8>,
}

/// Pixels across of the picture that is hung: more than a panel takes in a photo as it is worked with.
const HUNG: u32 = 700;

/// The taken candidate on the wall, filled with the plan or a study as it is painted, as PNG.
#[cfg_attr(feature = "description", utoipa::path(get, path = "/api/pieces/{id}/wall/mock-up", params(("id" = i64, Path), Hung), responses((status = 200, content_type = "image/png", body = Vec<u8>), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn mocked_up(State(studio): State<Studio>, Path(id): Path<i64>, Query(hung): Query<Hung>) -> Result<Response, Problem> {
    studio
        .run(move |s| {
            let piece = s.store.piece(id)?.piece;
            let wall = piece.wall.as_ref().ok_or_else(|| Problem::not_found("This piece has no photo of a wall yet. Drop one on it."))?;
            let photo = s.working_copy(&wall.digest)?;
            let shown = in_paint(s, id, hung.study, HUNG)?;
            let picture = mock_up::draw(&piece, &photo, shown.as_ref()).map_err(Problem::unusable)?;
            Ok(([(header::CONTENT_TYPE, "image/png"), (header::CACHE_CONTROL, "no-cache")], png(&picture)?).into_response())
        })
        .await
}
