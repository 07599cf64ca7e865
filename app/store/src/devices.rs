//! Phones and tablets that were paired, known by the digest of what they carry.

use crate::sound::DEVICES;
use crate::{Store, StoreError, now};
use rusqlite::{OptionalExtension, TransactionBehavior, params};

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
        let mut rows = c.prepare_cached(&format!(
            "SELECT id, name, paired, seen FROM devices WHERE aside = 0 AND {} ORDER BY seen DESC, id DESC",
            DEVICES.is_sound()
        ))?;
        let device = |r: &rusqlite::Row| Ok(Device { id: r.get(0)?, name: r.get(1)?, paired: r.get(2)?, seen: r.get(3)? });
        Ok(rows.query_map([], device)?.collect::<Result<_, _>>()?)
    }

    /// Keeps a device; `carries` is the digest of its secret.
    ///
    /// # Errors
    /// When the file cannot be written.
    pub fn pair_device(&self, name: &str, carries: &str) -> Result<i64, StoreError> {
        let mut c = self.lock();
        let t = c.transaction_with_behavior(TransactionBehavior::Immediate)?;
        t.execute("INSERT INTO devices (name, carries, paired, seen) VALUES (?1, ?2, ?3, ?3)", params![name, carries, now()])?;
        let id = t.last_insert_rowid();
        DEVICES.seal(&t, "id = ?1", [id])?;
        t.commit()?;
        Ok(id)
    }

    /// Whether a device that carries this is paired. Notes the hour it was here.
    ///
    /// # Errors
    /// When the file cannot be read.
    pub fn knows_device(&self, carries: &str) -> Result<bool, StoreError> {
        let c = self.lock();
        let found: Option<(i64, String)> = c
            .prepare_cached(&format!("SELECT id, seen FROM devices WHERE carries = ?1 AND aside = 0 AND {}", DEVICES.is_sound()))?
            .query_row([carries], |r| Ok((r.get(0)?, r.get(1)?)))
            .optional()?;
        let Some((id, seen)) = found else { return Ok(false) };
        let now = now();
        if now.get(..13) != seen.get(..13) {
            let t = c.unchecked_transaction()?;
            t.execute("UPDATE devices SET seen = ?2 WHERE id = ?1", params![id, now])?;
            DEVICES.seal(&t, "id = ?1", [id])?;
            t.commit()?;
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
