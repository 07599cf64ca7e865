//! Which colours a real surface can have under daylight.
//!
//! The set of tristimulus values of all reflectances 0..=1 is the zonotope spanned by the 36 weight rows (the object
//! colour solid of Schrödinger 1920 and MacAdam 1935, in our bands). Every facet of a zonotope is normal to the cross product of
//! two of its generators, so membership is an exact, finite test: no sampling, no tables.

use crate::lab::{D65, Lab, Xyz};
use crate::light::Light;
use std::sync::LazyLock;

struct Facet {
    normal: [f64; 3],
    /// Greatest `normal · p` over the solid.
    reach: f64,
    /// Least `normal · p` over the solid.
    floor: f64,
}

static FACETS: LazyLock<Vec<Facet>> = LazyLock::new(|| {
    let w = Light::Daylight.weights();
    let mut facets = Vec::new();
    for i in 0..w.len() {
        for j in i + 1..w.len() {
            let n = [w[i][1] * w[j][2] - w[i][2] * w[j][1], w[i][2] * w[j][0] - w[i][0] * w[j][2], w[i][0] * w[j][1] - w[i][1] * w[j][0]];
            let len = (n[0] * n[0] + n[1] * n[1] + n[2] * n[2]).sqrt();
            // Bands at the ends of the spectrum are nearly parallel: their facets are slivers without a usable normal.
            if len < 1e-9 {
                continue;
            }
            let normal = n.map(|x| x / len);
            let (mut reach, mut floor) = (0.0, 0.0);
            for row in w {
                let d = normal[0] * row[0] + normal[1] * row[1] + normal[2] * row[2];
                reach += d.max(0.0);
                floor += d.min(0.0);
            }
            facets.push(Facet { normal, reach, floor });
        }
    }
    facets
});

/// Whether some reflectance between 0 and 1 in every band has these tristimulus values under D65.
pub(crate) fn is_real(p: Xyz) -> bool {
    const SLACK: f64 = 1e-6;
    FACETS.iter().all(|f| {
        let d = f.normal[0] * p.x + f.normal[1] * p.y + f.normal[2] * p.z;
        d <= f.reach + SLACK && d >= f.floor - SLACK
    })
}

/// The same lightness and hue with as much of the chroma as a real surface can have.
pub fn toward_real(lab: Lab<D65>) -> Lab<D65> {
    let at = |s: f64| Lab::new(lab.l, lab.a * s, lab.b * s);
    if is_real(lab.xyz()) {
        return lab;
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
    use crate::spectrum::{BANDS, Reflectance};
    use proptest::prelude::*;

    proptest! {
        #[test]
        fn every_surface_is_real(r in prop::collection::vec(0.0..=1.0f64, BANDS)) {
            let r: [f64; BANDS] = r.try_into().unwrap();
            prop_assert!(is_real(Reflectance(r).xyz()));
        }

        #[test]
        fn pulling_in_keeps_lightness_and_hue(l in 2.0..98.0f64, c in 0.0..180.0f64, h in 0.0..360.0f64) {
            let lab = Lab::from_lch(l, c, h);
            let real = toward_real(lab);
            prop_assert!(is_real(real.xyz()));
            prop_assert!(real.chroma() <= c + 1e-9);
            prop_assert!((real.l - l).abs() < 1e-12);
            if real.chroma() > 1e-6 { prop_assert!(((real.hue().0 - h + 540.0).rem_euclid(360.0) - 180.0).abs() < 1e-6); }
        }
    }

    #[test]
    fn no_surface_is_a_vivid_near_white() {
        assert!(!is_real(Lab::new(97.0, 60.0, 0.0).xyz()));
        assert!(!is_real(Xyz { x: 95.0, y: 101.0, z: 108.0 }));
    }
}
