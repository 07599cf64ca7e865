//! The journal: what was made and learnt, by itself, found again by what a painter remembers of it.
//!
//! **The nouns and how they meet.** An [`JournalEntry`] is one thing that happened: a study, a set, a trial, a session, a departure, a field note, a
//! piece that came out or did not. [`entries`] reads them out of pieces, readings and notes; nobody writes an entry by hand. A [`Search`] says
//! what is looked for, and [`learnt`] what all entries together show that no one sees by hand.
//!
//! ```
//! use lean_journal::{Season, Search};
//!
//! assert_eq!(Season::of("2025-01-14", false), Some(Season::Winter));
//! assert_eq!(Season::of("2025-01-14", true), Some(Season::Summer));
//! let search = Search { words: "weir poplars".into(), ..Search::default() };
//! assert_eq!(search.terms(), ["weir", "poplars"]);
//! ```
#![deny(missing_docs)]

pub mod entries;
mod entry;
pub mod learnt;
mod search;
mod season;

pub use entry::{EntryColour, EntryKind, JournalEntry, PigmentUse};
pub use search::{ALIKE, LEAST_SHARE, Search, VALUE_WITHIN, reach};
pub use season::{DayTime, Season};
