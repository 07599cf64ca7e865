//! Files that are being made: under a name of their own until they are whole, and removed where they never get so far.

use crate::StoreError;
use std::fs::File;
use std::path::{Path, PathBuf};
use tempfile::{Builder, NamedTempFile};

/// How the name of a file ends that is not whole yet.
const ENDING: &str = ".half-made";

/// A file that is being made. Dropped before [`UnfinishedFile::finished`], nothing is left of it.
pub struct UnfinishedFile {
    file: NamedTempFile,
    to: PathBuf,
}

impl UnfinishedFile {
    /// Begins a file that is to lie at `to`, readable by its owner alone.
    ///
    /// # Errors
    /// [`StoreError::There`] where a file lies already, or when none can be made.
    pub fn begun(to: &Path) -> Result<Self, StoreError> {
        // A log that lies beside no file would be read into this one.
        let log = PathBuf::from(format!("{}-wal", to.display()));
        if let Some(there) = [to, &log].into_iter().find(|p| p.exists()) {
            return Err(StoreError::There(there.display().to_string()));
        }
        Self::begun_to_replace(to)
    }

    /// Begins a file that is to take the place of `to`.
    ///
    /// # Errors
    /// When none can be made.
    pub(crate) fn begun_to_replace(to: &Path) -> Result<Self, StoreError> {
        let folder = folder_of(to);
        std::fs::create_dir_all(folder).map_err(|e| StoreError::Folder(folder.display().to_string(), e.to_string()))?;
        let name = to.file_name().unwrap_or_default().to_string_lossy();
        let file = Builder::new().prefix(&format!("{name}.")).suffix(ENDING).tempfile_in(folder).map_err(|e| StoreError::file(to, &e))?;
        // Whoever clears away after a killed program sees by the lock that this one is still at work.
        #[cfg(unix)]
        let _ = file.as_file().lock();
        Ok(Self { file, to: to.to_owned() })
    }

    /// Where it lies until it is whole.
    pub fn path(&self) -> &Path {
        self.file.path()
    }

    /// The open file.
    pub fn file(&mut self) -> &mut File {
        self.file.as_file_mut()
    }

    /// Puts it where it is to lie, once every byte is on the disk. No file is written over.
    ///
    /// # Errors
    /// [`StoreError::There`] when a file came to lie there meanwhile, or when it cannot be written.
    pub fn finished(self) -> Result<(), StoreError> {
        self.on_disk()?;
        let to = self.to;
        self.file.persist_noclobber(&to).map_err(|e| match e.error.kind() {
            std::io::ErrorKind::AlreadyExists => StoreError::There(to.display().to_string()),
            _ => StoreError::file(&to, &e.error),
        })?;
        folder_on_disk(&to);
        Ok(())
    }

    /// Puts it in the place of the file that lies there.
    ///
    /// # Errors
    /// When it cannot be written; what lay there lies there still.
    pub(crate) fn finished_in_place(self) -> Result<(), StoreError> {
        self.on_disk()?;
        let to = self.to;
        self.file.persist(&to).map_err(|e| StoreError::file(&to, &e.error))?;
        folder_on_disk(&to);
        Ok(())
    }

    fn on_disk(&self) -> Result<(), StoreError> {
        // What SQLite wrote was written over a handle of its own.
        File::open(self.path()).and_then(|f| f.sync_all()).map_err(|e| StoreError::file(&self.to, &e))
    }
}

/// Removes what a killed program left half made of files whose names begin with `stem`. What another program is at work on stays, and so does
/// everything this program did not make.
pub(crate) fn clear_away(folder: &Path, stem: &str) {
    for file in std::fs::read_dir(folder).into_iter().flatten().flatten() {
        let name = file.file_name().to_string_lossy().into_owned();
        if name.starts_with(stem) && name.ends_with(ENDING) && is_left(&file.path()) {
            // One that cannot be removed only takes room.
            let _ = std::fs::remove_file(file.path());
        }
    }
}

#[cfg(unix)]
fn is_left(path: &Path) -> bool {
    File::open(path).is_ok_and(|f| f.try_lock().is_ok())
}

#[cfg(not(unix))]
fn is_left(_: &Path) -> bool {
    true
}

/// The folder a file lies in.
pub(crate) fn folder_of(path: &Path) -> &Path {
    path.parent().filter(|f| !f.as_os_str().is_empty()).unwrap_or(Path::new("."))
}

/// Sees to it that a new name is on the disk, where a folder can be told so.
pub(crate) fn folder_on_disk(of: &Path) {
    let _ = File::open(folder_of(of)).and_then(|f| f.sync_all());
}
