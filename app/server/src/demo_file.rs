//! The data file of a demo studio: opened as soon as its first piece is in it, and filled with the rest while it is looked at.

use crate::demo::{self, Rest};
use crate::filling::DemoFilling;
use crate::jobs::on_all_cores_but_one;
use crate::problem::Problem;
use crate::state::Studio;
use lean_store::{Store, StoreError};
use std::path::{Path, PathBuf};

/// A demo's data file, open.
pub(crate) struct DemoFile {
    /// The data file.
    pub store: Store,
    /// The rest to be filled in; `None` in a demo that was filled before.
    pub unfilled: Option<Unfilled>,
}

/// The rest to be filled into a demo's data file, with the mark beside the file that says so.
pub(crate) struct Unfilled {
    rest: Rest,
    mark: PathBuf,
}

impl DemoFile {
    /// Opens a demo's data file, made with its first piece where there is none. One whose filling was interrupted gets another name, and a new one
    /// is made.
    ///
    /// # Errors
    /// When it cannot be written or opened.
    pub(crate) fn open(path: &Path) -> Result<Self, Problem> {
        let named = |e: StoreError| Problem::internal(format!("{}: {e}", path.display()));
        let mark = path.with_extension("filling");
        if mark.exists() && path.exists() {
            set_aside(path)?;
        }
        let store = Store::open(path).map_err(named)?;
        // Also a demo whose pieces were all removed is filled again.
        if store.pieces()?.is_empty() {
            std::fs::write(&mark, "").map_err(|e| Problem::internal(format!("{}: {e}", mark.display())))?;
        }
        let unfilled = demo::begin(&store)?.map(|rest| Unfilled { rest, mark });
        Ok(Self { store, unfilled })
    }
}

impl Unfilled {
    /// Fills in the rest on a thread of its own, which ends with the program.
    pub(crate) fn fill_in_background(self, studio: Studio) {
        let progress = studio.filling.clone();
        progress.set(Some(DemoFilling { share: 0.0, problem: None }));
        std::thread::spawn(move || {
            let tell = |share: f64| {
                progress.set(Some(DemoFilling { share, problem: None }));
                Ok(())
            };
            let stopped = on_all_cores_but_one(|| self.fill(&studio.store, 1, &tell)).err();
            if let Some(problem) = &stopped {
                tracing::error!(problem.detail, "the demo was not filled to its end");
            }
            progress.set(stopped.map(|p| DemoFilling { share: 0.0, problem: Some(p.detail) }));
        });
    }

    /// Fills in the rest before it returns, so many finished pieces at once.
    ///
    /// # Errors
    /// When the data file cannot be written, and what `goes_on` says.
    pub(crate) fn fill(&self, store: &Store, at_once: usize, goes_on: &demo::GoesOn) -> Result<(), Problem> {
        self.rest.fill(store, at_once, goes_on)?;
        std::fs::remove_file(&self.mark).map_err(|e| Problem::internal(format!("{}: {e}", self.mark.display())))
    }
}

/// Gives a data file and the logs beside it another name; the one that had that name before goes.
fn set_aside(path: &Path) -> Result<(), Problem> {
    let aside = path.with_extension("unfinished.db");
    for beside in ["", "-wal", "-shm"] {
        let named = |file: &Path| PathBuf::from(format!("{}{beside}", file.display()));
        let _ = std::fs::remove_file(named(&aside));
        if named(path).exists() {
            std::fs::rename(named(path), named(&aside)).map_err(|e| Problem::internal(format!("{}: {e}", path.display())))?;
        }
    }
    tracing::info!(kept = %aside.display(), "the demo was not filled to its end last time; it is filled anew");
    Ok(())
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_demo_whose_filling_was_interrupted_is_begun_anew_and_the_other_is_kept() {
        let folder = tempfile::tempdir().unwrap();
        let path = folder.path().join("demo.db");
        let first = DemoFile::open(&path).unwrap();
        assert_eq!(first.store.pieces().unwrap().len(), 1, "the first piece is there before the rest is filled in");
        let cancelled = |_| Err(Problem::cancelled());
        assert!(first.unfilled.as_ref().unwrap().fill(&first.store, 1, &cancelled).is_err());
        drop(first);

        let again = DemoFile::open(&path).unwrap();
        assert!(again.unfilled.is_some(), "half a demo is not taken for a whole one");
        assert!(folder.path().join("demo.unfinished.db").exists());
    }

    #[test]
    fn the_data_file_of_a_filled_demo_is_left_alone() {
        let folder = tempfile::tempdir().unwrap();
        let path = folder.path().join("demo.db");
        let mark = path.with_extension("filling");
        std::fs::write(&mark, "").unwrap();
        let begun = DemoFile::open(&path).unwrap();
        assert!(begun.unfilled.is_some(), "a mark without a data file hinders nothing");
        drop(begun);
        std::fs::remove_file(&mark).unwrap();
        let filled = DemoFile::open(&path).unwrap();
        assert!(filled.unfilled.is_none());
        let first = filled.store.pieces().unwrap()[0].id;
        filled.store.delete_piece(first).unwrap();
        drop(filled);
        let emptied = DemoFile::open(&path).unwrap();
        assert!(emptied.unfilled.is_some() && mark.exists(), "an emptied demo is filled again, and marked while it is");
    }
}
