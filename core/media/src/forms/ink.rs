//! Alcohol marker: what is left of every pen when all coats are on.

use super::{Act, COAT, Form, MOST_PIGMENTS, place_of};
use crate::choices::{Choices, InkChoices};
use crate::ground::Ground;
use crate::rows::{PADDED_BANDS, Real, Row, Spectra, outside, padded, row, veiled};

/// Absorption of each pen.
pub struct Pens<T> {
    paper: Row<T>,
    veil: f64,
    ink: InkChoices,
    absorbs: Vec<Row<T>>,
}

impl<T: Real> Pens<T> {
    pub fn of(pens: &[Spectra<f64>], ground: &Ground, choices: &Choices) -> Self {
        let absorbs = |pen: &Spectra<f64>| row(|i| T::of(-2.0 * pen.k[i]));
        Self { paper: padded(&ground.inside.0), veil: choices.paper_veil, ink: choices.ink, absorbs: pens.iter().map(absorbs).collect() }
    }

    pub fn bare(&self) -> Row<T> {
        outside(&self.paper, |r| veiled(self.veil, r))
    }

    #[inline(always)]
    pub fn seen(&self, of: &[usize], form: &Form) -> Row<T> {
        let mut depth = [T::default(); PADDED_BANDS];
        for (place, dose) in left(form, &self.ink).into_iter().enumerate().take(of.len()) {
            let dose = T::of(dose);
            for (d, k) in depth.iter_mut().zip(&self.absorbs[of[place]]) {
                *d = *d + *k * dose;
            }
        }
        let mut inside = self.paper;
        for i in 0..PADDED_BANDS {
            inside[i] = inside[i] * depth[i].exponential();
        }
        outside(&inside, |r| veiled(self.veil, r))
    }
}

/// Dose of the pen in each place that is left. A further coat of the same pen leaves less than the one before; a coat of another pen, or of
/// blender, carries off some of what lies beneath.
#[inline(always)]
fn left(form: &Form, ink: &InkChoices) -> [f64; MOST_PIGMENTS] {
    let mut doses = [0.0; MOST_PIGMENTS];
    let mut next = [COAT; MOST_PIGMENTS];
    for l in form.layings() {
        let fresh = if l.adds() { place_of(l) } else { MOST_PIGMENTS };
        let kept = 1.0 - if l.act == Act::Lift { ink.blender } else { ink.redissolved };
        let kept = [1.0, kept, kept * kept, kept * kept * kept][usize::from(l.times)];
        for (place, dose) in doses.iter_mut().enumerate() {
            *dose *= if place == fresh { 1.0 } else { kept };
        }
        if fresh < MOST_PIGMENTS {
            for _ in 0..l.times {
                doses[fresh] += next[fresh] * l.hand(fresh);
                next[fresh] *= ink.further_coat;
            }
        }
    }
    doses
}
