//! The wheel of a piece: opposites by its school, and what really greys what in its Box.

use crate::extract::Path;
use crate::problem::Problem;
use crate::state::Studio;
use axum::Json;
use axum::extract::State;
use lean_plan::wheel::greying::{Thread, threads};
use lean_plan::wheel::{Opposite, Wheel};
use serde::Serialize;

/// The wheel of a piece.
#[derive(Serialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct WheelView {
    /// Opposites all round, on the wheel of the school chosen.
    opposites: Vec<Opposite>,
    /// Pigments of the Box that really grey each other, greyest first.
    threads: Vec<Thread>,
}

/// The wheel of a piece, on the Box it draws on.
#[cfg_attr(feature = "description", utoipa::path(get, path = "/api/pieces/{id}/wheel", operation_id = "read_wheel", params(("id" = i64, Path)), responses((status = 200, body = WheelView), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn read(State(studio): State<Studio>, Path(id): Path<i64>) -> Result<Json<WheelView>, Problem> {
    studio
        .run(move |s| {
            let kept = s.store.piece(id)?;
            let paint_box = s.needed_box(&kept)?;
            paint_box.searchable(&kept.piece.excluded).map_err(Problem::unusable)?;
            let opposites = Wheel::of(&kept.piece, &paint_box).opposites();
            Ok(Json(WheelView { opposites, threads: threads(&kept.piece, &paint_box) }))
        })
        .await
}
