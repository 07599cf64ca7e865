//! The journal: an index over what is kept, made anew of whatever changed before it is asked.
//!
//! Nothing in it is the only copy of anything: taken away, it is made again of the pieces, readings and notes.

mod find;
mod index;
mod measures;

pub use find::{Choices, Found};

use crate::{PieceId, Store, StoreError};
use lean_journal::{JournalEntry, Search};
use lean_piece::paint_box::BoxId;
use rusqlite::{Connection, TransactionBehavior};

/// Where an entry was read from.
#[derive(Clone, Debug, PartialEq, Eq)]
pub enum Source {
    /// A piece.
    Piece(PieceId),
    /// A reading of a Box, by its number.
    Reading(BoxId, i64),
    /// A field note.
    Note(i64),
}

/// An entry as it lies in the journal.
#[derive(Clone, Debug, PartialEq)]
pub struct KeptEntry {
    /// Its number in the journal: it may change when its source does.
    pub id: i64,
    /// Where it was read from.
    pub source: Source,
    /// The entry.
    pub entry: JournalEntry,
}

impl Store {
    /// Entries that fit a search: those nearest in colour first where a colour is looked for, or else the newest first; `most` of them after the first
    /// `skipped`, and how many there are in all.
    ///
    /// # Errors
    /// When the file cannot be read or written.
    pub fn journal(&self, search: &Search, skipped: usize, most: usize) -> Result<Found, StoreError> {
        self.up_to_date(|c| find::find(c, search, skipped, most))
    }

    /// What there is to choose from in a search.
    ///
    /// # Errors
    /// As [`Store::journal`].
    pub fn journal_choices(&self) -> Result<Choices, StoreError> {
        self.up_to_date(find::choices)
    }

    /// Every entry of some kinds, the oldest first.
    ///
    /// # Errors
    /// As [`Store::journal`].
    pub fn journal_entries(&self, kinds: &[lean_journal::EntryKind]) -> Result<Vec<JournalEntry>, StoreError> {
        self.up_to_date(|c| find::all(c, kinds))
    }

    /// Brings the journal up to date where anything changed since it was asked last, and asks.
    fn up_to_date<T>(&self, ask: impl FnOnce(&Connection) -> Result<T, StoreError>) -> Result<T, StoreError> {
        let mut c = self.lock();
        let now = stand(&c)?;
        if *self.journal_stand() != Some(now) {
            let t = c.transaction_with_behavior(TransactionBehavior::Immediate)?;
            index::bring_up_to_date(&t, &self.recent)?;
            t.commit()?;
            let after = stand(&c)?;
            *self.journal_stand() = Some(after);
        }
        ask(&c)
    }
}

/// Changes made by this program so far, and by others: while both stand still, nothing changed.
pub type Stand = (u64, i64);

fn stand(c: &Connection) -> Result<Stand, StoreError> {
    Ok((c.total_changes(), c.query_row("PRAGMA data_version", [], |r| r.get(0))?))
}
