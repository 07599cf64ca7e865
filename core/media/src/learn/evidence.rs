//! What is known of one swatch.

use crate::layering::State;
use lean_colour::inferred::reflectance_of;
use lean_colour::{Lab, Reflectance};

/// What was read.
#[derive(Clone, Copy, Debug, PartialEq)]
#[allow(clippy::large_enum_variant, reason = "a reading is small and copied freely; boxing 36 numbers would cost more than it saves")]
pub enum Evidence {
    /// 36 bands by an instrument.
    Spectral(Reflectance),
    /// Only a colour under daylight.
    ColourOnly(Lab),
}

/// One reading of one swatch.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Reading {
    /// What was read.
    pub of: Evidence,
    /// Wet or dry when it was read.
    pub state: State,
    /// Its noise: one standard deviation as a share of light, such as 0.002.
    pub noise: f64,
}

impl Reading {
    /// The reflectance read, or one inferred from the colour (Burns 2020).
    pub fn reflectance(&self) -> Reflectance {
        match self.of {
            Evidence::Spectral(r) => r,
            Evidence::ColourOnly(lab) => reflectance_of(lab.xyz()).reflectance,
        }
    }
}
