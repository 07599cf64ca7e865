//! How a piece came out, as the painter judges it.

use crate::intent::MOST_WORDS;
use crate::session::is_day;
use serde::{Deserialize, Serialize};

/// How it came out.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Outcome {
    /// As hoped.
    AsHoped,
    /// In part.
    InPart,
    /// It did not.
    NotAtAll,
}

impl Outcome {
    /// All, the best first.
    pub const ALL: [Self; 3] = [Self::AsHoped, Self::InPart, Self::NotAtAll];

    /// What it came out, in a word or two.
    pub fn label(self) -> &'static str {
        match self {
            Self::AsHoped => "as hoped",
            Self::InPart => "in part",
            Self::NotAtAll => "not at all",
        }
    }

    /// In words.
    pub fn words(self) -> &'static str {
        match self {
            Self::AsHoped => "came out as hoped",
            Self::InPart => "came out in part",
            Self::NotAtAll => "did not come out",
        }
    }
}

/// A piece that is finished, or given up.
#[derive(Clone, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Ending {
    /// The day, as `2025-01-14`.
    pub on: String,
    /// How it came out.
    pub outcome: Outcome,
    /// What was learnt, at most 300 characters; may be empty.
    pub words: String,
}

impl Ending {
    pub(super) fn check(&self) -> Result<(), String> {
        let n = self.words.chars().count();
        if n > MOST_WORDS {
            return Err(format!("What was learnt has {n} characters; {MOST_WORDS} fit."));
        }
        if is_day(&self.on) { Ok(()) } else { Err(format!("\"{}\" is no day. Write it as 2025-01-14.", self.on)) }
    }
}
