//! Answers given in drills.

use crate::sound::DRILLS;
use crate::{Store, StoreError, now};
use lean_drills::Answered;
use rusqlite::{TransactionBehavior, params};

/// Answers that are read back: years of practice.
const MOST_READ: i64 = 20_000;

impl Store {
    /// Keeps an answer.
    ///
    /// # Errors
    /// When the file cannot be written.
    pub fn keep_answer(&self, answer: &Answered) -> Result<(), StoreError> {
        let body = serde_json::to_string(answer)?;
        let mut c = self.lock();
        let t = c.transaction_with_behavior(TransactionBehavior::Immediate)?;
        t.execute("INSERT INTO drills (body, changed) VALUES (?1, ?2)", params![body, now()])?;
        DRILLS.seal(&t, "id = ?1", [t.last_insert_rowid()])?;
        Ok(t.commit()?)
    }

    /// All answers, the oldest first, but those whose record cannot be read.
    ///
    /// # Errors
    /// When the file cannot be read.
    pub fn answers(&self) -> Result<Vec<Answered>, StoreError> {
        let c = self.lock();
        let mut rows =
            c.prepare_cached(&format!("SELECT {} FROM drills WHERE aside = 0 ORDER BY id DESC LIMIT ?1", DRILLS.sound("body")))?;
        let rows: Vec<Vec<u8>> = rows.query_map([MOST_READ], |r| r.get(0))?.collect::<Result<_, _>>()?;
        Ok(rows.iter().rev().filter_map(|body| serde_json::from_slice(body).ok()).collect())
    }
}
