//! Outcome of the backups by the day, shared by all who ask.

use std::sync::{Arc, Mutex};

/// Outcome of the last backup: the problem in a sentence, or none.
#[derive(Clone, Default)]
pub struct BackupOutcome(Arc<Mutex<Option<String>>>);

impl BackupOutcome {
    /// Why the last backup was not made; `None` where it was, or none was due.
    pub(crate) fn trouble(&self) -> Option<String> {
        self.0.lock().unwrap_or_else(|poisoned| poisoned.into_inner()).clone()
    }

    /// Notes how one went.
    pub fn went(&self, trouble: Option<String>) {
        *self.0.lock().unwrap_or_else(|poisoned| poisoned.into_inner()) = trouble;
    }
}
