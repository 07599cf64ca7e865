//! How the backups by the day went, for whoever asks.

use std::sync::{Arc, Mutex};

/// How the last backup went.
#[derive(Clone, Default)]
pub struct BackupOutcome(Arc<Mutex<Option<String>>>);

impl BackupOutcome {
    /// Why the last backup was not made; `None` where it was, or none was due.
    pub fn trouble(&self) -> Option<String> {
        self.0.lock().unwrap_or_else(|poisoned| poisoned.into_inner()).clone()
    }

    /// Notes how one went.
    pub fn went(&self, trouble: Option<String>) {
        *self.0.lock().unwrap_or_else(|poisoned| poisoned.into_inner()) = trouble;
    }
}
