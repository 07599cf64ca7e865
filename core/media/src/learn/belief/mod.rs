//! What is believed of several pigments at once, and how readings of anything laid from them change it.
//!
//! Every pigment has a model to begin with; a painter's own tube, stick or pen differs from it. The belief is how much absorption and scattering may
//! lie above or below the model, smoothly over the spectrum, with how sure that is. Any reading of anything laid in any medium (masstone, tint,
//! film, coats, a trial of a mix) bears on all pigments in it: the general model of [`crate::layering`] says how. The estimate is the maximum a
//! posteriori one by Gauss–Newton (Marquardt 1963; Tarantola 2005, chapter 3), its spread the inverse of the information gathered.

mod fit;
mod slopes;
mod strays;

pub use strays::Stray;

use super::{CannotLearn, Reading, sound};
use crate::layering::{Layering, State};
use crate::pigment::Pigment;
use lean_colour::{BANDS, Reflectance};
use lean_linear::Matrix;
use slopes::{COARSE, KNOTS, OF_ONE, doubt_of, laid_of, shifted, slopes};

/// How far pigments are expected to lie from their models as a whole, and knot by knot, in natural logarithms: a quarter in all. Choices.
const WHOLE: f64 = 0.20;
const LOCAL: f64 = 0.15;
/// Over how many knots a local difference reaches. A choice.
const REACH: f64 = 1.5;
/// White gives the scale of all others in wet paint: it is believed this much more firmly. A choice.
const WHITE: f64 = 0.2;
/// How far from its model a pigment is ever believed to lie at a knot, in natural logarithms. A choice.
const FARTHEST: f64 = 2.0;

/// Something laid and what was read of it.
#[derive(Clone, Debug)]
pub struct Observation<'a> {
    /// What was laid.
    pub laid: Layering<'a>,
    /// What was read.
    pub reading: Reading,
}

/// What is believed of some pigments.
#[derive(Clone, Debug)]
pub struct Belief {
    models: Vec<Pigment>,
    now: Vec<Pigment>,
    /// Differences from the models in natural logarithms.
    at: Vec<f64>,
    /// Their covariance.
    spread: Matrix,
    /// The inverse of the covariance before anything was read.
    firmness: Matrix,
}

impl Belief {
    /// What is believed of pigments before anything was read: their models.
    pub fn of(models: &[&Pigment]) -> Self {
        let n = models.len() * OF_ONE;
        let mut spread = Matrix::zeros(n, n);
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
        let firmness = spread.cholesky().map_or_else(|| Matrix::identity(n), |c| c.inverse());
        let models: Vec<Pigment> = models.iter().map(|p| (*p).clone()).collect();
        Self { now: models.clone(), models, at: vec![0.0; n], spread, firmness }
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
        Ok(strays::left_out(self, seen))
    }

    /// What something laid is believed to look like; `None` where the ground does not take it.
    pub fn laid(&self, laid: &Layering, state: State) -> Option<Reflectance> {
        laid_of(&self.now, laid, state)
    }

    /// How sure the colour of something laid is, in CIELAB units: the root of the summed variances of L*, a* and b*.
    pub fn doubt(&self, laid: &Layering) -> f64 {
        slopes(&self.now, laid, State::Dry).map_or(0.0, |s| doubt_of(&self.spread_of(&s.touched), &s))
    }

    /// How sure the colour of `of` would be if `read` were read too, with that noise.
    pub fn doubt_if_read(&self, read: &Layering, noise: f64, of: &Layering) -> f64 {
        let Some(asked) = slopes(&self.now, of, State::Dry) else { return 0.0 };
        let prior = self.spread_of(&asked.touched);
        let Some(tried) = slopes(&self.now, read, State::Dry) else { return doubt_of(&prior, &asked) };
        let error = noise.hypot(COARSE);
        let back = tried.by.transposed();
        let between = self.spread_between(&asked.touched, &tried.touched).times(&back);
        let mut within = tried.by.times(&self.spread_of(&tried.touched)).times(&back);
        (0..BANDS).for_each(|i| within[(i, i)] += error * error);
        let Some(solved) = within.cholesky() else { return doubt_of(&prior, &asked) };
        doubt_of(&(prior - &between.times(&solved.solve(&between.transposed()))), &asked)
    }

    fn spread_of(&self, touched: &[usize]) -> Matrix {
        self.spread_between(touched, touched)
    }

    fn spread_between(&self, rows: &[usize], columns: &[usize]) -> Matrix {
        Matrix::from_fn(rows.len(), columns.len(), |i, j| self.spread[(rows[i], columns[j])])
    }

    /// The pigments at other differences from their models.
    fn pigments_at(&self, at: &[f64]) -> Vec<Pigment> {
        self.models.iter().enumerate().map(|(p, model)| shifted(model, &at[p * OF_ONE..(p + 1) * OF_ONE])).collect()
    }
}
