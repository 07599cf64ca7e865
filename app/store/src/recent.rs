//! What was read of pieces already: a revision never changes, so it is parsed once.

use crate::{Line, PieceId};
use lean_piece::{KeptText, Piece};
use lru::LruCache;
use std::collections::HashMap;
use std::num::NonZeroUsize;
use std::sync::atomic::{AtomicU64, Ordering};
use std::sync::{Mutex, MutexGuard};

/// How many pieces are kept as they were read.
const WHOLE: NonZeroUsize = NonZeroUsize::new(8).expect("not zero");

/// Pieces read last, and of every piece read so far its line in the list; each with the revision it was read at.
pub(crate) struct Recent {
    pieces: Mutex<LruCache<PieceId, (i64, Piece)>>,
    lines: Mutex<HashMap<PieceId, (i64, Line)>>,
    parsed: AtomicU64,
}

impl Default for Recent {
    fn default() -> Self {
        Self { pieces: Mutex::new(LruCache::new(WHOLE)), lines: Mutex::default(), parsed: AtomicU64::new(0) }
    }
}

fn lock<T>(of: &Mutex<T>) -> MutexGuard<'_, T> {
    of.lock().unwrap_or_else(|poisoned| poisoned.into_inner())
}

impl Recent {
    /// The piece as it was at a revision, if it was read lately.
    pub(crate) fn piece(&self, id: PieceId, revision: i64) -> Option<Piece> {
        lock(&self.pieces).get(&id).filter(|(at, _)| *at == revision).map(|(_, piece)| piece.clone())
    }

    /// Forgets everything.
    pub(crate) fn forget(&self) {
        lock(&self.pieces).clear();
        lock(&self.lines).clear();
    }

    /// Remembers the line of what was read.
    pub(crate) fn remember_line(&self, id: PieceId, revision: i64, piece: &Piece) {
        lock(&self.lines).insert(id, (revision, Line::of(piece)));
    }

    /// Remembers what was read.
    pub(crate) fn remember(&self, id: PieceId, revision: i64, piece: &Piece) {
        self.remember_line(id, revision, piece);
        lock(&self.pieces).put(id, (revision, piece.clone()));
    }

    /// Its line in the list at a revision: known means that the record could be read.
    pub(crate) fn line(&self, id: PieceId, revision: i64) -> Option<Line> {
        lock(&self.lines).get(&id).filter(|(at, _)| *at == revision).map(|(_, line)| line.clone())
    }

    /// A piece out of its snapshot.
    pub(crate) fn parse(&self, snapshot: &[u8]) -> Result<Piece, serde_json::Error> {
        self.parsed.fetch_add(1, Ordering::Relaxed);
        Piece::from_text(snapshot)
    }

    /// How many snapshots were parsed so far.
    pub(crate) fn parsed(&self) -> u64 {
        self.parsed.load(Ordering::Relaxed)
    }
}
