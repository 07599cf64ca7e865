//! The demo studio, served and ready for windows.

use crate::driver::Driver;
use crate::page::Page;
use crate::server::{Server, copy_demo};
use serde_json::Value;
use std::path::Path;

/// A served demo studio and a browser.
pub struct Stage {
    // Fields are dropped in this order: the browser before the server it talks to.
    /// The browser.
    pub driver: Driver,
    /// The server.
    pub server: Server,
    folder: tempfile::TempDir,
}

impl Stage {
    /// A fresh demo studio.
    pub fn demo() -> Self {
        let folder = tempfile::tempdir().expect("a folder can be made");
        let server = Server::start(&folder.path().join("demo.db"), true);
        Self { driver: Driver::start(), server, folder }
    }

    /// A studio with nothing in it.
    pub fn empty() -> Self {
        let folder = tempfile::tempdir().expect("a folder can be made");
        let server = Server::start(&folder.path().join("studio.db"), false);
        Self { driver: Driver::start(), server, folder }
    }

    /// The same with a demo studio beside it that was filled before, to be visited.
    pub fn with_demo_beside() -> Self {
        let folder = tempfile::tempdir().expect("a folder can be made");
        copy_demo(&folder.path().join("studio-demo.db"));
        let server = Server::start(&folder.path().join("studio.db"), false);
        Self { driver: Driver::start(), server, folder }
    }

    /// One more window.
    pub async fn page(&self) -> Page {
        Page::open(&self.driver, &self.server.address).await
    }

    /// A folder for files, removed in the end.
    pub fn path(&self) -> &Path {
        self.folder.path()
    }
}

/// The demo piece as the server has it now.
pub async fn piece(page: &Page) -> Value {
    page.value("(window.piece = null, fetch('/api/pieces/1').then(r => r.json()).then(v => window.piece = v), 1)").await;
    page.until("the piece has come", "window.piece").await;
    page.value("window.piece").await
}
