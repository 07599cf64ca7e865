//! The data file as a file: whose it is, who may read it, whether it is still there.

use crate::StoreError;
use rusqlite::Connection;
use std::fs::{File, Metadata, OpenOptions};
use std::io::Read;
use std::path::{Path, PathBuf};

/// "LSwa": written into the head of every data file of ours.
const OURS: i32 = 0x4C53_7761;

/// Makes the place of a data file ready: its folder, and the file itself readable by its owner alone. A name that leads nowhere is not followed
/// into a new file.
pub(crate) fn prepared_place(path: &Path) -> Result<(), StoreError> {
    if let Some(folder) = path.parent().filter(|f| !f.as_os_str().is_empty()) {
        std::fs::create_dir_all(folder).map_err(|e| StoreError::Folder(folder.display().to_string(), e.to_string()))?;
    }
    let linked = std::fs::symlink_metadata(path).is_ok_and(|m| m.file_type().is_symlink());
    if linked && !path.exists() {
        return Err(StoreError::LeadsNowhere(path.display().to_string()));
    }
    if !path.exists() {
        let mut options = OpenOptions::new();
        options.create(true).append(true);
        #[cfg(unix)]
        std::os::unix::fs::OpenOptionsExt::mode(&mut options, 0o600);
        options.open(path).map_err(|_| StoreError::ReadOnly)?;
    }
    Ok(())
}

/// Refuses files of other programs; gives the mark the file carries.
pub(crate) fn ours(c: &Connection) -> Result<i32, StoreError> {
    let tables: i64 = c.query_row("SELECT count(*) FROM sqlite_schema", [], |r| r.get(0))?;
    let mark: i32 = c.pragma_query_value(None, "application_id", |r| r.get(0))?;
    let known: i64 =
        c.query_row("SELECT count(*) FROM sqlite_schema WHERE name IN ('pieces', 'boxes', 'pictures', 'log')", [], |r| r.get(0))?;
    // Files of the first versions carry no mark; their tables tell them.
    let ours = mark == OURS || (mark == 0 && (tables == 0 || known == 4));
    if !ours {
        return Err(StoreError::Damaged("it is a database of another program".into()));
    }
    Ok(mark)
}

/// Refuses files of other programs, marks a new one as ours, and says at once when it cannot be written.
pub(crate) fn guarded(c: &Connection) -> Result<(), StoreError> {
    let mark = ours(c)?;
    c.execute_batch("BEGIN IMMEDIATE; COMMIT;")?;
    if mark != OURS {
        c.pragma_update(None, "application_id", OURS)?;
    }
    Ok(())
}

/// Takes back whatever is committed once the file is gone or is another one: a change to a file nobody can open again would be acknowledged and
/// lost.
pub(crate) fn still_there(c: &Connection, path: &Path) -> Result<(), StoreError> {
    let Ok(before) = std::fs::metadata(path) else { return Ok(()) };
    let path: PathBuf = path.to_owned();
    c.commit_hook(Some(move || !std::fs::metadata(&path).is_ok_and(|now| same(&before, &now))))?;
    Ok(())
}

#[cfg(unix)]
fn same(a: &Metadata, b: &Metadata) -> bool {
    use std::os::unix::fs::MetadataExt;
    (a.dev(), a.ino()) == (b.dev(), b.ino())
}

#[cfg(not(unix))]
fn same(_: &Metadata, _: &Metadata) -> bool {
    true
}

/// Whether a file carries our mark in its head.
pub(crate) fn is_marked(path: &Path) -> bool {
    const MARK: usize = 68;
    let mut head = [0; MARK + 4];
    let read = File::open(path).and_then(|mut f| f.read_exact(&mut head));
    read.is_ok() && head[MARK..] == OURS.to_be_bytes()
}
