//! Moving a colour by one quality and leaving the others alone, as a painter asks for it.

use crate::lab::{D65, Lab};
use crate::real::{is_real, toward_real};
use crate::temperature::{Temperature, WARM_POLE};
use crate::value::Value;

/// The same hue and chroma at another value. Where no real surface has them together, the chroma gives way.
pub fn with_value(lab: Lab<D65>, value: Value) -> Lab<D65> {
    let v = Value(value.0.clamp(0.0, 10.0));
    toward_real(Lab::new(v.lightness().clamp(0.0, 100.0), lab.a, lab.b))
}

/// The same value and the same position across the warm–cool axis, moved along it to `wanted`; stops at the last real
/// colour on the way.
pub fn with_temperature(lab: Lab<D65>, wanted: Temperature) -> Lab<D65> {
    let start = toward_real(lab);
    let (sin, cos) = WARM_POLE.to_radians().sin_cos();
    let shift = wanted.warmer_than(Temperature::of(start));
    let at = |s: f64| Lab::new(start.l, start.a + s * shift * cos, start.b + s * shift * sin);
    if is_real(at(1.0).xyz()) {
        return at(1.0);
    }
    let (mut lo, mut hi) = (0.0, 1.0);
    for _ in 0..40 {
        let mid = 0.5 * (lo + hi);
        if is_real(at(mid).xyz()) { lo = mid } else { hi = mid }
    }
    at(lo)
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    fn real_colour() -> impl Strategy<Value = Lab<D65>> {
        (5.0..95.0f64, 0.0..60.0f64, 0.0..360.0f64).prop_map(|(l, c, h)| toward_real(Lab::from_lch(l, c, h)))
    }

    proptest! {
        #[test]
        fn a_value_move_lands_on_the_value(lab in real_colour(), v in 0.3..9.7f64) {
            let moved = with_value(lab, Value(v));
            prop_assert!((moved.value().0 - v).abs() < 1e-6);
            prop_assert!(moved.chroma() <= lab.chroma() + 1e-9);
        }

        #[test]
        fn a_temperature_move_keeps_value_and_the_other_axis(lab in real_colour(), t in -60.0..60.0f64) {
            let moved = with_temperature(lab, Temperature(t));
            let across = |c: Lab<D65>| { let (s, k) = WARM_POLE.to_radians().sin_cos(); -c.a * s + c.b * k };
            prop_assert!((moved.l - lab.l).abs() < 1e-12);
            prop_assert!((across(moved) - across(lab)).abs() < 1e-9);
            let (from, to) = (Temperature::of(lab).0, Temperature::of(moved).0);
            prop_assert!((to - from) * (t - from) >= -1e-9 && (to - from).abs() <= (t - from).abs() + 1e-9);
        }
    }
}
