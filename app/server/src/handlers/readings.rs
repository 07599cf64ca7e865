//! Readings of swatches: taken, kept, learned from, and trials of mixes judged.

use super::by_eye::{self, EyeAnswers};
use super::instruments::read_meter;
use super::photo_patches::colour_of;
use super::trial_aim::{For, planned, wanted};
use crate::extract::{Body, Json as In, Path, Query};
use crate::lessons::Lessons;
use crate::problem::Problem;
use crate::seen_version::{SeenVersion, version_of};
use crate::state::Studio;
use axum::Json;
use axum::extract::State;
use axum::http::header;
use axum::response::{IntoResponse, Response};
use lean_colour::Temperature;
use lean_colour::typed::{self, Typed};
use lean_media::layering::State as Wetness;
use lean_media::learn::Evidence;
use lean_media::readings::{self, exchange, table};
use lean_picture::loose_sheet::PhotoRect;
use lean_picture::spot::Spot;
use lean_piece::paint_box::{BoxId, Dampness, EyeJudgement, PaintBox, ReadColour, ReadWith, Swatch, SwatchReading, TriedFor, WetPart};
use lean_plan::mark::Mark;
use lean_plan::paints::learned::{BeforeAfter, StrayReading, Teaches, before_after, predicted};
use lean_plan::paints::moved::moved;
use lean_plan::paints::trial::{Trials, mixed, trials};
use lean_plan::wording::Difference;
use lean_recipes::laid::LaidStep;
use lean_store::{ReadingId, Readings};
use serde::{Deserialize, Serialize};

/// Where a reading comes from.
#[derive(Deserialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case", tag = "by")]
pub(crate) enum From {
    /// The meter: what lies under its head now.
    Meter,
    /// A colour typed in.
    Typed {
        /// `#33aa66`, `60 20 -10`, `lch 60 30 250`, or words: "pale blue grey".
        text: String,
    },
    /// A cell of a photo of the swatch, beside bare paper or a grey card.
    Photo {
        /// Digest of the photo, as it was kept.
        photo: String,
        /// Where the swatch lies.
        cell: PhotoRect,
        /// The middle of a grey card, where one lies.
        grey: Option<Spot>,
    },
    /// Judged by eye beside the planned colour.
    Eye {
        /// The answers, in quarter steps.
        answers: EyeAnswers,
    },
}

/// A reading to be taken.
#[derive(Deserialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct NewReading {
    /// What was laid.
    swatch: Swatch,
    /// Steps really laid, in place of the layers of the swatch; left out where those are as they are.
    #[serde(default)]
    laid: Vec<LaidStep>,
    /// Where the reading comes from.
    from: From,
    /// Wet, damp or dry.
    #[serde(default)]
    state: Dampness,
    /// Fixed or varnished.
    #[serde(default)]
    sealed: bool,
    /// For which zone it is a trial.
    #[serde(default)]
    tried_for: Option<TriedFor>,
    /// A remark; may be empty.
    #[serde(default)]
    note: String,
}

/// A reading for the screen.
#[derive(Serialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct ReadingLine {
    /// Its number.
    id: ReadingId,
    /// The state it is in: sent back with a change of it.
    version: String,
    /// The reading itself.
    reading: SwatchReading,
    /// Manner of reading, in a few words; of one that a simulated instrument made up it says so.
    how: String,
    /// What was laid, on one line.
    mixed: String,
    /// What it read.
    read: Mark,
    /// What the Box as it is known now says it should read; `None` where a pigment is gone.
    predicted: Option<Mark>,
    /// How the prediction misses it, in a sentence; empty where there is none.
    sentence: String,
    /// Why it was left out as a stray; empty where it was not.
    stray: String,
}

/// A piece whose mixes moved because pigments are known better.
#[derive(Serialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct PieceMoved {
    /// Which piece.
    piece: i64,
    /// Its title.
    title: String,
    /// How its mixes moved, in a sentence.
    words: String,
}

/// All readings of a Box, and what they taught.
#[derive(Serialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct ReadingsView {
    /// The readings, the last made first.
    readings: Vec<ReadingLine>,
    /// How the pigments changed that were learned.
    changed: Vec<BeforeAfter>,
    /// What one more reading would teach, the most telling first.
    teaches: Vec<Teaches>,
    /// Pieces whose mixes moved by the change just made.
    moved: Vec<PieceMoved>,
}

impl ReadingsView {
    fn of(lessons: &Lessons, paint_box: &PaintBox, kept: Vec<(ReadingId, SwatchReading)>, moved: Vec<PieceMoved>) -> Result<Self, Problem> {
        let found = lessons.of(paint_box, &kept).map_err(|e| Problem::unusable(e.to_string()))?;
        let line = |(id, reading): (ReadingId, SwatchReading)| line(paint_box, id, reading, &found.strays);
        Ok(Self {
            readings: kept.into_iter().rev().map(line).collect(),
            changed: before_after(&found.paint_box),
            teaches: found.teaches.clone(),
            moved,
        })
    }
}

fn line(paint_box: &PaintBox, id: ReadingId, reading: SwatchReading, strays: &[StrayReading]) -> ReadingLine {
    let mark = |lab| Mark::of(lab, Temperature(0.0));
    let state = reading.state.state().unwrap_or(Wetness::Dry);
    let expected = predicted(paint_box, &reading.swatch, state).map(|r| r.xyz().lab());
    ReadingLine {
        id,
        version: version_of(&reading),
        how: if reading.is_played() { format!("{}, simulated", reading.with.word()) } else { reading.with.word().into() },
        mixed: mixed(paint_box, &reading),
        read: mark(reading.seen.lab),
        predicted: expected.map(mark),
        sentence: expected.map(|e| Difference::of(e, reading.seen.lab).words).unwrap_or_default(),
        stray: strays.iter().find(|s| s.reading == id).map(|s| s.words.clone()).unwrap_or_default(),
        reading,
    }
}

/// The readings of a Box.
#[cfg_attr(feature = "description", utoipa::path(get, path = "/api/boxes/{id}/readings", operation_id = "read_readings", params(("id" = String, Path)), responses((status = 200, body = ReadingsView), (status = 404, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn list(State(studio): State<Studio>, Path(id): Path<String>) -> Result<Json<ReadingsView>, Problem> {
    studio
        .run(move |s| {
            let id = BoxId(id);
            Ok(Json(ReadingsView::of(&s.lessons, &s.store.paint_box(&id)?, s.store.readings(&id)?, Vec::new())?))
        })
        .await
}

/// Changes the readings of a Box, learns, and says which pieces' mixes moved.
pub(super) fn changed(studio: &Studio, id: &BoxId, change: Readings) -> Result<ReadingsView, Problem> {
    let learn = |paint_box: &PaintBox, kept: &[(ReadingId, SwatchReading)]| -> Result<PaintBox, Problem> {
        studio.lessons.of(paint_box, kept).map(|l| l.paint_box.clone()).map_err(|e| Problem::unusable(e.to_string()))
    };
    let (before, after) = studio.store.change_readings(id, change, learn)?;
    let mut pieces = Vec::new();
    if before != after {
        for number in studio.store.pieces_of_box(id)? {
            // A damaged piece has no mixes that could move, and stands in nobody's way.
            let Ok(kept) = studio.store.piece(number) else { continue };
            let title = kept.piece.brief.title.clone();
            pieces.extend(moved(&kept.piece, &before, &after).map(|m| PieceMoved { piece: number, title, words: m.words }));
        }
    }
    ReadingsView::of(&studio.lessons, &after, studio.store.readings(id)?, pieces)
}

fn sound(r: &SwatchReading, paint_box: &PaintBox) -> Result<(), Problem> {
    r.check().map_err(Problem::unusable)?;
    for id in r.swatch.pigments() {
        if paint_box.find(id).is_none() {
            return Err(Problem::unusable(format!("\"{id}\" is not in this Box. Put it in first.")));
        }
    }
    if lean_media::ground::find(&r.swatch.ground).is_none() {
        return Err(Problem::unusable(format!("\"{}\" is no ground that is known. Choose one of the list.", r.swatch.ground.0)));
    }
    Ok(())
}

/// Takes a reading and learns from it.
#[cfg_attr(feature = "description", utoipa::path(post, path = "/api/boxes/{id}/readings", operation_id = "take_reading", params(("id" = String, Path)), request_body = NewReading, responses((status = 200, body = ReadingsView), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 409, body = Problem, content_type = "application/problem+json"), (status = 415, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn take(
    State(studio): State<Studio>,
    Path(id): Path<String>,
    In(new): In<NewReading>,
) -> Result<Json<ReadingsView>, Problem> {
    studio
        .run(move |s| {
            let id = BoxId(id);
            let paint_box = s.store.paint_box(&id)?;
            let swatch = by_eye::laid_in(&paint_box, new.swatch, &new.laid)?;
            let mut played = false;
            let (with, of, eye) = match new.from {
                From::Photo { photo, cell, grey } => {
                    played = s.is_played(&photo);
                    (ReadWith::Photo, Evidence::ColourOnly(colour_of(s, &photo, grey, cell)?), None)
                }
                From::Meter => (ReadWith::Meter, Evidence::Spectral(read_meter(s)?), None),
                From::Typed { text } => match typed::read(&text).map_err(Problem::unusable)? {
                    Typed::Exact(lab) => (ReadWith::Typed, Evidence::ColourOnly(lab), None),
                    Typed::Words(worded) => {
                        let eye = EyeJudgement::worded(&worded);
                        (ReadWith::Eye, Evidence::Judged(eye.judged()), Some(eye))
                    }
                },
                From::Eye { answers } => {
                    let eye = by_eye::judgement(s, &id, &swatch, new.tried_for, answers)?;
                    (ReadWith::Eye, Evidence::Judged(eye.judged()), Some(eye))
                }
            };
            let reading = SwatchReading {
                swatch,
                seen: ReadColour::of(&of),
                state: new.state,
                sealed: new.sealed,
                with,
                eye,
                played: Some(played || with == ReadWith::Meter),
                at: jiff::Timestamp::now().to_string(),
                tried_for: new.tried_for,
                left_out: false,
                note: new.note,
            };
            sound(&reading, &paint_box)?;
            Ok(Json(changed(s, &id, Readings::Add(vec![reading]))?))
        })
        .await
}

/// What is changed of a reading.
#[derive(Deserialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct ReadingChange {
    /// Whether it is left out of what is learned.
    left_out: bool,
    /// A remark; may be empty.
    note: String,
}

/// Leaves a reading out, takes it in again, or remarks on it.
#[cfg_attr(feature = "description", utoipa::path(put, path = "/api/boxes/{id}/readings/{reading}", operation_id = "change_reading", params(("id" = String, Path), ("reading" = i64, Path), SeenVersion), request_body = ReadingChange, responses((status = 200, body = ReadingsView), (status = 409, body = Problem, content_type = "application/problem+json"), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 415, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn change(
    State(studio): State<Studio>,
    Path((id, reading)): Path<(String, i64)>,
    Query(seen): Query<SeenVersion>,
    In(to): In<ReadingChange>,
) -> Result<Json<ReadingsView>, Problem> {
    studio
        .run(move |s| {
            let id = BoxId(id);
            let all = s.store.readings(&id)?;
            let old =
                all.into_iter().find(|(n, _)| *n == reading).ok_or_else(|| Problem::not_found("That reading is not there any more."))?.1;
            let new = SwatchReading { left_out: to.left_out, note: to.note, ..old };
            new.check().map_err(Problem::unusable)?;
            let agrees = Box::new(move |now: &SwatchReading| seen.is(now, "reading").is_ok());
            Ok(Json(changed(s, &id, Readings::Change { id: reading, to: Box::new(new), agrees })?))
        })
        .await
}

/// Takes a reading away for good.
#[cfg_attr(feature = "description", utoipa::path(delete, path = "/api/boxes/{id}/readings/{reading}", operation_id = "remove_reading", params(("id" = String, Path), ("reading" = i64, Path)), responses((status = 200, body = ReadingsView), (status = 404, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn remove(State(studio): State<Studio>, Path((id, reading)): Path<(String, i64)>) -> Result<Json<ReadingsView>, Problem> {
    studio.run(move |s| Ok(Json(changed(s, &BoxId(id), Readings::Remove(reading))?))).await
}

/// Takes in a file of measurements: a table, or the text exchange format of ISO 28178. Its swatches are named as the pigments of the Box are; a fraction
/// below 1 is a tint in the Box's white.
#[cfg_attr(feature = "description", utoipa::path(put, path = "/api/boxes/{id}/readings/file", operation_id = "put_readings_file", params(("id" = String, Path)), request_body(content = Vec<u8>, content_type = "application/octet-stream"), responses((status = 200, body = ReadingsView), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn take_in_file(
    State(studio): State<Studio>,
    Path(id): Path<String>,
    Body(file): Body,
) -> Result<Json<ReadingsView>, Problem> {
    studio
        .run(move |s| {
            let id = BoxId(id);
            let paint_box = s.store.paint_box(&id)?;
            let text = std::str::from_utf8(&file)
                .map_err(|_| Problem::unusable("This file is no text. Give a table (CSV) or a text exchange file (ISO 28178)."))?;
            let exchanged = text.contains("BEGIN_DATA");
            let swatches =
                if exchanged { exchange::read(text) } else { table::read(text) }.map_err(|e| Problem::unusable(e.to_string()))?;
            let readings = swatches.iter().map(|w| from_file(&paint_box, w)).collect::<Result<Vec<_>, _>>()?;
            for r in &readings {
                sound(r, &paint_box)?;
            }
            Ok(Json(changed(s, &id, Readings::Add(readings))?))
        })
        .await
}

fn from_file(paint_box: &PaintBox, w: &readings::Swatch) -> Result<SwatchReading, Problem> {
    let called = |p: &&lean_media::Pigment| {
        p.id.0.eq_ignore_ascii_case(&w.id) || p.name.eq_ignore_ascii_case(&w.id) || p.name.eq_ignore_ascii_case(&w.name)
    };
    let pigment =
        paint_box.pigments.iter().find(called).ok_or_else(|| {
            Problem::unusable(format!("\"{}\" is the name of no pigment in this Box. Name swatches as the Box does.", w.id))
        })?;
    let white = match w.fraction {
        Some(f) if f > 0.0 && f < 1.0 => (1.0 - f) / f,
        _ => 0.0,
    };
    let mut swatch = lean_plan::paints::learned::swatch_of(paint_box, pigment, lean_media::Parts(white))
        .ok_or_else(|| Problem::unusable("A tint needs a white in the Box. Put one in first."))?;
    if let Some(f) = w.film.filter(|f| *f > 0.0) {
        swatch.layers.iter_mut().flat_map(|l| &mut l.amounts).for_each(|n| *n = f);
    }
    Ok(SwatchReading {
        swatch,
        seen: ReadColour::of(&w.of),
        state: if w.state == Wetness::Wet { Dampness::Wet } else { Dampness::Dry },
        sealed: false,
        with: ReadWith::File,
        eye: None,
        played: Some(false),
        at: jiff::Timestamp::now().to_string(),
        tried_for: None,
        left_out: false,
        note: String::new(),
    })
}

/// Which kind of file.
#[derive(Deserialize)]
#[cfg_attr(feature = "description", derive(utoipa::IntoParams))]
#[cfg_attr(feature = "description", into_params(parameter_in = Query))]
pub(crate) struct Kind {
    /// `csv`, the usual, or `iso`: the text exchange format of ISO 28178.
    kind: Option<String>,
}

/// The readings of pigments alone and of tints as a file. Mixes of several colours have no place in one and are left out.
#[cfg_attr(feature = "description", utoipa::path(get, path = "/api/boxes/{id}/readings/file", operation_id = "save_readings_file", params(("id" = String, Path), Kind), responses((status = 200, content_type = "text/csv", body = String), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn save_file(State(studio): State<Studio>, Path(id): Path<String>, Query(kind): Query<Kind>) -> Result<Response, Problem> {
    let exchanged = match kind.kind.as_deref() {
        None | Some("csv") => false,
        Some("iso") => true,
        Some(other) => return Err(Problem::unusable(format!("\"{other}\" is no kind of file: ask for csv or iso."))),
    };
    studio
        .run(move |s| {
            let id = BoxId(id);
            let paint_box = s.store.paint_box(&id)?;
            let all: Vec<readings::Swatch> = s.store.readings(&id)?.iter().filter_map(|(_, r)| to_file(&paint_box, r)).collect();
            let (text, name, what) = if exchanged {
                (exchange::write(&all), "readings.txt", "text/plain; charset=utf-8")
            } else {
                (table::write(&all), "readings.csv", "text/csv; charset=utf-8")
            };
            let named = format!("attachment; filename=\"{name}\"");
            Ok(([(header::CONTENT_TYPE, what.to_owned()), (header::CONTENT_DISPOSITION, named)], text).into_response())
        })
        .await
}

fn to_file(paint_box: &PaintBox, r: &SwatchReading) -> Option<readings::Swatch> {
    let is_white = |p: &&WetPart| paint_box.find(&p.pigment).is_some_and(|p| p.white);
    let coloured: Vec<&WetPart> = r.swatch.parts.iter().filter(|p| !is_white(p)).collect();
    let whole: f64 = r.swatch.parts.iter().map(|p| p.parts).sum();
    let (id, fraction, film) = match (coloured.as_slice(), r.swatch.layers.as_slice()) {
        ([one], []) => (&one.pigment, Some(one.parts / whole), None),
        ([], [layer]) if layer.of.len() == 1 && layer.amounts.len() == 1 => (&layer.of[0].pigment, None, Some(layer.amounts[0])),
        _ => return None,
    };
    Some(readings::Swatch {
        id: id.0.clone(),
        name: paint_box.find(id)?.name.clone(),
        fraction,
        film,
        state: r.state.state()?,
        of: r.seen.evidence(),
    })
}

/// The trials made for a zone or a chart cell, and what to add to the last.
#[cfg_attr(feature = "description", utoipa::path(get, path = "/api/pieces/{id}/trials", operation_id = "read_trials", params(("id" = i64, Path), For), responses((status = 200, body = Trials), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn of_piece(State(studio): State<Studio>, Path(id): Path<i64>, Query(asked): Query<For>) -> Result<Json<Trials>, Problem> {
    studio
        .run(move |s| {
            let kept = s.store.piece(id)?;
            let paint_box = s.needed_box(&kept)?;
            let wanted = wanted(&kept.piece, &asked)?;
            let for_it = |r: &SwatchReading| r.tried_for.is_some_and(|t| t.zone.map(|z| z.0) == asked.zone && t.cell == asked.cell);
            let all: Vec<_> = s.store.trials(id)?.into_iter().filter(|(_, r)| for_it(r)).collect();
            Ok(Json(trials(&kept.piece, &paint_box, wanted, planned(&kept.piece, &paint_box, &asked), &all)))
        })
        .await
}
