//! Rules of hue and chroma.

pub mod darks;
pub mod lone;
pub mod one_hue;
pub mod shares;
pub mod shimmer;
pub mod too_much;
pub mod warranted;
pub mod whites;
