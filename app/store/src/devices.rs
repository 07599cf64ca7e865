//! Phones and tablets that were paired, known by the digest of what they carry.

use crate::{Store, StoreError, now};
use rusqlite::{OptionalExtension, params};

/// A paired device.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Device {
    /// Its number.
    pub id: i64,
    /// What its owner called it.
    pub name: String,
    /// When it was paired, UTC.
    pub paired: String,
    /// When it was last here, UTC, to the hour.
    pub seen: String,
}

impl Store {
    /// All paired devices, the one seen last first.
    ///
    /// # Errors
    /// When the file cannot be read.
    pub fn devices(&self) -> Result<Vec<Device>, StoreError> {
        let c = self.lock();
        let mut rows = c.prepare_cached("SELECT id, name, paired, seen FROM devices ORDER BY seen DESC, id DESC")?;
        let device = |r: &rusqlite::Row| Ok(Device { id: r.get(0)?, name: r.get(1)?, paired: r.get(2)?, seen: r.get(3)? });
        Ok(rows.query_map([], device)?.collect::<Result<_, _>>()?)
    }

    /// Keeps a device; `carries` is the digest of its secret.
    ///
    /// # Errors
    /// When the file cannot be written.
    pub fn pair_device(&self, name: &str, carries: &str) -> Result<i64, StoreError> {
        let c = self.lock();
        c.execute("INSERT INTO devices (name, carries, paired, seen) VALUES (?1, ?2, ?3, ?3)", params![name, carries, now()])?;
        Ok(c.last_insert_rowid())
    }

    /// Whether a device that carries this is paired. Notes the hour it was here.
    ///
    /// # Errors
    /// When the file cannot be read.
    pub fn knows_device(&self, carries: &str) -> Result<bool, StoreError> {
        let c = self.lock();
        let found: Option<(i64, String)> = c
            .prepare_cached("SELECT id, seen FROM devices WHERE carries = ?1")?
            .query_row([carries], |r| Ok((r.get(0)?, r.get(1)?)))
            .optional()?;
        let Some((id, seen)) = found else { return Ok(false) };
        let now = now();
        if now.get(..13) != seen.get(..13) {
            c.execute("UPDATE devices SET seen = ?2 WHERE id = ?1", params![id, now])?;
        }
        Ok(true)
    }

    /// Sends a device away: what it carries opens nothing any more.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    pub fn send_device_away(&self, id: i64) -> Result<(), StoreError> {
        match self.lock().execute("DELETE FROM devices WHERE id = ?1", [id])? {
            0 => Err(StoreError::NotFound(format!("device {id}"))),
            _ => Ok(()),
        }
    }
}
