//! What hands do in layered media, written out again with pigments in place: in which order, how much, how often, lifted or pressed.

use lean_colour::{Lab, Reflectance};
use lean_media::amount::{Dose, Mass, Pressure, Rubbing, Thickness};
use lean_media::layering::{Layer, Layering, State};
use lean_media::{Ground, Medium, Parts, Pigment};
use std::rc::Rc;

/// One thing a hand does.
#[derive(Clone, Debug)]
pub enum Done {
    /// Puts one pigment down: its number, how much from 1, how often, rubbed in or not.
    Put(usize, usize, usize, bool),
    /// A wash: pigments by parts of washes of equal strength, and its strength from 1.
    Wash(Vec<(usize, f64)>, usize),
    /// Lifts with a wet brush, or with a blender.
    Lift,
    /// Burnishes.
    Press,
}
use Done::{Lift, Press, Put, Wash};

/// A recipe a hand can follow on a ground.
pub struct Followed<'a> {
    pub medium: Medium,
    pub ground: &'a Ground,
    pub pigments: &'a [Pigment],
    pub done: Vec<Done>,
    /// Thickness of the deepest wash of each pigment; in watercolour only.
    deepest: Rc<Vec<f64>>,
}

/// What is wrong: one measure by a factor, and what a crisp stroke picks up.
#[derive(Clone, Copy)]
pub struct Wrong {
    pub measure: usize,
    pub by: f64,
    pub crisp: f64,
}

pub const NOTHING: Wrong = Wrong { measure: usize::MAX, by: 1.0, crisp: 0.08 };

impl Followed<'_> {
    /// How much of each pigment, and how many layers.
    pub fn amounts(&self) -> (Vec<f64>, usize) {
        let mut all = vec![0.0; self.pigments.len()];
        let mut layers = 0;
        for d in &self.done {
            match d {
                Put(i, amount, times, _) => {
                    all[*i] += (amount * times) as f64;
                    layers += times;
                }
                Wash(of, strength) => {
                    let total: f64 = of.iter().map(|p| p.1).sum();
                    of.iter().for_each(|(i, n)| all[*i] += *strength as f64 * n / total);
                    layers += 1;
                }
                Lift | Press => layers += 1,
            }
        }
        (all, layers)
    }

    /// How many measures a hand takes.
    pub fn measures(&self) -> usize {
        self.done.iter().map(|d| if let Wash(of, _) = d { of.len() } else { usize::from(matches!(d, Put(..))) }).sum()
    }

    pub fn leans_on_crisp_strokes(&self) -> bool {
        self.medium == Medium::SoftPastel && self.done.iter().skip(1).any(|d| matches!(d, Put(_, _, _, false)))
    }

    pub fn colour(&self, wrong: Wrong) -> Lab {
        let laid = Layering { ground: self.ground, layers: self.layers(wrong) }.lay(State::Dry);
        laid.unwrap_or_else(|e| panic!("{:?}: {e}", self.done)).reflectance.xyz().lab()
    }

    fn layers(&self, wrong: Wrong) -> Vec<Layer<'_>> {
        let mut next = 0;
        let mut factor = || {
            next += 1;
            if next - 1 == wrong.measure { wrong.by } else { 1.0 }
        };
        let mut layers = Vec::new();
        let (mut there, mut last) = (0.0, None);
        for d in &self.done {
            match d {
                Press => layers.push(Layer::Burnishing),
                Lift => layers.push(if self.medium == Medium::Marker { Layer::Blender } else { Layer::Lifting }),
                Wash(of, strength) => {
                    let total: f64 = of.iter().map(|p| p.1).sum();
                    let share = 3f64.powi(*strength as i32 - 5);
                    let thick = |i: usize, n: f64, by: f64| Thickness(self.deepest[i] * share * n / total * by);
                    layers.push(Layer::Wash { of: of.iter().map(|(i, n)| (&self.pigments[*i], thick(*i, *n, factor()))).collect() });
                }
                Put(i, amount, times, rubbed) => {
                    let (of, by) = (&self.pigments[*i], factor());
                    for _ in 0..*times {
                        layers.push(match self.medium {
                            Medium::Marker => {
                                let peak = of.k.iter().copied().fold(0.0, f64::max);
                                // Strong dyes are thinned until a coat absorbs no more than 1.6.
                                Layer::Ink { of: vec![(of, Dose(0.05 * by * (1.6 / (0.05 * peak)).min(1.0)))], into_wet: false }
                            }
                            Medium::Pencil => Layer::Pencil { of, pressure: Pressure(([0.3, 0.7, 1.0][amount - 1] * by).min(1.0)) },
                            _ => {
                                // Over other sticks half of the share of the tooth that is full slips off.
                                let full = if last == Some(*i) { 0.0 } else { there / self.ground.pastel_mass };
                                let mass = ([0.5, 1.5, 3.0][amount - 1] * by * (1.0 - 0.5 * full)).min(self.ground.pastel_mass - there);
                                there += mass;
                                last = Some(*i);
                                let rubbing = Rubbing(if *rubbed { 0.45 } else { wrong.crisp });
                                Layer::Pastel { of: vec![(of, Parts(1.0))], mass: Mass(mass), rubbing }
                            }
                        });
                    }
                }
            }
        }
        layers
    }

    /// Whether the ground takes it.
    fn is_taken(&self) -> bool {
        let added: usize =
            self.done.iter().map(|d| if let Put(_, _, times, _) = d { *times } else { usize::from(matches!(d, Wash(..))) }).sum();
        let takes = self.ground.takes;
        let puts = || self.done.iter().filter_map(|d| if let Put(i, amount, times, _) = d { Some((*i, *amount, *times)) } else { None });
        self.amounts().1 <= 5
            && match self.medium {
                Medium::Watercolour => added <= takes.wash.into(),
                Medium::Marker => added <= takes.ink.into() && 0.05 * added as f64 <= self.ground.ink_dose + 1e-9,
                Medium::Pencil => {
                    let film: f64 = puts().map(|(_, amount, times)| 0.25 * times as f64 * [0.3, 0.7, 1.0][amount - 1]).sum();
                    added <= takes.pencil.into() && film <= self.ground.pencil_film.min(1.2) + 1e-9
                }
                _ => added <= takes.pastel.into() && self.finds_room(),
            }
    }

    /// Every stroke finds room for half of it.
    fn finds_room(&self) -> bool {
        let masses = self.layers(NOTHING).into_iter().map(|l| if let Layer::Pastel { mass, .. } = l { mass.0 } else { 0.0 });
        let wanted = self
            .done
            .iter()
            .flat_map(|d| if let Put(_, amount, times, _) = d { vec![[0.5, 1.5, 3.0][amount - 1]; *times] } else { vec![] });
        masses.zip(wanted).all(|(got, wanted)| got >= 0.5 * wanted)
    }
}

/// The thickness at which a wash on smooth white paper has come 95 % of the way to what the thickest, 0.9, is.
fn deepest(pigment: &Pigment) -> f64 {
    let paper = Ground::of(Reflectance::flat(0.88));
    let lightness = |x: f64| {
        let layers = vec![Layer::Wash { of: vec![(pigment, Thickness(x))] }];
        Layering { ground: &paper, layers }.lay(State::Dry).expect("a wash can be laid").reflectance.xyz().lab().l
    };
    let wanted = lightness(0.0) - 0.95 * (lightness(0.0) - lightness(0.9));
    let (mut a, mut b) = (0.0, 0.9);
    while b - a > 1e-12 {
        let x = (a + b) / 2.0;
        if lightness(x) > wanted { a = x } else { b = x }
    }
    a
}

/// Everything a hand does with up to three of these pigments on a ground; not bare ground.
pub fn all<'a>(medium: Medium, ground: &'a Ground, pigments: &'a [Pigment]) -> Vec<Followed<'a>> {
    let n = pigments.len();
    let mut found: Vec<Vec<Done>> = Vec::new();
    for i in 0..n {
        found.extend(of_one(medium, i));
        for j in (0..n).filter(|j| *j != i) {
            found.extend(of_two(medium, i, j));
            for k in (0..n).filter(|k| *k != i && *k != j) {
                found.extend(of_three(medium, i, j, k));
            }
        }
    }
    let washes = if medium == Medium::Watercolour { pigments } else { &[] };
    let deepest: Rc<Vec<f64>> = Rc::new(washes.iter().map(deepest).collect());
    let followed = found.into_iter().map(|done| Followed { medium, ground, pigments, done, deepest: deepest.clone() });
    followed.filter(Followed::is_taken).collect()
}

fn put(i: usize, amount: usize, times: usize) -> Done {
    Put(i, amount, times, false)
}

fn one(i: usize, strength: usize) -> Done {
    Wash(vec![(i, 1.0)], strength)
}

fn of_one(medium: Medium, i: usize) -> Vec<Vec<Done>> {
    let mut all: Vec<Vec<Done>> = Vec::new();
    match medium {
        Medium::Marker => {
            for coats in 1..=3 {
                all.extend([vec![put(i, 1, coats)], vec![put(i, 1, coats), Lift]]);
            }
        }
        Medium::Pencil => {
            all.extend([(1, 1), (2, 1), (3, 1), (1, 2), (2, 2), (3, 2), (3, 3)].map(|(p, n)| vec![put(i, p, n)]));
            all.extend([(2, 1), (3, 1), (3, 2), (3, 3)].map(|(p, n)| vec![put(i, p, n), Press]));
        }
        Medium::SoftPastel => all.extend([(1, 1), (2, 1), (3, 1), (2, 2), (2, 3)].map(|(m, n)| vec![put(i, m, n)])),
        _ => {
            all.extend((1..=5).map(|s| vec![one(i, s)]));
            all.extend((3..=5).map(|s| vec![one(i, s), Lift]));
        }
    }
    all
}

/// First `i`, then `j`; of what has no order only where `i` is less.
fn of_two(medium: Medium, i: usize, j: usize) -> Vec<Vec<Done>> {
    let mut all: Vec<Vec<Done>> = Vec::new();
    match medium {
        Medium::Marker => {
            for (a, b) in pairs(1..=3) {
                all.push(vec![put(i, 1, a), put(j, 1, b)]);
                if a < 3 && b < 3 {
                    all.push(vec![put(i, 1, a), put(j, 1, b), Lift]);
                    all.push(vec![put(i, 1, a), put(j, 1, b), put(i, 1, 1)]);
                }
            }
        }
        Medium::Pencil => {
            let often = [(1, 1), (2, 1), (3, 1), (1, 2), (2, 2), (3, 2), (3, 3)];
            let pressed = [(2, 1), (3, 1), (3, 2)];
            for (p, n) in often {
                all.extend(often.map(|(q, m)| vec![put(i, p, n), put(j, q, m)]));
            }
            for (p, n) in pressed {
                all.extend(pressed.map(|(q, m)| vec![put(i, p, n), put(j, q, m), Press]));
            }
        }
        Medium::SoftPastel => {
            for (m, n) in [(1, 1), (2, 1), (3, 1), (2, 2)] {
                for over in 1..=3 {
                    all.extend([false, true].map(|rubbed| vec![put(i, m, n), Put(j, over, 1, rubbed)]));
                }
            }
            for over in 1..=2 {
                all.extend([false, true].map(|rubbed| vec![put(i, 2, 1), Put(j, over, 1, rubbed), put(i, 1, 1)]));
            }
        }
        _ => {
            all.extend(pairs(1..=5).into_iter().map(|(s, t)| vec![one(i, s), one(j, t)]));
            all.extend([4, 5].into_iter().flat_map(|s| [3, 4].map(|t| vec![one(i, s), Lift, one(j, t)])));
            if i < j {
                for (a, b) in [(1.0, 1.0), (2.0, 1.0), (1.0, 2.0), (4.0, 1.0), (1.0, 4.0)] {
                    all.extend((1..=5).map(|s| vec![Wash(vec![(i, a), (j, b)], s)]));
                }
                all.extend((3..=5).map(|s| vec![Wash(vec![(i, 1.0), (j, 1.0)], s), Lift]));
            }
        }
    }
    all
}

fn of_three(medium: Medium, i: usize, j: usize, k: usize) -> Vec<Vec<Done>> {
    let mut all: Vec<Vec<Done>> = Vec::new();
    match medium {
        Medium::Marker => {
            for (a, b) in pairs(1..=2) {
                all.extend((1..=2).map(|c| vec![put(i, 1, a), put(j, 1, b), put(k, 1, c)]));
                all.extend([i, j].map(|back| vec![put(i, 1, a), put(j, 1, b), put(k, 1, 1), put(back, 1, 1)]));
            }
            all.extend((1..=2).map(|a| vec![put(i, 1, a), put(j, 1, 1), put(k, 1, 1), Lift]));
        }
        Medium::Pencil => {
            for (p, n) in [(2, 1), (3, 1), (3, 2)] {
                all.extend(pairs(1..=3).into_iter().filter(|(b, _)| *b > 1).map(|(b, c)| vec![put(i, p, n), put(j, b, 1), put(k, c, 1)]));
                if p == 3 {
                    all.push(vec![put(i, p, n), put(j, 2, 1), put(k, 2, 1), Press]);
                }
            }
        }
        Medium::SoftPastel => {
            for (b, c) in pairs(1..=2) {
                for (r, q) in [(false, false), (false, true), (true, false), (true, true)] {
                    all.push(vec![put(i, 2, 1), Put(j, b, 1, r), Put(k, c, 1, q)]);
                }
            }
            for b in 1..=2 {
                all.push(vec![put(i, 2, 1), put(j, b, 1), put(k, 3, 1)]);
                all.extend([i, j].map(|back| vec![put(i, 2, 1), put(j, b, 1), put(k, 1, 1), put(back, 1, 1)]));
            }
        }
        _ => {
            for (a, b) in pairs(3..=4) {
                all.extend((3..=4).map(|c| vec![one(i, a), one(j, b), one(k, c)]));
            }
            all.extend([3, 4].map(|t| vec![one(i, 4), one(j, 4), Lift, one(k, t)]));
            if i < j {
                let both = || vec![(i, 1.0), (j, 1.0)];
                for (s, t) in pairs(2..=5) {
                    all.extend([vec![Wash(both(), s), one(k, t)], vec![one(k, s), Wash(both(), t)]]);
                }
            }
            if i < j && j < k {
                let mixed = |a, b, c, s| vec![Wash(vec![(i, a), (j, b), (k, c)], s)];
                for s in 1..=5 {
                    all.extend([mixed(1.0, 1.0, 1.0, s), mixed(2.0, 1.0, 1.0, s), mixed(1.0, 2.0, 1.0, s), mixed(1.0, 1.0, 2.0, s)]);
                }
                all.extend((3..=5).map(|s| vec![Wash(vec![(i, 1.0), (j, 1.0), (k, 1.0)], s), Lift]));
            }
        }
    }
    all
}

fn pairs(range: std::ops::RangeInclusive<usize>) -> Vec<(usize, usize)> {
    range.clone().flat_map(|a| range.clone().map(move |b| (a, b))).collect()
}
