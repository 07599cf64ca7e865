//! K and S from opaque drawdowns: the masstone and tints with a known white.

use super::pair::{Covariance, Sums};
use super::{CannotLearn, Fitted, Learned, Reading, check, without_strays};
use crate::opaque::{SurfaceOptics, masstone};
use crate::pigment::Pigment;
use lean_colour::BANDS;

/// One opaque swatch: pigment and white by volume.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Drawdown {
    /// Share of pigment, above 0 and at most 1; 1 is the masstone.
    pub fraction: f64,
    /// What was read.
    pub reading: Reading,
}

/// Scattering expected before anything was read, and how little that expectation weighs. Choices.
const USUAL_S: f64 = 0.1;
const USUAL_S_ERROR: f64 = 0.6;
/// No artists' pigment in a binder scatters less; a floor keeps bands where masstone and tint say the same from collapsing to nothing. A choice.
const LEAST_S: f64 = 0.02;
/// Readings are held within these bounds inside the surface: beyond them K/S is noise.
const INSIDE: (f64, f64) = (0.002, 0.998);
/// Share of light by which even a good model of real paint misses. A choice.
const COARSE: f64 = 0.004;

/// Learns a pigment from its masstone and tints with `white` (Allen 1974; Walowit, McCarthy & Berns 1987): per band
/// `cK − φcS = (1−c)(φS_w − K_w)` with φ = K/S of the drawdown, each row weighed by the noise of its reading.
///
/// # Errors
/// See [`CannotLearn`].
pub fn from_tints(drawdowns: &[Drawdown], white: &Pigment, surface: SurfaceOptics) -> Result<Learned, CannotLearn> {
    check(&drawdowns.iter().map(|d| &d.reading).collect::<Vec<_>>())?;
    if let Some(i) = drawdowns.iter().position(|d| !(d.fraction > 0.0 && d.fraction <= 1.0)) {
        return Err(CannotLearn::Bad(i + 1, format!("a pigment share of {}: it lies above 0 and at most at 1", drawdowns[i].fraction)));
    }
    let seen: Vec<_> = drawdowns.iter().map(|d| d.reading.reflectance()).collect();
    let inside: Vec<[f64; BANDS]> =
        seen.iter().map(|r| std::array::from_fn(|i| surface.inside(r.0[i]).clamp(INSIDE.0, INSIDE.1))).collect();
    let fit = |kept: &[usize]| -> Fitted { std::array::from_fn(|i| band(i, kept, drawdowns, &inside, white, surface)) };
    let miss = |fitted: &Fitted, at: usize| {
        let (c, noise) = (drawdowns[at].fraction, drawdowns[at].reading.noise);
        let squares = (0..BANDS).map(|i| {
            let (k, s, _) = fitted[i];
            let again = surface.outside(masstone(c * k + (1.0 - c) * white.k[i], c * s + (1.0 - c) * white.s[i]));
            (again - seen[at].0[i]).powi(2)
        });
        (squares.sum::<f64>() / BANDS as f64).sqrt() / noise.hypot(COARSE)
    };
    let (fitted, unexplained) = without_strays(drawdowns.len(), 2, fit, miss);
    Ok(Learned::of(&fitted, white, drawdowns.iter().any(|d| d.reading.is_inferred()), unexplained))
}

fn band(
    i: usize,
    kept: &[usize],
    drawdowns: &[Drawdown],
    inside: &[[f64; BANDS]],
    white: &Pigment,
    surface: SurfaceOptics,
) -> (f64, f64, Covariance) {
    let mut s = USUAL_S;
    let mut answer = (0.0, s, Covariance::default());
    // The weight of a row hangs a little on S itself: three rounds settle it.
    for _ in 0..3 {
        let mut sums = Sums::default();
        // The unknown is what S has above its floor.
        sums.row(0.0, 1.0 / USUAL_S_ERROR, (USUAL_S - LEAST_S) / USUAL_S_ERROR);
        for at in kept {
            let (c, r) = (drawdowns[*at].fraction, inside[*at][i]);
            let phi = (1.0 - r).powi(2) / (2.0 * r);
            let steep = (1.0 - r * r) / (2.0 * r * r);
            let through = slope_inside(surface, r);
            let error = (c * s + (1.0 - c) * white.s[i]).max(1e-6) * steep * drawdowns[*at].reading.noise * through;
            let w = 1.0 / error.max(1e-12);
            let beside = (1.0 - c) * (phi * white.s[i] - white.k[i]) + phi * c * LEAST_S;
            sums.row(c * w, -phi * c * w, beside * w);
        }
        let (k, above) = sums.solved();
        s = LEAST_S + above;
        answer = (k, s, sums.covariance());
    }
    answer
}

/// How much an error outside grows when carried inside the surface.
fn slope_inside(surface: SurfaceOptics, inside: f64) -> f64 {
    let h = 1e-5;
    let outside = surface.outside(inside);
    (surface.inside(outside + h) - surface.inside(outside - h)).abs() / (2.0 * h)
}
