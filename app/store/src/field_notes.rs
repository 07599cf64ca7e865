//! Notes made in the field.

use crate::{Store, StoreError, now};
use lean_studio::field_note::FieldNote;
use rusqlite::{OptionalExtension, params};

/// Number of a field note in its data file.
pub type NoteId = i64;

/// A field note as it stands in the data file.
#[derive(Clone, Debug, PartialEq)]
pub struct KeptNote {
    /// Its number.
    pub id: NoteId,
    /// The note.
    pub note: FieldNote,
    /// When it last changed, UTC.
    pub changed: String,
}

impl Store {
    /// All field notes, the newest first.
    ///
    /// # Errors
    /// When the file cannot be read.
    pub fn field_notes(&self) -> Result<Vec<KeptNote>, StoreError> {
        let c = self.lock();
        let mut rows = c.prepare_cached("SELECT id, body, changed FROM field_notes ORDER BY id DESC")?;
        let rows = rows.query_map([], |r| Ok((r.get::<_, i64>(0)?, r.get::<_, String>(1)?, r.get::<_, String>(2)?)))?;
        rows.map(|r| {
            let (id, body, changed) = r?;
            Ok(KeptNote { id, note: serde_json::from_str(&body)?, changed })
        })
        .collect()
    }

    /// One field note.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    pub fn field_note(&self, id: NoteId) -> Result<KeptNote, StoreError> {
        let found: Option<(String, String)> = self
            .lock()
            .query_row("SELECT body, changed FROM field_notes WHERE id = ?1", [id], |r| Ok((r.get(0)?, r.get(1)?)))
            .optional()?;
        let (body, changed) = found.ok_or_else(|| StoreError::NotFound(format!("field note {id}")))?;
        Ok(KeptNote { id, note: serde_json::from_str(&body)?, changed })
    }

    /// Keeps a note: a new one, or the one with this number as it is now.
    ///
    /// # Errors
    /// [`StoreError::NotFound`], or when the file cannot be written.
    pub fn put_field_note(&self, id: Option<NoteId>, note: &FieldNote) -> Result<NoteId, StoreError> {
        let c = self.lock();
        let body = serde_json::to_string(note)?;
        match id {
            None => {
                c.execute("INSERT INTO field_notes (body, changed) VALUES (?1, ?2)", params![body, now()])?;
                Ok(c.last_insert_rowid())
            }
            Some(id) => match c.execute("UPDATE field_notes SET body = ?2, changed = ?3 WHERE id = ?1", params![id, body, now()])? {
                0 => Err(StoreError::NotFound(format!("field note {id}"))),
                _ => Ok(id),
            },
        }
    }

    /// Removes a note. Pieces made of it stay.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    pub fn delete_field_note(&self, id: NoteId) -> Result<(), StoreError> {
        match self.lock().execute("DELETE FROM field_notes WHERE id = ?1", [id])? {
            0 => Err(StoreError::NotFound(format!("field note {id}"))),
            _ => Ok(()),
        }
    }
}
