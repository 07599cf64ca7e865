//! Coloured pencil: pencils over each other, each light, middle or firm and up to three times, and burnished.

use super::{Act, Form, Laying, MOST_PIGMENTS, OUTCOMES, PRESSURES, outcome, outcomes, place_of};
use crate::choices::{Choices, PencilChoices};
use crate::ground::Ground;
use crate::pigment::Pigment;
use crate::rows::{Film, PADDED_BANDS, Real, Row, Spectra, crossed, outside, padded};

const STEPS: usize = PRESSURES.len() * OUTCOMES;
/// Most layers of one pencil straight on itself.
const MOST_TIMES: usize = 3;

/// Pressures as they turn out: nobody presses harder than the point bears.
fn pressures() -> [f64; STEPS] {
    outcomes(PRESSURES).map(|p: f64| p.min(1.0))
}

/// What layers of one pencil come to.
#[derive(Clone, Copy)]
struct Stroke<T> {
    cover: T,
    film: f64,
}

/// Films of each pencil at each pressure, as often as it is laid.
pub(super) struct Pencils<T> {
    paper: Row<T>,
    bare: Row<T>,
    choices: PencilChoices,
    spread: T,
    narrow: T,
    /// The paper as strokes are averaged.
    between: Row<T>,
    /// Film the tooth holds in all.
    holds: f64,
    strokes: [[Stroke<T>; MOST_TIMES]; STEPS],
    pigments: Vec<Spectra<T>>,
    films: Vec<[[Film<T>; MOST_TIMES]; STEPS]>,
}

impl<T: Real> Pencils<T> {
    pub(super) fn of(pencils: &[&Pigment], ground: &Ground, choices: &Choices) -> Self {
        let c = choices.pencil;
        let in_wax = |p: &&Pigment| {
            let (k, s) = c.in_wax(p, choices.dulling);
            Spectra { k: padded(&k), s: padded(&s) }
        };
        let pencils: Vec<Spectra<T>> = pencils.iter().map(in_wax).collect();
        let paper = ground.under(c.surface).0;
        let stroke = |pressure: f64, times: usize| Stroke {
            cover: T::of(c.most_cover * (1.0 - (-c.cover_rate * pressure * times as f64).exp())),
            film: c.film * pressure * times as f64,
        };
        let strokes = pressures().map(|p| std::array::from_fn(|n| stroke(p, n + 1)));
        let films = |p: &Spectra<T>| strokes.map(|often: [Stroke<T>; MOST_TIMES]| often.map(|s| Film::of(p, T::of(s.film))));
        Self {
            paper: padded(&paper),
            bare: padded(&ground.seen().0),
            choices: c,
            spread: T::of(c.spread),
            narrow: T::of(1.0 / c.spread),
            between: padded(&paper.map(|r| r.max(1e-12).powf(1.0 / c.spread))),
            holds: c.most_film.min(ground.pencil_film),
            films: pencils.iter().map(films).collect(),
            pigments: pencils,
            strokes,
        }
    }

    pub(super) fn bare(&self) -> Row<T> {
        self.bare
    }

    fn stroke(&self, l: &Laying) -> Stroke<T> {
        self.strokes[outcome::<{ PRESSURES.len() }>(l)][usize::from(l.times) - 1]
    }

    /// `known` remembers what is seen where strokes of this group lie over each other: many forms share it.
    #[inline(always)]
    pub(super) fn seen(&self, of: &[usize], form: &Form, known: &mut Overlaps<T>) -> Row<T> {
        let layings = form.layings();
        if let [below @ .., Laying { act: Act::Burnish, .. }] = layings {
            return self.burnished(of, below);
        }
        let mut films = [0.0; MOST_PIGMENTS];
        let mut there = 0.0;
        for (n, l) in layings.iter().enumerate() {
            films[n] = self.stroke(l).film.min(self.holds - there);
            there += films[n];
        }
        // Where the hand slips the tooth may not hold all of a layer: such a film is nobody else's.
        let whole = |n: usize| films[n] >= self.stroke(&layings[n]).film - 1e-9;
        let mut sum = [T::default(); PADDED_BANDS];
        for state in 0..1usize << layings.len() {
            let mut area = T::of(1.0);
            for (n, l) in layings.iter().enumerate() {
                let cover = self.stroke(l).cover;
                area = area * if state >> n & 1 == 1 { cover } else { T::of(1.0) - cover };
            }
            let lying = |n: &usize| state >> n & 1 == 1;
            let all_whole = (0..layings.len()).filter(lying).all(whole);
            match (state.count_ones(), all_whole) {
                (0, _) => add(&mut sum, area, &self.between),
                (1, true) => {
                    let n = state.trailing_zeros() as usize;
                    let at = self.single(of, &layings[n], known);
                    add(&mut sum, area, &known.rows[at].averaged);
                }
                (2, true) => {
                    let low = state.trailing_zeros() as usize;
                    let high = (usize::BITS - 1 - state.leading_zeros()) as usize;
                    let at = self.pair(of, &layings[low], &layings[high], known);
                    add(&mut sum, area, &known.rows[at].averaged);
                }
                (3, true) => {
                    let at = self.pair(of, &layings[0], &layings[1], known);
                    let top = self.film(of[place_of(&layings[2])], &layings[2]);
                    let beneath = &known.rows[at].seen;
                    for i in 0..PADDED_BANDS {
                        sum[i] = sum[i] + area * top.over_one(i, beneath[i]).power(self.narrow);
                    }
                }
                _ => {
                    let mut seen = self.paper;
                    for n in (0..layings.len()).filter(lying) {
                        seen = Film::of(&self.pigments[of[place_of(&layings[n])]], T::of(films[n])).over(&seen);
                    }
                    for i in 0..PADDED_BANDS {
                        sum[i] = sum[i] + area * seen[i].power(self.narrow);
                    }
                }
            }
        }
        outside(&sum, |x| crossed(self.choices.surface, x.power(self.spread)))
    }

    fn film(&self, pencil: usize, l: &Laying) -> &Film<T> {
        &self.films[pencil][outcome::<{ PRESSURES.len() }>(l)][usize::from(l.times) - 1]
    }

    /// The number of what is seen where one pencil lies on bare paper.
    #[inline(always)]
    fn single(&self, of: &[usize], l: &Laying, known: &mut Overlaps<T>) -> usize {
        let slot = code(l);
        if known.singles[slot] == NOT_YET {
            known.singles[slot] = self.remember(self.film(of[place_of(l)], l), &self.paper, known);
        }
        known.singles[slot].into()
    }

    /// The same where one lies on another.
    #[inline(always)]
    fn pair(&self, of: &[usize], low: &Laying, high: &Laying, known: &mut Overlaps<T>) -> usize {
        let slot = code(low) * CODES + code(high);
        if known.pairs[slot] == NOT_YET {
            let at = self.single(of, low, known);
            let beneath = known.rows[at].seen;
            known.pairs[slot] = self.remember(self.film(of[place_of(high)], high), &beneath, known);
        }
        known.pairs[slot].into()
    }

    #[inline(always)]
    fn remember(&self, film: &Film<T>, beneath: &Row<T>, known: &mut Overlaps<T>) -> u16 {
        let seen = film.over(beneath);
        let mut averaged = seen;
        for x in &mut averaged {
            *x = x.power(self.narrow);
        }
        known.rows.push(Overlap { seen, averaged });
        known.rows.len() as u16 - 1
    }

    /// All of it pressed flat: every pencil covers nearly all, films thin, and the top one takes in some of the one below.
    #[inline(always)]
    fn burnished(&self, of: &[usize], strokes: &[Laying]) -> Row<T> {
        let c = &self.choices;
        let (cover, rest) = (T::of(c.burnished_cover), T::of(1.0 - c.burnished_cover));
        let mut states = 1;
        let mut areas = [T::of(1.0); 1 << MOST_PIGMENTS];
        let mut there = [self.paper; 1 << MOST_PIGMENTS];
        let mut before = 0.0;
        for (n, l) in strokes.iter().enumerate() {
            let pencil = &self.pigments[of[place_of(l)]];
            let film = self.stroke(l).film.min(self.holds - before);
            before += film;
            let mixing = T::of(if n > 0 && n + 1 == strokes.len() { c.burnished_mixing } else { 0.0 });
            let below = &self.pigments[of[place_of(&strokes[n.saturating_sub(1)])]];
            let mixed = Spectra::weighed([(pencil, T::of(1.0) - mixing), (below, mixing)]);
            let film = Film::of(&mixed, T::of(c.burnished_film * film));
            for state in 0..states {
                there[state + states] = film.over(&there[state]);
                areas[state + states] = areas[state] * cover;
                areas[state] = areas[state] * rest;
            }
            states *= 2;
        }
        let mut sum = [T::default(); PADDED_BANDS];
        for state in 0..states {
            for i in 0..PADDED_BANDS {
                sum[i] = sum[i] + areas[state] * there[state][i].power(self.narrow);
            }
        }
        outside(&sum, |x| crossed(c.burnished, x.power(self.spread)))
    }
}

#[inline(always)]
fn add<T: Real>(sum: &mut Row<T>, area: T, row: &Row<T>) {
    for i in 0..PADDED_BANDS {
        sum[i] = sum[i] + area * row[i];
    }
}

/// Ways one pencil of a group may be laid.
const CODES: usize = MOST_PIGMENTS * STEPS * MOST_TIMES;
const NOT_YET: u16 = u16::MAX;

fn code(l: &Laying) -> usize {
    (place_of(l) * STEPS + outcome::<{ PRESSURES.len() }>(l)) * MOST_TIMES + usize::from(l.times) - 1
}

/// What is seen where some strokes lie over each other, and the same as strokes are averaged.
struct Overlap<T> {
    seen: Row<T>,
    averaged: Row<T>,
}

/// Overlaps of one and two pencils of a group that are known already.
pub(crate) struct Overlaps<T> {
    rows: Vec<Overlap<T>>,
    singles: Vec<u16>,
    pairs: Vec<u16>,
}

impl<T> Default for Overlaps<T> {
    fn default() -> Self {
        Self { rows: Vec::new(), singles: vec![NOT_YET; CODES], pairs: vec![NOT_YET; CODES * CODES] }
    }
}

impl<T> Overlaps<T> {
    pub(super) fn forget(&mut self) {
        if !self.rows.is_empty() {
            self.rows.clear();
            self.singles.fill(NOT_YET);
            self.pairs.fill(NOT_YET);
        }
    }
}
