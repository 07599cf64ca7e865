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
use std::time::{Duration, Instant};

/// Longest time the data file is held while the journal is read.
const A_WHILE: Duration = Duration::from_millis(100);

/// Longest time a search waits for the whole journal; after it, the entries read so far are the answer.
const PATIENT: Duration = Duration::from_secs(5);

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
        let until = Instant::now() + PATIENT;
        let mut left = self.index_a_while()?;
        while left > 0 && Instant::now() < until {
            left = self.index_a_while()?;
        }
        Ok(Found { left, ..find::find(&self.lock(), search, skipped, most)? })
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
        while self.index_a_while()? > 0 {}
        ask(&self.lock())
    }

    /// Reads for a moment what changed since the journal was asked last. Gives how much is left; nobody waits longer than for one such moment.
    ///
    /// # Errors
    /// When the file cannot be read or written.
    pub fn index_a_while(&self) -> Result<usize, StoreError> {
        let mut c = self.lock();
        if *self.journal_stand() == Some(stand(&c)?) {
            return Ok(0);
        }
        let t = c.transaction_with_behavior(TransactionBehavior::Immediate)?;
        let left = index::bring_up_to_date(&t, &self.recent, Instant::now() + A_WHILE)?;
        t.commit()?;
        if left == 0 {
            let after = stand(&c)?;
            *self.journal_stand() = Some(after);
        }
        Ok(left)
    }
}

/// Changes made by this program so far, and by others: while both stand still, nothing changed.
pub(crate) type Stand = (u64, i64);

fn stand(c: &Connection) -> Result<Stand, StoreError> {
    Ok((c.total_changes(), c.query_row("PRAGMA data_version", [], |r| r.get(0))?))
}

#[cfg(test)]
mod tests {
    use super::*;
    use lean_media::{GroundId, Medium};
    use lean_piece::{Brief, Millimetres, Piece, Size};

    #[test]
    fn it_is_read_a_while_at_a_time_and_says_what_is_left() {
        let store = Store::in_memory().unwrap();
        for n in 0..3 {
            let size = Size { width: Millimetres(200.0), height: Millimetres(150.0) };
            let brief = Brief { title: format!("Weir {n}"), medium: Medium::Oil, ground: GroundId("panel-white".into()), size };
            store.create_piece(&Piece::new(brief)).unwrap();
        }
        let left = |_| index::bring_up_to_date(&store.lock(), &store.recent, Instant::now()).unwrap();
        assert_eq!((0..4).map(left).collect::<Vec<_>>(), [2, 1, 0, 0]);
    }
}
