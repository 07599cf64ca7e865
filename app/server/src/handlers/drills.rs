//! Drills: a question, an answer, how the eye stands.

use crate::extract::{Json as In, Query};
use crate::problem::Problem;
use crate::state::Studio;
use axum::Json;
use axum::extract::State;
use jiff::civil::Date;
use lean_drills::{Answered, Drill, DrillQuestion, Given, Material, Standing, Threshold, Verdict, ask, judge, next, standing};
use lean_piece::Piece;
use lean_piece::paint_box::{BoxId, PaintBox};
use serde::{Deserialize, Serialize};

/// Pieces whose pictures are asked about: those changed last.
const PIECES: usize = 12;

/// Which drill, from which Box.
#[derive(Deserialize)]
#[cfg_attr(feature = "description", derive(utoipa::IntoParams))]
#[cfg_attr(feature = "description", into_params(parameter_in = Query))]
pub(crate) struct Asked {
    /// The painter's own day, as `2025-01-14`.
    on: String,
    /// Which Box questions are made from; the first when left out.
    paint_box: Option<String>,
    /// Which drill; the one that comes next when left out.
    drill: Option<Drill>,
    /// Which of all its questions.
    seed: Option<u64>,
    /// Only drills without hue.
    #[serde(default)]
    without_hue: bool,
}

fn day(on: &str) -> Result<Date, Problem> {
    on.parse().map_err(|_| Problem::unusable(format!("\"{on}\" is no day. Write it as 2025-01-14.")))
}

/// The Box by its name, itself, and the pieces questions are made from.
type Kept = (String, PaintBox, Vec<(i64, Piece)>);

fn material(s: &Studio, wanted: Option<&str>) -> Result<Kept, Problem> {
    let boxes = s.store.boxes()?;
    let id = match wanted {
        Some(id) => BoxId(id.to_owned()),
        None => boxes
            .first()
            .map(|b| b.id.clone())
            .ok_or_else(|| Problem::unusable("Drills are made from your own Box. Begin one at any piece first."))?,
    };
    let pieces = s.store.pieces()?.into_iter().take(PIECES).filter_map(|p| Some((p.id, s.store.piece(p.id).ok()?.piece)));
    Ok((id.0.clone(), s.store.paint_box(&id)?, pieces.collect()))
}

/// How the eye stands in every drill.
#[derive(Serialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct DrillsView {
    /// Every drill there is material for.
    standings: Vec<Standing>,
    /// Which comes next; none without any.
    next: Option<Drill>,
}

fn standings(s: &Studio, m: &Material, on: Date, without_hue: bool) -> Result<DrillsView, Problem> {
    let answers = s.store.answers()?;
    let can = |d: &Drill| (!without_hue || d.without_hue()) && ask(*d, m, d.usual(), 1).is_some();
    let standings: Vec<Standing> = Drill::ALL.into_iter().filter(can).map(|d| standing(d, &answers, on)).collect();
    Ok(DrillsView { next: next(&standings), standings })
}

/// How the eye stands, and which drill comes next.
#[cfg_attr(feature = "description", utoipa::path(get, path = "/api/drills", operation_id = "read_drills", params(Asked), responses((status = 200, body = DrillsView), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn read(State(studio): State<Studio>, Query(asked): Query<Asked>) -> Result<Json<DrillsView>, Problem> {
    let on = day(&asked.on)?;
    studio
        .run(move |s| {
            let (_, paint_box, pieces) = material(s, asked.paint_box.as_deref())?;
            Ok(Json(standings(s, &Material { paint_box: &paint_box, pieces: &pieces }, on, asked.without_hue)?))
        })
        .await
}

/// A question, and the Box it was made from.
#[derive(Serialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct AskedQuestion {
    /// The question.
    question: DrillQuestion,
    /// The Box it was made from.
    paint_box: String,
    /// Names of the pigments whose parts are asked for.
    names: Vec<String>,
}

/// A question of the drill that comes next, or of one that is named, at the size where it teaches most.
#[cfg_attr(feature = "description", utoipa::path(get, path = "/api/drills/question", operation_id = "ask_drill", params(Asked), responses((status = 200, body = AskedQuestion), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn question(State(studio): State<Studio>, Query(asked): Query<Asked>) -> Result<Json<AskedQuestion>, Problem> {
    let on = day(&asked.on)?;
    studio
        .run(move |s| {
            let (id, paint_box, pieces) = material(s, asked.paint_box.as_deref())?;
            let m = Material { paint_box: &paint_box, pieces: &pieces };
            let drill = match asked.drill {
                Some(d) => d,
                None => standings(s, &m, on, asked.without_hue)?.next.unwrap_or(Drill::Value),
            };
            let answers = s.store.answers()?;
            let own: Vec<&Answered> = answers.iter().filter(|a| a.drill == drill).collect();
            let recent = &own[own.len().saturating_sub(60)..];
            let size = Threshold::of(drill, recent.iter().map(|a| (a.size, a.right))).next_size();
            let seed = asked.seed.unwrap_or(answers.len() as u64 * 7919 + 1);
            let question = ask(drill, &m, size, seed)
                .ok_or_else(|| Problem::unusable(format!("There is no material for \"{}\" in this Box and these pieces.", drill.name())))?;
            let name = |id: &lean_media::PigmentId| paint_box.find(id).map_or_else(|| id.0.clone(), |p| p.name.clone());
            let names = question.pigments.iter().map(name).collect();
            Ok(Json(AskedQuestion { question, paint_box: id, names }))
        })
        .await
}

/// An answer to a question.
#[derive(Deserialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct AnswerGiven {
    /// Which drill.
    drill: Drill,
    /// The question's size.
    size: f64,
    /// Which of all questions.
    seed: u64,
    /// The Box it was made from.
    paint_box: String,
    /// The painter's own day, as `2025-01-14`.
    on: String,
    /// The answer.
    given: Given,
}

/// Judges an answer and keeps it. A match that goes on is kept only when it ends.
#[cfg_attr(feature = "description", utoipa::path(post, path = "/api/drills/answer", operation_id = "answer_drill", request_body = AnswerGiven, responses((status = 200, body = Verdict), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 415, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn answer(State(studio): State<Studio>, In(a): In<AnswerGiven>) -> Result<Json<Verdict>, Problem> {
    day(&a.on)?;
    studio
        .run(move |s| {
            let (_, paint_box, pieces) = material(s, Some(&a.paint_box))?;
            let m = Material { paint_box: &paint_box, pieces: &pieces };
            let verdict = judge(a.drill, &m, a.size, a.seed, &a.given).map_err(Problem::unusable)?;
            if !verdict.goes_on {
                s.store.keep_answer(&Answered { drill: a.drill, on: a.on, size: a.size, right: verdict.right, off: verdict.off })?;
            }
            Ok(Json(verdict))
        })
        .await
}
