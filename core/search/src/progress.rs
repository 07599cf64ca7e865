//! How long work tells where it is, and learns that nobody wants it any more.

/// Watches long work.
pub trait Progress: Sync {
    /// `share` of the work is done, 0..=1, never falling.
    fn report(&self, share: f64);
    /// Whether to stop as soon as possible.
    fn is_cancelled(&self) -> bool;
}

/// Watches nothing and never cancels.
pub struct Unwatched;

impl Progress for Unwatched {
    fn report(&self, _: f64) {}
    fn is_cancelled(&self) -> bool {
        false
    }
}

/// A part of a longer work: reports `from + share · span` to the whole.
pub struct Stage<'a> {
    /// The whole.
    pub whole: &'a dyn Progress,
    /// Share done before this part.
    pub from: f64,
    /// Share of the whole that this part is.
    pub span: f64,
}

impl Progress for Stage<'_> {
    fn report(&self, share: f64) {
        self.whole.report(self.from + share * self.span);
    }
    fn is_cancelled(&self) -> bool {
        self.whole.is_cancelled()
    }
}

/// A part too short to be reported; it can still be cancelled.
pub struct Unreported<'a>(pub &'a dyn Progress);

impl Progress for Unreported<'_> {
    fn report(&self, _: f64) {}
    fn is_cancelled(&self) -> bool {
        self.0.is_cancelled()
    }
}

/// The work was cancelled; nothing was changed.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Cancelled;
