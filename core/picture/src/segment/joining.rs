//! Patches joined pair by pair, cheapest first, down to one.

use super::features::Features;
use std::cmp::Ordering;
use std::collections::{BTreeMap, BinaryHeap};

/// Zones smaller than this share of the picture are joined to a neighbour whatever it costs.
const SMALLEST: f64 = 0.010;
/// Number of regions left when the small ones are cleared away.
const CLEAR_AT: usize = 48;
/// How far a soft border (a slow change of value) is forgiven compared with a hard edge of the same contrast. A choice.
const SOFT: f64 = 0.30;

/// One join: `from` disappears into `into`.
#[derive(Clone, Copy, Debug)]
pub struct Join {
    pub from: u32,
    pub into: u32,
    pub cost: f64,
}

#[derive(Clone, Default)]
struct Region {
    cells: f64,
    sum: [f64; 3],
    borders: BTreeMap<u32, Border>,
    alive: bool,
    age: u32,
}

#[derive(Clone, Copy, Default)]
struct Border {
    length: f64,
    contrast: f64,
}

struct Candidate {
    cost: f64,
    a: u32,
    b: u32,
    ages: (u32, u32),
}

impl Ord for Candidate {
    fn cmp(&self, other: &Self) -> Ordering {
        other.cost.total_cmp(&self.cost).then(other.a.cmp(&self.a)).then(other.b.cmp(&self.b))
    }
}
impl PartialOrd for Candidate {
    fn partial_cmp(&self, other: &Self) -> Option<Ordering> {
        Some(self.cmp(other))
    }
}
impl PartialEq for Candidate {
    fn eq(&self, other: &Self) -> bool {
        self.cmp(other) == Ordering::Equal
    }
}
impl Eq for Candidate {}

struct Regions {
    all: Vec<Region>,
    total: f64,
    left: usize,
    joins: Vec<Join>,
}

/// Joins all patches into one and returns how many patches there are and every join in order. Patches must be numbered
/// from 0; unused numbers are skipped by being joined first at no cost.
pub fn join_all(features: &Features, patch_of: &[u32]) -> (usize, Vec<Join>) {
    let mut regions = Regions::of(features, patch_of);
    let patches = regions.all.len();
    regions.join_until(CLEAR_AT);
    regions.clear_small();
    regions.join_until(1);
    (patches, regions.joins)
}

/// Zone number, from 1, of every patch when the joining stops at `count` zones.
pub fn cut(joins: &[Join], patches: usize, count: usize) -> Vec<u16> {
    let mut parent: Vec<u32> = (0..patches as u32).collect();
    for j in joins.iter().take(patches.saturating_sub(count)) {
        parent[j.from as usize] = j.into;
    }
    let root = |mut p: u32| {
        while parent[p as usize] != p {
            p = parent[p as usize];
        }
        p
    };
    let mut names = BTreeMap::new();
    (0..patches as u32)
        .map(|p| {
            let next = names.len() as u16 + 1;
            *names.entry(root(p)).or_insert(next)
        })
        .collect()
}

impl Regions {
    fn of(features: &Features, patch_of: &[u32]) -> Self {
        let patches = patch_of.iter().max().map_or(0, |m| *m as usize + 1);
        let mut all = vec![Region { alive: true, ..Region::default() }; patches];
        for (i, p) in patch_of.iter().enumerate() {
            let r = &mut all[*p as usize];
            r.cells += 1.0;
            for (s, f) in r.sum.iter_mut().zip(features.at(i)) {
                *s += f64::from(f);
            }
        }
        let w = features.width;
        for i in 0..patch_of.len() {
            let right = (i % w + 1 < w).then_some(i + 1);
            let below = (i + w < patch_of.len()).then_some(i + w);
            for j in [right, below].into_iter().flatten().filter(|j| patch_of[*j] != patch_of[i]) {
                let (a, b) = (features.at(i), features.at(j));
                let contrast: f64 = (0..3).map(|c| f64::from(a[c] - b[c]).powi(2)).sum();
                for (p, q) in [(i, j), (j, i)] {
                    let border = all[patch_of[p] as usize].borders.entry(patch_of[q]).or_default();
                    border.length += 1.0;
                    border.contrast += contrast.sqrt();
                }
            }
        }
        let mut regions = Self { all, total: patch_of.len() as f64, left: patches, joins: Vec::new() };
        regions.drop_unused();
        regions
    }

    fn drop_unused(&mut self) {
        let Some(first) = self.all.iter().position(|r| r.cells > 0.0) else { return };
        for p in 0..self.all.len() {
            if self.all[p].cells == 0.0 {
                self.all[p].alive = false;
                self.left -= 1;
                self.joins.push(Join { from: p as u32, into: first as u32, cost: 0.0 });
            }
        }
    }

    /// Growth of the piecewise-constant energy per unit of border removed (the full lambda-schedule of Redding et al. 1999
    /// after Mumford & Shah), eased where the border is soft: a sky that pales slowly stays one shape.
    fn cost(&self, a: u32, b: u32) -> f64 {
        let (p, q) = (&self.all[a as usize], &self.all[b as usize]);
        let Some(border) = p.borders.get(&b) else { return f64::INFINITY };
        let apart: f64 = (0..3).map(|c| (p.sum[c] / p.cells - q.sum[c] / q.cells).powi(2)).sum();
        let growth = p.cells * q.cells / (p.cells + q.cells) / self.total * apart;
        let hard = (border.contrast / border.length * 2.5 / apart.sqrt().max(1e-9)).min(1.0);
        growth * (SOFT + (1.0 - SOFT) * hard) / (border.length / self.total.sqrt())
    }

    fn candidate(&self, a: u32, b: u32) -> Candidate {
        let (a, b) = (a.min(b), a.max(b));
        Candidate { cost: self.cost(a, b), a, b, ages: (self.all[a as usize].age, self.all[b as usize].age) }
    }

    fn join_until(&mut self, count: usize) {
        let mut queue: BinaryHeap<Candidate> = BinaryHeap::new();
        for a in 0..self.all.len() as u32 {
            let region = &self.all[a as usize];
            queue.extend(region.borders.keys().filter(|b| region.alive && **b > a).map(|b| self.candidate(a, *b)));
        }
        while self.left > count {
            let Some(c) = queue.pop() else { break };
            let (a, b) = (&self.all[c.a as usize], &self.all[c.b as usize]);
            if !a.alive || !b.alive || (a.age, b.age) != c.ages {
                continue;
            }
            self.join(c.b, c.a, c.cost);
            let around: Vec<u32> = self.all[c.a as usize].borders.keys().copied().collect();
            queue.extend(around.into_iter().map(|n| self.candidate(c.a, n)));
        }
    }

    /// Joins every region below [`SMALLEST`] to the neighbour it costs least to join, smallest first.
    fn clear_small(&mut self) {
        while self.left > 1 {
            let small = (0..self.all.len())
                .filter(|r| self.all[*r].alive && self.all[*r].cells < SMALLEST * self.total)
                .min_by(|a, b| self.all[*a].cells.total_cmp(&self.all[*b].cells));
            let Some(small) = small else { break };
            let into =
                self.all[small].borders.keys().copied().min_by(|a, b| self.cost(small as u32, *a).total_cmp(&self.cost(small as u32, *b)));
            let Some(into) = into else { break };
            self.join(small as u32, into, 0.0);
        }
    }

    fn join(&mut self, from: u32, into: u32, cost: f64) {
        let gone = std::mem::take(&mut self.all[from as usize]);
        let kept = &mut self.all[into as usize];
        kept.cells += gone.cells;
        for c in 0..3 {
            kept.sum[c] += gone.sum[c];
        }
        kept.age += 1;
        kept.borders.remove(&from);
        for (other, border) in gone.borders {
            if other == into {
                continue;
            }
            for (x, y) in [(into, other), (other, into)] {
                let b = self.all[x as usize].borders.entry(y).or_default();
                b.length += border.length;
                b.contrast += border.contrast;
            }
            self.all[other as usize].borders.remove(&from);
        }
        self.left -= 1;
        self.joins.push(Join { from, into, cost });
    }
}
