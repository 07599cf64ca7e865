//! The demo studio, looked round from one's own and left again: a data file and an address of its own, so that nothing of one's own is touched.

use crate::demo;
use crate::problem::Problem;
use crate::router::router;
use crate::serving::{Limits, serve};
use crate::state::{DemoDoor, Studio};
use lean_store::{Store, StoreError};
use std::future::pending;
use std::net::{Ipv4Addr, TcpListener};
use std::path::{Path, PathBuf};
use std::sync::{Arc, Mutex};
use tokio::runtime::Handle;

/// Where visits of the demo studio lead to.
pub struct Visiting {
    file: PathBuf,
    at: Mutex<Option<String>>,
}

impl Visiting {
    /// From the studio of a data file: the demo lies beside it.
    pub fn beside(own: &Path) -> Self {
        let name = own.file_stem().unwrap_or_default().to_string_lossy();
        Self { file: own.with_file_name(format!("{name}-demo.db")), at: Mutex::default() }
    }

    /// What opens it for those who stand in the studio; what is opened runs on `runtime`.
    pub fn door(self, runtime: Handle) -> Arc<DemoDoor> {
        Arc::new(move |home, goes_on| self.visit(home, &runtime, goes_on))
    }

    /// The address of the demo studio, which is filled the first time and opened once. `home` is where it is left to; `goes_on` hears the share
    /// done, 0..=1, and calls it off by a problem.
    ///
    /// # Errors
    /// When the demo cannot be written or opened, and what `goes_on` says.
    fn visit(&self, home: &str, runtime: &Handle, goes_on: &demo::GoesOn) -> Result<String, Problem> {
        let mut at = self.at.lock().unwrap_or_else(|poisoned| poisoned.into_inner());
        if let Some(address) = &*at {
            return Ok(address.clone());
        }
        let mut studio = Studio::new(opened(&self.file, goes_on)?);
        studio.home = Some(home.into());
        let closed = |e: std::io::Error| Problem::internal(format!("No port was free for the demo studio: {e}."));
        let listener = TcpListener::bind((Ipv4Addr::LOCALHOST, 0)).map_err(closed)?;
        listener.set_nonblocking(true).map_err(closed)?;
        let address = format!("http://{}", listener.local_addr().map_err(closed)?);
        tracing::info!(address, data = %self.file.display(), "the demo studio is open");
        runtime.spawn(async move {
            if let Ok(listener) = tokio::net::TcpListener::from_std(listener) {
                // It ends with the program.
                serve(listener, router(studio), pending(), Limits::default()).await;
            }
        });
        Ok(at.insert(address).clone())
    }
}

/// A demo studio's data file, filled under another name first: one that was interrupted is begun anew.
///
/// # Errors
/// When it cannot be written or opened, and what `goes_on` says.
pub fn opened(path: &Path, goes_on: &demo::GoesOn) -> Result<Store, Problem> {
    let named = |e: StoreError| Problem::internal(format!("{}: {e}", path.display()));
    if !path.exists() {
        let partial = path.with_extension("filling");
        for beside in ["", "-wal", "-shm"] {
            let _ = std::fs::remove_file(format!("{}{beside}", partial.display()));
        }
        // Closed before it is renamed, so that all of it lies in the one file.
        demo::fill_while(&Store::open(&partial).map_err(named)?, goes_on)?;
        std::fs::rename(&partial, path).map_err(|e| Problem::internal(format!("{}: {e}", path.display())))?;
    }
    let store = Store::open(path).map_err(named)?;
    demo::fill_while(&store, goes_on)?;
    Ok(store)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_demo_called_off_is_begun_anew() {
        let folder = tempfile::tempdir().unwrap();
        let file = folder.path().join("studio-demo.db");
        let early = |share: f64| if share > 0.0 { Err(Problem::cancelled()) } else { Ok(()) };
        assert!(opened(&file, &early).is_err());
        assert!(!file.exists(), "half a demo is not taken for a whole one");
        let path = Visiting::beside(&folder.path().join("studio.db")).file;
        assert_eq!(path, file);
    }
}
