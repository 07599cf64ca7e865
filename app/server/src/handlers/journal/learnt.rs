//! What all entries together show.

use crate::extract::{Json as In, Path};
use crate::jobs::{Job, JobView};
use crate::problem::Problem;
use crate::state::Studio;
use axum::Json;
use axum::extract::State;
use axum::http::{StatusCode, header};
use axum::response::{IntoResponse, Response};
use lean_journal::EntryKind;
use lean_journal::learnt::worth::{self, BoxWorth};
use lean_journal::learnt::{Habit, Plot, drift, habits, measured, misses, pace};
use lean_media::PigmentId;
use lean_piece::Piece;
use lean_plan::shared::{MOST_PIECES, SharedAsk, shared};
use lean_search::progress::Progress;
use serde::{Deserialize, Serialize};
use std::ops::RangeInclusive;

/// Sizes of a shared set that are looked at.
const SIZES: RangeInclusive<usize> = 2..=8;

/// What the journal shows that no one sees by hand.
#[derive(Serialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct LearntView {
    /// The plots.
    plots: Vec<Plot>,
    /// What the pigments of every Box were worth.
    worth: Vec<BoxWorth>,
    /// What is taken every time.
    habits: Vec<Habit>,
    /// Finished pieces whose photo and hours were not measured yet.
    unmeasured: usize,
}

fn learnt(s: &Studio) -> Result<LearntView, Problem> {
    let entries = s.store.journal_entries(&[EntryKind::Set, EntryKind::Study, EntryKind::Trial])?;
    let known = s.store.measured_pieces()?;
    let unmeasured = known.iter().filter(|(_, m)| m.is_none()).count();
    let known: Vec<_> = known.into_iter().filter_map(|(_, m)| m).collect();
    let worth: Vec<BoxWorth> = s.store.boxes()?.iter().map(|b| worth::worth(&entries, &b.paint_box)).collect();
    let mut plots = vec![drift::drift(&entries, &known), misses::by_attempt(&entries), misses::by_half_year(&entries), pace::pace(&known)];
    plots.extend(worth.iter().enumerate().map(|(i, w)| worth::plot(w, i + 1)));
    Ok(LearntView { plots, worth, habits: habits(&entries), unmeasured })
}

/// What the journal shows that no one sees by hand: plots with their figures, what pigments were worth, habits.
#[cfg_attr(feature = "description", utoipa::path(get, path = "/api/journal/learnt", operation_id = "read_learnt", responses((status = 200, body = LearntView))))]
pub(crate) async fn read(State(studio): State<Studio>) -> Result<Json<LearntView>, Problem> {
    studio.run(|s| Ok(Json(learnt(s)?))).await
}

/// The figures of a plot as comma-separated text.
#[cfg_attr(feature = "description", utoipa::path(get, path = "/api/journal/plots/{key}", operation_id = "save_plot", params(("key" = String, Path)), responses((status = 200, content_type = "text/csv", body = String), (status = 404, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn csv(State(studio): State<Studio>, Path(key): Path<String>) -> Result<Response, Problem> {
    let plot = studio
        .run(move |s| {
            let name = key.trim_end_matches(".csv");
            let found = learnt(s)?.plots.into_iter().find(|p| p.key == name);
            found.ok_or_else(|| Problem::not_found("There is no such plot. The journal lists those there are."))
        })
        .await?;
    let kept = format!("attachment; filename=\"{}.csv\"", plot.key);
    Ok(([(header::CONTENT_TYPE, "text/csv; charset=utf-8".to_owned()), (header::CONTENT_DISPOSITION, kept)], plot.csv()).into_response())
}

/// Measures the finished pieces that were not measured yet: their last photo against the plan, and where the time went. Runs as a job.
#[cfg_attr(feature = "description", utoipa::path(post, path = "/api/journal/measure", operation_id = "measure_pieces", responses((status = 202, body = JobView))))]
pub(crate) async fn measure(State(studio): State<Studio>) -> Result<(StatusCode, Json<JobView>), Problem> {
    let worker = studio.clone();
    let view = studio.jobs.start_long(0, "measuring finished pieces", move |job| measure_all(&worker, job));
    Ok((StatusCode::ACCEPTED, Json(view)))
}

fn measure_all(s: &Studio, job: &Job) -> Result<(), Problem> {
    let todo: Vec<i64> = s.store.measured_pieces()?.into_iter().filter(|(_, m)| m.is_none()).map(|(id, _)| id).collect();
    for (i, id) in todo.iter().enumerate() {
        if job.is_cancelled() {
            return Err(lean_search::NoAnswer::Cancelled.into());
        }
        let kept = s.store.piece(*id)?;
        let found = match s.box_of(&kept)? {
            Some(paint_box) => {
                let last = kept.piece.easel.photos.last();
                let photo = last.and_then(|about| Some((s.working_copy(&about.digest).ok()?, about)));
                measured(&kept.piece, &paint_box, photo.as_ref().map(|(picture, about)| (&**picture, *about)))
            }
            None => Default::default(),
        };
        s.store.keep_measured(*id, kept.revision, &found)?;
        job.report((i + 1) as f64 / todo.len() as f64);
    }
    Ok(())
}

/// Pieces one set is looked for.
#[derive(Deserialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct ForSeveral {
    /// Their numbers, 1 to 12, all of one medium.
    pieces: Vec<i64>,
    /// Pigments to do without.
    #[serde(default)]
    without: Vec<PigmentId>,
}

/// The proved best sets that serve several pieces together, and what each piece loses against its own. Runs as a job.
#[cfg_attr(feature = "description", utoipa::path(post, path = "/api/journal/one-set", operation_id = "one_set_for_several", request_body = ForSeveral, responses((status = 202, body = JobView), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 415, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn one_set(State(studio): State<Studio>, In(asked): In<ForSeveral>) -> Result<(StatusCode, Json<JobView>), Problem> {
    let worker = studio.clone();
    let without = asked.without;
    let (pieces, paint_box) = studio.run(move |s| several(s, &asked.pieces)).await?;
    let view = studio.jobs.start_long(0, "one set for several", move |job| {
        let ask = SharedAsk { pieces: &pieces, paint_box: &paint_box, without: &without, sizes: SIZES };
        job.shared(shared(&ask, &worker.tables, job)?);
        Ok(())
    });
    Ok((StatusCode::ACCEPTED, Json(view)))
}

/// The pieces with their numbers, and the Box of the first.
fn several(s: &Studio, ids: &[i64]) -> Result<(Vec<(i64, Piece)>, lean_piece::paint_box::PaintBox), Problem> {
    if !(1..=MOST_PIECES).contains(&ids.len()) {
        return Err(Problem::unusable(format!("One set is looked for 1 to {MOST_PIECES} pieces, not {}.", ids.len())));
    }
    let kept: Vec<_> = ids.iter().map(|id| s.store.piece(*id)).collect::<Result<_, _>>()?;
    let first = &kept[0];
    if let Some(other) = kept.iter().find(|k| k.piece.brief.medium != first.piece.brief.medium) {
        return Err(Problem::unusable(format!(
            "\"{}\" is in {}, \"{}\" in {}. One set serves pieces of one medium.",
            other.piece.brief.title,
            other.piece.brief.medium.name(),
            first.piece.brief.title,
            first.piece.brief.medium.name()
        )));
    }
    if let Some(bare) = kept.iter().find(|k| k.piece.zones.is_empty()) {
        return Err(Problem::unusable(format!("\"{}\" has no zones yet. Give it a picture first.", bare.piece.brief.title)));
    }
    let paint_box = s.box_of(first)?.ok_or_else(|| Problem::unusable("The first of these pieces draws on no Box yet."))?;
    paint_box.searchable(&[]).map_err(Problem::unusable)?;
    Ok((kept.into_iter().map(|k| (k.id, k.piece)).collect(), paint_box))
}
