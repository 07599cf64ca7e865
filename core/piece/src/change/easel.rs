//! How a piece is carried out.

use super::{Change, Refusal, check_what};
use crate::Piece;
use crate::easel::Easel;
use serde::{Deserialize, Serialize};

/// What was decided or done at the easel.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
pub struct SetEasel {
    /// All of it.
    pub easel: Easel,
    /// What was done, for the line that says what was undone.
    pub what: String,
}

impl Change for SetEasel {
    fn describe(&self) -> String {
        self.what.clone()
    }

    fn check(&self, _piece: &Piece) -> Result<(), Refusal> {
        check_what(&self.what)?;
        self.easel.check().map_err(Refusal::Range)
    }

    fn apply(self, piece: &mut Piece) {
        piece.easel = self.easel;
    }
}
