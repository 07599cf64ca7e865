//! Dense linear algebra of a few hundred unknowns at most: solving, and the inverse of what is symmetric and positive definite.
//!
//! **The nouns and how they meet.** A [`Matrix`] is a table of numbers; a [`Cholesky`] is its square root, which solves and inverts it;
//! [`solve()`] answers a system whose size is known when the program is built.
#![deny(missing_docs)]

mod cholesky;
mod matrix;
mod solve;

pub use cholesky::Cholesky;
pub use matrix::{Matrix, dot};
pub use solve::solve;
