//! Records that cannot be read: saved as they are, and put aside.

use crate::extract::Path;
use crate::problem::Problem;
use crate::state::Studio;
use crate::views::RecordKind;
use axum::extract::State;
use axum::http::{StatusCode, header};
use axum::response::{IntoResponse, Response};

/// A record byte for byte, as a file.
#[cfg_attr(feature = "description", utoipa::path(get, path = "/api/damaged/{what}/{id}", operation_id = "save_damaged", params(("what" = RecordKind, Path), ("id" = String, Path)), responses((status = 200, content_type = "application/octet-stream", body = Vec<u8>), (status = 404, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn save(State(studio): State<Studio>, Path((what, id)): Path<(RecordKind, String)>) -> Result<Response, Problem> {
    let bytes = studio.run(move |s| Ok(s.store.raw(what.into(), &id)?)).await?;
    let headers =
        [(header::CONTENT_TYPE, "application/octet-stream"), (header::CONTENT_DISPOSITION, "attachment; filename=\"record.json\"")];
    Ok((headers, bytes).into_response())
}

/// Puts a record that cannot be read aside. It stays in the data file.
#[cfg_attr(feature = "description", utoipa::path(delete, path = "/api/damaged/{what}/{id}", operation_id = "put_damaged_aside", params(("what" = RecordKind, Path), ("id" = String, Path)), responses((status = 204), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 409, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn put_aside(State(studio): State<Studio>, Path((what, id)): Path<(RecordKind, String)>) -> Result<StatusCode, Problem> {
    studio.run(move |s| Ok(s.store.put_aside(what.into(), &id)?)).await?;
    Ok(StatusCode::NO_CONTENT)
}
