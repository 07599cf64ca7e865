//! Keeping what was made: backups, archives, and looking whether all of it is sound.

mod archive;
mod backup;
mod check;
mod file;
pub(crate) mod intake;
mod meaning;
mod restore;
mod room;
pub(crate) mod unfinished_file;

pub use archive::MEDIA_TYPE;
pub use backup::{Backups, KEPT, OlderShape};
pub use check::Checked;
pub use room::Disk;
pub use unfinished_file::UnfinishedFile;

pub(crate) use backup::kept_as_it_was;
pub(crate) use file::{guarded, is_marked, ours, prepared_place, still_there};
pub(crate) use restore::kept_damaged;

/// Removes what was left half made of a data file and of its backups when the program was killed.
pub(crate) fn clear_away(data: &std::path::Path) {
    let stem = data.file_name().unwrap_or_default().to_string_lossy();
    unfinished_file::clear_away(unfinished_file::folder_of(data), &format!("{stem}."));
    Backups::of(data).clear_away();
}
