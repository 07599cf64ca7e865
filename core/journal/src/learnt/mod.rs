//! What all entries together show that no one sees by hand.
//!
//! **The nouns and how they meet.** [`worth`](worth::worth) counts what each pigment of a Box did; a [`Habit`] is what is taken every time;
//! [`Measured`] is what a finished piece teaches of values and time; each becomes a [`Plot`] with its figures and a sentence that says no
//! more than they bear.

pub mod drift;
mod habits;
mod measured;
pub mod misses;
pub mod pace;
mod plot;
pub mod worth;

pub use habits::{Habit, habits};
pub use measured::{Came, Measured, measured};
pub use plot::{Plot, PlotMark};
