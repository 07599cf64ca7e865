//! A backup a day, by itself.

use crate::state::Studio;
use lean_store::{Backups, StoreError};

/// Makes today's backup where there is none yet. What cannot be backed up is said in the log and on the page, and tried again the next time.
///
/// # Errors
/// As [`Backups::of_day`].
pub(crate) fn back_up(studio: &Studio) -> Result<(), StoreError> {
    let Some(data) = studio.store.path() else { return Ok(()) };
    let made = Backups::of(data).of_day(&studio.store, jiff::Zoned::now().date());
    studio.backups.went(made.as_ref().err().map(ToString::to_string));
    match made {
        Ok(Some(file)) => tracing::info!(file = %file.display(), "backed up"),
        Ok(None) => {}
        Err(e) => {
            tracing::error!(problem = %e, "not backed up");
            return Err(e);
        }
    }
    Ok(())
}
