//! What a painter owns.

use lean_media::{Medium, Pigment, PigmentId};
use serde::{Deserialize, Serialize};
use std::collections::HashSet;

/// Stable name of a Box.
#[derive(Clone, Debug, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[serde(transparent)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct BoxId(pub String);

/// Most pigments one Box may hold for now.
pub const MOST_PIGMENTS: usize = 120;

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
            if !seen.insert(&p.id) {
                return Err(format!("Two pigments are both called \"{}\". Give each an id of its own.", p.id));
            }
        }
        Ok(())
    }

    /// The pigment with this id.
    pub fn find(&self, id: &PigmentId) -> Option<&Pigment> {
        self.pigments.iter().find(|p| p.id == *id)
    }
}
