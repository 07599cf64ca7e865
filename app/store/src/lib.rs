//! The data file: everything a painter made, in one SQLite file.
//!
//! **The three nouns and how they meet.** A [`Store`] is one open data file; a [`Kept`] piece is a snapshot with its
//! revision; and every change is one transaction that writes the new snapshot and the command with its undo. Undo, redo, history,
//! autosave and crash safety all come from that one place. All SQL of the product is in this crate.
#![deny(missing_docs)]

mod boxes;
mod damaged;
mod drills;
mod errors;
mod field_notes;
mod grounds;
mod journal;
mod maps;
mod migrations;
mod pictures;
mod pieces;
mod readings;
mod recent;

pub use boxes::KeptBox;
pub use damaged::{Damaged, Record};
pub use errors::StoreError;
pub use field_notes::{KeptNote, NoteId};
pub use grounds::GroundNumber;

pub use journal::{Choices, Found, KeptEntry, Source};
pub use readings::{ReadingId, Readings};

pub use pieces::{Kept, Line, PieceId, Summary};

use rusqlite::Connection;
use std::path::Path;
use std::sync::{Mutex, MutexGuard};
use std::time::Duration;

/// How long a write waits for another program to let go of the file.
const PATIENCE: Duration = Duration::from_secs(3);
/// Files up to this size are checked whole when they are opened.
const CHECKED_WHOLE: u64 = 64 << 20;

/// One open data file.
pub struct Store {
    connection: Mutex<Connection>,
    maps: maps::Maps,
    recent: recent::Recent,
    journal: Mutex<Option<journal::Stand>>,
}

impl Store {
    /// Opens a data file, or makes a new one.
    ///
    /// # Errors
    /// [`StoreError::Damaged`] when it is no data file of ours or its pages are broken, [`StoreError::Locked`] when another program
    /// holds it, [`StoreError::Newer`] when a later version wrote it.
    pub fn open(path: &Path) -> Result<Self, StoreError> {
        if let Some(folder) = path.parent().filter(|f| !f.as_os_str().is_empty()) {
            std::fs::create_dir_all(folder).map_err(|e| StoreError::Folder(folder.display().to_string(), e.to_string()))?;
        }
        let size = std::fs::metadata(path).map(|m| m.len()).unwrap_or(0);
        let connection = Connection::open(path)?;
        let store = Self::prepared(connection)?;
        if size > 0 && size <= CHECKED_WHOLE {
            store.check()?;
        }
        Ok(store)
    }

    /// A store that is gone when dropped, for tests.
    ///
    /// # Errors
    /// As [`Store::open`].
    pub fn in_memory() -> Result<Self, StoreError> {
        Self::prepared(Connection::open_in_memory()?)
    }

    fn prepared(mut connection: Connection) -> Result<Self, StoreError> {
        connection.busy_timeout(PATIENCE)?;
        connection.pragma_update(None, "journal_mode", "WAL")?;
        connection.pragma_update(None, "synchronous", "FULL")?;
        connection.pragma_update(None, "foreign_keys", "ON")?;
        migrations::bring_up_to_date(&mut connection)?;
        Ok(Self { connection: Mutex::new(connection), maps: maps::Maps::default(), recent: recent::Recent::default(), journal: Mutex::default() })
    }

    /// Looks through every page of the file.
    ///
    /// # Errors
    /// [`StoreError::Damaged`] with what was found.
    pub fn check(&self) -> Result<(), StoreError> {
        let found: String = self.lock().query_row("PRAGMA quick_check(1)", [], |r| r.get(0))?;
        if found == "ok" { Ok(()) } else { Err(StoreError::Damaged(found)) }
    }

    /// How many snapshots of pieces were parsed since it was opened: what one change of a piece costs is counted with it.
    pub fn parsed(&self) -> u64 {
        self.recent.parsed()
    }

    /// Limits the file to `pages` pages of 4 kB, to try out a full disk.
    ///
    /// # Errors
    /// When the file cannot be reached.
    pub fn limit_pages(&self, pages: u32) -> Result<(), StoreError> {
        self.lock().query_row(&format!("PRAGMA max_page_count = {pages}"), [], |_| Ok(()))?;
        Ok(())
    }

    /// How the file stood when the journal was brought up to date last.
    fn journal_stand(&self) -> MutexGuard<'_, Option<journal::Stand>> {
        self.journal.lock().unwrap_or_else(|poisoned| poisoned.into_inner())
    }

    fn lock(&self) -> MutexGuard<'_, Connection> {
        // A panic while the lock was held leaves a rolled-back transaction, not a broken connection.
        self.connection.lock().unwrap_or_else(|poisoned| poisoned.into_inner())
    }
}

/// Now, in UTC, for the record.
fn now() -> String {
    jiff::Timestamp::now().to_string()
}
