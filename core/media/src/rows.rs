//! Layers worked out a whole spectrum at a time, in single or double precision: what searches over layered recipes are made of.
//!
//! The models are those of [`crate::layering`], which is the reference; tests hold the two together. Double precision agrees to rounding,
//! single precision is for sifting.

use crate::opaque::SurfaceOptics;
use crate::pigment::Pigment;
use lean_colour::lab::WHITE_D65;
use lean_colour::{BANDS, D65, Lab, Light, Xyz};
use std::ops::{Add, Div, Mul, Sub};

/// Bands padded to a whole number of registers; the padding repeats the last band and weighs nothing.
pub(crate) const PADDED_BANDS: usize = 40;

/// One number a band.
pub type Row<T> = [T; PADDED_BANDS];

/// Single or double precision.
pub trait Real:
    Copy + PartialOrd + Default + Send + Sync + Add<Output = Self> + Sub<Output = Self> + Mul<Output = Self> + Div<Output = Self> + 'static
{
    /// The nearest number of this precision.
    fn of(x: f64) -> Self;
    /// In double precision.
    fn wide(self) -> f64;
    /// Square root.
    fn root(self) -> Self;
    /// `e` to this power, for powers of zero or less.
    fn exponential(self) -> Self;
    /// This, above zero, to a power.
    fn power(self, exponent: Self) -> Self;
    /// The least K·X or S·X a film is followed at: below, the hyperbolic forms lose all figures.
    const FLOOR: Self;
}

impl Real for f64 {
    fn of(x: f64) -> Self {
        x
    }
    fn wide(self) -> f64 {
        self
    }
    fn root(self) -> Self {
        self.sqrt()
    }
    fn exponential(self) -> Self {
        self.exp()
    }
    fn power(self, exponent: Self) -> Self {
        self.powf(exponent)
    }
    const FLOOR: Self = 1e-9;
}

/// Exponential and power are polynomials after the usual splitting into exponent and fraction: relative error below 1e-5, and they go through
/// wide registers where the library's do not.
impl Real for f32 {
    #[inline(always)]
    fn of(x: f64) -> Self {
        x as f32
    }
    #[inline(always)]
    fn wide(self) -> f64 {
        self.into()
    }
    #[inline(always)]
    fn root(self) -> Self {
        self.sqrt()
    }
    #[inline(always)]
    fn exponential(self) -> Self {
        two_to(self * std::f32::consts::LOG2_E)
    }
    #[inline(always)]
    fn power(self, exponent: Self) -> Self {
        two_to(exponent * log_two(above(self, 1e-12)))
    }
    const FLOOR: Self = 1e-6;
}

#[inline(always)]
fn two_to(x: f32) -> f32 {
    let x = if x < -126.0 { -126.0 } else { x };
    let x = if x > 126.0 { 126.0 } else { x };
    // Added to one and a half times 2^23, a number is rounded to whole ones, which then stand in its last bits: no conversion, no branch.
    const ROUNDING: f32 = 12_582_912.0;
    let rounded = x + ROUNDING;
    let f = x - (rounded - ROUNDING);
    let whole = rounded.to_bits().wrapping_sub(ROUNDING.to_bits());
    // The polynomial of 2^f on −½..½ with the least greatest error: below 3e-6.
    let p = polynomial([1.0, 0.693_121_55, 0.240_220_2, 0.055_919_69, 0.009_681_909], f);
    p * f32::from_bits(whole.wrapping_add(127) << 23)
}

/// Coefficients from the constant up, at one place. Fused, so that it needs half the operations where the processor has them.
#[inline(always)]
fn polynomial<const N: usize>(coefficients: [f32; N], x: f32) -> f32 {
    let mut sum = coefficients[N - 1];
    for c in coefficients[..N - 1].iter().rev() {
        sum = sum.mul_add(x, *c);
    }
    sum
}

#[inline(always)]
fn log_two(x: f32) -> f32 {
    let bits = x.to_bits();
    // Splits so that the fraction lies in √½..√2.
    let shifted = bits.wrapping_sub(0x3f35_04f3);
    let exponent = (shifted as i32) >> 23;
    let m = f32::from_bits((shifted & 0x007f_ffff) + 0x3f35_04f3);
    let t = m - 1.0;
    // The polynomial of log₂(1 + t)/t on √½−1..√2−1 with the least greatest error of the logarithm: below 3e-6.
    t.mul_add(polynomial([1.442_713_5, -0.721_131_86, 0.479_348_03, -0.367_49, 0.322_154_76, -0.206_591_59], t), exponent as f32)
}

/// A row made band by band.
#[inline(always)]
pub fn row<T: Real>(f: impl Fn(usize) -> T) -> Row<T> {
    let mut out = [T::default(); PADDED_BANDS];
    for (band, o) in out.iter_mut().enumerate() {
        *o = f(band);
    }
    out
}

/// A row from 36 numbers.
pub fn padded<T: Real>(of: &[f64]) -> Row<T> {
    row(|band| T::of(of[band.min(BANDS - 1)]))
}

/// Absorption and scattering of something.
#[derive(Clone, Copy)]
pub struct Spectra<T> {
    /// Absorption.
    pub k: Row<T>,
    /// Scattering.
    pub s: Row<T>,
}

impl<T: Real> Spectra<T> {
    /// Those of a pigment.
    pub fn of(p: &Pigment) -> Self {
        Self { k: padded(&p.k), s: padded(&p.s) }
    }

    /// All of it this many times.
    pub fn times(&self, n: T) -> Self {
        Self { k: self.k.map(|k| k * n), s: self.s.map(|s| s * n) }
    }

    /// Sums, each times its amount.
    #[inline(always)]
    pub fn weighed<const N: usize>(of: [(&Self, T); N]) -> Self {
        let sum = |band: fn(&Self) -> &Row<T>| row(|i| of.iter().fold(T::default(), |sum, (s, amount)| sum + band(s)[i] * *amount));
        Self { k: sum(|s| &s.k), s: sum(|s| &s.s) }
    }
}

impl<T: Real> Spectra<T> {
    /// The same in another precision.
    pub fn narrowed(wide: &Spectra<f64>) -> Self {
        Self { k: wide.k.map(T::of), s: wide.s.map(T::of) }
    }
}

#[inline(always)]
fn above<T: Real>(x: T, floor: T) -> T {
    if x > floor { x } else { floor }
}

/// A film of some thickness: what it sends back over black, and the square of what it lets through.
#[derive(Clone, Copy)]
pub struct Film<T> {
    /// Reflectance over black.
    pub r: Row<T>,
    /// Square of the transmittance.
    pub t2: Row<T>,
}

impl<T: Real> Film<T> {
    /// The film of `of` at thickness `x` (Kubelka 1948). Written with `e^(−2Z)`, so that nothing overflows.
    #[inline(always)]
    pub fn of(of: &Spectra<T>, x: T) -> Self {
        let (one, two) = (T::of(1.0), T::of(2.0));
        let mut out = Self { r: [T::default(); PADDED_BANDS], t2: [T::default(); PADDED_BANDS] };
        for i in 0..PADDED_BANDS {
            let (kx, sx) = (above(of.k[i] * x, T::FLOOR), above(of.s[i] * x, T::FLOOR));
            let q = kx / sx;
            let (a, b) = (one + q, (q * (q + two)).root());
            let once = (T::default() - b * sx).exponential();
            let twice = once * once;
            let below = a * (one - twice) + b * (one + twice);
            let t = two * b * once / below;
            out.r[i] = (one - twice) / below;
            out.t2[i] = t * t;
        }
        out
    }

    /// What is seen of it in one band over a ground of reflectance `g`.
    #[inline(always)]
    pub(crate) fn over_one(&self, i: usize, g: T) -> T {
        self.r[i] + self.t2[i] * g / (T::of(1.0) - self.r[i] * g)
    }

    /// What is seen of it over a ground.
    #[inline(always)]
    pub fn over(&self, ground: &Row<T>) -> Row<T> {
        row(|i| self.over_one(i, ground[i]))
    }
}

/// Masstone of each band (Kubelka & Munk 1931), inside the surface.
#[inline(always)]
pub fn masstone<T: Real>(of: &Spectra<T>) -> Row<T> {
    row(|i| of.s[i] / (of.s[i] + of.k[i] + (of.k[i] * (of.k[i] + T::of(2.0) * of.s[i])).root()))
}

/// How the uppermost surface turns what is inside into what is seen, one number a band.
#[inline(always)]
pub fn outside<T: Real>(inside: &Row<T>, surface: impl Fn(T) -> T) -> Row<T> {
    row(|i| surface(inside[i]))
}

/// Crossing a smooth surface (Saunderson 1942).
#[inline(always)]
pub(crate) fn crossed<T: Real>(s: SurfaceOptics, r: T) -> T {
    T::of(s.front * s.k1) + T::of((1.0 - s.k1) * (1.0 - s.k2)) * r / (T::of(1.0) - T::of(s.k2) * r)
}

/// Weights of the bands for the three tristimulus values under daylight, relative to its white.
pub struct Weights<T>([Row<T>; 3]);

impl<T: Real> Default for Weights<T> {
    fn default() -> Self {
        let white = [WHITE_D65.x, WHITE_D65.y, WHITE_D65.z];
        Self(std::array::from_fn(|c| row(|i| T::of(if i < BANDS { Light::Daylight.weights()[i][c] / white[c] } else { 0.0 }))))
    }
}

impl<T: Real> Weights<T> {
    /// Tristimulus values relative to the white.
    #[inline(always)]
    pub fn seen(&self, r: &Row<T>) -> [T; 3] {
        // Eight sums side by side, added up at the end: a plain sum must keep its order and cannot be widened.
        const WIDE: usize = 8;
        let mut sums = [[T::default(); WIDE]; 3];
        for (block, bands) in r.chunks_exact(WIDE).enumerate() {
            for c in 0..3 {
                for i in 0..WIDE {
                    sums[c][i] = sums[c][i] + bands[i] * self.0[c][block * WIDE + i];
                }
            }
        }
        sums.map(|s| s.iter().fold(T::default(), |a, b| a + *b))
    }
}

/// The colour of relative tristimulus values.
pub fn lab(relative: [f64; 3]) -> Lab<D65> {
    Xyz { x: relative[0] * WHITE_D65.x, y: relative[1] * WHITE_D65.y, z: relative[2] * WHITE_D65.z }.lab()
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::{film, opaque};
    use proptest::prelude::*;

    proptest! {
        #[test]
        fn films_agree_with_the_plain_form(k in 0.0..8.0f64, s in 0.0..2.0f64, x in 0.02..2.0f64, ground in 0.0..0.95f64) {
            let want = film::over(k, s, x, ground);
            let wide = Film::of(&Spectra { k: [k; PADDED_BANDS], s: [s; PADDED_BANDS] }, x).over(&[ground; PADDED_BANDS]);
            prop_assert!((wide[0] - want).abs() < 1e-7, "{} {want}", wide[0]);
            let narrow = Film::<f32>::of(&Spectra { k: [k as f32; PADDED_BANDS], s: [s as f32; PADDED_BANDS] }, x as f32);
            let narrow = f64::from(narrow.over(&[ground as f32; PADDED_BANDS])[0]);
            prop_assert!((narrow - want).abs() < 2e-4, "{narrow} {want}");
        }

        #[test]
        fn quick_powers_are_powers(x in 1e-4..1.0f32, p in 0.3..3.0f32, z in -40.0..0.0f32) {
            prop_assert!((Real::power(x, p) / x.powf(p) - 1.0).abs() < 2e-5);
            prop_assert!((Real::exponential(z) / z.exp() - 1.0).abs() < 2e-5);
        }

        #[test]
        fn masstones_agree(k in 0.001..8.0f64, s in 0.001..2.0f64) {
            let m = masstone(&Spectra { k: [k; PADDED_BANDS], s: [s; PADDED_BANDS] });
            prop_assert!((m[3] - opaque::masstone(k, s)).abs() < 1e-12);
        }
    }
}
