//! What a piece takes from another: its colours as a wish, its light.

use super::pieces::view;
use crate::extract::{Json as In, Path};
use crate::problem::Problem;
use crate::state::Studio;
use crate::views::PieceView;
use axum::Json;
use axum::extract::State;
use lean_piece::Command;
use lean_piece::change::SetWished;
use lean_plan::carry_out;
use lean_plan::light::borrowed::{lay, lift, lift_from_picture};
use serde::Deserialize;

/// Another piece whose chart is meant.
#[derive(Deserialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct FromPiece {
    /// Revision the page last saw.
    base_revision: i64,
    /// The other piece.
    from: i64,
}

/// Takes the colours of another piece's chart, in their proportions, as a wish for this piece's lean set.
#[cfg_attr(feature = "description", utoipa::path(post, path = "/api/pieces/{id}/wish-colours", params(("id" = i64, Path)), request_body = FromPiece, responses((status = 200, body = PieceView), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 409, body = Problem, content_type = "application/problem+json"), (status = 415, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn wish_colours(
    State(studio): State<Studio>,
    Path(id): Path<i64>,
    In(ask): In<FromPiece>,
) -> Result<Json<PieceView>, Problem> {
    studio
        .run(move |s| {
            let other = s.store.piece(ask.from)?.piece;
            let wished = lean_plan::chart::wished(&other).ok_or_else(|| {
                Problem::unusable(format!("\"{}\" has no colour chart yet. Make one at its Subject station first.", other.brief.title))
            })?;
            view(s, s.store.apply(id, Some(ask.base_revision), Command::SetWished(SetWished { wished: Some(wished) }))?)
        })
        .await
}

/// Whose light to borrow.
#[derive(Deserialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
#[serde(rename_all = "kebab-case", tag = "of")]
pub(crate) enum LightSource {
    /// Another piece, by the light roles of its zones.
    Piece {
        /// Which.
        id: i64,
    },
    /// Another reference of the same piece, by what can be told from the picture alone.
    Picture {
        /// Its digest.
        digest: String,
    },
}

/// Whose light to borrow, and the revision that was meant for.
#[derive(Deserialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub(crate) struct BorrowLight {
    /// Revision the page last saw.
    base_revision: i64,
    /// Whose light.
    from: LightSource,
}

/// Lifts the light of another piece or picture and lays it on the local colours of this one.
#[cfg_attr(feature = "description", utoipa::path(post, path = "/api/pieces/{id}/borrow-light", params(("id" = i64, Path)), request_body = BorrowLight, responses((status = 200, body = PieceView), (status = 404, body = Problem, content_type = "application/problem+json"), (status = 409, body = Problem, content_type = "application/problem+json"), (status = 415, body = Problem, content_type = "application/problem+json"), (status = 422, body = Problem, content_type = "application/problem+json"))))]
pub(crate) async fn borrow_light(
    State(studio): State<Studio>,
    Path(id): Path<i64>,
    In(ask): In<BorrowLight>,
) -> Result<Json<PieceView>, Problem> {
    studio
        .run(move |s| {
            let piece = s.store.piece(id)?.piece;
            let (light, name) = match &ask.from {
                LightSource::Piece { id } => {
                    let source = s.store.piece(*id)?.piece;
                    (lift(&source), source.brief.title)
                }
                LightSource::Picture { digest } => {
                    let other = piece.others.iter().find(|o| o.digest == *digest);
                    let other = other.ok_or_else(|| Problem::not_found("That picture is not among the references of this piece."))?;
                    (lift_from_picture(&piece, &*s.working_copy(digest)?, &other.file_name), other.file_name.clone())
                }
            };
            let what: String = format!("light borrowed from {name}").chars().take(80).collect();
            let command = carry_out::targets(&piece, lay(&piece, &light.map_err(Problem::unusable)?), &what);
            view(s, s.store.apply(id, Some(ask.base_revision), command)?)
        })
        .await
}
