//! What a piece is, before any picture.

use crate::units::Size;
use lean_media::{GroundId, Medium};
use serde::{Deserialize, Serialize};

/// Longest title or name, in characters.
pub const MOST_NAME: usize = 80;

/// What the piece is, before any picture.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Brief {
    /// Title, 1..=80 characters.
    pub title: String,
    /// Medium of the piece and of the Box it draws on.
    pub medium: Medium,
    /// Surface it is made on.
    pub ground: GroundId,
    /// Its size.
    pub size: Size,
}
