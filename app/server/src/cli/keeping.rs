//! `lean-swatch export | import | backup | restore | rescue | check`: keeping what was made.

use super::running::{data_place, log};
use clap::Args;
use lean_store::{Backups, Checked, Disk, Store, StoreError, UnfinishedFile};
use serde::Serialize;
use std::fs::File;
use std::io::{BufWriter, Write};
use std::path::{Path, PathBuf};

/// Which data file.
#[derive(Args)]
pub(super) struct Data {
    /// Data file. In the user's data directory when left out.
    #[arg(long)]
    data: Option<PathBuf>,
}

impl Data {
    fn place(&self) -> Result<PathBuf, String> {
        data_place(self.data.as_deref(), false)
    }

    /// A data file that is there: none is made by looking for one.
    fn open(&self) -> Result<Store, String> {
        let path = self.place()?;
        if !path.exists() {
            return Err(format!("{}: there is no data file here. Say where it is with --data FILE.", path.display()));
        }
        Store::open_only(&path).map_err(|e| match e {
            StoreError::Damaged(why) => format!(
                "{0}: the data file is damaged ({why}). It was left as it is. Take out what is sound with\n  lean-swatch rescue {0} --data NEW-FILE\nor start lean-swatch serve, which does the same and keeps the damaged file beside the backups.",
                path.display()
            ),
            other => at(&path)(other),
        })
    }
}

fn at(path: &Path) -> impl Fn(StoreError) -> String + '_ {
    move |e| format!("{}: {e}", path.display())
}

#[derive(Args)]
pub(super) struct Export {
    /// Where the archive goes; `-` is standard output. A file that is there is not written over.
    archive: PathBuf,
    #[command(flatten)]
    data: Data,
}

#[derive(Args)]
pub(crate) struct Import {
    /// An archive; `-` reads standard input.
    archive: PathBuf,
    /// The data file that is made of it. There must be none.
    #[arg(long)]
    data: PathBuf,
}

#[derive(Args)]
pub(crate) struct BackUp {
    /// Where the backup goes; beside the data file, under today's date, when left out.
    to: Option<PathBuf>,
    #[command(flatten)]
    data: Data,
}

#[derive(Args)]
pub(crate) struct Restore {
    /// The backup.
    backup: PathBuf,
    #[command(flatten)]
    data: Data,
}

#[derive(Args)]
pub(crate) struct Rescue {
    /// The damaged data file. It is only read.
    file: PathBuf,
    /// The data file that is made of what is sound in it. There must be none.
    #[arg(long)]
    data: PathBuf,
}

#[derive(Args)]
pub(super) struct Check {
    #[command(flatten)]
    data: Data,
}

/// Where something was put.
#[derive(Serialize)]
pub(super) struct Put {
    /// Its place; none where it was there already.
    file: Option<PathBuf>,
    /// Where what was there before went.
    #[serde(skip_serializing_if = "Option::is_none")]
    before: Option<PathBuf>,
    /// Sentences, one for each thing left out because it is damaged or missing.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    pub left_out: Vec<String>,
}

impl Put {
    fn at(file: Option<PathBuf>, left_out: Vec<String>) -> Self {
        Self { file, before: None, left_out }
    }
}

/// Writes the archive. Of a damaged data file it is written of what can be taken out of it.
pub(super) fn export(a: Export) -> Result<Put, String> {
    let path = a.data.place()?;
    let to = (a.archive.as_os_str() != "-").then(|| a.archive.clone());
    match a.data.open() {
        Ok(store) => written(&a, &store).map(|()| Put::at(to, Vec::new())),
        Err(said) => {
            let folder = tempfile::tempdir_in(path.parent().unwrap_or(Path::new("."))).map_err(|e| e.to_string())?;
            let taken_out = folder.path().join("rescued.db");
            let rescued = if path.exists() { Store::rescue(&path, &taken_out) } else { return Err(said) };
            let rescued = rescued.map_err(|_| said)?;
            let store = Store::open_only(&taken_out).map_err(at(&path))?;
            written(&a, &store).map(|()| Put::at(to, rescued.lost))
        }
    }
}

fn written(a: &Export, store: &Store) -> Result<(), String> {
    let io = |e: std::io::Error| format!("{}: {e}", a.archive.display());
    if a.archive.as_os_str() == "-" {
        let mut out = BufWriter::new(std::io::stdout().lock());
        return store.export(&mut out).map_err(|e| e.to_string()).and_then(|()| out.flush().map_err(io));
    }
    let mut half = UnfinishedFile::begun(&a.archive).map_err(at(&a.archive))?;
    let size = std::fs::metadata(a.data.place()?).map_or(0, |m| m.len());
    Disk::default().has_room(a.archive.parent().unwrap_or(Path::new("")), size, "the archive").map_err(|e| e.to_string())?;
    let mut out = BufWriter::new(half.file());
    store.export(&mut out).map_err(at(&a.archive))?;
    out.flush().map_err(io)?;
    drop(out);
    half.finished().map_err(at(&a.archive))
}

pub(super) fn import(a: Import) -> Result<Put, String> {
    let read = if a.archive.as_os_str() == "-" {
        Store::import(std::io::stdin().lock(), &a.data)
    } else {
        let file = File::open(&a.archive).map_err(|e| format!("{}: {e}", a.archive.display()))?;
        Store::import(file, &a.data)
    };
    read.map_err(at(&a.archive)).map(|left_out| Put::at(Some(a.data), left_out))
}

pub(crate) fn back_up(a: BackUp) -> Result<Put, String> {
    let store = a.data.open()?;
    let file = match a.to {
        Some(to) => store.backup(&to).map(|()| Some(to)),
        None => Backups::of(&a.data.place()?).of_day(&store, jiff::Zoned::now().date()),
    };
    Ok(Put::at(file.map_err(|e| e.to_string())?, Vec::new()))
}

pub(super) fn restore(a: Restore) -> Result<Put, String> {
    let to = a.data.place()?;
    if !a.backup.exists() {
        return Err(format!("{}: there is no such file. Backups lie in the folder backups beside the data file.", a.backup.display()));
    }
    let before = Store::restore(&a.backup, &to)
        .map_err(|e| format!("{} in place of {}: {e} The data file lies where it lay.", a.backup.display(), to.display()))?;
    Ok(Put { before, ..Put::at(Some(to), Vec::new()) })
}

/// Takes out what is sound, and says what is not.
pub(super) fn rescue(a: Rescue) -> Result<Put, String> {
    let rescued = Store::rescue(&a.file, &a.data).map_err(|e| match e {
        StoreError::Damaged(why) => format!("{}: nothing can be taken out of it: {why}. No file was made.", a.file.display()),
        other => format!("{}: {other}", a.file.display()),
    })?;
    Ok(Put::at(Some(a.data), rescued.lost))
}

/// Says what is not sound, and fails where anything is not.
pub(super) fn check(a: Check) -> Result<Checked, String> {
    log();
    let checked = a.data.open()?.check_all(&|_| {}).map_err(|e| e.to_string())?;
    if checked.problems.is_empty() { Ok(checked) } else { Err(checked.problems.join("\n")) }
}
