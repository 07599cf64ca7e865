//! Alcohol marker: what is left of every pen when all coats are on.

use super::{Act, Form, MOST_PIGMENTS, place_of};
use crate::choices::{Choices, Dulling, InkChoices};
use crate::ground::Ground;
use crate::pens::COAT;
use crate::rows::{PADDED_BANDS, Real, Row, Spectra, crossed, outside, padded, row};
use lean_colour::BANDS;

/// Absorption of each pen.
pub(super) struct Pens<T> {
    paper: Row<T>,
    bare: Row<T>,
    choices: Choices,
    absorbs: Vec<Row<T>>,
    /// Luminous depth of each pen for a dose of one.
    depths: Vec<f64>,
}

impl<T: Real> Pens<T> {
    pub(super) fn of(pens: &[Spectra<f64>], ground: &Ground, choices: &Choices) -> Self {
        let absorbs = |pen: &Spectra<f64>| row(|i| T::of(-2.0 * pen.k[i]));
        Self {
            paper: padded(&ground.under(choices.paper).0),
            bare: padded(&ground.seen().0),
            choices: *choices,
            absorbs: pens.iter().map(absorbs).collect(),
            depths: pens.iter().map(|pen| Dulling::depth(&pen.k[..BANDS])).collect(),
        }
    }

    pub(super) fn bare(&self) -> Row<T> {
        self.bare
    }

    #[inline(always)]
    pub(super) fn seen(&self, of: &[usize], form: &Form) -> Row<T> {
        let mut luminous = 0.0;
        let doses = left(form, &self.choices.ink);
        for (place, dose) in doses.into_iter().enumerate().take(of.len()) {
            luminous += self.depths[of[place]] * dose;
        }
        let mut depth = [T::of(-2.0 * self.choices.ink.dulling.grey(luminous)); PADDED_BANDS];
        for (place, dose) in doses.into_iter().enumerate().take(of.len()) {
            let dose = T::of(dose);
            for (d, k) in depth.iter_mut().zip(&self.absorbs[of[place]]) {
                *d = *d + *k * dose;
            }
        }
        let mut inside = self.paper;
        for i in 0..PADDED_BANDS {
            inside[i] = inside[i] * depth[i].exponential();
        }
        outside(&inside, |r| crossed(self.choices.paper, r))
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
        let kept = 1.0 - if l.act == Act::Lift { ink.blender } else { form.taking.ink(ink) };
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
