//! Grounds of one's own.

use crate::extract::{Json as In, Path, Query};
use crate::problem::Problem;
use crate::seen_version::{SeenVersion, version_of};
use crate::state::Studio;
use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use lean_media::Ground;
use lean_piece::own_ground::GroundRecord;
use lean_store::GroundNumber;
use serde::Serialize;

/// A ground of one's own.
#[derive(Serialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct GroundLine {
    /// Its number.
    number: GroundNumber,
    /// The state it is in: sent back with a change of it.
    version: String,
    /// Its record.
    record: GroundRecord,
    /// As pieces know it.
    ground: Ground,
}

fn lines(studio: &Studio) -> Result<Vec<GroundLine>, Problem> {
    let line = |(number, record): (GroundNumber, GroundRecord)| {
        Some(GroundLine { number, version: version_of(&record), ground: record.ground.ground()?, record })
    };
    Ok(studio.store.grounds()?.into_iter().filter_map(line).collect())
}

/// All grounds of one's own, as pieces know them.
pub(super) fn own(studio: &Studio) -> Result<Vec<Ground>, Problem> {
    Ok(lines(studio)?.into_iter().map(|l| l.ground).collect())
}

/// The grounds of one's own.
#[cfg_attr(feature = "description", utoipa::path(get, path = "/api/grounds", operation_id = "list_grounds", responses((status = 200, body = Vec<GroundLine>))))]
pub(crate) async fn list(State(studio): State<Studio>) -> Result<Json<Vec<GroundLine>>, Problem> {
    studio.run(move |s| lines(s).map(Json)).await
}

/// Keeps a new ground.
#[cfg_attr(feature = "description", utoipa::path(post, path = "/api/grounds", operation_id = "create_ground", request_body = GroundRecord, responses((status = 201, body = Vec<GroundLine>), (status = 415, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn create(
    State(studio): State<Studio>,
    In(record): In<GroundRecord>,
) -> Result<(StatusCode, Json<Vec<GroundLine>>), Problem> {
    studio
        .run(move |s| {
            record.check().map_err(Problem::unusable)?;
            s.store.create_ground(&record)?;
            Ok((StatusCode::CREATED, Json(lines(s)?)))
        })
        .await
}

/// Keeps the record of a ground as it is now. Pieces keep the ground as it was when they took it.
#[cfg_attr(feature = "description", utoipa::path(put, path = "/api/grounds/{number}", operation_id = "put_ground", params(("number" = i64, Path), SeenVersion), request_body = GroundRecord, responses((status = 200, body = Vec<GroundLine>), (status = 409, body = Problem, content_type = "application/problem+json"), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 415, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn put(
    State(studio): State<Studio>,
    Path(number): Path<i64>,
    Query(seen): Query<SeenVersion>,
    In(record): In<GroundRecord>,
) -> Result<Json<Vec<GroundLine>>, Problem> {
    studio
        .run(move |s| {
            record.check().map_err(Problem::unusable)?;
            s.store.change_ground(number, &record, |now| seen.is(now, "ground"))?;
            lines(s).map(Json)
        })
        .await
}

/// Removes a ground. Pieces painted on it keep it.
#[cfg_attr(feature = "description", utoipa::path(delete, path = "/api/grounds/{number}", operation_id = "remove_ground", params(("number" = i64, Path)), responses((status = 200, body = Vec<GroundLine>), (status = 404, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn remove(State(studio): State<Studio>, Path(number): Path<i64>) -> Result<Json<Vec<GroundLine>>, Problem> {
    studio
        .run(move |s| {
            s.store.delete_ground(number)?;
            lines(s).map(Json)
        })
        .await
}
