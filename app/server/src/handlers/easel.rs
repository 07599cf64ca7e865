//! A piece at the easel: what to do next, what it should look like, and what is offered before it is dared.

use super::pieces::view;
use crate::extract::{Json as In, Path, Query};
use crate::pictures::png;
use crate::problem::Problem;
use crate::state::Studio;
use crate::views::PieceView;
use axum::Json;
use axum::extract::State;
use axum::http::header;
use axum::response::{IntoResponse, Response};
use jiff::civil::DateTime;
use lean_piece::easel::TaskId;
use lean_piece::easel::{Easel, Stage};
use lean_piece::paint_box::PaintBox;
use lean_piece::{Piece, ZoneId};
use lean_plan::departures::{Follows, as_painted, follows, grown_over_by};
use lean_plan::mark::ZoneMark;
use lean_plan::planned::painted_look;
use lean_plan::requests::Request;
use lean_plan::stages::calendar::{Calendar, calendar};
use lean_plan::stages::glaze::{self, GlazeOffer};
use lean_plan::stages::lay_in::{self, LayInOffer};
use lean_plan::stages::{AtTheEasel, StageLook, ZoneNow, at_the_easel, look_at};
use serde::{Deserialize, Serialize};

/// When it is at the painter's.
#[derive(Deserialize)]
#[cfg_attr(feature = "description", derive(utoipa::IntoParams))]
#[cfg_attr(feature = "description", into_params(parameter_in = Query))]
pub(crate) struct Now {
    /// The painter's own time, as `2025-01-18T19:40`.
    now: String,
}

impl Now {
    fn time(&self) -> Result<DateTime, Problem> {
        self.now.parse().map_err(|_| Problem::unusable(format!("\"{}\" is no time. Write it as 2025-01-18T19:40.", self.now)))
    }
}

/// What the easel shows.
#[derive(Serialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct EaselView {
    /// What there is to do and how it stands; none before there is a set to lay.
    at: Option<AtTheEasel>,
    /// What the departures raise; none without any.
    follows: Option<Follows>,
}

fn with_box(s: &Studio, id: i64) -> Result<(Piece, Option<PaintBox>), Problem> {
    let kept = s.store.piece(id)?;
    let paint_box = s.box_of(&kept)?;
    Ok((kept.piece, paint_box))
}

/// Zones of the plan that are not painted look like what has grown over them, so that the plan's own map can be filled.
fn fill_looks(at: &mut AtTheEasel, gone: &[(ZoneId, ZoneId)]) {
    for look in at.looks.iter_mut().chain([&mut at.now]) {
        let there = |z: ZoneId| look.zones.iter().find(|n| n.zone == z).copied();
        let more: Vec<ZoneNow> = gone.iter().filter_map(|(zone, by)| Some(ZoneNow { zone: *zone, ..there(*by)? })).collect();
        look.zones.extend(more);
    }
}

fn fill_marks(zones: &mut Vec<ZoneMark>, gone: &[(ZoneId, ZoneId)]) {
    let more: Vec<ZoneMark> =
        gone.iter().filter_map(|(zone, by)| Some(ZoneMark { zone: *zone, mark: zones.iter().find(|z| z.zone == *by)?.mark })).collect();
    zones.extend(more);
}

/// A piece at the easel, at the painter's time.
#[cfg_attr(feature = "description", utoipa::path(get, path = "/api/pieces/{id}/easel", operation_id = "read_easel", params(("id" = i64, Path), Now), responses((status = 200, body = EaselView), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn read(State(studio): State<Studio>, Path(id): Path<i64>, Query(now): Query<Now>) -> Result<Json<EaselView>, Problem> {
    let now = now.time()?;
    studio
        .run(move |s| {
            let (piece, paint_box) = with_box(s, id)?;
            let Some(b) = paint_box else { return Ok(Json(EaselView { at: None, follows: None })) };
            // Orders that contradict each other since zones were changed do not close the easel: the usual order is shown.
            let usual = || Piece { easel: Easel { orders: Vec::new(), ..piece.easel.clone() }, ..piece.clone() };
            let mut at = at_the_easel(&piece, &b, now).or_else(|_| at_the_easel(&usual(), &b, now)).map_err(Problem::unusable)?;
            if let Some(at) = &mut at {
                fill_looks(at, &grown_over_by(&piece, &as_painted(&piece)));
            }
            Ok(Json(EaselView { at, follows: follows(&piece, &b) }))
        })
        .await
}

/// A task that was done, or not after all.
#[derive(Deserialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct DidTask {
    /// Which.
    task: TaskId,
    /// Whether it is done.
    done: bool,
    /// When, in local time as `2025-01-18T19:40`; `None` when nobody knows any more.
    at: Option<String>,
    /// Revision the page last saw.
    base_revision: i64,
}

/// Says that a task is done: all that a device at the easel may change of a piece.
#[cfg_attr(feature = "description", utoipa::path(put, path = "/api/pieces/{id}/easel/done", operation_id = "did_task", params(("id" = i64, Path)), request_body = DidTask, responses((status = 200, body = PieceView), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 409, body = Problem, content_type = "application/problem+json"), (status = 415, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn did(State(studio): State<Studio>, Path(id): Path<i64>, In(did): In<DidTask>) -> Result<Json<PieceView>, Problem> {
    studio
        .run(move |s| {
            let kept = s.store.piece(id)?;
            let request = Request::DidTask { task: did.task, done: did.done, at: did.at };
            let command = request.into_command(&kept.piece, s.box_of(&kept)?.as_ref(), None)?;
            view(s, s.store.apply(id, Some(did.base_revision), command)?)
        })
        .await
}

/// What could be laid under or over it.
#[derive(Serialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct EaselOffers {
    /// Value lay-ins, the one that shows least first.
    lay_ins: Vec<LayInOffer>,
    /// Unifying last layers, most worth it first.
    glazes: Vec<GlazeOffer>,
}

/// What could be laid under or over it, predicted before it is dared.
#[cfg_attr(feature = "description", utoipa::path(get, path = "/api/pieces/{id}/easel/offers", operation_id = "read_easel_offers", params(("id" = i64, Path)), responses((status = 200, body = EaselOffers), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn offers(State(studio): State<Studio>, Path(id): Path<i64>) -> Result<Json<EaselOffers>, Problem> {
    studio
        .run(move |s| {
            let (piece, paint_box) = with_box(s, id)?;
            let Some(b) = paint_box.filter(|_| !piece.chosen.pigments.is_empty()) else {
                return Err(Problem::unusable("There is no set yet. Choose one at the Lean set first."));
            };
            let painted = as_painted(&piece);
            let gone = grown_over_by(&piece, &painted);
            let mut offers = EaselOffers { lay_ins: lay_in::offers(&painted, &b), glazes: glaze::offers(&painted, &b) };
            offers.lay_ins.iter_mut().for_each(|o| fill_marks(&mut o.zones, &gone));
            offers.glazes.iter_mut().for_each(|o| fill_marks(&mut o.zones, &gone));
            Ok(Json(offers))
        })
        .await
}

/// Which look of the piece.
#[derive(Deserialize)]
#[cfg_attr(feature = "description", derive(utoipa::IntoParams))]
#[cfg_attr(feature = "description", into_params(parameter_in = Query))]
pub(crate) struct WhichLook {
    /// After which stage; as it is now when left out.
    stage: Option<Stage>,
    /// Pixels across, 40 to 1600.
    width: Option<u32>,
}

/// The piece as it should look after a stage, or now, painted, as PNG.
#[cfg_attr(feature = "description", utoipa::path(get, path = "/api/pieces/{id}/easel/look", operation_id = "view_easel", params(("id" = i64, Path), WhichLook), responses((status = 200, content_type = "image/png", body = Vec<u8>), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn look(State(studio): State<Studio>, Path(id): Path<i64>, Query(which): Query<WhichLook>) -> Result<Response, Problem> {
    studio
        .run(move |s| {
            let (piece, paint_box) = with_box(s, id)?;
            let painted = as_painted(&piece);
            let look: Option<StageLook> = paint_box.and_then(|b| look_at(&painted, &b, which.stage));
            let look = look.ok_or_else(|| Problem::unusable("There is no set yet, so nothing can be shown on its way."))?;
            let width = which.width.unwrap_or(900).clamp(40, 1600);
            let picture = painted_look(&painted, &look, width).ok_or_else(|| Problem::unusable("There are no zones yet."))?;
            let picture = s.with_lines(&piece, picture)?;
            Ok(([(header::CONTENT_TYPE, "image/png"), (header::CACHE_CONTROL, "no-cache")], png(&picture)?).into_response())
        })
        .await
}

/// All pieces that are due, timed together for one pair of hands.
#[cfg_attr(feature = "description", utoipa::path(get, path = "/api/easel/calendar", operation_id = "read_calendar", params(Now), responses((status = 200, body = Calendar), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn all(State(studio): State<Studio>, Query(now): Query<Now>) -> Result<Json<Calendar>, Problem> {
    let now = now.time()?;
    studio
        .run(move |s| {
            let mut pieces = Vec::new();
            for summary in s.store.pieces()?.into_iter().filter(|p| p.line.due.is_some()) {
                let (piece, paint_box) = with_box(s, summary.id)?;
                if let Some(b) = paint_box {
                    pieces.push((summary.id, piece, b));
                }
            }
            Ok(Json(calendar(&pieces, now).map_err(Problem::unusable)?))
        })
        .await
}
