//! Version of a record as a window last saw it: a change that saw another version is refused.

use crate::problem::Problem;
use axum::http::StatusCode;
use lean_store::Store;
use serde::{Deserialize, Serialize};

/// Letters of a version.
const LETTERS: usize = 16;

/// The state a record is in, as 16 letters: the same record has the same.
pub(crate) fn version_of(record: &impl Serialize) -> String {
    let mut version = Store::digest_of(&serde_json::to_vec(record).unwrap_or_default());
    version.truncate(LETTERS);
    version
}

/// Version that a change was made over.
#[derive(Deserialize)]
#[cfg_attr(feature = "description", derive(utoipa::IntoParams))]
#[cfg_attr(feature = "description", into_params(parameter_in = Query))]
pub(crate) struct SeenVersion {
    /// Version of the record the page last saw, as it came with it.
    seen: String,
}

impl SeenVersion {
    /// Refuses a change of a record in another state than the one that was seen; `what` is what it is called.
    ///
    /// # Errors
    /// With 409 where it was changed elsewhere.
    pub(crate) fn is(&self, record: &impl Serialize, what: &str) -> Result<(), Problem> {
        if version_of(record) == self.seen {
            return Ok(());
        }
        let detail = format!(
            "This {what} was changed in another window. Your change was not made, so that nothing is lost: look at the newest state and do it again."
        );
        Err(Problem::new(StatusCode::CONFLICT, "changed-elsewhere", "Changed in another window", detail))
    }
}
