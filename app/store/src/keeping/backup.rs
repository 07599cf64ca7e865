//! Backups by the database's own means, while it is in use.

use super::room::Disk;
use super::unfinished_file::{UnfinishedFile, clear_away, folder_of};
use crate::{Store, StoreError, migrations};
use jiff::civil::Date;
use rusqlite::Connection;
use rusqlite::backup::{Backup, StepResult};
use std::path::{Path, PathBuf};
use std::time::Duration;

/// Backups by the day that are kept.
pub const KEPT: usize = 7;
/// Pages copied at once: others write between.
const AT_ONCE: i32 = 512;
/// How long it waits while somebody else holds the file.
const HELD: Duration = Duration::from_millis(5);

/// The backups that lie beside a data file.
pub struct Backups {
    folder: PathBuf,
    stem: String,
    disk: Disk,
}

impl Backups {
    /// Those of a data file: in a folder `backups` beside it.
    pub fn of(data: &Path) -> Self {
        let stem = data.file_stem().map_or_else(|| "studio".into(), |s| s.to_string_lossy().into_owned());
        Self { folder: data.parent().unwrap_or(Path::new("")).join("backups"), stem, disk: Disk::default() }
    }

    /// The same as if the disk had so many bytes free, to try out a full one.
    pub fn with_free(self, bytes: u64) -> Self {
        Self { disk: Disk::with_free(bytes), ..self }
    }

    fn daily(&self) -> String {
        format!("{}-", self.stem)
    }

    /// Every backup by the day, the oldest first.
    pub fn all(&self) -> Vec<PathBuf> {
        self.files(|name| self.is_of_a_day(name, ".db"))
    }

    /// Every file a painter's work may be in: backups by the day, and data files as they were before they were replaced or changed in shape; the
    /// one written last comes last.
    pub fn everything(&self) -> Vec<PathBuf> {
        let mut all = self.files(|name| name.strip_prefix(&self.stem).is_some_and(|n| n.starts_with(['-', '.']) && n.ends_with(".db")));
        all.sort_by_key(|p| std::fs::metadata(p).and_then(|m| m.modified()).ok());
        all
    }

    fn is_of_a_day(&self, name: &str, ending: &str) -> bool {
        name.strip_prefix(&self.daily()).and_then(|n| n.strip_suffix(ending)).is_some_and(|day| day.parse::<Date>().is_ok())
    }

    fn files(&self, ours: impl Fn(&str) -> bool) -> Vec<PathBuf> {
        let there = std::fs::read_dir(&self.folder).into_iter().flatten().flatten();
        let mut all: Vec<PathBuf> = there.filter(|f| ours(&f.file_name().to_string_lossy())).map(|f| f.path()).collect();
        all.sort();
        all
    }

    /// Makes the backup of a day where there is none, and keeps the last seven. Gives its place, or nothing when it was there already.
    ///
    /// # Errors
    /// [`StoreError::NoRoom`], or when it cannot be written.
    pub fn of_day(&self, store: &Store, day: Date) -> Result<Option<PathBuf>, StoreError> {
        let path = self.folder.join(format!("{}{day}.db", self.daily()));
        if path.exists() {
            return Ok(None);
        }
        store.backup_to(&path, self.disk)?;
        // Days to come are in the names where a clock went wrong: what was made just now stays all the same.
        let others: Vec<PathBuf> = self.all().into_iter().filter(|p| *p != path).collect();
        for old in &others[..others.len().saturating_sub(KEPT - 1)] {
            // One that cannot be removed only takes room.
            let _ = std::fs::remove_file(old);
        }
        Ok(Some(path))
    }

    /// Removes what was left half made when the program was killed. Earlier versions left such files under the name of a day.
    pub(crate) fn clear_away(&self) {
        clear_away(&self.folder, &self.stem);
        for left in self.files(|name| self.is_of_a_day(name, ".partial")) {
            if super::file::is_marked(&left) {
                let _ = std::fs::remove_file(left);
            }
        }
    }

    /// Where the file goes as it was before a later version changed its shape.
    fn before_shape(&self, shape: i64) -> PathBuf {
        self.folder.join(format!("{}.before-shape-{shape}.db", self.stem))
    }

    /// A place for a data file that gives way to another one; `why` is part of its name.
    pub(crate) fn aside(&self, why: &str) -> Result<PathBuf, StoreError> {
        std::fs::create_dir_all(&self.folder).map_err(|e| StoreError::Folder(self.folder.display().to_string(), e.to_string()))?;
        let free = (1..).map(|n| self.folder.join(format!("{}.{why}-{n}.db", self.stem))).find(|p| !p.exists());
        Ok(free.unwrap_or_default())
    }
}

impl Store {
    /// Copies the whole file to a new place while it is in use. Nobody ever sees half of it there.
    ///
    /// # Errors
    /// [`StoreError::There`] when there is a file already, [`StoreError::NoRoom`], or when it cannot be written.
    pub fn backup(&self, to: &Path) -> Result<(), StoreError> {
        self.backup_to(to, Disk::default())
    }

    fn backup_to(&self, to: &Path, disk: Disk) -> Result<(), StoreError> {
        let half = UnfinishedFile::begun(to)?;
        self.reading(|c| copy(c, &half, disk, "a backup"))?;
        half.finished()
    }
}

/// A data file of an earlier version, kept as it was before it was brought up to date.
#[derive(Clone, Debug)]
pub struct OlderShape {
    /// Where the copy lies.
    pub kept: PathBuf,
}

/// Keeps a data file of an earlier shape as it was, beside it, before it is changed. A file without anything in it is not kept.
pub(crate) fn kept_as_it_was(c: &Connection, path: &Path) -> Result<Option<OlderShape>, StoreError> {
    let shape: i64 = c.pragma_query_value(None, "user_version", |r| r.get(0))?;
    if shape == 0 || shape >= migrations::SHAPE as i64 {
        return Ok(None);
    }
    let kept = Backups::of(path).before_shape(migrations::SHAPE as i64);
    if kept.exists() {
        return Ok(Some(OlderShape { kept }));
    }
    let half = UnfinishedFile::begun(&kept)?;
    copy(c, &half, Disk::default(), "a copy of the data file as it is, before this version changes its shape")?;
    half.finished()?;
    Ok(Some(OlderShape { kept }))
}

/// Copies a database into a file that is being made, where there is room for it.
pub(crate) fn copy(from: &Connection, to: &UnfinishedFile, disk: Disk, what: &str) -> Result<(), StoreError> {
    let folder = folder_of(to.path());
    const SIZE: &str = "SELECT page_count * page_size FROM pragma_page_count, pragma_page_size";
    let size: i64 = from.query_row(SIZE, [], |r| r.get(0))?;
    disk.has_room(folder, size.unsigned_abs(), what)?;
    let mut there = Connection::open(to.path())?;
    // Half of it is never looked at: no journal is needed, and none is left.
    there.pragma_update(None, "journal_mode", "OFF")?;
    let backup = Backup::new(from, &mut there)?;
    loop {
        match backup.step(AT_ONCE)? {
            StepResult::Done => break,
            StepResult::More => disk.keeps_reserve(folder, what)?,
            _ => std::thread::sleep(HELD),
        }
    }
    drop(backup);
    // A backup is one file: no log of changes lies beside it.
    there.pragma_update(None, "journal_mode", "DELETE")?;
    there.close().map_err(|(_, e)| e.into())
}
