//! All that follows from a piece and decides nothing.
//!
//! **The nouns and how they meet.** A [`Piece`](lean_piece::Piece) is data. A painter's [`Request`](requests::Request) becomes its commands in
//! [`carry_out`]; [`zones`] turns pixels into the facts a command carries; [`light`] into targets; the lean search ([`lean_search`]) picks the
//! few pigments from the Box that meet them. [`mixes`], [`studies`], [`order_of_work`] and [`findings`] say what follows, and
//! [`derived`](mod@derived) gathers it for the bench.
//!
//! ```
//! use lean_plan::paints::{listed, starter::starter};
//! use lean_plan::wording;
//!
//! // A Box typed as a list, and one to begin with.
//! let read = listed::read("PB29, burnt sienna, moonshine")?;
//! assert_eq!(read.iter().filter(|e| e.pigment.is_some()).count(), 2);
//! assert_eq!(starter(lean_media::Medium::Watercolour, 6).pigments.len(), 6);
//!
//! // What is said of a miss: half a step.
//! let said = wording::value_off(lean_colour::Steps(0.5));
//! assert_eq!(said.as_deref(), Some("half a step too light"));
//! # Ok::<(), String>(())
//! ```
#![deny(missing_docs)]

pub mod additions;
pub mod basis;
pub mod carry_out;
pub mod cautions;
pub mod chart;
mod colouring;
pub mod compare;
pub mod departures;
pub mod derived;
pub mod drawing;
pub mod enlarging;
pub mod field_note;
pub mod findings;
mod fit;
pub mod form;
mod grounds;
pub mod lamps;
pub mod light;
pub mod mark;
pub mod matching;
pub mod mixes;
mod next;
mod order_of_work;
pub mod paints;
pub mod paper;
pub mod planned;
pub mod progress;
pub mod requests;
pub mod shared;
#[cfg(test)]
mod staged;
pub mod stages;
pub mod studies;
pub mod surfaces;
mod travels;
pub mod wall;
pub mod wheel;
pub mod wording;
pub mod zones;
