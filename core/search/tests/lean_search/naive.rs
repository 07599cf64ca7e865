//! Every recipe of every medium written out again from what painters do, its colour by the general model, and every set tried one by one.
//! Shares nothing with the search but the pigments, the model of layers and the colour difference.

use crate::hands::{self, Followed, NOTHING, Wrong};
use lean_colour::difference::ciede2000;
use lean_colour::temperature::WARM_POLE;
use lean_colour::{Lab, Temperature};
use lean_media::layering::{Layering, State};
use lean_media::opaque::OIL;
use lean_media::{Ground, Medium, Paint, Parts, Pigment};
use lean_recipes::Grain;
use lean_recipes::wet::let_downs::chains;
use std::cell::OnceCell;

/// The colour of a recipe when one of its measures, by number, turns out so many times as much.
type Erred<'a> = Box<dyn Fn(usize, f64) -> Lab + 'a>;

/// A recipe: which pigments, how much of each, how many layers, what colour.
pub(crate) struct Recipe<'a> {
    pub of: Vec<usize>,
    pub amounts: Vec<f64>,
    pub layers: usize,
    /// Number of layers it is charged as.
    charged: f64,
    pub lab: Lab,
    /// How many measures a hand takes for it, and what becomes of it when one is wrong.
    measures: usize,
    erred: Erred<'a>,
    straight: bool,
    /// Its colours with the least and the most that a layer may take from beneath, and whether what it moves is charged more than in proportion.
    leaning: Option<([Lab; 2], bool)>,
    slip: OnceCell<f64>,
}

impl<'a> Recipe<'a> {
    fn followed(recipe: Followed<'a>) -> Self {
        let (amounts, layers) = recipe.amounts();
        let charged = recipe.charged();
        let measures = recipe.measures();
        let lab = recipe.colour(NOTHING);
        let of = (0..amounts.len()).filter(|i| amounts[*i] > 0.0).collect();
        let leaning = recipe.leans_on().map(|ends| (ends.map(|wrong| recipe.colour(wrong)), recipe.medium == Medium::SoftPastel));
        let several = recipe.puts() > 1;
        // One measure more than there are stands for everything a tenth less.
        let erred = Box::new(move |measure: usize, by: f64| match measure == measures {
            true => recipe.colour(Wrong { all: 0.9, ..NOTHING }),
            false => recipe.colour(Wrong { measure, by, ..NOTHING }),
        });
        Self {
            of,
            amounts,
            layers,
            charged,
            lab,
            measures: measures + usize::from(several),
            erred,
            straight: false,
            leaning,
            slip: OnceCell::new(),
        }
    }

    fn bare(ground: &'a Ground, pigments: usize) -> Self {
        let lab = Layering { ground, layers: vec![] }.lay(State::Dry).expect("bare ground can be seen").reflectance.xyz().lab();
        let erred = Box::new(move |_, _| lab);
        Self {
            of: vec![],
            amounts: vec![0.0; pigments],
            layers: 0,
            charged: 0.0,
            lab,
            measures: 0,
            erred,
            straight: false,
            leaning: None,
            slip: OnceCell::new(),
        }
    }

    /// Twenty a step of value and the colour difference, over each measure a fifth too little: the root of the summed squares. In oil
    /// colours are taken to run straight with the logarithm of each measure.
    pub(crate) fn slip(&self) -> f64 {
        *self.slip.get_or_init(|| {
            let moved = |lab: Lab| 20.0 * (lab.value().0 - self.lab.value().0).abs() + ciede2000(lab, self.lab);
            let mean = |m| match self.straight {
                false => moved((self.erred)(m, 0.8)).powi(2),
                true => {
                    const STEP: f64 = 1e-4;
                    let (more, less) = ((self.erred)(m, 1.0 + STEP), (self.erred)(m, 1.0 - STEP));
                    let far = 20.0 * (more.value().0 - less.value().0).abs() + ciede2000(more, less);
                    (1.25f64.ln() * far / (2.0 * STEP)).powi(2)
                }
            };
            let apart = |a: Lab, b: Lab| 20.0 * (a.value().0 - b.value().0).abs() + ciede2000(a, b);
            let leans = self.leaning.map_or(0.0, |([least, most], steep)| {
                let far = apart(least, most);
                if steep { far * (1.0 + far / 20.0) } else { 0.5 * far }
            });
            ((0..self.measures).map(mean).sum::<f64>() + leans.powi(2)).sqrt()
        })
    }

    pub(crate) fn share(&self, pigment: usize) -> f64 {
        self.amounts[pigment] / self.amounts.iter().sum::<f64>()
    }
}

/// All recipes of a Box on a ground. A white that is mixed is the last of `pigments` in oil, and is left out of `of`.
pub(crate) fn recipes<'a>(medium: Medium, ground: &'a Ground, pigments: &'a [Pigment], grain: Grain, unusual: bool) -> Vec<Recipe<'a>> {
    match medium {
        Medium::Oil if grain == Grain::LetDowns => let_down(pigments),
        Medium::Oil => oil(pigments),
        _ => {
            let followed = hands::all(medium, ground, pigments, unusual).into_iter().map(Recipe::followed);
            std::iter::once(Recipe::bare(ground, pigments.len())).chain(followed).collect()
        }
    }
}

fn mixed_colour(pigments: &[Pigment], amounts: &[f64]) -> Lab {
    let parts: Vec<(&Pigment, Parts)> = pigments.iter().zip(amounts).map(|(p, n)| (p, Parts(*n))).collect();
    Paint::mixed(&parts).expect("there are parts").opaque(OIL).xyz().lab()
}

/// Every chain of heaps of up to three pigments and white in which each amount can be seen.
fn let_down(pigments: &[Pigment]) -> Vec<Recipe<'_>> {
    let n = pigments.len();
    // The least share of one thing, in octaves, that moves one part of another by what can be seen.
    let seen = |i: usize, j: usize| {
        let two = |a: f64| (0..n).map(|p| if p == i { a } else { f64::from(u8::from(p == j)) }).collect::<Vec<f64>>();
        let pure = mixed_colour(pigments, &two(0.0));
        let far = |e: &i32| {
            let lab = mixed_colour(pigments, &two(2f64.powi(*e)));
            ciede2000(lab, pure) >= 1.5
        };
        (-11..=8).find(far).map_or(f64::INFINITY, |e| 2f64.powi(e))
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
            all.push(Recipe {
                of,
                amounts,
                layers: chain.heaps.len(),
                charged: chain.heaps.len() as f64,
                lab,
                measures,
                erred,
                straight: true,
                leaning: None,
                slip: OnceCell::new(),
            });
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
            all.push(Recipe {
                of,
                amounts,
                layers: 1,
                charged: 1.0,
                lab,
                measures,
                erred,
                straight: true,
                leaning: None,
                slip: OnceCell::new(),
            });
        }
        let Some(i) = (0..n).find(|i| parts[*i] < 8 && parts.iter().sum::<u32>() - parts[..*i].iter().sum::<u32>() < 8) else {
            return all;
        };
        parts[i] += 1;
        parts[..i].fill(0);
    }
}

/// What a miss costs.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Price {
    pub value_weight: f64,
    pub value_free: f64,
    pub colour_free: f64,
    /// Hue is free on the right side of this temperature.
    pub neutral: Option<f64>,
    /// Half of what a hand slips, seven tenths a further layer, and misses that count more the larger they are.
    pub sure: bool,
    /// Steps of value a further layer is charged as instead, and a third ten more.
    pub laid: Option<f64>,
}

impl Price {
    pub(crate) fn of(&self, mix: Lab, wanted: Lab) -> f64 {
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
    pub(crate) fn rank(&self, recipe: &Recipe, wanted: Lab, best: f64) -> f64 {
        let miss = self.of(recipe.lab, wanted);
        let (each, third) = self.laid.map_or((0.7, 0.0), |steps| (20.0 * steps, 10.0));
        let layers = each * (recipe.charged - 1.0).max(0.0) + third * (recipe.charged - 2.0).max(0.0);
        if !self.sure {
            miss
        } else if miss + layers >= best {
            f64::INFINITY
        } else {
            miss + layers + 0.5 * recipe.slip()
        }
    }

    /// What a zone counts that is ranked so.
    pub(crate) fn charge(&self, rank: f64) -> f64 {
        if self.sure { rank + 0.05 * rank * rank } else { rank }
    }

    pub(crate) fn as_cost(&self) -> lean_recipes::Cost {
        use lean_recipes::cost::{Colour, Cost, Ranking, Tolerance};
        Cost {
            value_weight: self.value_weight,
            colour: self.neutral.map_or(Colour::Whole, |n| Colour::SideOnly { neutral: Temperature(n) }),
            tolerance: Tolerance { value: self.value_free, colour: self.colour_free },
            ranking: if self.sure {
                self.laid.map_or(Ranking::SURE, |steps| Ranking::layered(lean_colour::Steps(steps)))
            } else {
                Ranking::MISS
            },
            ..Cost::default()
        }
    }
}

/// All sets of `k` out of `n`.
pub(crate) fn sets(n: usize, k: usize) -> Vec<Vec<usize>> {
    (0u32..1 << n).filter(|bits| bits.count_ones() as usize == k).map(|bits| (0..n).filter(|i| bits >> i & 1 == 1).collect()).collect()
}
