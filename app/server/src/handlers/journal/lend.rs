//! What a study gives to other pieces: a beginning, or its set.

use super::super::pieces::view;
use crate::extract::{Json as In, Path};
use crate::problem::Problem;
use crate::state::Studio;
use crate::views::PieceView;
use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use lean_piece::change::ChooseSet;
use lean_piece::{ChosenSet, Command, StudyNumber};
use lean_plan::studies::start::started;
use serde::Deserialize;

/// Begins a new piece from a study: the same picture and zones, the study's colours, its set.
#[cfg_attr(feature = "description", utoipa::path(post, path = "/api/pieces/{id}/studies/{number}/piece", operation_id = "piece_of_study", params(("id" = i64, Path), ("number" = u8, Path)), responses((status = 201, body = PieceView), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn piece_of_study(
    State(studio): State<Studio>,
    Path((id, number)): Path<(i64, u8)>,
) -> Result<(StatusCode, Json<PieceView>), Problem> {
    studio
        .run(move |s| {
            let next = started(&s.store.piece(id)?.piece, StudyNumber(number))?;
            Ok((StatusCode::CREATED, view(s, s.store.create_piece(&next)?)?))
        })
        .await
}

/// The piece whose study or plan lends its set.
#[derive(Deserialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct SetLender {
    /// The piece.
    piece: i64,
    /// One of its studies; the set in use when left out.
    study: Option<StudyNumber>,
}

/// Takes the set of another piece, or of one of its studies, into use: the pigments this piece's Box holds. It can be undone.
#[cfg_attr(feature = "description", utoipa::path(post, path = "/api/pieces/{id}/lent-set", operation_id = "lend_set", params(("id" = i64, Path)), request_body = SetLender, responses((status = 200, body = PieceView), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 415, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn lend_set(
    State(studio): State<Studio>,
    Path(id): Path<i64>,
    In(from): In<SetLender>,
) -> Result<Json<PieceView>, Problem> {
    studio
        .run(move |s| {
            let lender = s.store.piece(from.piece)?.piece;
            let set = match from.study {
                None => lender.chosen.pigments.clone(),
                Some(n) => {
                    let study = lender.studies.iter().find(|s| s.number == n);
                    study.ok_or_else(|| Problem::not_found("That study is not there any more."))?.pigments.clone()
                }
            };
            let kept = s.store.piece(id)?;
            let paint_box = s.needed_box(&kept)?;
            let missing: Vec<&str> = set.iter().filter(|p| paint_box.find(p).is_none()).map(|p| p.0.as_str()).collect();
            if !missing.is_empty() || set.is_empty() {
                return Err(Problem::unusable(match set.len() {
                    0 => format!("\"{}\" has no set to lend.", lender.brief.title),
                    _ => format!("The Box of this piece does not hold {}. Choose a piece that draws on the same Box.", missing.join(", ")),
                }));
            }
            let command = Command::ChooseSet(ChooseSet { chosen: ChosenSet { pigments: set } });
            view(s, s.store.apply(id, None, command)?)
        })
        .await
}
