//! What falls on a piece.

use super::Change;
use crate::Piece;
use crate::light::Lighting;
use serde::{Deserialize, Serialize};

/// What falls on it.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
pub struct SetLighting {
    /// All of it.
    pub lighting: Lighting,
}

impl Change for SetLighting {
    fn describe(&self) -> String {
        "the light".into()
    }

    fn apply(self, piece: &mut Piece) {
        piece.lighting = self.lighting;
    }
}
