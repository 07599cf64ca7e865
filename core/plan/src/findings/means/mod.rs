//! What the set, the ground and the wall allow.

pub(super) mod range;
pub(super) mod reserves;
pub(super) mod set;
pub(super) mod wall;
