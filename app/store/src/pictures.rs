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
            // One that was damaged is whole again.
            "INSERT INTO pictures (digest, original, working, added, sum) VALUES (?1, ?2, ?3, ?4, ?5)
             ON CONFLICT (digest) DO UPDATE SET original = ?2, working = ?3, sum = ?5
             WHERE digest_of(original) <> digest OR sum IS NOT digest_of(working)",
            params![digest, original, working, now(), Self::digest_of(working)],
        )?;
        Ok(digest)
    }

    /// The file as it was given.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    pub fn original(&self, digest: &str) -> Result<Vec<u8>, StoreError> {
        let bytes: Vec<u8> = self
            .lock()
            .query_row("SELECT original FROM pictures WHERE digest = ?1", [digest], |r| r.get(0))
            .optional()?
            .ok_or_else(gone)?;
        if Self::digest_of(&bytes) == digest { Ok(bytes) } else { Err(changed()) }
    }

    /// The working copy as PNG.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    pub fn working(&self, digest: &str) -> Result<Vec<u8>, StoreError> {
        let found: Option<(Vec<u8>, Option<String>)> = self
            .lock()
            .query_row("SELECT working, sum FROM pictures WHERE digest = ?1", [digest], |r| Ok((r.get(0)?, r.get(1)?)))
            .optional()?;
        let (bytes, sum) = found.ok_or_else(gone)?;
        if sum.is_some_and(|s| s == Self::digest_of(&bytes)) { Ok(bytes) } else { Err(changed()) }
    }
}

fn gone() -> StoreError {
    StoreError::NotFound("reference".into())
}

fn changed() -> StoreError {
    StoreError::Damaged("a picture is not what was kept".into())
}
