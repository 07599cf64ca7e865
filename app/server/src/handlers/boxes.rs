//! Boxes: what is owned.

use crate::extract::{Body, Json as In, Path, Query};
use crate::problem::Problem;
use crate::seen_version::SeenVersion;
use crate::state::Studio;
use crate::views::BoxView;
use axum::Json;
use axum::extract::State;
use axum::http::{StatusCode, header};
use axum::response::{IntoResponse, Response};
use lean_media::pigment::Owned;
use lean_media::{Medium, Pigment, PigmentId, Second, library, pigment_file};
use lean_piece::Together;
use lean_piece::paint_box::{BoxId, PaintBox, Swatch};
use lean_plan::paints::greys::{GreyOver, greys_over};
use lean_plan::paints::learned::swatches_of;
use lean_plan::paints::starter::{SIZES, starter};
use lean_plan::paints::strings::{Strings, strings as find_strings};
use lean_plan::paints::{inventory, listed};
use serde::{Deserialize, Serialize};

/// A new Box.
#[derive(Deserialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct NewBox {
    /// Its name, 1..=80 characters.
    name: String,
    /// Its medium.
    medium: Medium,
    /// Text of a pigment file to fill it with.
    pigment_file: Option<String>,
    /// Fill it with all shipped modelled pigments, when there is no pigment file.
    #[serde(default)]
    shipped: bool,
    /// Fill it with a starter Box of so many: 6, 12, 24 or 60.
    starter: Option<usize>,
    /// Fill it with what a typed list names: `PB29, PY43, burnt sienna`.
    list: Option<String>,
}

/// A pigment to put in.
#[derive(Deserialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct NewPigment {
    /// Id of a shipped modelled pigment.
    shipped: String,
    /// The painter's own name for it; the shipped one when left out.
    name: Option<String>,
}

/// A Box for the screen, each pigment with the number of pieces whose set it is in.
fn shown(studio: &Studio, id: BoxId, paint_box: &PaintBox) -> Result<BoxView, Problem> {
    let mut view = BoxView::of(id.clone(), paint_box);
    for line in studio.store.pieces()? {
        let piece = studio.store.piece(line.id)?.piece;
        if piece.paint_box.as_ref() == Some(&id) {
            view.pigments.iter_mut().filter(|p| piece.chosen.pigments.contains(&p.id)).for_each(|p| p.used_in += 1);
        }
    }
    Ok(view)
}

fn checked(paint_box: &PaintBox) -> Result<(), Problem> {
    paint_box.check().map_err(Problem::unusable)
}

/// A second Box to look at together with one.
#[derive(Deserialize)]
#[cfg_attr(feature = "description", derive(utoipa::IntoParams))]
pub(crate) struct Beside {
    /// What its pigments are laid as; nothing for a Box alone.
    second: Option<Second>,
    /// The second Box.
    from: Option<String>,
}

/// A Box, alone or with what is taken from a second one.
#[cfg_attr(feature = "description", utoipa::path(get, path = "/api/boxes/{id}", operation_id = "read_box", params(("id" = String, Path), Beside), responses((status = 200, body = BoxView), (status = 404, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn read(
    State(studio): State<Studio>,
    Path(id): Path<String>,
    Query(beside): Query<Beside>,
) -> Result<Json<BoxView>, Problem> {
    studio
        .run(move |s| {
            let id = BoxId(id);
            let together = beside.second.zip(beside.from).map(|(second, from)| Together { second, paint_box: BoxId(from) });
            let paint_box = s.boxes_together(&id, together.as_ref())?;
            Ok(Json(shown(s, id, &paint_box)?))
        })
        .await
}

/// Starts a Box, empty or from a pigment file.
#[cfg_attr(feature = "description", utoipa::path(post, path = "/api/boxes", operation_id = "create_box", request_body = NewBox, responses((status = 201, body = BoxView), (status = 415, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn create(State(studio): State<Studio>, In(new): In<NewBox>) -> Result<(StatusCode, Json<BoxView>), Problem> {
    let view = studio
        .run(move |s| {
            let pigments = match new.pigment_file.filter(|t| !t.trim().is_empty()) {
                Some(text) => pigment_file::read(&text).map_err(Problem::unusable)?,
                None if new.shipped => library::modelled().to_vec(),
                None => match (new.starter, new.list.filter(|l| !l.trim().is_empty())) {
                    (Some(size), _) if !SIZES.contains(&size) => {
                        return Err(Problem::unusable(format!("There is no starter Box of {size}; there are 6, 12, 24 and 60.")));
                    }
                    (Some(size), _) => starter(new.medium, size).pigments,
                    (None, Some(list)) => from_list(&list, &[])?,
                    (None, None) => Vec::new(),
                },
            };
            let paint_box = PaintBox { name: new.name.trim().to_owned(), medium: new.medium, pigments };
            checked(&paint_box)?;
            Ok(Json(shown(s, s.store.create_box(&paint_box)?, &paint_box)?))
        })
        .await?;
    Ok((StatusCode::CREATED, view))
}

/// The pigments of a typed list, each with an id that none of `taken` has.
fn from_list(list: &str, taken: &[Pigment]) -> Result<Vec<Pigment>, Problem> {
    let entries = listed::read(list).map_err(Problem::unusable)?;
    let unknown: Vec<String> = entries.iter().filter(|e| e.pigment.is_none()).map(|e| format!("\"{}\" ({})", e.typed, e.words)).collect();
    if !unknown.is_empty() {
        return Err(Problem::unusable(format!("Not understood: {}. Nothing was put in.", unknown.join("; "))));
    }
    let found = entries.iter().filter_map(|e| library::find(&e.pigment.as_ref()?.0).cloned()).collect();
    Ok(listed::with_free_ids(found, taken))
}

/// A typed list.
#[derive(Deserialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct Typed {
    /// `PB29, PY43, burnt sienna`: parted by commas, semicolons or lines.
    list: String,
}

/// What a typed list would be taken for, entry by entry.
#[cfg_attr(feature = "description", utoipa::path(post, path = "/api/lists", operation_id = "understand_list", request_body = Typed, responses((status = 200, body = Vec<listed::Entry>), (status = 415, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn understand(In(typed): In<Typed>) -> Result<Json<Vec<listed::Entry>>, Problem> {
    listed::read(&typed.list).map(Json).map_err(Problem::unusable)
}

/// Puts everything a typed list names into a Box.
#[cfg_attr(feature = "description", utoipa::path(post, path = "/api/boxes/{id}/list", operation_id = "add_list", params(("id" = String, Path)), request_body = Typed, responses((status = 200, body = BoxView), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 415, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn add_list(State(studio): State<Studio>, Path(id): Path<String>, In(typed): In<Typed>) -> Result<Json<BoxView>, Problem> {
    studio
        .run(move |s| {
            let id = BoxId(id);
            let paint_box = s.store.change_box(&id, |paint_box| {
                let more = from_list(&typed.list, &paint_box.pigments)?;
                paint_box.pigments.extend(more);
                checked(paint_box)
            })?;
            Ok(Json(shown(s, id, &paint_box)?))
        })
        .await
}

/// What a painter says of a pigment.
#[derive(Deserialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct Said {
    /// Its plain name, 1..=80 characters.
    name: String,
    /// Colour Index names of what is in it.
    colour_index: Vec<String>,
    /// Light-fastness as the label states it; empty when unknown.
    lightfastness: String,
    /// What calls for a caution; empty when nothing is known.
    hazard: String,
    /// Bites into paper and hardly lifts.
    staining: bool,
    /// Gathers in the hollows of the paper.
    granulating: bool,
    /// Label, hardness, how much is left, where it is.
    owned: Owned,
}

/// Keeps what a painter says of a pigment.
#[cfg_attr(feature = "description", utoipa::path(put, path = "/api/boxes/{id}/pigments/{pigment}", operation_id = "describe_pigment", params(("id" = String, Path), ("pigment" = String, Path), SeenVersion), request_body = Said, responses((status = 200, body = BoxView), (status = 409, body = Problem, content_type = "application/problem+json"), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 415, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn describe(
    State(studio): State<Studio>,
    Path((id, pigment)): Path<(String, String)>,
    Query(seen): Query<SeenVersion>,
    In(said): In<Said>,
) -> Result<Json<BoxView>, Problem> {
    studio
        .run(move |s| {
            let (id, pigment) = (BoxId(id), PigmentId(pigment));
            let name = said.name.trim().to_owned();
            if name.is_empty() || name.chars().count() > 80 {
                return Err(Problem::unusable("A pigment needs a name of 1 to 80 characters."));
            }
            let paint_box = s.store.change_box(&id, |paint_box| {
                let p = paint_box.pigments.iter_mut().find(|p| p.id == pigment);
                let p = p.ok_or_else(|| Problem::not_found(format!("\"{pigment}\" is not in this Box.")))?;
                seen.is(p, "pigment")?;
                (p.name, p.colour_index, p.owned) = (name, said.colour_index, said.owned);
                (p.lightfastness, p.hazard) = (said.lightfastness, said.hazard);
                (p.staining, p.granulating) = (said.staining, said.granulating);
                checked(paint_box)
            })?;
            Ok(Json(shown(s, id, &paint_box)?))
        })
        .await
}

/// The inventory of a Box as a table: what is owned, what each can do, what is left.
#[cfg_attr(feature = "description", utoipa::path(get, path = "/api/boxes/{id}/inventory", operation_id = "save_inventory", params(("id" = String, Path)), responses((status = 200, content_type = "text/csv", body = String), (status = 404, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn inventory(State(studio): State<Studio>, Path(id): Path<String>) -> Result<Response, Problem> {
    studio
        .run(move |s| {
            let text = inventory::write(&s.store.paint_box(&BoxId(id))?);
            let named = "attachment; filename=\"box.csv\"";
            Ok(([(header::CONTENT_TYPE, "text/csv; charset=utf-8"), (header::CONTENT_DISPOSITION, named)], text).into_response())
        })
        .await
}

/// Takes in an inventory: rows of what is in the Box already are brought up to date, others are put in. A row names a shipped pigment, or gives the colour
/// of its masstone as L, a and b.
#[cfg_attr(feature = "description", utoipa::path(put, path = "/api/boxes/{id}/inventory", operation_id = "put_inventory", params(("id" = String, Path), SeenVersion), request_body(content = Vec<u8>, content_type = "application/octet-stream"), responses((status = 200, body = BoxView), (status = 409, body = Problem, content_type = "application/problem+json"), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn put_inventory(
    State(studio): State<Studio>,
    Path(id): Path<String>,
    Query(seen): Query<SeenVersion>,
    Body(file): Body,
) -> Result<Json<BoxView>, Problem> {
    studio
        .run(move |s| {
            let id = BoxId(id);
            let text = std::str::from_utf8(&file).map_err(|_| Problem::unusable("This file is no text. Give a table (CSV)."))?;
            let paint_box = s.store.change_box(&id, |paint_box| {
                seen.is(paint_box, "Box")?;
                *paint_box = inventory::read(paint_box, text).map_err(Problem::unusable)?;
                checked(paint_box)
            })?;
            Ok(Json(shown(s, id, &paint_box)?))
        })
        .await
}

/// Of which pigment.
#[derive(Deserialize)]
#[cfg_attr(feature = "description", derive(utoipa::IntoParams))]
#[cfg_attr(feature = "description", into_params(parameter_in = Query))]
pub(crate) struct Which {
    /// Its id.
    pigment: String,
}

/// A swatch a painter can make of a pigment.
#[derive(Serialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct SwatchLine {
    /// What it is.
    words: String,
    /// What is laid.
    swatch: Swatch,
}

/// Swatches a painter would make of a pigment, to be read.
#[cfg_attr(feature = "description", utoipa::path(get, path = "/api/boxes/{id}/swatches", operation_id = "read_swatches", params(("id" = String, Path), Which), responses((status = 200, body = Vec<SwatchLine>), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn swatches(
    State(studio): State<Studio>,
    Path(id): Path<String>,
    Query(of): Query<Which>,
) -> Result<Json<Vec<SwatchLine>>, Problem> {
    studio
        .run(move |s| {
            let paint_box = s.store.paint_box(&BoxId(id))?;
            let pigment = PigmentId(of.pigment);
            let p = paint_box.find(&pigment).ok_or_else(|| Problem::not_found(format!("\"{pigment}\" is not in this Box.")))?;
            Ok(Json(swatches_of(&paint_box, p).into_iter().map(|(words, swatch)| SwatchLine { words, swatch }).collect()))
        })
        .await
}

/// Strings in a Box: trios that blend and trios that span.
#[cfg_attr(feature = "description", utoipa::path(get, path = "/api/boxes/{id}/strings", operation_id = "read_strings", params(("id" = String, Path)), responses((status = 200, body = Strings), (status = 404, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn strings(State(studio): State<Studio>, Path(id): Path<String>) -> Result<Json<Strings>, Problem> {
    studio.run(move |s| Ok(Json(find_strings(&s.store.paint_box(&BoxId(id))?)))).await
}

/// Over which pigment, and by how much.
#[derive(Deserialize)]
#[cfg_attr(feature = "description", derive(utoipa::IntoParams))]
#[cfg_attr(feature = "description", into_params(parameter_in = Query))]
pub(crate) struct Over {
    /// Which pigment lies beneath.
    pigment: String,
    /// Steps its value is to drop, 0.25 to 5; one when left out.
    drop: Option<f64>,
}

/// Greys over a colour: which drops it by so much with most colour left, and what lifts it again.
#[cfg_attr(feature = "description", utoipa::path(get, path = "/api/boxes/{id}/greys", operation_id = "read_greys", params(("id" = String, Path), Over), responses((status = 200, body = Vec<GreyOver>), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn greys(
    State(studio): State<Studio>,
    Path(id): Path<String>,
    Query(over): Query<Over>,
) -> Result<Json<Vec<GreyOver>>, Problem> {
    let drop = over.drop.unwrap_or(1.0);
    if !(0.25..=5.0).contains(&drop) {
        return Err(Problem::unusable(format!("A drop of {drop} steps is out of range; it may be 0.25 to 5.")));
    }
    studio
        .run(move |s| {
            let paint_box = s.store.paint_box(&BoxId(id))?;
            greys_over(&paint_box, &PigmentId(over.pigment), lean_colour::Steps(drop)).map(Json).map_err(Problem::unusable)
        })
        .await
}

/// Removes a Box no piece draws on.
#[cfg_attr(feature = "description", utoipa::path(delete, path = "/api/boxes/{id}", operation_id = "remove_box", params(("id" = String, Path)), responses((status = 204), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 409, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn remove(State(studio): State<Studio>, Path(id): Path<String>) -> Result<StatusCode, Problem> {
    studio.run(move |s| Ok(s.store.delete_box(&BoxId(id))?)).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Puts a shipped modelled pigment into a Box.
#[cfg_attr(feature = "description", utoipa::path(post, path = "/api/boxes/{id}/pigments", operation_id = "add_box", params(("id" = String, Path)), request_body = NewPigment, responses((status = 200, body = BoxView), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 415, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn add(State(studio): State<Studio>, Path(id): Path<String>, In(new): In<NewPigment>) -> Result<Json<BoxView>, Problem> {
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
            Ok(Json(shown(s, id, &paint_box)?))
        })
        .await
}

/// Takes a pigment out of a Box. Pieces that had it in their set work on without it.
#[cfg_attr(feature = "description", utoipa::path(delete, path = "/api/boxes/{id}/pigments/{pigment}", operation_id = "take_out_box", params(("id" = String, Path), ("pigment" = String, Path)), responses((status = 200, body = BoxView), (status = 404, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn take_out(State(studio): State<Studio>, Path((id, pigment)): Path<(String, String)>) -> Result<Json<BoxView>, Problem> {
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
            Ok(Json(shown(s, id, &paint_box)?))
        })
        .await
}
