//! The meter, and the panel that plays the world around it.

use crate::extract::Json as In;
use crate::problem::Problem;
use crate::state::Studio;
use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use lean_colour::Reflectance;
use lean_instruments::{ColourMeter, MeterState, Refused, own_pigment};
use lean_media::Pigment;
use lean_media::layering::State as Wetness;
use lean_piece::paint_box::{BoxId, PaintBox, Swatch};
use lean_plan::paints::learned::predicted;
use serde::{Deserialize, Serialize};

/// The meter as the page shows it.
#[derive(Serialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct MeterView {
    /// Always true: no real meter is built yet.
    simulated: bool,
    /// Whether it answers.
    plugged: bool,
    /// Whether another program holds it.
    busy: bool,
    /// Whether the white tile lies under its head.
    tile: bool,
    /// Whether a swatch lies under its head.
    swatch: bool,
    /// Seconds until it is warm, 0 when it is.
    warm_in: u32,
    /// Readings left before it has to be calibrated, 0 when it has to be now.
    calibrated_for: u32,
    /// What to do before it can read, in a sentence; empty when it can.
    first: String,
}

fn view(studio: &Studio) -> MeterView {
    let meter = studio.meter();
    let MeterState { plugged, warm_in, calibrated_for } = meter.state();
    let first = match (plugged, meter.world.busy, calibrated_for) {
        (false, ..) => Refused::Unplugged.to_string(),
        (_, true, _) => Refused::Busy.to_string(),
        (.., 0) => Refused::OutOfCalibration.to_string(),
        _ => String::new(),
    };
    let world = &meter.world;
    MeterView {
        simulated: true,
        plugged,
        busy: world.busy,
        tile: world.tile,
        swatch: world.under.is_some(),
        warm_in,
        calibrated_for,
        first,
    }
}

fn refused(r: Refused) -> Problem {
    Problem::new(StatusCode::CONFLICT, "instrument", "The meter did not read", r.to_string())
}

/// One reading of what lies under the head.
pub(super) fn read_meter(studio: &Studio) -> Result<Reflectance, Problem> {
    studio.expect_instruments()?;
    studio.meter().read().map_err(refused)
}

/// The meter.
#[cfg_attr(feature = "description", utoipa::path(get, path = "/api/instruments/meter", operation_id = "read_meter", responses((status = 200, body = MeterView), (status = 404, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn meter(State(studio): State<Studio>) -> Result<Json<MeterView>, Problem> {
    studio.expect_instruments()?;
    Ok(Json(view(&studio)))
}

/// Calibrates the meter on its white tile.
#[cfg_attr(feature = "description", utoipa::path(post, path = "/api/instruments/meter/calibrate", operation_id = "calibrate_meter", responses((status = 200, body = MeterView), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 409, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn calibrate(State(studio): State<Studio>) -> Result<Json<MeterView>, Problem> {
    studio.expect_instruments()?;
    studio.meter().calibrate().map_err(refused)?;
    Ok(Json(view(&studio)))
}

/// What lies on the table of the simulated studio.
#[derive(Deserialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct Table {
    /// The white tile lies under the head.
    #[serde(default)]
    tile: bool,
    /// The cable is out.
    #[serde(default)]
    unplugged: bool,
    /// Another program holds the meter.
    #[serde(default)]
    busy: bool,
    /// The swatch under the head, painted with what the Box holds; none is the bare table.
    under: Option<Under>,
}

/// A swatch of a Box.
#[derive(Deserialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct Under {
    /// Of which Box.
    paint_box: String,
    /// What was laid.
    swatch: Swatch,
    /// Still wet.
    #[serde(default)]
    wet: bool,
}

/// The seed of the simulated studio: its pigments differ from their models in the same way every time.
const SEED: u64 = 20_260_301;

/// Plays the world: what lies under the head, whether the cable is in.
#[cfg_attr(feature = "description", utoipa::path(put, path = "/api/instruments/world", operation_id = "play_world", request_body = Table, responses((status = 200, body = MeterView), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 415, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn play(State(studio): State<Studio>, In(table): In<Table>) -> Result<Json<MeterView>, Problem> {
    studio
        .run(move |s| {
            s.expect_instruments()?;
            let under = table.under.map(|u| painted(s, &u)).transpose()?;
            let mut meter = s.meter();
            (meter.world.tile, meter.world.unplugged, meter.world.busy) = (table.tile, table.unplugged, table.busy);
            meter.world.under = under;
            drop(meter);
            Ok(Json(view(s)))
        })
        .await
}

/// A Box as it really is in the simulated studio.
pub(crate) fn own_box(paint_box: &PaintBox) -> PaintBox {
    let own = |p: &Pigment| own_pigment(&p.unlearned(), SEED);
    PaintBox { pigments: paint_box.pigments.iter().map(own).collect(), ..paint_box.clone() }
}

/// A swatch as the painter of the simulated studio paints it: with pigments of their own.
fn painted(studio: &Studio, u: &Under) -> Result<Reflectance, Problem> {
    let paint_box = studio.store.paint_box(&BoxId(u.paint_box.clone()))?;
    let own = own_box(&paint_box);
    let state = if u.wet { Wetness::Wet } else { Wetness::Dry };
    predicted(&own, &u.swatch, state)
        .ok_or_else(|| Problem::unusable("That swatch cannot be painted: a pigment is not in the Box, or the ground does not take it."))
}
