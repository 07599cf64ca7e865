//! The data file: everything a painter made, in one SQLite file.
//!
//! **The three nouns and how they meet.** A [`Store`] is one open data file; a [`Kept`] piece is a snapshot with its
//! revision; and every change is one transaction that writes the new snapshot and the command with its undo. Undo, redo, history,
//! autosave and crash safety all come from that one place. All SQL of the product is in this crate.
#![deny(missing_docs)]

mod boxes;
mod damaged;
mod devices;
mod drills;
mod errors;
mod field_notes;
mod grounds;
mod journal;
mod keeping;
mod maps;
mod migrations;
mod pictures;
mod pieces;
mod readings;
mod recent;
mod rescue;
mod sound;

pub use boxes::KeptBox;
pub use damaged::{Damaged, Record};
pub use devices::Device;
pub use errors::StoreError;
pub use field_notes::{KeptNote, NoteId};
pub use grounds::GroundNumber;

pub use journal::{Choices, Found, KeptEntry, Source};
pub use keeping::{Backups, Checked, Disk, KEPT, MEDIA_TYPE, OlderShape, UnfinishedFile};
pub use rescue::{ReplacedFile, RescueReport};

pub use readings::{ReadingId, Readings};

pub use pieces::{Kept, Line, PieceId, Summary};

use rusqlite::{Connection, OpenFlags};
use std::path::{Path, PathBuf};
use std::sync::{Mutex, MutexGuard};
use std::time::Duration;

/// How long a write waits for another program to let go of the file.
const PATIENCE: Duration = Duration::from_secs(3);
/// Files up to this size are checked whole when they are opened.
const CHECKED_WHOLE: u64 = 64 << 20;

/// One open data file.
pub struct Store {
    connection: Mutex<Connection>,
    path: Option<PathBuf>,
    unchecked: bool,
    replaced: Option<ReplacedFile>,
    older_shape: Option<OlderShape>,
    maps: maps::Maps,
    recent: recent::Recent,
    journal: Mutex<Option<journal::Stand>>,
}

impl Store {
    /// Opens a data file, or makes a new one. A damaged one gives way to what can be taken out of it, and is kept ([`Store::replaced`]).
    ///
    /// # Errors
    /// [`StoreError::Damaged`] when it is no data file of ours, [`StoreError::Locked`] when another program holds it, [`StoreError::Newer`] when a
    /// later version wrote it.
    pub fn open(path: &Path) -> Result<Self, StoreError> {
        keeping::prepared_place(path)?;
        keeping::clear_away(path);
        match Self::open_only(path) {
            Err(StoreError::Damaged(why)) => match Self::replace_damaged(path) {
                Ok(replaced) => Ok(Self { replaced: Some(replaced), ..Self::open_only(path)? }),
                Err(StoreError::Damaged(_)) => Err(StoreError::Damaged(why)),
                Err(other) => Err(other),
            },
            other => other,
        }
    }

    /// Opens a data file as it is: a damaged one is refused and stays where it lies.
    ///
    /// # Errors
    /// As [`Store::open`], and [`StoreError::Damaged`] when its pages are broken.
    pub fn open_only(path: &Path) -> Result<Self, StoreError> {
        keeping::prepared_place(path)?;
        let size = std::fs::metadata(path).map(|m| m.len()).unwrap_or(0);
        let connection = Connection::open(path)?;
        let store = Self { unchecked: size > CHECKED_WHOLE, ..Self::prepared(connection, Some(path))? };
        if size > 0 && !store.unchecked {
            store.check()?;
        }
        Ok(store)
    }

    /// A store that is gone when dropped, for tests.
    ///
    /// # Errors
    /// As [`Store::open`].
    pub fn in_memory() -> Result<Self, StoreError> {
        Self::prepared(Connection::open_in_memory()?, None)
    }

    fn prepared(mut connection: Connection, path: Option<&Path>) -> Result<Self, StoreError> {
        connection.busy_timeout(PATIENCE)?;
        sound::know(&connection)?;
        keeping::guarded(&connection)?;
        connection.pragma_update(None, "journal_mode", "WAL")?;
        connection.pragma_update(None, "synchronous", "FULL")?;
        connection.pragma_update(None, "foreign_keys", "ON")?;
        let older_shape = path.map(|p| keeping::kept_as_it_was(&connection, p)).transpose()?.flatten();
        migrations::bring_up_to_date(&mut connection)?;
        if let Some(path) = path {
            keeping::still_there(&connection, path)?;
        }
        Ok(Self {
            path: path.map(Path::to_owned),
            unchecked: false,
            replaced: None,
            older_shape,
            connection: Mutex::new(connection),
            maps: maps::Maps::default(),
            recent: recent::Recent::default(),
            journal: Mutex::default(),
        })
    }

    /// Looks through every page of the file.
    ///
    /// # Errors
    /// [`StoreError::Damaged`] with what was found.
    pub fn check(&self) -> Result<(), StoreError> {
        let found: String = self.lock().query_row("PRAGMA integrity_check(1)", [], |r| r.get(0))?;
        if found == "ok" { Ok(()) } else { Err(StoreError::Damaged(found)) }
    }

    /// What became of a damaged file when this one was opened in its place; `None` where it was sound.
    pub fn replaced(&self) -> Option<&ReplacedFile> {
        self.replaced.as_ref()
    }

    /// The copy of the file as it was, where an earlier version had written it; `None` where this version had.
    pub fn older_shape(&self) -> Option<&OlderShape> {
        self.older_shape.as_ref()
    }

    /// Damaged data files that gave way to another, kept beside the backups.
    pub fn damaged_files(&self) -> Vec<PathBuf> {
        self.path.as_deref().map(rescue::kept_files).unwrap_or_default()
    }

    /// Where the data file lies; `None` in memory.
    pub fn path(&self) -> Option<&Path> {
        self.path.as_deref()
    }

    /// Whether the file is too large to have been looked through when it was opened: it should be, in the background ([`Store::check_all`]).
    pub fn was_not_checked(&self) -> bool {
        self.unchecked
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

    /// Runs long reading over a connection of its own, so that nobody waits for it; in memory there is only the one.
    fn reading<T>(&self, work: impl FnOnce(&Connection) -> Result<T, StoreError>) -> Result<T, StoreError> {
        match &self.path {
            Some(path) => {
                let own = Connection::open_with_flags(path, OpenFlags::SQLITE_OPEN_READ_ONLY | OpenFlags::SQLITE_OPEN_NO_MUTEX)?;
                own.busy_timeout(PATIENCE)?;
                sound::know(&own)?;
                work(&own)
            }
            None => work(&self.lock()),
        }
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
