//! Looking whether everything is sound: pages, pictures, maps, records.

use crate::damaged::{Record, unreadable};
use crate::sound::{FIELD_NOTES, LOG, PIECES};
use crate::{Store, StoreError};
use lean_picture::KeptMap;
use lean_piece::{KeptText, Piece};
use lean_plan::field_note::FieldNote;
use rusqlite::Connection;
use serde::Serialize;

/// What was looked at, and what is not sound.
#[derive(Clone, Debug, Default, PartialEq, Eq, Serialize)]
pub struct Checked {
    /// Pieces, Boxes, notes, readings, grounds and answers that were read.
    pub records: usize,
    /// Pictures compared with their digest.
    pub pictures: usize,
    /// Maps of zones compared with theirs.
    pub maps: usize,
    /// What is wrong, in sentences; empty when all is sound.
    pub problems: Vec<String>,
}

impl Store {
    /// Reads every page, every picture, every map and every record. `progress` is told the share done, 0..=1.
    ///
    /// # Errors
    /// When the file cannot be read at all.
    pub fn check_all(&self, progress: &dyn Fn(f64)) -> Result<Checked, StoreError> {
        let mut checked = Checked::default();
        self.reading(|c| {
            pages(c, &mut checked)?;
            progress(0.3);
            pictures(c, &mut checked, &|share| progress(0.3 + 0.5 * share))?;
            maps(c, &mut checked)?;
            progress(0.85);
            steps(c, &mut checked)?;
            records(c, &mut checked)?;
            progress(0.9);
            named(c, &mut checked)
        })?;
        progress(1.0);
        Ok(checked)
    }
}

fn pages(c: &Connection, into: &mut Checked) -> Result<(), StoreError> {
    let mut rows = c.prepare("PRAGMA integrity_check(20)")?;
    let said: Vec<String> = rows.query_map([], |r| r.get(0))?.collect::<Result<_, _>>()?;
    into.problems.extend(said.into_iter().filter(|s| s != "ok").map(|s| format!("A page of the file is damaged: {s}.")));
    Ok(())
}

fn pictures(c: &Connection, into: &mut Checked, progress: &dyn Fn(f64)) -> Result<(), StoreError> {
    let all: i64 = c.query_row("SELECT count(*) FROM pictures", [], |r| r.get(0))?;
    let mut rows = c.prepare("SELECT digest, original, working, sum FROM pictures")?;
    let mut rows = rows.query([])?;
    while let Some(r) = rows.next()? {
        let digest: String = r.get(0)?;
        let (original, working, sum): (Vec<u8>, Vec<u8>, Option<String>) = (r.get(1)?, r.get(2)?, r.get(3)?);
        if Store::digest_of(&original) != digest {
            into.problems.push(format!("The picture {} is not what was taken in.", short(&digest)));
        }
        if sum.is_none_or(|s| s != Store::digest_of(&working)) {
            into.problems.push(format!("The working copy of the picture {} is not what was kept.", short(&digest)));
        }
        into.pictures += 1;
        progress(into.pictures as f64 / all.max(1) as f64);
    }
    Ok(())
}

fn short(digest: &str) -> &str {
    digest.get(..12).unwrap_or(digest)
}

fn maps(c: &Connection, into: &mut Checked) -> Result<(), StoreError> {
    let mut rows = c.prepare("SELECT digest, body FROM maps")?;
    let mut rows = rows.query([])?;
    while let Some(r) = rows.next()? {
        let (digest, body): (String, Vec<u8>) = (r.get(0)?, r.get(1)?);
        if !KeptMap::unpacked(&body).is_ok_and(|m| m.digest() == digest) {
            into.problems.push(format!("The map of zones {} does not say what it said.", short(&digest)));
        }
        into.maps += 1;
    }
    Ok(())
}

fn steps(c: &Connection, into: &mut Checked) -> Result<(), StoreError> {
    let mut rows = c.prepare(&format!("SELECT piece, seq FROM log WHERE NOT ({})", LOG.is_sound()))?;
    let mut rows = rows.query([])?;
    while let Some(r) = rows.next()? {
        let (piece, seq): (i64, i64) = (r.get(0)?, r.get(1)?);
        into.problems.push(format!("Step {} of the piece {piece} cannot be taken back: it is not what was written.", seq + 1));
    }
    Ok(())
}

fn records(c: &Connection, into: &mut Checked) -> Result<(), StoreError> {
    for record in Record::ALL {
        let found = unreadable(c, record, &|_, _| false)?;
        into.problems.extend(found.into_iter().map(|d| format!("The {} {} cannot be read: {}.", record.name(), d.id, d.why)));
        into.records += c.query_row(&format!("SELECT count(*) FROM {}", record.table()), [], |r| r.get::<_, i64>(0))? as usize;
    }
    Ok(())
}

/// What pieces and notes name, and what is not there: pictures, maps, steps.
fn named(c: &Connection, into: &mut Checked) -> Result<(), StoreError> {
    let there = |table: &str, digest: &str| c.prepare_cached(&format!("SELECT 1 FROM {table} WHERE digest = ?1"))?.exists([digest]);
    let sound = format!("SELECT id, done, {} FROM pieces WHERE aside = 0", PIECES.sound("snapshot"));
    let mut rows = c.prepare(&sound)?;
    let mut rows = rows.query([])?;
    while let Some(r) = rows.next()? {
        let (id, done, text): (i64, i64, Vec<u8>) = (r.get(0)?, r.get(1)?, r.get(2)?);
        let Ok(mut piece) = Piece::from_text(&text) else { continue };
        let title = format!("\"{}\" (piece {id})", piece.brief.title);
        for digest in piece.pictures() {
            if !there("pictures", digest)? {
                into.problems.push(format!("A picture of {title} is missing ({}): drop the file there again.", short(digest)));
            }
        }
        for map in piece.maps_mut() {
            if !there("maps", map.digest())? {
                into.problems.push(format!("A map of zones of {title} is missing ({}): the piece cannot be shown.", short(map.digest())));
            }
        }
        let steps: i64 =
            c.prepare_cached("SELECT count(*) FROM log WHERE piece = ?1 AND seq >= 0 AND seq < ?2")?.query_row([id, done], |r| r.get(0))?;
        if steps < done {
            into.problems.push(format!("Of the {done} steps of {title}, {} cannot be taken back.", done - steps));
        }
    }
    let mut rows = c.prepare(&format!("SELECT id, {} FROM field_notes WHERE aside = 0", FIELD_NOTES.sound("body")))?;
    let mut rows = rows.query([])?;
    while let Some(r) = rows.next()? {
        let (id, text): (i64, Vec<u8>) = (r.get(0)?, r.get(1)?);
        let photo = FieldNote::from_text(&text).ok().and_then(|n| n.photo);
        if let Some(digest) = photo.filter(|d| !there("pictures", d).unwrap_or(false)) {
            into.problems.push(format!("The photo of the field note {id} is missing ({}).", short(&digest)));
        }
    }
    Ok(())
}
