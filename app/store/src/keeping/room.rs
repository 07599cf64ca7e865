//! Room on the disk: nothing large is begun that would fill it.

use crate::StoreError;
use std::path::Path;

/// Bytes that stay free whatever is copied, so that changes can still be saved.
pub(crate) const RESERVE: u64 = 32 << 20;

/// A disk as large files are written to it.
#[derive(Clone, Copy, Debug, Default)]
pub struct Disk {
    /// Free bytes to go by instead of those of the real disk.
    free: Option<u64>,
}

impl Disk {
    /// A disk that has so many bytes free, to try out a full one.
    pub const fn with_free(bytes: u64) -> Self {
        Self { free: Some(bytes) }
    }

    /// Bytes free where a folder lies; `None` where that cannot be found out.
    fn free(self, folder: &Path) -> Option<u64> {
        let folder = if folder.as_os_str().is_empty() { Path::new(".") } else { folder };
        self.free.or_else(|| fs4::available_space(folder).ok())
    }

    /// Asks for twice `bytes` in a folder, besides the reserve. `what` is what is to be written there.
    ///
    /// # Errors
    /// [`StoreError::NoRoom`].
    pub fn has_room(self, folder: &Path, bytes: u64, what: &str) -> Result<(), StoreError> {
        self.leaves(folder, (2 * bytes).saturating_add(RESERVE), what)
    }

    /// Asks whether the reserve is still free while something is written.
    ///
    /// # Errors
    /// [`StoreError::NoRoom`].
    pub(crate) fn keeps_reserve(self, folder: &Path, what: &str) -> Result<(), StoreError> {
        self.leaves(folder, RESERVE, what)
    }

    fn leaves(self, folder: &Path, needed: u64, what: &str) -> Result<(), StoreError> {
        match self.free(folder) {
            Some(free) if free < needed => Err(StoreError::NoRoom {
                what: what.to_owned(),
                folder: folder.display().to_string(),
                needed: megabytes(needed),
                free: megabytes(free),
            }),
            _ => Ok(()),
        }
    }
}

/// Megabytes of a number of bytes, rounded up.
fn megabytes(bytes: u64) -> u64 {
    bytes.div_ceil(1 << 20)
}
