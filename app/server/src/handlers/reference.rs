//! The reference: taken in, looked at, measured.

use crate::extract::{Body, Path, Query};
use crate::jobs::{Job, JobView};
use crate::problem::Problem;
use crate::state::Studio;
use axum::Json;
use axum::extract::State;
use axum::http::{StatusCode, header};
use axum::response::{IntoResponse, Response};
use image::codecs::jpeg::JpegEncoder;
use image::codecs::png::{CompressionType, FilterType, PngEncoder};
use image::{ExtendedColorType, ImageEncoder};
use lean_picture::values::{Ladder, ladder};
use lean_picture::views::{View, draw};
use lean_picture::{Picture, decode};
use lean_store::Store;
use lean_studio::mixes::Mark;
use lean_studio::progress::Progress;
use lean_studio::zones::{WORKING_SIDE, set_reference};
use serde::Deserialize;
use utoipa::{IntoParams, ToSchema};

/// Name the file had.
#[derive(Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct FileName {
    /// Name the file had, shown to the painter.
    file_name: Option<String>,
}

/// How to show the reference.
#[derive(Clone, Copy, Deserialize, ToSchema)]
#[serde(rename_all = "kebab-case")]
pub enum Look {
    /// Unchanged.
    AsItIs,
    /// Greys of the same value.
    Values,
    /// One value, warmer or cooler.
    WarmCool,
    /// Blurred and flattened.
    Squint,
}

/// A way of looking.
#[derive(Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct Looking {
    /// How.
    look: Option<Look>,
    /// Number of value groups, 2..=12; left out for none.
    #[param(minimum = 2, maximum = 12)]
    groups: Option<usize>,
}

/// A patch to measure.
#[derive(Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct Patch {
    /// Share of the width, 0..=1.
    #[param(minimum = 0, maximum = 1)]
    x: f64,
    /// Share of the height, 0..=1.
    #[param(minimum = 0, maximum = 1)]
    y: f64,
    /// Radius as a share of the longer side, 0..=0.25.
    #[param(minimum = 0, maximum = 0.25)]
    radius: Option<f64>,
}

/// Takes in a reference: JPEG, PNG, WebP or TIFF. The file is kept untouched; zones are proposed. Runs as a job.
#[utoipa::path(put, path = "/api/pieces/{id}/reference", params(("id" = i64, Path), FileName), request_body(content = Vec<u8>, content_type = "application/octet-stream"), responses((status = 202, body = JobView), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 413, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json")))]
pub async fn take_in(
    State(studio): State<Studio>,
    Path(id): Path<i64>,
    Query(name): Query<FileName>,
    Body(bytes): Body,
) -> Result<(StatusCode, Json<JobView>), Problem> {
    studio.run(move |s| Ok(s.store.piece(id).map(|_| ())?)).await?;
    let file_name: String = name.file_name.filter(|n| !n.trim().is_empty()).unwrap_or_else(|| "picture".into()).chars().take(120).collect();
    let worker = studio.clone();
    let view = studio.jobs.start(id, "reading the picture", move |job| read_in(&worker, id, file_name, &bytes, job));
    Ok((StatusCode::ACCEPTED, Json(view)))
}

fn read_in(studio: &Studio, id: i64, file_name: String, bytes: &[u8], job: &Job) -> Result<(), Problem> {
    let go_on = |share| {
        job.report(share);
        if job.is_cancelled() { Err(cancelled()) } else { Ok(()) }
    };
    let digest = Store::digest_of(bytes);
    go_on(0.05)?;
    let picture = decode(bytes)?;
    go_on(0.45)?;
    let full = (picture.width, picture.height);
    let working = picture.reduced(WORKING_SIDE);
    drop(picture);
    go_on(0.55)?;
    let command = set_reference(&working, digest, file_name, full);
    go_on(0.8)?;
    studio.store.put_picture(bytes, &png(&working)?)?;
    go_on(0.95)?;
    studio.store.apply(id, None, command)?;
    Ok(())
}

/// The problem of work that was called off.
pub fn cancelled() -> Problem {
    lean_studio::lean::NoAnswer::Cancelled.into()
}

/// A picture as a lossless PNG, quickly.
pub fn png(picture: &Picture) -> Result<Vec<u8>, Problem> {
    let mut out = Vec::new();
    PngEncoder::new_with_quality(&mut out, CompressionType::Fast, FilterType::Up)
        .write_image(&picture.rgb, picture.width, picture.height, ExtendedColorType::Rgb8)
        .map_err(|e| Problem::internal(format!("The picture cannot be written: {e}")))?;
    Ok(out)
}

/// The reference file, byte for byte as it was given.
#[utoipa::path(get, path = "/api/pieces/{id}/reference/original", params(("id" = i64, Path)), responses((status = 200, content_type = "application/octet-stream", body = Vec<u8>), (status = 404, body = Problem, content_type = "application/problem+json")))]
pub async fn original(State(studio): State<Studio>, Path(id): Path<i64>) -> Result<Response, Problem> {
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
#[utoipa::path(get, path = "/api/pieces/{id}/reference/view", params(("id" = i64, Path), Looking), responses((status = 200, content_type = "image/jpeg", body = Vec<u8>), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json")))]
pub async fn look(State(studio): State<Studio>, Path(id): Path<i64>, Query(looking): Query<Looking>) -> Result<Response, Problem> {
    studio
        .run(move |s| {
            let groups = looking.groups.map(checked_groups).transpose()?;
            let (_, picture) = s.piece_and_picture(id)?;
            let view = match looking.look.unwrap_or(Look::AsItIs) {
                Look::AsItIs => View::AsItIs,
                Look::Values => View::Values,
                Look::WarmCool => View::WarmCool,
                Look::Squint => View::Squint,
            };
            let seen = draw(&picture, view, groups);
            let mut out = Vec::new();
            JpegEncoder::new_with_quality(&mut out, 90)
                .write_image(&seen.rgb, seen.width, seen.height, ExtendedColorType::Rgb8)
                .map_err(|e| Problem::internal(format!("The picture cannot be written: {e}")))?;
            Ok(([(header::CONTENT_TYPE, "image/jpeg"), (header::CACHE_CONTROL, "private, max-age=3600")], out).into_response())
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
#[utoipa::path(get, path = "/api/pieces/{id}/reference/ladder", params(("id" = i64, Path), Looking), responses((status = 200, body = Ladder), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json")))]
pub async fn values(State(studio): State<Studio>, Path(id): Path<i64>, Query(looking): Query<Looking>) -> Result<Json<Ladder>, Problem> {
    studio
        .run(move |s| {
            let groups = looking.groups.map(checked_groups).transpose()?.unwrap_or(5);
            let (_, picture) = s.piece_and_picture(id)?;
            Ok(Json(ladder(&picture, groups)))
        })
        .await
}

/// Value, temperature and colour of a round patch of the reference.
#[utoipa::path(get, path = "/api/pieces/{id}/reference/patch", params(("id" = i64, Path), Patch), responses((status = 200, body = Mark), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json")))]
pub async fn patch(State(studio): State<Studio>, Path(id): Path<i64>, Query(at): Query<Patch>) -> Result<Json<Mark>, Problem> {
    studio
        .run(move |s| {
            let radius = at.radius.unwrap_or(0.01);
            if !(0.0..=1.0).contains(&at.x) || !(0.0..=1.0).contains(&at.y) || !(0.0..=0.25).contains(&radius) {
                return Err(Problem::unusable("A patch lies at x and y from 0 to 1 with a radius from 0 to 0.25."));
            }
            let (kept, picture) = s.piece_and_picture(id)?;
            let cell = |share: f64, n: u32| ((share * f64::from(n)) as u32).min(n - 1);
            let r = (radius * f64::from(picture.width.max(picture.height))) as u32;
            let lab = picture
                .patch(cell(at.x, picture.width), cell(at.y, picture.height), r)
                .ok_or_else(|| Problem::unusable("That place is outside the picture."))?;
            Ok(Json(Mark::of(lab, kept.piece.neutral())))
        })
        .await
}
