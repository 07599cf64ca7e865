//! The place a piece will hang.

use super::{Change, Refusal, check_what};
use crate::Piece;
use crate::wall::Wall;
use serde::{Deserialize, Serialize};

/// The place it will hang.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
pub struct SetWall {
    /// The wall, or none.
    pub wall: Option<Wall>,
    /// What was done, for the line that says what was undone.
    pub what: String,
}

impl Change for SetWall {
    fn describe(&self) -> String {
        self.what.clone()
    }

    fn check(&self, _piece: &Piece) -> Result<(), Refusal> {
        check_what(&self.what)?;
        self.wall.as_ref().map_or(Ok(()), |w| w.check().map_err(Refusal::Contradiction))
    }

    fn apply(self, piece: &mut Piece) {
        piece.wall = self.wall;
    }
}
