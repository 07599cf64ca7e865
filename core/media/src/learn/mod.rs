//! Learning a pigment from readings.
//!
//! A [`Reading`] is what an instrument, a photo or a typed-in colour says of one swatch, with its state and its noise. From a masstone and
//! tints with a known white ([`tints`]) or from a ladder of films or coats over known grounds ([`ladder`]) come K and S in 36 bands, never
//! negative, with how sure they are. [`Belief`] takes readings of anything laid in any medium and refines all pigments in it together. A reading that the model cannot explain is kept and flagged, not averaged away.

mod belief;
mod evidence;
mod ladder;
mod pair;
mod tints;

pub use belief::{Belief, Observation, Stray};
pub use evidence::{Evidence, Reading};
pub use ladder::{Rung, from_coats, from_films};
pub use tints::{Drawdown, from_tints};

use crate::opaque::{Paint, masstone};
use crate::pigment::Pigment;
use lean_colour::{BANDS, Reflectance};
use thiserror::Error;

/// What was learned of a pigment.
#[derive(Clone, Debug, PartialEq)]
pub struct Learned {
    /// Absorption, 36 bands, ≥ 0.
    pub k: [f64; BANDS],
    /// Scattering, 36 bands, ≥ 0.
    pub s: [f64; BANDS],
    /// Standard error of K per band.
    pub k_error: [f64; BANDS],
    /// Standard error of S per band.
    pub s_error: [f64; BANDS],
    /// One standard error of the colour of a 1:3 tint with white, in CIELAB units: what to expect of mixes like those read. The model itself
    /// is not judged by it.
    pub expected_difference: f64,
    /// True when only colours were read: the spectrum is one of many, and says nothing about other lights.
    pub inferred: bool,
    /// Which readings (by position) the model cannot explain. They were left out of the fit, and should be looked at.
    pub unexplained: Vec<usize>,
}

/// K, S and how sure they are, per band.
type Fitted = [(f64, f64, pair::Covariance); BANDS];

impl Learned {
    fn of(fitted: &Fitted, white: &Pigment, inferred: bool, unexplained: Vec<usize>) -> Self {
        let (k, s) = (fitted.map(|b| b.0), fitted.map(|b| b.1));
        Self {
            k,
            s,
            k_error: fitted.map(|b| b.2.kk.sqrt()),
            s_error: fitted.map(|b| b.2.ss.sqrt()),
            expected_difference: expected_difference(&k, &s, &fitted.map(|b| b.2), white),
            inferred,
            unexplained,
        }
    }
}

/// Why nothing can be learned.
#[derive(Clone, Debug, Error, PartialEq)]
pub enum CannotLearn {
    /// No reading at all.
    #[error("there is no reading to learn from: read at least the masstone and one tint")]
    Nothing,
    /// Readings of different states.
    #[error("reading {0} is of another state (wet or dry) than the first: wet is never judged against dry, so read all of them dry")]
    MixedStates(usize),
    /// A number is out of range.
    #[error("reading {0}: {1}")]
    Bad(usize, String),
}

/// Share of the tint that [`Learned::expected_difference`] speaks of.
const TINT: f64 = 0.25;

/// How far the tint's colour moves, in CIELAB units, by one standard error in every band.
fn expected_difference(k: &[f64; BANDS], s: &[f64; BANDS], covariance: &[pair::Covariance; BANDS], white: &Pigment) -> f64 {
    let surface = crate::opaque::OIL;
    let tint = |at: usize, dk: f64, ds: f64| {
        let mixed = Paint {
            k: std::array::from_fn(|i| TINT * (k[i] + if i == at { dk } else { 0.0 }) + (1.0 - TINT) * white.k[i]),
            s: std::array::from_fn(|i| TINT * (s[i] + if i == at { ds } else { 0.0 }) + (1.0 - TINT) * white.s[i]),
        };
        Reflectance(std::array::from_fn(|i| surface.outside(masstone(mixed.k[i], mixed.s[i])))).xyz().lab()
    };
    let base = tint(0, 0.0, 0.0);
    let mut squared = 0.0f64;
    for (i, c) in covariance.iter().enumerate() {
        let (hk, hs) = (1e-4 * (k[i] + 1e-3), 1e-4 * (s[i] + 1e-3));
        let (by_k, by_s) = (tint(i, hk, 0.0), tint(i, 0.0, hs));
        let moved = |to: lean_colour::Lab| [to.l - base.l, to.a - base.a, to.b - base.b];
        for (dk, ds) in moved(by_k).into_iter().zip(moved(by_s)) {
            let (gk, gs) = (dk / hk, ds / hs);
            squared += gk * gk * c.kk + 2.0 * gk * gs * c.ks + gs * gs * c.ss;
        }
    }
    squared.max(0.0).sqrt()
}

/// Checks what every way of learning needs.
fn check(readings: &[&Reading]) -> Result<(), CannotLearn> {
    let first = readings.first().ok_or(CannotLearn::Nothing)?;
    for (i, r) in readings.iter().enumerate() {
        if r.state != first.state {
            return Err(CannotLearn::MixedStates(i + 1));
        }
    }
    sound(readings)
}

/// Checks that readings are numbers of surfaces.
fn sound(readings: &[&Reading]) -> Result<(), CannotLearn> {
    for (i, r) in readings.iter().enumerate() {
        if !(r.noise.is_finite() && r.noise > 0.0) {
            return Err(CannotLearn::Bad(i + 1, format!("a noise of {}: it is a share of light above zero, such as 0.002", r.noise)));
        }
        let seen = r.reflectance();
        if let Some(band) = seen.0.iter().position(|x| !x.is_finite() || *x < -0.02 || *x > 1.2) {
            let nm = lean_colour::spectrum::wavelength(band);
            return Err(CannotLearn::Bad(i + 1, format!("{} at {nm} nm is no reflectance", seen.0[band])));
        }
    }
    Ok(())
}

/// Fits all readings, then leaves out, one at a time, those that the rest disagree with by more than noise and the model's own coarseness
/// allow. `fit` gives the learned spectra from the readings kept, `miss` how far one reading lies from them, in its own noise.
fn without_strays<T>(readings: usize, least: usize, fit: impl Fn(&[usize]) -> T, miss: impl Fn(&T, usize) -> f64) -> (T, Vec<usize>) {
    /// Misses above this many times noise are not explained. A choice.
    const FAR: f64 = 5.0;
    let mut kept: Vec<usize> = (0..readings).collect();
    let mut strays = Vec::new();
    let mut learned = fit(&kept);
    let worst = |learned: &T, kept: &[usize]| kept.iter().map(|i| miss(learned, *i)).fold(0.0f64, f64::max);
    while worst(&learned, &kept) > FAR && kept.len() > least {
        // The stray is the one without which the others agree best.
        let tried = kept.iter().map(|out| {
            let rest: Vec<usize> = kept.iter().copied().filter(|i| i != out).collect();
            let learned = fit(&rest);
            (worst(&learned, &rest), *out, rest, learned)
        });
        let Some((_, out, rest, better)) = tried.min_by(|a, b| a.0.total_cmp(&b.0)) else { break };
        strays.push(out);
        (kept, learned) = (rest, better);
    }
    if kept.len() <= least {
        // Too few are left to say which is wrong: what still misses is flagged, but stays in the fit.
        strays.extend(kept.iter().copied().filter(|i| miss(&learned, *i) > FAR));
    }
    strays.sort_unstable();
    (learned, strays)
}
