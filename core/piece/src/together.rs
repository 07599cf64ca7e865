//! A second medium in one piece, and the Box it is taken from.

use crate::Piece;
use crate::paint_box::{BoxId, PaintBox};
use crate::studies::Study;
use lean_media::{Medium, Pigment, PigmentId, Second};
use serde::{Deserialize, Serialize};

/// What stands before the id of a pigment that is taken from a second Box.
const FROM_SECOND: &str = "second:";

/// Whether a pigment was taken from a second Box.
pub(crate) fn is_of_second(id: &PigmentId) -> bool {
    id.0.starts_with(FROM_SECOND)
}

/// A second Box that a piece draws on.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Together {
    /// What its pigments are laid as.
    pub second: Second,
    /// The Box.
    pub paint_box: BoxId,
}

impl Together {
    /// Whether it goes with the medium of a piece.
    ///
    /// # Errors
    /// Names what does.
    pub fn check(&self, medium: Medium) -> Result<(), String> {
        let beside = Second::beside(medium);
        if beside.contains(&self.second) {
            return Ok(());
        }
        let names: Vec<&str> = beside.iter().map(|s| s.name()).collect();
        Err(match names.as_slice() {
            [] => format!("Nothing is laid over {} here: choose another medium for the piece.", medium.name()),
            _ => format!("{} does not go with {} here. Choose {}.", capital(self.second.name()), medium.name(), names.join(" or ")),
        })
    }
}

fn capital(word: &str) -> String {
    word[..1].to_uppercase() + &word[1..]
}

impl PaintBox {
    /// This Box with what is taken from another, or from itself (`None`), laid as a second medium. White of it is a pigment like any other where it lies over a first medium
    /// that leaves paper bare; from the Box itself only the whites are taken, as its other pigments are there already.
    pub fn with(mut self, second: Second, other: Option<&Self>) -> Self {
        let taken = other.unwrap_or(&self).own().iter().filter(|p| other.is_some() || p.white);
        let laid = |p: &Pigment| Pigment {
            id: PigmentId(format!("{FROM_SECOND}{}", p.id)),
            name: format!("{} ({})", p.name, second.name()),
            white: p.white && !second.lies_over(),
            second: Some(second),
            ..p.clone()
        };
        let taken: Vec<Pigment> = taken.map(laid).collect();
        self.pigments.extend(taken);
        self
    }

    /// The pigments of the piece's own medium.
    pub fn own(&self) -> &[Pigment] {
        &self.pigments[..self.pigments.iter().position(|p| p.second.is_some()).unwrap_or(self.pigments.len())]
    }

    /// Those a set may hold: its own, and those of a second medium that lies over it; in a Box of acrylic alone, all.
    pub fn searched(&self) -> &[Pigment] {
        let over = self.pigments.iter().any(|p| p.second.is_some_and(Second::lies_over));
        if over || self.own().is_empty() { &self.pigments } else { self.own() }
    }

    /// The Box studies are made from: the acrylic of an oil where there is some, else this one.
    pub fn for_studies(&self) -> Self {
        let acrylic: Vec<Pigment> = self.pigments.iter().filter(|p| p.second == Some(Second::Acrylic)).cloned().collect();
        let pigments = if acrylic.is_empty() { self.searched().to_vec() } else { acrylic };
        Self { pigments, ..self.clone() }
    }
}

impl Piece {
    /// The set the piece goes on with after a study: the study's own, or, where studies are made in acrylic, the one in use.
    pub fn set_with(&self, study: &Study) -> Vec<PigmentId> {
        let other = self.together.as_ref().is_some_and(|t| !t.second.lies_over()) && study.pigments.iter().any(is_of_second);
        if other { self.chosen.pigments.clone() } else { study.pigments.clone() }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use lean_media::library;

    fn of(name: &str, medium: Medium, ids: &[&str]) -> PaintBox {
        PaintBox { name: name.into(), medium, pigments: ids.iter().map(|id| library::find(id).unwrap().clone()).collect() }
    }

    #[test]
    fn pencils_over_pens_keep_their_names_apart() {
        let both =
            of("pens", Medium::Marker, &["PB29", "PY43"]).with(Second::Pencil, Some(&of("pencils", Medium::Pencil, &["PB29", "PW6"])));
        assert!(both.check().is_ok());
        assert_eq!(both.own().len(), 2);
        assert_eq!(both.searched().len(), 4);
        let blue = both.find(&"second:PB29".into()).unwrap();
        assert!(blue.name.ends_with("(pencil)") && blue.second == Some(Second::Pencil));
        assert!(both.pigments.iter().all(|p| !p.white), "a white pencil is carried like any other");
    }

    #[test]
    fn a_box_gives_its_own_whites_as_body_colour() {
        let pans = of("pans", Medium::Watercolour, &["PB29", "PW6"]);
        let both = pans.clone().with(Second::BodyColour, None);
        assert_eq!(both.pigments.len(), 3);
        // Another Box of the same name is another Box.
        assert_eq!(pans.clone().with(Second::BodyColour, Some(&pans)).pigments.len(), 4);
        assert_eq!(both.pigments[2].id, "second:PW6".into());
    }

    #[test]
    fn an_oil_is_searched_in_oil_and_studied_in_acrylic() {
        let oils = of("oils", Medium::Oil, &["PB29", "PW6"]);
        let both = oils.clone().with(Second::Acrylic, Some(&of("acrylics", Medium::Oil, &["PY43", "PW6"])));
        assert_eq!(both.searched(), oils.pigments);
        assert_eq!(both.for_studies().pigments.len(), 2);
        assert_eq!(both.for_studies().searched().len(), 2, "there is nothing else to search");
        assert!(both.for_studies().pigments.iter().any(|p| p.white), "white is still free in what is mixed");
    }

    #[test]
    fn what_does_not_go_together_says_what_does() {
        let with = |second| Together { second, paint_box: BoxId("b".into()) };
        assert!(with(Second::Pencil).check(Medium::Marker).is_ok());
        assert!(with(Second::Acrylic).check(Medium::Watercolour).unwrap_err().contains("body colour or pencil or pastel"));
        assert!(with(Second::Pencil).check(Medium::SoftPastel).unwrap_err().contains("another medium"));
    }
}
