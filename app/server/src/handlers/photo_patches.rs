//! Photos of any sheet of swatches: patches of colour found and read.

use crate::extract::Json as In;
use crate::problem::Problem;
use crate::state::Studio;
use axum::Json;
use axum::extract::State;
use lean_colour::{Lab, Srgb8};
use lean_picture::loose_sheet::{self, Patch, PhotoRect};
use lean_picture::spot::Spot;
use lean_plan::paints::from_photo::plain_names;
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
    /// True where it is uneven, in glare or clipped and should be looked at.
    doubtful: bool,
    /// True where only rows and columns say that a patch is there.
    guessed: bool,
}

pub(super) fn read(studio: &Studio, photo: &str, grey: Option<Spot>, cells: Option<&[PhotoRect]>) -> Result<Vec<Patch>, Problem> {
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
