//! Progress of filling a demo studio that is already open.

use serde::Serialize;
use std::sync::{Arc, Mutex};

/// Progress of filling a demo studio.
#[derive(Clone, Debug, Serialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub struct DemoFilling {
    /// Share of the work done, 0..=1.
    pub share: f64,
    /// Why it stopped before its end.
    pub problem: Option<String>,
}

/// The progress of filling that all of a studio share; `None` where nothing is being filled.
#[derive(Clone, Default)]
pub struct SharedFilling(Arc<Mutex<Option<DemoFilling>>>);

impl SharedFilling {
    /// The progress now.
    pub fn now(&self) -> Option<DemoFilling> {
        self.0.lock().unwrap_or_else(|poisoned| poisoned.into_inner()).clone()
    }

    pub(crate) fn set(&self, filling: Option<DemoFilling>) {
        *self.0.lock().unwrap_or_else(|poisoned| poisoned.into_inner()) = filling;
    }
}
