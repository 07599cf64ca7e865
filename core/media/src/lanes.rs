//! Opaque mixes eight at a time, in single precision: what searches over millions of recipes are made of.
//!
//! Callers re-judge what matters in double precision ([`Paint`](crate::Paint)).

use crate::opaque::{OIL, SurfaceOptics};
use crate::pigment::Pigment;
use lean_colour::lab::WHITE_D65;
use lean_colour::{BANDS, D65, Lab, Light};
use std::sync::LazyLock;

/// Mixes evaluated at once.
pub const LANES: usize = 8;
/// One number for each of eight mixes.
pub type Lane = [f32; LANES];

/// Absorption and scattering of one pigment in single precision.
#[derive(Clone)]
pub struct Spectrum {
    /// Absorption.
    pub k: [f32; BANDS],
    /// Scattering.
    pub s: [f32; BANDS],
}

/// Colours of eight recipes.
#[derive(Clone, Copy)]
pub struct Colours {
    /// Lightness.
    pub l: Lane,
    /// Green to red.
    pub a: Lane,
    /// Blue to yellow.
    pub b: Lane,
    /// Munsell value.
    pub v: Lane,
}

impl Colours {
    /// Takes one lane of others.
    pub fn set(&mut self, lane: usize, from: &Self) {
        (self.l[lane], self.a[lane], self.b[lane], self.v[lane]) = (from.l[lane], from.a[lane], from.b[lane], from.v[lane]);
    }

    /// Eight times black.
    pub const NONE: Self = Self { l: [0.0; LANES], a: [0.0; LANES], b: [0.0; LANES], v: [0.0; LANES] };

    /// Eight times the same colour.
    pub fn all(lab: Lab<D65>) -> Self {
        Self { l: [lab.l as f32; LANES], a: [lab.a as f32; LANES], b: [lab.b as f32; LANES], v: [lab.value().0 as f32; LANES] }
    }
}

impl Spectrum {
    /// A pigment's spectra.
    pub fn of(p: &Pigment) -> Self {
        Self { k: std::array::from_fn(|i| p.k[i] as f32), s: std::array::from_fn(|i| p.s[i] as f32) }
    }
}

static WEIGHTS: LazyLock<[[f32; 3]; BANDS]> = LazyLock::new(|| {
    let white = [WHITE_D65.x, WHITE_D65.y, WHITE_D65.z];
    std::array::from_fn(|i| std::array::from_fn(|c| (Light::Daylight.weights()[i][c] / white[c]) as f32))
});

/// Munsell value over lightness 0..=100 in steps of 100/4096, read with linear interpolation (error below 1e-6).
static VALUE_OF_L: LazyLock<Vec<f32>> =
    LazyLock::new(|| (0..=4097).map(|i| Lab::<D65>::new((f64::from(i) * 100.0 / 4096.0).min(100.0), 0.0, 0.0).value().0 as f32).collect());

#[inline(always)]
fn cbrt(x: f32) -> f32 {
    // Bit-level first guess, then two Halley steps: relative error below 2e-7 for positive normal numbers.
    let mut y = f32::from_bits(x.to_bits() / 3 + 0x2A51_4067);
    for _ in 0..2 {
        let y3 = y * y * y;
        y *= (y3 + 2.0 * x) / (2.0 * y3 + x);
    }
    y
}

#[inline(always)]
fn lab_f(t: f32) -> f32 {
    const EDGE: f32 = 216.0 / 24389.0;
    let low = t * (841.0 / 108.0) + 4.0 / 29.0;
    if t > EDGE { cbrt(t) } else { low }
}

/// Tristimulus values of eight mixes relative to the white.
pub(crate) type Tristimulus = [Lane; 3];

/// `Σ w·(front + gain·S/((1−k2)·S + K + √(K²+2KS)))` with the weights summing to 1: what does not hang on the mix is taken out of the sum.
struct Fused {
    front: f32,
    gain: f32,
    turned: f32,
}

impl Fused {
    /// Paints bound in oil and in acrylic differ in how much their surface sends back itself, and in nothing else.
    fn of(front: Front) -> Self {
        let (k1, k2) = (OIL.k1 as f32, OIL.k2 as f32);
        Self { front: front.0 * k1, gain: (1.0 - k1) * (1.0 - k2), turned: 1.0 - k2 }
    }
}

/// Share of the light a surface sends back itself that reaches the eye, of a paint whose surface is otherwise that of oil.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Front(f32);

impl Front {
    /// That of a surface.
    pub fn of(surface: SurfaceOptics) -> Self {
        debug_assert!((surface.k1, surface.k2) == (OIL.k1, OIL.k2), "only the front may differ");
        Self(surface.front as f32)
    }
}

/// Colours of eight mixes of the same pigments; `parts[p][lane]` are the parts of pigment `p`.
///
/// The fused form of two-constant mixing with surface correction: one square root and one division a band.
#[inline(always)]
pub fn colours<const P: usize>(pigments: [&Spectrum; P], parts: &[Lane; P], front: Front) -> Colours {
    seen(tristimulus(pigments, parts, front))
}

/// The same on registers of eight, for processors that have them.
#[cfg(target_arch = "x86_64")]
#[target_feature(enable = "avx2,fma")]
#[inline]
fn colours_wide<const P: usize>(pigments: [&Spectrum; P], parts: &[Lane; P], front: Front) -> Colours {
    seen(tristimulus_wide(pigments, parts, front))
}

#[inline(always)]
fn tristimulus<const P: usize>(pigments: [&Spectrum; P], parts: &[Lane; P], front: Front) -> Tristimulus {
    let f = Fused::of(front);
    let mut sums = [[0.0; LANES]; 3];
    for (band, w) in WEIGHTS.iter().enumerate() {
        let (mut k, mut s) = ([0.0f32; LANES], [0.0f32; LANES]);
        for p in 0..P {
            for i in 0..LANES {
                k[i] += parts[p][i] * pigments[p].k[band];
                s[i] += parts[p][i] * pigments[p].s[band];
            }
        }
        for i in 0..LANES {
            let root = (k[i] * (k[i] + 2.0 * s[i])).sqrt();
            let r = s[i] / (f.turned * s[i] + k[i] + root);
            for c in 0..3 {
                sums[c][i] += r * w[c];
            }
        }
    }
    sums.map(|lane| lane.map(|x| f.front + f.gain * x))
}

#[cfg(target_arch = "x86_64")]
#[target_feature(enable = "avx2,fma")]
#[inline]
fn tristimulus_wide<const P: usize>(pigments: [&Spectrum; P], parts: &[Lane; P], front: Front) -> Tristimulus {
    use std::arch::x86_64::*;
    let f = Fused::of(front);
    let mut amount = [_mm256_setzero_ps(); P];
    for p in 0..P {
        // SAFETY: a lane is eight floats in a row.
        amount[p] = unsafe { _mm256_loadu_ps(parts[p].as_ptr()) };
    }
    let (two, turned) = (_mm256_set1_ps(2.0), _mm256_set1_ps(f.turned));
    let mut sums = [_mm256_setzero_ps(); 3];
    for (band, w) in WEIGHTS.iter().enumerate() {
        let (mut k, mut s) = (_mm256_setzero_ps(), _mm256_setzero_ps());
        for p in 0..P {
            k = _mm256_fmadd_ps(amount[p], _mm256_set1_ps(pigments[p].k[band]), k);
            s = _mm256_fmadd_ps(amount[p], _mm256_set1_ps(pigments[p].s[band]), s);
        }
        let root = _mm256_sqrt_ps(_mm256_mul_ps(k, _mm256_fmadd_ps(two, s, k)));
        let r = _mm256_div_ps(s, _mm256_fmadd_ps(turned, s, _mm256_add_ps(k, root)));
        for c in 0..3 {
            sums[c] = _mm256_fmadd_ps(r, _mm256_set1_ps(w[c]), sums[c]);
        }
    }
    let mut out = [[0.0; LANES]; 3];
    for (lane, sum) in out.iter_mut().zip(sums) {
        let sum = _mm256_fmadd_ps(_mm256_set1_ps(f.gain), sum, _mm256_set1_ps(f.front));
        // SAFETY: a lane is eight floats in a row.
        unsafe { _mm256_storeu_ps(lane.as_mut_ptr(), sum) };
    }
    out
}

#[inline(always)]
pub(crate) fn seen([x, y, z]: Tristimulus) -> Colours {
    let mut out = Colours::NONE;
    for i in 0..LANES {
        let (fx, fy, fz) = (lab_f(x[i]), lab_f(y[i]), lab_f(z[i]));
        out.l[i] = 116.0 * fy - 16.0;
        out.a[i] = 500.0 * (fx - fy);
        out.b[i] = 200.0 * (fy - fz);
    }
    let table = &*VALUE_OF_L;
    for i in 0..LANES {
        let at = out.l[i].clamp(0.0, 100.0) * 40.96;
        let n = at as usize;
        out.v[i] = table[n] + (table[n + 1] - table[n]) * (at - n as f32);
    }
    out
}

/// Colours of many batches of eight mixes of the same pigments, on the widest registers this processor has.
pub fn colours_of_all<const P: usize>(pigments: [&Spectrum; P], parts: &[[Lane; P]], front: Front, out: &mut [Colours]) {
    #[cfg(target_arch = "x86_64")]
    if is_x86_feature_detected!("avx2") && is_x86_feature_detected!("fma") {
        // SAFETY: the two features were just found on this processor.
        return unsafe { colours_of_all_wide(pigments, parts, front, out) };
    }
    for (p, o) in parts.iter().zip(out) {
        *o = colours(pigments, p, front);
    }
}

#[cfg(target_arch = "x86_64")]
#[target_feature(enable = "avx2,fma")]
fn colours_of_all_wide<const P: usize>(pigments: [&Spectrum; P], parts: &[[Lane; P]], front: Front, out: &mut [Colours]) {
    for (p, o) in parts.iter().zip(out) {
        *o = colours_wide(pigments, p, front);
    }
}

/// How the colours of eight mixes grow with each amount, to first order: `[pigment][L*, a*, b*]`, on the widest registers this processor has.
pub fn lab_growth(own: &Colours, growth: &Growth) -> Growth {
    #[cfg(target_arch = "x86_64")]
    if is_x86_feature_detected!("avx2") && is_x86_feature_detected!("fma") {
        // SAFETY: the two features were just found on this processor.
        return unsafe { lab_growth_wide(own, growth) };
    }
    lab_growth_plain(own, growth)
}

#[cfg(target_arch = "x86_64")]
#[target_feature(enable = "avx2,fma")]
fn lab_growth_wide(own: &Colours, growth: &Growth) -> Growth {
    lab_growth_plain(own, growth)
}

#[inline(always)]
fn lab_growth_plain(own: &Colours, growth: &Growth) -> Growth {
    // f(t) is the cube root of t, or straight below its corner; this is its slope where f has this value.
    let slope = |f: f32| if f > 6.0 / 29.0 { 1.0 / (3.0 * f * f) } else { 841.0 / 108.0 };
    let mut out = [[[0.0f32; LANES]; 3]; 4];
    for i in 0..LANES {
        let y = (own.l[i] + 16.0) / 116.0;
        let slopes = [slope(y + own.a[i] / 500.0), slope(y), slope(y - own.b[i] / 200.0)];
        for p in 0..4 {
            let [x, y, z] = std::array::from_fn(|c| slopes[c] * growth[p][c][i]);
            (out[p][0][i], out[p][1][i], out[p][2][i]) = (116.0 * y, 500.0 * (x - y), 200.0 * (y - z));
        }
    }
    out
}

/// Steps of value for each unit of lightness at eight lightnesses.
pub fn value_slopes(l: &Lane) -> Lane {
    let table = &*VALUE_OF_L;
    l.map(|l| {
        let n = (l.clamp(0.0, 100.0) * 40.96) as usize;
        (table[n + 1] - table[n]) * 40.96
    })
}

/// How the tristimulus values of eight mixes of four pigments, relative to the white, grow with each amount: `[pigment][x, y, z]`, to first order.
pub type Growth = [[Lane; 3]; 4];

/// Eight mixes of four pigments: their [`Growth`], on the widest registers this processor has.
pub fn growth(pigments: [&Spectrum; 4], parts: &[Lane; 4]) -> Growth {
    #[cfg(target_arch = "x86_64")]
    if is_x86_feature_detected!("avx2") && is_x86_feature_detected!("fma") {
        // SAFETY: the two features were just found on this processor.
        return unsafe { growth_wide(pigments, parts) };
    }
    growth_plain(pigments, parts)
}

#[cfg(target_arch = "x86_64")]
#[target_feature(enable = "avx2,fma")]
fn growth_wide(pigments: [&Spectrum; 4], parts: &[Lane; 4]) -> Growth {
    use std::arch::x86_64::*;
    let f = Fused::of(Front::of(OIL));
    let mut amount = [_mm256_setzero_ps(); 4];
    for p in 0..4 {
        // SAFETY: a lane is eight floats in a row.
        amount[p] = unsafe { _mm256_loadu_ps(parts[p].as_ptr()) };
    }
    let (one, two, turned) = (_mm256_set1_ps(1.0), _mm256_set1_ps(2.0), _mm256_set1_ps(f.turned));
    let (gain, least) = (_mm256_set1_ps(f.gain), _mm256_set1_ps(LEAST));
    // The slopes by K and S of each band first, so that no more registers are needed at once than there are.
    let mut slopes = [[_mm256_setzero_ps(); 2]; BANDS];
    for (band, out) in slopes.iter_mut().enumerate() {
        let (mut k, mut s) = (_mm256_setzero_ps(), _mm256_setzero_ps());
        for p in 0..4 {
            k = _mm256_fmadd_ps(amount[p], _mm256_set1_ps(pigments[p].k[band]), k);
            s = _mm256_fmadd_ps(amount[p], _mm256_set1_ps(pigments[p].s[band]), s);
        }
        let root = _mm256_sqrt_ps(_mm256_max_ps(_mm256_mul_ps(k, _mm256_fmadd_ps(two, s, k)), least));
        let d = _mm256_fmadd_ps(turned, s, _mm256_add_ps(k, root));
        let d2 = _mm256_mul_ps(d, d);
        let both = _mm256_div_ps(one, _mm256_mul_ps(root, d2));
        let (inverse, scale) = (_mm256_mul_ps(both, d2), _mm256_mul_ps(gain, _mm256_mul_ps(both, root)));
        let by_k = _mm256_mul_ps(_mm256_mul_ps(scale, s), _mm256_fmadd_ps(_mm256_add_ps(k, s), inverse, one));
        let by_s = _mm256_mul_ps(scale, _mm256_fnmadd_ps(_mm256_mul_ps(k, s), inverse, _mm256_add_ps(k, root)));
        *out = [_mm256_sub_ps(_mm256_setzero_ps(), by_k), by_s];
    }
    let mut out = [[[0.0f32; LANES]; 3]; 4];
    for p in 0..4 {
        let mut sums = [_mm256_setzero_ps(); 3];
        for (band, w) in WEIGHTS.iter().enumerate() {
            let [by_k, by_s] = slopes[band];
            let by_s = _mm256_mul_ps(by_s, _mm256_set1_ps(pigments[p].s[band]));
            let grows = _mm256_fmadd_ps(by_k, _mm256_set1_ps(pigments[p].k[band]), by_s);
            for c in 0..3 {
                sums[c] = _mm256_fmadd_ps(_mm256_set1_ps(w[c]), grows, sums[c]);
            }
        }
        for c in 0..3 {
            // SAFETY: a lane is eight floats in a row.
            unsafe { _mm256_storeu_ps(out[p][c].as_mut_ptr(), sums[c]) };
        }
    }
    out
}

/// Below this no absorption is told from none.
const LEAST: f32 = 1e-12;

/// With R = gain·S/D, D = (1−k2)·S + K + r and r = √(K² + 2KS): ∂R/∂K = −gain·S·(1 + (K+S)/r)/D², ∂R/∂S = gain·(K + r − K·S/r)/D².
#[inline(always)]
fn growth_plain(pigments: [&Spectrum; 4], parts: &[Lane; 4]) -> Growth {
    let f = Fused::of(Front::of(OIL));
    let mut sums = [[[0.0f32; LANES]; 3]; 4];
    for (band, w) in WEIGHTS.iter().enumerate() {
        let (mut k, mut s) = ([0.0f32; LANES], [0.0f32; LANES]);
        for p in 0..4 {
            for i in 0..LANES {
                k[i] += parts[p][i] * pigments[p].k[band];
                s[i] += parts[p][i] * pigments[p].s[band];
            }
        }
        let (mut by_k, mut by_s) = ([0.0f32; LANES], [0.0f32; LANES]);
        for i in 0..LANES {
            let root = (k[i] * (k[i] + 2.0 * s[i])).max(LEAST).sqrt();
            let (inverse, d) = (1.0 / root, f.turned * s[i] + k[i] + root);
            let scale = f.gain / (d * d);
            by_k[i] = -scale * s[i] * (1.0 + (k[i] + s[i]) * inverse);
            by_s[i] = scale * (k[i] + root - k[i] * s[i] * inverse);
        }
        for p in 0..4 {
            for i in 0..LANES {
                let grows = by_k[i] * pigments[p].k[band] + by_s[i] * pigments[p].s[band];
                for c in 0..3 {
                    sums[p][c][i] += w[c] * grows;
                }
            }
        }
    }
    sums
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::{Paint, Parts, library};
    use proptest::prelude::*;

    proptest! {
        #[test]
        fn eight_at_once_agree_with_one_at_a_time(i in 0usize..61, j in 0usize..61, parts in prop::collection::vec((1u8..8, 0u8..8), LANES)) {
            let lib = library::modelled();
            let lanes: [Lane; 2] = [std::array::from_fn(|n| f32::from(parts[n].0)), std::array::from_fn(|n| f32::from(parts[n].1))];
            let (p, q) = (Spectrum::of(&lib[i]), Spectrum::of(&lib[j]));
            for surface in [OIL, crate::Choices::default().acrylic] {
            let mut wide = [colours([&p, &q], &lanes, Front::of(surface)); 2];
            colours_of_all([&p, &q], &[lanes], Front::of(surface), &mut wide[1..]);
            for got in wide {
            for (n, (a, b)) in parts.iter().enumerate() {
                let want = Paint::mixed(&[(&lib[i], Parts(f64::from(*a))), (&lib[j], Parts(f64::from(*b)))]).unwrap().opaque(surface).xyz().lab();
                prop_assert!((f64::from(got.l[n]) - want.l).abs() < 2e-3);
                prop_assert!((f64::from(got.a[n]) - want.a).abs() < 8e-3);
                prop_assert!((f64::from(got.b[n]) - want.b).abs() < 8e-3);
                prop_assert!((f64::from(got.v[n]) - want.value().0).abs() < 3e-4);
            }
            }
            }
        }
    }
}
