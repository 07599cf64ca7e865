//! Watercolour: a wash of up to three pigments at three strengths, and up to two washes over each other.

use super::{Form, Laying, OUTCOMES, Slip, WASHES, outcome, outcomes};
use crate::choices::Choices;
use crate::ground::Ground;
use crate::medium::Medium;
use crate::pigment::Pigment;
use crate::rows::{Film, Real, Row, Spectra, outside, padded, row, veiled};

/// Ways to mix one wash of so many pigments.
fn mixtures(pigments: usize) -> &'static [[u8; 3]] {
    match pigments {
        1 => &[[1, 0, 0]],
        2 => &[[1, 1, 0], [2, 1, 0], [1, 2, 0], [3, 1, 0], [1, 3, 0]],
        _ => &[[1, 1, 1], [2, 1, 1], [1, 2, 1], [1, 1, 2]],
    }
}

/// Pairs of washes, lower first, that hold each of so many pigments.
fn pairs(pigments: usize) -> &'static [[[u8; 3]; 2]] {
    match pigments {
        1 => &[[[1, 0, 0], [1, 0, 0]]],
        2 => &[[[1, 0, 0], [0, 1, 0]], [[0, 1, 0], [1, 0, 0]]],
        _ => &[
            [[1, 1, 0], [0, 0, 1]],
            [[1, 0, 1], [0, 1, 0]],
            [[0, 1, 1], [1, 0, 0]],
            [[0, 0, 1], [1, 1, 0]],
            [[0, 1, 0], [1, 0, 1]],
            [[1, 0, 0], [0, 1, 1]],
        ],
    }
}

const STEPS: usize = WASHES.len();
const STRENGTHS: std::ops::RangeInclusive<u8> = 1..=WASHES.len() as u8;

pub fn forms(pigments: usize) -> Vec<Form> {
    let wash = |parts: [u8; 3], amount| Laying { parts, amount, ..Laying::default() };
    let mut all: Vec<Form> = mixtures(pigments).iter().flat_map(|m| STRENGTHS.map(move |s| Form::of(&[wash(*m, s)]))).collect();
    for [lower, upper] in pairs(pigments) {
        for s in STRENGTHS {
            all.extend(STRENGTHS.map(|t| Form::of(&[wash(*lower, s), wash(*upper, t)])));
        }
    }
    all
}

/// One wash where pigment has gathered and where it has not.
struct Settled<T> {
    thin: Film<T>,
    thick: Film<T>,
}

impl<T: Real> Settled<T> {
    #[inline(always)]
    fn over(&self, ground: &Row<T>) -> Row<T> {
        let (a, b) = (self.thin.over(ground), self.thick.over(ground));
        row(|i| T::of(0.5) * (a[i] + b[i]))
    }
}

/// Washes of each pigment alone at each strength, and what is needed for mixed ones.
pub struct Pans<T> {
    paper: Row<T>,
    veil: f64,
    pigments: Vec<Spectra<T>>,
    /// Spread of thickness of each pigment on this paper.
    spreads: Vec<T>,
    /// How far each was thinned.
    thinned: Vec<T>,
    alone: Vec<[Settled<T>; STEPS * OUTCOMES]>,
}

impl<T: Real> Pans<T> {
    pub fn of(spectra: Vec<Spectra<T>>, pigments: &[&Pigment], ground: &Ground, choices: &Choices) -> Self {
        let spread = |p: &&Pigment| T::of(ground.tooth * if p.granulating { choices.wash.granulation } else { choices.wash.settling });
        let spreads: Vec<T> = pigments.iter().map(spread).collect();
        let alone = spectra.iter().zip(&spreads).map(|(s, spread)| outcomes(WASHES).map(|x: f64| settled(s, *spread, T::of(x)))).collect();
        let thinned = pigments.iter().map(|p| T::of(super::thinned(Medium::Watercolour, p))).collect();
        Self { paper: padded(&ground.inside.0), veil: choices.paper_veil, pigments: spectra, spreads, thinned, alone }
    }

    pub fn bare(&self) -> Row<T> {
        outside(&self.paper, |r| veiled(self.veil, r))
    }

    #[inline(always)]
    pub fn seen(&self, of: &[usize], form: &Form) -> Row<T> {
        let mut inside = self.paper;
        for l in form.layers() {
            let step = outcome::<STEPS>(l);
            inside = match l.parts.map(usize::from) {
                [n, 0, 0] if n > 0 => self.alone[of[0]][step].over(&inside),
                [0, n, 0] if n > 0 => self.alone[of[1]][step].over(&inside),
                [0, 0, n] if n > 0 => self.alone[of[2]][step].over(&inside),
                _ => self.mixed(of, l).over(&inside),
            };
        }
        outside(&inside, |r| veiled(self.veil, r))
    }

    #[inline(always)]
    fn mixed(&self, of: &[usize], l: &Laying) -> Settled<T> {
        let total: f64 = l.parts.iter().map(|n| f64::from(*n)).sum();
        let x = T::of(WASHES[usize::from(l.amount) - 1]);
        let hand = |place: usize| l.slip.filter(|s| usize::from(s.place) == place).map_or(1.0, Slip::factor);
        // Places without a pigment hold the first with no parts of it.
        let at = |place: usize| *of.get(place).unwrap_or(&of[0]);
        let share = |place: usize| T::of(hand(place) * f64::from(l.parts[place]) / total);
        let spectra: [(&Spectra<T>, T); 3] = std::array::from_fn(|place| (&self.pigments[at(place)], share(place)));
        // Pigment settles by how much of it there is, not by how strong it looks.
        let amount = |place: usize| share(place) * self.thinned[at(place)];
        let all = (0..3).fold(T::default(), |sum, place| sum + amount(place));
        let spread = (0..3).fold(T::default(), |sum, place| sum + amount(place) / all * self.spreads[at(place)]);
        settled(&Spectra::weighed(spectra), spread, x)
    }
}

#[inline(always)]
fn settled<T: Real>(of: &Spectra<T>, spread: T, x: T) -> Settled<T> {
    Settled { thin: Film::of(of, x * (T::of(1.0) - spread)), thick: Film::of(of, x * (T::of(1.0) + spread)) }
}
