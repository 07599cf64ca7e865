//! Trials judged by eye.

use super::trial_aim::{For, planned, wanted};
use crate::extract::{Json as In, Path};
use crate::problem::Problem;
use crate::state::Studio;
use axum::Json;
use axum::extract::State;
use lean_colour::Lab;
use lean_drills::eye_doubt;
use lean_media::ground;
use lean_media::layering::State as Wetness;
use lean_piece::paint_box::{BoxId, EyeJudgement, PaintBox, Swatch, TriedFor};
use lean_plan::paints::by_eye::{EyePreview, preview};
use lean_plan::paints::learned::predicted;
use lean_plan::paints::trial::trials;
use lean_recipes::laid::{LaidStep, layers_of};
use serde::Deserialize;

/// Answers of a judgement by eye in quarter steps, 0 where it matches.
#[derive(Clone, Copy, Default, Deserialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct EyeAnswers {
    /// Difference of value in quarter steps; above 0 the swatch is lighter.
    #[serde(default)]
    lighter: i8,
    /// Difference of temperature in quarter steps; above 0 it is warmer.
    #[serde(default)]
    warmer: i8,
    /// Difference of chroma in quarter steps; above 0 it is stronger.
    #[serde(default)]
    stronger: i8,
    /// Difference of hue in quarter steps; above 0 it is turned to larger hue angles.
    #[serde(default)]
    turned: i8,
}

/// A swatch that is being judged by eye.
#[derive(Deserialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct JudgedSwatch {
    /// The swatch as planned.
    swatch: Swatch,
    /// Steps that were really laid, in place of the layers of the swatch; empty where those are as planned.
    #[serde(default)]
    laid: Vec<LaidStep>,
    /// Target of the trial; left out where a swatch of the Box alone is judged.
    #[serde(default)]
    tried_for: Option<TriedFor>,
    /// The answers so far.
    answers: EyeAnswers,
}

/// A swatch with the layers that were really laid.
pub(super) fn laid_in(paint_box: &PaintBox, swatch: Swatch, laid: &[LaidStep]) -> Result<Swatch, Problem> {
    if laid.is_empty() {
        return Ok(swatch);
    }
    let ground = ground::find(&swatch.ground)
        .ok_or_else(|| Problem::unusable(format!("\"{}\" is no ground that is known. Choose one of the list.", swatch.ground.0)))?;
    let layers = layers_of(paint_box.medium, &ground, laid, &|id| paint_box.find(id)).map_err(Problem::unusable)?;
    Ok(Swatch { layers, parts: Vec::new(), ..swatch })
}

/// A judgement of a swatch of a Box: held against the planned colour of what it is a trial for, or against what the Box says of the swatch.
pub(super) fn judgement(
    s: &Studio,
    id: &BoxId,
    swatch: &Swatch,
    tried_for: Option<TriedFor>,
    answers: EyeAnswers,
) -> Result<EyeJudgement, Problem> {
    let paint_box = s.store.paint_box(id)?;
    let against = match tried_for {
        Some(tried) => planned_colour(s, &paint_box, tried)?,
        None => None,
    };
    let of_swatch = || predicted(&paint_box, swatch, Wetness::Dry).map(|r| r.xyz().lab());
    let against = against.or_else(of_swatch).ok_or_else(|| {
        Problem::unusable("There is no colour to hold this swatch against: say what was laid, with pigments of this Box.")
    })?;
    let EyeAnswers { lighter, warmer, stronger, turned } = answers;
    let mut known = s.store.answers()?;
    known.sort_by(|a, b| a.on.cmp(&b.on));
    let eye = EyeJudgement { against, lighter, warmer, stronger, turned, doubt: eye_doubt(&known) };
    eye.check().map_err(Problem::unusable)?;
    Ok(eye)
}

fn planned_colour(s: &Studio, paint_box: &PaintBox, tried: TriedFor) -> Result<Option<Lab>, Problem> {
    let piece = s.store.piece(tried.piece)?.piece;
    let asked = For { zone: tried.zone.map(|z| z.0), cell: tried.cell };
    let found = trials(&piece, paint_box, wanted(&piece, &asked)?, planned(&piece, paint_box, &asked), &[]);
    Ok(found.against.map(|mark| mark.lab))
}

/// A judgement by eye before it is kept: its colour, and the correction of the mix.
#[cfg_attr(feature = "description", utoipa::path(post, path = "/api/boxes/{id}/readings/by-eye", operation_id = "preview_judgement", params(("id" = String, Path)), request_body = JudgedSwatch, responses((status = 200, body = EyePreview), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 415, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn look(
    State(studio): State<Studio>,
    Path(id): Path<String>,
    In(asked): In<JudgedSwatch>,
) -> Result<Json<EyePreview>, Problem> {
    studio
        .run(move |s| {
            let id = BoxId(id);
            let paint_box = s.store.paint_box(&id)?;
            let swatch = laid_in(&paint_box, asked.swatch, &asked.laid)?;
            let eye = judgement(s, &id, &swatch, asked.tried_for, asked.answers)?;
            let Some(tried) = asked.tried_for else { return Ok(Json(preview(None, &paint_box, &swatch, &eye))) };
            let piece = s.store.piece(tried.piece)?.piece;
            let wanted = wanted(&piece, &For { zone: tried.zone.map(|z| z.0), cell: tried.cell })?;
            Ok(Json(preview(Some((&piece, wanted)), &paint_box, &swatch, &eye)))
        })
        .await
}
