//! The job: from a reference and a Box to small colour studies.
//!
//! **The three nouns and how they meet.** A [`Piece`](piece::Piece) is one planned work and changes only by
//! [`Command`](piece::Command)s; a [`PaintBox`](paint_box::PaintBox) is what the painter owns; and the [`lean`] search picks the few
//! pigments from the Box that meet the piece's zones. [`mixes`], [`studies`] and [`findings`] say what follows.
#![deny(missing_docs)]

pub mod lean;
pub mod progress;
