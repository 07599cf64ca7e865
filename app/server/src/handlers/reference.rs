//! The reference: taken in, looked at, measured.

use super::pieces::view;
use crate::extract::{Body, Json as In, Path, Query};
use crate::jobs::{Job, JobView};
use crate::pictures::{jpeg, open_while, png};
use crate::problem::Problem;
use crate::state::Studio;
use crate::views::PieceView;
use axum::Json;
use axum::extract::State;
use axum::http::{StatusCode, header};
use axum::response::{IntoResponse, Response};
use lean_colour::{Temperature, Value};
use lean_picture::Picture;
use lean_picture::frame::{Crop, Frame, neutral_at};
use lean_picture::line_drawing::is_drawing;
use lean_picture::measure::{self, Profile, Spread};
use lean_picture::places::Survey;
use lean_picture::spot::Spot;
use lean_picture::values::{Ladder, ladder};
use lean_picture::views::{View, draw};
use lean_piece::light::Key;
use lean_piece::{Piece, Reference};
use lean_plan::compare::{Compared, compare};
use lean_plan::mark::Mark;
use lean_plan::planned;
use lean_plan::requests::Request;
use lean_plan::zones::{self, COLOURS, PictureFile, Surveyed, WORKING_SIDE, reframe, set_drawing, set_reference_at};
use lean_search::progress::Progress;
use lean_store::Store;
use serde::Deserialize;
use std::sync::Arc;
use std::thread::ScopedJoinHandle;

/// Name the file had.
#[derive(Deserialize)]
#[cfg_attr(feature = "description", derive(utoipa::IntoParams))]
#[cfg_attr(feature = "description", into_params(parameter_in = Query))]
pub(crate) struct FileName {
    /// Name the file had, shown to the painter.
    file_name: Option<String>,
}

impl FileName {
    /// The name, or what it is when it has none.
    pub(crate) fn or(&self, usual: &str) -> String {
        self.file_name.as_deref().filter(|n| !n.trim().is_empty()).unwrap_or(usual).chars().take(120).collect()
    }
}

/// How to show the reference.
#[derive(Clone, Copy, Deserialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case")]
pub(crate) enum Look {
    /// Unchanged.
    AsItIs,
    /// Greys of the same value.
    Values,
    /// One value, warmer or cooler.
    WarmCool,
    /// Blurred and flattened.
    Squint,
    /// Zones as they look among their neighbours.
    Neighbours,
    /// What the camera lost, hatched.
    Clipped,
    /// What is equal in value to `value`.
    Equal,
}

/// A way of looking.
#[derive(Deserialize)]
#[cfg_attr(feature = "description", derive(utoipa::IntoParams))]
#[cfg_attr(feature = "description", into_params(parameter_in = Query))]
pub(crate) struct Looking {
    /// How.
    look: Option<Look>,
    /// Number of value groups, 2..=12; left out for none.
    #[cfg_attr(feature = "description", param(minimum = 2, maximum = 12))]
    groups: Option<usize>,
    /// For what is equal: a value, 0..=10.
    #[cfg_attr(feature = "description", param(minimum = 0, maximum = 10))]
    value: Option<f64>,
    /// Key that the values of the plan are fitted for; left out for the plan as it is.
    fitted: Option<Key>,
    /// Weight of the differences between neighbouring zones where values are fitted, 0 (keep the lights) to 1 (keep the differences).
    #[cfg_attr(feature = "description", param(minimum = 0, maximum = 1))]
    differences: Option<f64>,
}

/// A patch to measure.
#[derive(Deserialize)]
#[cfg_attr(feature = "description", derive(utoipa::IntoParams))]
#[cfg_attr(feature = "description", into_params(parameter_in = Query))]
pub(crate) struct Patch {
    /// Share of the width, 0..=1.
    #[cfg_attr(feature = "description", param(minimum = 0, maximum = 1))]
    x: f64,
    /// Share of the height, 0..=1.
    #[cfg_attr(feature = "description", param(minimum = 0, maximum = 1))]
    y: f64,
    /// Radius as a share of the longer side, 0..=0.25.
    #[cfg_attr(feature = "description", param(minimum = 0, maximum = 0.25))]
    radius: Option<f64>,
}

/// Takes in a reference: JPEG, PNG, WebP or TIFF. The file is kept untouched; zones are proposed. Runs as a job.
#[cfg_attr(feature = "description", utoipa::path(put, path = "/api/pieces/{id}/reference", params(("id" = i64, Path), FileName), request_body(content = Vec<u8>, content_type = "application/octet-stream"), responses((status = 202, body = JobView), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 413, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn take_in(
    State(studio): State<Studio>,
    Path(id): Path<i64>,
    Query(name): Query<FileName>,
    Body(bytes): Body,
) -> Result<(StatusCode, Json<JobView>), Problem> {
    studio.run(move |s| Ok(s.store.piece(id).map(|_| ())?)).await?;
    let file_name = name.or("picture");
    let worker = studio.clone();
    let view = studio.jobs.start(id, "reading the picture", move |job| read_in(&worker, id, file_name, &bytes, job));
    Ok((StatusCode::ACCEPTED, Json(view)))
}

fn read_in(studio: &Studio, id: i64, file_name: String, bytes: &[u8], job: &Job) -> Result<(), Problem> {
    let go_on = |share| {
        job.report(share);
        if job.is_cancelled() { Err(Problem::cancelled()) } else { Ok(()) }
    };
    let waits = || {
        job.waits(true);
        if job.is_cancelled() { Err(Problem::cancelled()) } else { Ok(()) }
    };
    // On threads of their own: whoever waits for room here must not hold a thread that parallel loops need.
    let (digest, picture) = std::thread::scope(|s| {
        let digest = s.spawn(|| Store::digest_of(bytes));
        let picture = open_while(bytes, &waits);
        (joined(digest), picture)
    });
    let (digest, picture) = (digest?, picture?);
    job.waits(false);
    go_on(0.45)?;
    let file = PictureFile::of(digest.clone(), file_name, &picture);
    let working = Arc::new(picture.reduced(WORKING_SIDE));
    drop(picture);
    go_on(0.55)?;
    // The files are kept while the zones are found.
    let (command, survey) = std::thread::scope(|s| {
        let kept = s.spawn(|| -> Result<String, Problem> { Ok(studio.store.put_picture(bytes, &png(&working)?)?) });
        let survey = Arc::new(Survey::of(&working));
        let drawing = is_drawing(&working).then(|| set_drawing(&working, file.clone())).flatten();
        let command = drawing.unwrap_or_else(|| set_reference_at(Surveyed { working: &working, survey: &survey }, COLOURS, file));
        joined(kept).and_then(|kept| kept.map(|_| (command, survey)))
    })?;
    go_on(0.95)?;
    studio.looked_at(&digest, working.clone(), survey);
    studio.store.apply(id, None, command)?;
    Ok(())
}

/// Result of a finished thread; a problem where it panicked.
fn joined<T>(thread: ScopedJoinHandle<T>) -> Result<T, Problem> {
    thread.join().map_err(|_| Problem::internal("The work stopped unexpectedly. Nothing was changed; try again."))
}

/// The reference file, byte for byte as it was given.
#[cfg_attr(feature = "description", utoipa::path(get, path = "/api/pieces/{id}/reference/original", params(("id" = i64, Path)), responses((status = 200, content_type = "application/octet-stream", body = Vec<u8>), (status = 404, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn original(State(studio): State<Studio>, Path(id): Path<i64>) -> Result<Response, Problem> {
    studio
        .run(move |s| {
            let kept = s.store.piece(id)?;
            let reference =
                kept.piece.reference.ok_or_else(|| Problem::not_found("This piece has no reference yet. Drop a picture on it."))?;
            let kind = [(header::CONTENT_TYPE, "application/octet-stream"), (header::CONTENT_DISPOSITION, "attachment")];
            Ok((kind, s.store.original(&reference.digest)?).into_response())
        })
        .await
}

/// The reference as seen in one of the ways of looking, as JPEG.
#[cfg_attr(feature = "description", utoipa::path(get, path = "/api/pieces/{id}/reference/view", params(("id" = i64, Path), Looking), responses((status = 200, content_type = "image/jpeg", body = Vec<u8>), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn look(State(studio): State<Studio>, Path(id): Path<i64>, Query(looking): Query<Looking>) -> Result<Response, Problem> {
    studio
        .run(move |s| {
            let groups = looking.groups.map(checked_groups).transpose()?;
            let (kept, picture) = s.piece_and_picture(id)?;
            jpeg(&seen(&kept.piece, &picture, planned::What::Read, &looking, groups)?, "private, max-age=3600")
        })
        .await
}

/// A picture in one of the ways of looking.
fn seen(piece: &Piece, picture: &Picture, what: planned::What, looking: &Looking, groups: Option<usize>) -> Result<Picture, Problem> {
    let view = match looking.look.unwrap_or(Look::AsItIs) {
        Look::AsItIs => View::AsItIs,
        Look::Values => View::Values,
        Look::WarmCool => View::WarmCool,
        Look::Squint => View::Squint,
        Look::Clipped => View::Clipped,
        Look::Equal => View::Equal((looking.value.unwrap_or(5.0).clamp(0.0, 10.0) * 100.0).round() as u16),
        Look::Neighbours => {
            return planned::draw_among_neighbours(piece, what)
                .ok_or_else(|| Problem::unusable("There are no zones yet to look at among their neighbours."));
        }
    };
    Ok(draw(picture, view, groups))
}

/// The piece as planned, zones filled with their targets, in one of the ways of looking, as JPEG.
#[cfg_attr(feature = "description", utoipa::path(get, path = "/api/pieces/{id}/planned/view", params(("id" = i64, Path), Looking), responses((status = 200, content_type = "image/jpeg", body = Vec<u8>), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn look_planned(
    State(studio): State<Studio>,
    Path(id): Path<i64>,
    Query(looking): Query<Looking>,
) -> Result<Response, Problem> {
    studio
        .run(move |s| {
            let groups = looking.groups.map(checked_groups).transpose()?;
            let kept = s.store.piece(id)?;
            let piece = match looking.fitted {
                None => kept.piece,
                Some(key) => {
                    let paint_box = s.box_of(&kept)?;
                    let fit = Request::MapValues { key, differences: looking.differences };
                    kept.piece.apply(fit.into_command(&kept.piece, paint_box.as_ref(), None)?)?.0
                }
            };
            let plan = planned::draw(&piece, planned::What::Planned)
                .ok_or_else(|| Problem::not_found("This piece has no zones yet, so there is no plan to see."))?;
            let shown = seen(&piece, &plan, planned::What::Planned, &looking, groups)?;
            jpeg(&s.with_lines(&piece, shown)?, "no-cache")
        })
        .await
}

/// How the reference is framed, and the revision that was meant for.
#[derive(Deserialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct Framing {
    /// Revision the page last saw.
    base_revision: i64,
    /// Degrees clockwise.
    #[cfg_attr(feature = "description", schema(minimum = -45, maximum = 45))]
    straighten: f64,
    /// The part looked at; left out for all.
    crop: Option<Crop>,
    /// Cut it to the proportion of the piece.
    fit: bool,
}

/// Turns and crops the reference. Zones are found anew.
#[cfg_attr(feature = "description", utoipa::path(put, path = "/api/pieces/{id}/reference/frame", operation_id = "frame_reference", params(("id" = i64, Path)), request_body = Framing, responses((status = 200, body = PieceView), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 409, body = Problem, content_type = "application/problem+json"), (status = 415, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn frame(State(studio): State<Studio>, Path(id): Path<i64>, In(ask): In<Framing>) -> Result<Json<PieceView>, Problem> {
    studio
        .run(move |s| {
            let kept = s.store.piece(id)?;
            let reference = reference_of(&kept.piece)?;
            let mut frame = Frame { straighten: ask.straighten, crop: ask.crop, ..reference.frame };
            frame.check().map_err(Problem::unusable)?;
            if ask.fit {
                let size = kept.piece.brief.size;
                frame = frame.fitted(reference.full_size(), size.width.0 / size.height.0);
            }
            reframed(s, id, ask.base_revision, &kept.piece, &reference.digest, frame)
        })
        .await
}

fn reference_of(piece: &Piece) -> Result<&Reference, Problem> {
    piece.reference.as_ref().ok_or_else(|| Problem::not_found("This piece has no reference yet. Drop a picture on it."))
}

fn reframed(s: &Studio, id: i64, base: i64, piece: &Piece, digest: &str, frame: Frame) -> Result<Json<PieceView>, Problem> {
    let picture = s.framed(digest, frame)?;
    let survey = s.survey_of(digest, frame, &picture);
    let command = reframe(piece, zones::Surveyed { working: &picture, survey: &survey }, frame).map_err(Problem::unusable)?;
    view(s, s.store.apply(id, Some(base), command)?)
}

/// Something known to be neutral in the reference.
#[derive(Deserialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct Neutral {
    /// Revision the page last saw.
    base_revision: i64,
    /// Where it is; left out to take the correction back.
    at: Option<Spot>,
    /// Its value, when it is a grey card; left out keeps the exposure.
    #[cfg_attr(feature = "description", schema(minimum = 1, maximum = 9.5))]
    card: Option<f64>,
}

/// Corrects the light of the reference by something known to be neutral. Zones stay and are read again.
#[cfg_attr(feature = "description", utoipa::path(put, path = "/api/pieces/{id}/reference/neutral", params(("id" = i64, Path)), request_body = Neutral, responses((status = 200, body = PieceView), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 409, body = Problem, content_type = "application/problem+json"), (status = 415, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn neutral(State(studio): State<Studio>, Path(id): Path<i64>, In(ask): In<Neutral>) -> Result<Json<PieceView>, Problem> {
    studio
        .run(move |s| {
            if ask.card.is_some_and(|v| !(1.0..=9.5).contains(&v)) {
                return Err(Problem::unusable("A grey card has a value from 1 to 9.5."));
            }
            let kept = s.store.piece(id)?;
            let reference = reference_of(&kept.piece)?;
            let plain = Frame { gains: None, ..reference.frame };
            if ask.at.is_none() && reference.frame.gains.is_none() {
                // Nothing was corrected, so there is nothing to take back.
                return view(s, kept);
            }
            let gains = match ask.at {
                None => None,
                Some(at) => {
                    let picture = s.framed(&reference.digest, plain)?;
                    let radius = picture.width.max(picture.height) / 160;
                    Some(neutral_at(&picture, at, radius, ask.card.map(Value)).map_err(Problem::unusable)?)
                }
            };
            reframed(s, id, ask.base_revision, &kept.piece, &reference.digest, Frame { gains, ..plain })
        })
        .await
}

/// Two ends of a measuring line, or the middles of two patches.
#[derive(Deserialize)]
#[cfg_attr(feature = "description", derive(utoipa::IntoParams))]
#[cfg_attr(feature = "description", into_params(parameter_in = Query))]
pub(crate) struct Ends {
    /// Share of the width.
    #[cfg_attr(feature = "description", param(minimum = 0, maximum = 1))]
    x: f64,
    /// Share of the height.
    #[cfg_attr(feature = "description", param(minimum = 0, maximum = 1))]
    y: f64,
    /// Share of the width of the other.
    #[cfg_attr(feature = "description", param(minimum = 0, maximum = 1))]
    to_x: f64,
    /// Share of the height of the other.
    #[cfg_attr(feature = "description", param(minimum = 0, maximum = 1))]
    to_y: f64,
}

/// Values and temperatures along a line.
#[cfg_attr(feature = "description", utoipa::path(get, path = "/api/pieces/{id}/reference/line", params(("id" = i64, Path), Ends), responses((status = 200, body = Profile), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn line(State(studio): State<Studio>, Path(id): Path<i64>, Query(e): Query<Ends>) -> Result<Json<Profile>, Problem> {
    studio
        .run(move |s| {
            let (_, picture) = s.piece_and_picture(id)?;
            let (from, to) = (Spot { x: e.x, y: e.y }, Spot { x: e.to_x, y: e.to_y });
            Ok(Json(measure::along(&picture, from, to).map_err(Problem::unusable)?))
        })
        .await
}

/// Two round patches compared: value first, temperature second, hue last.
#[cfg_attr(feature = "description", utoipa::path(get, path = "/api/pieces/{id}/reference/compare", params(("id" = i64, Path), Ends), responses((status = 200, body = Compared), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn compare_patches(
    State(studio): State<Studio>,
    Path(id): Path<i64>,
    Query(e): Query<Ends>,
) -> Result<Json<Compared>, Problem> {
    studio
        .run(move |s| {
            let (kept, picture) = s.piece_and_picture(id)?;
            let mark = |x: f64, y: f64| patch_mark(&picture, x, y, 0.01, kept.piece.neutral());
            Ok(Json(compare(mark(e.x, e.y)?, mark(e.to_x, e.to_y)?)))
        })
        .await
}

fn patch_mark(picture: &Picture, x: f64, y: f64, radius: f64, neutral: Temperature) -> Result<Mark, Problem> {
    if !(0.0..=1.0).contains(&x) || !(0.0..=1.0).contains(&y) || !(0.0..=0.25).contains(&radius) {
        return Err(Problem::unusable("A patch lies at x and y from 0 to 1 with a radius from 0 to 0.25."));
    }
    let cell = |share: f64, n: u32| ((share * f64::from(n)) as u32).min(n - 1);
    let r = (radius * f64::from(picture.width.max(picture.height))) as u32;
    let lab = picture
        .patch(cell(x, picture.width), cell(y, picture.height), r)
        .ok_or_else(|| Problem::unusable("That place is outside the picture."))?;
    Ok(Mark::of(lab, neutral))
}

/// Which zone.
#[derive(Deserialize)]
#[cfg_attr(feature = "description", derive(utoipa::IntoParams))]
#[cfg_attr(feature = "description", into_params(parameter_in = Query))]
pub(crate) struct OfZone {
    /// Its number.
    zone: u16,
}

/// How dark and how light a zone goes.
#[cfg_attr(feature = "description", utoipa::path(get, path = "/api/pieces/{id}/reference/spread", params(("id" = i64, Path), OfZone), responses((status = 200, body = Spread), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn spread(State(studio): State<Studio>, Path(id): Path<i64>, Query(of): Query<OfZone>) -> Result<Json<Spread>, Problem> {
    studio
        .run(move |s| {
            let (kept, picture) = s.piece_and_picture(id)?;
            let map = kept.piece.map().ok_or_else(|| Problem::not_found("This piece has no zones yet."))?;
            let found = measure::inside(&picture, map, of.zone)
                .ok_or_else(|| Problem::not_found(format!("There is no zone {} any more.", of.zone)))?;
            Ok(Json(found))
        })
        .await
}

fn checked_groups(groups: usize) -> Result<usize, Problem> {
    if (2..=12).contains(&groups) {
        Ok(groups)
    } else {
        Err(Problem::unusable(format!("{groups} value groups cannot be shown; ask for 2 to 12.")))
    }
}

/// The values of the reference on the ladder.
#[cfg_attr(feature = "description", utoipa::path(get, path = "/api/pieces/{id}/reference/ladder", params(("id" = i64, Path), Looking), responses((status = 200, body = Ladder), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn values(
    State(studio): State<Studio>,
    Path(id): Path<i64>,
    Query(looking): Query<Looking>,
) -> Result<Json<Ladder>, Problem> {
    studio
        .run(move |s| {
            let groups = looking.groups.map(checked_groups).transpose()?.unwrap_or(5);
            let (_, picture) = s.piece_and_picture(id)?;
            Ok(Json(ladder(&picture, groups)))
        })
        .await
}

/// Value, temperature and colour of a round patch of the reference.
#[cfg_attr(feature = "description", utoipa::path(get, path = "/api/pieces/{id}/reference/patch", params(("id" = i64, Path), Patch), responses((status = 200, body = Mark), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn patch(State(studio): State<Studio>, Path(id): Path<i64>, Query(at): Query<Patch>) -> Result<Json<Mark>, Problem> {
    studio
        .run(move |s| {
            let (kept, picture) = s.piece_and_picture(id)?;
            Ok(Json(patch_mark(&picture, at.x, at.y, at.radius.unwrap_or(0.01), kept.piece.neutral())?))
        })
        .await
}
