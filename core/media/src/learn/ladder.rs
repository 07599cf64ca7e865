//! K and S of transparent colours from a ladder of films, or of coats of ink, over known grounds.

use super::pair::{Covariance, Sums};
use super::{CannotLearn, Fitted, Learned, Reading, check, without_strays};
use crate::amount::Thickness;
use crate::film;
use crate::library;
use crate::opaque::SurfaceOptics;
use lean_colour::{BANDS, Reflectance};

/// One rung of a ladder.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Rung {
    /// Thickness of the film, or dose of the coats in all. Only ratios between rungs matter: they set the unit of K and S.
    pub film: Thickness,
    /// Reflectance of the ground inside the surface.
    pub ground: Reflectance,
    /// What was read.
    pub reading: Reading,
}

/// Share of light by which even a good model of a real film misses. A choice.
const COARSE: f64 = 0.005;

/// Learns K and S from films of known thickness over known grounds (Kubelka 1948, inverted band by band by Gauss–Newton, Marquardt
/// 1963). At least one film should lie over a dark ground: over white alone scattering hardly shows.
///
/// # Errors
/// See [`CannotLearn`].
pub fn from_films(steps: &[Rung], outside: impl Fn(f64) -> f64, inverse: impl Fn(f64) -> f64) -> Result<Learned, CannotLearn> {
    learn(steps, outside, inverse, true)
}

/// Learns the absorption of an ink, which does not scatter, from coats of known dose on paper.
///
/// # Errors
/// See [`CannotLearn`].
pub fn from_coats(steps: &[Rung], outside: impl Fn(f64) -> f64, inverse: impl Fn(f64) -> f64) -> Result<Learned, CannotLearn> {
    learn(steps, outside, inverse, false)
}

/// The two directions of a surface, for [`from_films`]: paint films.
impl SurfaceOptics {
    /// Functions out of and into this surface.
    pub fn both_ways(self) -> (impl Fn(f64) -> f64, impl Fn(f64) -> f64) {
        (move |r| self.outside(r), move |r| self.inside(r))
    }
}

fn learn(steps: &[Rung], outside: impl Fn(f64) -> f64, inverse: impl Fn(f64) -> f64, scatters: bool) -> Result<Learned, CannotLearn> {
    check(&steps.iter().map(|s| &s.reading).collect::<Vec<_>>())?;
    if let Some(i) = steps.iter().position(|s| !(s.film.0 > 0.0 && s.film.0.is_finite())) {
        return Err(CannotLearn::Bad(i + 1, format!("a thickness of {}: it must be above zero", steps[i].film.0)));
    }
    let seen: Vec<Reflectance> = steps.iter().map(|s| s.reading.reflectance()).collect();
    let fit = |kept: &[usize]| -> Fitted { std::array::from_fn(|i| band(i, kept, steps, &seen, &inverse, scatters)) };
    let miss = |fitted: &Fitted, at: usize| {
        let step = &steps[at];
        let squares = (0..BANDS).map(|i| {
            let (k, s, _) = fitted[i];
            (outside(film::over(k, s, step.film.0, step.ground.0[i])) - seen[at].0[i]).powi(2)
        });
        (squares.sum::<f64>() / BANDS as f64).sqrt() / step.reading.noise.hypot(COARSE)
    };
    let (fitted, unexplained) = without_strays(steps.len(), 2, fit, miss);
    let white = library::find("PW6").expect("titanium white is shipped");
    Ok(Learned::of(&fitted, white, steps.iter().any(|s| s.reading.is_inferred()), unexplained))
}

fn band(
    i: usize,
    kept: &[usize],
    steps: &[Rung],
    seen: &[Reflectance],
    inverse: &impl Fn(f64) -> f64,
    scatters: bool,
) -> (f64, f64, Covariance) {
    let aims: Vec<(f64, f64, f64, f64)> = kept
        .iter()
        .map(|at| {
            let (step, r) = (&steps[*at], seen[*at].0[i]);
            let h = 1e-4;
            let through = ((inverse(r + h) - inverse(r - h)) / (2.0 * h)).abs().max(1e-3);
            (step.film.0, step.ground.0[i], inverse(r).clamp(1e-4, 0.999), step.reading.noise * through)
        })
        .collect();
    let starts: &[f64] = if scatters { &[0.02, 0.2, 1.0] } else { &[0.0] };
    let tried = starts.iter().map(|s| descend(&aims, *s, scatters));
    let best = tried.min_by(|p, q| misfit(&aims, p.0, p.1).total_cmp(&misfit(&aims, q.0, q.1)));
    best.unwrap_or((0.0, 0.0, Covariance::default()))
}

fn misfit(aims: &[(f64, f64, f64, f64)], k: f64, s: f64) -> f64 {
    aims.iter().map(|(x, g, r, e)| ((film::over(k, s, *x, *g) - r) / e).powi(2)).sum()
}

/// Marquardt's way down from a first guess.
fn descend(aims: &[(f64, f64, f64, f64)], s: f64, scatters: bool) -> (f64, f64, Covariance) {
    let (x, g, r, _) = aims[0];
    let mut at = ((-(r / g.max(1e-3)).clamp(1e-4, 0.999).ln() / (2.0 * x)).max(1e-4), s);
    let mut damping = 1e-3;
    let mut covariance = Covariance::default();
    for _ in 0..80 {
        let mut sums = Sums::default();
        let (hk, hs) = (1e-5 * (at.0 + 1e-2), 1e-5 * (at.1 + 1e-2));
        for (x, g, r, e) in aims {
            let now = film::over(at.0, at.1, *x, *g);
            let by_k = (film::over(at.0 + hk, at.1, *x, *g) - now) / hk / e;
            let by_s = if scatters { (film::over(at.0, at.1 + hs, *x, *g) - now) / hs / e } else { 0.0 };
            // Solve for the new place itself, so that staying above zero is part of the least squares.
            sums.row(by_k, by_s, (r - now) / e + by_k * at.0 + by_s * at.1);
        }
        covariance = sums.covariance();
        let pull = |variance: f64| (damping / variance.max(1e-300)).sqrt();
        let mut damped = sums;
        let (wk, ws) = (pull(covariance.kk), if scatters { pull(covariance.ss) } else { 1e6 });
        damped.row(wk, 0.0, wk * at.0);
        damped.row(0.0, ws, ws * at.1);
        let next = damped.solved();
        if misfit(aims, next.0, next.1) <= misfit(aims, at.0, at.1) {
            let moved = (next.0 - at.0).abs() / (at.0 + 1e-6) + (next.1 - at.1).abs() / (at.1 + 1e-6);
            at = next;
            damping = (damping * 0.3).max(1e-9);
            if moved < 1e-9 {
                break;
            }
        } else {
            damping *= 6.0;
            if damping > 1e9 {
                break;
            }
        }
    }
    if !scatters {
        covariance.ss = 0.0;
        covariance.ks = 0.0;
        covariance.kk = 1.0 / sums_aa(aims, at.0).max(1e-300);
    }
    (at.0, if scatters { at.1 } else { 0.0 }, covariance)
}

/// Information on K alone of an ink.
fn sums_aa(aims: &[(f64, f64, f64, f64)], k: f64) -> f64 {
    let h = 1e-5 * (k + 1e-2);
    aims.iter().map(|(x, g, _, e)| ((film::over(k + h, 0.0, *x, *g) - film::over(k, 0.0, *x, *g)) / h / e).powi(2)).sum()
}
