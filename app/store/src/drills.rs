//! Answers given in drills.

use crate::{Store, StoreError, now};
use lean_drills::Answered;
use rusqlite::params;

/// Answers that are read back: years of practice.
const MOST_READ: i64 = 20_000;

impl Store {
    /// Keeps an answer.
    ///
    /// # Errors
    /// When the file cannot be written.
    pub fn keep_answer(&self, answer: &Answered) -> Result<(), StoreError> {
        let body = serde_json::to_string(answer)?;
        self.lock().execute("INSERT INTO drills (body, changed, sum) VALUES (?1, ?2, summed(?1, ?2))", params![body, now()])?;
        Ok(())
    }

    /// All answers, the oldest first, but those whose record cannot be read.
    ///
    /// # Errors
    /// When the file cannot be read.
    pub fn answers(&self) -> Result<Vec<Answered>, StoreError> {
        let c = self.lock();
        let mut rows = c.prepare_cached("SELECT sound(body, sum, changed) FROM drills ORDER BY id DESC LIMIT ?1")?;
        let rows: Vec<Vec<u8>> = rows.query_map([MOST_READ], |r| r.get(0))?.collect::<Result<_, _>>()?;
        Ok(rows.iter().rev().filter_map(|body| serde_json::from_slice(body).ok()).collect())
    }
}
