//! Drills for the eye: short questions from the painter's own Box and pieces, with exact answers.
//!
//! **The nouns and how they meet.** A [`Drill`] is a kind of question. Out of [`Material`] (a Box, pieces with their zones) [`ask`] makes a [`DrillQuestion`]
//! of some size: how far apart what is to be told apart lies. [`judge`] compares an answer with the truth. A [`Threshold`] is what is known of an eye after
//! some answers: the size it just tells apart, and the doubt in that. [`next`] says which drill comes next: the one the eye is weakest in, if its time has come.
//! Everything follows from a seed; nothing here knows the clock.
#![deny(missing_docs)]

mod chance;
mod judge;
mod kinds;
mod questions;
mod schedule;
mod threshold;

pub use judge::{Given, Verdict, judge};
pub use kinds::Drill;
pub use questions::{DrillQuestion, Material, Patch, ask};
pub use schedule::{Answered, Standing, next, standing};
pub use threshold::Threshold;
