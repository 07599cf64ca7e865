//! The least cost of every one, two and three pigments for every target.

mod by_value;
pub(crate) mod eights;
pub(crate) mod in_play;
mod near;

use crate::progress::{Cancelled, Progress};
use crate::question::MOST_TARGETS;
use crate::question::families::{self, Planned};
use crate::table::eights::EIGHT;
use by_value::ByValue;
use lean_media::lanes::LANES;
use lean_recipes::cost::quick::{self, CostF, Wanted};
use lean_recipes::cost::{Cost, Ranking, Target};
use lean_recipes::technique::Quick;
use lean_recipes::technique::Technique;
use near::NearMisses;
use rayon::prelude::*;
use std::sync::atomic::{AtomicUsize, Ordering};

/// A cost no recipe reaches. Finite, so that sums stay ordered.
pub(crate) const NEVER: f32 = 1e6;

/// One piece that a set has to serve.
pub struct Served<'a> {
    /// Recipes of its medium on its ground. All served list the same pigments.
    pub technique: &'a dyn Technique,
    /// What it needs.
    pub targets: Vec<Target>,
    /// What a miss costs.
    pub cost: Cost,
    /// How much this piece counts against the others, ≥ 0.
    pub weight: f64,
}

impl Served<'_> {
    /// Weight of each target in the whole search; those of all served add up to 1.
    pub fn weights(&self, all: &[Served]) -> Vec<f64> {
        let sum = |e: &Served| e.targets.iter().map(|t| t.weight).sum::<f64>();
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
    /// True where no group of three has recipes of its own: then there are no rows of triples, also when it is complete.
    only_pairs: bool,
    /// Rows of what is free, of singles, of pairs and of triples, each list in ascending order.
    rows: Vec<f32>,
    /// For every row the hue families of the first piece's plan that its group reaches, one bit each in the order of [`families::planned`];
    /// nested like the costs. In single precision.
    reached: Vec<u8>,
    /// Row of the pair `(i, i + 1)`, less `i + 1`.
    pair_rows: Vec<usize>,
    /// Row of the triple `(i, j, j + 1)`, less `j + 1`, by the pair's row.
    triple_rows: Vec<usize>,
}

/// What one thread works with, used again from group to group.
#[derive(Default)]
struct Bench {
    mixed: Quick,
    sorted: ByValue,
}

impl Bench {
    /// Lists the recipes of a group, sorted by value.
    fn list(&mut self, technique: &dyn Technique, group: &[usize]) {
        self.mixed.clear();
        technique.quick(group, &mut self.mixed);
        self.sorted.sort(&self.mixed);
    }
}

struct Work<'a> {
    served: Vec<ServedF<'a>>,
    width: usize,
    /// Hue families of the first piece's plan.
    families: Vec<Planned>,
    progress: &'a dyn Progress,
}

/// A piece that is served, in single precision.
struct ServedF<'a> {
    technique: &'a dyn Technique,
    wanted: Vec<Wanted>,
    weights: Vec<f32>,
    /// What a miss of each target costs.
    costs: Vec<CostF>,
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
    pub(crate) fn completed(mut self) -> Result<Table, Cancelled> {
        fill_triples(std::slice::from_mut(&mut self.table), std::slice::from_ref(&self.work), None)?;
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
    pub fn of(served: &[Served], progress: &dyn Progress) -> Result<Self, Cancelled> {
        Self::begin(served, progress).completed()
    }

    /// Evaluates the recipes of one and two, a small part of the work. Cancelled, it stops early and says so when it is to be completed.
    ///
    /// # Panics
    /// When there are more than [`MOST_TARGETS`] targets.
    pub fn begin<'a>(served: &'a [Served], progress: &'a dyn Progress) -> Begun<'a> {
        let work = Work::of(served, progress);
        let n = served.first().map_or(0, |e| e.technique.pigments());
        let only_pairs = served.iter().all(|e| e.technique.largest_group() < 3);
        let mut table = Self::empty(n, work.width, only_pairs);
        let mut bench = Bench::default();
        let free = work.row(&mut bench, &[], Row { costs: vec![NEVER; work.width], reached: 0 });
        let singles: Vec<Row> = (0..n).map(|i| work.row(&mut bench, &[i], free.clone())).collect();
        let pairs: Vec<[usize; 2]> = (0..n).flat_map(|i| (i + 1..n).map(move |j| [i, j])).collect();
        let pair = |bench: &mut Bench, [i, j]: &[usize; 2]| work.row(bench, &[*i, *j], singles[*i].or(&singles[*j]));
        let done: Vec<Row> = pairs.par_iter().map_init(Bench::default, pair).collect();
        for row in std::iter::once(free).chain(singles).chain(done) {
            table.rows.extend(row.costs);
            table.reached.push(row.reached);
        }
        Begun { table, work }
    }

    fn empty(n: usize, width: usize, only_pairs: bool) -> Self {
        let mut row = 1 + n;
        let mut pair_rows = Vec::with_capacity(n);
        for i in 0..n {
            pair_rows.push(row.wrapping_sub(i + 1));
            row += n - i - 1;
        }
        let mut triple_rows = vec![0; if only_pairs { 0 } else { row }];
        for i in 0..if only_pairs { 0 } else { n } {
            for j in i + 1..n {
                triple_rows[pair_rows[i].wrapping_add(j)] = row.wrapping_sub(j + 1);
                row += n - j - 1;
            }
        }
        Self { pigments: n, width, complete: false, only_pairs, rows: Vec::new(), reached: Vec::new(), pair_rows, triple_rows }
    }

    /// Evaluates several questions at once, each about one piece, all by the same recipes: those are listed once a group instead of once a question.
    /// `served` are the questions; their own techniques must list what `technique` does.
    ///
    /// # Errors
    /// [`Cancelled`] when the watcher asks for it.
    ///
    /// # Panics
    /// When a question has more than [`MOST_TARGETS`] targets.
    pub fn together(technique: &dyn Technique, served: &[Served], progress: &dyn Progress) -> Result<Vec<Self>, Cancelled> {
        let works: Vec<Work> = served.iter().map(|s| Work::of(std::slice::from_ref(s), progress)).collect();
        let n = technique.pigments();
        let only_pairs = technique.largest_group() < 3;
        let mut tables: Vec<Self> = works.iter().map(|w| Self::empty(n, w.width, only_pairs)).collect();
        let rows = |bench: &mut Bench, group: &[usize], known: Vec<Row>| -> Vec<Row> {
            bench.list(technique, group);
            works.iter().zip(known).map(|(w, row)| w.listed_row(bench, group, row)).collect()
        };
        let mut bench = Bench::default();
        let nothing = works.iter().map(|w| Row { costs: vec![NEVER; w.width], reached: 0 }).collect();
        let free = rows(&mut bench, &[], nothing);
        let singles: Vec<Vec<Row>> = (0..n).map(|i| rows(&mut bench, &[i], free.clone())).collect();
        let pairs: Vec<[usize; 2]> = (0..n).flat_map(|i| (i + 1..n).map(move |j| [i, j])).collect();
        let pair = |bench: &mut Bench, [i, j]: &[usize; 2]| {
            let known = singles[*i].iter().zip(&singles[*j]).map(|(a, b)| a.or(b)).collect();
            rows(bench, &[*i, *j], known)
        };
        let done: Vec<Vec<Row>> = pairs.par_iter().map_init(Bench::default, pair).collect();
        for group in std::iter::once(free).chain(singles).chain(done) {
            for (table, row) in tables.iter_mut().zip(group) {
                table.rows.extend(row.costs);
                table.reached.push(row.reached);
            }
        }
        fill_triples(&mut tables, &works, Some(technique))?;
        Ok(tables)
    }

    /// What the pairs of a triple can do, into its row; the families they reach.
    fn begin_triple(&self, [i, j, k]: [usize; 3], row: &mut [f32]) -> u8 {
        let pairs = [(i, j), (i, k), (j, k)];
        let [a, b, c] = pairs.map(|(a, b)| self.pair(a, b));
        row.iter_mut().enumerate().for_each(|(t, cost)| *cost = a[t].min(b[t]).min(c[t]));
        pairs.iter().fold(0, |all, (a, b)| all | self.reached[self.pair_rows[*a].wrapping_add(*b)])
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

    /// Rows of all triples that begin with `i < j`, the third ascending from `j + 1`. Empty where no triples are known.
    pub(crate) fn triples_from(&self, i: usize, j: usize) -> &[f32] {
        if !self.has_triples() || j + 1 >= self.pigments {
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
    pub(crate) fn pair_of(&self, i: usize, j: usize) -> &[f32] {
        if i == j { self.single(i) } else { self.pair(i.min(j), i.max(j)) }
    }

    /// Families of the first piece's plan that recipes of two of these pigments reach, one bit each in the order of [`families::planned`].
    pub(crate) fn reached_by_twos(&self, set: &[usize]) -> u8 {
        let pairs = set.iter().flat_map(|i| set.iter().filter(move |j| i < j).map(move |j| self.pair_rows[*i].wrapping_add(*j)));
        let singles = set.iter().map(|i| 1 + i);
        pairs.chain(singles).chain([0]).fold(0, |all, row| all | self.reached[row])
    }

    /// Those that any recipes of a set (ascending numbers) reach, as far as the table goes.
    pub fn reached(&self, set: &[u16]) -> u8 {
        if !self.has_triples() || set.len() < 3 {
            return self.reached_by_twos(&set.iter().map(|i| usize::from(*i)).collect::<Vec<_>>());
        }
        let mut all = 0;
        for (a, i) in set.iter().enumerate() {
            for (b, j) in set.iter().enumerate().skip(a + 1) {
                let row = self.triple_rows[self.pair_rows[usize::from(*i)].wrapping_add(usize::from(*j))];
                all = set[b + 1..].iter().fold(all, |all, k| all | self.reached[row.wrapping_add(usize::from(*k))]);
            }
        }
        all
    }

    /// True where it knows of groups of three that have recipes of their own.
    pub(crate) fn has_triples(&self) -> bool {
        self.complete && !self.only_pairs
    }

    /// Number of groups that a look at all of them goes through.
    pub(crate) fn groups_of(&self, pigments: usize) -> f64 {
        let n = pigments as f64;
        if self.has_triples() { n * (n - 1.0) * (n - 2.0) / 6.0 } else { n * (n - 1.0) / 2.0 }
    }

    /// True where all recipes are in it.
    pub(crate) fn is_complete(&self) -> bool {
        self.complete
    }

    /// Bytes the table takes.
    pub fn bytes(&self) -> usize {
        size_of_val(self.rows.as_slice()) + size_of_val(self.triple_rows.as_slice())
    }
}

/// The triples of one table that begin with the same two pigments, as they are filled in: costs and families reached.
type Stretch<'a> = (&'a mut [f32], &'a mut [u8]);

/// Triples of several tables by their first two pigments.
type Head<'a> = (usize, usize, Vec<Stretch<'a>>);

/// Evaluates the recipes of three for tables that are only begun. With a `technique` all of them go by its recipes, listed once; without one there is
/// one table whose pieces have their own.
fn fill_triples(tables: &mut [Table], works: &[Work], technique: Option<&dyn Technique>) -> Result<(), Cancelled> {
    let Some(progress) = works.first().map(|w| w.progress) else { return Ok(()) };
    if tables.iter().all(|t| t.only_pairs) {
        if progress.is_cancelled() {
            return Err(Cancelled);
        }
        tables.iter_mut().for_each(|t| t.complete = true);
        return Ok(());
    }
    let n = tables[0].pigments;
    let mut triples: Vec<(Vec<f32>, Vec<u8>)> =
        tables.iter().map(|t| (vec![0.0; triples_of(n) * t.width], vec![0u8; triples_of(n)])).collect();
    let widths: Vec<usize> = tables.iter().map(|t| t.width).collect();
    let mut heads: Vec<Head> = (0..n).flat_map(|i| (i + 1..n).map(move |j| (i, j, Vec::new()))).collect();
    for ((costs, reached), width) in triples.iter_mut().zip(&widths) {
        let (mut rest, mut rest_reached) = (costs.as_mut_slice(), reached.as_mut_slice());
        for (_, j, own) in &mut heads {
            let (mine, later) = rest.split_at_mut((n - *j - 1) * width);
            let (mine_reached, later_reached) = rest_reached.split_at_mut(n - *j - 1);
            own.push((mine, mine_reached));
            (rest, rest_reached) = (later, later_reached);
        }
    }
    // Each head does as many groups as there are pigments after it: shares of the work are exact.
    let total = (triples_of(n)).max(1);
    let finished = AtomicUsize::new(0);
    let begun = &*tables;
    heads.into_par_iter().try_for_each_init(Bench::default, |bench, (i, j, mut own)| {
        if progress.is_cancelled() {
            return Err(Cancelled);
        }
        for k in j + 1..n {
            let (at, group) = (k - j - 1, [i, j, k]);
            if let Some(technique) = technique {
                bench.list(technique, &group);
            }
            for (((costs, reached), table), work) in own.iter_mut().zip(begun).zip(works) {
                let row = &mut costs[at * table.width..(at + 1) * table.width];
                let known = table.begin_triple(group, row);
                reached[at] =
                    if technique.is_some() { work.run_listed(bench, &group, row, known) } else { work.run(bench, &group, row, known) };
            }
        }
        let done = finished.fetch_add(n - j - 1, Ordering::Relaxed) + n - j - 1;
        progress.report(done as f64 / total as f64);
        Ok(())
    })?;
    for (table, (mut costs, mut reached)) in tables.iter_mut().zip(triples) {
        table.rows.append(&mut costs);
        table.reached.append(&mut reached);
        table.complete = true;
    }
    Ok(())
}

fn triples_of(n: usize) -> usize {
    n * n.saturating_sub(1) * n.saturating_sub(2) / 6
}

/// One row of the table.
#[derive(Clone)]
struct Row {
    costs: Vec<f32>,
    reached: u8,
}

impl Row {
    /// What either of two groups can do.
    fn or(&self, other: &Self) -> Self {
        Self { costs: self.costs.iter().zip(&other.costs).map(|(x, y)| x.min(*y)).collect(), reached: self.reached | other.reached }
    }
}

impl<'a> Work<'a> {
    fn of(served: &'a [Served], progress: &'a dyn Progress) -> Self {
        let targets: usize = served.iter().map(|e| e.targets.len()).sum();
        assert!(targets <= MOST_TARGETS, "at most {MOST_TARGETS} targets");
        let mut from = 0;
        let narrow = |e: &'a Served<'a>| {
            let own = ServedF {
                technique: e.technique,
                wanted: e.targets.iter().map(|t| Wanted::of(t.lab, e.cost)).collect(),
                costs: e.targets.iter().map(|t| CostF::of(e.cost.toward(t.lab).1)).collect(),
                weights: e.weights(served).into_iter().map(|w| w as f32).collect(),
                cost: CostF::of(e.cost),
                ranking: e.cost.ranking,
                from,
            };
            from += e.targets.len();
            own
        };
        let families = served.first().map_or(Vec::new(), |e| families::planned(&e.targets));
        Self { served: served.iter().map(narrow).collect(), width: targets.next_multiple_of(EIGHT), families, progress }
    }

    fn row(&self, bench: &mut Bench, group: &[usize], mut row: Row) -> Row {
        row.reached = self.run(bench, group, &mut row.costs, row.reached);
        row
    }

    fn listed_row(&self, bench: &mut Bench, group: &[usize], mut row: Row) -> Row {
        row.reached = self.run_listed(bench, group, &mut row.costs, row.reached);
        row
    }

    /// Lowers weighted least costs per target by the recipes of exactly this group. Returns the families that are reached, those known among them.
    fn run(&self, bench: &mut Bench, group: &[usize], out: &mut [f32], known: u8) -> u8 {
        let mut reached = known;
        if self.progress.is_cancelled() {
            return reached;
        }
        for (nth, e) in self.served.iter().enumerate() {
            bench.list(e.technique, group);
            if nth == 0 {
                reached |= families::reached(&self.families, &bench.mixed.colours, reached);
            }
            e.lower_own(out, group, bench);
        }
        self.fill_up(out);
        reached
    }

    /// The same for one piece whose recipes are listed already.
    fn run_listed(&self, bench: &mut Bench, group: &[usize], out: &mut [f32], known: u8) -> u8 {
        let reached = known | families::reached(&self.families, &bench.mixed.colours, known);
        self.served.iter().for_each(|e| e.lower_own(out, group, bench));
        self.fill_up(out);
        reached
    }

    /// Lanes without a target cost nothing.
    fn fill_up(&self, out: &mut [f32]) {
        let targets = self.served.last().map_or(0, |e| e.from + e.wanted.len());
        out[targets..].fill(0.0);
    }
}

impl ServedF<'_> {
    /// Lowers the weighted least costs of its own targets by the recipes that are listed.
    fn lower_own(&self, out: &mut [f32], group: &[usize], bench: &mut Bench) {
        let own = &mut out[self.from..self.from + self.wanted.len()];
        let miss = |charge: f32| if charge < NEVER { self.ranking.miss_of(charge.into()) as f32 } else { NEVER };
        let mut best: Vec<f32> = own.iter().zip(&self.weights).map(|(c, w)| if *w > 0.0 { miss(c / w) } else { 0.0 }).collect();
        let before = best.clone();
        self.lower(&mut best, group, bench);
        for (i, c) in best.iter().enumerate().filter(|(i, c)| **c < before[*i]) {
            own[i] = self.ranking.of_zone(f64::from(*c)) as f32 * self.weights[i];
        }
    }

    fn lower(&self, best: &mut [f32], group: &[usize], bench: &mut Bench) {
        #[cfg(target_arch = "x86_64")]
        if is_x86_feature_detected!("avx2") && is_x86_feature_detected!("fma") {
            // SAFETY: the two features were just found on this processor.
            return unsafe { self.lower_wide(best, group, bench) };
        }
        self.lower_plain(best, group, bench);
    }

    #[cfg(target_arch = "x86_64")]
    #[target_feature(enable = "avx2,fma")]
    fn lower_wide(&self, best: &mut [f32], group: &[usize], bench: &mut Bench) {
        self.lower_plain(best, group, bench);
    }

    #[inline(always)]
    fn lower_plain(&self, best: &mut [f32], group: &[usize], bench: &mut Bench) {
        let Bench { mixed, sorted } = bench;
        let sure = !self.cost.asks_slips();
        let mut near = NearMisses::of(self.wanted.len());
        for (target, wanted) in self.wanted.iter().enumerate() {
            let cost = self.costs[target];
            for eight in sorted.near(wanted.value(), cost.reach(best[target])) {
                let charge = sorted.more_layers.get(eight).map_or([0.0; LANES], |n| cost.of_layers(n));
                let Some(lanes) = quick::charged(&sorted.colours[eight], &charge, wanted, cost, best[target]) else { continue };
                if sure {
                    best[target] = quick::less(best[target], quick::least(&lanes));
                    continue;
                }
                let recipe = |lane: usize| sorted.order[eight * LANES + lane] as usize;
                for (lane, c) in lanes.iter().enumerate().filter(|(_, c)| **c < best[target]) {
                    near.add(target, recipe(lane), *c);
                }
            }
        }
        if !sure {
            let recipes = mixed.colours.len() * LANES;
            near.settle(best, self.cost, recipes, |which, matters| self.technique.quick_slips(group, mixed, which, matters));
        }
    }
}
