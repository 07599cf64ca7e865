//! Where the eye goes.

pub mod eye;
pub mod focal;
