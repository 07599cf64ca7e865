//! Readings of swatches.

use crate::boxes::{read, write};
use crate::sound::READINGS;
use crate::{PieceId, Store, StoreError, now};
use lean_piece::KeptText;
use lean_piece::paint_box::{BoxId, PaintBox, SwatchReading};
use rusqlite::{Connection, OptionalExtension, TransactionBehavior, params};

/// Number of a reading in its data file.
pub type ReadingId = i64;

/// How often it is learned from readings while others may write.
const TRIED: usize = 20;

/// What becomes of the readings of a Box.
pub enum Readings {
    /// New ones are added.
    Add(Vec<SwatchReading>),
    /// One is changed: left out, remarked on.
    Change {
        /// Which.
        id: ReadingId,
        /// As it is now.
        to: Box<SwatchReading>,
        /// Sees it as it was, and says whether that is what whoever changes it saw.
        agrees: Box<dyn Fn(&SwatchReading) -> bool + Send>,
    },
    /// Some are left out of what is learned, and kept.
    LeaveOut(Vec<ReadingId>),
    /// One is taken away for good.
    Remove(ReadingId),
}

impl Store {
    /// The readings of a Box with their numbers, the first made first, but those whose record cannot be read.
    ///
    /// # Errors
    /// When the file cannot be read.
    pub fn readings(&self, id: &BoxId) -> Result<Vec<(ReadingId, SwatchReading)>, StoreError> {
        of_box(&self.lock(), id)
    }

    /// Boxes with readings that a simulated instrument made up and that are not left out, each with their numbers.
    ///
    /// # Errors
    /// When the file cannot be read.
    pub fn played_readings(&self) -> Result<Vec<(BoxId, Vec<ReadingId>)>, StoreError> {
        let c = self.lock();
        // The words only narrow it down; the reading itself decides.
        let mut rows = c.prepare_cached(&format!(
            "SELECT box, id, {} FROM readings WHERE aside = 0 AND (body LIKE '%\"meter\"%' OR body LIKE '%\"played\":true%') ORDER BY box, id",
            READINGS.sound("body")
        ))?;
        let rows = rows.query_map([], |r| Ok((r.get::<_, String>(0)?, (r.get::<_, i64>(1)?, r.get::<_, Vec<u8>>(2)?))))?;
        let mut found: Vec<(BoxId, Vec<ReadingId>)> = Vec::new();
        for row in rows {
            let (of, row) = row?;
            let Some((id, _)) = parsed(vec![row]).into_iter().find(|(_, r)| r.is_played() && !r.left_out) else { continue };
            match found.last_mut().filter(|(known, _)| known.0 == of) {
                Some((_, ids)) => ids.push(id),
                None => found.push((BoxId(of), vec![id])),
            }
        }
        Ok(found)
    }

    /// The readings that were trials for a piece, the first made first.
    ///
    /// # Errors
    /// When the file cannot be read.
    pub fn trials(&self, piece: PieceId) -> Result<Vec<(ReadingId, SwatchReading)>, StoreError> {
        let c = self.lock();
        let mut rows =
            c.prepare_cached(&format!("SELECT id, {} FROM readings WHERE piece = ?1 AND aside = 0 ORDER BY id", READINGS.sound("body")))?;
        let rows = rows.query_map([piece], |r| Ok((r.get::<_, i64>(0)?, r.get::<_, Vec<u8>>(1)?)))?;
        Ok(parsed(rows.collect::<Result<_, _>>()?))
    }

    /// Changes the readings of a Box and learns from all of them: the readings and the Box as `learn` makes it are kept together or not at all. Gives
    /// the Box as it was and as it is. Nobody waits while it learns; where something else was written of the Box meanwhile, it learns again.
    ///
    /// # Errors
    /// [`StoreError::Conflict`] where the Box was changed [`TRIED`] times meanwhile, [`StoreError::NotFound`], and what `learn` refuses.
    pub fn change_readings<E: From<StoreError>>(
        &self,
        id: &BoxId,
        change: Readings,
        learn: impl Fn(&PaintBox, &[(ReadingId, SwatchReading)]) -> Result<PaintBox, E>,
    ) -> Result<(PaintBox, PaintBox), E> {
        for _ in 0..TRIED {
            let would_be = self.readings_if(id, &change)?;
            let learned = learn(&would_be.0, &would_be.1)?;
            let mut c = self.lock();
            let t = c.transaction_with_behavior(TransactionBehavior::Immediate).map_err(StoreError::from)?;
            let is = done(&t, id, &change)?;
            if is == would_be {
                write(&t, id, &learned)?;
                t.commit().map_err(StoreError::from)?;
                return Ok((is.0, learned));
            }
        }
        Err(StoreError::Conflict { record: "Box", base: 0, current: 0, what: "its readings".into() }.into())
    }

    /// The Box and its readings as they would be after a change that is not kept.
    fn readings_if(&self, id: &BoxId, change: &Readings) -> Result<(PaintBox, Vec<(ReadingId, SwatchReading)>), StoreError> {
        let mut c = self.lock();
        let t = c.transaction_with_behavior(TransactionBehavior::Immediate)?;
        done(&t, id, change)
    }
}

fn done(c: &Connection, id: &BoxId, change: &Readings) -> Result<(PaintBox, Vec<(ReadingId, SwatchReading)>), StoreError> {
    let before = read(c, id)?;
    changed(c, id, change)?;
    Ok((before, of_box(c, id)?))
}

fn of_box(c: &Connection, id: &BoxId) -> Result<Vec<(ReadingId, SwatchReading)>, StoreError> {
    let mut rows =
        c.prepare_cached(&format!("SELECT id, {} FROM readings WHERE box = ?1 AND aside = 0 ORDER BY id", READINGS.sound("body")))?;
    let rows = rows.query_map([&id.0], |r| Ok((r.get::<_, i64>(0)?, r.get::<_, Vec<u8>>(1)?)))?;
    Ok(parsed(rows.collect::<Result<_, _>>()?))
}

fn parsed(rows: Vec<(ReadingId, Vec<u8>)>) -> Vec<(ReadingId, SwatchReading)> {
    rows.into_iter().filter_map(|(id, body)| Some((id, SwatchReading::from_text(&body).ok()?))).collect()
}

const CHANGE: &str = "UPDATE readings SET body = ?3, changed = ?4 WHERE id = ?1 AND box = ?2";

fn changed(c: &Connection, id: &BoxId, change: &Readings) -> Result<(), StoreError> {
    match change {
        Readings::Add(all) => {
            for r in all {
                let piece = r.tried_for.map(|t| t.piece);
                let known: Option<i64> = match piece {
                    Some(p) => c.query_row("SELECT id FROM pieces WHERE id = ?1", [p], |row| row.get(0)).optional()?,
                    None => None,
                };
                if let (Some(p), None) = (piece, known) {
                    return Err(StoreError::NotFound(format!("piece {p}")));
                }
                let body = body(r)?;
                c.execute("INSERT INTO readings (box, piece, body, changed) VALUES (?1, ?2, ?3, ?4)", params![id.0, piece, body, now()])?;
                READINGS.seal(c, "id = ?1", [c.last_insert_rowid()])?;
            }
            Ok(())
        }
        Readings::LeaveOut(all) => {
            for (nth, r) in of_box(c, id)?.into_iter().filter(|(nth, _)| all.contains(nth)) {
                let body = body(&SwatchReading { left_out: true, ..r })?;
                c.execute(CHANGE, params![nth, id.0, body, now()])?;
                READINGS.seal(c, "id = ?1", [nth])?;
            }
            Ok(())
        }
        Readings::Change { id: nth, to: r, agrees } => {
            let before = of_box(c, id)?.into_iter().find(|(n, _)| n == nth).map(|(_, r)| r);
            if !agrees(&before.ok_or_else(|| StoreError::NotFound(format!("reading {nth}")))?) {
                return Err(StoreError::Conflict { record: "reading", base: 0, current: 0, what: "left out, or remarked on".into() });
            }
            let body = body(r)?;
            there(c.execute(CHANGE, params![nth, id.0, body, now()])?, *nth)?;
            Ok(READINGS.seal(c, "id = ?1", [nth])?)
        }
        Readings::Remove(nth) => there(c.execute("DELETE FROM readings WHERE id = ?1 AND box = ?2", params![nth, id.0])?, *nth),
    }
}

fn there(rows: usize, nth: ReadingId) -> Result<(), StoreError> {
    if rows == 0 { Err(StoreError::NotFound(format!("reading {nth}"))) } else { Ok(()) }
}

/// What is written, read back before it is acknowledged: a number that is none would close the record for good.
fn body(r: &SwatchReading) -> Result<String, StoreError> {
    let body = r.to_text()?;
    SwatchReading::from_text(body.as_bytes())?;
    Ok(body)
}
