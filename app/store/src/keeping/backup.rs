//! Backups by the database's own means, while it is in use.

use crate::{Store, StoreError, migrations};
use jiff::civil::Date;
use rusqlite::backup::Backup;
use rusqlite::{Connection, OpenFlags};
use std::path::{Path, PathBuf};
use std::time::Duration;

/// Backups by the day that are kept.
pub const KEPT: usize = 7;
/// Pages copied at once: others write between.
const AT_ONCE: i32 = 512;

/// The backups that lie beside a data file.
pub struct Backups {
    folder: PathBuf,
    stem: String,
}

impl Backups {
    /// Those of a data file: in a folder `backups` beside it.
    pub fn of(data: &Path) -> Self {
        let stem = data.file_stem().map_or_else(|| "studio".into(), |s| s.to_string_lossy().into_owned());
        Self { folder: data.parent().unwrap_or(Path::new("")).join("backups"), stem }
    }

    fn daily(&self) -> String {
        format!("{}-", self.stem)
    }

    /// Every backup by the day, the oldest first.
    pub fn all(&self) -> Vec<PathBuf> {
        let ours = |p: &PathBuf| {
            let name = p.file_name().map(|n| n.to_string_lossy().into_owned()).unwrap_or_default();
            name.strip_prefix(&self.daily()).and_then(|n| n.strip_suffix(".db")).is_some_and(|day| day.parse::<Date>().is_ok())
        };
        let mut all: Vec<PathBuf> =
            std::fs::read_dir(&self.folder).into_iter().flatten().flatten().map(|f| f.path()).filter(ours).collect();
        all.sort();
        all
    }

    /// Makes the backup of a day where there is none, and keeps the last seven. Gives its place, or nothing when it was there already.
    ///
    /// # Errors
    /// When it cannot be written.
    pub fn of_day(&self, store: &Store, day: Date) -> Result<Option<PathBuf>, StoreError> {
        let path = self.folder.join(format!("{}{day}.db", self.daily()));
        if path.exists() {
            return Ok(None);
        }
        self.make_folder()?;
        store.backup(&path)?;
        let all = self.all();
        for old in &all[..all.len().saturating_sub(KEPT)] {
            // One that cannot be removed only takes room.
            let _ = std::fs::remove_file(old);
        }
        Ok(Some(path))
    }

    /// Where the file goes as it was before a later version changed its shape.
    pub(crate) fn before_shape(&self, shape: i64) -> Result<PathBuf, StoreError> {
        self.make_folder()?;
        Ok(self.folder.join(format!("{}.before-shape-{shape}.db", self.stem)))
    }

    fn make_folder(&self) -> Result<(), StoreError> {
        std::fs::create_dir_all(&self.folder).map_err(|e| StoreError::Folder(self.folder.display().to_string(), e.to_string()))
    }
}

impl Store {
    /// Copies the whole file to a new place while it is in use. Nobody ever sees half of it there.
    ///
    /// # Errors
    /// When there is a file already, or it cannot be written.
    pub fn backup(&self, to: &Path) -> Result<(), StoreError> {
        if to.exists() {
            return Err(StoreError::There(to.display().to_string()));
        }
        self.reading(|c| copy(c, to))
    }
}

/// Keeps a data file of an earlier shape as it was, beside it, before it is changed. A file without anything in it is not kept.
pub(crate) fn kept_as_it_was(c: &Connection, path: &Path) -> Result<(), StoreError> {
    let shape: i64 = c.pragma_query_value(None, "user_version", |r| r.get(0))?;
    if shape == 0 || shape >= migrations::SHAPE as i64 {
        return Ok(());
    }
    let kept = Backups::of(path).before_shape(migrations::SHAPE as i64)?;
    if kept.exists() { Ok(()) } else { copy(c, &kept) }
}

/// Copies a database to a new place: under another name first, so that what lies there is whole.
pub(crate) fn copy(from: &Connection, to: &Path) -> Result<(), StoreError> {
    let partial = to.with_extension("partial");
    let _ = std::fs::remove_file(&partial);
    super::prepared_place(&partial)?;
    {
        let mut there = Connection::open(&partial)?;
        Backup::new(from, &mut there)?.run_to_completion(AT_ONCE, Duration::ZERO, None)?;
        // A backup is one file: no log of changes lies beside it.
        there.pragma_update(None, "journal_mode", "DELETE")?;
    }
    std::fs::rename(&partial, to).map_err(|_| StoreError::ReadOnly)
}

impl Store {
    /// Puts a backup in the place of a data file. What was there is kept beside the other backups; gives where.
    ///
    /// # Errors
    /// When the backup is no sound data file of ours, or the other is held by a running program; nothing is changed then.
    pub fn restore(backup: &Path, to: &Path) -> Result<Option<PathBuf>, StoreError> {
        if !backup.exists() {
            return Err(StoreError::NotFound(format!("backup {}", backup.display())));
        }
        let source = Connection::open_with_flags(backup, OpenFlags::SQLITE_OPEN_READ_ONLY)?;
        super::ours(&source)?;
        let found: String = source.query_row("PRAGMA quick_check(1)", [], |r| r.get(0))?;
        if found != "ok" {
            return Err(StoreError::Damaged(found));
        }
        let before = if to.exists() { Some(put_aside(to)?) } else { None };
        copy(&source, to)?;
        Ok(before)
    }
}

/// Moves a data file that nobody holds among its backups.
fn put_aside(data: &Path) -> Result<PathBuf, StoreError> {
    let backups = Backups::of(data);
    backups.make_folder()?;
    {
        // Whoever else has it open keeps this from being held alone.
        let held = Connection::open(data)?;
        held.pragma_update(None, "locking_mode", "EXCLUSIVE")?;
        // A file so damaged that it is no database any more is put aside as it is.
        match held.execute_batch("BEGIN EXCLUSIVE; COMMIT; PRAGMA wal_checkpoint(TRUNCATE);").map_err(StoreError::from) {
            Err(StoreError::Damaged(_)) | Ok(()) => {}
            Err(other) => return Err(other),
        }
    }
    let free = (1..).map(|n| backups.folder.join(format!("{}.before-restore-{n}.db", backups.stem))).find(|p| !p.exists());
    let aside = free.unwrap_or_default();
    std::fs::rename(data, &aside).map_err(|_| StoreError::ReadOnly)?;
    for beside in ["-wal", "-shm"] {
        let _ = std::fs::remove_file(format!("{}{beside}", data.display()));
    }
    Ok(aside)
}
