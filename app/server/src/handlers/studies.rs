//! Studies: made in one go, one by one from colours of something else, and painted.

use super::work::{keep, ready};
use crate::extract::{Body, Json as In, Path, Query};
use crate::jobs::{JobView, MadeStudy};
use crate::pictures::{open, png};
use crate::problem::Problem;
use crate::state::Studio;
use axum::Json;
use axum::extract::State;
use axum::http::{StatusCode, header};
use axum::response::{IntoResponse, Response};
use lean_picture::Picture;
use lean_piece::{HueShare, MOST_NAME, MOST_STUDIES, Piece, Scheme, Study, StudyMix, StudyNumber, WishedColour};
use lean_plan::drawing::is_drawing;
use lean_plan::lamps::{UnderLamp, under_lamps};
use lean_plan::mark::{Mark, ZoneMark};
use lean_plan::mixes::mixes_of;
use lean_plan::planned::{self, painted_mixes, painted_study};
use lean_plan::requests::Request;
use lean_plan::studies::kept::{made_anew, with_one};
use lean_plan::studies::variants::COUNT;
use lean_plan::studies::{StudyKind, lent, make, make_one, scheme};
use lean_plan::zones::WORKING_SIDE;
use serde::{Deserialize, Serialize};

/// Which studies to make.
#[derive(Deserialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct Wanted {
    /// How many, 3..=12; as many as kinds are named, or three, when left out.
    #[cfg_attr(feature = "description", schema(minimum = 3, maximum = 12))]
    count: Option<usize>,
    /// Of which kinds, in this order; those a piece usually gets when left out.
    #[serde(default)]
    kinds: Vec<StudyKind>,
}

/// A kind of study in words.
#[derive(Serialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct KindLine {
    /// Which.
    kind: StudyKind,
    /// What it is called.
    name: &'static str,
}

/// The kinds of study there are, those this piece would get first before the others.
#[cfg_attr(feature = "description", utoipa::path(get, path = "/api/pieces/{id}/studies/kinds", params(("id" = i64, Path)), responses((status = 200, body = Vec<KindLine>), (status = 404, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn kinds(State(studio): State<Studio>, Path(id): Path<i64>) -> Result<Json<Vec<KindLine>>, Problem> {
    studio
        .run(move |s| {
            let piece = s.store.piece(id)?.piece;
            let mut all = StudyKind::usual(&piece, *COUNT.end());
            all.extend(StudyKind::ALL.into_iter().filter(|k| !all.contains(k)).collect::<Vec<_>>());
            all.retain(|k| *k != StudyKind::Game || !piece.intent.games.only_hues.is_empty());
            Ok(Json(all.into_iter().map(|kind| KindLine { kind, name: kind.name() }).collect()))
        })
        .await
}

/// Makes studies, each with its own exact lean set, in place of those there are. Plans left behind and colours taken from elsewhere stay. Runs as a
/// job.
#[cfg_attr(feature = "description", utoipa::path(post, path = "/api/pieces/{id}/studies", params(("id" = i64, Path)), request_body = Wanted, responses((status = 202, body = JobView), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 415, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn make_studies(
    State(studio): State<Studio>,
    Path(id): Path<i64>,
    In(wanted): In<Wanted>,
) -> Result<(StatusCode, Json<JobView>), Problem> {
    let (piece, paint_box) = ready(&studio, id).await?;
    let piece = with_values(&studio, id, piece).await?;
    let kinds = match (wanted.kinds.len(), wanted.count) {
        (_, Some(n)) if !COUNT.contains(&n) => {
            return Err(Problem::unusable(format!("{n} studies cannot be made in one go. Ask for {} to {}.", COUNT.start(), COUNT.end())));
        }
        (0, count) => StudyKind::usual(&piece, count.unwrap_or(if is_drawing(&piece) { OF_DRAWING } else { *COUNT.start() })),
        (n, _) if n > *COUNT.end() => {
            return Err(Problem::unusable(format!("{n} studies are more than {} in one go. Ask for fewer.", COUNT.end())));
        }
        _ => wanted.kinds,
    };
    let worker = studio.clone();
    let view = studio.jobs.start_long(id, "making studies", move |job| {
        let made = make(&piece, &paint_box, &worker.tables, &kinds, job, &|study| job.made(shown(&piece, study)))?;
        let made: Vec<Study> = made.into_iter().map(|s| Study { made: Some(today()), ..s }).collect();
        keep(&worker, id, &piece, |now| made_anew(now, &made).into())
    });
    Ok((StatusCode::ACCEPTED, Json(view)))
}

/// Studies of a drawing when no number is given.
const OF_DRAWING: usize = 9;
/// The plan of the values that a drawing without one is given.
const USUAL_PLAN: u8 = 2;

/// A piece as it is; a drawing of which no shape has a colour yet after its values were planned.
async fn with_values(studio: &Studio, id: i64, piece: Piece) -> Result<Piece, Problem> {
    if !is_drawing(&piece) || piece.zones.iter().any(|z| !z.open) {
        return Ok(piece);
    }
    studio
        .run(move |s| {
            let kept = s.store.piece(id)?;
            let paint_box = s.box_of(&kept)?;
            let plan = Request::PlanValues { plan: USUAL_PLAN, keep: Vec::new() };
            let command = plan.into_command(&kept.piece, paint_box.as_ref(), None)?;
            Ok(s.store.apply(id, Some(kept.revision), command)?.piece)
        })
        .await
}

/// The day, where the server stands.
fn today() -> String {
    jiff::Zoned::now().date().to_string()
}

/// A study as it is shown while others are still being made.
fn shown(piece: &Piece, study: &Study) -> MadeStudy {
    let mark = |m: &StudyMix| ZoneMark { zone: m.zone, mark: Mark::of(m.mix.lab, piece.neutral()) };
    MadeStudy {
        number: study.number,
        scheme: scheme::describe(&study.scheme),
        pigments: study.pigments.len(),
        marks: study.mixes.iter().map(mark).collect(),
    }
}

/// The shares a study's hues should have.
#[derive(Deserialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct Shares {
    /// The hues, the ruling one first.
    hues: Vec<HueShare>,
}

/// Makes a study of several hues anew with other shares or hues. Runs as a job.
#[cfg_attr(feature = "description", utoipa::path(post, path = "/api/pieces/{id}/studies/{number}/shares", params(("id" = i64, Path), ("number" = u8, Path)), request_body = Shares, responses((status = 202, body = JobView), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 415, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn move_shares(
    State(studio): State<Studio>,
    Path((id, number)): Path<(i64, u8)>,
    In(shares): In<Shares>,
) -> Result<(StatusCode, Json<JobView>), Problem> {
    let (piece, paint_box) = ready(&studio, id).await?;
    let old = piece.studies.iter().find(|s| s.number.0 == number).ok_or_else(|| Problem::not_found("That study is not there any more."))?;
    let (chord, hues) = scheme::in_shares(&old.scheme).ok_or_else(|| {
        Problem::unusable(
            "Only a scheme of several hues has shares that can be moved: not a monochromatic one, a gradient or another light.",
        )
    })?;
    let sound = |h: &HueShare| (0.0..=360.0).contains(&h.hue) && (0.0..=1.0).contains(&h.share);
    if shares.hues.len() != hues.len() || !shares.hues.iter().all(sound) || shares.hues.iter().map(|h| h.share).sum::<f64>() < 0.01 {
        return Err(Problem::unusable(format!(
            "This scheme has {} hues, each with a share from 0 to 1 of the picture, not all of them 0.",
            hues.len()
        )));
    }
    let scheme = Scheme::Chord { chord, hues: shares.hues };
    let wanted = scheme::wanted(&piece, &scheme, None).unwrap_or_default();
    one(studio, id, piece, paint_box, Some(StudyNumber(number)), (scheme, wanted))
}

/// By how much a scheme is turned.
#[derive(Deserialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct Turned {
    /// Degrees on the hue circle, -180 to 180.
    by: f64,
}

/// Makes a study anew with all its hues turned, values held. Runs as a job.
#[cfg_attr(feature = "description", utoipa::path(post, path = "/api/pieces/{id}/studies/{number}/turn", params(("id" = i64, Path), ("number" = u8, Path)), request_body = Turned, responses((status = 202, body = JobView), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 415, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn turn(
    State(studio): State<Studio>,
    Path((id, number)): Path<(i64, u8)>,
    In(turned): In<Turned>,
) -> Result<(StatusCode, Json<JobView>), Problem> {
    let (piece, paint_box) = ready(&studio, id).await?;
    let old = piece.studies.iter().find(|s| s.number.0 == number).ok_or_else(|| Problem::not_found("That study is not there any more."))?;
    if !(-180.0..=180.0).contains(&turned.by) {
        return Err(Problem::unusable(format!("A turn of {} degrees is out of range; it may be -180 to 180.", turned.by)));
    }
    let scheme = scheme::turned(&old.scheme, turned.by).ok_or_else(|| {
        Problem::unusable("Only a scheme of hues can be turned: not colours as measured, another light, or colours taken from elsewhere.")
    })?;
    let wanted = scheme::wanted(&piece, &scheme, None).unwrap_or_default();
    one(studio, id, piece, paint_box, Some(StudyNumber(number)), (scheme, wanted))
}

/// Makes one study as a job and puts it in the place of that number, or at the end.
fn one(
    studio: Studio,
    id: i64,
    piece: Piece,
    paint_box: lean_piece::paint_box::PaintBox,
    in_place_of: Option<StudyNumber>,
    (scheme, wanted): (Scheme, Vec<lean_colour::Lab>),
) -> Result<(StatusCode, Json<JobView>), Problem> {
    let worker = studio.clone();
    let view = studio.jobs.start_long(id, "making studies", move |job| {
        let made = make_one(&piece, &paint_box, &worker.tables, (StudyNumber(0), scheme, &wanted), job)?;
        let made = Study { made: Some(today()), ..made };
        keep(&worker, id, &piece, |now| with_one(now, &made, in_place_of).into())
    });
    Ok((StatusCode::ACCEPTED, Json(view)))
}

/// Whose colours a study takes.
#[derive(Deserialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct Lender {
    /// The other piece.
    piece: i64,
    /// One of its studies; its plan when left out.
    study: Option<StudyNumber>,
}

fn has_room(piece: &Piece) -> Result<(), Problem> {
    if piece.studies.len() >= MOST_STUDIES {
        return Err(Problem::unusable(format!("{MOST_STUDIES} studies of one piece are kept. Make them anew, fewer of them, first.")));
    }
    Ok(())
}

/// Lays the colours of another piece, or of one of its studies, on the zones of this one: by rank of value and warmth, values held. Runs as a job.
#[cfg_attr(feature = "description", utoipa::path(post, path = "/api/pieces/{id}/studies/lent", params(("id" = i64, Path)), request_body = Lender, responses((status = 202, body = JobView), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 415, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn lend(
    State(studio): State<Studio>,
    Path(id): Path<i64>,
    In(from): In<Lender>,
) -> Result<(StatusCode, Json<JobView>), Problem> {
    let (piece, paint_box) = ready(&studio, id).await?;
    has_room(&piece)?;
    let (name, colours) = studio
        .run(move |s| {
            let other = s.store.piece(from.piece)?.piece;
            let area = |zone| other.zone(zone).map_or(0.0, |z| z.reading.area);
            let colours: Vec<WishedColour> = match from.study {
                None => other.zones.iter().map(|z| WishedColour { lab: other.wanted(z), area: z.reading.area }).collect(),
                Some(n) => {
                    let study = other.studies.iter().find(|s| s.number == n);
                    let study = study.ok_or_else(|| Problem::not_found("That study is not there any more."))?;
                    study.mixes.iter().map(|m| WishedColour { lab: m.mix.lab, area: area(m.zone) }).collect()
                }
            };
            if colours.is_empty() {
                return Err(Problem::unusable(format!("\"{}\" has no colours yet. Give it a picture first.", other.brief.title)));
            }
            let name = from.study.map_or(other.brief.title.clone(), |n| format!("study {n} of {}", other.brief.title));
            Ok((name, colours))
        })
        .await?;
    let wanted = lent::wanted(&piece, &colours);
    one(studio, id, piece, paint_box, None, (Scheme::Borrowed { from: name }, wanted))
}

/// What the file was called.
#[derive(Deserialize)]
#[cfg_attr(feature = "description", derive(utoipa::IntoParams))]
#[cfg_attr(feature = "description", into_params(parameter_in = Query))]
pub(crate) struct Named {
    /// Name it was dropped under.
    file_name: Option<String>,
}

/// Distinct colours taken from a picture whose colours are lent: as many as a chart usually has.
const LENT: usize = 12;

/// Lays the colours of a picture on the zones: a painting, a fabric, a card. Runs as a job.
#[cfg_attr(feature = "description", utoipa::path(put, path = "/api/pieces/{id}/studies/lent", params(("id" = i64, Path), Named), request_body(content = Vec<u8>, content_type = "application/octet-stream"), responses((status = 202, body = JobView), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn lend_picture(
    State(studio): State<Studio>,
    Path(id): Path<i64>,
    Query(named): Query<Named>,
    Body(file): Body,
) -> Result<(StatusCode, Json<JobView>), Problem> {
    let (piece, paint_box) = ready(&studio, id).await?;
    has_room(&piece)?;
    let colours = studio
        .run(move |_| {
            // Only its colours are wanted: the file itself is not kept.
            let picture = open(&file)?.reduced(WORKING_SIDE);
            let found = lean_picture::chart::distinct(&picture, Some(LENT)).colours;
            Ok(found.iter().map(|c| WishedColour { lab: c.lab, area: c.area }).collect::<Vec<_>>())
        })
        .await?;
    let wanted = lent::wanted(&piece, &colours);
    let from: String =
        named.file_name.filter(|n| !n.trim().is_empty()).unwrap_or_else(|| "a picture".into()).chars().take(MOST_NAME).collect();
    one(studio, id, piece, paint_box, None, (Scheme::Borrowed { from }, wanted))
}

/// A study as lamps other than daylight show it.
#[cfg_attr(feature = "description", utoipa::path(get, path = "/api/pieces/{id}/studies/{number}/lamps", params(("id" = i64, Path), ("number" = u8, Path)), responses((status = 200, body = Vec<UnderLamp>), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn lamps(State(studio): State<Studio>, Path((id, number)): Path<(i64, u8)>) -> Result<Json<Vec<UnderLamp>>, Problem> {
    let (piece, paint_box) = ready(&studio, id).await?;
    let study =
        piece.studies.iter().find(|s| s.number.0 == number).ok_or_else(|| Problem::not_found("That study is not there any more."))?;
    Ok(Json(under_lamps(&piece, &paint_box, study)))
}

/// Which picture to paint.
#[derive(Deserialize)]
#[cfg_attr(feature = "description", derive(utoipa::IntoParams))]
#[cfg_attr(feature = "description", into_params(parameter_in = Query))]
pub(crate) struct Asked {
    /// A study by its number; the plan in its mixes when left out.
    study: Option<u8>,
    /// Pixels across, 40 to 3600.
    width: Option<u32>,
}

/// A study, or the plan in its mixes, painted in the hand of its medium on its ground, as PNG.
#[cfg_attr(feature = "description", utoipa::path(get, path = "/api/pieces/{id}/painted", params(("id" = i64, Path), Asked), responses((status = 200, content_type = "image/png", body = Vec<u8>), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn painted(State(studio): State<Studio>, Path(id): Path<i64>, Query(asked): Query<Asked>) -> Result<Response, Problem> {
    let width = asked.width.unwrap_or(480);
    if !(40..=3600).contains(&width) {
        return Err(Problem::unusable(format!("A picture {width} pixels wide is out of range; it may be 40 to 3600.")));
    }
    studio
        .run(move |s| {
            let picture = in_paint(s, id, asked.study, width)?
                .ok_or_else(|| Problem::unusable("There are no zones to paint yet. Give the piece a picture first."))?;
            let cached = (header::CACHE_CONTROL, "private, max-age=3600");
            Ok(([(header::CONTENT_TYPE, "image/png"), cached], png(&picture)?).into_response())
        })
        .await
}

/// A study by its number, or the plan, painted; `None` without zones.
pub(super) fn in_paint(studio: &Studio, id: i64, study: Option<u8>, width: u32) -> Result<Option<Picture>, Problem> {
    let kept = studio.store.piece(id)?;
    let painted = match study {
        Some(n) => {
            let study = kept.piece.studies.iter().find(|s| s.number.0 == n);
            painted_study(&kept.piece, study.ok_or_else(|| Problem::not_found("That study is not there any more."))?, width)
        }
        None => {
            let paint_box = studio.box_of(&kept)?;
            let mixes = mixes_of(&kept.piece, paint_box.as_ref());
            if mixes.is_empty() { planned::painted_targets(&kept.piece, width) } else { painted_mixes(&kept.piece, &mixes, width) }
        }
    };
    painted.map(|picture| studio.with_lines(&kept.piece, picture)).transpose()
}
