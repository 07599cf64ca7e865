//! Reference files, untouched, with the working copy zones and views are read from.

use crate::{Store, StoreError, now};
use rusqlite::{OptionalExtension, params};
use sha2::{Digest, Sha256};

impl Store {
    /// SHA-256 of a file in hexadecimal: its name in the data file.
    pub fn digest_of(bytes: &[u8]) -> String {
        Sha256::digest(bytes).iter().map(|b| format!("{b:02x}")).collect()
    }

    /// Keeps a reference under its digest; keeping the same file twice costs nothing.
    ///
    /// # Errors
    /// [`StoreError::Full`] when there is no room.
    pub fn put_picture(&self, original: &[u8], working: &[u8]) -> Result<String, StoreError> {
        let digest = Self::digest_of(original);
        self.lock().execute(
            "INSERT OR IGNORE INTO pictures (digest, original, working, added) VALUES (?1, ?2, ?3, ?4)",
            params![digest, original, working, now()],
        )?;
        Ok(digest)
    }

    /// The file as it was given.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    pub fn original(&self, digest: &str) -> Result<Vec<u8>, StoreError> {
        self.blob("original", digest)
    }

    /// The working copy as PNG.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    pub fn working(&self, digest: &str) -> Result<Vec<u8>, StoreError> {
        self.blob("working", digest)
    }

    fn blob(&self, column: &str, digest: &str) -> Result<Vec<u8>, StoreError> {
        let found =
            self.lock().query_row(&format!("SELECT {column} FROM pictures WHERE digest = ?1"), [digest], |r| r.get(0)).optional()?;
        found.ok_or_else(|| StoreError::NotFound("reference".into()))
    }
}
