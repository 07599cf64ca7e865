//! What can be planned for the surface of a zone.

use crate::extract::{Path, Query};
use crate::problem::Problem;
use crate::state::Studio;
use axum::Json;
use axum::extract::State;
use lean_piece::{Millimetres, ZoneId};
use lean_plan::mixes::mixes_of;
use lean_plan::surfaces::reserved::{Reserved, reserved};
use lean_plan::surfaces::{Surfaces, surfaces};
use serde::{Deserialize, Serialize};

/// How a surface is planned.
#[derive(Deserialize)]
#[cfg_attr(feature = "description", derive(utoipa::IntoParams))]
#[cfg_attr(feature = "description", into_params(parameter_in = Query))]
pub(crate) struct Asked {
    /// How many siblings, 2 to 12; four when left out.
    #[cfg_attr(feature = "description", param(minimum = 2, maximum = 12))]
    count: Option<usize>,
    /// From how far the piece is seen, in millimetres, 200 to 20000; two and a half metres when left out.
    #[cfg_attr(feature = "description", param(minimum = 200, maximum = 20000))]
    distance: Option<f64>,
}

/// The surface of a zone, and what of the whole piece stays bare.
#[derive(Serialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct SurfacesView {
    /// The zone's.
    surfaces: Surfaces,
    /// Zones that stay bare ground.
    reserved: Vec<Reserved>,
}

/// What can be planned for the surface of a zone with the set in use.
#[cfg_attr(feature = "description", utoipa::path(get, path = "/api/pieces/{id}/surfaces/{zone}", operation_id = "read_surfaces", params(("id" = i64, Path), ("zone" = u16, Path), Asked), responses((status = 200, body = SurfacesView), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn read(
    State(studio): State<Studio>,
    Path((id, zone)): Path<(i64, u16)>,
    Query(asked): Query<Asked>,
) -> Result<Json<SurfacesView>, Problem> {
    let (count, distance) = (asked.count.unwrap_or(4), asked.distance.unwrap_or(2500.0));
    if !(2..=12).contains(&count) || !(200.0..=20_000.0).contains(&distance) {
        return Err(Problem::unusable("Siblings are 2 to 12; a piece is seen from 200 to 20000 mm."));
    }
    studio
        .run(move |s| {
            let kept = s.store.piece(id)?;
            let paint_box = s.needed_box(&kept)?;
            let mixes = mixes_of(&kept.piece, Some(&paint_box));
            let surfaces = surfaces(&kept.piece, &paint_box, ZoneId(zone), count, Millimetres(distance)).map_err(Problem::unusable)?;
            Ok(Json(SurfacesView { surfaces, reserved: reserved(&kept.piece, &mixes) }))
        })
        .await
}
