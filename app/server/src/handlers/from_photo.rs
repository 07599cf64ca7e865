//! Photos of any sheet of swatches: patches are found and read, and become pigments or readings.

use super::readings::{ReadingsView, changed};
use crate::extract::{Json as In, Path};
use crate::problem::Problem;
use crate::state::Studio;
use axum::Json;
use axum::extract::State;
use lean_colour::{Lab, Srgb8};
use lean_media::learn::Evidence;
use lean_media::{GroundId, ground};
use lean_picture::loose_sheet::{self, Patch, PhotoRect};
use lean_picture::spot::Spot;
use lean_piece::paint_box::{BoxId, Dampness, ReadColour, ReadWith, SwatchReading};
use lean_plan::paints::from_photo::{NamedPatch, plain_names, take_in};
use lean_store::Readings;
use serde::{Deserialize, Serialize};

/// Most cells of one photo.
const MOST_CELLS: usize = 200;

/// Where patches are looked for.
#[derive(Deserialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct LookFor {
    /// Digest of the photo, as it was kept.
    photo: String,
    /// The middle of a grey card, where one lies.
    grey: Option<Spot>,
    /// Cells to be read; the patches are found when left out.
    cells: Option<Vec<PhotoRect>>,
}

/// A patch of colour in a photo.
#[derive(Serialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct PatchView {
    /// Where.
    place: PhotoRect,
    /// Its colour under daylight.
    lab: Lab,
    /// For the screen.
    screen: Srgb8,
    /// Plain words for it, no two alike.
    name: String,
    /// Expected error, in CIEDE2000.
    doubt: f64,
    /// Whether it is to be looked at: uneven, in glare or clipped.
    doubtful: bool,
    /// Whether only rows and columns say that a patch is there.
    guessed: bool,
}

fn read(studio: &Studio, photo: &str, grey: Option<Spot>, cells: Option<&[PhotoRect]>) -> Result<Vec<Patch>, Problem> {
    let grey = grey.map(Spot::checked).transpose().map_err(Problem::unusable)?;
    let picture = studio.working_copy(photo)?;
    let found = match cells {
        None => loose_sheet::find(&picture, grey),
        Some(cells) if cells.len() > MOST_CELLS => {
            return Err(Problem::unusable(format!("{} cells are more than the {MOST_CELLS} of one photo. Part the sheet.", cells.len())));
        }
        Some(cells) => {
            cells.iter().try_for_each(|c| c.checked().map(|_| ())).map_err(Problem::unusable)?;
            loose_sheet::read(&picture, grey, cells)
        }
    };
    found.map_err(|e| Problem::unusable(e.to_string()))
}

/// Finds the patches in a photo that was kept, row by row, or reads given cells of it.
#[cfg_attr(feature = "description", utoipa::path(post, path = "/api/photo-patches", operation_id = "read_patches", request_body = LookFor, responses((status = 200, body = Vec<PatchView>), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 415, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn patches(State(studio): State<Studio>, In(ask): In<LookFor>) -> Result<Json<Vec<PatchView>>, Problem> {
    studio
        .run(move |s| {
            let patches = read(s, &ask.photo, ask.grey, ask.cells.as_deref())?;
            let names = plain_names(&patches.iter().map(|p| p.lab).collect::<Vec<_>>(), &[]);
            let view = |(p, name): (&Patch, String)| PatchView {
                place: p.place,
                lab: p.lab,
                screen: p.lab.xyz().srgb(),
                name,
                doubt: p.doubt,
                doubtful: p.doubtful,
                guessed: p.guessed,
            };
            Ok(Json(patches.iter().zip(names).map(view).collect()))
        })
        .await
}

/// The colour of one cell of a photo.
pub(super) fn colour_of(studio: &Studio, photo: &str, grey: Option<Spot>, cell: PhotoRect) -> Result<Lab, Problem> {
    let patches = read(studio, photo, grey, Some(&[cell]))?;
    patches.first().map(|p| p.lab).ok_or_else(|| Problem::unusable("Choose the cell to be read."))
}

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
            let played = Some(s.is_played(&ask.photo));
            let reading = |(swatch, patch): (lean_piece::paint_box::Swatch, &Patch)| SwatchReading {
                swatch,
                seen: ReadColour::of(&Evidence::ColourOnly(patch.lab)),
                state: Dampness::Dry,
                sealed: false,
                with: ReadWith::Photo,
                eye: None,
                played,
                at: at.clone(),
                tried_for: None,
                left_out: false,
                note: format!("From a photo, give or take {:.1}.", patch.doubt),
            };
            let readings = swatches.into_iter().zip(&patches).map(reading).collect();
            Ok(Json(changed(s, &id, Readings::Add(readings))?))
        })
        .await
}
