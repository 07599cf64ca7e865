//! What was done and answered.

use super::{Change, Refusal};
use crate::Piece;
use crate::answered::Dismissal;
use crate::easel::{Done, Easel};
use crate::session::{MOST_SESSIONS, Session};
use serde::{Deserialize, Serialize};

/// Log work done.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
pub struct SetSessions {
    /// All sessions.
    pub sessions: Vec<Session>,
    /// All that is done by now, where that changes with it.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub done: Option<Vec<Done>>,
}

impl Change for SetSessions {
    fn describe(&self) -> String {
        "the log of sessions".into()
    }

    fn check(&self, piece: &Piece) -> Result<(), Refusal> {
        if self.sessions.len() > MOST_SESSIONS {
            return Err(Refusal::Range(format!("{MOST_SESSIONS} sessions are logged for one piece. Join some of them.")));
        }
        self.sessions.iter().try_for_each(|s| s.check().map_err(Refusal::Contradiction))?;
        let easel = self.done.as_ref().map(|done| Easel { done: done.clone(), ..piece.easel.clone() });
        easel.map_or(Ok(()), |e| e.check().map_err(Refusal::Range))
    }

    fn apply(self, piece: &mut Piece) {
        piece.sessions = self.sessions;
        piece.sessions.sort_by(|a, b| a.on.cmp(&b.on));
        if let Some(done) = self.done {
            piece.easel.done = done;
        }
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
