//! Readings that a simulated instrument made up, in a studio without one.

use super::readings::{ReadingsView, changed};
use crate::extract::Path;
use crate::problem::Problem;
use crate::state::Studio;
use crate::views::PlayedReadings;
use axum::Json;
use axum::extract::State;
use lean_piece::paint_box::BoxId;
use lean_store::Readings;

/// Boxes with readings a simulated instrument made up; none in a studio whose instruments are simulated.
pub(super) fn played_readings(s: &Studio) -> Result<Vec<PlayedReadings>, Problem> {
    if s.simulates {
        return Ok(Vec::new());
    }
    let line = |(id, readings): (BoxId, Vec<i64>)| {
        let name = s.store.paint_box(&id)?.name;
        Ok(PlayedReadings { paint_box: id, name, readings: readings.len() })
    };
    s.store.played_readings()?.into_iter().map(line).collect()
}

/// Sets the readings of a Box aside that a simulated instrument made up: they are kept, left out, and the Box is learned anew without them.
#[cfg_attr(feature = "description", utoipa::path(post, path = "/api/boxes/{id}/readings/played/aside", operation_id = "set_played_readings_aside", params(("id" = String, Path)), responses((status = 200, body = ReadingsView), (status = 404, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn set_aside(State(studio): State<Studio>, Path(id): Path<String>) -> Result<Json<ReadingsView>, Problem> {
    studio
        .run(move |s| {
            let id = BoxId(id);
            let played = s.store.played_readings()?.into_iter().find(|(of, _)| *of == id).map(|(_, all)| all).unwrap_or_default();
            Ok(Json(changed(s, &id, Readings::LeaveOut(played))?))
        })
        .await
}
