//! What was measured of finished pieces, kept because it takes a moment.

use crate::{PieceId, Store, StoreError};
use lean_journal::learnt::Measured;
use rusqlite::{OptionalExtension, params};

impl Store {
    /// Pieces that came out, or did not, each with what was measured of it at its present revision; `None` where that is still to be done.
    ///
    /// # Errors
    /// When the file cannot be read or written.
    pub fn measured_pieces(&self) -> Result<Vec<(PieceId, Option<Measured>)>, StoreError> {
        self.up_to_date(|c| {
            let mut rows = c.prepare_cached(
                "SELECT p.id, m.body FROM pieces p JOIN journal j ON j.source = 'piece' AND j.of = p.id AND j.kind = 'piece'
                 LEFT JOIN journal_measured m ON m.piece = p.id AND m.revision = p.revision ORDER BY p.id",
            )?;
            let rows: Vec<(i64, Option<String>)> = rows.query_map([], |r| Ok((r.get(0)?, r.get(1)?)))?.collect::<Result<_, _>>()?;
            Ok(rows.into_iter().map(|(id, body)| (id, body.and_then(|b| serde_json::from_str(&b).ok()))).collect())
        })
    }

    /// Keeps what was measured of a piece at a revision. A piece that is gone meanwhile is passed over.
    ///
    /// # Errors
    /// When the file cannot be written.
    pub fn keep_measured(&self, piece: PieceId, revision: i64, measured: &Measured) -> Result<(), StoreError> {
        let body = serde_json::to_string(measured)?;
        let c = self.lock();
        let there: Option<i64> = c.query_row("SELECT id FROM pieces WHERE id = ?1", [piece], |r| r.get(0)).optional()?;
        if there.is_some() {
            c.execute(
                "INSERT INTO journal_measured (piece, revision, body) VALUES (?1, ?2, ?3)
                 ON CONFLICT (piece) DO UPDATE SET revision = ?2, body = ?3",
                params![piece, revision, body],
            )?;
        }
        Ok(())
    }
}
