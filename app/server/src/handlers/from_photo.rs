//! Cells of a photo of swatches on their way into a Box: pigments, or readings of those that are there.

use super::photo_patches::read;
use super::readings::{ReadingsView, changed};
use crate::extract::{Json as In, Path};
use crate::problem::Problem;
use crate::state::Studio;
use axum::Json;
use axum::extract::State;
use lean_media::{GroundId, ground};
use lean_picture::loose_sheet::{Patch, PhotoRect};
use lean_picture::spot::Spot;
use lean_piece::paint_box::{BoxId, Swatch, SwatchReading};
use lean_plan::paints::from_photo::{NamedPatch, take_in};
use lean_store::Readings;
use serde::Deserialize;

/// Cells of a photo that are taken into a Box.
#[derive(Deserialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct FromPhoto {
    /// Digest of the photo, as it was kept.
    photo: String,
    /// The middle of a grey card, where one lies.
    grey: Option<Spot>,
    /// On which ground the swatches lie; the usual one of the medium when left out.
    ground: Option<String>,
    /// The cells.
    cells: Vec<NamedCell>,
}

/// A cell with the name of its pigment.
#[derive(Deserialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct NamedCell {
    /// Where.
    place: PhotoRect,
    /// The name of a pigment of the Box, or of a new one, 1..=80 characters.
    name: String,
}

/// Takes cells of a photo into a Box: each is a new pigment, or a reading of the one it is named after.
#[cfg_attr(feature = "description", utoipa::path(post, path = "/api/boxes/{id}/from-photo", operation_id = "take_in_photo", params(("id" = String, Path)), request_body = FromPhoto, responses((status = 200, body = ReadingsView), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 409, body = Problem, content_type = "application/problem+json"), (status = 415, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn take(
    State(studio): State<Studio>,
    Path(id): Path<String>,
    In(ask): In<FromPhoto>,
) -> Result<Json<ReadingsView>, Problem> {
    studio
        .run(move |s| {
            let id = BoxId(id);
            let places: Vec<PhotoRect> = ask.cells.iter().map(|c| c.place).collect();
            let patches = read(s, &ask.photo, ask.grey, Some(&places))?;
            let named: Vec<NamedPatch> =
                patches.iter().zip(&ask.cells).map(|(p, c)| NamedPatch { name: c.name.trim().to_owned(), lab: p.lab }).collect();
            let mut swatches = Vec::new();
            s.store.change_box(&id, |paint_box| {
                let on = match &ask.ground {
                    None => ground::usual(paint_box.medium),
                    Some(id) => ground::find(&GroundId(id.clone()))
                        .ok_or_else(|| Problem::unusable(format!("\"{id}\" is no ground that is known. Choose one of the list.")))?,
                };
                let taken = take_in(paint_box, &on, &named).map_err(Problem::unusable)?;
                taken.paint_box.check().map_err(Problem::unusable)?;
                (*paint_box, swatches) = (taken.paint_box, taken.swatches);
                Ok::<(), Problem>(())
            })?;
            let at = jiff::Timestamp::now().to_string();
            let played = s.is_played(&ask.photo);
            let reading = |(swatch, patch): (Swatch, &Patch)| SwatchReading {
                note: format!("From a photo, give or take {:.1}.", patch.doubt),
                ..SwatchReading::of_photo(swatch, patch.lab, at.clone(), played)
            };
            let readings = swatches.into_iter().zip(&patches).map(reading).collect();
            Ok(Json(changed(s, &id, Readings::Add(readings))?))
        })
        .await
}
