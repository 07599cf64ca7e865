//! Boxes: what is owned.

use crate::extract::{Json as In, Path};
use crate::problem::Problem;
use crate::state::Studio;
use crate::views::BoxView;
use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use lean_media::{Medium, Pigment, PigmentId, library, pigment_file};
use lean_piece::paint_box::{BoxId, PaintBox};
use serde::Deserialize;
use utoipa::ToSchema;

/// A new Box.
#[derive(Deserialize, ToSchema)]
pub struct NewBox {
    /// Its name, 1..=80 characters.
    name: String,
    /// Its medium.
    medium: Medium,
    /// Text of a pigment file to fill it with.
    pigment_file: Option<String>,
    /// Fill it with all shipped modelled pigments, when there is no pigment file.
    #[serde(default)]
    shipped: bool,
}

/// A pigment to put in.
#[derive(Deserialize, ToSchema)]
pub struct NewPigment {
    /// Id of a shipped modelled pigment.
    shipped: String,
    /// The painter's own name for it; the shipped one when left out.
    name: Option<String>,
}

fn checked(paint_box: &PaintBox) -> Result<(), Problem> {
    paint_box.check().map_err(Problem::unusable)
}

/// A Box.
#[utoipa::path(get, path = "/api/boxes/{id}", operation_id = "read_box", params(("id" = String, Path)), responses((status = 200, body = BoxView), (status = 404, body = Problem, content_type = "application/problem+json")))]
pub async fn read(State(studio): State<Studio>, Path(id): Path<String>) -> Result<Json<BoxView>, Problem> {
    studio
        .run(move |s| {
            let id = BoxId(id);
            let paint_box = s.store.paint_box(&id)?;
            Ok(Json(BoxView::of(id, &paint_box)))
        })
        .await
}

/// Starts a Box, empty or from a pigment file.
#[utoipa::path(post, path = "/api/boxes", operation_id = "create_box", request_body = NewBox, responses((status = 201, body = BoxView), (status = 415, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json")))]
pub async fn create(State(studio): State<Studio>, In(new): In<NewBox>) -> Result<(StatusCode, Json<BoxView>), Problem> {
    let view = studio
        .run(move |s| {
            let pigments = match new.pigment_file.filter(|t| !t.trim().is_empty()) {
                Some(text) => pigment_file::read(&text).map_err(Problem::unusable)?,
                None if new.shipped => library::modelled().to_vec(),
                None => Vec::new(),
            };
            let paint_box = PaintBox { name: new.name.trim().to_owned(), medium: new.medium, pigments };
            checked(&paint_box)?;
            Ok(Json(BoxView::of(s.store.create_box(&paint_box)?, &paint_box)))
        })
        .await?;
    Ok((StatusCode::CREATED, view))
}

/// Removes a Box no piece draws on.
#[utoipa::path(delete, path = "/api/boxes/{id}", operation_id = "remove_box", params(("id" = String, Path)), responses((status = 204), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 409, body = Problem, content_type = "application/problem+json")))]
pub async fn remove(State(studio): State<Studio>, Path(id): Path<String>) -> Result<StatusCode, Problem> {
    studio.run(move |s| Ok(s.store.delete_box(&BoxId(id))?)).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Puts a shipped modelled pigment into a Box.
#[utoipa::path(post, path = "/api/boxes/{id}/pigments", operation_id = "add_box", params(("id" = String, Path)), request_body = NewPigment, responses((status = 200, body = BoxView), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 415, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json")))]
pub async fn add(State(studio): State<Studio>, Path(id): Path<String>, In(new): In<NewPigment>) -> Result<Json<BoxView>, Problem> {
    studio
        .run(move |s| {
            let id = BoxId(id);
            let shipped = library::find(&new.shipped)
                .ok_or_else(|| Problem::unusable(format!("There is no shipped pigment \"{}\".", new.shipped)))?;
            let name = new.name.map(|n| n.trim().to_owned()).filter(|n| !n.is_empty()).unwrap_or_else(|| shipped.name.clone());
            let paint_box = s.store.change_box(&id, |paint_box| {
                paint_box.pigments.push(Pigment { name, ..shipped.clone() });
                checked(paint_box)
            })?;
            Ok(Json(BoxView::of(id, &paint_box)))
        })
        .await
}

/// Takes a pigment out of a Box. Pieces that had it in their set work on without it.
#[utoipa::path(delete, path = "/api/boxes/{id}/pigments/{pigment}", operation_id = "take_out_box", params(("id" = String, Path), ("pigment" = String, Path)), responses((status = 200, body = BoxView), (status = 404, body = Problem, content_type = "application/problem+json")))]
pub async fn take_out(State(studio): State<Studio>, Path((id, pigment)): Path<(String, String)>) -> Result<Json<BoxView>, Problem> {
    studio
        .run(move |s| {
            let (id, pigment) = (BoxId(id), PigmentId(pigment));
            let paint_box = s.store.change_box(&id, |paint_box| {
                if paint_box.find(&pigment).is_none() {
                    return Err(Problem::not_found(format!("\"{pigment}\" is not in this Box.")));
                }
                paint_box.pigments.retain(|p| p.id != pigment);
                checked(paint_box)
            })?;
            Ok(Json(BoxView::of(id, &paint_box)))
        })
        .await
}
