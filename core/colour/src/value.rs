//! The value ladder: 0 black to 10 white, one step apart as the eye counts steps.

use crate::lab::Lab;
use serde::{Deserialize, Serialize};

/// Munsell value, 0..=10 (ASTM D1535). Differences are in steps.
#[derive(Clone, Copy, Debug, PartialEq, PartialOrd, Serialize, Deserialize)]
#[serde(transparent)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Value(pub f64);

/// A difference of values, in steps of the ladder: above 0 lighter, below 0 darker.
#[derive(Clone, Copy, Debug, Default, PartialEq, PartialOrd, Serialize, Deserialize)]
#[serde(transparent)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Steps(pub f64);

impl Steps {
    /// How large it is, whichever way it goes.
    pub fn size(self) -> Self {
        Self(self.0.abs())
    }
}

/// Luminance factor Y (0..=102.57, perfect diffuser 100) of a value, by the quintic of ASTM D1535.
fn quintic(v: f64) -> f64 {
    v * (1.1914 + v * (-0.22533 + v * (0.23352 + v * (-0.020484 + v * 0.00081939))))
}

fn quintic_slope(v: f64) -> f64 {
    1.1914 + v * (-0.45066 + v * (0.70056 + v * (-0.081936 + v * 0.00409695)))
}

impl Value {
    /// Value of a luminance factor `y`, 0..=100 relative to the perfect diffuser; clamped to that range.
    ///
    /// ASTM D1535 inverted by Newton's method from `10·(Y/100)^(1/2.2)`.
    pub fn from_luminance(y: f64) -> Self {
        let y = y.clamp(0.0, 100.0);
        if y <= 0.0 {
            return Self(0.0);
        }
        let mut v = 10.0 * (y / 100.0).powf(1.0 / 2.2);
        for _ in 0..12 {
            let step = (quintic(v) - y) / quintic_slope(v);
            v -= step;
            if step.abs() < 1e-12 {
                break;
            }
        }
        Self(v.clamp(0.0, 10.0))
    }

    /// Steps of value for each unit of luminance factor here: the slope of the ladder.
    pub fn slope(self) -> f64 {
        1.0 / quintic_slope(self.0.clamp(0.0, 10.0))
    }

    /// Luminance factor Y of this value, 0..=100.
    pub fn luminance(self) -> f64 {
        quintic(self.0.clamp(0.0, 10.0)).clamp(0.0, 100.0)
    }

    /// CIELAB lightness L* of this value, 0..=100.
    pub fn lightness(self) -> f64 {
        let y = self.luminance();
        crate::lab::Xyz { x: 0.0, y, z: 0.0 }.lab().l
    }

    /// Steps from `other` up to this value; negative when this one is darker.
    pub fn steps_above(self, other: Self) -> f64 {
        self.0 - other.0
    }
}

impl Lab {
    /// Munsell value of this lightness.
    pub fn value(&self) -> Value {
        Value::from_luminance(self.xyz().y)
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    #[test]
    fn published_pairs_of_value_and_luminance() {
        for (v, y) in [(1.0, 1.17993), (3.0, 6.39118), (5.0, 19.27184), (7.0, 41.98539), (9.0, 76.69559)] {
            assert!((Value(v).luminance() - y).abs() < 5e-6, "V={v}");
        }
        for (y, v) in [(3.0, 1.98066), (18.42, 4.90152), (50.0, 7.53772), (90.0, 9.595563)] {
            assert!((Value::from_luminance(y).0 - v).abs() < 5e-6, "Y={y}");
        }
    }

    #[test]
    fn the_ends_are_clamped() {
        assert_eq!(Value::from_luminance(-3.0).0, 0.0);
        assert!(Value::from_luminance(140.0).0 <= 10.0);
    }

    proptest! {
        #[test]
        fn more_light_is_never_darker(a in 0.0..100.0f64, b in 0.0..100.0f64) {
            let (lo, hi) = if a < b { (a, b) } else { (b, a) };
            prop_assert!(Value::from_luminance(lo).0 <= Value::from_luminance(hi).0 + 1e-12);
        }

        #[test]
        fn value_and_lightness_agree(v in 0.05..9.9f64) {
            let l = Value(v).lightness();
            prop_assert!((crate::Lab::<crate::D65>::new(l, 0.0, 0.0).value().0 - v).abs() < 1e-6);
        }
    }
}
