//! Every recipe of every medium written out again from what painters do, its colour by the general model, and every set tried one by one.
//! Shares nothing with the search but the pigments, the model of layers and the colour difference.

use lean_colour::difference::ciede2000;
use lean_colour::temperature::WARM_POLE;
use lean_colour::{Lab, Temperature};
use lean_media::amount::{Dose, Mass, Pressure, Rubbing, Thickness};
use lean_media::layering::{Layer, Layering, State};
use lean_media::opaque::OIL;
use lean_media::{Ground, Medium, Paint, Parts, Pigment};
use lean_recipes::Grain;
use lean_recipes::wet::let_downs::chains;
use std::cell::OnceCell;

/// The colour of a recipe when one of its measures, by number, turns out so many times as much.
type Erred<'a> = Box<dyn Fn(usize, f64) -> Lab + 'a>;

/// A recipe: which pigments, how much of each, how many layers, what colour.
pub struct Recipe<'a> {
    pub of: Vec<usize>,
    pub amounts: Vec<f64>,
    pub layers: usize,
    pub lab: Lab,
    /// How many measures a hand takes for it, and what becomes of it when one is wrong.
    measures: usize,
    erred: Erred<'a>,
    straight: bool,
    slip: OnceCell<f64>,
}

impl<'a> Recipe<'a> {
    /// Layers of a recipe, each with the number of the measure that is taken for it: two coats of one pen are one measure.
    fn laid(ground: &'a Ground, amounts: Vec<f64>, layers: Vec<(Layer<'a>, usize)>, count: usize) -> Self {
        let measures = layers.iter().map(|(l, first)| first + parts_of(l)).max().unwrap_or(0);
        let lay = move |wrong: usize, by: f64| {
            let layers = layers.iter().map(|(l, first)| measured(l, *first, wrong, by)).collect();
            Layering { ground, layers }.lay(State::Dry).expect("recipes can be laid").reflectance.xyz().lab()
        };
        let of = (0..amounts.len()).filter(|i| amounts[*i] > 0.0).collect();
        Self { of, amounts, layers: count, lab: lay(0, 1.0), measures, erred: Box::new(lay), straight: false, slip: OnceCell::new() }
    }

    /// Twenty a step of value and the colour difference, over each measure a fifth too little and too much: the root of the summed means. In oil
    /// colours are taken to run straight with the logarithm of each measure.
    pub fn slip(&self) -> f64 {
        *self.slip.get_or_init(|| {
            let moved = |lab: Lab| 20.0 * (lab.value().0 - self.lab.value().0).abs() + ciede2000(lab, self.lab);
            let mean = |m| match self.straight {
                false => 0.5 * (moved((self.erred)(m, 0.8)).powi(2) + moved((self.erred)(m, 1.25)).powi(2)),
                true => {
                    const STEP: f64 = 1e-4;
                    let (more, less) = ((self.erred)(m, 1.0 + STEP), (self.erred)(m, 1.0 - STEP));
                    let far = 20.0 * (more.value().0 - less.value().0).abs() + ciede2000(more, less);
                    (1.25f64.ln() * far / (2.0 * STEP)).powi(2)
                }
            };
            (0..self.measures).map(mean).sum::<f64>().sqrt()
        })
    }

    pub fn share(&self, pigment: usize) -> f64 {
        self.amounts[pigment] / self.amounts.iter().sum::<f64>()
    }
}

/// How many pigments are measured for a layer.
fn parts_of(layer: &Layer) -> usize {
    if let Layer::Wash { of } = layer { of.len() } else { 1 }
}

/// The layer when a measure turns out wrong.
fn measured<'a>(layer: &Layer<'a>, first: usize, wrong: usize, by: f64) -> Layer<'a> {
    let mut layer = layer.clone();
    let times = |n: usize| if first + n == wrong { by } else { 1.0 };
    match &mut layer {
        Layer::Wash { of } => of.iter_mut().enumerate().for_each(|(n, (_, x))| x.0 *= times(n)),
        Layer::Ink { of, .. } => of[0].1.0 *= times(0),
        Layer::Pencil { pressure, .. } => pressure.0 = (pressure.0 * times(0)).min(1.0),
        Layer::Pastel { mass, .. } => mass.0 *= times(0),
        _ => unreachable!("no recipe has it"),
    }
    layer
}

/// All recipes of a Box on a ground. A white that is mixed is the last of `pigments` in oil, and is left out of `of`.
pub fn recipes<'a>(medium: Medium, ground: &'a Ground, pigments: &'a [Pigment], grain: Grain) -> Vec<Recipe<'a>> {
    match medium {
        Medium::Oil if grain == Grain::LetDowns => let_down(pigments),
        Medium::Oil => oil(pigments),
        Medium::Watercolour => watercolour(ground, pigments),
        Medium::Marker => ordered(medium, ground, pigments, 2),
        Medium::Pencil | Medium::SoftPastel => ordered(medium, ground, pigments, 3),
    }
}

fn mixed_colour(pigments: &[Pigment], amounts: &[f64]) -> Lab {
    let parts: Vec<(&Pigment, Parts)> = pigments.iter().zip(amounts).map(|(p, n)| (p, Parts(*n))).collect();
    Paint::mixed(&parts).expect("there are parts").opaque(OIL).xyz().lab()
}

/// Every chain of heaps of up to three pigments and white in which each amount can be seen.
fn let_down(pigments: &[Pigment]) -> Vec<Recipe<'_>> {
    let n = pigments.len();
    // The least share of one thing, in octaves, that moves one part of another by two units of cost.
    let seen = |i: usize, j: usize| {
        let two = |a: f64| (0..n).map(|p| if p == i { a } else { f64::from(u8::from(p == j)) }).collect::<Vec<f64>>();
        let pure = mixed_colour(pigments, &two(0.0));
        let far = |e: &i32| {
            let lab = mixed_colour(pigments, &two(2f64.powi(*e)));
            20.0 * (lab.value().0 - pure.value().0).abs() + ciede2000(lab, pure) >= 2.0
        };
        (-10..=8).find(far).map_or(f64::INFINITY, |e| 2f64.powi(e))
    };
    let least: Vec<Vec<f64>> = (0..n).map(|i| (0..n).map(|j| if i == j { 0.0 } else { seen(i, j) }).collect()).collect();
    let mut all = Vec::new();
    let groups = (0u32..1 << (n - 1)).filter(|bits| bits.count_ones() <= 3);
    for group in groups {
        let of: Vec<usize> = (0..n - 1).filter(|i| group >> i & 1 == 1).collect();
        for chain in chains(of.len()) {
            let spread = |four: [f64; 4]| {
                let mut amounts = vec![0.0; n];
                of.iter().enumerate().for_each(|(place, i)| amounts[*i] = four[place]);
                amounts[n - 1] = four[3];
                amounts
            };
            let amounts = spread(chain.amounts);
            let there: Vec<usize> = (0..n).filter(|i| amounts[*i] > 0.0).collect();
            let hidden = |i: usize| there.iter().filter(|j| **j != i).map(|j| least[i][*j] * amounts[*j]).sum::<f64>();
            if there.iter().any(|i| amounts[*i] * (1.0 + 1e-4) < hidden(*i)) {
                continue;
            }
            // A hand measures what it takes of the heap before, and everything that joins it.
            let marks: Vec<(usize, usize)> = (0..chain.heaps.len())
                .flat_map(|h| (0..5).map(move |p| (h, p)))
                .filter(|(h, p)| if *p == 4 { chain.heaps[*h].of_last > 0 } else { chain.heaps[*h].with[*p] > 0 })
                .collect();
            let (measures, lab, of) = (marks.len(), mixed_colour(pigments, &amounts), of.clone());
            let within = of.clone();
            let erred = Box::new(move |m: usize, by: f64| {
                let mut last = [0.0; 4];
                for (h, heap) in chain.heaps.iter().enumerate() {
                    let wrong = |p: usize| if marks[m] == (h, p) { by } else { 1.0 };
                    let before: f64 = last.iter().sum();
                    let taken = if before > 0.0 { f64::from(heap.of_last) * wrong(4) / before } else { 0.0 };
                    last = std::array::from_fn(|p| last[p] * taken + f64::from(heap.with[p]) * wrong(p));
                }
                let mut amounts = vec![0.0; n];
                within.iter().enumerate().for_each(|(place, i)| amounts[*i] = last[place]);
                amounts[n - 1] = last[3];
                mixed_colour(pigments, &amounts)
            });
            all.push(Recipe { of, amounts, layers: chain.heaps.len(), lab, measures, erred, straight: true, slip: OnceCell::new() });
        }
    }
    all
}

fn oil(pigments: &[Pigment]) -> Vec<Recipe<'_>> {
    let n = pigments.len();
    let mut all = Vec::new();
    let mut parts = vec![0u32; n];
    loop {
        let total: u32 = parts.iter().sum();
        let of: Vec<usize> = (0..n).filter(|i| parts[*i] > 0 && !pigments[*i].white).collect();
        if (1..=8).contains(&total) && of.len() <= 3 {
            let mixed: Vec<(&Pigment, Parts)> = pigments.iter().zip(&parts).map(|(p, n)| (p, Parts(f64::from(*n)))).collect();
            let lab = Paint::mixed(&mixed).expect("there are parts").opaque(OIL).xyz().lab();
            let amounts: Vec<f64> = parts.iter().map(|p| f64::from(*p)).collect();
            let (measured, there) = (amounts.clone(), (0..n).filter(|i| amounts[*i] > 0.0).collect::<Vec<_>>());
            let measures = there.len();
            let erred = Box::new(move |m: usize, by: f64| {
                let amount = |i: usize| if i == there[m] { measured[i] * by } else { measured[i] };
                mixed_colour(pigments, &(0..n).map(amount).collect::<Vec<_>>())
            });
            all.push(Recipe { of, amounts, layers: 1, lab, measures, erred, straight: true, slip: OnceCell::new() });
        }
        let Some(i) = (0..n).find(|i| parts[*i] < 8 && parts.iter().sum::<u32>() - parts[..*i].iter().sum::<u32>() < 8) else {
            return all;
        };
        parts[i] += 1;
        parts[..i].fill(0);
    }
}

/// Thickness of one wash of each pigment in a mixture.
fn wash<'a>(pigments: &'a [Pigment], mixture: &[(usize, f64)], strength: f64) -> Layer<'a> {
    let total: f64 = mixture.iter().map(|m| m.1).sum();
    let thickness = |p: &Pigment, n: f64| {
        let peak = p.k.iter().copied().fold(0.0, f64::max);
        // Strong pigments are thinned until the strongest wash absorbs no more than 2.
        Thickness(strength * n / total * (2.0 / (0.45 * peak)).min(1.0))
    };
    Layer::Wash { of: mixture.iter().map(|(i, n)| (&pigments[*i], thickness(&pigments[*i], *n))).collect() }
}

fn watercolour<'a>(ground: &'a Ground, pigments: &'a [Pigment]) -> Vec<Recipe<'a>> {
    const STRENGTHS: [f64; 3] = [0.05, 0.15, 0.45];
    let n = pigments.len();
    let mut mixtures: Vec<Vec<(usize, f64)>> = (0..n).map(|i| vec![(i, 1.0)]).collect();
    for i in 0..n {
        for j in 0..i {
            mixtures.extend([(1.0, 1.0), (2.0, 1.0), (1.0, 2.0), (3.0, 1.0), (1.0, 3.0)].map(|(a, b)| vec![(i, a), (j, b)]));
            for k in 0..j {
                let three = [(1.0, 1.0, 1.0), (2.0, 1.0, 1.0), (1.0, 2.0, 1.0), (1.0, 1.0, 2.0)];
                mixtures.extend(three.map(|(a, b, c)| vec![(i, a), (j, b), (k, c)]));
            }
        }
    }
    let washes: Vec<(&Vec<(usize, f64)>, usize)> = mixtures.iter().flat_map(|m| (0..3).map(move |s| (m, s))).collect();
    let even = |m: &[(usize, f64)]| m.iter().all(|p| p.1 == 1.0);
    let amounts = |of: &[(&Vec<(usize, f64)>, usize)]| {
        let mut all = vec![0.0; n];
        for (m, s) in of {
            let total: f64 = m.iter().map(|p| p.1).sum();
            m.iter().for_each(|(i, p)| all[*i] += (*s as f64 + 1.0) * p / total);
        }
        all
    };
    let mut all = vec![Recipe::laid(ground, vec![0.0; n], vec![], 0)];
    for lower in &washes {
        all.push(Recipe::laid(ground, amounts(&[*lower]), vec![(wash(pigments, lower.0, STRENGTHS[lower.1]), 0)], 1));
        for upper in washes.iter().filter(|_| ground.takes.wash >= 2) {
            let (a, b) = (lower.0, upper.0);
            let shared = a.iter().any(|p| b.iter().any(|q| p.0 == q.0));
            let together = a.len() == 1 && b.len() == 1 || a.len() + b.len() == 3 && even(a) && even(b) && !shared;
            if together {
                let layers = vec![(wash(pigments, a, STRENGTHS[lower.1]), 0), (wash(pigments, b, STRENGTHS[upper.1]), a.len())];
                all.push(Recipe::laid(ground, amounts(&[*lower, *upper]), layers, 2));
            }
        }
    }
    all
}

/// One stroke, coat or pencil layer: which pigment, how much, whether rubbed.
type Stroke = (usize, u8, bool);

/// Up to three different pigments one over the other.
fn ordered<'a>(medium: Medium, ground: &'a Ground, pigments: &'a [Pigment], most: u8) -> Vec<Recipe<'a>> {
    let mut all = Vec::new();
    let mut open: Vec<Vec<Stroke>> = vec![vec![]];
    while let Some(strokes) = open.pop() {
        if is_taken(medium, ground, &strokes) {
            let mut amounts = vec![0.0; pigments.len()];
            strokes.iter().for_each(|s| amounts[s.0] = f64::from(s.1));
            let measured = |(n, s): (usize, &Stroke)| layers(medium, &pigments[s.0], *s).into_iter().map(move |l| (l, n));
            let layers = strokes.iter().enumerate().flat_map(measured).collect();
            all.push(Recipe::laid(ground, amounts, layers, strokes.len()));
        }
        if strokes.len() < 3 {
            for i in (0..pigments.len()).filter(|i| strokes.iter().all(|s| s.0 != *i)) {
                let rubbings: &[bool] = if medium == Medium::SoftPastel && !strokes.is_empty() { &[false, true] } else { &[false] };
                for rubbed in rubbings {
                    open.extend((1..=most).map(|amount| strokes.iter().copied().chain([(i, amount, *rubbed)]).collect()));
                }
            }
        }
    }
    all
}

fn layers(medium: Medium, of: &Pigment, (_, amount, rubbed): Stroke) -> Vec<Layer<'_>> {
    let step = usize::from(amount) - 1;
    match medium {
        Medium::Marker => {
            let peak = of.k.iter().copied().fold(0.0, f64::max);
            // Strong dyes are thinned until a coat absorbs no more than 1.6.
            let dose = Dose(0.05 * (1.6 / (0.05 * peak)).min(1.0));
            vec![Layer::Ink { of: vec![(of, dose)], into_wet: false }; usize::from(amount)]
        }
        Medium::Pencil => vec![Layer::Pencil { of, pressure: Pressure([0.3, 0.7, 1.0][step]) }],
        Medium::SoftPastel => {
            vec![Layer::Pastel {
                of: vec![(of, Parts(1.0))],
                mass: Mass([0.5, 1.5, 3.0][step]),
                rubbing: Rubbing(if rubbed { 0.45 } else { 0.0 }),
            }]
        }
        Medium::Oil | Medium::Watercolour => unreachable!("mixed, not laid stroke by stroke"),
    }
}

fn is_taken(medium: Medium, ground: &Ground, strokes: &[Stroke]) -> bool {
    let sum = |of: [f64; 3]| strokes.iter().map(|s| of[usize::from(s.1) - 1]).sum::<f64>();
    match medium {
        Medium::Marker => {
            let coats = sum([1.0, 2.0, 3.0]);
            coats <= f64::from(ground.takes.ink) && 0.05 * coats <= ground.ink_dose + 1e-9
        }
        Medium::Pencil => {
            strokes.len() <= usize::from(ground.takes.pencil) && 0.25 * sum([0.3, 0.7, 1.0]) <= ground.pencil_film.min(1.2) + 1e-9
        }
        Medium::SoftPastel => {
            // A heavy stroke stands alone; over a light first stroke there is one more at most.
            let heavy = strokes.iter().any(|s| s.1 == 3) && strokes.len() > 1;
            let light = strokes.len() == 3 && strokes[0].1 == 1;
            !heavy && !light && strokes.len() <= usize::from(ground.takes.pastel) && sum([0.5, 1.5, 3.0]) <= ground.pastel_mass + 1e-9
        }
        Medium::Oil | Medium::Watercolour => unreachable!("mixed, not laid stroke by stroke"),
    }
}

/// What a miss costs.
#[derive(Clone, Copy, Debug)]
pub struct Price {
    pub value_weight: f64,
    pub value_free: f64,
    pub colour_free: f64,
    /// Hue is free on the right side of this temperature.
    pub neutral: Option<f64>,
    /// Half of what a hand slips, seven tenths a further layer, and misses that count more the larger they are.
    pub sure: bool,
}

impl Price {
    pub fn of(&self, mix: Lab, wanted: Lab) -> f64 {
        let value = ((mix.value().0 - wanted.value().0).abs() - self.value_free).max(0.0);
        let colour = match self.neutral {
            None => (ciede2000(mix, wanted) - self.colour_free).max(0.0),
            Some(neutral) => {
                let pole = WARM_POLE.to_radians();
                let warmth = |l: Lab| l.a * pole.cos() + l.b * pole.sin() - neutral;
                let same = lean_colour::temperature::SAME;
                let wrong = if warmth(wanted) >= same {
                    -warmth(mix)
                } else if warmth(wanted) <= -same {
                    warmth(mix)
                } else {
                    0.0
                };
                0.5 * wrong.max(0.0)
            }
        };
        self.value_weight * value + colour
    }

    /// What a recipe is ranked by.
    pub fn rank(&self, recipe: &Recipe, wanted: Lab, best: f64) -> f64 {
        let miss = self.of(recipe.lab, wanted);
        let layers = 0.7 * recipe.layers.saturating_sub(1) as f64;
        if !self.sure {
            miss
        } else if miss + layers >= best {
            f64::INFINITY
        } else {
            miss + layers + 0.5 * recipe.slip()
        }
    }

    /// What a zone counts that is ranked so.
    pub fn charge(&self, rank: f64) -> f64 {
        if self.sure { rank + 0.05 * rank * rank } else { rank }
    }

    pub fn as_cost(&self) -> lean_recipes::Cost {
        use lean_recipes::cost::{Colour, Cost, Ranking, Tolerance};
        Cost {
            value_weight: self.value_weight,
            colour: self.neutral.map_or(Colour::Whole, |n| Colour::SideOnly { neutral: Temperature(n) }),
            tolerance: Tolerance { value: self.value_free, colour: self.colour_free },
            ranking: if self.sure { Ranking::SURE } else { Ranking::MISS },
            ..Cost::default()
        }
    }
}

/// All sets of `k` out of `n`.
pub fn sets(n: usize, k: usize) -> Vec<Vec<usize>> {
    (0u32..1 << n).filter(|bits| bits.count_ones() as usize == k).map(|bits| (0..n).filter(|i| bits >> i & 1 == 1).collect()).collect()
}
