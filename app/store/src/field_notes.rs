//! Notes made in the field.

use crate::sound::FIELD_NOTES;
use crate::{Store, StoreError, now};
use lean_piece::KeptText;
use lean_plan::field_note::FieldNote;
use rusqlite::{OptionalExtension, TransactionBehavior, params};

/// Number of a field note in its data file.
pub type NoteId = i64;

/// A field note as it stands in the data file.
#[derive(Clone, Debug, PartialEq)]
pub struct KeptNote {
    /// Its number.
    pub id: NoteId,
    /// Counts every change: what a window last saw.
    pub revision: i64,
    /// The note.
    pub note: FieldNote,
    /// When it last changed, UTC.
    pub changed: String,
}

impl Store {
    /// All field notes, the newest first, but those whose record cannot be read ([`Store::damaged`]).
    ///
    /// # Errors
    /// When the file cannot be read.
    pub fn field_notes(&self) -> Result<Vec<KeptNote>, StoreError> {
        let c = self.lock();
        let sound = FIELD_NOTES.sound("body");
        let mut rows =
            c.prepare_cached(&format!("SELECT id, {sound}, changed, revision FROM field_notes WHERE aside = 0 ORDER BY id DESC"))?;
        let rows = rows.query_map([], |r| Ok((r.get(0)?, r.get(1)?, r.get(2)?, r.get(3)?)))?;
        let rows: Vec<(i64, Vec<u8>, String, i64)> = rows.collect::<Result<_, _>>()?;
        let read = |(id, body, changed, revision): (i64, Vec<u8>, String, i64)| {
            Some(KeptNote { id, revision, note: FieldNote::from_text(&body).ok()?, changed })
        };
        Ok(rows.into_iter().filter_map(read).collect())
    }

    /// One field note.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    pub fn field_note(&self, id: NoteId) -> Result<KeptNote, StoreError> {
        let found: Option<(Vec<u8>, String, i64)> = self
            .lock()
            .query_row(&format!("SELECT {}, changed, revision FROM field_notes WHERE id = ?1", FIELD_NOTES.sound("body")), [id], |r| {
                Ok((r.get(0)?, r.get(1)?, r.get(2)?))
            })
            .optional()?;
        let (body, changed, revision) = found.ok_or_else(|| StoreError::NotFound(format!("field note {id}")))?;
        Ok(KeptNote { id, revision, note: FieldNote::from_text(&body)?, changed })
    }

    /// Keeps a new note.
    ///
    /// # Errors
    /// When the file cannot be written.
    pub fn create_field_note(&self, note: &FieldNote) -> Result<NoteId, StoreError> {
        self.create_note_sent_as(note, None)
    }

    /// Keeps a new note that was written elsewhere under a name of its own: sent again, it is the note it was.
    ///
    /// # Errors
    /// When the file cannot be written.
    pub fn create_note_sent_as(&self, note: &FieldNote, sent_as: Option<&str>) -> Result<NoteId, StoreError> {
        let mut c = self.lock();
        let t = c.transaction_with_behavior(TransactionBehavior::Immediate)?;
        let there: Option<NoteId> = t.query_row("SELECT id FROM field_notes WHERE sent_as = ?1", [sent_as], |r| r.get(0)).optional()?;
        if let Some(id) = there {
            return Ok(id);
        }
        let body = note.to_text()?;
        t.execute("INSERT INTO field_notes (body, changed, sent_as) VALUES (?1, ?2, ?3)", params![body, now(), sent_as])?;
        let id = t.last_insert_rowid();
        FIELD_NOTES.seal(&t, "id = ?1", [id])?;
        t.commit()?;
        Ok(id)
    }

    /// Keeps a note as it is now. `base` is the revision it was written over.
    ///
    /// # Errors
    /// [`StoreError::Conflict`] when it was changed elsewhere since, [`StoreError::NotFound`], or when the file cannot be written.
    pub fn put_field_note(&self, id: NoteId, base: i64, note: &FieldNote) -> Result<(), StoreError> {
        let body = note.to_text()?;
        let written = self.lock().execute(
            "UPDATE field_notes SET body = ?3, changed = ?4, revision = ?2 + 1,
             sum = sealed('field_notes', id, ?3, ?4, ?2 + 1, aside, sent_as) WHERE id = ?1 AND revision = ?2",
            params![id, base, body, now()],
        )?;
        match written {
            0 => Err(StoreError::Conflict {
                record: "note",
                base,
                current: self.field_note(id)?.revision,
                what: "its words or marks".into(),
            }),
            _ => Ok(()),
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
