//! Rules of light and shadow.

pub(super) mod contact;
pub(super) mod halftone;
pub(super) mod highlight;
pub(super) mod luminous;
pub(super) mod opposition;
pub(super) mod overlap;
pub(super) mod reflected;
pub(super) mod shadow_chroma;
