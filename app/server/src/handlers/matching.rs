//! One colour: which of mine is this, and how do I mix it.

use super::work::with_box;
use crate::extract::{Path, Query};
use crate::problem::Problem;
use crate::state::Studio;
use axum::Json;
use axum::extract::State;
use lean_colour::typed;
use lean_media::{Ground, Medium, Pigment, ground};
use lean_piece::paint_box::BoxId;
use lean_plan::matching::{CellByHand, Mixed, Nearest, by_hand, mixed, nearest};
use lean_plan::paints::families::{SetInFamilies, sets_in_families};
use lean_search::progress::Unwatched;
use serde::{Deserialize, Serialize};

/// The colour asked for.
#[derive(Deserialize)]
#[cfg_attr(feature = "description", derive(utoipa::IntoParams))]
pub(crate) struct Wanted {
    /// As typed: `#33aa66`, `60 20 -10` for L* a* b*, or `lch 60 30 250`.
    colour: String,
}

/// The nearest pigments and the best mixes for a colour.
#[derive(Serialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct Matches {
    /// The nearest of the Box as they are.
    nearest: Nearest,
    /// The nearest of the set in use; nothing without one.
    in_set: Option<Nearest>,
    /// The best mixes of the whole Box, of one pigment and more, where colours are mixed.
    mixes: Vec<Mixed>,
    /// The best mixes of the set in use.
    mixes_of_set: Vec<Mixed>,
}

/// The nearest pigments and best mixes of a piece's Box and set for a colour, on the ground of the piece.
#[cfg_attr(feature = "description", utoipa::path(get, path = "/api/pieces/{id}/match", params(("id" = i64, Path), Wanted), responses((status = 200, body = Matches), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn of_piece(
    State(studio): State<Studio>,
    Path(id): Path<i64>,
    Query(wanted): Query<Wanted>,
) -> Result<Json<Matches>, Problem> {
    let (piece, paint_box) = with_box(&studio, id).await?;
    let set: Vec<Pigment> = paint_box.searched().iter().filter(|p| p.white || piece.chosen.pigments.contains(&p.id)).cloned().collect();
    studio
        .run(move |_| {
            matches(&wanted, paint_box.searched(), (!piece.chosen.pigments.is_empty()).then_some(set), piece.brief.medium, &piece.ground())
        })
        .await
}

/// The nearest pigments and best mixes of a Box for a colour, on the usual ground of its medium.
#[cfg_attr(feature = "description", utoipa::path(get, path = "/api/boxes/{id}/match", params(("id" = String, Path), Wanted), responses((status = 200, body = Matches), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn of_box(
    State(studio): State<Studio>,
    Path(id): Path<String>,
    Query(wanted): Query<Wanted>,
) -> Result<Json<Matches>, Problem> {
    studio
        .run(move |s| {
            let paint_box = s.boxes_together(&BoxId(id), None)?;
            matches(&wanted, paint_box.searched(), None, paint_box.medium, &ground::usual(paint_box.medium))
        })
        .await
}

fn matches(wanted: &Wanted, owned: &[Pigment], set: Option<Vec<Pigment>>, medium: Medium, on: &Ground) -> Result<Json<Matches>, Problem> {
    let colour = typed::parse(&wanted.colour).map_err(Problem::unusable)?;
    if owned.is_empty() {
        return Err(Problem::unusable("This Box is empty. Put in what you own, or begin with a starter Box."));
    }
    let best = |of: &[Pigment]| {
        if medium.is_chosen() || of.iter().all(|p| p.white) { Ok(Vec::new()) } else { mixed(colour, of, medium, on, &Unwatched) }
    };
    let mixes_of_set = set.as_deref().map(&best).transpose()?.unwrap_or_default();
    Ok(Json(Matches {
        nearest: nearest(colour, owned, medium, on),
        in_set: set.map(|set| nearest(colour, &set, medium, on)),
        mixes: best(owned)?,
        mixes_of_set,
    }))
}

/// The sets last found for a piece, by their families.
#[cfg_attr(feature = "description", utoipa::path(get, path = "/api/pieces/{id}/families", params(("id" = i64, Path)), responses((status = 200, body = Vec<SetInFamilies>), (status = 404, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn families(State(studio): State<Studio>, Path(id): Path<i64>) -> Result<Json<Vec<SetInFamilies>>, Problem> {
    let (piece, paint_box) = with_box(&studio, id).await?;
    let sizes = piece.search.as_ref().map_or(&[][..], |s| s.sizes.as_slice());
    Ok(Json(sets_in_families(&piece, &paint_box, sizes)))
}

/// The nearest of the Box and the recipe of the set for every cell of a piece's chart.
#[cfg_attr(feature = "description", utoipa::path(get, path = "/api/pieces/{id}/chart/by-hand", operation_id = "chart_by_hand", params(("id" = i64, Path)), responses((status = 200, body = Vec<CellByHand>), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn chart_by_hand(State(studio): State<Studio>, Path(id): Path<i64>) -> Result<Json<Vec<CellByHand>>, Problem> {
    let (piece, paint_box) = with_box(&studio, id).await?;
    studio.run(move |_| Ok(Json(by_hand(&piece, &paint_box)))).await
}
