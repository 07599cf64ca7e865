//! Keeping what was made: backups, archives, and looking whether all of it is sound.

mod archive;
mod backup;
mod check;
mod file;

pub use archive::MEDIA_TYPE;
pub use backup::{Backups, KEPT};
pub use check::Checked;

pub(crate) use backup::kept_as_it_was;
pub(crate) use file::{guarded, ours, prepared_place, still_there};
