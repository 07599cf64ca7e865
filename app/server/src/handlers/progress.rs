//! Photos of a piece on its way: taken in, looked at, compared with their stage.

use super::pieces::view;
use super::take_in::take_in_for;
use crate::extract::{Body, Path, Query};
use crate::pictures::{jpeg, png};
use crate::problem::Problem;
use crate::state::Studio;
use crate::views::PieceView;
use axum::Json;
use axum::extract::State;
use axum::response::Response;
use lean_instruments::{Camera, Shot, SimulatedCamera};
use lean_picture::Picture;
use lean_piece::change::SetEasel;
use lean_piece::easel::{Easel, ProgressPhoto};
use lean_piece::paint_box::PaintBox;
use lean_piece::{Command, MOST_NAME, Piece};
use lean_plan::departures::as_painted;
use lean_plan::planned::painted_look;
use lean_plan::progress::{Progress, compared, gain};
use lean_plan::stages::look_at;
use lean_store::Store;
use serde::{Deserialize, Serialize};

/// A photo being taken in.
#[derive(Deserialize)]
#[cfg_attr(feature = "description", derive(utoipa::IntoParams))]
#[cfg_attr(feature = "description", into_params(parameter_in = Query))]
pub(crate) struct Taken {
    /// Name it was dropped under.
    file_name: Option<String>,
    /// The painter's own time, as `2025-01-18T19:40`.
    at: String,
}

/// Takes in a photo of the piece on its way.
#[cfg_attr(feature = "description", utoipa::path(put, path = "/api/pieces/{id}/easel/photos", operation_id = "put_progress_photo", params(("id" = i64, Path), Taken), request_body(content = Vec<u8>, content_type = "application/octet-stream"), responses((status = 200, body = PieceView), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 413, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn put(
    State(studio): State<Studio>,
    Path(id): Path<i64>,
    Query(taken): Query<Taken>,
    Body(bytes): Body,
) -> Result<Json<PieceView>, Problem> {
    let name = taken.file_name.unwrap_or_else(|| "progress".into()).chars().take(MOST_NAME).collect();
    // A device that did not hear the answer sends its photo again: it is still one.
    let (digest, at) = (Store::digest_of(&bytes), taken.at.clone());
    let kept = studio.run(move |s| Ok(s.store.piece(id)?)).await?;
    if kept.piece.easel.photos.iter().any(|p| p.digest == digest && p.at == at) {
        return studio.run(move |s| view(s, kept)).await;
    }
    take_in_for(studio, id, bytes, Ok, move |piece, p| with_photo(piece, p.digest, name, p.full, taken.at)).await
}

/// The command that keeps a photo with a piece.
pub(crate) fn with_photo(piece: Piece, digest: String, file_name: String, (width, height): (u32, u32), at: String) -> Command {
    let mut easel: Easel = piece.easel;
    easel.photos.push(ProgressPhoto { digest, file_name, width, height, at, corners: None, card: None, stage: None });
    SetEasel { easel, what: "a photo of its progress".into() }.into()
}

/// Takes a photo of the piece as it should look now with the simulated camera: for trying things out where there is no painting.
#[cfg_attr(feature = "description", utoipa::path(post, path = "/api/pieces/{id}/easel/photos/simulated", operation_id = "simulate_progress_photo", params(("id" = i64, Path), Taken), responses((status = 200, body = PieceView), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn simulate(
    State(studio): State<Studio>,
    Path(id): Path<i64>,
    Query(taken): Query<Taken>,
) -> Result<Json<PieceView>, Problem> {
    let photo = studio
        .run(move |s| {
            let kept = s.store.piece(id)?;
            let paint_box = s.needed_box(&kept)?;
            png(&simulated(&kept.piece, &paint_box, &|_, lab| lab, SHOT)?)
        })
        .await?;
    let name = taken.file_name.unwrap_or_else(|| "simulated".into()).chars().take(MOST_NAME).collect();
    take_in_for(studio, id, photo.into(), Ok, move |piece, p| with_photo(piece, p.digest, name, p.full, taken.at)).await
}

/// Pixels along the longer side of a simulated photo.
pub(crate) const SHOT: u32 = 1200;

/// A photo of a piece as it should look now, its zones changed as `hand` says, askew on a table in warm light; `longer` pixels along its longer side.
///
/// # Errors
/// When there is nothing to be seen of it yet.
pub(crate) fn simulated(
    piece: &Piece,
    paint_box: &PaintBox,
    hand: &dyn Fn(lean_piece::ZoneId, lean_colour::Lab) -> lean_colour::Lab,
    longer: u32,
) -> Result<Picture, Problem> {
    const SEED: u64 = 23;
    let shorter = longer * 3 / 4;
    let painted = as_painted(piece);
    let mut look = look_at(&painted, paint_box, None).ok_or_else(|| Problem::unusable("There is no set yet, so nothing is painted."))?;
    for z in &mut look.zones {
        z.mark.lab = hand(z.zone, z.mark.lab);
    }
    let page = painted_look(&painted, &look, shorter).ok_or_else(|| Problem::unusable("There are no zones yet."))?;
    let portrait = page.height > page.width;
    let (width, height) = if portrait { (shorter, longer) } else { (longer, shorter) };
    let fits = (f64::from(page.width) / f64::from(page.height)) * f64::from(height) / f64::from(width);
    let (w, h) = if fits > 1.0 { (0.82, 0.82 / fits) } else { (0.82 * fits, 0.82) };
    let (x, y) = ((1.0 - w) / 2.0, (1.0 - h) / 2.0);
    let corners = [(x + 0.012, y), (x + w - 0.004, y + 0.016), (x + w + 0.012, y + h - 0.006), (x - 0.014, y + h + 0.01)];
    let shot = Shot { corners, falls: (0.18, -0.1), tint: [0.92, 0.86, 0.74], noise: 1.5, width, height };
    Ok(SimulatedCamera::seeded(SEED).take(&page, &shot))
}

/// A photo compared, and what it says beside the one before.
#[derive(Serialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct ProgressView {
    /// The comparison.
    progress: Progress,
    /// Whether the last session still gained something, in a sentence; empty for the first photo.
    gain: String,
}

/// A photo of the piece compared with its stage.
#[cfg_attr(feature = "description", utoipa::path(get, path = "/api/pieces/{id}/easel/photos/{at}", operation_id = "read_progress", params(("id" = i64, Path), ("at" = usize, Path)), responses((status = 200, body = ProgressView), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn read(State(studio): State<Studio>, Path((id, at)): Path<(i64, usize)>) -> Result<Json<ProgressView>, Problem> {
    studio
        .run(move |s| {
            let kept = s.store.piece(id)?;
            let paint_box = s.needed_box(&kept)?;
            let piece = &kept.piece;
            let of = |at: usize| -> Result<Progress, Problem> {
                let photo = piece.easel.photos.get(at).ok_or_else(|| Problem::not_found("That photo is not there any more."))?;
                compared(piece, &paint_box, &*s.working_copy(&photo.digest)?, photo).map_err(Problem::unusable)
            };
            let progress = of(at)?;
            let before = at.checked_sub(1).and_then(|b| of(b).ok());
            Ok(Json(ProgressView { gain: before.map(|b| gain(b.off, progress.off)).unwrap_or_default(), progress }))
        })
        .await
}

/// A photo of the piece on its way, as JPEG.
#[cfg_attr(feature = "description", utoipa::path(get, path = "/api/pieces/{id}/easel/photos/{at}/view", operation_id = "view_progress", params(("id" = i64, Path), ("at" = usize, Path)), responses((status = 200, content_type = "image/jpeg", body = Vec<u8>), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn look(State(studio): State<Studio>, Path((id, at)): Path<(i64, usize)>) -> Result<Response, Problem> {
    studio
        .run(move |s| {
            let piece = s.store.piece(id)?.piece;
            let photo = piece.easel.photos.get(at).ok_or_else(|| Problem::not_found("That photo is not there any more."))?;
            jpeg(&*s.working_copy(&photo.digest)?, "no-cache")
        })
        .await
}
