//! Coloured pencil: up to three pencils in order, each laid light, middle or firm.

use super::{Form, MOST_LAYERS, OUTCOMES, PRESSURES, layered, outcome, outcomes, place_of};
use crate::choices::Choices;
use crate::ground::Ground;
use crate::rows::{Film, PADDED_BANDS, Real, Row, Spectra, padded};

const STEPS: usize = PRESSURES.len();

pub fn forms(pigments: usize) -> Vec<Form> {
    layered(pigments, PRESSURES.len() as u8, &[false], |_| true)
}

/// Pressures as they turn out: nobody presses harder than the point bears.
fn pressures() -> [f64; STEPS * OUTCOMES] {
    outcomes(PRESSURES).map(|p: f64| p.min(1.0))
}

/// Films of each pencil at each pressure.
pub struct Pencils<T> {
    paper: Row<T>,
    spread: T,
    narrow: T,
    covers: [T; STEPS * OUTCOMES],
    films: Vec<[Film<T>; STEPS * OUTCOMES]>,
}

impl<T: Real> Pencils<T> {
    pub fn of(pencils: &[Spectra<T>], ground: &Ground, choices: &Choices) -> Self {
        let c = choices.pencil;
        Self {
            paper: padded(&ground.inside.0),
            spread: T::of(c.spread),
            narrow: T::of(1.0 / c.spread),
            covers: pressures().map(|p| T::of(c.most_cover * (1.0 - (-c.cover_rate * p).exp()))),
            films: pencils.iter().map(|p| pressures().map(|pressure| Film::of(p, T::of(c.film * pressure)))).collect(),
        }
    }

    /// Bare paper, unlike between strokes, has its veil.
    pub fn bare(&self, choices: &Choices) -> Row<T> {
        crate::rows::outside(&self.paper, |r| crate::rows::veiled(choices.paper_veil, r))
    }

    /// `lower` remembers the layers beneath the last one: forms that follow each other often share them.
    #[inline(always)]
    pub fn seen(&self, of: &[usize], form: &Form, lower: &mut Lower<T>) -> Row<T> {
        let layers = form.layers();
        let place = |l: &super::Laying| (of[place_of(l)], outcome::<STEPS>(l));
        let (last, below) = (layers.len() - 1, &layers[..layers.len() - 1]);
        if lower.states == 0 || lower.laid.len() != below.len() || !below.iter().zip(&lower.laid).all(|(l, known)| place(l) == *known) {
            lower.start(self);
            // A loop, not a closure: only what is inlined is compiled for wide registers.
            for l in below {
                lower.lay(self, place(l));
            }
        }
        let (pencil, step) = place(&layers[last]);
        let (cover, film) = (self.covers[step], &self.films[pencil][step]);
        let mut sum = lower.sum;
        for x in &mut sum {
            *x = *x * (T::of(1.0) - cover);
        }
        for state in 0..lower.states {
            let (area, beneath) = (cover * lower.areas[state], &lower.there[state]);
            for i in 0..PADDED_BANDS {
                sum[i] = sum[i] + area * film.over_one(i, beneath[i]).power(self.narrow);
            }
        }
        for x in &mut sum {
            *x = x.power(self.spread);
        }
        sum
    }
}

/// Layers beneath the last one: what is seen where each of them covers or not.
pub struct Lower<T> {
    /// Pencil and pressure of each.
    laid: Vec<(usize, usize)>,
    states: usize,
    areas: [T; 1 << (MOST_LAYERS - 1)],
    there: [Row<T>; 1 << (MOST_LAYERS - 1)],
    /// All of it together, as strokes are averaged.
    sum: Row<T>,
}

impl<T: Real> Default for Lower<T> {
    fn default() -> Self {
        let empty = [T::default(); PADDED_BANDS];
        Self { laid: Vec::new(), states: 0, areas: Default::default(), there: [empty; 1 << (MOST_LAYERS - 1)], sum: empty }
    }
}

impl<T: Real> Lower<T> {
    fn start(&mut self, pencils: &Pencils<T>) {
        self.laid.clear();
        (self.states, self.areas[0], self.there[0]) = (1, T::of(1.0), pencils.paper);
        for (x, paper) in self.sum.iter_mut().zip(&pencils.paper) {
            *x = paper.power(pencils.narrow);
        }
    }

    #[inline(always)]
    fn lay(&mut self, pencils: &Pencils<T>, (pencil, step): (usize, usize)) {
        let (cover, film) = (pencils.covers[step], &pencils.films[pencil][step]);
        let rest = T::of(1.0) - cover;
        for x in &mut self.sum {
            *x = *x * rest;
        }
        for state in 0..self.states {
            let area = self.areas[state] * cover;
            let beneath = self.there[state];
            let covered = &mut self.there[state + self.states];
            for i in 0..PADDED_BANDS {
                covered[i] = film.over_one(i, beneath[i]);
                self.sum[i] = self.sum[i] + area * covered[i].power(pencils.narrow);
            }
            self.areas[state + self.states] = area;
            self.areas[state] = self.areas[state] * rest;
        }
        self.states *= 2;
        self.laid.push((pencil, step));
    }
}
