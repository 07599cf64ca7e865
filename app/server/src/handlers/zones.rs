//! Zones: found, joined, parted, moved in the field.

use super::pieces::view;
use crate::extract::{Json as In, Path};
use crate::problem::Problem;
use crate::state::Studio;
use crate::views::PieceView;
use axum::Json;
use axum::extract::State;
use lean_picture::line_drawing::Lines;
use lean_picture::place::Place;
use lean_picture::segment::ZONES;
use lean_studio::findings::Finding;
use lean_studio::mixes::{Mark, Well, ZoneMix};
use lean_studio::outlook::outlook;
use lean_studio::piece::{Command, ZoneId};
use lean_studio::wishes::{FieldMove, moved};
use lean_studio::zones;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// How many zones to find.
#[derive(Deserialize, ToSchema)]
pub struct Proposal {
    /// Revision the page last saw.
    base_revision: i64,
    /// How many, 1..=24.
    #[schema(minimum = 1, maximum = 24)]
    count: usize,
}

/// Two zones to join.
#[derive(Deserialize, ToSchema)]
pub struct Merge {
    /// Revision the page last saw.
    base_revision: i64,
    /// The zone that disappears.
    from: ZoneId,
    /// The zone that keeps its number and name.
    into: ZoneId,
}

/// A zone and the line that parts it.
#[derive(Deserialize, ToSchema)]
pub struct Split {
    /// Revision the page last saw.
    base_revision: i64,
    /// Which zone.
    zone: ZoneId,
    /// The line, from end to end; it is lengthened to the edge of the zone.
    stroke: Vec<Place>,
}

/// A line from one zone into another.
#[derive(Deserialize, ToSchema)]
pub struct Across {
    /// Revision the page last saw.
    base_revision: i64,
    /// The line.
    stroke: Vec<Place>,
}

/// What becomes of the lines of a drawing.
#[derive(Deserialize, ToSchema)]
pub struct FromLines {
    /// Revision the page last saw.
    base_revision: i64,
    /// Whether the lines are a zone of their own.
    outline: bool,
}

/// A mark dragged in the field.
#[derive(Deserialize, ToSchema)]
pub struct Drag {
    /// Revision the page last saw.
    base_revision: i64,
    /// Which zone.
    zone: ZoneId,
    /// Where to.
    to: FieldMove,
}

/// What would follow from a drag, while it goes on.
#[derive(Serialize, ToSchema)]
pub struct Preview {
    /// Where the mark would be.
    target: Mark,
    /// Every mix.
    mixes: Vec<ZoneMix>,
    /// The tray.
    wells: Vec<Well>,
    /// What would be noticed.
    findings: Vec<Finding>,
    /// Cost of the set in use.
    cost: Option<f64>,
}

/// Finds zones anew. Names and targets start anew too; undo brings the old ones back.
#[utoipa::path(post, path = "/api/pieces/{id}/zones/propose", params(("id" = i64, Path)), request_body = Proposal, responses((status = 200, body = PieceView), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 409, body = Problem, content_type = "application/problem+json"), (status = 415, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json")))]
pub async fn propose(State(studio): State<Studio>, Path(id): Path<i64>, In(ask): In<Proposal>) -> Result<Json<PieceView>, Problem> {
    studio
        .run(move |s| {
            if !ZONES.contains(&ask.count) {
                return Err(Problem::unusable(format!("{} zones cannot be found; ask for 1 to {}.", ask.count, ZONES.end())));
            }
            let (kept, picture) = s.piece_and_picture(id)?;
            let proposal = s.proposal(&kept, &picture);
            view(s, s.store.apply(id, Some(ask.base_revision), zones::propose(&kept.piece, &picture, &proposal, ask.count))?)
        })
        .await
}

/// Joins two zones.
#[utoipa::path(post, path = "/api/pieces/{id}/zones/merge", params(("id" = i64, Path)), request_body = Merge, responses((status = 200, body = PieceView), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 409, body = Problem, content_type = "application/problem+json"), (status = 415, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json")))]
pub async fn merge(State(studio): State<Studio>, Path(id): Path<i64>, In(ask): In<Merge>) -> Result<Json<PieceView>, Problem> {
    studio
        .run(move |s| {
            let (kept, picture) = s.piece_and_picture(id)?;
            let command = zones::merge(&kept.piece, &picture, ask.from, ask.into).map_err(Problem::unusable)?;
            view(s, s.store.apply(id, Some(ask.base_revision), command)?)
        })
        .await
}

/// Parts a zone along a drawn line.
#[utoipa::path(post, path = "/api/pieces/{id}/zones/split", params(("id" = i64, Path)), request_body = Split, responses((status = 200, body = PieceView), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 409, body = Problem, content_type = "application/problem+json"), (status = 415, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json")))]
pub async fn split(State(studio): State<Studio>, Path(id): Path<i64>, In(ask): In<Split>) -> Result<Json<PieceView>, Problem> {
    studio
        .run(move |s| {
            let (kept, picture) = s.piece_and_picture(id)?;
            let command = zones::split(&kept.piece, &picture, ask.zone, &ask.stroke).map_err(Problem::unusable)?;
            view(s, s.store.apply(id, Some(ask.base_revision), command)?)
        })
        .await
}

/// Joins the two zones a line leads between.
#[utoipa::path(post, path = "/api/pieces/{id}/zones/join", params(("id" = i64, Path)), request_body = Across, responses((status = 200, body = PieceView), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 409, body = Problem, content_type = "application/problem+json"), (status = 415, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json")))]
pub async fn join(State(studio): State<Studio>, Path(id): Path<i64>, In(ask): In<Across>) -> Result<Json<PieceView>, Problem> {
    studio
        .run(move |s| {
            let (kept, picture) = s.piece_and_picture(id)?;
            let command = zones::join_by(&kept.piece, &picture, &ask.stroke).map_err(Problem::unusable)?;
            view(s, s.store.apply(id, Some(ask.base_revision), command)?)
        })
        .await
}

/// Redraws a border of a zone: what the line encloses is taken in or cut off.
#[utoipa::path(post, path = "/api/pieces/{id}/zones/redraw", params(("id" = i64, Path)), request_body = Split, responses((status = 200, body = PieceView), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 409, body = Problem, content_type = "application/problem+json"), (status = 415, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json")))]
pub async fn redraw(State(studio): State<Studio>, Path(id): Path<i64>, In(ask): In<Split>) -> Result<Json<PieceView>, Problem> {
    studio
        .run(move |s| {
            let (kept, picture) = s.piece_and_picture(id)?;
            let command = zones::redraw(&kept.piece, &picture, ask.zone, &ask.stroke).map_err(Problem::unusable)?;
            view(s, s.store.apply(id, Some(ask.base_revision), command)?)
        })
        .await
}

/// Makes the closed outlines of a line drawing the zones.
#[utoipa::path(post, path = "/api/pieces/{id}/zones/lines", params(("id" = i64, Path)), request_body = FromLines, responses((status = 200, body = PieceView), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 409, body = Problem, content_type = "application/problem+json"), (status = 415, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json")))]
pub async fn from_lines(State(studio): State<Studio>, Path(id): Path<i64>, In(ask): In<FromLines>) -> Result<Json<PieceView>, Problem> {
    studio
        .run(move |s| {
            let (kept, picture) = s.piece_and_picture(id)?;
            let lines = if ask.outline { Lines::Zone } else { Lines::Given };
            let command = zones::from_lines(&kept.piece, &picture, lines).map_err(Problem::unusable)?;
            view(s, s.store.apply(id, Some(ask.base_revision), command)?)
        })
        .await
}

fn dragged(kept: &lean_store::Kept, ask: &Drag) -> Result<Command, Problem> {
    let zone = kept.piece.zone(ask.zone).ok_or(lean_studio::piece::Refusal::NoSuchZone(ask.zone.0))?;
    Ok(Command::SetTarget { zone: ask.zone, target: moved(zone.target, kept.piece.neutral(), ask.to)? })
}

/// Moves a zone's mark in the field: up and down its value, sideways its temperature.
#[utoipa::path(post, path = "/api/pieces/{id}/zones/move", params(("id" = i64, Path)), request_body = Drag, responses((status = 200, body = PieceView), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 409, body = Problem, content_type = "application/problem+json"), (status = 415, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json")))]
pub async fn drag(State(studio): State<Studio>, Path(id): Path<i64>, In(ask): In<Drag>) -> Result<Json<PieceView>, Problem> {
    studio
        .run(move |s| {
            let command = dragged(&s.store.piece(id)?, &ask)?;
            view(s, s.store.apply(id, Some(ask.base_revision), command)?)
        })
        .await
}

/// What would follow if the mark were let go here. Changes nothing.
#[utoipa::path(post, path = "/api/pieces/{id}/zones/preview", params(("id" = i64, Path)), request_body = Drag, responses((status = 200, body = Preview), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 415, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json")))]
pub async fn preview(State(studio): State<Studio>, Path(id): Path<i64>, In(ask): In<Drag>) -> Result<Json<Preview>, Problem> {
    studio
        .run(move |s| {
            let kept = s.store.piece(id)?;
            let command = dragged(&kept, &ask)?;
            let piece = kept.piece.apply(command)?.0;
            let paint_box = s.box_of(&kept)?;
            let o = outlook(&piece, paint_box.as_ref());
            let target =
                o.shapes.iter().find(|z| z.zone == ask.zone).map(|z| z.target).ok_or_else(|| Problem::not_found("That zone is gone."))?;
            Ok(Json(Preview { target, mixes: o.mixes, wells: o.wells, findings: o.findings, cost: o.cost }))
        })
        .await
}
