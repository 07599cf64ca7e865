//! Boxes.

use crate::sound::BOXES;
use crate::{Store, StoreError, now};
use lean_piece::KeptText;
use lean_piece::paint_box::{BoxId, PaintBox};
use rusqlite::{Connection, OptionalExtension, TransactionBehavior, params};

/// A Box as it stands in the data file.
#[derive(Clone, Debug, PartialEq)]
pub struct KeptBox {
    /// Its id.
    pub id: BoxId,
    /// What is in it.
    pub paint_box: PaintBox,
}

impl Store {
    /// All Boxes by name, but those whose record cannot be read ([`Store::damaged`]).
    ///
    /// # Errors
    /// When the file cannot be read.
    pub fn boxes(&self) -> Result<Vec<KeptBox>, StoreError> {
        let c = self.lock();
        let mut rows = c.prepare_cached(&format!("SELECT id, {} FROM boxes WHERE aside = 0", BOXES.sound("body")))?;
        let rows = rows.query_map([], |r| Ok((r.get::<_, String>(0)?, r.get::<_, Vec<u8>>(1)?)))?;
        let rows: Vec<(String, Vec<u8>)> = rows.collect::<Result<_, _>>()?;
        let read = |(id, body): (String, Vec<u8>)| Some(KeptBox { id: BoxId(id), paint_box: PaintBox::from_text(&body).ok()? });
        let mut found: Vec<KeptBox> = rows.into_iter().filter_map(read).collect();
        found.sort_by(|a, b| a.paint_box.name.cmp(&b.paint_box.name));
        Ok(found)
    }

    /// One Box.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    pub fn paint_box(&self, id: &BoxId) -> Result<PaintBox, StoreError> {
        read(&self.lock(), id)
    }

    /// Keeps a Box under an id, new or changed.
    ///
    /// # Errors
    /// When the file cannot be written.
    pub fn put_box(&self, id: &BoxId, paint_box: &PaintBox) -> Result<(), StoreError> {
        write(&self.lock(), id, paint_box)
    }

    /// Keeps a new Box under an id made from its name that no other has.
    ///
    /// # Errors
    /// When the file cannot be written.
    pub fn create_box(&self, paint_box: &PaintBox) -> Result<BoxId, StoreError> {
        let mut c = self.lock();
        let t = c.transaction_with_behavior(TransactionBehavior::Immediate)?;
        let id = free_id(&t, &paint_box.name)?;
        write(&t, &id, paint_box)?;
        t.commit()?;
        Ok(id)
    }

    /// Changes a Box as it stands inside one transaction, so that of two changes at once neither is lost.
    ///
    /// # Errors
    /// [`StoreError::NotFound`], and what `change` refuses.
    pub fn change_box<E: From<StoreError>>(&self, id: &BoxId, change: impl FnOnce(&mut PaintBox) -> Result<(), E>) -> Result<PaintBox, E> {
        let mut c = self.lock();
        let t = c.transaction_with_behavior(TransactionBehavior::Immediate).map_err(StoreError::from)?;
        let mut paint_box = read(&t, id)?;
        change(&mut paint_box)?;
        write(&t, id, &paint_box)?;
        t.commit().map_err(StoreError::from)?;
        Ok(paint_box)
    }

    /// Removes a Box no piece draws on. It is kept aside for steps of undo that did.
    ///
    /// # Errors
    /// [`StoreError::InUse`] or [`StoreError::NotFound`].
    pub fn delete_box(&self, id: &BoxId) -> Result<(), StoreError> {
        let mut c = self.lock();
        let t = c.transaction_with_behavior(TransactionBehavior::Immediate)?;
        // A record that cannot be read names no second Box.
        const USERS: &str = "SELECT count(*) FROM pieces WHERE box = ?1
            OR (json_valid(snapshot) AND json_extract(snapshot, '$.together.paint_box') = ?1)";
        let users: i64 = t.query_row(USERS, [&id.0], |r| r.get(0))?;
        if users > 0 {
            return Err(StoreError::InUse(format!("{users} of your pieces draw on this Box. Give them another Box first.")));
        }
        if t.execute("UPDATE boxes SET aside = 1 WHERE aside = 0 AND id = ?1", [&id.0])? == 0 {
            return Err(StoreError::NotFound(format!("Box \"{}\"", id.0)));
        }
        BOXES.seal(&t, "id = ?1", [&id.0])?;
        Ok(t.commit()?)
    }
}

pub(crate) fn read(c: &Connection, id: &BoxId) -> Result<PaintBox, StoreError> {
    let body: Option<Vec<u8>> =
        c.query_row(&format!("SELECT {} FROM boxes WHERE id = ?1", BOXES.sound("body")), [&id.0], |r| r.get(0)).optional()?;
    let body = body.ok_or_else(|| StoreError::NotFound(format!("Box \"{}\"", id.0)))?;
    Ok(PaintBox::from_text(&body)?)
}

pub(crate) fn write(c: &Connection, id: &BoxId, paint_box: &PaintBox) -> Result<(), StoreError> {
    let body = paint_box.to_text()?;
    // What was written is read back before it is acknowledged: a number that is none would close the Box for good.
    PaintBox::from_text(body.as_bytes())?;
    c.execute(
        "INSERT INTO boxes (id, body, changed, sum) VALUES (?1, ?2, ?3, sealed('boxes', ?1, ?2, ?3, 0))
         ON CONFLICT (id) DO UPDATE SET body = ?2, changed = ?3, sum = sealed('boxes', ?1, ?2, ?3, 0), aside = 0",
        params![id.0, body, now()],
    )?;
    Ok(())
}

/// An id no Box has yet, made from a name.
fn free_id(c: &Connection, name: &str) -> Result<BoxId, StoreError> {
    let words: Vec<String> =
        name.split(|c: char| !c.is_ascii_alphanumeric()).filter(|w| !w.is_empty()).map(str::to_ascii_lowercase).collect();
    let stem = if words.is_empty() { "box".to_owned() } else { words.join("-") };
    let mut tries = std::iter::once(stem.clone()).chain((2..).map(|n| format!("{stem}-{n}")));
    loop {
        let id = tries.next().unwrap_or_else(|| stem.clone());
        if !c.prepare_cached("SELECT 1 FROM boxes WHERE id = ?1")?.exists([&id])? {
            return Ok(BoxId(id));
        }
    }
}
