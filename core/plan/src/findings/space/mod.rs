//! Rules of planes, distance and water.

pub(super) mod distance;
pub(super) mod planes;
pub(super) mod water;
