//! A picture taken in for a piece.

use crate::handlers::pieces::view;
use crate::pictures::TakenIn;
use crate::problem::Problem;
use crate::state::Studio;
use crate::views::PieceView;
use axum::Json;
use axum::body::Bytes;
use lean_piece::{Command, Piece};
use lean_store::PieceId;

/// Takes a picture in for a piece, reads in it what `read` looks for, and applies the command that follows. Nobody waits while it is read; `command`
/// is asked inside the change and only puts together what was read.
///
/// # Errors
/// When there is no such piece, it is no picture, or `read` or the command refuses.
pub(crate) async fn take_in_for<R: 'static>(
    studio: Studio,
    id: PieceId,
    file: Bytes,
    read: impl FnOnce(TakenIn) -> Result<R, Problem> + Send + 'static,
    command: impl FnOnce(Piece, R) -> Command + Send + 'static,
) -> Result<Json<PieceView>, Problem> {
    studio
        .run(move |s| {
            s.store.piece(id)?;
            let found = read(TakenIn::keep(&s.store, &file)?)?;
            // What is there is looked at inside the change, so that of two pictures dropped at once neither is lost.
            view(s, s.store.change(id, None, |piece| Ok::<_, Problem>(vec![command(piece.clone(), found)]))?)
        })
        .await
}
