//! The journal: found again, learnt from, lent and printed.

pub(crate) mod booklet;
pub(crate) mod find;
pub(crate) mod learnt;
pub(crate) mod lend;
