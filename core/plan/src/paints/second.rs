//! What may join the medium of a piece, in words.

use lean_media::{Medium, Second};
use serde::Serialize;

/// A second medium a piece may draw on.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct SecondOffer {
    /// Which.
    pub second: Second,
    /// What it is for: `coloured pencil over it`.
    pub words: String,
    /// The medium of the Boxes it is taken from.
    pub from: Medium,
}

/// What may join a medium.
pub fn offers(medium: Medium) -> Vec<SecondOffer> {
    let words = |second| match second {
        Second::Pencil => "coloured pencil over it",
        Second::Pastel => "pastel over it",
        Second::BodyColour => "body colour over it",
        Second::Acrylic => "acrylic for the studies",
    };
    Second::beside(medium).iter().map(|s| SecondOffer { second: *s, words: words(*s).into(), from: s.box_medium() }).collect()
}
