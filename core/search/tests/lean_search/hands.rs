//! What hands do in layered media, written out again with pigments in place: in which order, how much, how often, lifted or pressed.

use lean_colour::{Lab, Reflectance};
use lean_media::amount::{Dose, Mass, Pressure, Rubbing, Thickness};
use lean_media::layering::{Layer, Layering, State};
use lean_media::pens::full_coat;
use lean_media::{Choices, Ground, Medium, Parts, Pigment};
use std::rc::Rc;

/// One thing a hand does.
#[derive(Clone, Debug)]
pub(crate) enum Done {
    /// Puts one pigment down: its number, how much from 1, how often, rubbed in or not.
    Put(usize, usize, usize, bool),
    /// A wash: pigments by parts of washes of equal strength, its strength from 1, and how often.
    Wash(Vec<(usize, f64)>, usize, usize),
    /// Lifts with a wet brush, or with a blender.
    Lift,
    /// Burnishes.
    Press,
}
use Done::{Lift, Press, Put, Wash};

/// A recipe a hand can follow on a ground.
pub(crate) struct Followed<'a> {
    pub medium: Medium,
    pub ground: &'a Ground,
    pub pigments: &'a [Pigment],
    pub done: Vec<Done>,
    /// What is known of the pigments.
    known: Rc<Known>,
}

/// What is known of the pigments of a Box on a ground.
struct Known {
    /// Thickness of the faintest and the deepest wash of each; in watercolour only.
    washes: Vec<(f64, f64)>,
    /// Each as it is usually tried; not in watercolour.
    swatches: Vec<Lab>,
}

/// What is wrong: one measure by a factor, all of them by one, and what a layer takes from what lies beneath.
#[derive(Clone, Copy)]
pub(crate) struct Wrong {
    pub measure: usize,
    pub by: f64,
    pub all: f64,
    /// Share of the dust beneath that a crisp stroke picks up.
    pub crisp: f64,
    /// Share of the ink beneath that a later pen carries off.
    pub dissolved: f64,
}

pub(crate) const NOTHING: Wrong = Wrong { measure: usize::MAX, by: 1.0, all: 1.0, crisp: 0.05, dissolved: 0.10 };

impl Followed<'_> {
    /// How much of each pigment, and how many layers.
    pub(crate) fn amounts(&self) -> (Vec<f64>, usize) {
        let mut all = vec![0.0; self.pigments.len()];
        let mut layers = 0;
        for d in &self.done {
            match d {
                Put(i, amount, times, _) => {
                    all[*i] += (amount * times) as f64;
                    layers += times;
                }
                Wash(of, strength, times) => {
                    let total: f64 = of.iter().map(|p| p.1).sum();
                    of.iter().for_each(|(i, n)| all[*i] += (strength * times) as f64 * n / total);
                    layers += times;
                }
                Lift | Press => layers += 1,
            }
        }
        (all, layers)
    }

    /// Number of layers charged: a further coat of the same thing for a little more than a third of one.
    pub(crate) fn charged(&self) -> f64 {
        let of = |d: &Done| if let Put(_, _, times, _) | Wash(_, _, times) = d { 1.0 + 0.35 * (*times as f64 - 1.0) } else { 1.0 };
        self.done.iter().map(of).sum()
    }

    /// How many measures a hand takes.
    pub(crate) fn measures(&self) -> usize {
        self.done.iter().map(|d| if let Wash(of, ..) = d { of.len() } else { usize::from(matches!(d, Put(..))) }).sum()
    }

    /// The least and the most that is believed of what a layer takes from beneath, where the recipe leans on it.
    pub(crate) fn leans_on(&self) -> Option<[Wrong; 2]> {
        let later = || self.done.iter().skip(1);
        match self.medium {
            Medium::SoftPastel if later().any(|d| matches!(d, Put(_, _, _, false))) => {
                Some([0.0, 0.15].map(|crisp| Wrong { crisp, ..NOTHING }))
            }
            Medium::Marker => {
                let Some(Put(first, ..)) = self.done.first() else { return None };
                let other = later().any(|d| matches!(d, Put(i, ..) if i != first));
                other.then(|| [0.05, 0.20].map(|dissolved| Wrong { dissolved, ..NOTHING }))
            }
            _ => None,
        }
    }

    /// How many things are put down, one after the other.
    pub(crate) fn puts(&self) -> usize {
        self.done.iter().filter(|d| matches!(d, Put(..) | Wash(..))).count()
    }

    pub(crate) fn colour(&self, wrong: Wrong) -> Lab {
        let mut choices = Choices::default();
        choices.ink.redissolved = wrong.dissolved;
        let laid = Layering { ground: self.ground, layers: self.layers(wrong) }.lay_with(State::Dry, &choices);
        laid.unwrap_or_else(|e| panic!("{:?}: {e}", self.done)).reflectance.xyz().lab()
    }

    fn layers(&self, wrong: Wrong) -> Vec<Layer<'_>> {
        let mut next = 0;
        let mut factor = || {
            next += 1;
            wrong.all * if next - 1 == wrong.measure { wrong.by } else { 1.0 }
        };
        let mut layers = Vec::new();
        let (mut there, mut last) = (0.0, None);
        for d in &self.done {
            match d {
                Press => layers.push(Layer::Burnishing),
                Lift => layers.push(if self.medium == Medium::Marker { Layer::Blender } else { Layer::Lifting }),
                Wash(of, strength, times) => {
                    let total: f64 = of.iter().map(|p| p.1).sum();
                    let thick = |i: usize, n: f64, by: f64| {
                        let (faint, deep) = self.known.washes[i];
                        Thickness(faint * (deep / faint).powf((*strength as f64 - 1.0) / 4.0) * n / total * by)
                    };
                    let wash = Layer::Wash { of: of.iter().map(|(i, n)| (&self.pigments[*i], thick(*i, *n, factor()))).collect() };
                    layers.extend(vec![wash; *times]);
                }
                Put(i, amount, times, rubbed) => {
                    let (of, by) = (&self.pigments[*i], factor());
                    for _ in 0..*times {
                        layers.push(match self.medium {
                            Medium::Marker => {
                                // A paint of the library is the ink of a full coat.
                                Layer::Ink { of: vec![(of, Dose(full_coat(of) * by))], into_wet: false }
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
        let added: usize = self
            .done
            .iter()
            .map(|d| match d {
                Put(_, _, times, _) | Wash(_, _, times) => *times,
                Lift | Press => 0,
            })
            .sum();
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

/// The thickness at which a wash on smooth white paper can just be seen, and that at which it has come 95 % of the way to what the thickest, 0.9,
/// is.
fn washes(pigment: &Pigment) -> (f64, f64) {
    // Seen at a reflectance of 0.88 through the veil of bare ground.
    let paper = Ground::of(Reflectance::flat((0.88 - 0.025) / 0.975));
    let seen = |x: f64| {
        let layers = vec![Layer::Wash { of: vec![(pigment, Thickness(x))] }];
        Layering { ground: &Ground { tooth: 0.0, ..paper.clone() }, layers }
            .lay(State::Dry)
            .expect("a wash can be laid")
            .reflectance
            .xyz()
            .lab()
    };
    let first = |most: f64, there: &dyn Fn(Lab) -> bool| {
        let (mut a, mut b) = (0.0, most);
        while b - a > 1e-12 {
            let x = (a + b) / 2.0;
            if there(seen(x)) { b = x } else { a = x }
        }
        b
    };
    let bare = seen(0.0);
    let wanted = bare.l - 0.95 * (bare.l - seen(0.9).l);
    let deep = first(0.9, &|c| c.l <= wanted);
    let faint = first(deep, &|c| ((c.l - bare.l).powi(2) + (c.a - bare.a).powi(2) + (c.b - bare.b).powi(2)).sqrt() >= 6.0);
    (faint, deep)
}

/// The colour of a pigment as it is usually tried: one coat, a firm pencil, a heavy stick.
fn tried(medium: Medium, ground: &Ground, pigment: &Pigment) -> Lab {
    let layer = match medium {
        Medium::Marker => Layer::Ink { of: vec![(pigment, Dose(full_coat(pigment)))], into_wet: false },
        Medium::Pencil => Layer::Pencil { of: pigment, pressure: Pressure(1.0) },
        _ => Layer::Pastel { of: vec![(pigment, Parts(1.0))], mass: Mass(3.0f64.min(ground.pastel_mass)), rubbing: Rubbing(0.0) },
    };
    Layering { ground, layers: vec![layer] }.lay(State::Dry).expect("a swatch can be laid").reflectance.xyz().lab()
}

impl Followed<'_> {
    fn value(&self, i: usize) -> f64 {
        self.known.swatches[i].value().0
    }

    fn is_black(&self, i: usize) -> bool {
        self.pigments[i].colour_index.iter().all(|c| c.starts_with("PBk"))
    }

    /// Whether a practitioner lays it so.
    fn is_usual(&self) -> bool {
        let puts: Vec<(usize, usize, usize)> =
            self.done.iter().filter_map(|d| if let Put(i, amount, times, _) = d { Some((*i, *amount, *times)) } else { None }).collect();
        let coats: usize = puts.iter().map(|p| p.2).sum();
        let mut of: Vec<usize> = puts.iter().map(|p| p.0).collect();
        of.sort_unstable();
        of.dedup();
        if self.done.iter().any(|d| matches!(d, Lift | Press)) || of.len() < puts.len() {
            return false;
        }
        let over = || (0..puts.len()).flat_map(|a| (a + 1..puts.len()).map(move |b| (a, b))).map(|(a, b)| (puts[a], puts[b]));
        match self.medium {
            Medium::Watercolour => self.amounts().1 <= 2,
            Medium::Marker => {
                let light_first = |((i, _, n), (j, _, m)): ((usize, usize, usize), (usize, usize, usize))| {
                    let (low, high) = (self.known.swatches[i], self.known.swatches[j]);
                    let turn = (low.hue().0 - high.hue().0).rem_euclid(360.0);
                    let grey = low.chroma() < 12.0 || high.chroma() < 12.0;
                    let opposite = !grey && turn > 120.0 && turn < 240.0;
                    let related = grey || turn <= 60.0 || turn >= 300.0;
                    self.value(j) <= self.value(i) + 0.3 && (related || opposite && n == 1 && m == 1)
                };
                of.len() <= 2 && coats <= 3 && over().all(light_first)
            }
            Medium::Pencil => over().all(|((i, p, n), (j, q, m))| {
                let lighter = self.value(j) - self.value(i) > 0.75;
                let veil = m == 1 && (q == 1 || q == 2 && p == 1 && n == 1);
                !self.is_black(i) && (!lighter || veil)
            }),
            _ => {
                let near = |((i, ..), (j, ..)): ((usize, usize, usize), (usize, usize, usize))| {
                    let far = if self.is_black(i) || self.is_black(j) { 1.0 } else { 2.5 };
                    let lighter = self.value(j) - self.value(i);
                    (-0.75..=far).contains(&lighter)
                };
                let ground = self.ground.lab.value().0;
                let thin = puts[0].1 == 1 && puts[0].2 == 1 && (self.value(puts[0].0) - ground).abs() > 2.5;
                of.len() <= 2 && !thin && over().all(near)
            }
        }
    }
}

/// Everything a hand does with up to three of these pigments on a ground, or what it usually does; not bare ground.
pub(crate) fn all<'a>(medium: Medium, ground: &'a Ground, pigments: &'a [Pigment], unusual: bool) -> Vec<Followed<'a>> {
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
    let wet = medium == Medium::Watercolour;
    let known = Rc::new(Known {
        washes: if wet { pigments.iter().map(washes).collect() } else { Vec::new() },
        swatches: if wet { Vec::new() } else { pigments.iter().map(|p| tried(medium, ground, p)).collect() },
    });
    let followed = found.into_iter().map(|done| Followed { medium, ground, pigments, done, known: known.clone() });
    followed.filter(|f| f.is_taken() && (unusual || f.is_usual())).collect()
}

fn put(i: usize, amount: usize, times: usize) -> Done {
    Put(i, amount, times, false)
}

fn one(i: usize, strength: usize) -> Done {
    Wash(vec![(i, 1.0)], strength, 1)
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
            all.extend((3..=5).flat_map(|s| [vec![one(i, s), Lift], vec![Wash(vec![(i, 1.0)], s, 2)]]));
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
                for (a, b) in [(1.0, 1.0), (2.0, 1.0), (1.0, 2.0), (3.0, 1.0), (1.0, 3.0), (6.0, 1.0), (1.0, 6.0)] {
                    all.extend(once_and_twice(&[(i, a), (j, b)]));
                }
                all.extend((3..=5).map(|s| vec![Wash(vec![(i, 1.0), (j, 1.0)], s, 1), Lift]));
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
                for (s, t) in pairs(3..=5) {
                    all.extend([vec![Wash(both(), s, 1), one(k, t)], vec![one(k, s), Wash(both(), t, 1)]]);
                }
            }
            if i < j && j < k {
                // Each ratio in every order: 1 : 1 : 1, 2 : 1 : 1, 2 : 2 : 1, 4 : 1 : 1, 4 : 2 : 1.
                for (a, b, c) in (0..27).map(|n| (n / 9, n / 3 % 3, n % 3)).map(|(a, b, c)| (1u32 << a, 1u32 << b, 1u32 << c)) {
                    let mut parts = [a, b, c];
                    parts.sort_unstable();
                    if [[1, 1, 1], [1, 1, 2], [1, 2, 2], [1, 1, 4], [1, 2, 4]].contains(&parts) {
                        all.extend(once_and_twice(&[(i, a.into()), (j, b.into()), (k, c.into())]));
                    }
                }
                all.extend((3..=5).map(|s| vec![Wash(vec![(i, 1.0), (j, 1.0), (k, 1.0)], s, 1), Lift]));
            }
        }
    }
    all
}

/// A wash in every strength, and twice from a middle one on.
fn once_and_twice(of: &[(usize, f64)]) -> Vec<Vec<Done>> {
    let wash = |s, times| vec![Wash(of.to_vec(), s, times)];
    (1..=5).map(|s| wash(s, 1)).chain((3..=5).map(|s| wash(s, 2))).collect()
}

fn pairs(range: std::ops::RangeInclusive<usize>) -> Vec<(usize, usize)> {
    range.clone().flat_map(|a| range.clone().map(move |b| (a, b))).collect()
}
