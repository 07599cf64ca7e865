//! Making the journal anew of what changed.

use crate::recent::Recent;
use crate::sound::{FIELD_NOTES, PIECES, READINGS};
use crate::{StoreError, boxes};
use lean_journal::JournalEntry;
use lean_journal::entries::{Tried, of_note, of_piece, of_reading};
use lean_piece::paint_box::{BoxId, PaintBox, SwatchReading};
use lean_piece::{KeptText, Piece};
use lean_plan::field_note::FieldNote;
use rusqlite::{Connection, OptionalExtension, params};
use std::collections::HashMap;
use std::time::Instant;

/// Reads sources that changed since they were read last, until a moment, and forgets those that are gone. Gives how many pieces and readings are left;
/// one is read at least.
pub(crate) fn bring_up_to_date(c: &Connection, recent: &Recent, until: Instant) -> Result<usize, StoreError> {
    let mut known = Boxes::default();
    forget_gone(c)?;
    let pieces = changed_pieces(c)?;
    let late = || Instant::now() >= until;
    for (n, (id, revision, day)) in pieces.iter().enumerate() {
        let (id, revision) = (*id, *revision);
        if n > 0 && late() {
            return Ok(pieces.len() - n + changed_readings(c)?.len());
        }
        let Some(piece) = piece(c, recent, id, revision)? else {
            // A record that cannot be read has no entries, and is not read again until it changes.
            put(c, "piece", id, &revision.to_string(), &[])?;
            continue;
        };
        let paint_box = piece.paint_box.as_ref().and_then(|b| known.of(c, b));
        let entries = of_piece(&piece, paint_box, day);
        put(c, "piece", id, &revision.to_string(), &entries)?;
    }
    for note in changed_notes(c)? {
        let entries: Vec<JournalEntry> = FieldNote::from_text(&note.body).iter().map(|n| of_note(n, &note.day)).collect();
        put(c, "note", note.id, &note.seen, &entries)?;
    }
    let readings = changed_readings(c)?;
    for (n, r) in readings.iter().enumerate() {
        if n > 0 && late() {
            return Ok(readings.len() - n);
        }
        let entries: Vec<JournalEntry> = read(c, recent, &mut known, r)?.into_iter().collect();
        put(c, "reading", r.id, &r.seen, &entries)?;
    }
    Ok(0)
}

/// Boxes as they were read, each once.
#[derive(Default)]
struct Boxes(HashMap<BoxId, Option<PaintBox>>);

impl Boxes {
    fn of(&mut self, c: &Connection, id: &BoxId) -> Option<&PaintBox> {
        self.0.entry(id.clone()).or_insert_with(|| boxes::read(c, id).ok()).as_ref()
    }
}

/// A row that changed since it was read last.
struct Changed {
    id: i64,
    seen: String,
    day: String,
    body: Vec<u8>,
    paint_box: String,
    piece: Option<i64>,
}

fn changed_pieces(c: &Connection) -> Result<Vec<(i64, i64, String)>, StoreError> {
    let mut rows = c.prepare_cached(
        "SELECT p.id, p.revision, substr(p.changed, 1, 10) FROM pieces p
         LEFT JOIN journal_sources s ON s.source = 'piece' AND s.of = p.id
         WHERE p.aside = 0 AND (s.seen IS NULL OR s.seen <> CAST(p.revision AS TEXT)) ORDER BY p.id",
    )?;
    let rows = rows.query_map([], |r| Ok((r.get(0)?, r.get(1)?, r.get(2)?)))?;
    Ok(rows.collect::<Result<_, _>>()?)
}

fn changed_notes(c: &Connection) -> Result<Vec<Changed>, StoreError> {
    let notes = FIELD_NOTES.sound_as("body", "n");
    changed(
        c,
        &format!(
            "SELECT n.id, CAST(n.revision AS TEXT), substr(n.changed, 1, 10), {notes}, '', NULL FROM field_notes n
         LEFT JOIN journal_sources s ON s.source = 'note' AND s.of = n.id
         WHERE n.aside = 0 AND (s.seen IS NULL OR s.seen <> CAST(n.revision AS TEXT)) ORDER BY n.id"
        ),
    )
}

fn changed_readings(c: &Connection) -> Result<Vec<Changed>, StoreError> {
    let readings = READINGS.sound_as("body", "n");
    changed(
        c,
        &format!(
            "SELECT n.id, n.changed, substr(n.changed, 1, 10), {readings}, n.box, n.piece FROM readings n
         LEFT JOIN journal_sources s ON s.source = 'reading' AND s.of = n.id
         WHERE n.aside = 0 AND (s.seen IS NULL OR s.seen <> n.changed) ORDER BY n.id"
        ),
    )
}

fn changed(c: &Connection, sql: &str) -> Result<Vec<Changed>, StoreError> {
    let mut rows = c.prepare_cached(sql)?;
    let row = |r: &rusqlite::Row| {
        Ok(Changed { id: r.get(0)?, seen: r.get(1)?, day: r.get(2)?, body: r.get(3)?, paint_box: r.get(4)?, piece: r.get(5)? })
    };
    Ok(rows.query_map([], row)?.collect::<Result<_, _>>()?)
}

/// A piece; `None` where its record cannot be read.
fn piece(c: &Connection, recent: &Recent, id: i64, revision: i64) -> Result<Option<Piece>, StoreError> {
    if let Some(piece) = recent.piece(id, revision) {
        return Ok(Some(piece));
    }
    let body: Vec<u8> = c.query_row(&format!("SELECT {} FROM pieces WHERE id = ?1", PIECES.sound("snapshot")), [id], |r| r.get(0))?;
    Ok(recent.parse(&body).ok())
}

fn read(c: &Connection, recent: &Recent, known: &mut Boxes, row: &Changed) -> Result<Option<JournalEntry>, StoreError> {
    let Ok(reading) = SwatchReading::from_text(&row.body) else { return Ok(None) };
    let tried_for = match row.piece {
        None => None,
        Some(id) => {
            let revision: Option<i64> = c.query_row("SELECT revision FROM pieces WHERE id = ?1", [id], |r| r.get(0)).optional()?;
            match revision {
                Some(revision) => piece(c, recent, id, revision)?,
                None => None,
            }
        }
    };
    let attempt = attempt(c, row, &reading)?;
    let tried = tried_for.as_ref().map(|piece| Tried { piece, attempt });
    let Some(paint_box) = known.of(c, &BoxId(row.paint_box.clone())) else { return Ok(None) };
    Ok(Some(of_reading(&reading, row.id as u32, paint_box, tried.as_ref())))
}

/// Which try at the same place of the same piece a reading was, from 1.
fn attempt(c: &Connection, row: &Changed, reading: &SwatchReading) -> Result<u32, StoreError> {
    let (Some(piece), Some(tried)) = (row.piece, &reading.tried_for) else { return Ok(1) };
    let mut earlier =
        c.prepare_cached(&format!("SELECT {} FROM readings WHERE piece = ?1 AND id < ?2 AND aside = 0", READINGS.sound("body")))?;
    let bodies: Vec<Vec<u8>> = earlier.query_map([piece, row.id], |r| r.get(0))?.collect::<Result<_, _>>()?;
    let same = |body: &Vec<u8>| {
        SwatchReading::from_text(body).is_ok_and(|r| r.tried_for.is_some_and(|t| t.zone == tried.zone && t.cell == tried.cell))
    };
    Ok(bodies.iter().filter(|b| same(b)).count() as u32 + 1)
}

fn forget_gone(c: &Connection) -> Result<(), StoreError> {
    let mut gone = c.prepare_cached(
        "SELECT source, of FROM journal_sources s WHERE
           (source = 'piece' AND NOT EXISTS (SELECT 1 FROM pieces p WHERE p.id = s.of AND p.aside = 0)) OR
           (source = 'note' AND NOT EXISTS (SELECT 1 FROM field_notes n WHERE n.id = s.of AND n.aside = 0)) OR
           (source = 'reading' AND NOT EXISTS (SELECT 1 FROM readings r WHERE r.id = s.of))",
    )?;
    let gone: Vec<(String, i64)> = gone.query_map([], |r| Ok((r.get(0)?, r.get(1)?)))?.collect::<Result<_, _>>()?;
    for (source, of) in gone {
        forget(c, &source, of)?;
        c.prepare_cached("DELETE FROM journal_sources WHERE source = ?1 AND of = ?2")?.execute(params![source, of])?;
    }
    Ok(())
}

fn forget(c: &Connection, source: &str, of: i64) -> Result<(), StoreError> {
    for sql in [
        "DELETE FROM journal_words WHERE rowid IN (SELECT id FROM journal WHERE source = ?1 AND of = ?2)",
        "DELETE FROM journal_colours WHERE id IN (SELECT c.id FROM journal_colour_of c JOIN journal j ON j.id = c.entry WHERE j.source = ?1 AND j.of = ?2)",
        "DELETE FROM journal_colour_of WHERE entry IN (SELECT id FROM journal WHERE source = ?1 AND of = ?2)",
        "DELETE FROM journal_pigments WHERE entry IN (SELECT id FROM journal WHERE source = ?1 AND of = ?2)",
        "DELETE FROM journal WHERE source = ?1 AND of = ?2",
    ] {
        c.prepare_cached(sql)?.execute(params![source, of])?;
    }
    Ok(())
}

/// Puts the entries of a source in place of those there were.
fn put(c: &Connection, source: &str, of: i64, seen: &str, entries: &[JournalEntry]) -> Result<(), StoreError> {
    forget(c, source, of)?;
    for e in entries {
        put_one(c, source, of, e)?;
    }
    c.prepare_cached(
        "INSERT INTO journal_sources (source, of, seen) VALUES (?1, ?2, ?3) ON CONFLICT (source, of) DO UPDATE SET seen = ?3",
    )?
    .execute(params![source, of, seen])?;
    Ok(())
}

fn put_one(c: &Connection, source: &str, of: i64, e: &JournalEntry) -> Result<(), StoreError> {
    let month: Option<u8> = e.season_day().get(5..7).and_then(|m| m.parse().ok());
    let outcome = e.outcome.map(|o| serde_json::to_string(&o)).transpose()?;
    let medium = e.medium.map(|m| serde_json::to_string(&m)).transpose()?;
    let plain = |json: Option<String>| json.map(|j| j.trim_matches('"').to_owned());
    c.prepare_cached(
        "INSERT INTO journal (source, of, kind, number, day, month, hour, medium, ground, scheme, weather, light, subject, outcome, value, body)
         VALUES (?1, ?2, ?3, ?4, ?5, ?6, ?7, ?8, ?9, ?10, ?11, ?12, ?13, ?14, ?15, ?16)",
    )?
    .execute(params![
        source,
        of,
        e.kind.key(),
        e.number,
        e.on,
        month,
        e.occasion.hour(),
        plain(medium),
        e.ground,
        e.scheme,
        e.occasion.weather,
        e.occasion.light,
        e.occasion.subject,
        plain(outcome),
        e.value().map(|v| v.0),
        serde_json::to_string(e)?
    ])?;
    let id = c.last_insert_rowid();
    c.prepare_cached("INSERT INTO journal_words (rowid, words) VALUES (?1, ?2)")?.execute(params![id, e.text()])?;
    for p in &e.pigments {
        c.prepare_cached("INSERT OR IGNORE INTO journal_pigments (pigment, entry) VALUES (?1, ?2)")?.execute(params![p.pigment.0, id])?;
    }
    for colour in e.colours.iter().filter(|x| x.share >= lean_journal::LEAST_SHARE) {
        let lab = colour.lab;
        c.prepare_cached("INSERT INTO journal_colour_of (entry) VALUES (?1)")?.execute([id])?;
        let colour_id = c.last_insert_rowid();
        c.prepare_cached("INSERT INTO journal_colours (id, l0, l1, a0, a1, b0, b1, entry) VALUES (?1, ?2, ?2, ?3, ?3, ?4, ?4, ?5)")?
            .execute(params![colour_id, lab.l, lab.a, lab.b, id])?;
    }
    Ok(())
}
