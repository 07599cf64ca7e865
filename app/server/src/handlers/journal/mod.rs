//! The journal: found again, learnt from, lent and printed.

pub mod booklet;
pub mod find;
pub mod learnt;
pub mod lend;
