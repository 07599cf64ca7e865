//! Looking whether everything is sound: pages, pictures, maps, records.

use crate::{Store, StoreError};
use lean_picture::KeptMap;
use lean_piece::KeptText;
use lean_piece::paint_box::SwatchReading;
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
            readings_and_others(c, &mut checked)
        })?;
        let damaged = self.damaged()?;
        checked.problems.extend(damaged.into_iter().map(|d| format!("A record cannot be read ({:?} {}): {}.", d.record, d.id, d.why)));
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
        if sum.is_some_and(|s| s != Store::digest_of(&working)) {
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
    let mut rows = c.prepare(&format!("SELECT piece, seq FROM log WHERE sum IS NOT NULL AND sum <> {}", crate::pieces::LOGGED))?;
    let mut rows = rows.query([])?;
    while let Some(r) = rows.next()? {
        let (piece, seq): (i64, i64) = (r.get(0)?, r.get(1)?);
        into.problems.push(format!("Step {} of the piece {piece} cannot be taken back: it is not what was written.", seq + 1));
    }
    Ok(())
}

/// Records whose list leaves out what it cannot read, and how many records there are in all.
fn readings_and_others(c: &Connection, into: &mut Checked) -> Result<(), StoreError> {
    type Tried = fn(&[u8]) -> bool;
    let tables: [(&str, &str, &str, Tried); 3] = [
        ("readings", "box, changed", "reading", |b| SwatchReading::from_text(b).is_ok()),
        ("grounds", "changed", "ground of one's own", |b| serde_json::from_slice::<serde_json::Value>(b).is_ok()),
        ("drills", "changed", "answer of a drill", |b| serde_json::from_slice::<lean_drills::Answered>(b).is_ok()),
    ];
    for (table, beside, name, sound) in tables {
        let mut rows = c.prepare(&format!("SELECT id, sound(body, sum, {beside}) FROM {table}"))?;
        let mut rows = rows.query([])?;
        while let Some(r) = rows.next()? {
            let (id, body): (i64, Vec<u8>) = (r.get(0)?, r.get(1)?);
            if !sound(&body) {
                into.problems.push(format!("A {name} cannot be read (number {id})."));
            }
            into.records += 1;
        }
    }
    for table in ["pieces", "boxes", "field_notes"] {
        into.records += c.query_row(&format!("SELECT count(*) FROM {table}"), [], |r| r.get::<_, i64>(0))? as usize;
    }
    Ok(())
}
