//! What the set, the ground and the wall allow.

pub mod range;
pub mod reserves;
pub mod set;
pub mod wall;
