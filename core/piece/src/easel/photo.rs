//! Photos of a piece on its way.

use super::task::Stage;
use lean_picture::spot::Spot;
use serde::{Deserialize, Serialize};

/// Most photos kept with one piece.
pub const MOST_PHOTOS: usize = 40;

/// Where the corners of the painted picture lie in a photo, from its top left clockwise.
pub type Corners = [Spot; 4];

/// A photo of the piece on its way.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ProgressPhoto {
    /// SHA-256 of the photo.
    pub digest: String,
    /// Name it was dropped under.
    pub file_name: String,
    /// Pixels across.
    pub width: u32,
    /// Pixels down.
    pub height: u32,
    /// When it was taken in, in local time as `2025-01-18T19:40`.
    pub at: String,
    /// Corners set by hand; none where they are looked for.
    #[cfg_attr(feature = "schema", schema(value_type = Option<Vec<Spot>>))]
    pub corners: Option<Corners>,
    /// Where a grey card lies in the photo; none without one.
    pub card: Option<Spot>,
    /// The stage it shows, said by hand; none where it is recognised.
    pub stage: Option<Stage>,
}

impl ProgressPhoto {
    pub(super) fn check(&self) -> Result<(), String> {
        if self.at.parse::<jiff::civil::DateTime>().is_err() {
            return Err(format!("\"{}\" is no time. Write it as 2025-01-18T19:40.", self.at));
        }
        let within = |s: &Spot| (-0.5..=1.5).contains(&s.x) && (-0.5..=1.5).contains(&s.y);
        if self.card.as_ref().is_some_and(|c| !(0.0..=1.0).contains(&c.x) || !(0.0..=1.0).contains(&c.y)) {
            return Err("The grey card lies outside the photo. Point at it again.".into());
        }
        match &self.corners {
            Some(corners) if !corners.iter().all(within) => {
                Err("A corner lies far outside the photo. Set it at the corner of the picture.".into())
            }
            _ => Ok(()),
        }
    }
}
