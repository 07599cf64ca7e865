//! Records that cannot be read: told beside the sound ones, written out as they are, and put aside. None of them is ever changed or deleted
//! by the program itself.

use crate::sound::{self, SummedTable};
use crate::{Store, StoreError};
use lean_drills::Answered;
use lean_piece::own_ground::GroundRecord;
use lean_piece::paint_box::{PaintBox, SwatchReading};
use lean_piece::{KeptText, Piece};
use lean_plan::field_note::FieldNote;
use rusqlite::{Connection, OptionalExtension};

/// Which kind of record.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Record {
    /// A piece.
    Piece,
    /// A Box.
    PaintBox,
    /// A field note.
    FieldNote,
    /// A reading of a swatch.
    Reading,
    /// A ground of one's own.
    Ground,
    /// An answer given in a drill.
    Answer,
    /// A paired device.
    Device,
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
    pub const ALL: [Self; 7] = [Self::Piece, Self::PaintBox, Self::FieldNote, Self::Reading, Self::Ground, Self::Answer, Self::Device];

    /// What a painter calls it.
    pub fn name(self) -> &'static str {
        match self {
            Self::Piece => "piece",
            Self::PaintBox => "Box",
            Self::FieldNote => "field note",
            Self::Reading => "reading",
            Self::Ground => "ground",
            Self::Answer => "answer of a drill",
            Self::Device => "paired device",
        }
    }

    /// The table it is kept in.
    pub(crate) fn table(self) -> &'static str {
        self.sealed().table
    }

    fn sealed(self) -> SummedTable {
        match self {
            Self::Piece => sound::PIECES,
            Self::PaintBox => sound::BOXES,
            Self::FieldNote => sound::FIELD_NOTES,
            Self::Reading => sound::READINGS,
            Self::Ground => sound::GROUNDS,
            Self::Answer => sound::DRILLS,
            Self::Device => sound::DEVICES,
        }
    }

    /// The column that holds what it says.
    fn text(self) -> &'static str {
        match self {
            Self::Piece => "snapshot",
            Self::Device => "name",
            _ => "body",
        }
    }

    /// Why it cannot be read; `None` where it can. `sound` is its text, or nothing where the row is not what was written.
    fn unreadable(self, sound: &[u8]) -> Option<String> {
        fn tried<T: KeptText>(text: &[u8]) -> Option<String> {
            T::from_text(text).err().map(|e| e.to_string())
        }
        if sound.is_empty() {
            return Some("it is not what was written".into());
        }
        match self {
            Self::Piece => tried::<Piece>(sound),
            Self::PaintBox => tried::<PaintBox>(sound),
            Self::FieldNote => tried::<FieldNote>(sound),
            Self::Reading => tried::<SwatchReading>(sound),
            Self::Ground => tried::<GroundRecord>(sound),
            Self::Answer => serde_json::from_slice::<Answered>(sound).err().map(|e| e.to_string()),
            Self::Device => None,
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
            let known =
                |id: &str, revision: i64| record == Record::Piece && id.parse().is_ok_and(|id| self.recent.line(id, revision).is_some());
            found.extend(unreadable(&c, record, &known)?);
        }
        Ok(found)
    }

    /// A record byte for byte, to be kept elsewhere.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    pub fn raw(&self, record: Record, id: &str) -> Result<Vec<u8>, StoreError> {
        let (table, column) = (record.sealed().table, record.text());
        let sql = format!("SELECT CAST({column} AS BLOB) FROM {table} WHERE id = ?1");
        let found = self.lock().query_row(&sql, [id], |r| r.get(0)).optional()?;
        found.ok_or_else(|| StoreError::NotFound(format!("record {id}")))
    }

    /// Puts a record that cannot be read aside: it stays in the file and is shown no more.
    ///
    /// # Errors
    /// [`StoreError::InUse`] while it can be read, [`StoreError::NotFound`].
    pub fn put_aside(&self, record: Record, id: &str) -> Result<(), StoreError> {
        let sealed = record.sealed();
        let c = self.lock();
        let t = c.unchecked_transaction()?;
        let sql = format!("SELECT {} FROM {} WHERE id = ?1", sealed.sound(record.text()), sealed.table);
        let found: Option<Vec<u8>> = t.query_row(&sql, [id], |r| r.get(0)).optional()?;
        let text = found.ok_or_else(|| StoreError::NotFound(format!("record {id}")))?;
        if record.unreadable(&text).is_none() {
            return Err(StoreError::InUse("This record can be read: remove it where it is shown.".into()));
        }
        t.execute(&format!("UPDATE {} SET aside = 1 WHERE id = ?1", sealed.table), [id])?;
        // Its sum says from now on that somebody put it aside.
        sealed.seal(&t, "id = ?1", [id])?;
        Ok(t.commit()?)
    }
}

/// Records of a kind that cannot be read, but those that were put aside; `known` says by id and revision which were read already. A record that says
/// it was put aside, and is not what was written, says so by damage.
pub(crate) fn unreadable(c: &Connection, record: Record, known: &dyn Fn(&str, i64) -> bool) -> Result<Vec<Damaged>, StoreError> {
    let sealed = record.sealed();
    let revision = if record == Record::Piece { "revision" } else { "0" };
    let mut rows = c.prepare_cached(&format!("SELECT CAST(id AS TEXT), {revision}, aside FROM {}", sealed.table))?;
    let rows: Vec<(String, i64, bool)> = rows.query_map([], |r| Ok((r.get(0)?, r.get(1)?, r.get(2)?)))?.collect::<Result<_, _>>()?;
    let text = format!("SELECT {} FROM {} WHERE id = ?1", sealed.sound(record.text()), sealed.table);
    let mut text = c.prepare_cached(&text)?;
    let mut found = Vec::new();
    for (id, revision, aside) in rows {
        if !aside && known(&id, revision) {
            continue;
        }
        let sound: Vec<u8> = text.query_row([&id], |r| r.get(0))?;
        let why = if aside && !sound.is_empty() { None } else { record.unreadable(&sound) };
        found.extend(why.map(|why| Damaged { record, id, why }));
    }
    Ok(found)
}
