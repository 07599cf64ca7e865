//! One piece: read it, change it, undo, redo.

use crate::extract::{Json as In, Path};
use crate::problem::Problem;
use crate::state::Studio;
use crate::views::PieceView;
use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use lean_plan::requests::Request;
use lean_store::Kept;
use serde::Deserialize;

/// A request and the revision it was meant for.
#[derive(Deserialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct Change {
    /// Revision the page last saw.
    base_revision: i64,
    /// What to change.
    request: Request,
}

/// The revision a step was meant for.
#[derive(Deserialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct Step {
    /// Revision the page last saw.
    base_revision: i64,
}

impl Step {
    /// Revision the page last saw.
    pub(crate) fn base_revision(&self) -> i64 {
        self.base_revision
    }
}

/// A kept piece as the bench shows it.
pub(crate) fn view(studio: &Studio, kept: Kept) -> Result<Json<PieceView>, Problem> {
    let paint_box = studio.box_of(&kept)?;
    Ok(Json(PieceView::of(kept, paint_box.as_ref(), &studio.lists)))
}

/// A piece with all that follows from it.
#[cfg_attr(feature = "description", utoipa::path(get, path = "/api/pieces/{id}", operation_id = "read_piece", params(("id" = i64, Path)), responses((status = 200, body = PieceView), (status = 404, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn read(State(studio): State<Studio>, Path(id): Path<i64>) -> Result<Json<PieceView>, Problem> {
    studio.run(move |s| view(s, s.store.piece(id)?)).await
}

/// Removes a piece and its history.
#[cfg_attr(feature = "description", utoipa::path(delete, path = "/api/pieces/{id}", operation_id = "remove_piece", params(("id" = i64, Path)), responses((status = 204), (status = 404, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn remove(State(studio): State<Studio>, Path(id): Path<i64>) -> Result<StatusCode, Problem> {
    studio.run(move |s| Ok(s.store.delete_piece(id)?)).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Changes a piece. Saved before it is answered.
#[cfg_attr(feature = "description", utoipa::path(post, path = "/api/pieces/{id}/requests", operation_id = "change_piece", params(("id" = i64, Path)), request_body = Change, responses((status = 200, body = PieceView), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 409, body = Problem, content_type = "application/problem+json"), (status = 415, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"), (status = 507, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn change(State(studio): State<Studio>, Path(id): Path<i64>, In(change): In<Change>) -> Result<Json<PieceView>, Problem> {
    studio
        .run(move |s| {
            let kept = s.store.piece(id)?;
            let current = s.box_of(&kept)?;
            let asked = match &change.request {
                Request::UseBox { paint_box } => Some(s.store.paint_box(paint_box)?),
                Request::DrawOnTwo { together: Some(t) } => Some(s.store.paint_box(&t.paint_box)?),
                _ => None,
            };
            let command = change.request.into_command(&kept.piece, current.as_ref(), asked.as_ref())?;
            view(s, s.store.apply(id, Some(change.base_revision), command)?)
        })
        .await
}

/// Takes the last change back.
#[cfg_attr(feature = "description", utoipa::path(post, path = "/api/pieces/{id}/undo", operation_id = "undo_piece", params(("id" = i64, Path)), request_body = Step, responses((status = 200, body = PieceView), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 409, body = Problem, content_type = "application/problem+json"), (status = 415, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn undo(State(studio): State<Studio>, Path(id): Path<i64>, In(step): In<Step>) -> Result<Json<PieceView>, Problem> {
    studio.run(move |s| view(s, s.store.undo(id, step.base_revision)?)).await
}

/// Brings the change taken back last into force again.
#[cfg_attr(feature = "description", utoipa::path(post, path = "/api/pieces/{id}/redo", operation_id = "redo_piece", params(("id" = i64, Path)), request_body = Step, responses((status = 200, body = PieceView), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 409, body = Problem, content_type = "application/problem+json"), (status = 415, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn redo(State(studio): State<Studio>, Path(id): Path<i64>, In(step): In<Step>) -> Result<Json<PieceView>, Problem> {
    studio.run(move |s| view(s, s.store.redo(id, step.base_revision)?)).await
}
