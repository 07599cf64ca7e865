//! Putting a backup in the place of a data file: copied and looked through first, so that there is a whole data file at every moment.

use super::backup::copy;
use super::room::Disk;
use super::unfinished_file::UnfinishedFile;
use super::{Backups, ours};
use crate::{Store, StoreError, migrations};
use rusqlite::{Connection, OpenFlags};
use std::path::{Path, PathBuf};

impl Store {
    /// Puts a backup in the place of a data file. What was there is kept beside the other backups; gives where.
    ///
    /// # Errors
    /// When the backup is empty, no sound data file of ours or of a later version, when there is no room, or when the other is held by a running
    /// program; nothing is changed then.
    pub fn restore(backup: &Path, to: &Path) -> Result<Option<PathBuf>, StoreError> {
        restored(backup, to, Disk::default())
    }
}

fn restored(backup: &Path, to: &Path, disk: Disk) -> Result<Option<PathBuf>, StoreError> {
    match std::fs::metadata(backup) {
        Err(_) => return Err(StoreError::NotFound(format!("backup {}", backup.display()))),
        Ok(m) if m.len() == 0 => return Err(StoreError::NoBackup("it is empty".into())),
        Ok(_) => {}
    }
    let source = Connection::open_with_flags(backup, OpenFlags::SQLITE_OPEN_READ_ONLY)?;
    expect_sound(&source)?;
    let half = UnfinishedFile::begun_to_replace(to)?;
    copy(&source, &half, disk, "the data file")?;
    expect_sound(&Connection::open_with_flags(half.path(), OpenFlags::SQLITE_OPEN_READ_ONLY)?)?;
    let before = if to.exists() { Some(kept(to, "before-restore")?) } else { None };
    if before.is_none() {
        log_aside(to, &Backups::of(to).aside("before-restore")?);
    }
    half.finished_in_place()?;
    Ok(before)
}

/// Refuses what is no sound data file of ours, and what a later version wrote.
fn expect_sound(c: &Connection) -> Result<(), StoreError> {
    let said = ours(c).and_then(|_| Ok(c.query_row("PRAGMA quick_check(1)", [], |r| r.get::<_, String>(0))?));
    match said {
        Ok(said) if said == "ok" => {}
        Ok(said) | Err(StoreError::Damaged(said)) => return Err(StoreError::NoBackup(said)),
        Err(other) => return Err(other),
    }
    let shape: i64 = c.pragma_query_value(None, "user_version", |r| r.get(0))?;
    if shape > migrations::SHAPE as i64 { Err(migrations::newer(c)) } else { Ok(()) }
}

/// Gives a data file that nobody holds a second name among its backups, so that the first can be taken over in one step. Where a file cannot have
/// two names it is moved.
fn kept(data: &Path, why: &str) -> Result<PathBuf, StoreError> {
    all_in_one_file(data)?;
    second_name(data, why)
}

/// Keeps a damaged data file that nobody holds, with the log beside it.
pub(crate) fn kept_damaged(data: &Path) -> Result<PathBuf, StoreError> {
    kept(data, "damaged")
}

fn second_name(data: &Path, why: &str) -> Result<PathBuf, StoreError> {
    let aside = Backups::of(data).aside(why)?;
    std::fs::hard_link(data, &aside).or_else(|_| std::fs::rename(data, &aside)).map_err(|e| StoreError::file(data, &e))?;
    log_aside(data, &aside);
    Ok(aside)
}

/// Puts the log of a file beside the place where that file is kept. Left where it lies it would be read into the next file of that name.
fn log_aside(data: &Path, aside: &Path) {
    for end in ["-wal", "-shm"] {
        let beside = |of: &Path| PathBuf::from(format!("{}{end}", of.display()));
        let _ = std::fs::rename(beside(data), beside(aside));
    }
}

/// Brings what lies beside a data file into it, and makes sure that nobody else has it open.
fn all_in_one_file(data: &Path) -> Result<(), StoreError> {
    let held = Connection::open(data)?;
    held.pragma_update(None, "locking_mode", "EXCLUSIVE")?;
    // A file so damaged that it is no database any more is put aside as it is.
    match held.execute_batch("BEGIN EXCLUSIVE; COMMIT; PRAGMA wal_checkpoint(TRUNCATE);").map_err(StoreError::from) {
        Err(StoreError::Damaged(_)) | Ok(()) => Ok(()),
        Err(other) => Err(other),
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn without_room_the_data_file_stays_where_it_is() {
        let dir = tempfile::tempdir().unwrap();
        let path = dir.path().join("studio.db");
        let store = Store::open(&path).unwrap();
        let backup = dir.path().join("copy.db");
        store.backup(&backup).unwrap();
        store.put_picture(b"later", b"later").unwrap();
        drop(store);
        let before = std::fs::read(&path).unwrap();
        let full = restored(&backup, &path, Disk::with_free(5 << 20)).unwrap_err();
        assert!(matches!(full, StoreError::NoRoom { free: 5, .. }), "{full}");
        assert!(full.to_string().contains("for the data file"), "{full}");
        assert_eq!(std::fs::read(&path).unwrap(), before);
        let left: Vec<_> = std::fs::read_dir(dir.path()).unwrap().flatten().map(|f| f.file_name()).collect();
        assert!(left.iter().all(|n| !n.to_string_lossy().contains("half-made")), "{left:?}");
    }
}
