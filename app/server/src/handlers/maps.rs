//! Maps of places and masses as shapes to be drawn.

use crate::extract::Path;
use crate::problem::Problem;
use crate::state::Studio;
use axum::Json;
use axum::extract::State;
use axum::http::header;
use axum::response::IntoResponse;
use serde::Serialize;

/// One connected shape.
#[derive(Serialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct PlaceView {
    /// Zone, or mass, it is of.
    of: u16,
    /// Where its number is written, in cells.
    x: f64,
    /// Where its number is written, in cells.
    y: f64,
    /// Share of the picture.
    share: f64,
    /// SVG path data in cells; fill by the even–odd rule.
    path: String,
}

/// A map as shapes.
#[derive(Serialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct MapView {
    /// Cells across.
    width: u32,
    /// Cells down.
    height: u32,
    /// Every place, by zone (or mass) and from the largest down.
    places: Vec<PlaceView>,
}

/// The shapes of a map. A digest always names the same map.
#[cfg_attr(feature = "description", utoipa::path(get, path = "/api/maps/{digest}", operation_id = "read_map", params(("digest" = String, Path)), responses((status = 200, body = MapView), (status = 404, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn read(State(studio): State<Studio>, Path(digest): Path<String>) -> Result<impl IntoResponse, Problem> {
    studio
        .run(move |s| {
            let map = s.store.map(&digest)?;
            let (width, height) = map.size();
            let cells = f64::from(width) * f64::from(height);
            let places = map.geometry().places.iter().map(|p| PlaceView {
                of: p.zone,
                x: f64::from(p.label_at.0) + 0.5,
                y: f64::from(p.label_at.1) + 0.5,
                share: f64::from(p.cells) / cells,
                path: p.path.clone(),
            });
            let view = MapView { width, height, places: places.collect() };
            Ok(([(header::CACHE_CONTROL, "private, max-age=31536000, immutable")], Json(view)))
        })
        .await
}
