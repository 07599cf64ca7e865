//! What can go wrong with the data file, in words that say what to do.

use lean_piece::Refusal;
use rusqlite::ErrorCode;
use thiserror::Error;

/// Why the store did not do what was asked. Nothing was changed.
#[derive(Debug, Error)]
pub enum StoreError {
    /// No such thing.
    #[error("There is no {0} here. It may have been removed in another window; go back to the studio.")]
    NotFound(String),
    /// A record was changed elsewhere since it was read.
    #[error(
        "This {record} was changed in another window ({what}). Your change was not made, so that nothing is lost: look at the newest state and do it again."
    )]
    Conflict {
        /// What it is: a piece, a Box.
        record: &'static str,
        /// Revision the change was meant for.
        base: i64,
        /// Revision the piece is at.
        current: i64,
        /// The last change made.
        what: String,
    },
    /// The rules of the piece refused the change.
    #[error(transparent)]
    Refused(#[from] Refusal),
    /// Nothing to undo or redo.
    #[error("There is nothing left to {0}.")]
    NoFurther(&'static str),
    /// A Box is still drawn on.
    #[error("{0}")]
    InUse(String),
    /// The disk is full.
    #[error("The disk is full: the change was not saved. Make room on the disk and do it again; everything saved before is safe.")]
    Full,
    /// There is not room enough for something large.
    #[error(
        "There is not enough room on the disk for {what}: {needed} MB must be free in {folder}, {free} MB are. Make room and do it again; everything saved before is safe."
    )]
    NoRoom {
        /// What was to be written.
        what: String,
        /// Where.
        folder: String,
        /// Megabytes that must be free.
        needed: u64,
        /// Megabytes that are.
        free: u64,
    },
    /// A file beside the data file cannot be written or read.
    #[error("{0}: {1}. Nothing was changed there; everything saved before is safe.")]
    File(String, String),
    /// Another program holds the file.
    #[error(
        "The data file is held by another program. Close the other one (a second Lean Swatch, a backup or sync program) and try again; nothing is lost."
    )]
    Locked,
    /// The file cannot be written.
    #[error("The data file cannot be written. Check that the folder and the file allow it; everything saved before is safe.")]
    ReadOnly,
    /// The file is broken or not ours.
    #[error(
        "The data file is damaged or not a Lean Swatch file ({0}). It was left as it is. Put a backup in its place, or start with another file: lean-swatch serve --data NEW-FILE."
    )]
    Damaged(String),
    /// What was given is no backup that could take the place of a data file.
    #[error("This is no sound backup: {0}. Nothing was changed; choose another one.")]
    NoBackup(String),
    /// A later version wrote the file.
    #[error(
        "This data file was written by {wrote} of Lean Swatch, and this is version {this}. It was left as it is. Use the later version, or another file with --data."
    )]
    Newer {
        /// The version that wrote it, as in "version 0.3.0"; "a later version" where it is not known.
        wrote: String,
        /// The version of this program.
        this: &'static str,
    },
    /// The folder cannot be made.
    #[error("The folder {0} cannot be made: {1}. Choose another with --data.")]
    Folder(String, String),
    /// The name of the data file leads nowhere.
    #[error("{0} is a link to a file that is not there. Mend the link, or name the file itself with --data.")]
    LeadsNowhere(String),
    /// There is a file where a new one should be made.
    #[error("{0} is there already and is not written over. Choose another name.")]
    There(String),
    /// What was given is no archive of a studio.
    #[error("This is no archive of a studio, or a damaged one: {0}. Nothing was read from it.")]
    NoArchive(String),
    /// The data file was taken away while the program ran.
    #[error(
        "The data file is gone or was replaced while Lean Swatch ran, so nothing more is written to it. Put it back, or stop the program and start it again."
    )]
    Gone,
    /// Anything else from the database.
    #[error("The data file could not be used: {0}. Nothing was changed; try again.")]
    Database(rusqlite::Error),
}

/// The version of this program.
pub(crate) const VERSION: &str = env!("CARGO_PKG_VERSION");

impl StoreError {
    /// The refusal of what a later version wrote; `version` is its number, where it is known.
    pub(crate) fn newer(version: Option<String>) -> Self {
        Self::Newer { wrote: version.map_or_else(|| "a later version".into(), |v| format!("version {v}")), this: VERSION }
    }

    /// What the system says of a file.
    pub(crate) fn file(path: &std::path::Path, e: &std::io::Error) -> Self {
        match e.kind() {
            std::io::ErrorKind::StorageFull | std::io::ErrorKind::QuotaExceeded => Self::Full,
            _ => Self::File(path.display().to_string(), e.to_string()),
        }
    }
}

impl From<rusqlite::Error> for StoreError {
    fn from(e: rusqlite::Error) -> Self {
        if e.sqlite_error().is_some_and(|e| e.extended_code == rusqlite::ffi::SQLITE_CONSTRAINT_COMMITHOOK) {
            return Self::Gone;
        }
        match e.sqlite_error_code() {
            Some(ErrorCode::DiskFull) => Self::Full,
            Some(ErrorCode::DatabaseBusy | ErrorCode::DatabaseLocked) => Self::Locked,
            Some(ErrorCode::ReadOnly | ErrorCode::CannotOpen | ErrorCode::PermissionDenied) => Self::ReadOnly,
            Some(ErrorCode::NotADatabase | ErrorCode::DatabaseCorrupt) => Self::Damaged(e.to_string()),
            _ => Self::Database(e),
        }
    }
}

impl From<serde_json::Error> for StoreError {
    fn from(e: serde_json::Error) -> Self {
        Self::Damaged(format!("a record cannot be read: {e}"))
    }
}
