//! Rules of light and shadow.

pub mod contact;
pub mod halftone;
pub mod highlight;
pub mod luminous;
pub mod opposition;
pub mod overlap;
pub mod reflected;
pub mod shadow_chroma;
