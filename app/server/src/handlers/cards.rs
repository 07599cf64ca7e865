//! Test cards: printed as empty cells, and read back from a photo.

use super::instruments::own_box;
use super::readings::{ReadingsView, changed};
use crate::extract::{Body, Path, Query};
use crate::pictures::{open, png};
use crate::print::{self, Reader};
use crate::problem::Problem;
use crate::state::Studio;
use axum::Json;
use axum::extract::State;
use axum::http::header;
use axum::response::{IntoResponse, Response};
use lean_instruments::{Camera, Shot, SimulatedCamera, painted_sheet};
use lean_media::layering::State as Wetness;
use lean_media::{Ground, GroundId, Pigment, PigmentId, ground};
use lean_picture::swatch_sheet;
use lean_piece::paint_box::{BoxId, PaintBox, SwatchReading};
use lean_plan::matching::sheet_of_chart;
use lean_plan::paints::card::{CardKind, CardPage, card};
use lean_plan::paints::learned::predicted;
use lean_store::{Readings, Store};
use serde::Deserialize;

/// Which card.
#[derive(Deserialize)]
#[cfg_attr(feature = "description", derive(utoipa::IntoParams))]
#[cfg_attr(feature = "description", into_params(parameter_in = Query))]
pub(crate) struct Which {
    /// What it tries.
    kind: CardKind,
    /// Ids of the pigments, parted by commas; all that are at hand when left out.
    pigments: Option<String>,
    /// The ground; the usual one of the medium when left out.
    ground: Option<String>,
    /// Which page, from 1.
    page: Option<usize>,
    /// The piece whose chart it is; needed for the colours of a chart.
    piece: Option<i64>,
}

impl Which {
    fn pages(&self, store: &Store, paint_box: &PaintBox) -> Result<Vec<CardPage>, Problem> {
        if let (CardKind::Chart, Some(piece)) = (self.kind, self.piece) {
            return sheet_of_chart(&store.piece(piece)?.piece, paint_box).map_err(Problem::unusable);
        }
        let named: Vec<&str> = self.pigments.iter().flat_map(|p| p.split(',')).map(str::trim).filter(|p| !p.is_empty()).collect();
        let of: Vec<&Pigment> = if named.is_empty() {
            let away: Vec<&PigmentId> = paint_box.away().collect();
            paint_box.pigments.iter().filter(|p| !p.white && !away.contains(&&p.id)).collect()
        } else {
            let find = |id: &&str| {
                let found = paint_box.find(&PigmentId((*id).to_owned()));
                found.ok_or_else(|| Problem::not_found(format!("\"{id}\" is not in this Box.")))
            };
            named.iter().map(find).collect::<Result<_, _>>()?
        };
        card(paint_box, &self.ground(paint_box)?, self.kind, &of).map_err(Problem::unusable)
    }

    fn ground(&self, paint_box: &PaintBox) -> Result<Ground, Problem> {
        match &self.ground {
            None => Ok(ground::usual(paint_box.medium)),
            Some(id) => {
                ground::find(&GroundId(id.clone())).ok_or_else(|| Problem::unusable(format!("\"{id}\" is no ground that is known.")))
            }
        }
    }

    fn page(&self, store: &Store, paint_box: &PaintBox) -> Result<CardPage, Problem> {
        let mut pages = self.pages(store, paint_box)?;
        let n = self.page.unwrap_or(1);
        if n == 0 || n > pages.len() {
            return Err(Problem::unusable(format!("There is no page {n}; this card has {}.", pages.len())));
        }
        Ok(pages.swap_remove(n - 1))
    }
}

/// A test card as PDF at true size.
#[cfg_attr(feature = "description", utoipa::path(get, path = "/api/boxes/{id}/card.pdf", operation_id = "print_card", params(("id" = String, Path), Which), responses((status = 200, content_type = "application/pdf", body = Vec<u8>), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn pdf(
    State(studio): State<Studio>,
    Path(id): Path<String>,
    Query(which): Query<Which>,
    reader: Reader,
) -> Result<Response, Problem> {
    studio
        .run(move |s| {
            let sheets: Vec<_> = which.pages(&s.store, &s.store.paint_box(&BoxId(id))?)?.into_iter().map(|p| p.sheet).collect();
            let bytes = print::pdf::write(&reader.sheets(sheets)).map_err(Problem::internal)?;
            let named = "inline; filename=\"test-card.pdf\"";
            Ok(([(header::CONTENT_TYPE, "application/pdf"), (header::CONTENT_DISPOSITION, named)], bytes).into_response())
        })
        .await
}

/// A photo of a page of the card as the simulated studio painted it, under tilt and uneven light, as PNG.
#[cfg_attr(feature = "description", utoipa::path(get, path = "/api/boxes/{id}/card/photo", operation_id = "photograph_card", params(("id" = String, Path), Which), responses((status = 200, content_type = "image/png", body = Vec<u8>), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn photograph(
    State(studio): State<Studio>,
    Path(id): Path<String>,
    Query(which): Query<Which>,
) -> Result<Response, Problem> {
    const SEED: u64 = 5;
    let shot = Shot {
        corners: [(0.09, 0.06), (0.9, 0.09), (0.94, 0.95), (0.05, 0.92)],
        falls: (0.2, -0.15),
        tint: [0.95, 0.88, 0.76],
        noise: 1.0,
        width: 1500,
        height: 2000,
    };
    studio
        .run(move |s| {
            s.expect_instruments()?;
            let paint_box = s.store.paint_box(&BoxId(id))?;
            let page = which.page(&s.store, &paint_box)?;
            let own = own_box(&paint_box);
            let painted: Vec<_> = page
                .cells
                .iter()
                .map(|c| predicted(&own, &c.swatch, Wetness::Dry))
                .collect::<Option<_>>()
                .ok_or_else(|| Problem::unusable("A cell of this card cannot be painted: the ground does not take it."))?;
            let photo = SimulatedCamera::seeded(SEED).take(&painted_sheet(&page.layout, &painted), &shot);
            let photo = png(&photo)?;
            s.remember_played(&photo);
            Ok(([(header::CONTENT_TYPE, "image/png"), (header::CACHE_CONTROL, "no-store")], photo).into_response())
        })
        .await
}

/// Remark on a cell that is kept and left out.
const DOUBTFUL: &str = "Doubtful: it lies unevenly, is smeared or in glare. Look at it before it is taken in.";

/// Reads a painted card back from its photo: every cell becomes a reading; those that are smeared or in glare are kept, left out, and say so.
#[cfg_attr(feature = "description", utoipa::path(put, path = "/api/boxes/{id}/card", operation_id = "read_card", params(("id" = String, Path), Which), request_body(content = Vec<u8>, content_type = "application/octet-stream"), responses((status = 200, body = ReadingsView), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 413, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn read(
    State(studio): State<Studio>,
    Path(id): Path<String>,
    Query(which): Query<Which>,
    Body(photo): Body,
) -> Result<Json<ReadingsView>, Problem> {
    studio
        .run(move |s| {
            let id = BoxId(id);
            let page = which.page(&s.store, &s.store.paint_box(&id)?)?;
            let cells = swatch_sheet::read(&*open(&photo)?, &page.layout).map_err(|e| Problem::unusable(e.to_string()))?;
            let at = jiff::Timestamp::now().to_string();
            let played = s.is_played(&Store::digest_of(&photo));
            let reading = |(cell, seen): (&lean_plan::paints::card::CardCell, &swatch_sheet::Cell)| {
                let note = if seen.doubtful { DOUBTFUL } else { "" };
                let read = SwatchReading::of_photo(cell.swatch.clone(), seen.lab, at.clone(), played);
                SwatchReading { left_out: seen.doubtful, note: note.into(), ..read }
            };
            let readings = page.cells.iter().zip(&cells).map(reading).collect();
            Ok(Json(changed(s, &id, Readings::Add(readings))?))
        })
        .await
}
