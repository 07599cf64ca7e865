//! Other references of a piece, sheets of compositions, and the colour chart.

use super::pieces::{Step, view};
use super::reference::FileName;
use crate::extract::{Body, Json as In, Path, Query};
use crate::handlers::take_in::take_in_for;
use crate::pictures::TakenIn;
use crate::pictures::{jpeg, open};
use crate::problem::Problem;
use crate::state::Studio;
use crate::views::PieceView;
use axum::Json;
use axum::extract::State;
use axum::response::Response;
use lean_picture::chart::{MOST, distinct};
use lean_picture::cut_apart;
use lean_picture::frame::{Crop, Frame};
use lean_piece::change::{KeepChart, SetCompositions, SetOthers, SetReference};
use lean_piece::{Command, Composition, Compositions, Other, Piece, PixelSize, Reference};
use lean_plan::chart::arranged;
use lean_plan::zones::{PictureFile, set_reference};
use serde::Deserialize;

/// Adds another reference beside the main one.
#[cfg_attr(feature = "description", utoipa::path(put, path = "/api/pieces/{id}/others", operation_id = "add_other", params(("id" = i64, Path), FileName), request_body(content = Vec<u8>, content_type = "application/octet-stream"), responses((status = 200, body = PieceView), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 413, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn add(
    State(studio): State<Studio>,
    Path(id): Path<i64>,
    Query(name): Query<FileName>,
    Body(bytes): Body,
) -> Result<Json<PieceView>, Problem> {
    take_in_for(studio, id, bytes, Ok, move |piece, p| {
        let mut others: Vec<Other> = piece.others.into_iter().filter(|o| o.digest != p.digest).collect();
        others.push(Other::of(p.digest, name.or("picture"), p.full));
        Command::SetOthers(SetOthers { others })
    })
    .await
}

/// A picture kept with a piece: another reference, the sheet of compositions, or the main reference.
#[cfg_attr(feature = "description", utoipa::path(get, path = "/api/pieces/{id}/pictures/{digest}", operation_id = "look_at_picture", params(("id" = i64, Path), ("digest" = String, Path)), responses((status = 200, content_type = "image/jpeg", body = Vec<u8>), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn look(State(studio): State<Studio>, Path((id, digest)): Path<(i64, String)>) -> Result<Response, Problem> {
    studio
        .run(move |s| {
            let piece = s.store.piece(id)?.piece;
            let own = piece.others.iter().any(|o| o.digest == digest)
                || piece.compositions.as_ref().is_some_and(|c| c.digest == digest)
                || piece.reference.as_ref().is_some_and(|r| r.digest == digest);
            if !own {
                return Err(Problem::not_found("That picture is not kept with this piece."));
            }
            jpeg(&*s.working_copy(&digest)?, "private, max-age=3600")
        })
        .await
}

/// Which of the other references, and the revision that was meant for.
#[derive(Deserialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct WhichOther {
    /// Revision the page last saw.
    base_revision: i64,
    /// Its digest.
    digest: String,
}

/// Makes another reference the main one; the main one becomes another. Zones are found anew.
#[cfg_attr(feature = "description", utoipa::path(post, path = "/api/pieces/{id}/others/main", params(("id" = i64, Path)), request_body = WhichOther, responses((status = 200, body = PieceView), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 409, body = Problem, content_type = "application/problem+json"), (status = 415, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn make_main(
    State(studio): State<Studio>,
    Path(id): Path<i64>,
    In(ask): In<WhichOther>,
) -> Result<Json<PieceView>, Problem> {
    studio
        .run(move |s| {
            let among = |piece: &Piece| {
                let chosen = piece.others.iter().find(|o| o.digest == ask.digest).cloned();
                chosen.ok_or_else(|| Problem::not_found("That picture is not among the references of this piece."))
            };
            let chosen = among(&s.store.piece(id)?.piece)?;
            let working = s.working_copy(&chosen.digest)?;
            let file = PictureFile::of(chosen.digest.clone(), chosen.file_name.clone(), &*open(&s.store.original(&chosen.digest)?)?);
            let mut command = set_reference(&working, file);
            if let Command::SetReference(SetReference { reference: Some(r), .. }) = &mut command {
                r.serves.clone_from(&chosen.serves);
            }
            let kept = s.store.change(id, Some(ask.base_revision), |piece| {
                let mut others: Vec<Other> = piece.others.iter().filter(|o| o.digest != chosen.digest).cloned().collect();
                others.extend(piece.reference.as_ref().map(as_other));
                Ok::<_, Problem>(vec![Command::SetOthers(SetOthers { others }), command])
            })?;
            view(s, kept)
        })
        .await
}

fn as_other(r: &Reference) -> Other {
    Other { serves: r.serves.clone(), ..Other::of(r.digest.clone(), r.file_name.clone(), r.full_size()) }
}

/// Takes in a photographed sheet of pencil compositions and cuts it apart.
#[cfg_attr(feature = "description", utoipa::path(put, path = "/api/pieces/{id}/compositions", operation_id = "put_compositions", params(("id" = i64, Path), FileName), request_body(content = Vec<u8>, content_type = "application/octet-stream"), responses((status = 200, body = PieceView), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 413, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn cut(
    State(studio): State<Studio>,
    Path(id): Path<i64>,
    Query(name): Query<FileName>,
    Body(bytes): Body,
) -> Result<Json<PieceView>, Problem> {
    let read = move |p: TakenIn| {
        let part = |c: Crop| Crop { left: c.left, top: c.top, width: c.width.min(1.0 - c.left), height: c.height.min(1.0 - c.top) };
        let whole = |c: Crop| Composition { part: part(c), reason: String::new() };
        let cut: Vec<Composition> = cut_apart::drawings(&p.working).into_iter().map(whole).collect();
        if cut.is_empty() {
            return Err(Problem::unusable(
                "No drawing was found on this sheet. Photograph it flat, in even light, dark marks on light paper.",
            ));
        }
        let (width, height) = p.full;
        Ok(Compositions { digest: p.digest, file_name: name.or("sheet"), width, height, cut, chosen: None })
    };
    take_in_for(studio, id, bytes, read, |_, compositions| Command::SetCompositions(SetCompositions { compositions: Some(compositions) }))
        .await
}

/// Carries the chosen composition on: it becomes the reference, cut out of its sheet at the proportion of the piece.
#[cfg_attr(feature = "description", utoipa::path(post, path = "/api/pieces/{id}/compositions/carry", params(("id" = i64, Path)), request_body = Step, responses((status = 200, body = PieceView), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 409, body = Problem, content_type = "application/problem+json"), (status = 415, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn carry(State(studio): State<Studio>, Path(id): Path<i64>, In(ask): In<Step>) -> Result<Json<PieceView>, Problem> {
    studio
        .run(move |s| {
            let piece = s.store.piece(id)?.piece;
            let sheet =
                piece.compositions.as_ref().ok_or_else(|| Problem::unusable("There is no sheet of compositions yet. Drop one first."))?;
            let chosen = sheet
                .chosen
                .and_then(|i| sheet.cut.get(i))
                .ok_or_else(|| Problem::unusable("Choose the composition that goes on first."))?;
            let c = chosen.part;
            let frame = Frame { crop: Some(Crop { left: c.left, top: c.top, width: c.width, height: c.height }), ..Frame::default() };
            let size = piece.brief.size;
            let frame = frame.fitted((sheet.width, sheet.height), size.width.0 / size.height.0);
            let working = s.framed(&sheet.digest, frame)?;
            let full = (sheet.width, sheet.height);
            let whole = PictureFile::of(sheet.digest.clone(), sheet.file_name.clone(), &*open(&s.store.original(&sheet.digest)?)?);
            let mut command = set_reference(&working, PictureFile { full: frame.size_of(full), ..whole });
            if let Command::SetReference(SetReference { reference: Some(r), .. }) = &mut command {
                (r.frame, r.full) = (frame, Some(PixelSize { width: full.0, height: full.1 }));
            }
            view(s, s.store.apply(id, Some(ask.base_revision()), command)?)
        })
        .await
}

/// How many cells a chart should have.
#[derive(Deserialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct Charting {
    /// Revision the page last saw.
    base_revision: i64,
    /// 1..=36; left out for as many as are distinct.
    #[cfg_attr(feature = "description", schema(minimum = 1, maximum = 36))]
    count: Option<usize>,
}

/// Lays the distinct colours of the reference out as a chart.
#[cfg_attr(feature = "description", utoipa::path(post, path = "/api/pieces/{id}/chart", params(("id" = i64, Path)), request_body = Charting, responses((status = 200, body = PieceView), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 409, body = Problem, content_type = "application/problem+json"), (status = 415, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn chart(State(studio): State<Studio>, Path(id): Path<i64>, In(ask): In<Charting>) -> Result<Json<PieceView>, Problem> {
    studio
        .run(move |s| {
            if ask.count.is_some_and(|n| !(1..=MOST).contains(&n)) {
                return Err(Problem::unusable(format!("A chart has 1 to {MOST} cells.")));
            }
            let (_, picture) = s.piece_and_picture(id)?;
            let chart = arranged(&distinct(&picture, ask.count).colours);
            view(s, s.store.apply(id, Some(ask.base_revision), Command::KeepChart(KeepChart { chart: Some(chart) }))?)
        })
        .await
}

/// Which cell of the chart.
#[derive(Deserialize)]
#[cfg_attr(feature = "description", derive(utoipa::IntoParams))]
#[cfg_attr(feature = "description", into_params(parameter_in = Query))]
pub(crate) struct Cell {
    /// Its place in the list, from 0.
    cell: usize,
}

/// Where a colour of the chart occurs: the rest of the reference is faint grey. JPEG.
#[cfg_attr(feature = "description", utoipa::path(get, path = "/api/pieces/{id}/chart/where", params(("id" = i64, Path), Cell), responses((status = 200, content_type = "image/jpeg", body = Vec<u8>), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn occurs(State(studio): State<Studio>, Path(id): Path<i64>, Query(which): Query<Cell>) -> Result<Response, Problem> {
    studio
        .run(move |s| {
            let (kept, picture) = s.piece_and_picture(id)?;
            let chart = kept.piece.chart.as_ref().ok_or_else(|| Problem::not_found("There is no chart of this picture yet."))?;
            let found = lean_plan::chart::occurs(&picture, chart, which.cell)
                .ok_or_else(|| Problem::not_found("There is no such cell in the chart."))?;
            jpeg(&found, "no-cache")
        })
        .await
}
