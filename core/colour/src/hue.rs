//! Angles round the hue circle.

use serde::{Deserialize, Serialize};

/// A CIELAB hue angle h_ab in degrees; any number of turns, 0..360 where it was read from a colour. Meaningless for greys.
#[derive(Clone, Copy, Debug, PartialEq, PartialOrd, Serialize, Deserialize)]
#[serde(transparent)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct HueAngle(pub f64);

impl HueAngle {
    /// The angle so much further round, 0..360.
    pub fn turned(self, by: Self) -> Self {
        Self((self.0 + by.0).rem_euclid(360.0))
    }

    /// Degrees between two hues the short way round, 0..=180.
    pub fn apart(self, other: Self) -> f64 {
        ((self.0 - other.0 + 180.0).rem_euclid(360.0) - 180.0).abs()
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    #[test]
    fn the_short_way_is_taken_across_zero() {
        assert_eq!(HueAngle(350.0).apart(HueAngle(20.0)), 30.0);
        assert_eq!(HueAngle(350.0).turned(HueAngle(30.0)).0, 20.0);
    }

    proptest! {
        #[test]
        fn apart_is_the_same_both_ways_and_never_more_than_half_a_turn(a in -720.0..720.0f64, b in -720.0..720.0f64) {
            let (one, other) = (HueAngle(a), HueAngle(b));
            prop_assert!((one.apart(other) - other.apart(one)).abs() < 1e-9);
            prop_assert!((0.0..=180.0).contains(&one.apart(other)));
            prop_assert!(one.apart(one.turned(HueAngle(360.0))) < 1e-9);
        }
    }
}
