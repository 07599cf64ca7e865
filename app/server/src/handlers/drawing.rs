//! Colouring a drawing: its shapes and the plans of its values.

use super::work::with_box_if_any;
use crate::extract::{Path, Query};
use crate::pictures::png;
use crate::problem::Problem;
use crate::state::Studio;
use axum::Json;
use axum::extract::State;
use axum::http::header;
use axum::response::{IntoResponse, Response};
use lean_piece::ZoneId;
use lean_plan::drawing::{ValuePlan, alike, is_drawing, value_plans};
use lean_plan::mixes::reach_of;
use lean_plan::planned;
use lean_plan::requests::Request;
use serde::{Deserialize, Serialize};

/// A drawing by its shapes.
#[derive(Serialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct Drawing {
    /// Number of its shapes.
    shapes: usize,
    /// Number of shapes that have a colour or are left bare.
    coloured: usize,
    /// Shapes that mirror each other, in groups.
    alike: Vec<Vec<ZoneId>>,
    /// Three plans of its values.
    plans: Vec<ValuePlan>,
}

/// The shapes of a drawing with three plans of their values, within what the Box can lay.
#[cfg_attr(feature = "description", utoipa::path(get, path = "/api/pieces/{id}/drawing", params(("id" = i64, Path)), responses((status = 200, body = Drawing), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn read(State(studio): State<Studio>, Path(id): Path<i64>) -> Result<Json<Drawing>, Problem> {
    let (piece, paint_box) = with_box_if_any(&studio, id).await?;
    if !is_drawing(&piece) {
        return Err(Problem::unusable("This reference is read as a picture. Read it as a drawing first."));
    }
    studio
        .run(move |_| {
            let reach = paint_box.and_then(|b| reach_of(&piece, &b));
            Ok(Json(Drawing {
                shapes: piece.zones.len(),
                coloured: piece.zones.iter().filter(|z| !z.open).count(),
                alike: alike(&piece),
                plans: value_plans(&piece, reach, &[]),
            }))
        })
        .await
}

/// One of the plans.
#[derive(Deserialize)]
#[cfg_attr(feature = "description", derive(utoipa::IntoParams))]
pub(crate) struct Which {
    /// 1, 2 or 3.
    plan: u8,
}

/// A drawing in the greys of one of the plans of its values, its lines over them, as PNG.
#[cfg_attr(feature = "description", utoipa::path(get, path = "/api/pieces/{id}/drawing/view", operation_id = "look_at_value_plan", params(("id" = i64, Path), Which), responses((status = 200, content_type = "image/png", body = Vec<u8>), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn look(State(studio): State<Studio>, Path(id): Path<i64>, Query(which): Query<Which>) -> Result<Response, Problem> {
    let (piece, paint_box) = with_box_if_any(&studio, id).await?;
    studio
        .run(move |s| {
            let values = Request::PlanValues { plan: which.plan, keep: Vec::new() };
            let piece = piece.apply(values.into_command(&piece, paint_box.as_ref(), None)?)?.0;
            let greys = planned::draw(&piece, planned::What::Planned)
                .ok_or_else(|| Problem::unusable("There are no shapes whose values could be planned. Drop a drawing first."))?;
            let kind = [(header::CONTENT_TYPE, "image/png"), (header::CACHE_CONTROL, "no-cache")];
            Ok((kind, png(&s.with_lines(&piece, greys)?)?).into_response())
        })
        .await
}
