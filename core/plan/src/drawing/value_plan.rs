//! Three plans of the values of a drawing: neighbours apart, few values ruling, the ground flat.

use super::shapes::Shapes;
use crate::light::key::Reach;
use lean_colour::{Lab, Srgb8, Value};
use lean_piece::{Piece, ZoneId};
use serde::Serialize;

/// Number of plans proposed.
pub const PLANS: u8 = 3;

/// A shape with its value.
#[derive(Clone, Copy, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ShapeValue {
    /// The shape.
    pub zone: ZoneId,
    /// Its value, 0..=10.
    #[cfg_attr(feature = "schema", schema(value_type = f64))]
    pub value: Value,
    /// The grey of this value on the screen.
    pub grey: Srgb8,
}

/// A plan of the values of a drawing.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ValuePlan {
    /// 1, 2 or 3.
    pub number: u8,
    /// The plan in words: "dark figure on light ground".
    pub words: String,
    /// The value of every shape; the background is left out where it stays bare.
    pub values: Vec<ShapeValue>,
    /// Share of the borders between shapes over which their values lie a step or more apart, 0..=1.
    pub apart: f64,
}

/// The aims of one plan.
struct Aim {
    words: &'static str,
    /// Share of the figure that is darker than the middle of what can be laid.
    dark: f64,
    /// True where the background is laid dark instead of left bare.
    on_dark: bool,
}

const AIMS: [Aim; PLANS as usize] = [
    Aim { words: "light figure with dark accents, on light ground", dark: 0.25, on_dark: false },
    Aim { words: "dark figure on light ground", dark: 0.62, on_dark: false },
    Aim { words: "light figure on dark ground", dark: 0.3, on_dark: true },
];

/// Values a plan has. Choices: six, so that few of them rule.
const LEVELS: usize = 6;
/// Steps of value within which neighbours are told apart badly. A choice: a little more than a step, so that a step is left when recipes miss.
const APART: f64 = 1.35;
/// Steps kept from the darkest and from the lightest that can be laid: at the very ends no hue is left.
const INSIDE: (f64, f64) = (1.0, 0.3);
/// Shares of the figure that its values have, from the largest down. A choice: one rules, two support it, the rest are accents.
const RULING: [f64; LEVELS] = [0.45, 0.28, 0.17, 0.07, 0.03, 0.0];
/// Changes tried from each of several beginnings.
const CHANGES: usize = 6000;
const BEGINNINGS: u64 = 4;

/// Three plans for a drawing, within what can be laid on its ground; none for what is no drawing. Shapes in `keep` stay as they are planned.
/// The same drawing always has the same plans.
pub fn value_plans(piece: &Piece, reach: Option<Reach>, keep: &[ZoneId]) -> Vec<ValuePlan> {
    let Some(shapes) = Shapes::of(piece).filter(|s| !s.groups.is_empty()) else { return Vec::new() };
    let (darkest, lightest) = reach.map_or((2.4, 9.0), |r| (r.darkest.max(1.5), r.lightest_layer.min(9.2)));
    let (low, high) = (darkest + INSIDE.0, (lightest - INSIDE.1).max(darkest + INSIDE.0 + 2.0));
    let levels: Vec<f64> = (0..LEVELS).map(|i| low + (high - low) * i as f64 / (LEVELS - 1) as f64).collect();
    let bare = piece.ground().lab.value().0;
    let fixed: Vec<Option<f64>> = shapes
        .groups
        .iter()
        .map(|g| g.members.iter().map(|i| &piece.zones[*i]).find(|z| keep.contains(&z.id)).map(|z| piece.wanted(z).value().0))
        .collect();
    let pairs = shapes.pairs();
    AIMS.iter()
        .enumerate()
        .map(|(n, aim)| {
            let ground = if aim.on_dark { low } else { bare };
            let asked = Asked { shapes: &shapes, pairs: &pairs, levels: &levels, fixed: &fixed, ground, dark: aim.dark };
            let values = asked.best(n as u64);
            told(piece, &shapes, n as u8 + 1, aim, ground, &values)
        })
        .collect()
}

fn told(piece: &Piece, shapes: &Shapes, number: u8, aim: &Aim, ground: f64, values: &[f64]) -> ValuePlan {
    let grey = |zone: ZoneId, value: f64| {
        let lab = Lab::new(Value(value).lightness(), 0.0, 0.0);
        ShapeValue { zone, value: Value(value), grey: lab.xyz().srgb() }
    };
    let of_groups = shapes.groups.iter().zip(values).flat_map(|(g, v)| g.members.iter().map(|i| grey(piece.zones[*i].id, *v)));
    let background = shapes.background.filter(|_| aim.on_dark).map(|i| grey(piece.zones[i].id, ground));
    let mut all: Vec<ShapeValue> = of_groups.chain(background).collect();
    all.sort_by_key(|v| v.zone);
    ValuePlan { number, words: aim.words.into(), values: all, apart: apart(shapes, values) }
}

/// Share of the borders between shapes over which values lie a step apart.
fn apart(shapes: &Shapes, values: &[f64]) -> f64 {
    let pairs = shapes.pairs();
    let all: f64 = pairs.iter().map(|(.., length)| length).sum();
    let told: f64 = pairs.iter().filter(|(i, j, _)| (values[*i] - values[*j]).abs() >= 1.0).map(|(.., length)| length).sum();
    if all > 0.0 { told / all } else { 1.0 }
}

struct Asked<'a> {
    shapes: &'a Shapes,
    /// Groups that border on each other, with the length of the border.
    pairs: &'a [(usize, usize, f64)],
    levels: &'a [f64],
    fixed: &'a [Option<f64>],
    ground: f64,
    dark: f64,
}

impl Asked<'_> {
    /// The values of the groups that cost least, of several beginnings.
    fn best(&self, seed: u64) -> Vec<f64> {
        let found = (0..BEGINNINGS).map(|b| self.cooled(seed * BEGINNINGS + b + 1));
        let mut all: Vec<(f64, Vec<f64>)> = found.map(|v| (self.cost(&v), v)).collect();
        all.sort_by(|a, b| a.0.total_cmp(&b.0));
        all.swap_remove(0).1
    }

    /// Values found by simulated annealing (Kirkpatrick et al. 1983) from one beginning.
    fn cooled(&self, seed: u64) -> Vec<f64> {
        let mut random = Random(seed);
        let open: Vec<usize> = (0..self.fixed.len()).filter(|i| self.fixed[*i].is_none()).collect();
        let mut values: Vec<f64> = self.fixed.iter().map(|f| f.unwrap_or_else(|| self.levels[random.below(self.levels.len())])).collect();
        if open.is_empty() {
            return values;
        }
        let mut cost = self.cost(&values);
        let mut best = (cost, values.clone());
        for n in 0..CHANGES {
            let group = open[random.below(open.len())];
            let before = std::mem::replace(&mut values[group], self.levels[random.below(self.levels.len())]);
            let now = self.cost(&values);
            let warmth = 0.05 * (1.0 - n as f64 / CHANGES as f64) + 1e-4;
            if now <= cost || random.share() < ((cost - now) / warmth).exp() {
                cost = now;
                if cost < best.0 {
                    best = (cost, values.clone());
                }
            } else {
                values[group] = before;
            }
        }
        best.1
    }

    fn cost(&self, values: &[f64]) -> f64 {
        let (mut near, mut length) = (0.0, 0.0f64);
        for (i, j, border) in self.pairs {
            near += border * (APART - (values[*i] - values[*j]).abs()).max(0.0).powi(2);
            length += border;
        }
        let (mut ground, mut rim) = (0.0, 0.0f64);
        for (v, border) in values.iter().zip(&self.shapes.on_background) {
            ground += border * (APART - (v - self.ground).abs()).max(0.0).powi(2);
            rim += border;
        }
        let middle = (self.levels[0] + self.levels[self.levels.len() - 1]) / 2.0;
        let groups = || self.shapes.groups.iter().zip(values);
        let area: f64 = groups().map(|(g, _)| g.area).sum::<f64>().max(f64::MIN_POSITIVE);
        let dark = groups().filter(|(_, v)| **v < middle).map(|(g, _)| g.area).sum::<f64>() / area;
        let (least, most) = values.iter().fold((f64::INFINITY, f64::NEG_INFINITY), |(l, m), v| (l.min(*v), m.max(*v)));
        let range = self.levels[self.levels.len() - 1] - self.levels[0];
        near / length.max(1.0) * 2.0
            + ground / rim.max(1.0)
            + 2.0 * (dark - self.dark).powi(2)
            + 0.25 * (1.0 - (most - least) / range).powi(2)
            + 0.2 * self.spread(values)
            + self.focal(values)
    }

    /// Distance of the areas of the values from a few ruling: 0 where three of them have it all, a large, a middle and a small share, 1 where all have
    /// the same.
    fn spread(&self, values: &[f64]) -> f64 {
        let total: f64 = self.shapes.groups.iter().map(|g| g.area).sum::<f64>().max(f64::MIN_POSITIVE);
        let mut shares: Vec<f64> = self
            .levels
            .iter()
            .map(|level| {
                let here = self.shapes.groups.iter().zip(values).filter(|(_, v)| (*v - level).abs() < 1e-6);
                here.map(|(g, _)| g.area).sum::<f64>() / total
            })
            .collect();
        shares.sort_by(|a, b| b.total_cmp(a));
        let off: f64 = shares.iter().zip(RULING).map(|(share, wanted)| (share - wanted).abs()).sum();
        off / 2.0 * LEVELS as f64 / (LEVELS - 1) as f64
    }

    /// Contrast that is missing for the shapes the eye is to go to: each should differ most from what it borders on.
    fn focal(&self, values: &[f64]) -> f64 {
        let contrast = |i: usize| {
            let row = &self.shapes.borders[i];
            let with = row.iter().zip(values).filter(|(b, _)| **b > 0.0).map(|(_, v)| (v - values[i]).abs());
            let ground = (self.shapes.on_background[i] > 0.0).then(|| (self.ground - values[i]).abs());
            with.chain(ground).fold(0.0, f64::max)
        };
        let focal: Vec<usize> = (0..values.len()).filter(|i| self.shapes.groups[*i].focal).collect();
        if focal.is_empty() {
            return 0.0;
        }
        let most = (0..values.len()).map(contrast).fold(0.0, f64::max);
        focal.iter().map(|i| 0.2 * (most - contrast(*i)).max(0.0)).sum::<f64>() / focal.len() as f64
    }
}

/// Numbers that look random and are the same on every machine (SplitMix64, Steele et al. 2014).
struct Random(u64);

impl Random {
    fn next(&mut self) -> u64 {
        self.0 = self.0.wrapping_add(0x9e37_79b9_7f4a_7c15);
        let mut z = self.0;
        z = (z ^ (z >> 30)).wrapping_mul(0xbf58_476d_1ce4_e5b9);
        z = (z ^ (z >> 27)).wrapping_mul(0x94d0_49bb_1331_11eb);
        z ^ (z >> 31)
    }

    fn below(&mut self, n: usize) -> usize {
        (self.next() % n as u64) as usize
    }

    fn share(&mut self) -> f64 {
        (self.next() >> 11) as f64 / (1u64 << 53) as f64
    }
}
