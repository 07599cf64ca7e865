//! What was done and answered.

use super::{Change, Refusal};
use crate::Piece;
use crate::answered::Dismissal;
use crate::session::{MOST_SESSIONS, Session};
use serde::{Deserialize, Serialize};

/// Log work done.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
pub struct SetSessions {
    /// All sessions.
    pub sessions: Vec<Session>,
}

impl Change for SetSessions {
    fn describe(&self) -> String {
        "the log of sessions".into()
    }

    fn check(&self, _piece: &Piece) -> Result<(), Refusal> {
        if self.sessions.len() > MOST_SESSIONS {
            return Err(Refusal::Range(format!("{MOST_SESSIONS} sessions are logged for one piece. Join some of them.")));
        }
        self.sessions.iter().try_for_each(|s| s.check().map_err(Refusal::Contradiction))
    }

    fn apply(self, piece: &mut Piece) {
        piece.sessions = self.sessions;
        piece.sessions.sort_by(|a, b| a.on.cmp(&b.on));
    }
}

/// Answer a finding, or (with an empty list entry removed) take the answer back.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
pub struct SetDismissed {
    /// All answered findings.
    pub dismissed: Vec<Dismissal>,
}

impl Change for SetDismissed {
    fn describe(&self) -> String {
        "an answered finding".into()
    }

    fn apply(self, piece: &mut Piece) {
        piece.dismissed = self.dismissed;
    }
}
