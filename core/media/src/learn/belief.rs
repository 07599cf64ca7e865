//! What is believed of several pigments at once, and how readings of anything laid from them change it.
//!
//! Every pigment has a model to begin with; a painter's own tube, stick or pen differs from it. The belief is how much absorption and scattering may
//! lie above or below the model, smoothly over the spectrum, with how sure that is. Any reading of anything laid in any medium (masstone, tint,
//! film, coats, a trial of a mix) bears on all pigments in it: the general model of [`crate::layering`] says how. The estimate is the maximum a
//! posteriori one by Gauss–Newton (Marquardt 1963; Tarantola 2005, chapter 3), its spread the inverse of the information gathered.

use super::{CannotLearn, Evidence, Reading, sound};
use crate::choices::Choices;
use crate::layering::{Layering, State};
use crate::pigment::{Pigment, PigmentId};
use lean_colour::{BANDS, Lab, Reflectance};
use nalgebra::{DMatrix, DVector};

/// Knots between which the difference from a model runs evenly, 380 to 730 nm.
const KNOTS: usize = 9;
/// Numbers believed of one pigment: absorption and scattering at every knot.
const OF_ONE: usize = 2 * KNOTS;
/// How far pigments are expected to lie from their models as a whole, and knot by knot, in natural logarithms: a quarter in all. Choices.
const WHOLE: f64 = 0.20;
const LOCAL: f64 = 0.15;
/// Over how many knots a local difference reaches. A choice.
const REACH: f64 = 1.5;
/// White gives the scale of all others in wet paint: it is believed this much more firmly. A choice.
const WHITE: f64 = 0.2;
/// Share of light by which even a good model of real paint misses. A choice.
const COARSE: f64 = 0.008;
/// The same for a colour without a spectrum, in CIELAB units. A choice.
const COARSE_COLOUR: f64 = 0.8;
/// CIELAB units that a share of light amounts to at middle values: what turns the noise of a reading into that of its colour. An average.
const COLOUR_OF_LIGHT: f64 = 120.0;
/// A reading is unexplained from this many times its expected spread, and this far in CIELAB units. Choices.
const STRAY: (f64, f64) = (4.0, 3.5);

/// Something laid and what was read of it.
#[derive(Clone, Debug)]
pub struct Observation<'a> {
    /// What was laid.
    pub laid: Layering<'a>,
    /// What was read.
    pub reading: Reading,
}

/// A reading the belief cannot explain.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Stray {
    /// Which, by its position.
    pub nth: usize,
    /// How far it lies from what all others expect of it, in CIELAB units.
    pub off: f64,
    /// How far that was expected to be uncertain.
    pub expected: f64,
}

/// What is believed of some pigments.
#[derive(Clone, Debug)]
pub struct Belief {
    models: Vec<Pigment>,
    now: Vec<Pigment>,
    /// Differences from the models in natural logarithms.
    at: DVector<f64>,
    /// Their covariance.
    spread: DMatrix<f64>,
    /// The inverse of the covariance before anything was read.
    firmness: DMatrix<f64>,
}

impl Belief {
    /// What is believed of pigments before anything was read: their models.
    pub fn of(models: &[&Pigment]) -> Self {
        let n = models.len() * OF_ONE;
        let mut spread = DMatrix::zeros(n, n);
        for (p, pigment) in models.iter().enumerate() {
            let firm = if pigment.white { WHITE } else { 1.0 };
            for half in 0..2 {
                for i in 0..KNOTS {
                    for j in 0..KNOTS {
                        let apart = i.abs_diff(j) as f64;
                        let (a, b) = (p * OF_ONE + half * KNOTS + i, p * OF_ONE + half * KNOTS + j);
                        spread[(a, b)] = firm * firm * (WHOLE * WHOLE + LOCAL * LOCAL * (-apart / REACH).exp());
                    }
                }
            }
        }
        let firmness = spread.clone().cholesky().map(|c| c.inverse()).unwrap_or_else(|| DMatrix::identity(n, n));
        let models: Vec<Pigment> = models.iter().map(|p| (*p).clone()).collect();
        Self { now: models.clone(), models, at: DVector::zeros(n), spread, firmness }
    }

    /// The pigments as they are believed to be.
    pub fn pigments(&self) -> &[Pigment] {
        &self.now
    }

    /// The belief when all that was read is taken into account, and the readings that were left out because nothing else explains them. Readings of
    /// pigments nothing is believed of count by what they say of the others.
    ///
    /// # Errors
    /// When a reading holds numbers that are no surface's. Wet and dry may be mixed: each is explained in its own state.
    pub fn after(&self, seen: &[Observation]) -> Result<(Self, Vec<Stray>), CannotLearn> {
        if seen.is_empty() {
            return Ok((self.clone(), Vec::new()));
        }
        sound(&seen.iter().map(|o| &o.reading).collect::<Vec<_>>())?;
        let mut kept: Vec<usize> = (0..seen.len()).collect();
        let mut strays = Vec::new();
        loop {
            let belief = self.fitted(seen, &kept);
            match belief.strangest(seen, &kept) {
                Some(stray) if kept.len() > 1 && strays.len() < seen.len() / 3 + 1 => {
                    kept.retain(|n| *n != stray.nth);
                    strays.push(stray);
                }
                _ => {
                    strays.sort_by_key(|s| s.nth);
                    return Ok((belief, strays));
                }
            }
        }
    }

    /// How sure the colour of something laid is, in CIELAB units: the root of the summed variances of L*, a* and b*.
    pub fn doubt(&self, laid: &Layering) -> f64 {
        self.slopes(laid, State::Dry).map_or(0.0, |s| doubt_of(&self.spread_of(&s.touched), &s))
    }

    /// How sure the colour of `of` would be if `read` were read too, with that noise.
    pub fn doubt_if_read(&self, read: &Layering, noise: f64, of: &Layering) -> f64 {
        let Some(asked) = self.slopes(of, State::Dry) else { return 0.0 };
        let prior = self.spread_of(&asked.touched);
        let Some(tried) = self.slopes(read, State::Dry) else { return doubt_of(&prior, &asked) };
        let error = noise.hypot(COARSE);
        let between = self.spread_between(&asked.touched, &tried.touched) * tried.by.transpose();
        let mut within = &tried.by * self.spread_of(&tried.touched) * tried.by.transpose();
        (0..BANDS).for_each(|i| within[(i, i)] += error * error);
        let Some(solved) = within.cholesky() else { return doubt_of(&prior, &asked) };
        doubt_of(&(prior - &between * solved.solve(&between.transpose())), &asked)
    }

    fn spread_of(&self, touched: &[usize]) -> DMatrix<f64> {
        self.spread_between(touched, touched)
    }

    fn spread_between(&self, rows: &[usize], columns: &[usize]) -> DMatrix<f64> {
        DMatrix::from_fn(rows.len(), columns.len(), |i, j| self.spread[(rows[i], columns[j])])
    }

    fn fitted(&self, seen: &[Observation], kept: &[usize]) -> Self {
        const ROUNDS: usize = 12;
        let mut at = self.clone();
        let mut cost = at.misfit(seen, kept);
        for _ in 0..ROUNDS {
            let (mut information, mut pull) = (self.firmness.clone(), -(&self.firmness * &at.at));
            for nth in kept {
                if let Some((slopes, misses)) = at.rows(&seen[*nth]) {
                    let (own, towards) = (slopes.by.transpose() * &slopes.by, slopes.by.transpose() * misses);
                    for (i, a) in slopes.touched.iter().enumerate() {
                        pull[*a] += towards[i];
                        slopes.touched.iter().enumerate().for_each(|(j, b)| information[(*a, *b)] += own[(i, j)]);
                    }
                }
            }
            let Some(solved) = information.cholesky() else { break };
            let step = solved.solve(&pull);
            at.spread = solved.inverse();
            // Half the way, and half of that, until it is a better place.
            let better = (0..6).map(|n| 0.5f64.powi(n)).find_map(|share| {
                let tried = at.moved(&step, share);
                let cost_there = tried.misfit(seen, kept);
                (cost_there < cost).then_some((tried, cost_there))
            });
            let Some((next, there)) = better else { break };
            let settled = cost - there < 1e-4 * (1.0 + cost);
            (at, cost) = (next, there);
            if settled {
                break;
            }
        }
        at
    }

    fn moved(&self, step: &DVector<f64>, share: f64) -> Self {
        let mut next = self.clone();
        next.at = (&self.at + step * share).map(|x| x.clamp(-2.0, 2.0));
        next.now =
            next.models.iter().enumerate().map(|(p, model)| shifted(model, &next.at.as_slice()[p * OF_ONE..(p + 1) * OF_ONE])).collect();
        next
    }

    /// Half the sum of squares that is made least.
    fn misfit(&self, seen: &[Observation], kept: &[usize]) -> f64 {
        let of = |nth: &usize| {
            let o = &seen[*nth];
            self.laid(&o.laid, o.reading.state).map_or(0.0, |r| misses(&o.reading, &r).norm_squared())
        };
        0.5 * (self.at.dot(&(&self.firmness * &self.at)) + kept.iter().map(of).sum::<f64>())
    }

    /// What something laid is believed to look like; `None` where the ground does not take it.
    pub fn laid(&self, laid: &Layering, state: State) -> Option<Reflectance> {
        laid_of(&self.now, laid, state)
    }

    /// What something laid looks like, and how each band moves with each number believed of the pigments in it.
    fn slopes(&self, laid: &Layering, state: State) -> Option<Slopes> {
        const STEP: f64 = 1e-3;
        let seen = self.laid(laid, state)?;
        let within: Vec<usize> = (0..self.now.len()).filter(|p| laid.layers.iter().any(|l| l.holds(&self.now[*p].id))).collect();
        let mut by = DMatrix::zeros(BANDS, within.len() * OF_ONE);
        let mut now = self.now.clone();
        for (column, p) in within.iter().enumerate() {
            let pigment = &self.now[*p];
            for half in 0..2 {
                let mut bumped = pigment.clone();
                let list = if half == 0 { &mut bumped.k } else { &mut bumped.s };
                list.iter_mut().for_each(|x| *x *= 1.0 + STEP);
                now[*p] = bumped;
                let there = laid_of(&now, laid, state)?;
                now[*p] = pigment.clone();
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
    fn rows(&self, o: &Observation) -> Option<(Slopes, DVector<f64>)> {
        let mut slopes = self.slopes(&o.laid, o.reading.state)?;
        let misses = misses(&o.reading, &slopes.seen);
        slopes.by = match o.reading.of {
            Evidence::Spectral(_) => &slopes.by / o.reading.noise.hypot(COARSE),
            Evidence::ColourOnly(_) => colour_slopes(&slopes) / colour_error(&o.reading),
        };
        Some((slopes, misses))
    }

    /// The reading that lies farthest from what all others expect of it, if any is unexplained.
    fn strangest(&self, seen: &[Observation], kept: &[usize]) -> Option<Stray> {
        let judged = kept.iter().filter_map(|nth| self.without(&seen[*nth], *nth));
        let strangest = judged.max_by(|a, b| (a.off / a.expected).total_cmp(&(b.off / b.expected)))?;
        (strangest.off > STRAY.0 * strangest.expected && strangest.off > STRAY.1).then_some(strangest)
    }

    /// How far one reading lies from what the others expect of it: to first order, what it taught is taken out again.
    fn without(&self, o: &Observation, nth: usize) -> Option<Stray> {
        let (rows, misses) = self.rows(o)?;
        let spread = self.spread_of(&rows.touched);
        let by = &spread * rows.by.transpose();
        let left = DMatrix::identity(rows.by.nrows(), rows.by.nrows()) - &rows.by * &by;
        let solved = left.cholesky()?;
        let without = &spread + &by * solved.solve(&by.transpose());
        let back = &without * rows.by.transpose() * misses;
        let mut step = DVector::zeros(self.at.len());
        rows.touched.iter().zip(back.iter()).for_each(|(i, x)| step[*i] = *x);
        let expected = self.moved(&step, -1.0).slopes(&o.laid, o.reading.state)?;
        let read = match o.reading.of {
            Evidence::Spectral(r) => r.xyz().lab(),
            Evidence::ColourOnly(lab) => lab,
        };
        let off = apart(read, expected.seen.xyz().lab());
        Some(Stray { nth, off, expected: doubt_of(&without, &expected).hypot(3f64.sqrt() * colour_error(&o.reading)) })
    }
}

/// How what is seen moves with what is believed.
struct Slopes {
    /// What is seen.
    seen: Reflectance,
    /// Which numbers move it.
    touched: Vec<usize>,
    /// How each band, or each coordinate of the colour, moves with each of them.
    by: DMatrix<f64>,
}

/// How sure a colour is, given the spread of the numbers that move it.
fn doubt_of(spread: &DMatrix<f64>, slopes: &Slopes) -> f64 {
    let by = colour_slopes(slopes);
    (&by * spread * by.transpose()).trace().max(0.0).sqrt()
}

fn laid_of(now: &[Pigment], laid: &Layering, state: State) -> Option<Reflectance> {
    let known = |id: &PigmentId| now.iter().find(|p| p.id == *id);
    let layers = laid.layers.iter().map(|l| l.with(&known)).collect();
    Layering { ground: laid.ground, layers }.lay_with(state, &Choices::default()).ok().map(|l| l.reflectance)
}

/// What one reading misses, each number divided by its expected error.
fn misses(reading: &Reading, seen: &Reflectance) -> DVector<f64> {
    match reading.of {
        Evidence::Spectral(read) => DVector::from_fn(BANDS, |i, _| (read.0[i] - seen.0[i]) / reading.noise.hypot(COARSE)),
        Evidence::ColourOnly(read) => {
            let lab = seen.xyz().lab();
            DVector::from_vec(vec![read.l - lab.l, read.a - lab.a, read.b - lab.b]) / colour_error(reading)
        }
    }
}

fn colour_error(reading: &Reading) -> f64 {
    (COLOUR_OF_LIGHT * reading.noise).hypot(COARSE_COLOUR)
}

fn apart(a: Lab, b: Lab) -> f64 {
    ((a.l - b.l).powi(2) + (a.a - b.a).powi(2) + (a.b - b.b).powi(2)).sqrt()
}

/// How L*, a* and b* move with each number believed: three rows.
fn colour_slopes(slopes: &Slopes) -> DMatrix<f64> {
    const STEP: f64 = 1e-4;
    let base = slopes.seen.xyz().lab();
    // The colour moves with each band; each band with each number.
    let mut by_band = DMatrix::zeros(3, BANDS);
    for band in 0..BANDS {
        let mut bumped = slopes.seen;
        bumped.0[band] += STEP;
        let there = bumped.xyz().lab();
        [there.l - base.l, there.a - base.a, there.b - base.b].iter().enumerate().for_each(|(row, x)| by_band[(row, band)] = x / STEP);
    }
    by_band * &slopes.by
}

/// The knots on either side of a band, and how much of each it takes.
fn hats(band: usize) -> [(usize, f64); 2] {
    let place = band as f64 / (BANDS - 1) as f64 * (KNOTS - 1) as f64;
    let low = (place as usize).min(KNOTS - 2);
    let share = place - low as f64;
    [(low, 1.0 - share), (low + 1, share)]
}

/// A model with what is believed of its difference.
fn shifted(model: &Pigment, at: &[f64]) -> Pigment {
    let factor = |half: usize, band: usize| hats(band).iter().map(|(knot, share)| share * at[half * KNOTS + knot]).sum::<f64>().exp();
    Pigment {
        k: model.k.iter().enumerate().map(|(i, k)| k * factor(0, i)).collect(),
        s: model.s.iter().enumerate().map(|(i, s)| s * factor(1, i)).collect(),
        ..model.clone()
    }
}
