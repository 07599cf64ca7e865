//! Work done on a piece: when, how long, where.

use crate::zones::ZoneId;
use jiff::civil::Date;
use serde::{Deserialize, Serialize};

/// Most sessions logged on one piece.
pub const MOST_SESSIONS: usize = 200;

/// One sitting at the piece.
#[derive(Clone, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Session {
    /// The day, as `2025-01-14`.
    pub on: String,
    /// Minutes of work, 1 to 1440.
    #[cfg_attr(feature = "schema", schema(minimum = 1, maximum = 1440))]
    pub minutes: u32,
    /// What was done, in the painter's words.
    pub did: String,
    /// Zones that were laid or taken further.
    pub zones: Vec<ZoneId>,
}

impl Session {
    /// Says what is out of range.
    ///
    /// # Errors
    /// Names what is wrong and what to do.
    pub fn check(&self) -> Result<(), String> {
        if !is_day(&self.on) {
            return Err(format!("\"{}\" is no day. Write it as 2025-01-14.", self.on));
        }
        if !(1..=1440).contains(&self.minutes) {
            return Err(format!("A session of {} minutes is out of range; it may be 1 to 1440.", self.minutes));
        }
        match self.did.chars().count() {
            n if n > 300 => Err(format!("What was done has {n} characters; 300 fit.")),
            _ if self.did.trim().is_empty() && self.zones.is_empty() => Err("Say what was done, or mark the zones worked on.".into()),
            _ => Ok(()),
        }
    }
}

/// Whether a text is a day, as `2025-01-14`.
pub(crate) fn is_day(text: &str) -> bool {
    text.len() == 10 && text.parse::<Date>().is_ok()
}

#[cfg(test)]
mod tests {
    use super::*;

    fn session(on: &str) -> Session {
        Session { on: on.into(), minutes: 90, did: "lay-in".into(), zones: Vec::new() }
    }

    #[test]
    fn days_are_real_ones() {
        for good in ["2025-01-14", "2024-02-29", "2000-02-29"] {
            assert_eq!(session(good).check(), Ok(()), "{good}");
        }
        for bad in ["", "14.1.2025", "2025-02-29", "1900-02-29", "2025-13-01", "2025-04-31", "2025-1-4", "+025-01-01"] {
            assert!(session(bad).check().unwrap_err().contains("no day"), "{bad}");
        }
    }

    #[test]
    fn an_empty_session_says_what_is_missing() {
        let empty = Session { did: " ".into(), ..session("2025-01-14") };
        assert!(empty.check().unwrap_err().contains("zones"));
        assert_eq!(Session { zones: vec![ZoneId(1)], ..empty }.check(), Ok(()));
        assert!(Session { minutes: 0, ..session("2025-01-14") }.check().is_err());
    }
}
