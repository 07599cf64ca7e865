//! What a piece is for and by which rules it is made. Every later station obeys it.

pub mod fit;
pub mod moods;
pub mod occasion;
pub mod schools;

use crate::brief::MOST_NAME;
use crate::light::Key;
use crate::session::is_day;
use crate::units::Units;
use fit::Fit;
use lean_media::Medium;
use lean_search::demands::HueFamily;
use moods::Mood;
use occasion::Occasion;
use schools::{Question, School};
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;

/// Longest line of words about a piece, in characters.
pub const MOST_WORDS: usize = 300;
/// Most mood words.
pub const MOST_MOODS: usize = 3;

/// Rules a painter plays by: hard, unlike schools.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize)]
#[serde(default)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Games {
    /// Only pigments of these families, and greys; empty for all.
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub only_hues: Vec<HueFamily>,
    /// At most this many pigments, 1 to 8.
    #[cfg_attr(feature = "schema", schema(minimum = 1, maximum = 8))]
    pub most_pigments: Option<u8>,
    /// Nothing below this value, 0 to 8.
    #[cfg_attr(feature = "schema", schema(minimum = 0, maximum = 8))]
    pub nothing_below: Option<f64>,
    /// No black.
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub no_black: bool,
}

/// What a piece is for and by which rules it is made.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize)]
#[serde(default)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Intent {
    /// What it is for, in the painter's words.
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub purpose: String,
    /// For whom it is, in the painter's words.
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub for_whom: String,
    /// The day it must be finished, as `2025-01-14`; `None` when there is no hurry.
    pub due: Option<String>,
    /// When and in what light and weather the subject was seen.
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub occasion: Occasion,
    /// What lengths are shown in.
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub units: Units,
    /// Mood words with what each does.
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub moods: Vec<Mood>,
    /// Minutes it may take, 1 to 60 000; `None` for as long as it needs.
    #[cfg_attr(feature = "schema", schema(minimum = 1, maximum = 60000))]
    pub minutes: Option<u32>,
    /// Answers that differ from the medium's usual ones.
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub schools: BTreeMap<Question, School>,
    /// Rules of the game.
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub games: Games,
    /// How it lies on its sheet.
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub fit: Fit,
}

impl Intent {
    /// The school on a question: the painter's answer, or the medium's usual one.
    pub fn school(&self, question: Question, medium: Medium) -> School {
        self.schools.get(&question).copied().unwrap_or_else(|| question.usual(medium))
    }

    /// Says what is out of range or contradicts itself.
    ///
    /// # Errors
    /// Names what is wrong and what to do.
    pub fn check(&self) -> Result<(), String> {
        let words = self.purpose.chars().count();
        if words > MOST_WORDS {
            return Err(format!("What it is for has {words} characters; {MOST_WORDS} fit."));
        }
        let whom = self.for_whom.chars().count();
        if whom > MOST_NAME {
            return Err(format!("For whom it is has {whom} characters; {MOST_NAME} fit."));
        }
        if let Some(day) = self.due.as_ref().filter(|d| !is_day(d)) {
            return Err(format!("\"{day}\" is no day. Write it as 2025-01-14."));
        }
        if self.moods.len() > MOST_MOODS {
            return Err(format!("{} mood words pull in too many ways. Keep {MOST_MOODS} at most.", self.moods.len()));
        }
        self.moods.iter().try_for_each(Mood::check)?;
        if self.minutes.is_some_and(|m| !(1..=60_000).contains(&m)) {
            return Err("A time limit may be 1 to 60000 minutes.".into());
        }
        if let Some((q, s)) = self.schools.iter().find(|(q, s)| !q.answers().iter().any(|a| a.school == **s)) {
            return Err(format!("\"{}\" is no answer to the question of {}. Choose one of those listed.", s.label(), q.title()));
        }
        if self.games.most_pigments.is_some_and(|n| !(1..=lean_search::MOST_IN_SET as u8).contains(&n)) {
            return Err("A game of few pigments is played with 1 to 24.".into());
        }
        if self.games.nothing_below.is_some_and(|v| !(0.0..=8.0).contains(&v)) {
            return Err("The limit below which nothing may lie is a value from 0 to 8.".into());
        }
        self.occasion.check()?;
        self.fit.check()
    }

    /// The key the moods ask for; the last word that says one rules.
    pub fn key(&self) -> Key {
        self.moods.iter().rev().find_map(|m| m.key).unwrap_or_default()
    }

    /// The scheme the moods ask for; the last word that says one rules.
    pub fn scheme(&self) -> Option<moods::MoodScheme> {
        self.moods.iter().rev().find_map(|m| m.scheme)
    }

    /// The contrast the moods ask for together, −1..=1.
    pub fn contrast(&self) -> f64 {
        self.moods.iter().map(|m| m.contrast).sum::<f64>().clamp(-1.0, 1.0)
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn an_answer_to_another_question_is_refused() {
        let mut intent = Intent::default();
        assert!(intent.check().is_ok());
        intent.schools.insert(Question::Black, School::OneFocalPoint);
        assert!(intent.check().unwrap_err().contains("black"));
    }

    #[test]
    fn limits_are_named() {
        let few = Intent { games: Games { most_pigments: Some(0), ..Games::default() }, ..Intent::default() };
        assert!(few.check().unwrap_err().contains("1 to 24"));
        let low = Intent { games: Games { nothing_below: Some(9.5), ..Games::default() }, ..Intent::default() };
        assert!(low.check().is_err());
        assert!(Intent { purpose: "x".repeat(301), ..Intent::default() }.check().is_err());
        assert!(Intent { minutes: Some(0), ..Intent::default() }.check().is_err());
    }
}
