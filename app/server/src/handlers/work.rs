//! Long work on a piece: the lean search.

use crate::extract::Path;
use crate::jobs::{Job, JobView};
use crate::problem::Problem;
use crate::state::Studio;
use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use lean_piece::change::KeepSearch;
use lean_piece::paint_box::PaintBox;
use lean_piece::wanted::aimed_at;
use lean_piece::{ChosenSet, Command, Piece, SearchKept};
use lean_plan::additions::{Addition, additions};
use lean_plan::basis::basis;
use lean_search::knee;
use lean_search::search;
use lean_store::StoreError;

/// Finds the exact best set of every size from the Box. Runs as a job that tells each size as it is found.
#[cfg_attr(feature = "description", utoipa::path(post, path = "/api/pieces/{id}/search", params(("id" = i64, Path)), responses((status = 202, body = JobView), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn find_sets(State(studio): State<Studio>, Path(id): Path<i64>) -> Result<(StatusCode, Json<JobView>), Problem> {
    let (piece, paint_box) = ready(&studio, id).await?;
    let worker = studio.clone();
    let view = studio.jobs.start_long(id, "searching", move |job| run_search(&worker, id, &piece, &paint_box, job));
    Ok((StatusCode::ACCEPTED, Json(view)))
}

fn run_search(studio: &Studio, id: i64, piece: &Piece, paint_box: &PaintBox, job: &Job) -> Result<(), Problem> {
    let asked = piece.ask(paint_box, studio.needs(piece)?, piece.sizes());
    let sizes = search(&asked.ask(), &studio.tables, job, &|set| job.found(set))?;
    let wished = piece.chosen.pigments.len();
    let chosen = sizes.iter().find(|s| s.pigments.len() == wished).or_else(|| knee(&sizes)).map(|s| s.pigments.clone()).unwrap_or_default();
    let kept = SearchKept { basis: basis(piece, Some(paint_box)), zones: aimed_at(piece), sizes };
    keep(studio, id, piece, |now| {
        // A set the painter chose while the search ran is the later decision and stays.
        let chosen = if now.chosen == piece.chosen { ChosenSet { pigments: chosen.clone() } } else { now.chosen.clone() };
        Command::KeepSearch(KeepSearch { search: Some(kept.clone()), chosen })
    })
}

/// Keeps the result of long work on the newest piece, if it still speaks of that: the painter may have turned to another Box or picture
/// meanwhile. Smaller changes only make the result out of date, which the screen says.
pub(super) fn keep(studio: &Studio, id: i64, then: &Piece, command: impl Fn(&Piece) -> Command) -> Result<(), Problem> {
    let zones = |p: &Piece| p.zones.iter().map(|z| z.id).collect::<Vec<_>>();
    loop {
        let now = studio.store.piece(id)?;
        if now.piece.paint_box != then.paint_box || zones(&now.piece) != zones(then) {
            return Err(Problem::unusable(
                "The Box or the zones were changed while this was being worked out, so its answer was left out. Start it again.",
            ));
        }
        match studio.store.apply(id, Some(now.revision), command(&now.piece)) {
            // Changed between the look and the write: look again.
            Err(StoreError::Conflict { .. }) => continue,
            other => return Ok(other.map(|_| ())?),
        }
    }
}

/// What one more pigment would be worth to the set in use: from the Box, brought back from the exclusions, or bought.
#[cfg_attr(feature = "description", utoipa::path(get, path = "/api/pieces/{id}/additions", params(("id" = i64, Path)), responses((status = 200, body = Vec<Addition>), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn read_additions(State(studio): State<Studio>, Path(id): Path<i64>) -> Result<Json<Vec<Addition>>, Problem> {
    let (piece, paint_box) = ready(&studio, id).await?;
    studio.run(move |s| Ok(Json(additions(&piece, &paint_box, s.needs(&piece)?)?))).await
}

/// A piece and its Box.
pub(super) async fn with_box(studio: &Studio, id: i64) -> Result<(Piece, PaintBox), Problem> {
    studio
        .run(move |s| {
            let kept = s.store.piece(id)?;
            let paint_box = s.needed_box(&kept)?;
            Ok((kept.piece, paint_box))
        })
        .await
}

/// A piece with its Box, if it has one.
pub(super) async fn with_box_if_any(studio: &Studio, id: i64) -> Result<(Piece, Option<PaintBox>), Problem> {
    studio
        .run(move |s| {
            let kept = s.store.piece(id)?;
            let paint_box = s.box_of(&kept)?;
            Ok((kept.piece, paint_box))
        })
        .await
}

/// A piece that has zones and a Box with something in it.
pub(super) async fn ready(studio: &Studio, id: i64) -> Result<(Piece, PaintBox), Problem> {
    studio
        .run(move |s| {
            let kept = s.store.piece(id)?;
            let paint_box = s.needed_box(&kept)?;
            paint_box.searchable(&kept.piece.excluded).map_err(Problem::unusable)?;
            if kept.piece.zones.is_empty() {
                return Err(Problem::unusable("There are no zones to match yet. Drop a picture on the Subject station first."));
            }
            Ok((kept.piece, paint_box))
        })
        .await
}
