//! The least cost of every one, two and three pigments for every target.

mod by_value;
pub(crate) mod dense;
pub(crate) mod octets;

use crate::progress::{Cancelled, Progress};
use crate::table::octets::OCTET;
use by_value::ByValue;
use lean_media::lanes::LANES;
use lean_recipes::cost::quick::{self, CostF, Wanted};
use lean_recipes::cost::{Cost, Ranking, Target};
use lean_recipes::craft::Craft;
use lean_recipes::craft::Quick;
use rayon::prelude::*;
use std::sync::atomic::{AtomicUsize, Ordering};

/// Most targets one search takes, over all its pieces.
pub const MOST_TARGETS: usize = 96;

/// A cost no recipe reaches. Finite, so that sums stay ordered.
pub const NEVER: f32 = 1e6;

/// One piece that a set has to serve.
pub struct Errand<'a> {
    /// Recipes of its medium on its ground. All errands list the same pigments.
    pub craft: &'a dyn Craft,
    /// What it needs.
    pub targets: Vec<Target>,
    /// What a miss costs.
    pub cost: Cost,
    /// How much this piece counts against the others, ≥ 0.
    pub weight: f64,
}

impl Errand<'_> {
    /// Weight of each target in the whole search; those of all errands add up to 1.
    pub fn weights(&self, all: &[Errand]) -> Vec<f64> {
        let sum = |e: &Errand| e.targets.iter().map(|t| t.weight).sum::<f64>();
        let counting: f64 = all.iter().filter(|e| sum(e) > 0.0).map(|e| e.weight).sum();
        let own = sum(self);
        self.targets.iter().map(|t| if own > 0.0 { t.weight / own * self.weight / counting } else { 0.0 }).collect()
    }
}

/// Weighted least costs, nested: a triple's is never above that of its pairs, singles and what is free.
///
/// Independent of set size, locks and exclusions, so that one table serves them all.
#[derive(Debug, Default)]
pub struct Table {
    /// Number of pigments.
    pub pigments: usize,
    /// Targets padded to a whole number of lanes with zero weight.
    pub width: usize,
    /// Whether groups of three are in it.
    complete: bool,
    /// Rows of what is free, of singles, of pairs and of triples, each list in ascending order.
    rows: Vec<f32>,
    /// Row of the pair `(i, i + 1)`, less `i + 1`.
    pair_rows: Vec<usize>,
    /// Row of the triple `(i, j, j + 1)`, less `j + 1`, by the pair's row.
    triple_rows: Vec<usize>,
}

struct Work<'a> {
    errands: Vec<ErrandF<'a>>,
    width: usize,
    progress: &'a dyn Progress,
}

/// An errand in single precision.
struct ErrandF<'a> {
    craft: &'a dyn Craft,
    wanted: Vec<Wanted>,
    weights: Vec<f32>,
    cost: CostF,
    ranking: Ranking,
    from: usize,
}

/// A table whose triples are still missing: enough for sets of one and two.
pub struct Begun<'a> {
    /// Singles and pairs.
    pub table: Table,
    work: Work<'a>,
}

impl Begun<'_> {
    /// Evaluates the recipes of three.
    ///
    /// # Errors
    /// [`Cancelled`] when the watcher asks for it; answers within a few milliseconds.
    pub fn completed(mut self) -> Result<Table, Cancelled> {
        self.table.fill_triples(&self.work)?;
        Ok(self.table)
    }
}

impl Table {
    /// Evaluates every recipe of up to three pigments for every target.
    ///
    /// # Errors
    /// [`Cancelled`] when the watcher asks for it; answers within a few milliseconds.
    ///
    /// # Panics
    /// When there are more than [`MOST_TARGETS`] targets.
    pub fn of(errands: &[Errand], progress: &dyn Progress) -> Result<Self, Cancelled> {
        Self::begin(errands, progress).completed()
    }

    /// Evaluates the recipes of one and two, a small part of the work. Cancelled, it stops early and says so when it is to be completed.
    ///
    /// # Panics
    /// When there are more than [`MOST_TARGETS`] targets.
    pub fn begin<'a>(errands: &'a [Errand], progress: &'a dyn Progress) -> Begun<'a> {
        let work = Work::of(errands, progress);
        let n = errands.first().map_or(0, |e| e.craft.pigments());
        let mut table = Self::empty(n, work.width);
        let free = work.run(&[], &vec![NEVER; work.width]);
        let singles: Vec<Vec<f32>> = (0..n).map(|i| work.run(&[i], &free)).collect();
        let pairs: Vec<[usize; 2]> = (0..n).flat_map(|i| (i + 1..n).map(move |j| [i, j])).collect();
        let done: Vec<Vec<f32>> = pairs.par_iter().map(|[i, j]| work.run(&[*i, *j], &least(&singles[*i], &singles[*j]))).collect();
        table.rows = std::iter::once(free).chain(singles).chain(done).flatten().collect();
        Begun { table, work }
    }

    fn empty(n: usize, width: usize) -> Self {
        let mut row = 1 + n;
        let mut pair_rows = Vec::with_capacity(n);
        for i in 0..n {
            pair_rows.push(row.wrapping_sub(i + 1));
            row += n - i - 1;
        }
        let mut triple_rows = vec![0; row];
        for i in 0..n {
            for j in i + 1..n {
                triple_rows[pair_rows[i].wrapping_add(j)] = row.wrapping_sub(j + 1);
                row += n - j - 1;
            }
        }
        Self { pigments: n, width, complete: false, rows: Vec::new(), pair_rows, triple_rows }
    }

    fn fill_triples(&mut self, work: &Work) -> Result<(), Cancelled> {
        let (n, width) = (self.pigments, self.width);
        let mut triples = vec![0.0; n * n.saturating_sub(1) * n.saturating_sub(2) / 6 * width];
        let mut rest = triples.as_mut_slice();
        let mut heads = Vec::new();
        for i in 0..n {
            for j in i + 1..n {
                let (own, later) = rest.split_at_mut((n - j - 1) * width);
                heads.push((i, j, own));
                rest = later;
            }
        }
        // Each head does as many groups as there are pigments after it: shares of the work are exact.
        let total = (triples_of(n)).max(1);
        let finished = AtomicUsize::new(0);
        let table = &*self;
        heads.into_par_iter().try_for_each(|(i, j, own)| {
            if work.progress.is_cancelled() {
                return Err(Cancelled);
            }
            for (k, row) in (j + 1..n).zip(own.chunks_exact_mut(width)) {
                let start = least(&least(table.pair(i, j), table.pair(i, k)), table.pair(j, k));
                row.copy_from_slice(&work.run(&[i, j, k], &start));
            }
            let done = finished.fetch_add(n - j - 1, Ordering::Relaxed) + n - j - 1;
            work.progress.report(done as f64 / total as f64);
            Ok(())
        })?;
        self.rows.append(&mut triples);
        self.complete = true;
        Ok(())
    }

    fn row(&self, row: usize) -> &[f32] {
        &self.rows[row * self.width..(row + 1) * self.width]
    }

    /// Least costs with what is free alone.
    pub fn free(&self) -> &[f32] {
        self.row(0)
    }

    /// Least costs with one pigment.
    pub fn single(&self, i: usize) -> &[f32] {
        self.row(1 + i)
    }

    /// Least costs with two pigments, `i < j`.
    pub fn pair(&self, i: usize, j: usize) -> &[f32] {
        self.row(self.pair_rows[i].wrapping_add(j))
    }

    /// Least costs with three pigments, `i < j < k`. `None` in a table that is only begun.
    pub fn triple(&self, i: usize, j: usize, k: usize) -> Option<&[f32]> {
        self.complete.then(|| self.row(self.triple_rows[self.pair_rows[i].wrapping_add(j)].wrapping_add(k)))
    }

    /// Rows of all triples that begin with `i < j`, the third ascending from `j + 1`. Empty in a table that is only begun.
    pub fn triples_from(&self, i: usize, j: usize) -> &[f32] {
        if !self.complete || j + 1 >= self.pigments {
            return &[];
        }
        let row = self.triple_rows[self.pair_rows[i].wrapping_add(j)].wrapping_add(j + 1);
        &self.rows[row * self.width..(row + self.pigments - j - 1) * self.width]
    }

    /// The same for three different pigments in any order.
    #[inline(always)]
    pub fn triple_of(&self, i: usize, j: usize, k: usize) -> &[f32] {
        let (i, j) = (i.min(j), i.max(j));
        let (i, j, k) = if k < i {
            (k, i, j)
        } else if k < j {
            (i, k, j)
        } else {
            (i, j, k)
        };
        self.row(self.triple_rows[self.pair_rows[i].wrapping_add(j)].wrapping_add(k))
    }

    /// Least costs with two pigments in any order, or with one when both are the same.
    #[inline(always)]
    pub fn pair_of(&self, i: usize, j: usize) -> &[f32] {
        if i == j { self.single(i) } else { self.pair(i.min(j), i.max(j)) }
    }

    /// Whether groups of three are in it.
    pub fn is_complete(&self) -> bool {
        self.complete
    }

    /// Bytes the table takes.
    pub fn bytes(&self) -> usize {
        size_of_val(self.rows.as_slice()) + size_of_val(self.triple_rows.as_slice())
    }
}

fn triples_of(n: usize) -> usize {
    n * n.saturating_sub(1) * n.saturating_sub(2) / 6
}

fn least(a: &[f32], b: &[f32]) -> Vec<f32> {
    a.iter().zip(b).map(|(x, y)| x.min(*y)).collect()
}

impl<'a> Work<'a> {
    fn of(errands: &'a [Errand], progress: &'a dyn Progress) -> Self {
        let targets: usize = errands.iter().map(|e| e.targets.len()).sum();
        assert!(targets <= MOST_TARGETS, "at most {MOST_TARGETS} targets");
        let mut from = 0;
        let narrow = |e: &'a Errand<'a>| {
            let own = ErrandF {
                craft: e.craft,
                wanted: e.targets.iter().map(|t| Wanted::of(t.lab, e.cost)).collect(),
                weights: e.weights(errands).into_iter().map(|w| w as f32).collect(),
                cost: CostF::of(e.cost),
                ranking: e.cost.ranking,
                from,
            };
            from += e.targets.len();
            own
        };
        Self { errands: errands.iter().map(narrow).collect(), width: targets.next_multiple_of(OCTET), progress }
    }

    /// Weighted least cost per target over the recipes of exactly this group, started from `start` (already weighted).
    fn run(&self, group: &[usize], start: &[f32]) -> Vec<f32> {
        let mut out = start.to_vec();
        if self.progress.is_cancelled() {
            return out;
        }
        let mut mixed = Quick::default();
        for e in &self.errands {
            mixed.clear();
            e.craft.quick(group, &mut mixed);
            let own = &mut out[e.from..e.from + e.wanted.len()];
            let miss = |charge: f32| if charge < NEVER { e.ranking.miss_of(charge.into()) as f32 } else { NEVER };
            let mut best: Vec<f32> = own.iter().zip(&e.weights).map(|(c, w)| if *w > 0.0 { miss(c / w) } else { 0.0 }).collect();
            let before = best.clone();
            e.lower(&mut best, group, &mixed);
            for (i, c) in best.iter().enumerate().filter(|(i, c)| **c < before[*i]) {
                own[i] = e.ranking.of_zone(f64::from(*c)) as f32 * e.weights[i];
            }
        }
        let targets = self.errands.last().map_or(0, |e| e.from + e.wanted.len());
        out[targets..].fill(0.0);
        out
    }
}

impl ErrandF<'_> {
    fn lower(&self, best: &mut [f32], group: &[usize], mixed: &Quick) {
        #[cfg(target_arch = "x86_64")]
        if is_x86_feature_detected!("avx2") && is_x86_feature_detected!("fma") {
            // SAFETY: the two features were just found on this processor.
            return unsafe { self.lower_wide(best, group, mixed) };
        }
        self.lower_plain(best, group, mixed);
    }

    #[cfg(target_arch = "x86_64")]
    #[target_feature(enable = "avx2,fma")]
    fn lower_wide(&self, best: &mut [f32], group: &[usize], mixed: &Quick) {
        self.lower_plain(best, group, mixed);
    }

    #[inline(always)]
    fn lower_plain(&self, best: &mut [f32], group: &[usize], mixed: &Quick) {
        let sure = !self.cost.asks_slips();
        let mut near: Vec<Near> = Vec::new();
        let mut sorted = ByValue::default();
        sorted.sort(mixed);
        for (target, wanted) in self.wanted.iter().enumerate() {
            for eight in sorted.near(wanted.value(), self.cost.reach(best[target])) {
                let charge = sorted.more_layers.get(eight).map_or([0.0; LANES], |n| self.cost.of_layers(n));
                let Some(lanes) = quick::charged(&sorted.colours[eight], &charge, wanted, self.cost, best[target]) else { continue };
                if sure {
                    best[target] = quick::less(best[target], quick::least(&lanes));
                    continue;
                }
                let recipe = |lane: usize| sorted.order[eight * LANES + lane] as usize;
                let below = |(lane, c): (usize, &f32)| (*c < best[target]).then(|| Near { target, recipe: recipe(lane), charged: *c });
                near.extend(lanes.iter().enumerate().filter_map(below));
            }
        }
        self.lower_by_hand(best, group, mixed, near);
    }

    /// Of recipes whose miss alone would lower a target's least cost, those that still do with what a slip of the hand is charged. The nearest
    /// of each target are asked first: what they come to spares most of the others.
    fn lower_by_hand(&self, best: &mut [f32], group: &[usize], mixed: &Quick, mut near: Vec<Near>) {
        near.sort_unstable_by(|a, b| a.charged.total_cmp(&b.charged).then(a.recipe.cmp(&b.recipe)));
        let mut slips = vec![f32::NAN; mixed.colours.len() * LANES];
        while !near.is_empty() {
            let mut asked = Vec::with_capacity(self.wanted.len());
            let mut taken = vec![false; self.wanted.len()];
            for n in near.iter().filter(|n| slips[n.recipe].is_nan()) {
                if !taken[n.target] {
                    taken[n.target] = true;
                    asked.push(n.recipe);
                }
            }
            asked.sort_unstable();
            asked.dedup();
            for eight in asked.chunks(LANES) {
                let which: [usize; LANES] = std::array::from_fn(|i| eight[i.min(eight.len() - 1)]);
                let lanes = self.craft.quick_slips(group, mixed, &which);
                which.iter().zip(lanes).for_each(|(n, slip)| slips[*n] = slip);
            }
            near.retain(|n| {
                let slip = slips[n.recipe];
                if slip.is_nan() {
                    return n.charged < best[n.target];
                }
                best[n.target] = quick::less(best[n.target], n.charged + self.cost.of_slip(slip));
                false
            });
            near.retain(|n| n.charged < best[n.target]);
        }
    }
}

/// A recipe that may lower a target's least cost.
struct Near {
    target: usize,
    recipe: usize,
    /// What it costs without what a slip of the hand is charged.
    charged: f32,
}
