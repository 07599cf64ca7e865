//! Paint laid thick enough to hide its ground: two-constant mixing with surface correction.

use crate::pigment::{Parts, Pigment};
use lean_colour::{BANDS, Reflectance};

/// How the paint surface itself reflects (Saunderson 1942).
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct SurfaceOptics {
    /// Share of light reflected at the front; 0.04 at refractive index 1.5 (Fresnel).
    pub k1: f64,
    /// Share of inside light turned back at the surface; theory ≈ 0.596.
    pub k2: f64,
    /// Share of the front reflection that reaches the eye, 0 specular excluded to 1 included. A choice.
    pub front: f64,
}

/// Semi-gloss oil seen in a room.
pub const OIL: SurfaceOptics = SurfaceOptics { k1: 0.04, k2: 0.60, front: 0.25 };

impl SurfaceOptics {
    /// Reflectance seen from outside for the reflectance `internal` just under the surface.
    pub fn outside(&self, internal: f64) -> f64 {
        self.front * self.k1 + (1.0 - self.k1) * (1.0 - self.k2) * internal / (1.0 - self.k2 * internal)
    }

    /// The inverse of [`outside`](Self::outside). A reading below the front reflection is impossible under the model and
    /// is clamped to 0.
    pub fn inside(&self, seen: f64) -> f64 {
        let y = (seen - self.front * self.k1).max(0.0);
        y / ((1.0 - self.k1) * (1.0 - self.k2) + self.k2 * y)
    }
}

/// Reflectance of an infinitely thick layer (Kubelka & Munk 1931), in the form that stays stable for dark paints.
pub fn masstone(k: f64, s: f64) -> f64 {
    s / (s + k + (k * k + 2.0 * k * s).sqrt())
}

/// A wet mix: absorption and scattering per band, per unit volume.
#[derive(Clone, Debug, PartialEq)]
pub struct Paint {
    /// Absorption, 36 bands.
    pub k: [f64; BANDS],
    /// Scattering, 36 bands.
    pub s: [f64; BANDS],
}

impl Paint {
    /// Mixes pigments by volume: `K = ΣcK`, `S = ΣcS` (Duncan 1940).
    ///
    /// # Errors
    /// When the list is empty, a part is negative or not a number, or all parts are zero.
    pub fn mixed(of: &[(&Pigment, Parts)]) -> Result<Self, String> {
        if let Some((p, parts)) = of.iter().find(|(_, p)| !p.0.is_finite() || p.0 < 0.0) {
            return Err(format!("{} parts of \"{}\": parts must be zero or more", parts.0, p.id));
        }
        let total: f64 = of.iter().map(|(_, p)| p.0).sum();
        if total <= 0.0 {
            return Err("all parts are zero: put in at least one part of something".into());
        }
        let mut paint = Self { k: [0.0; BANDS], s: [0.0; BANDS] };
        for (pigment, parts) in of {
            let c = parts.0 / total;
            for i in 0..BANDS {
                paint.k[i] += c * pigment.k[i];
                paint.s[i] += c * pigment.s[i];
            }
        }
        Ok(paint)
    }

    /// Reflectance of this paint laid opaque.
    pub fn opaque(&self, surface: SurfaceOptics) -> Reflectance {
        Reflectance(std::array::from_fn(|i| surface.outside(masstone(self.k[i], self.s[i]))))
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::library;
    use proptest::prelude::*;

    fn close(a: f64, b: f64, tol: f64) {
        assert!((a - b).abs() < tol, "{a} is not {b}");
    }

    #[test]
    fn worked_examples_of_the_formulas() {
        close(masstone(0.1, 1.0), 0.6417424, 5e-8);
        close(masstone(1.0, 1.0), 0.2679492, 5e-8);
        close(masstone(10.0, 1.0), 0.0455488, 5e-8);
        close(OIL.outside(0.0), 0.01, 1e-12);
        close(OIL.outside(0.5), 0.2842857, 5e-8);
        close(OIL.outside(1.0), 0.97, 1e-12);
        close(OIL.inside(OIL.outside(0.37)), 0.37, 1e-12);
        close(OIL.inside(0.5), 0.7227139, 5e-8);
        close(OIL.inside(0.002), 0.0, 1e-12);
    }

    #[test]
    fn nothing_mixed_is_refused() {
        let p = library::find("PB29").unwrap();
        assert!(Paint::mixed(&[]).is_err());
        assert!(Paint::mixed(&[(p, Parts(0.0))]).unwrap_err().contains("all parts are zero"));
        assert!(Paint::mixed(&[(p, Parts(-1.0))]).unwrap_err().contains("PB29"));
        assert!(Paint::mixed(&[(p, Parts(f64::NAN))]).is_err());
    }

    proptest! {
        #[test]
        fn only_ratios_matter(i in 0usize..61, j in 0usize..61, a in 0.1..8.0f64, b in 0.1..8.0f64, k in 0.01..90.0f64) {
            let lib = library::modelled();
            let mix = |s: f64| Paint::mixed(&[(&lib[i], Parts(a * s)), (&lib[j], Parts(b * s))]).unwrap().opaque(OIL);
            let (one, many) = (mix(1.0), mix(k));
            for n in 0..BANDS { prop_assert!((one.0[n] - many.0[n]).abs() < 1e-12); }
        }

        #[test]
        fn reflectance_stays_between_nothing_and_everything(i in 0usize..61, j in 0usize..61, a in 0.0..8.0f64) {
            let lib = library::modelled();
            let r = Paint::mixed(&[(&lib[i], Parts(a)), (&lib[j], Parts(1.0))]).unwrap().opaque(OIL);
            prop_assert!(r.0.iter().all(|x| (0.0..=1.0).contains(x)));
        }

        #[test]
        fn white_only_lightens(i in 0usize..61, a in 0.0..20.0f64, more in 0.1..20.0f64) {
            let lib = library::modelled();
            prop_assume!(!lib[i].white);
            let white = library::find("PW6").unwrap();
            let y = |w: f64| Paint::mixed(&[(&lib[i], Parts(1.0)), (white, Parts(w))]).unwrap().opaque(OIL).xyz().y;
            prop_assert!(y(a + more) > y(a));
        }
    }
}
