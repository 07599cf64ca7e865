//! The record of a ground of one's own: what it is, how it behaves, what rehearsals on it showed.

use crate::kept_as_text;
use lean_media::ground::OwnGround;
use serde::{Deserialize, Serialize};

/// A rehearsal on an offcut.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Rehearsal {
    /// What was rehearsed: a zone, a passage.
    pub what: String,
    /// How it went.
    pub result: String,
}

kept_as_text!(GroundRecord);

/// The record of a ground.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct GroundRecord {
    /// What the models take of it.
    pub ground: OwnGround,
    /// Minutes until which paint still lifts; `None` when nobody tried.
    #[serde(default)]
    pub lifts_minutes: Option<f64>,
    /// Which side is worked on; may be empty.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub side: String,
    /// Whether opaque paint holds on it; `None` when nobody tried.
    #[serde(default)]
    pub opaque_holds: Option<bool>,
    /// Rehearsals on offcuts, the first made first.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub rehearsals: Vec<Rehearsal>,
}

/// Most rehearsals one record keeps, and most characters of a text in it.
const MOST: (usize, usize) = (60, 300);

impl GroundRecord {
    /// Checks texts and ranges.
    ///
    /// # Errors
    /// Says what is wrong and what would be right.
    pub fn check(&self) -> Result<(), String> {
        self.ground.check()?;
        if self.lifts_minutes.is_some_and(|m| !(0.0..=100_000.0).contains(&m)) {
            return Err("Minutes until which paint lifts lie between 0 and 100000.".into());
        }
        if self.rehearsals.len() > MOST.0 {
            return Err(format!("{} rehearsals are more than the {} one record keeps.", self.rehearsals.len(), MOST.0));
        }
        let texts = self.rehearsals.iter().flat_map(|r| [&r.what, &r.result]).chain([&self.side]);
        match texts.map(|t| t.chars().count()).find(|n| *n > MOST.1) {
            Some(n) => Err(format!("A text has {n} characters; {} fit.", MOST.1)),
            None => Ok(()),
        }
    }
}
