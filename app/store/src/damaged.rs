//! Records that cannot be read: told beside the sound ones, written out as they are, and put aside. None of them is ever changed or deleted
//! by the program itself.

use crate::{Store, StoreError};
use lean_piece::paint_box::PaintBox;
use lean_piece::{KeptText, Piece};
use lean_plan::field_note::FieldNote;
use rusqlite::{Connection, OptionalExtension, params};

/// Which kind of record.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Record {
    /// A piece.
    Piece,
    /// A Box.
    PaintBox,
    /// A field note.
    FieldNote,
}

/// A record that cannot be read.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Damaged {
    /// What it was.
    pub record: Record,
    /// Its number or id.
    pub id: String,
    /// Why it cannot be read.
    pub why: String,
}

impl Record {
    /// All kinds.
    pub const ALL: [Self; 3] = [Self::Piece, Self::PaintBox, Self::FieldNote];

    fn table(self) -> (&'static str, &'static str) {
        match self {
            Self::Piece => ("pieces", "snapshot"),
            Self::PaintBox => ("boxes", "body"),
            Self::FieldNote => ("field_notes", "body"),
        }
    }

    /// What its sum was made of besides its text.
    fn beside(self) -> &'static str {
        match self {
            Self::Piece => "revision, done, box, picture, changed",
            Self::PaintBox => "changed",
            Self::FieldNote => "revision, changed, sent_as",
        }
    }

    fn unreadable(self, body: &[u8]) -> Option<String> {
        fn tried<T: KeptText>(body: &[u8]) -> Option<String> {
            T::from_text(body).err().map(|e| e.to_string())
        }
        match self {
            Self::Piece => tried::<Piece>(body),
            Self::PaintBox => tried::<PaintBox>(body),
            Self::FieldNote => tried::<FieldNote>(body),
        }
    }
}

impl Store {
    /// Every record that cannot be read and was not put aside.
    ///
    /// # Errors
    /// When the file cannot be read at all.
    pub fn damaged(&self) -> Result<Vec<Damaged>, StoreError> {
        let c = self.lock();
        let mut found = Vec::new();
        for record in Record::ALL {
            let (table, column) = record.table();
            let ids = match record {
                Record::Piece => self.pieces_not_read(&c)?,
                _ => {
                    let mut rows = c.prepare_cached(&format!("SELECT CAST(id AS TEXT) FROM {table} WHERE aside = 0"))?;
                    rows.query_map([], |r| r.get(0))?.collect::<Result<_, _>>()?
                }
            };
            let mut body = c.prepare_cached(&format!("SELECT sound({column}, sum, {}) FROM {table} WHERE id = ?1", record.beside()))?;
            for id in ids {
                let body: Vec<u8> = body.query_row([&id], |r| r.get(0))?;
                found.extend(record.unreadable(&body).map(|why| Damaged { record, id, why }));
            }
        }
        Ok(found)
    }

    /// Pieces that were not read at the revision they have.
    fn pieces_not_read(&self, c: &Connection) -> Result<Vec<String>, StoreError> {
        let mut rows = c.prepare_cached("SELECT id, revision FROM pieces WHERE aside = 0")?;
        let rows: Vec<(i64, i64)> = rows.query_map([], |r| Ok((r.get(0)?, r.get(1)?)))?.collect::<Result<_, _>>()?;
        let unread = rows.into_iter().filter(|&(id, revision)| self.recent.line(id, revision).is_none());
        Ok(unread.map(|(id, _)| id.to_string()).collect())
    }

    /// A record byte for byte, to be kept elsewhere.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    pub fn raw(&self, record: Record, id: &str) -> Result<Vec<u8>, StoreError> {
        let (table, column) = record.table();
        let sql = format!("SELECT CAST({column} AS BLOB) FROM {table} WHERE id = ?1");
        let found = self.lock().query_row(&sql, [id], |r| r.get(0)).optional()?;
        found.ok_or_else(|| StoreError::NotFound(format!("record {id}")))
    }

    /// Puts a record that cannot be read aside: it stays in the file and is shown no more.
    ///
    /// # Errors
    /// [`StoreError::InUse`] while it can be read, [`StoreError::NotFound`].
    pub fn put_aside(&self, record: Record, id: &str) -> Result<(), StoreError> {
        let (table, column) = record.table();
        let sql = format!("SELECT sound({column}, sum, {}) FROM {table} WHERE id = ?1", record.beside());
        let found: Option<Vec<u8>> = self.lock().query_row(&sql, [id], |r| r.get(0)).optional()?;
        let body = found.ok_or_else(|| StoreError::NotFound(format!("record {id}")))?;
        if record.unreadable(&body).is_none() {
            return Err(StoreError::InUse("This record can be read: remove it where it is shown.".into()));
        }
        self.lock().execute(&format!("UPDATE {table} SET aside = 1 WHERE id = ?1"), params![id])?;
        Ok(())
    }
}
