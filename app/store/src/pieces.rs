//! Pieces, their commands, undo and redo.

use crate::sound::{BOXES, LOG, PIECES, READINGS};
use crate::{Store, StoreError, maps, now};
use lean_media::Medium;
use lean_picture::KeptMap;
use lean_piece::paint_box::BoxId;
use lean_piece::{Command, KeptText, Piece, Undo};
use rusqlite::{Connection, OptionalExtension, Transaction, TransactionBehavior, params};

/// Number of a piece in its data file.
pub type PieceId = i64;

/// A piece as it stands in the data file.
#[derive(Clone, Debug, PartialEq)]
pub struct Kept {
    /// Its number.
    pub id: PieceId,
    /// Counts every change, undo and redo: what a window last saw.
    pub revision: i64,
    /// The piece.
    pub piece: Piece,
    /// What undo would take back.
    pub undo: Option<String>,
    /// What redo would bring back.
    pub redo: Option<String>,
}

/// What the list of pieces tells of one.
#[derive(Clone, Debug, PartialEq)]
pub struct Line {
    /// Its title.
    pub title: String,
    /// Its medium.
    pub medium: Medium,
    /// Zones it has.
    pub zones: usize,
    /// Studies made.
    pub studies: usize,
    /// Whether it has a reference.
    pub has_reference: bool,
    /// The day it must be finished; `None` when there is no hurry.
    pub due: Option<String>,
    /// The day it came out, or was given up; `None` while it is worked on.
    pub ended: Option<String>,
}

impl Line {
    /// The line of a piece.
    pub fn of(piece: &Piece) -> Self {
        Self {
            title: piece.brief.title.clone(),
            medium: piece.brief.medium,
            zones: piece.zones.len(),
            studies: piece.studies.len(),
            has_reference: piece.reference.is_some(),
            due: piece.intent.due.clone(),
            ended: piece.easel.ending.as_ref().map(|e| e.on.clone()),
        }
    }
}

/// A piece in the list of pieces.
#[derive(Clone, Debug, PartialEq)]
pub struct Summary {
    /// Its number.
    pub id: PieceId,
    /// What is told of it.
    pub line: Line,
    /// When it last changed, UTC.
    pub changed: String,
}

impl Store {
    /// All pieces, the one changed last first, but those whose record cannot be read ([`Store::damaged`]).
    ///
    /// # Errors
    /// When the file cannot be read.
    pub fn pieces(&self) -> Result<Vec<Summary>, StoreError> {
        let c = self.lock();
        let mut rows = c.prepare_cached("SELECT id, revision, changed FROM pieces WHERE aside = 0 ORDER BY changed DESC, id DESC")?;
        let rows: Vec<(i64, i64, String)> = rows.query_map([], |r| Ok((r.get(0)?, r.get(1)?, r.get(2)?)))?.collect::<Result<_, _>>()?;
        let mut found = Vec::with_capacity(rows.len());
        for (id, revision, changed) in rows {
            let line = match self.recent.line(id, revision) {
                Some(line) => Some(line),
                // Maps stay named: a list of pieces draws none of them.
                None => self.recent.parse(&snapshot(&c, id)?).ok().map(|piece| {
                    self.recent.remember_line(id, revision, &piece);
                    Line::of(&piece)
                }),
            };
            found.extend(line.map(|line| Summary { id, line, changed }));
        }
        Ok(found)
    }

    /// The pieces that draw on a Box as their own, the first made first.
    ///
    /// # Errors
    /// When the file cannot be read.
    pub fn pieces_of_box(&self, id: &BoxId) -> Result<Vec<PieceId>, StoreError> {
        let c = self.lock();
        let mut rows = c.prepare_cached("SELECT id FROM pieces WHERE aside = 0 AND box = ?1 ORDER BY id")?;
        let found = rows.query_map([&id.0], |r| r.get(0))?.collect::<Result<_, _>>()?;
        Ok(found)
    }

    /// Keeps a new piece.
    ///
    /// # Errors
    /// When the file cannot be written.
    pub fn create_piece(&self, piece: &Piece) -> Result<Kept, StoreError> {
        let mut c = self.lock();
        let t = c.transaction_with_behavior(TransactionBehavior::Immediate)?;
        let maps: Vec<_> = piece.clone().maps_mut().map(|m| m.clone()).collect();
        maps::keep(&t, &maps)?;
        let written = piece.to_text()?;
        t.execute(
            "INSERT INTO pieces (revision, snapshot, done, box, picture, changed) VALUES (1, ?1, 0, ?2, ?3, ?4)",
            params![written, box_of(piece), picture_of(piece), now()],
        )?;
        let id = t.last_insert_rowid();
        PIECES.seal(&t, "id = ?1", [id])?;
        t.commit()?;
        self.maps.reached(&maps);
        self.read(&c, id)
    }

    /// A piece as it stands.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    pub fn piece(&self, id: PieceId) -> Result<Kept, StoreError> {
        self.read(&self.lock(), id)
    }

    /// A piece as it stands, for somebody who last saw it at a revision.
    ///
    /// # Errors
    /// [`StoreError::Conflict`] when it has moved on, [`StoreError::NotFound`].
    pub fn piece_at(&self, id: PieceId, base: i64) -> Result<Kept, StoreError> {
        let kept = self.piece(id)?;
        expect(&kept, Some(base))?;
        Ok(kept)
    }

    /// Removes a piece with its history. Pictures and Boxes stay.
    ///
    /// # Errors
    /// [`StoreError::NotFound`].
    pub fn delete_piece(&self, id: PieceId) -> Result<(), StoreError> {
        let mut c = self.lock();
        let t = c.transaction_with_behavior(TransactionBehavior::Immediate)?;
        let trials: Vec<i64> =
            t.prepare_cached("SELECT id FROM readings WHERE piece = ?1")?.query_map([id], |r| r.get(0))?.collect::<Result<_, _>>()?;
        if t.execute("DELETE FROM pieces WHERE id = ?1", [id])? == 0 {
            return Err(not_found(id));
        }
        for trial in trials {
            // Readings that were trials for it stay, for no piece.
            READINGS.seal(&t, "id = ?1", [trial])?;
        }
        Ok(t.commit()?)
    }

    /// Applies a command. See [`Store::change`].
    ///
    /// # Errors
    /// As [`Store::change`].
    pub fn apply(&self, id: PieceId, base: Option<i64>, command: Command) -> Result<Kept, StoreError> {
        self.change(id, base, |_| Ok(vec![command]))
    }

    /// Changes a piece: `commands` says how, looking at the piece as it stands inside the transaction, and all it says is one step of undo,
    /// told by what its last command does; the store is held meanwhile, so `commands` must not ask it anything. Snapshot and log entry are written in one transaction. What could be redone is gone after it.
    /// Without commands nothing is changed.
    ///
    /// `base` is the revision the change was meant for; `None` applies to whatever is newest (for results of long work, and for changes that
    /// add to what is there).
    ///
    /// # Errors
    /// [`StoreError::Conflict`] when the piece has moved on, [`StoreError::Refused`] by the rules of the piece, and what `commands` refuses.
    pub fn change<E: From<StoreError>>(
        &self,
        id: PieceId,
        base: Option<i64>,
        commands: impl FnOnce(&Piece) -> Result<Vec<Command>, E>,
    ) -> Result<Kept, E> {
        let mut c = self.lock();
        let t = c.transaction_with_behavior(TransactionBehavior::Immediate).map_err(StoreError::from)?;
        let kept = self.read(&t, id)?;
        expect(&kept, base)?;
        let commands = commands(&kept.piece)?;
        if commands.is_empty() {
            return Ok(kept);
        }
        let maps = self.carried_out(&t, &kept, commands)?;
        t.commit().map_err(StoreError::from)?;
        self.maps.reached(&maps);
        Ok(self.read(&c, id)?)
    }

    /// Writes the piece after some commands, and how to get back; the maps they carried.
    fn carried_out(&self, t: &Transaction, kept: &Kept, mut commands: Vec<Command>) -> Result<Vec<KeptMap>, StoreError> {
        let done = done(t, kept.id)?;
        let maps: Vec<KeptMap> = commands.iter_mut().flat_map(Command::maps_mut).map(|m| m.clone()).collect();
        maps::keep(t, &maps)?;
        let what: String = commands.last().map(Command::describe).unwrap_or_default().chars().take(MOST_TOLD).collect();
        let text = match &commands[..] {
            [only] => only.to_text()?,
            _ => commands.to_text()?,
        };
        let (next, undo) = kept.piece.apply_all(commands)?;
        t.execute("DELETE FROM log WHERE piece = ?1 AND seq >= ?2", params![kept.id, done])?;
        t.execute(
            "INSERT INTO log (piece, seq, command, undo, what, at, sum) VALUES (?1, ?2, ?3, ?4, ?5, ?6, sealed('log', ?1, ?2, ?3, ?4, ?5, ?6))",
            params![kept.id, done, text, undo.to_text()?, what, now()],
        )?;
        write(t, kept.id, &next, kept.revision + 1, done + 1)?;
        Ok(maps)
    }

    fn read(&self, c: &Connection, id: PieceId) -> Result<Kept, StoreError> {
        let (revision, undo, redo) = stands(c, id)?;
        if let Some(piece) = self.recent.piece(id, revision) {
            return Ok(Kept { id, revision, piece, undo, redo });
        }
        let mut piece = self.recent.parse(&snapshot(c, id)?)?;
        self.maps.fill(c, piece.maps_mut())?;
        self.recent.remember(id, revision, &piece);
        Ok(Kept { id, revision, piece, undo, redo })
    }

    /// Takes the last change back.
    ///
    /// # Errors
    /// [`StoreError::NoFurther`] when there is none, [`StoreError::Conflict`] when the piece has moved on.
    pub fn undo(&self, id: PieceId, base: i64) -> Result<Kept, StoreError> {
        self.step(id, base, "undo", -1, "undo")
    }

    /// Brings the change taken back last into force again.
    ///
    /// # Errors
    /// As [`Store::undo`].
    pub fn redo(&self, id: PieceId, base: i64) -> Result<Kept, StoreError> {
        self.step(id, base, "redo", 1, "command")
    }

    fn step(&self, id: PieceId, base: i64, name: &'static str, by: i64, column: &str) -> Result<Kept, StoreError> {
        let mut c = self.lock();
        let t = c.transaction_with_behavior(TransactionBehavior::Immediate)?;
        let kept = self.read(&t, id)?;
        expect(&kept, Some(base))?;
        let done = done(&t, id)?;
        let seq = if by < 0 { done - 1 } else { done };
        let logged = format!("SELECT {column}, {} FROM log WHERE piece = ?1 AND seq = ?2", LOG.is_sound());
        let found: Option<(String, bool)> = t.query_row(&logged, params![id, seq], |r| Ok((r.get(0)?, r.get(1)?))).optional()?;
        let (text, sound) = found.ok_or(StoreError::NoFurther(name))?;
        if !sound {
            return Err(StoreError::Damaged(format!("What {name} would go by is not what was written, so it is not done.")));
        }
        let mut next = if by < 0 { self.taken_back(&t, &kept.piece, &text)? } else { self.done_again(&t, &kept.piece, &text)? };
        self.maps.fill(&t, next.maps_mut())?;
        write(&t, id, &next, kept.revision + 1, done + by)?;
        t.commit()?;
        self.read(&c, id)
    }
}

impl Store {
    fn taken_back(&self, t: &Transaction, piece: &Piece, undo: &str) -> Result<Piece, StoreError> {
        let mut undo = Undo::from_text(undo.as_bytes())?;
        self.maps.fill(t, undo.maps_mut())?;
        piece.take_back(undo).map_err(StoreError::Damaged)
    }

    fn done_again(&self, t: &Transaction, piece: &Piece, commands: &str) -> Result<Piece, StoreError> {
        let text = commands.as_bytes();
        let mut commands = if commands.starts_with('[') { Vec::from_text(text)? } else { vec![Command::from_text(text)?] };
        self.maps.fill(t, commands.iter_mut().flat_map(Command::maps_mut))?;
        Ok(piece.apply_all(commands)?.0)
    }
}

/// Letters of a step that the log keeps.
const MOST_TOLD: usize = 200;

fn not_found(id: PieceId) -> StoreError {
    StoreError::NotFound(format!("piece {id}"))
}

fn expect(kept: &Kept, base: Option<i64>) -> Result<(), StoreError> {
    match base {
        Some(base) if base != kept.revision => Err(StoreError::Conflict {
            record: "piece",
            base,
            current: kept.revision,
            what: kept.undo.clone().unwrap_or_else(|| "an undo".into()),
        }),
        _ => Ok(()),
    }
}

fn done(c: &Connection, id: PieceId) -> Result<i64, StoreError> {
    Ok(c.query_row("SELECT done FROM pieces WHERE id = ?1", [id], |r| r.get(0))?)
}

/// The revision of a piece, what undo would take back and what redo would bring back.
fn stands(c: &Connection, id: PieceId) -> Result<(i64, Option<String>, Option<String>), StoreError> {
    let row = c
        .prepare_cached(
            "SELECT revision,
                (SELECT what FROM log WHERE piece = id AND seq = done - 1),
                (SELECT what FROM log WHERE piece = id AND seq = done)
             FROM pieces WHERE id = ?1",
        )?
        .query_row([id], |r| Ok((r.get(0)?, r.get(1)?, r.get(2)?)))
        .optional()?;
    row.ok_or_else(|| not_found(id))
}

fn snapshot(c: &Connection, id: PieceId) -> Result<Vec<u8>, StoreError> {
    Ok(c.prepare_cached(&format!("SELECT {} FROM pieces WHERE id = ?1", PIECES.sound("snapshot")))?.query_row([id], |r| r.get(0))?)
}

fn write(t: &Transaction, id: PieceId, piece: &Piece, revision: i64, done: i64) -> Result<(), StoreError> {
    let written = piece.to_text()?;
    t.execute(
        "UPDATE pieces SET revision = ?2, snapshot = ?3, done = ?4, box = ?5, picture = ?6, changed = ?7,
         sum = sealed('pieces', ?1, ?2, ?3, ?4, ?5, ?6, ?7, aside) WHERE id = ?1",
        params![id, revision, written, done, box_of(piece), picture_of(piece), now()],
    )?;
    // A Box that was removed comes back with the step that draws on it.
    let second = piece.together.as_ref().map(|t| t.paint_box.0.as_str());
    for back in [box_of(piece), second].into_iter().flatten() {
        if t.execute("UPDATE boxes SET aside = 0 WHERE aside = 1 AND id = ?1", [back])? > 0 {
            BOXES.seal(t, "id = ?1", [back])?;
        }
    }
    Ok(())
}

fn box_of(piece: &Piece) -> Option<&str> {
    piece.paint_box.as_ref().map(|b| b.0.as_str())
}

fn picture_of(piece: &Piece) -> Option<&str> {
    piece.reference.as_ref().map(|r| r.digest.as_str())
}
