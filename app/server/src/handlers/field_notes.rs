//! Notes made in the field, and the pieces that come of them.

use super::pieces::view;
use crate::extract::{Body, Json as In, Path, Query};
use crate::pictures::{TakenIn, jpeg, open};
use crate::problem::Problem;
use crate::state::Studio;
use crate::views::{NoteView, PieceView};
use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use axum::response::Response;
use lean_piece::change::SetBrief;
use lean_piece::{Brief, Millimetres, Piece, Size};
use lean_plan::field_note::{FieldNote, occasion, title, with_photo, without_photo};
use lean_plan::zones::PictureFile;
use serde::{Deserialize, Serialize};

/// All notes, the newest first.
#[cfg_attr(feature = "description", utoipa::path(get, path = "/api/field-notes", operation_id = "list_notes", responses((status = 200, body = Vec<NoteView>))))]
pub(crate) async fn list(State(studio): State<Studio>) -> Result<Json<Vec<NoteView>>, Problem> {
    studio.run(|s| Ok(Json(s.store.field_notes()?.into_iter().map(NoteView::from).collect()))).await
}

/// The name a note was given where it was written.
#[derive(Deserialize)]
#[cfg_attr(feature = "description", derive(utoipa::IntoParams))]
#[cfg_attr(feature = "description", into_params(parameter_in = Query))]
pub(crate) struct SentAs {
    /// 8..=64 letters, digits and hyphens; sent again, a note is the one it was.
    sent_as: Option<String>,
}

/// Keeps a new note.
#[cfg_attr(feature = "description", utoipa::path(post, path = "/api/field-notes", operation_id = "create_note", params(SentAs), request_body = FieldNote, responses((status = 201, body = NoteView), (status = 415, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn create(
    State(studio): State<Studio>,
    Query(sent): Query<SentAs>,
    In(note): In<FieldNote>,
) -> Result<(StatusCode, Json<NoteView>), Problem> {
    studio
        .run(move |s| {
            note.check().map_err(Problem::unusable)?;
            let is_name = |n: &String| (8..=64).contains(&n.len()) && n.bytes().all(|b| b.is_ascii_alphanumeric() || b == b'-');
            if let Some(name) = sent.sent_as.as_ref().filter(|n| !is_name(n)) {
                return Err(Problem::unusable(format!("\"{name}\" names no note: it has 8 to 64 letters, digits and hyphens.")));
            }
            let id = s.store.create_note_sent_as(&note, sent.sent_as.as_deref())?;
            Ok((StatusCode::CREATED, Json(s.store.field_note(id)?.into())))
        })
        .await
}

/// One note.
#[cfg_attr(feature = "description", utoipa::path(get, path = "/api/field-notes/{id}", operation_id = "read_note", params(("id" = i64, Path)), responses((status = 200, body = NoteView), (status = 404, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn read(State(studio): State<Studio>, Path(id): Path<i64>) -> Result<Json<NoteView>, Problem> {
    studio.run(move |s| Ok(Json(s.store.field_note(id)?.into()))).await
}

/// Which state of a note a change was written over.
#[derive(Deserialize)]
#[cfg_attr(feature = "description", derive(utoipa::IntoParams))]
#[cfg_attr(feature = "description", into_params(parameter_in = Query))]
pub(crate) struct Over {
    /// Revision the page last saw.
    base_revision: i64,
}

/// Keeps a note as it is now.
#[cfg_attr(feature = "description", utoipa::path(put, path = "/api/field-notes/{id}", operation_id = "keep_note", params(("id" = i64, Path), Over), request_body = FieldNote, responses((status = 200, body = NoteView), (status = 409, body = Problem, content_type = "application/problem+json"), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 415, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn keep(
    State(studio): State<Studio>,
    Path(id): Path<i64>,
    Query(over): Query<Over>,
    In(note): In<FieldNote>,
) -> Result<Json<NoteView>, Problem> {
    studio
        .run(move |s| {
            note.check().map_err(Problem::unusable)?;
            s.store.put_field_note(id, over.base_revision, &note)?;
            Ok(Json(s.store.field_note(id)?.into()))
        })
        .await
}

/// Removes a note. Pieces made of it stay.
#[cfg_attr(feature = "description", utoipa::path(delete, path = "/api/field-notes/{id}", operation_id = "remove_note", params(("id" = i64, Path)), responses((status = 204), (status = 404, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn remove(State(studio): State<Studio>, Path(id): Path<i64>) -> Result<StatusCode, Problem> {
    studio.run(move |s| Ok(s.store.delete_field_note(id)?)).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// A photo that was kept.
#[derive(Serialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct KeptPhoto {
    /// Its digest.
    pub digest: String,
    /// Width by height.
    pub proportion: f64,
}

/// Keeps a photo for a note.
#[cfg_attr(feature = "description", utoipa::path(post, path = "/api/field-notes/photo", operation_id = "keep_photo", request_body(content = Vec<u8>, content_type = "application/octet-stream"), responses((status = 200, body = KeptPhoto), (status = 413, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn photo(State(studio): State<Studio>, Body(bytes): Body) -> Result<Json<KeptPhoto>, Problem> {
    studio
        .run(move |s| {
            let photo = TakenIn::keep(&s.store, &bytes)?;
            Ok(Json(KeptPhoto { proportion: photo.proportion(), digest: photo.digest }))
        })
        .await
}

/// The photo of a note, as JPEG.
#[cfg_attr(feature = "description", utoipa::path(get, path = "/api/field-notes/photo/{digest}", operation_id = "look_at_photo", params(("digest" = String, Path)), responses((status = 200, content_type = "image/jpeg", body = Vec<u8>), (status = 404, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn look(State(studio): State<Studio>, Path(digest): Path<String>) -> Result<Response, Problem> {
    studio.run(move |s| jpeg(&*s.working_copy(&digest)?, "private, max-age=3600")).await
}

/// What the piece made of a note should be.
#[derive(Deserialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct Become {
    /// Its medium and ground; the title and size are taken from the note.
    brief: Brief,
}

/// Makes a piece of a note: its marks become zones.
#[cfg_attr(feature = "description", utoipa::path(post, path = "/api/field-notes/{id}/piece", operation_id = "piece_of_note", params(("id" = i64, Path)), request_body = Become, responses((status = 201, body = PieceView), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 415, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn into_piece(
    State(studio): State<Studio>,
    Path(id): Path<i64>,
    In(ask): In<Become>,
) -> Result<(StatusCode, Json<PieceView>), Problem> {
    studio
        .run(move |s| {
            let note = s.store.field_note(id)?.note;
            let longer = ask.brief.size.width.0.max(ask.brief.size.height.0);
            let size = if note.proportion >= 1.0 {
                Size { width: Millimetres(longer), height: Millimetres((longer / note.proportion).max(10.0)) }
            } else {
                Size { width: Millimetres((longer * note.proportion).max(10.0)), height: Millimetres(longer) }
            };
            let brief = Brief { title: title(&note), size, ..ask.brief };
            let paint_box = s.store.boxes()?.into_iter().find(|b| b.paint_box.medium == brief.medium);
            let owned = paint_box.as_ref().map(|b| &b.paint_box);
            let command = match &note.photo {
                Some(digest) => {
                    let working = s.working_copy(digest)?;
                    let original = open(&s.store.original(digest)?)?;
                    with_photo(&note, owned, &working, PictureFile::of(digest.clone(), note.file_name.clone(), &original))
                }
                None => without_photo(&note, owned),
            };
            let command = command.map_err(Problem::unusable)?;
            let mut piece = Piece::new(brief.clone()).apply(lean_piece::Command::SetBrief(SetBrief { brief }))?.0;
            piece.intent.occasion = occasion(&note);
            piece.intent.purpose = [&note.at.replace('T', " "), &note.light, &note.weather]
                .into_iter()
                .filter(|t| !t.is_empty())
                .cloned()
                .collect::<Vec<_>>()
                .join("; ")
                .chars()
                .take(300)
                .collect();
            piece.paint_box = paint_box.map(|b| b.id);
            let kept = s.store.create_piece(&piece)?;
            let kept = s.store.apply(kept.id, Some(kept.revision), command)?;
            Ok((StatusCode::CREATED, view(s, kept)?))
        })
        .await
}
