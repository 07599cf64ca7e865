//! Rules of planes, distance and water.

pub mod distance;
pub mod planes;
pub mod water;
