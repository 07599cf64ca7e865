//! Boxes.

use crate::{Store, StoreError, now};
use lean_studio::paint_box::{BoxId, PaintBox};
use rusqlite::{OptionalExtension, params};

/// A Box as it stands in the data file.
#[derive(Clone, Debug, PartialEq)]
pub struct KeptBox {
    /// Its id.
    pub id: BoxId,
    /// What is in it.
    pub paint_box: PaintBox,
}

impl Store {
    /// All Boxes by name.
    ///
    /// # Errors
    /// When the file cannot be read.
    pub fn boxes(&self) -> Result<Vec<KeptBox>, StoreError> {
        let c = self.lock();
        let mut rows = c.prepare_cached("SELECT id, body FROM boxes")?;
        let rows = rows.query_map([], |r| Ok((r.get::<_, String>(0)?, r.get::<_, String>(1)?)))?;
        let mut found: Vec<KeptBox> = rows
            .map(|r| {
                let (id, body) = r?;
                Ok(KeptBox { id: BoxId(id), paint_box: serde_json::from_str(&body)? })
            })
            .collect::<Result<_, StoreError>>()?;
        found.sort_by(|a, b| a.paint_box.name.cmp(&b.paint_box.name));
        Ok(found)
    }

    /// One Box.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    pub fn paint_box(&self, id: &BoxId) -> Result<PaintBox, StoreError> {
        let body: Option<String> = self.lock().query_row("SELECT body FROM boxes WHERE id = ?1", [&id.0], |r| r.get(0)).optional()?;
        let body = body.ok_or_else(|| StoreError::NotFound(format!("Box \"{}\"", id.0)))?;
        Ok(serde_json::from_str(&body)?)
    }

    /// Keeps a Box, new or changed.
    ///
    /// # Errors
    /// When the file cannot be written.
    pub fn put_box(&self, id: &BoxId, paint_box: &PaintBox) -> Result<(), StoreError> {
        self.lock().execute(
            "INSERT INTO boxes (id, body, changed) VALUES (?1, ?2, ?3) ON CONFLICT (id) DO UPDATE SET body = ?2, changed = ?3",
            params![id.0, serde_json::to_string(paint_box)?, now()],
        )?;
        Ok(())
    }

    /// Removes a Box no piece draws on.
    ///
    /// # Errors
    /// [`StoreError::InUse`] or [`StoreError::NotFound`].
    pub fn delete_box(&self, id: &BoxId) -> Result<(), StoreError> {
        let c = self.lock();
        let users: i64 = c.query_row("SELECT count(*) FROM pieces WHERE box = ?1", [&id.0], |r| r.get(0))?;
        if users > 0 {
            return Err(StoreError::InUse(format!("{users} of your pieces draw on this Box. Give them another Box first.")));
        }
        match c.execute("DELETE FROM boxes WHERE id = ?1", [&id.0])? {
            0 => Err(StoreError::NotFound(format!("Box \"{}\"", id.0))),
            _ => Ok(()),
        }
    }

    /// An id no Box has yet, made from a name.
    ///
    /// # Errors
    /// When the file cannot be read.
    pub fn free_box_id(&self, name: &str) -> Result<BoxId, StoreError> {
        let words: Vec<String> =
            name.split(|c: char| !c.is_ascii_alphanumeric()).filter(|w| !w.is_empty()).map(str::to_ascii_lowercase).collect();
        let stem = if words.is_empty() { "box".to_owned() } else { words.join("-") };
        let taken: Vec<BoxId> = self.boxes()?.into_iter().map(|b| b.id).collect();
        let tries = std::iter::once(stem.clone()).chain((2..).map(|n| format!("{stem}-{n}"))).map(BoxId);
        Ok(tries.into_iter().find(|id| !taken.contains(id)).unwrap_or(BoxId(stem)))
    }
}
