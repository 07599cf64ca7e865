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
    /// A colour judged by eye beside a known one.
    Judged(Judged),
}

/// A colour judged by eye: value and hue are judged with different errors.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Judged {
    /// The colour, under daylight.
    pub lab: Lab,
    /// Expected error of L*, one standard deviation in CIELAB units.
    pub value_error: f64,
    /// Expected error of a* and of b*, one standard deviation in CIELAB units.
    pub colour_error: f64,
}

/// One reading of one swatch.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Reading {
    /// What was read.
    pub of: Evidence,
    /// Wet or dry when it was read.
    pub state: State,
    /// Its noise: one standard deviation as a share of light, such as 0.002; not used where it was judged by eye.
    pub noise: f64,
}

impl Reading {
    /// The reflectance read, or one inferred from the colour (Burns 2020).
    pub fn reflectance(&self) -> Reflectance {
        match self.of {
            Evidence::Spectral(r) => r,
            Evidence::ColourOnly(lab) | Evidence::Judged(Judged { lab, .. }) => reflectance_of(lab.xyz()).reflectance,
        }
    }
}
