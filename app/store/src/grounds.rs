//! Grounds of one's own.

use crate::sound::GROUNDS;
use crate::{Store, StoreError, now};
use lean_piece::KeptText;
use lean_piece::own_ground::GroundRecord;
use rusqlite::{Connection, OptionalExtension, TransactionBehavior, params};

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

    /// Keeps a new ground.
    ///
    /// # Errors
    /// When the file cannot be written.
    pub fn create_ground(&self, record: &GroundRecord) -> Result<GroundNumber, StoreError> {
        self.put_ground(None, record, |_| Ok::<_, StoreError>(()))
    }

    /// Keeps a ground as it is now; `agrees` sees it as it was, and may refuse.
    ///
    /// # Errors
    /// [`StoreError::NotFound`], what `agrees` refuses, or when the file cannot be written.
    pub fn change_ground<E: From<StoreError>>(
        &self,
        number: GroundNumber,
        record: &GroundRecord,
        agrees: impl FnOnce(&GroundRecord) -> Result<(), E>,
    ) -> Result<(), E> {
        self.put_ground(Some(number), record, agrees).map(|_| ())
    }

    fn put_ground<E: From<StoreError>>(
        &self,
        number: Option<GroundNumber>,
        record: &GroundRecord,
        agrees: impl FnOnce(&GroundRecord) -> Result<(), E>,
    ) -> Result<GroundNumber, E> {
        let mut c = self.lock();
        let t = c.transaction_with_behavior(TransactionBehavior::Immediate).map_err(StoreError::from)?;
        if let Some(number) = number {
            agrees(&read(&t, number)?)?;
        }
        let number = written(&t, number, record)?;
        t.commit().map_err(StoreError::from)?;
        Ok(number)
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

fn read(c: &Connection, number: GroundNumber) -> Result<GroundRecord, StoreError> {
    let sql = format!("SELECT {} FROM grounds WHERE id = ?1", GROUNDS.sound("body"));
    let body: Option<Vec<u8>> = c.prepare_cached(&sql)?.query_row([number], |r| r.get(0)).optional()?;
    Ok(GroundRecord::from_text(&body.ok_or_else(|| StoreError::NotFound(format!("ground {number}")))?)?)
}

fn written(c: &Connection, number: Option<GroundNumber>, record: &GroundRecord) -> Result<GroundNumber, StoreError> {
    let body = record.to_text()?;
    // What was written is read back before it is acknowledged: a number that is none would close the record for good.
    GroundRecord::from_text(body.as_bytes())?;
    let number = match number {
        Some(n) => {
            c.execute("UPDATE grounds SET body = ?2, changed = ?3 WHERE id = ?1", params![n, body, now()])?;
            n
        }
        None => {
            c.execute("INSERT INTO grounds (body, changed) VALUES (?1, ?2)", params![body, now()])?;
            c.last_insert_rowid()
        }
    };
    GROUNDS.seal(c, "id = ?1", [number])?;
    Ok(number)
}
