//! Zones: found, joined, parted, moved in the field.

use super::pieces::{Step, view};
use crate::extract::{Json as In, Path};
use crate::problem::Problem;
use crate::state::Studio;
use crate::views::PieceView;
use axum::Json;
use axum::extract::State;
use lean_picture::line_drawing::Lines;
use lean_picture::spot::Spot;
use lean_piece::change::SetTarget;
use lean_piece::{Command, MassId, Piece, ZoneId};
use lean_plan::carry_out::moved;
use lean_plan::derived::longer_side;
use lean_plan::derived::{Glimpse, glimpse};
use lean_plan::findings::Finding;
use lean_plan::mark::Mark;
use lean_plan::mixes::{MixInWords, Well, ZoneMix};
use lean_plan::requests::FieldMove;
use lean_plan::zones::{self, COLOUR_RANGE, Surveyed, dials};
use serde::{Deserialize, Serialize};

/// How many colours to show.
#[derive(Deserialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct Count {
    /// Revision the page last saw.
    base_revision: i64,
    /// How many, 3..=24.
    #[cfg_attr(feature = "description", schema(minimum = 3, maximum = 24))]
    count: usize,
}

/// How large a brush to lay the places with.
#[derive(Deserialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct Brush {
    /// Revision the page last saw.
    base_revision: i64,
    /// The smallest mark on the piece, in millimetres; from a hundred-and-fiftieth to a tenth of the longer side.
    millimetres: f64,
}

/// A spot of the picture.
#[derive(Deserialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct At {
    /// Revision the page last saw.
    base_revision: i64,
    /// Where.
    at: Spot,
}

/// A place and the zone it is given to.
#[derive(Deserialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct Gift {
    /// Revision the page last saw.
    base_revision: i64,
    /// A spot of the place.
    at: Spot,
    /// The zone.
    to: ZoneId,
}

/// A zone and a mass it lies in.
#[derive(Deserialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct InMass {
    /// Revision the page last saw.
    base_revision: i64,
    /// The zone.
    zone: ZoneId,
    /// The mass whose part becomes a zone of its own.
    mass: MassId,
}

/// Two zones to join.
#[derive(Deserialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct Merge {
    /// Revision the page last saw.
    base_revision: i64,
    /// The zone that disappears.
    from: ZoneId,
    /// The zone that keeps its number and name.
    into: ZoneId,
}

/// A zone and the line that parts it.
#[derive(Deserialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct Split {
    /// Revision the page last saw.
    base_revision: i64,
    /// Which zone.
    zone: ZoneId,
    /// The line, from end to end; it is lengthened to the edge of the zone.
    stroke: Vec<Spot>,
}

/// A line from one zone into another.
#[derive(Deserialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct Across {
    /// Revision the page last saw.
    base_revision: i64,
    /// The line.
    stroke: Vec<Spot>,
}

/// What becomes of the lines of a drawing.
#[derive(Deserialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct FromLines {
    /// Revision the page last saw.
    base_revision: i64,
    /// Whether the lines are a zone of their own.
    outline: bool,
}

/// A mark dragged in the field.
#[derive(Deserialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct Drag {
    /// Revision the page last saw.
    base_revision: i64,
    /// Which zone.
    zone: ZoneId,
    /// Where to.
    to: FieldMove,
}

/// What would follow from a drag, while it goes on.
#[derive(Serialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct Preview {
    /// Where the mark would be.
    target: Mark,
    /// Every mix.
    mixes: Vec<ZoneMix>,
    /// The same in words.
    told: Vec<MixInWords>,
    /// The tray.
    wells: Vec<Well>,
    /// What would be noticed.
    findings: Vec<Finding>,
    /// Cost of the set in use.
    cost: Option<f64>,
}

/// Looks at a piece's picture and applies the command that follows.
async fn mend(
    studio: Studio,
    id: i64,
    base: i64,
    command: impl FnOnce(&Piece, Surveyed) -> Result<Command, String> + Send + 'static,
) -> Result<Json<PieceView>, Problem> {
    studio
        .run(move |s| {
            let (kept, picture) = s.piece_and_picture(id)?;
            let survey = s.survey(&kept, &picture);
            let command = command(&kept.piece, Surveyed { working: &picture, survey: &survey }).map_err(Problem::unusable)?;
            view(s, s.store.apply(id, Some(base), command)?)
        })
        .await
}

/// Finds so many colours anew. Names and targets start anew too, but those of locked zones; undo brings the old ones back.
#[cfg_attr(feature = "description", utoipa::path(post, path = "/api/pieces/{id}/zones/propose", params(("id" = i64, Path)), request_body = Count, responses((status = 200, body = PieceView), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 409, body = Problem, content_type = "application/problem+json"), (status = 415, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn propose(State(studio): State<Studio>, Path(id): Path<i64>, In(ask): In<Count>) -> Result<Json<PieceView>, Problem> {
    mend(studio, id, ask.base_revision, move |piece, look| {
        if !COLOUR_RANGE.contains(&ask.count) {
            return Err(format!("{} colours cannot be found; ask for {} to {}.", ask.count, COLOUR_RANGE.start(), COLOUR_RANGE.end()));
        }
        Ok(zones::propose(piece, look, ask.count))
    })
    .await
}

/// Turns the dial of colours: each one more parts one zone, each one less joins two; the others keep their identity.
#[cfg_attr(feature = "description", utoipa::path(post, path = "/api/pieces/{id}/zones/colours", params(("id" = i64, Path)), request_body = Count, responses((status = 200, body = PieceView), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 409, body = Problem, content_type = "application/problem+json"), (status = 415, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn colours(State(studio): State<Studio>, Path(id): Path<i64>, In(ask): In<Count>) -> Result<Json<PieceView>, Problem> {
    mend(studio, id, ask.base_revision, move |piece, look| dials::colours(piece, look, ask.count)).await
}

/// Turns the brush. Only places change.
#[cfg_attr(feature = "description", utoipa::path(post, path = "/api/pieces/{id}/zones/brush", params(("id" = i64, Path)), request_body = Brush, responses((status = 200, body = PieceView), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 409, body = Problem, content_type = "application/problem+json"), (status = 415, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn brush(State(studio): State<Studio>, Path(id): Path<i64>, In(ask): In<Brush>) -> Result<Json<PieceView>, Problem> {
    mend(studio, id, ask.base_revision, move |piece, look| {
        let longer =
            piece.reference.as_ref().map(|r| longer_side(piece, r)).ok_or("This piece has no reference yet. Drop a picture on it.")?;
        dials::brush(piece, look, lean_colour::Share(ask.millimetres / longer), &format!("{:.0} mm", ask.millimetres))
    })
    .await
}

/// Gives a place to another zone.
#[cfg_attr(feature = "description", utoipa::path(post, path = "/api/pieces/{id}/places/give", params(("id" = i64, Path)), request_body = Gift, responses((status = 200, body = PieceView), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 409, body = Problem, content_type = "application/problem+json"), (status = 415, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn give(State(studio): State<Studio>, Path(id): Path<i64>, In(ask): In<Gift>) -> Result<Json<PieceView>, Problem> {
    mend(studio, id, ask.base_revision, move |piece, look| zones::give(piece, look, ask.at, ask.to)).await
}

/// Makes a place a zone of its own.
#[cfg_attr(feature = "description", utoipa::path(post, path = "/api/pieces/{id}/places/own", params(("id" = i64, Path)), request_body = At, responses((status = 200, body = PieceView), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 409, body = Problem, content_type = "application/problem+json"), (status = 415, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn own(State(studio): State<Studio>, Path(id): Path<i64>, In(ask): In<At>) -> Result<Json<PieceView>, Problem> {
    mend(studio, id, ask.base_revision, move |piece, look| zones::own(piece, look, ask.at)).await
}

/// Makes the colour at a spot a zone of its own, wherever it lies.
#[cfg_attr(feature = "description", utoipa::path(post, path = "/api/pieces/{id}/zones/take", params(("id" = i64, Path)), request_body = At, responses((status = 200, body = PieceView), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 409, body = Problem, content_type = "application/problem+json"), (status = 415, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn take(State(studio): State<Studio>, Path(id): Path<i64>, In(ask): In<At>) -> Result<Json<PieceView>, Problem> {
    mend(studio, id, ask.base_revision, move |piece, look| zones::take(piece, look, ask.at)).await
}

/// Makes what lies of a zone in a mass a zone of its own.
#[cfg_attr(feature = "description", utoipa::path(post, path = "/api/pieces/{id}/zones/part-by-mass", params(("id" = i64, Path)), request_body = InMass, responses((status = 200, body = PieceView), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 409, body = Problem, content_type = "application/problem+json"), (status = 415, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn part_by_mass(
    State(studio): State<Studio>,
    Path(id): Path<i64>,
    In(ask): In<InMass>,
) -> Result<Json<PieceView>, Problem> {
    mend(studio, id, ask.base_revision, move |piece, look| zones::part_by_mass(piece, look, ask.zone, ask.mass)).await
}

/// Proposes the masses of the picture anew.
#[cfg_attr(feature = "description", utoipa::path(post, path = "/api/pieces/{id}/masses/propose", params(("id" = i64, Path)), request_body = Step, responses((status = 200, body = PieceView), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 409, body = Problem, content_type = "application/problem+json"), (status = 415, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn propose_masses(
    State(studio): State<Studio>,
    Path(id): Path<i64>,
    In(ask): In<Step>,
) -> Result<Json<PieceView>, Problem> {
    mend(studio, id, ask.base_revision(), |_, look| Ok(zones::masses::propose(look.survey))).await
}

/// Joins two zones.
#[cfg_attr(feature = "description", utoipa::path(post, path = "/api/pieces/{id}/zones/merge", params(("id" = i64, Path)), request_body = Merge, responses((status = 200, body = PieceView), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 409, body = Problem, content_type = "application/problem+json"), (status = 415, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn merge(State(studio): State<Studio>, Path(id): Path<i64>, In(ask): In<Merge>) -> Result<Json<PieceView>, Problem> {
    mend(studio, id, ask.base_revision, move |piece, look| zones::merge(piece, look, ask.from, ask.into)).await
}

/// Parts a zone along a drawn line.
#[cfg_attr(feature = "description", utoipa::path(post, path = "/api/pieces/{id}/zones/split", params(("id" = i64, Path)), request_body = Split, responses((status = 200, body = PieceView), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 409, body = Problem, content_type = "application/problem+json"), (status = 415, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn split(State(studio): State<Studio>, Path(id): Path<i64>, In(ask): In<Split>) -> Result<Json<PieceView>, Problem> {
    mend(studio, id, ask.base_revision, move |piece, look| zones::split(piece, look, ask.zone, &ask.stroke)).await
}

/// Joins the two zones a line leads between.
#[cfg_attr(feature = "description", utoipa::path(post, path = "/api/pieces/{id}/zones/join", params(("id" = i64, Path)), request_body = Across, responses((status = 200, body = PieceView), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 409, body = Problem, content_type = "application/problem+json"), (status = 415, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn join(State(studio): State<Studio>, Path(id): Path<i64>, In(ask): In<Across>) -> Result<Json<PieceView>, Problem> {
    mend(studio, id, ask.base_revision, move |piece, look| zones::join_by(piece, look, &ask.stroke)).await
}

/// Redraws a border of a zone: what the line encloses is taken in or cut off.
#[cfg_attr(feature = "description", utoipa::path(post, path = "/api/pieces/{id}/zones/redraw", params(("id" = i64, Path)), request_body = Split, responses((status = 200, body = PieceView), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 409, body = Problem, content_type = "application/problem+json"), (status = 415, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn redraw(State(studio): State<Studio>, Path(id): Path<i64>, In(ask): In<Split>) -> Result<Json<PieceView>, Problem> {
    mend(studio, id, ask.base_revision, move |piece, look| zones::redraw(piece, look, ask.zone, &ask.stroke)).await
}

/// Makes the closed outlines of a line drawing the zones.
#[cfg_attr(feature = "description", utoipa::path(post, path = "/api/pieces/{id}/zones/lines", params(("id" = i64, Path)), request_body = FromLines, responses((status = 200, body = PieceView), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 409, body = Problem, content_type = "application/problem+json"), (status = 415, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn from_lines(
    State(studio): State<Studio>,
    Path(id): Path<i64>,
    In(ask): In<FromLines>,
) -> Result<Json<PieceView>, Problem> {
    studio
        .run(move |s| {
            let (kept, picture) = s.piece_and_picture(id)?;
            let lines = if ask.outline { Lines::Zone } else { Lines::Given };
            let command = zones::from_lines(&kept.piece, &picture, lines).map_err(Problem::unusable)?;
            view(s, s.store.apply(id, Some(ask.base_revision), command)?)
        })
        .await
}

/// The revision a change was meant for.
#[derive(Deserialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct ReadAgain {
    /// The revision on the screen.
    base_revision: i64,
}

/// Reads a reference that was taken for a drawing as a picture.
#[cfg_attr(feature = "description", utoipa::path(post, path = "/api/pieces/{id}/zones/picture", params(("id" = i64, Path)), request_body = ReadAgain, responses((status = 200, body = PieceView), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 409, body = Problem, content_type = "application/problem+json"), (status = 415, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn from_picture(
    State(studio): State<Studio>,
    Path(id): Path<i64>,
    In(ask): In<ReadAgain>,
) -> Result<Json<PieceView>, Problem> {
    studio
        .run(move |s| {
            let (kept, picture) = s.piece_and_picture(id)?;
            let survey = s.survey(&kept, &picture);
            let look = Surveyed { working: &picture, survey: &survey };
            let command = zones::from_picture(&kept.piece, look).map_err(Problem::unusable)?;
            view(s, s.store.apply(id, Some(ask.base_revision), command)?)
        })
        .await
}

fn dragged(kept: &lean_store::Kept, ask: &Drag) -> Result<Command, Problem> {
    let zone = kept.piece.zone(ask.zone).ok_or(lean_piece::Refusal::NoSuchZone(ask.zone.0))?;
    Ok(Command::SetTarget(SetTarget { zone: ask.zone, target: moved(zone.target, kept.piece.neutral(), ask.to)? }))
}

/// Moves a zone's mark in the field: up and down its value, sideways its temperature.
#[cfg_attr(feature = "description", utoipa::path(post, path = "/api/pieces/{id}/zones/move", params(("id" = i64, Path)), request_body = Drag, responses((status = 200, body = PieceView), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 409, body = Problem, content_type = "application/problem+json"), (status = 415, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn drag(State(studio): State<Studio>, Path(id): Path<i64>, In(ask): In<Drag>) -> Result<Json<PieceView>, Problem> {
    studio
        .run(move |s| {
            let command = dragged(&s.store.piece(id)?, &ask)?;
            view(s, s.store.apply(id, Some(ask.base_revision), command)?)
        })
        .await
}

/// What would follow if the mark were let go here. Changes nothing.
#[cfg_attr(feature = "description", utoipa::path(post, path = "/api/pieces/{id}/zones/preview", params(("id" = i64, Path)), request_body = Drag, responses((status = 200, body = Preview), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 415, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn preview(State(studio): State<Studio>, Path(id): Path<i64>, In(ask): In<Drag>) -> Result<Json<Preview>, Problem> {
    studio
        .run(move |s| {
            let kept = s.store.piece_at(id, ask.base_revision)?;
            let command = dragged(&kept, &ask)?;
            let piece = kept.piece.supposing(command)?;
            let paint_box = s.box_of(&kept)?;
            let zone = piece.zone(ask.zone).ok_or_else(|| Problem::not_found("That zone is gone."))?;
            let target = Mark::of(piece.wanted(zone), piece.neutral());
            let Glimpse { mixes, told, wells, findings, cost } = glimpse(&piece, paint_box.as_ref(), &s.lists);
            Ok(Json(Preview { target, mixes, told, wells, findings, cost }))
        })
        .await
}
