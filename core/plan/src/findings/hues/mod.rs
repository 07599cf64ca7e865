//! Rules of hue and chroma.

pub(super) mod darks;
pub(super) mod lone;
pub(super) mod one_hue;
pub(super) mod shares;
pub(super) mod shimmer;
pub(super) mod too_much;
pub(super) mod warranted;
pub(super) mod whites;
