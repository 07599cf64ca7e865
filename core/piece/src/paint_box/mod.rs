//! What a painter owns, and what was read of it.

mod eye;
mod reading;

pub use eye::{EyeDoubt, EyeJudgement, MOST_QUARTERS};
pub use reading::{Dampness, ReadColour, ReadWith, Swatch, SwatchReading, TriedFor, WetPart};

use crate::kept_as_text;
use lean_media::{Medium, Pigment, PigmentId};
use serde::{Deserialize, Serialize};
use std::collections::HashSet;

/// Stable name of a Box.
#[derive(Clone, Debug, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[serde(transparent)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct BoxId(pub String);

/// Most pigments one Box may hold for now.
pub const MOST_PIGMENTS: usize = 500;
/// Most pigments a search goes through: the time grows with the third power of their number.
pub(crate) const MOST_SEARCHED: usize = 120;
/// Most characters of a text kept with a pigment or a reading.
pub const MOST_TEXT: usize = 200;

/// All the pigments a painter owns in one medium. (Called `PaintBox` because `Box` is taken in this language.)
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
pub struct PaintBox {
    /// The painter's name for it.
    pub name: String,
    /// Sticks or tubes.
    pub medium: Medium,
    /// What is in it.
    pub pigments: Vec<Pigment>,
}

kept_as_text!(PaintBox);

impl PaintBox {
    /// Checks names, count and every pigment.
    ///
    /// # Errors
    /// Says what is wrong and with which pigment.
    pub fn check(&self) -> Result<(), String> {
        let n = self.name.trim().chars().count();
        if n == 0 || n > 80 {
            return Err("A Box needs a name of 1 to 80 characters.".into());
        }
        if self.pigments.len() > MOST_PIGMENTS {
            return Err(format!(
                "{} pigments are more than the {MOST_PIGMENTS} one Box holds. Part them over two Boxes.",
                self.pigments.len()
            ));
        }
        let mut seen: HashSet<&PigmentId> = HashSet::new();
        for p in &self.pigments {
            p.check()?;
            owned(p)?;
            if !seen.insert(&p.id) {
                return Err(format!("Two pigments are both called \"{}\". Give each an id of its own.", p.id));
            }
        }
        Ok(())
    }

    /// Whether what is at hand and not left out is few enough to be gone through.
    ///
    /// # Errors
    /// Says how many there are, and what to do.
    pub fn searchable(&self, excluded: &[PigmentId]) -> Result<(), String> {
        let away: HashSet<&PigmentId> = self.away().chain(excluded).collect();
        let n = self.searched().iter().filter(|p| !p.white && !away.contains(&p.id)).count();
        if n > MOST_SEARCHED {
            return Err(format!(
                "{n} pigments are more than the {MOST_SEARCHED} that can be gone through at once. Leave some out at Lean set, or part them over two Boxes."
            ));
        }
        Ok(())
    }

    /// Pigments that are not at hand: used up, or lent to somebody.
    pub fn away(&self) -> impl Iterator<Item = &PigmentId> {
        self.pigments.iter().filter(|p| p.owned.used_up || !p.owned.lent_to.is_empty()).map(|p| &p.id)
    }

    /// What the painter calls a pigment; its id where it is not in the Box any more.
    pub fn name_of(&self, id: &PigmentId) -> String {
        self.find(id).map_or_else(|| id.0.replace('-', " "), |p| p.name.clone())
    }

    /// The pigment with this id.
    pub fn find(&self, id: &PigmentId) -> Option<&Pigment> {
        self.pigments.iter().find(|p| p.id == *id)
    }
}

/// Checks what a painter says of a pigment.
fn owned(p: &Pigment) -> Result<(), String> {
    let o = &p.owned;
    for (what, text) in [("name", &p.name), ("label", &o.label), ("shop", &o.bought), ("borrower", &o.lent_to)] {
        if text.chars().count() > MOST_TEXT {
            return Err(format!("The {what} of \"{}\" has {} characters; {MOST_TEXT} fit.", p.id, text.chars().count()));
        }
    }
    for (what, share) in [("hardness", o.hardness), ("covering", o.covering), ("what is left", o.left)] {
        if share.is_some_and(|s| !(0.0..=1.0).contains(&s)) {
            return Err(format!("\"{}\": {what} is {}, but it lies from 0 to 1.", p.name, share.unwrap_or_default()));
        }
    }
    Ok(())
}
