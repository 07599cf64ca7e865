//! Zones turned in the light, and laid flat again.

use super::pieces::view;
use crate::extract::{Json as In, Path};
use crate::problem::Problem;
use crate::state::Studio;
use crate::views::PieceView;
use axum::Json;
use axum::extract::State;
use lean_picture::form::Bulge;
use lean_picture::spot::Spot;
use lean_piece::{Command, Piece, ZoneId};
use lean_plan::form::{Turning, lay_flat, turn};
use lean_plan::light::key::Reach;
use lean_plan::mixes::reach_of;
use lean_plan::zones::Surveyed;
use serde::Deserialize;

/// Zones to be turned in the light, and the manner of it.
#[derive(Deserialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct TurnZones {
    /// Revision the page last saw.
    base_revision: i64,
    /// The zones.
    zones: Vec<ZoneId>,
    /// Their bulge; left out for the light and dark that the picture has in them, of a drawing a round form.
    bulge: Option<Bulge>,
    /// Share of each that lies in shadow.
    #[cfg_attr(feature = "description", schema(minimum = 0.1, maximum = 0.7))]
    dark: f64,
    /// True to keep a rim of thrown-back light and a highlight.
    edges: bool,
    /// A line along which the shadow begins; empty where the light says it.
    #[serde(default)]
    shadow: Vec<Spot>,
    /// True to keep the mean colour of each.
    #[serde(default)]
    holds_mean: bool,
}

/// Zones that are laid flat.
#[derive(Deserialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct LayFlat {
    /// Revision the page last saw.
    base_revision: i64,
    /// The zones.
    zones: Vec<ZoneId>,
}

/// Reach that is taken where there is no Box.
const ANY: Reach = Reach { darkest: 1.2, lightest: 9.5, lightest_layer: 9.5 };

async fn mend(
    studio: Studio,
    id: i64,
    base: i64,
    command: impl FnOnce(&Piece, Surveyed, Reach) -> Result<Command, String> + Send + 'static,
) -> Result<Json<PieceView>, Problem> {
    studio
        .run(move |s| {
            let (kept, picture) = s.piece_and_picture(id)?;
            let survey = s.survey(&kept, &picture);
            let paint_box = s.box_of(&kept)?;
            let reach = paint_box.as_ref().and_then(|b| reach_of(&kept.piece, b)).unwrap_or(ANY);
            let command = command(&kept.piece, Surveyed { working: &picture, survey: &survey }, reach).map_err(Problem::unusable)?;
            view(s, s.store.apply(id, Some(base), command)?)
        })
        .await
}

/// Turns zones in the light: each is cut into its shadow side, middle and light, and where there is room into a rim and a highlight.
#[cfg_attr(feature = "description", utoipa::path(post, path = "/api/pieces/{id}/zones/turn", operation_id = "turn_zones", params(("id" = i64, Path)), request_body = TurnZones, responses((status = 200, body = PieceView), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 409, body = Problem, content_type = "application/problem+json"), (status = 415, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn turned(State(studio): State<Studio>, Path(id): Path<i64>, In(ask): In<TurnZones>) -> Result<Json<PieceView>, Problem> {
    let TurnZones { base_revision, zones, bulge, dark, edges, shadow, holds_mean } = ask;
    let turning = Turning { zones, bulge, dark, edges, shadow, holds_mean };
    mend(studio, id, base_revision, move |piece, look, reach| turn(piece, look, reach, &turning)).await
}

/// Lays turned zones flat again.
#[cfg_attr(feature = "description", utoipa::path(post, path = "/api/pieces/{id}/zones/flat", operation_id = "lay_zones_flat", params(("id" = i64, Path)), request_body = LayFlat, responses((status = 200, body = PieceView), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 409, body = Problem, content_type = "application/problem+json"), (status = 415, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn flat(State(studio): State<Studio>, Path(id): Path<i64>, In(ask): In<LayFlat>) -> Result<Json<PieceView>, Problem> {
    mend(studio, id, ask.base_revision, move |piece, look, _| lay_flat(piece, look, &ask.zones)).await
}
