//! Grounds of one's own.

use crate::sound::GROUNDS;
use crate::{Store, StoreError, now};
use lean_piece::KeptText;
use lean_piece::own_ground::GroundRecord;
use rusqlite::{TransactionBehavior, params};

/// Number of a ground of one's own in its data file.
pub type GroundNumber = i64;

impl Store {
    /// All grounds of one's own, but those whose record cannot be read.
    ///
    /// # Errors
    /// When the file cannot be read.
    pub fn grounds(&self) -> Result<Vec<(GroundNumber, GroundRecord)>, StoreError> {
        let c = self.lock();
        let mut rows = c.prepare_cached(&format!("SELECT id, {} FROM grounds WHERE aside = 0 ORDER BY id", GROUNDS.sound("body")))?;
        let rows = rows.query_map([], |r| Ok((r.get::<_, i64>(0)?, r.get::<_, Vec<u8>>(1)?)))?;
        let rows: Vec<(i64, Vec<u8>)> = rows.collect::<Result<_, _>>()?;
        Ok(rows.into_iter().filter_map(|(id, body)| Some((id, GroundRecord::from_text(&body).ok()?))).collect())
    }

    /// Keeps a new ground, or one under its number as it is now.
    ///
    /// # Errors
    /// [`StoreError::NotFound`], or when the file cannot be written.
    pub fn put_ground(&self, number: Option<GroundNumber>, record: &GroundRecord) -> Result<GroundNumber, StoreError> {
        let body = record.to_text()?;
        GroundRecord::from_text(body.as_bytes())?;
        let mut c = self.lock();
        let t = c.transaction_with_behavior(TransactionBehavior::Immediate)?;
        let n = match number {
            None => {
                t.execute("INSERT INTO grounds (body, changed) VALUES (?1, ?2)", params![body, now()])?;
                t.last_insert_rowid()
            }
            Some(n) => match t.execute("UPDATE grounds SET body = ?2, changed = ?3 WHERE id = ?1", params![n, body, now()])? {
                0 => return Err(StoreError::NotFound(format!("ground {n}"))),
                _ => n,
            },
        };
        GROUNDS.seal(&t, "id = ?1", [n])?;
        t.commit()?;
        Ok(n)
    }

    /// Removes a ground. Pieces painted on it keep it.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    pub fn delete_ground(&self, number: GroundNumber) -> Result<(), StoreError> {
        match self.lock().execute("DELETE FROM grounds WHERE id = ?1", [number])? {
            0 => Err(StoreError::NotFound(format!("ground {number}"))),
            _ => Ok(()),
        }
    }
}
