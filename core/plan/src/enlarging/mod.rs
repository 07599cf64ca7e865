//! Enlarging: a grid on photo and piece alike, and a tracing at true size over several pages.

mod grid;
mod tracing;

pub use grid::{Grid, fitting, gridded, printed};
pub use tracing::{TracedFrom, pages};
