//! Findings a painter has answered.

use serde::{Deserialize, Serialize};

/// A finding the painter has answered.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Dismissal {
    /// Key of the finding.
    pub finding: String,
    /// The painter's reason; may be empty.
    pub reason: String,
}
