//! The demo studio, looked round from one's own and left again: a data file and an address of its own, so that nothing of one's own is touched.

use crate::demo_file::DemoFile;
use crate::problem::Problem;
use crate::router::router;
use crate::serving::{Limits, serve};
use crate::state::{DemoDoor, Studio};
use std::future::pending;
use std::net::{Ipv4Addr, TcpListener};
use std::path::{Path, PathBuf};
use std::sync::{Arc, Mutex};
use tokio::runtime::Handle;

/// Where visits of the demo studio lead to.
pub(crate) struct Visiting {
    file: PathBuf,
    at: Mutex<Option<String>>,
}

impl Visiting {
    /// From the studio of a data file: the demo lies beside it.
    pub(crate) fn beside(own: &Path) -> Self {
        let name = own.file_stem().unwrap_or_default().to_string_lossy();
        Self { file: own.with_file_name(format!("{name}-demo.db")), at: Mutex::default() }
    }

    /// What opens it for those who stand in the studio; what is opened runs on `runtime`.
    pub(crate) fn door(self, runtime: Handle) -> Arc<DemoDoor> {
        Arc::new(move |home| self.visit(home, &runtime))
    }

    /// The address of the demo studio, which is opened once and filled the first time. `home` is the address where it is left to.
    ///
    /// # Errors
    /// When the demo cannot be written or opened.
    fn visit(&self, home: &str, runtime: &Handle) -> Result<String, Problem> {
        let mut at = self.at.lock().unwrap_or_else(|poisoned| poisoned.into_inner());
        if let Some(address) = &*at {
            return Ok(address.clone());
        }
        let DemoFile { store, unfilled } = DemoFile::open(&self.file)?;
        let mut studio = Studio::new(store).simulated();
        studio.home = Some(home.into());
        if let Some(unfilled) = unfilled {
            unfilled.fill_in_background(studio.clone());
        }
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
