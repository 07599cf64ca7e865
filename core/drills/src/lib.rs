//! Drills for the eye: short questions from the painter's own Box and pieces, with exact answers.
//!
//! **The nouns and how they meet.** A [`Drill`] is a kind of question. Out of [`Material`] (a Box, pieces with their zones) [`ask`] makes a [`DrillQuestion`]
//! of some size: how far apart what is to be told apart lies. [`judge`] compares an answer with the truth. A [`Threshold`] is what is known of an eye after
//! some answers: the size it just tells apart, and the doubt in that. [`next`] says which drill comes next: the one the eye is weakest in, if its time has come.
//! Everything follows from a seed; nothing here knows the clock.
//!
//! ```
//! use lean_drills::{Drill, Given, Material, Threshold, ask, judge};
//! use lean_media::Medium;
//! use lean_plan::paints::starter::starter;
//!
//! let paint_box = starter(Medium::SoftPastel, 12);
//! let material = Material { paint_box: &paint_box, pieces: &[] };
//! let question = ask(Drill::Warmer, &material, 6.0, 7).expect("a Box of twelve has two to compare");
//! let verdict = judge(Drill::Warmer, &material, 6.0, 7, &Given::Choice { at: 0 }).expect("an answer to this question");
//! assert_eq!(verdict.right, verdict.choice == Some(0));
//!
//! // Right answers to harder questions bring the threshold down.
//! let first = Threshold::before(Drill::Warmer).size();
//! assert!(Threshold::before(Drill::Warmer).after(question.size / 2.0, true).size() < first);
//! ```
#![deny(missing_docs)]

mod beside;
mod chance;
mod judge;
mod kinds;
mod questions;
mod schedule;
mod threshold;

pub use beside::eye_doubt;
pub use judge::{Given, Verdict, judge};
pub use kinds::Drill;
pub use questions::{DrillQuestion, Material, Patch, ask};
pub use schedule::{Answered, Standing, next, standing};
pub use threshold::Threshold;
