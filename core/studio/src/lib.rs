//! The job: from a reference and a Box to small colour studies.
//!
//! **The three nouns and how they meet.** A [`Piece`](piece::Piece) is one planned work and changes only by
//! [`Command`](piece::Command)s; a [`PaintBox`](paint_box::PaintBox) is what the painter owns; and the lean search ([`lean_search`]) picks the few
//! pigments from the Box that meet the piece's zones. [`mixes`], [`studies`] and [`findings`] say what follows, and
//! [`outlook`](mod@outlook) gathers it for the bench.
#![deny(missing_docs)]

pub mod additions;
pub mod cautions;
pub mod chart;
pub mod compare;
pub mod field_note;
pub mod findings;
pub mod intent;
pub mod light;
pub mod mixes;
pub mod order_of_work;
pub mod outlook;
pub mod paint_box;
pub mod piece;
pub mod planned;
pub mod studies;
pub mod wall;
pub mod wishes;
pub mod wording;
pub mod zones;
