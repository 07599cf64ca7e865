//! A layer thin enough for its ground to show (Kubelka 1948, 1954).

use crate::opaque::{Paint, SurfaceOptics, masstone};
use lean_colour::Reflectance;

/// What both forms of the film solution need: `a = 1 + K/S`, `b = √(a² − 1)` and `Z = bSx`, with K and S kept above nothing.
fn terms(k: f64, s: f64, x: f64) -> (f64, f64, f64) {
    const FLOOR: f64 = 1e-9;
    let (kx, sx) = ((k * x).max(FLOOR), (s * x).max(FLOOR));
    let a = 1.0 + kx / sx;
    let b = (a * a - 1.0).sqrt();
    (a, b, b * sx)
}

/// Beyond this optical depth a film is its masstone, and hyperbolic functions overflow.
const ENDLESS: f64 = 350.0;

/// Reflectance just under the surface of a film of thickness `x` over a ground of internal reflectance `ground`.
///
/// `x` is in units in which titanium white scatters once per unit at 550 nm. Zero leaves the ground as it is.
pub fn over(k: f64, s: f64, x: f64, ground: f64) -> f64 {
    let (a, b, z) = terms(k, s, x);
    if z > ENDLESS {
        return masstone(k, s);
    }
    let coth = 1.0 / z.tanh();
    (1.0 - ground * (a - b * coth)) / (a - ground + b * coth)
}

/// Reflectance over black and transmittance of a film alone (Kubelka 1948). Over a ground `g` it gives `r + t²·g/(1 − r·g)`.
pub fn layer(k: f64, s: f64, x: f64) -> (f64, f64) {
    let (a, b, z) = terms(k, s, x);
    if z > ENDLESS {
        return (masstone(k, s), 0.0);
    }
    let below = a * z.sinh() + b * z.cosh();
    (z.sinh() / below, b / below)
}

impl Paint {
    /// Reflectance of this paint as a film of thickness `x` over `ground`, which is given inside the surface.
    pub fn film(&self, x: f64, ground: &Reflectance, surface: SurfaceOptics) -> Reflectance {
        Reflectance(std::array::from_fn(|i| surface.outside(over(self.k[i], self.s[i], x, ground.0[i]))))
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    fn close(a: f64, b: f64, tol: f64) {
        assert!((a - b).abs() < tol, "{a} is not {b}");
    }

    #[test]
    fn worked_examples() {
        close(over(1.0, 1.0, 1.0, 0.0), 0.2601467, 5e-8);
        close(over(1.0, 1.0, 1.0, 0.9), 0.2919805, 5e-8);
        close(over(0.0, 1.0, 1.0, 0.0), 0.5, 1e-4);
        close(over(1.0, 0.0, 0.5, 0.9), 0.331091, 1e-6);
        let (r, t) = layer(1.0, 1.0, 1.0);
        close(r, 0.2601467, 5e-8);
        close(t, 0.1645887, 5e-8);
        close(r + t * t * 0.9 / (1.0 - r * 0.9), 0.2919805, 5e-8);
        let once = over(1.0, 1.0, 1.0, 0.0);
        close(over(1.0, 1.0, 1.0, once), 0.2677055, 5e-8);
        close(over(1.0, 1.0, 2.0, 0.0), 0.2677055, 5e-8);
    }

    proptest! {
        #[test]
        fn no_film_is_the_ground_and_an_endless_film_the_masstone(k in 0.01..9.0f64, s in 0.01..2.0f64, g in 0.0..1.0f64) {
            prop_assert!((over(k, s, 0.0, g) - g).abs() < 1e-6);
            prop_assert!((over(k, s, 1e5, g) - masstone(k, s)).abs() < 1e-9);
        }

        #[test]
        fn two_films_are_one_of_both_thicknesses(k in 0.01..5.0f64, s in 0.01..2.0f64, x in 0.05..2.0f64, g in 0.0..0.95f64) {
            prop_assert!((over(k, s, x, over(k, s, x, g)) - over(k, s, 2.0 * x, g)).abs() < 1e-9);
        }
    }
}
