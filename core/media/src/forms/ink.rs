//! Alcohol marker: up to three pens in order, one or two coats each.

use super::{COAT, Form, OUTCOMES, layered, outcome, outcomes, place_of};
use crate::choices::Choices;
use crate::ground::Ground;
use crate::rows::{PADDED_BANDS, Real, Row, Spectra, outside, padded, row, veiled};

/// Most coats of one pen in one recipe.
const MOST_COATS: u8 = 2;
const STEPS: usize = MOST_COATS as usize;

pub fn forms(pigments: usize) -> Vec<Form> {
    layered(pigments, MOST_COATS, &[false], |_| true)
}

/// How often later pens have dissolved what a pen left, at most.
const MOST_DISSOLVED: usize = 4;

/// What each pen lets through in each number of coats, after others have carried some off.
pub struct Pens<T> {
    paper: Row<T>,
    veil: f64,
    /// `[pen][coats − 1 as they turn out][times dissolved]`.
    through: Vec<[[Row<T>; MOST_DISSOLVED + 1]; STEPS * OUTCOMES]>,
}

impl<T: Real> Pens<T> {
    pub fn of(pens: &[Spectra<f64>], ground: &Ground, choices: &Choices) -> Self {
        let ink = choices.ink;
        let laid: [f64; STEPS] = std::array::from_fn(|coats| (0..=coats).map(|n| COAT * ink.further_coat.powi(n as i32)).sum());
        let laid: [f64; STEPS * OUTCOMES] = outcomes(laid);
        let dose = |step: usize, dissolved: usize| laid[step] * (1.0 - ink.redissolved).powi(dissolved as i32);
        let through = |pen: &Spectra<f64>| {
            std::array::from_fn(|step| std::array::from_fn(|dissolved| row(|i| T::of((-2.0 * pen.k[i] * dose(step, dissolved)).exp()))))
        };
        Self { paper: padded(&ground.inside.0), veil: choices.paper_veil, through: pens.iter().map(through).collect() }
    }

    pub fn bare(&self) -> Row<T> {
        outside(&self.paper, |r| veiled(self.veil, r))
    }

    #[inline(always)]
    pub fn seen(&self, of: &[usize], form: &Form) -> Row<T> {
        let layers = form.layers();
        let mut inside: Row<T> = self.paper;
        for (n, l) in layers.iter().enumerate() {
            // Every later coat of another pen carries some off.
            let dissolved: u8 = layers[n + 1..].iter().map(|later| later.amount).sum();
            let through = &self.through[of[place_of(l)]][outcome::<STEPS>(l)][usize::from(dissolved)];
            for i in 0..PADDED_BANDS {
                inside[i] = inside[i] * through[i];
            }
        }
        outside(&inside, |r| veiled(self.veil, r))
    }
}
