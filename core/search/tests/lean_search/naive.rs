//! Every recipe of every medium written out again from what painters do, its colour by the general model, and every set tried one by one.
//! Shares nothing with the search but the pigments, the model of layers and the colour difference.

use lean_colour::difference::ciede2000;
use lean_colour::temperature::WARM_POLE;
use lean_colour::{Lab, Temperature};
use lean_media::amount::{Dose, Mass, Pressure, Rubbing, Thickness};
use lean_media::layering::{Layer, Layering, State};
use lean_media::opaque::OIL;
use lean_media::{Ground, Medium, Paint, Parts, Pigment};

/// A recipe: which pigments, how much of each, how many layers, what colour.
pub struct Recipe {
    pub of: Vec<usize>,
    pub amounts: Vec<f64>,
    pub layers: usize,
    pub lab: Lab,
}

impl Recipe {
    fn laid(ground: &Ground, amounts: Vec<f64>, layers: Vec<Layer>, count: usize) -> Self {
        let laid = Layering { ground, layers }.lay(State::Dry).expect("recipes can be laid");
        let of = (0..amounts.len()).filter(|i| amounts[*i] > 0.0).collect();
        Self { of, amounts, layers: count, lab: laid.reflectance.xyz().lab() }
    }

    pub fn share(&self, pigment: usize) -> f64 {
        self.amounts[pigment] / self.amounts.iter().sum::<f64>()
    }
}

/// All recipes of a Box on a ground. A white that is mixed is the last of `pigments` in oil, and is left out of `of`.
pub fn recipes(medium: Medium, ground: &Ground, pigments: &[Pigment]) -> Vec<Recipe> {
    match medium {
        Medium::Oil => oil(pigments),
        Medium::Watercolour => watercolour(ground, pigments),
        Medium::Marker => ordered(medium, ground, pigments, 2),
        Medium::Pencil | Medium::SoftPastel => ordered(medium, ground, pigments, 3),
    }
}

fn oil(pigments: &[Pigment]) -> Vec<Recipe> {
    let n = pigments.len();
    let mut all = Vec::new();
    let mut parts = vec![0u32; n];
    loop {
        let total: u32 = parts.iter().sum();
        let of: Vec<usize> = (0..n).filter(|i| parts[*i] > 0 && !pigments[*i].white).collect();
        if (1..=8).contains(&total) && of.len() <= 3 {
            let mixed: Vec<(&Pigment, Parts)> = pigments.iter().zip(&parts).map(|(p, n)| (p, Parts(f64::from(*n)))).collect();
            let lab = Paint::mixed(&mixed).expect("there are parts").opaque(OIL).xyz().lab();
            all.push(Recipe { of, amounts: parts.iter().map(|p| f64::from(*p)).collect(), layers: 1, lab });
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

fn watercolour(ground: &Ground, pigments: &[Pigment]) -> Vec<Recipe> {
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
        all.push(Recipe::laid(ground, amounts(&[*lower]), vec![wash(pigments, lower.0, STRENGTHS[lower.1])], 1));
        for upper in washes.iter().filter(|_| ground.takes.wash >= 2) {
            let (a, b) = (lower.0, upper.0);
            let shared = a.iter().any(|p| b.iter().any(|q| p.0 == q.0));
            let together = a.len() == 1 && b.len() == 1 || a.len() + b.len() == 3 && even(a) && even(b) && !shared;
            if together {
                let layers = vec![wash(pigments, a, STRENGTHS[lower.1]), wash(pigments, b, STRENGTHS[upper.1])];
                all.push(Recipe::laid(ground, amounts(&[*lower, *upper]), layers, 2));
            }
        }
    }
    all
}

/// One stroke, coat or pencil layer: which pigment, how much, whether rubbed.
type Stroke = (usize, u8, bool);

/// Up to three different pigments one over the other.
fn ordered(medium: Medium, ground: &Ground, pigments: &[Pigment], most: u8) -> Vec<Recipe> {
    let mut all = Vec::new();
    let mut open: Vec<Vec<Stroke>> = vec![vec![]];
    while let Some(strokes) = open.pop() {
        if is_taken(medium, ground, &strokes) {
            let mut amounts = vec![0.0; pigments.len()];
            strokes.iter().for_each(|s| amounts[s.0] = f64::from(s.1));
            let layers = strokes.iter().flat_map(|s| layers(medium, &pigments[s.0], *s)).collect();
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

    pub fn as_cost(&self) -> lean_recipes::Cost {
        use lean_recipes::cost::{Colour, Cost, Tolerance};
        Cost {
            value_weight: self.value_weight,
            colour: self.neutral.map_or(Colour::Whole, |n| Colour::SideOnly { neutral: Temperature(n) }),
            tolerance: Tolerance { value: self.value_free, colour: self.colour_free },
            ..Cost::default()
        }
    }
}

/// All sets of `k` out of `n`.
pub fn sets(n: usize, k: usize) -> Vec<Vec<usize>> {
    (0u32..1 << n).filter(|bits| bits.count_ones() as usize == k).map(|bits| (0..n).filter(|i| bits >> i & 1 == 1).collect()).collect()
}
