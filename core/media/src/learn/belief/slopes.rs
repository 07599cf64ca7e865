//! How what is seen moves with what is believed.

use super::{Observation, Reading};
use crate::choices::Choices;
use crate::layering::{Layering, State};
use crate::learn::{Evidence, Judged};
use crate::pigment::{Pigment, PigmentId};
use lean_colour::{BANDS, Lab, Reflectance};
use lean_linear::Matrix;

/// Knots between which the difference from a model runs evenly, 380 to 730 nm.
pub(super) const KNOTS: usize = 9;
/// Numbers believed of one pigment: absorption and scattering at every knot.
pub(super) const OF_ONE: usize = 2 * KNOTS;
/// Share of light by which even a good model of real paint misses. A choice.
pub(super) const COARSE: f64 = 0.008;
/// The same for a colour without a spectrum, in CIELAB units. A choice.
const COARSE_COLOUR: f64 = 0.8;
/// CIELAB units that a share of light amounts to at middle values: what turns the noise of a reading into that of its colour. An average.
const COLOUR_OF_LIGHT: f64 = 120.0;

/// How what is seen of something laid moves with what is believed.
pub(super) struct Slopes {
    /// What is seen.
    pub seen: Reflectance,
    /// Which numbers move it.
    pub touched: Vec<usize>,
    /// How each band, or each coordinate of the colour, moves with each of them.
    pub by: Matrix,
}

/// What something laid from these pigments looks like; `None` where the ground does not take it.
pub(super) fn laid_of(now: &[Pigment], laid: &Layering, state: State) -> Option<Reflectance> {
    laid_with(&|id| now.iter().find(|p| p.id == *id), laid, state)
}

fn laid_with<'a>(known: &dyn Fn(&PigmentId) -> Option<&'a Pigment>, laid: &Layering<'a>, state: State) -> Option<Reflectance> {
    let layers = laid.layers.iter().map(|l| l.with(&known)).collect();
    Layering { ground: laid.ground, layers }.lay_with(state, &Choices::default()).ok().map(|l| l.reflectance)
}

/// What something laid looks like, and how each band moves with each number believed of the pigments in it.
pub(super) fn slopes(now: &[Pigment], laid: &Layering, state: State) -> Option<Slopes> {
    const STEP: f64 = 1e-3;
    let seen = laid_of(now, laid, state)?;
    let within: Vec<usize> = (0..now.len()).filter(|p| laid.layers.iter().any(|l| l.holds(&now[*p].id))).collect();
    let mut by = Matrix::zeros(BANDS, within.len() * OF_ONE);
    for (column, p) in within.iter().enumerate() {
        for half in 0..2 {
            let mut bumped = now[*p].clone();
            let list = if half == 0 { &mut bumped.k } else { &mut bumped.s };
            list.iter_mut().for_each(|x| *x *= 1.0 + STEP);
            let known = |id: &PigmentId| if bumped.id == *id { Some(&bumped) } else { now.iter().find(|p| p.id == *id) };
            let there = laid_with(&known, laid, state)?;
            for band in 0..BANDS {
                let slope = (there.0[band] - seen.0[band]) / STEP;
                for (knot, share) in hats(band) {
                    by[(band, column * OF_ONE + half * KNOTS + knot)] += slope * share;
                }
            }
        }
    }
    Some(Slopes { seen, touched: within.iter().flat_map(|p| p * OF_ONE..(p + 1) * OF_ONE).collect(), by })
}

/// The rows of one reading, each divided by its expected error, and what each misses.
pub(super) fn rows(now: &[Pigment], o: &Observation) -> Option<(Slopes, Vec<f64>)> {
    let mut slopes = slopes(now, &o.laid, o.reading.state)?;
    let misses = misses(&o.reading, &slopes.seen);
    slopes.by = match o.reading.of {
        Evidence::Spectral(_) => slopes.by.scaled(1.0 / o.reading.noise.hypot(COARSE)),
        Evidence::ColourOnly(_) | Evidence::Judged(_) => {
            let (by, errors) = (colour_slopes(&slopes), colour_errors(&o.reading));
            Matrix::from_fn(by.rows(), by.columns(), |i, j| by[(i, j)] / errors[i])
        }
    };
    Some((slopes, misses))
}

/// What one reading misses, each number divided by its expected error.
pub(super) fn misses(reading: &Reading, seen: &Reflectance) -> Vec<f64> {
    match reading.of {
        Evidence::Spectral(read) => (0..BANDS).map(|i| (read.0[i] - seen.0[i]) / reading.noise.hypot(COARSE)).collect(),
        Evidence::ColourOnly(read) | Evidence::Judged(Judged { lab: read, .. }) => {
            let (lab, errors) = (seen.xyz().lab(), colour_errors(reading));
            vec![(read.l - lab.l) / errors[0], (read.a - lab.a) / errors[1], (read.b - lab.b) / errors[2]]
        }
    }
}

/// Expected errors of L*, a* and b* of a reading, in CIELAB units.
pub(super) fn colour_errors(reading: &Reading) -> [f64; 3] {
    let own = match reading.of {
        Evidence::Judged(j) => [j.value_error, j.colour_error, j.colour_error],
        Evidence::Spectral(_) | Evidence::ColourOnly(_) => [COLOUR_OF_LIGHT * reading.noise; 3],
    };
    own.map(|e| e.hypot(COARSE_COLOUR))
}

/// How sure a colour is, given the spread of the numbers that move it.
pub(super) fn doubt_of(spread: &Matrix, slopes: &Slopes) -> f64 {
    let by = colour_slopes(slopes);
    by.times(spread).times(&by.transposed()).trace().max(0.0).sqrt()
}

/// How L*, a* and b* move with each number believed: three rows.
fn colour_slopes(slopes: &Slopes) -> Matrix {
    const STEP: f64 = 1e-4;
    let base = slopes.seen.xyz().lab();
    // The colour moves with each band; each band with each number.
    let mut by_band = Matrix::zeros(3, BANDS);
    for band in 0..BANDS {
        let mut bumped = slopes.seen;
        bumped.0[band] += STEP;
        let there = bumped.xyz().lab();
        [there.l - base.l, there.a - base.a, there.b - base.b].iter().enumerate().for_each(|(row, x)| by_band[(row, band)] = x / STEP);
    }
    by_band.times(&slopes.by)
}

/// How far two colours lie apart, in CIELAB units.
pub(super) fn apart(a: Lab, b: Lab) -> f64 {
    ((a.l - b.l).powi(2) + (a.a - b.a).powi(2) + (a.b - b.b).powi(2)).sqrt()
}

/// The knots on either side of a band, and how much of each it takes.
fn hats(band: usize) -> [(usize, f64); 2] {
    let place = band as f64 / (BANDS - 1) as f64 * (KNOTS - 1) as f64;
    let low = (place as usize).min(KNOTS - 2);
    let share = place - low as f64;
    [(low, 1.0 - share), (low + 1, share)]
}

/// A model with what is believed of its difference.
pub(super) fn shifted(model: &Pigment, at: &[f64]) -> Pigment {
    let factor = |half: usize, band: usize| hats(band).iter().map(|(knot, share)| share * at[half * KNOTS + knot]).sum::<f64>().exp();
    Pigment {
        k: model.k.iter().enumerate().map(|(i, k)| k * factor(0, i)).collect(),
        s: model.s.iter().enumerate().map(|(i, s)| s * factor(1, i)).collect(),
        ..model.clone()
    }
}
