//! When and in what light and weather the subject was seen: what a study is looked for by, years later.

use crate::brief::MOST_NAME;
use crate::session::is_day;
use serde::{Deserialize, Serialize};

/// When and how the subject was seen, in the painter's words.
#[derive(Clone, Debug, Default, PartialEq, Eq, Serialize, Deserialize)]
#[serde(default)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Occasion {
    /// What it is a picture of, at most 80 characters: "landscape with water".
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub subject: String,
    /// The day, as `2025-01-14`, or day and time, as `2025-01-14T08:10`; `None` when nobody knows.
    pub at: Option<String>,
    /// The weather, at most 80 characters.
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub weather: String,
    /// The light, at most 80 characters.
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub light: String,
}

impl Occasion {
    /// The day, as `2025-01-14`.
    pub fn day(&self) -> Option<&str> {
        self.at.as_deref().and_then(|at| at.get(..10))
    }

    /// The hour, 0..=23; `None` where only the day is known.
    pub fn hour(&self) -> Option<u8> {
        self.at.as_deref().and_then(|at| at.get(11..13)).and_then(|h| h.parse().ok())
    }

    /// Says what is out of range.
    ///
    /// # Errors
    /// Names what is wrong and what to do.
    pub fn check(&self) -> Result<(), String> {
        for (what, text) in [("subject", &self.subject), ("weather", &self.weather), ("light", &self.light)] {
            let n = text.chars().count();
            if n > MOST_NAME {
                return Err(format!("The {what} has {n} characters; {MOST_NAME} fit."));
            }
        }
        match &self.at {
            Some(at) if !is_day(at) && at.parse::<jiff::civil::DateTime>().is_err() => {
                Err(format!("\"{at}\" is no time. Write it as 2025-01-14 or 2025-01-14T08:10."))
            }
            _ => Ok(()),
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn at(at: &str) -> Occasion {
        Occasion { at: Some(at.into()), ..Occasion::default() }
    }

    #[test]
    fn a_time_is_a_day_with_or_without_an_hour() {
        assert_eq!((at("2025-01-14T08:10").day(), at("2025-01-14T08:10").hour()), (Some("2025-01-14"), Some(8)));
        assert_eq!((at("2025-01-14").hour(), at("2025-01-14").check()), (None, Ok(())));
        assert!(at("yesterday").check().unwrap_err().contains("yesterday"));
        assert!(at("2025-02-30").check().is_err());
        assert!(Occasion { weather: "x".repeat(81), ..Occasion::default() }.check().unwrap_err().contains("weather"));
    }
}
