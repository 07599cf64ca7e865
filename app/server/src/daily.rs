//! A backup a day, by itself.

use crate::state::Studio;
use lean_store::Backups;

/// Makes today's backup where there is none yet. What cannot be backed up is said in the log and tried again the next time.
pub fn back_up(studio: &Studio) {
    let store = &studio.store;
    match store.path().map(|data| Backups::of(data).of_day(store, jiff::Zoned::now().date())) {
        Some(Ok(Some(file))) => tracing::info!(file = %file.display(), "backed up"),
        Some(Err(e)) => tracing::error!(problem = %e, "not backed up"),
        _ => {}
    }
}
