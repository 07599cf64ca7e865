//! Warm and cool as one signed number, meant for comparing.

use crate::lab::Lab;
use serde::{Deserialize, Serialize};

/// Position on the warm–cool axis in CIELAB units: positive warm, negative cool, 0 for a neutral.
///
/// `T = a*·cos 50° + b*·sin 50°`. The pole at 50° is that of Ou, Luo, Woodcock & Wright 2004. The scale is linear, so
/// a difference of two temperatures is the relative temperature of one beside the other; `T` alone is always *relative*
/// to a picture's own neutral or to a neighbour.
#[derive(Clone, Copy, Debug, PartialEq, PartialOrd, Serialize, Deserialize)]
#[serde(transparent)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Temperature(pub f64);

/// Hue angle of the warm pole in degrees (Ou et al. 2004).
pub const WARM_POLE: f64 = 50.0;

/// Below this difference two temperatures are called the same. Our choice, in CIELAB units.
pub const SAME: f64 = 3.0;

impl Temperature {
    /// Temperature of a colour, relative to the white it is seen under.
    pub fn of<W>(lab: Lab<W>) -> Self {
        let (sin, cos) = WARM_POLE.to_radians().sin_cos();
        Self(lab.a * cos + lab.b * sin)
    }

    /// How much warmer this is than `other`; negative when cooler.
    pub fn warmer_than(self, other: Self) -> f64 {
        self.0 - other.0
    }
}

impl Lab {
    /// Warm–cool position (see [`Temperature`]).
    pub fn temperature(&self) -> Temperature {
        Temperature::of(*self)
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::lab::D65;

    #[test]
    fn published_examples() {
        for (lab, t) in [
            ((57.61, 5.0, -45.86), -31.917),
            ((48.71, -18.21, -46.66), -47.451),
            ((83.94, -9.88, 90.13), 62.692),
            ((41.66, 56.8, 33.85), 62.444),
        ] {
            let lab = Lab::<D65>::new(lab.0, lab.1, lab.2);
            assert!((Temperature::of(lab).0 - t).abs() < 0.01, "{lab:?}");
        }
    }

    #[test]
    fn a_grey_is_neither_warm_nor_cool() {
        assert_eq!(Temperature::of(Lab::<D65>::new(40.0, 0.0, 0.0)).0, 0.0);
    }

    #[test]
    fn violet_and_green_are_where_warm_turns_cool() {
        for h in [140.0, 320.0] {
            assert!(Temperature::of(Lab::<D65>::from_lch(50.0, 40.0, h)).0.abs() < 1e-9);
        }
    }
}
