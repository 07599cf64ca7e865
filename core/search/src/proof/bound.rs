//! How good a set can possibly be: a bound that no set of the size gets below, and which pigments it proves out of play.
//!
//! Every target is met by at most three pigments; a set pays for each of its pigments by taking up one of its places. Letting go of the rule
//! that a target may use only pigments of the set, and charging each target `λ` for each pigment it uses instead, falls apart into one small
//! search per target and a choice of the places that earn most: a Lagrangian relaxation, whose value is never above the cost of any
//! set (Geoffrion 1974). The charges are improved by subgradient steps (Held, Wolfe & Crowder 1974). A pigment that earns so little that
//! forcing it in lifts the bound above what is already known is in no set worth having; one that cannot be left out is in all of them.

use crate::progress::Progress;
use crate::question::MOST_TARGETS;
use crate::table::Table;
use crate::table::eights::{Plain, Row, by_width};
use rayon::prelude::*;

#[cfg(target_arch = "x86_64")]
use crate::table::eights::Wide;

/// What the relaxation knows about a size.
pub(crate) struct Bound {
    /// No set of the size costs less, up to the rounding of single precision.
    pub least: f64,
    /// Positions that may still be in a set within the limit.
    pub in_play: Vec<usize>,
    /// Positions that every set within the limit holds.
    pub forced: Vec<usize>,
    /// Charges by position and target, to start from for the next size.
    pub charges: Vec<f32>,
    /// Open positions by what they earn at these charges, most first.
    pub ranked: Vec<usize>,
}

/// Sets that hold some pigments for certain and `places` of the others.
#[derive(Clone, Copy)]
pub(crate) struct Scope<'a> {
    pub table: &'a Table,
    /// Numbers of the pigments in play, ascending; positions point into this.
    pub ids: &'a [usize],
    /// Which positions every set holds.
    pub fixed: &'a [bool],
    /// How many of the others a set holds.
    pub places: usize,
}

/// The relaxation of a scope.
pub(crate) struct Relaxation<'a> {
    scope: Scope<'a>,
    open: Vec<usize>,
    charges: Vec<f32>,
    /// Codes of the cheapest groups of the last look: nearly always still the cheapest, so a good start for the next.
    last: Vec<u32>,
}

/// What one look at the relaxation gives.
struct Relaxed {
    value: f64,
    /// For each target the pigments of its cheapest group; unused places repeat one.
    used: Vec<[usize; 3]>,
    codes: Vec<u32>,
    /// What each pigment earns, by position.
    earned: Vec<f64>,
    /// Open positions, by what they earn, most first.
    ranked: Vec<usize>,
}

/// Subgradient steps without a better bound before the step is shortened.
const PATIENCE: usize = 8;
/// How much it is shortened by.
const SHORTEN: f64 = 0.6;

impl<'a> Relaxation<'a> {
    /// A relaxation started from `charges`, one row a position.
    pub(crate) fn of(scope: Scope<'a>, mut charges: Vec<f32>) -> Self {
        let m = scope.table.width;
        for (i, row) in charges.chunks_exact_mut(m).enumerate() {
            if scope.fixed[i] {
                row.fill(0.0);
            }
        }
        let open = (0..scope.ids.len()).filter(|i| !scope.fixed[*i]).collect();
        Self { scope, open, charges, last: Vec::new() }
    }

    /// Raises the bound by at most `steps` steps towards `limit`, and tells what can be said about each pigment. Stops early once the bound
    /// is above the limit: then no set is within it; also when cancelled, with what is known by then.
    pub(crate) fn raise(mut self, limit: f64, steps: usize, progress: &dyn Progress) -> Bound {
        let (n, m) = (self.scope.ids.len(), self.scope.table.width);
        let mut out = vec![false; n];
        let mut must = vec![false; n];
        let mut best = (f64::NEG_INFINITY, self.charges.clone());
        let mut ranked = Vec::new();
        let (mut step, mut waited) = (1.0, 0);
        for _ in 0..steps {
            if progress.is_cancelled() {
                break;
            }
            let look = self.look();
            self.last.clone_from(&look.codes);
            self.sort_out(&look, limit, &mut out, &mut must);
            if look.value > best.0 + 1e-7 {
                best = (look.value, self.charges.clone());
                ranked.clone_from(&look.ranked);
                waited = 0;
            } else {
                waited += 1;
                if waited >= PATIENCE {
                    (step, waited) = (step * SHORTEN, 0);
                    self.charges.clone_from(&best.1);
                }
            }
            if best.0 > limit || step < 2e-3 {
                break;
            }
            let taken = &look.ranked[..self.scope.places.min(look.ranked.len())];
            // Direction: a target that uses a pigment pays more for it, one that does not use a taken pigment less.
            let mut slope = vec![0.0f32; n * m];
            for i in taken {
                slope[i * m..][..m].fill(-1.0);
            }
            for (t, used) in look.used.iter().enumerate() {
                let [a, b, c] = *used;
                for (at, i) in [a, b, c].into_iter().enumerate() {
                    let repeated = (at > 0 && i == a) || (at > 1 && i == b);
                    if i != NONE && !repeated && !self.scope.fixed[i] {
                        slope[i * m + t] += 1.0;
                    }
                }
            }
            // A charge is never below nothing: where it would be, there is no slope.
            let mut steep = 0.0f64;
            for (s, c) in slope.iter_mut().zip(&self.charges) {
                if *c <= 0.0 && *s < 0.0 {
                    *s = 0.0;
                }
                steep += f64::from(*s * *s);
            }
            if steep == 0.0 {
                break;
            }
            let far = (step * (limit.min(best.0.abs() * 2.0 + 1.0) - look.value).max(1e-4) / steep) as f32;
            for (c, s) in self.charges.iter_mut().zip(&slope) {
                *c = (*c + far * s).max(0.0);
            }
        }
        let in_play = (0..n).filter(|i| !out[*i]).collect();
        let forced = (0..n).filter(|i| must[*i]).collect();
        Bound { least: best.0, in_play, forced, charges: best.1, ranked }
    }

    /// Marks pigments that no set within the limit holds, and those that every one of them holds.
    fn sort_out(&self, look: &Relaxed, limit: f64, out: &mut [bool], must: &mut [bool]) {
        if look.ranked.len() <= self.scope.places {
            return;
        }
        let last_in = look.earned[look.ranked[self.scope.places - 1]];
        let first_out = look.earned[look.ranked[self.scope.places]];
        for (rank, i) in look.ranked.iter().enumerate() {
            if rank < self.scope.places {
                must[*i] |= look.value + look.earned[*i] - first_out > limit;
            } else {
                out[*i] |= look.value + last_in - look.earned[*i] > limit;
            }
        }
    }

    fn look(&self) -> Relaxed {
        let (n, m) = (self.scope.ids.len(), self.scope.table.width);
        let heads: Vec<usize> = (0..n).collect();
        let mut cheapest = self.start();
        if self.scope.table.has_triples() {
            let parts: Vec<Cheapest> = heads.into_par_iter().map(|i| self.groups_of(i, &cheapest)).collect();
            parts.iter().for_each(|part| cheapest.merge(part));
        } else {
            // Pairs are so few that handing them out takes longer.
            heads.into_iter().for_each(|i| cheapest = self.groups_of(i, &cheapest));
        }
        let earned: Vec<f64> = (0..n).map(|i| self.charges[i * m..][..m].iter().map(|c| f64::from(*c)).sum()).collect();
        let mut ranked = self.open.clone();
        ranked.sort_by(|a, b| earned[*b].total_cmp(&earned[*a]).then(a.cmp(b)));
        let taken: f64 = ranked.iter().take(self.scope.places).map(|i| earned[*i]).sum();
        let value = cheapest.cost.iter().map(|c| f64::from(*c)).sum::<f64>() - taken;
        let used = cheapest.code.iter().map(|c| decode(*c, n)).collect();
        Relaxed { value, used, codes: cheapest.code, earned, ranked }
    }

    /// What is free, or the group that was cheapest at the last look.
    fn start(&self) -> Cheapest {
        let Scope { table, ids, .. } = self.scope;
        let (n, m) = (ids.len(), table.width);
        let mut start = Cheapest::of(table.free());
        for (t, code) in self.last.iter().enumerate().filter(|(_, c)| **c != u32::MAX) {
            let [i, j, k] = decode(*code, n);
            let charge = |p: usize| self.charges[p * m + t];
            let whole = if i == j {
                table.single(ids[i])[t] + charge(i)
            } else if j == k {
                table.pair(ids[i], ids[j])[t] + (charge(i) + charge(j))
            } else {
                table.triple_of(ids[i], ids[j], ids[k])[t] + (charge(i) + charge(j) + charge(k))
            };
            if whole < start.cost[t] {
                (start.cost[t], start.code[t]) = (whole, *code);
            }
        }
        start
    }

    /// The cheapest groups whose first pigment is `i`, if they are below `start`.
    fn groups_of(&self, i: usize, start: &Cheapest) -> Cheapest {
        #[cfg(target_arch = "x86_64")]
        if is_x86_feature_detected!("avx2") {
            // SAFETY: the feature was just found on this processor.
            return unsafe { self.groups_of_wide(i, start) };
        }
        by_width!(Plain, self.scope.table.width, self.groups_of_rows(i, start))
    }

    #[cfg(target_arch = "x86_64")]
    #[target_feature(enable = "avx2")]
    fn groups_of_wide(&self, i: usize, start: &Cheapest) -> Cheapest {
        by_width!(Wide, self.scope.table.width, self.groups_of_rows(i, start))
    }

    #[inline(always)]
    fn groups_of_rows<R: Row>(&self, i: usize, start: &Cheapest) -> Cheapest {
        let Scope { table, ids, .. } = self.scope;
        let n = ids.len();
        let mut all = Lowest::<R>::of(start);
        let own = R::read(&self.charges, i);
        all.lower(R::read(table.single(ids[i]), 0), own, code(i, i, i, n));
        for j in i + 1..n {
            let both = own.plus(R::read(&self.charges, j));
            all.lower(R::read(table.pair(ids[i], ids[j]), 0), both, code(i, j, j, n));
            let rows = table.triples_from(ids[i], ids[j]);
            for k in if rows.is_empty() { n } else { j + 1 }..n {
                all.lower(R::read(rows, ids[k] - ids[j] - 1), both.plus(R::read(&self.charges, k)), code(i, j, k, n));
            }
        }
        all.cheapest
    }
}

/// The cheapest groups so far, their costs also in registers.
struct Lowest<R> {
    cheapest: Cheapest,
    least: R,
}

impl<R: Row> Lowest<R> {
    #[inline(always)]
    fn of(start: &Cheapest) -> Self {
        Self { least: R::read(&start.cost, 0), cheapest: start.clone() }
    }

    #[inline(always)]
    fn lower(&mut self, row: R, charges: R, code: u32) {
        let whole = row.plus(charges);
        // Seldom, and ever more seldom as costs fall.
        if whole.any_below(self.least) {
            let mut now = [0.0; MOST_TARGETS];
            whole.write(&mut now);
            self.cheapest.take(&now, code);
            self.least = self.least.least(whole);
        }
    }
}

/// For each target the cheapest group so far, charges included.
#[derive(Clone)]
struct Cheapest {
    cost: Vec<f32>,
    code: Vec<u32>,
}

impl Cheapest {
    /// What is free, charged nothing.
    fn of(free: &[f32]) -> Self {
        Self { cost: free.to_vec(), code: vec![u32::MAX; free.len()] }
    }

    fn take(&mut self, costs: &[f32], code: u32) {
        for t in 0..self.cost.len() {
            if costs[t] < self.cost[t] {
                (self.cost[t], self.code[t]) = (costs[t], code);
            }
        }
    }

    fn merge(&mut self, other: &Self) {
        for t in 0..self.cost.len() {
            if other.cost[t] < self.cost[t] {
                (self.cost[t], self.code[t]) = (other.cost[t], other.code[t]);
            }
        }
    }
}

/// No pigment: the target takes what is free.
const NONE: usize = usize::MAX;

fn code(i: usize, j: usize, k: usize, n: usize) -> u32 {
    ((i * n + j) * n + k) as u32
}

fn decode(code: u32, n: usize) -> [usize; 3] {
    if code == u32::MAX {
        return [NONE; 3];
    }
    let code = code as usize;
    [code / (n * n), code / n % n, code % n]
}
