//! How good a set can possibly be: a bound that no set of the size gets below, and which pigments it proves out of play.
//!
//! Every target is met by at most three pigments; a set pays for each of its pigments by taking up one of its places. Letting go of the rule
//! that a target may use only pigments of the set, and charging each target `λ` for each pigment it uses instead, falls apart into one small
//! search per target and a choice of the places that earn most: a Lagrangian relaxation, whose value is never above the cost of any
//! set (Geoffrion 1974). The charges are improved by subgradient steps (Held, Wolfe & Crowder 1974). A pigment that earns so little that
//! forcing it in lifts the bound above what is already known is in no set worth having; one that cannot be left out is in all of them.

use super::dense::Dense;
use rayon::prelude::*;

/// What the relaxation knows about a size.
pub struct Bound {
    /// No set of the size costs less, up to the rounding of single precision.
    pub least: f64,
    /// Positions that may still be in a set within the limit.
    pub in_play: Vec<usize>,
    /// Positions that every set within the limit holds.
    pub forced: Vec<usize>,
    /// Charges by position and target, to start from for the next size.
    pub charges: Vec<f32>,
}

/// The relaxation for sets that hold all of `locked` and `places` of the others.
pub struct Relaxation<'a> {
    dense: &'a Dense,
    locked: &'a [usize],
    open: Vec<usize>,
    places: usize,
    charges: Vec<f32>,
}

/// What one look at the relaxation gives.
struct Look {
    value: f64,
    /// For each target the pigments of its cheapest group; unused places repeat one.
    used: Vec<[usize; 3]>,
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
    /// A relaxation over what is in play, started from `charges` (one row a position) or from nothing.
    pub fn of(dense: &'a Dense, locked: &'a [usize], places: usize, charges: Option<Vec<f32>>) -> Self {
        let open: Vec<usize> = (0..dense.len()).filter(|i| !locked.contains(i)).collect();
        let mut charges = charges.unwrap_or_else(|| vec![0.0; dense.len() * dense.width]);
        for i in locked {
            charges[i * dense.width..][..dense.width].fill(0.0);
        }
        Self { dense, locked, open, places, charges }
    }

    /// Raises the bound by at most `steps` steps towards `limit`, and tells what can be said about each pigment. Stops early once the bound
    /// is above the limit: then no set is within it.
    pub fn raise(mut self, limit: f64, steps: usize) -> Bound {
        let (n, m) = (self.dense.len(), self.dense.width);
        let mut out = vec![false; n];
        let mut must = vec![false; n];
        let mut best = (f64::NEG_INFINITY, self.charges.clone());
        let (mut step, mut waited) = (1.0, 0);
        for _ in 0..steps {
            let look = self.look();
            self.sort_out(&look, limit, &mut out, &mut must);
            if look.value > best.0 + 1e-7 {
                best = (look.value, self.charges.clone());
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
            let taken = &look.ranked[..self.places.min(look.ranked.len())];
            // Direction: a target that uses a pigment pays more for it, one that does not use a taken pigment less.
            let mut slope = vec![0.0f32; n * m];
            for i in taken {
                slope[i * m..][..m].fill(-1.0);
            }
            for (t, used) in look.used.iter().enumerate() {
                let [a, b, c] = *used;
                for (at, i) in [a, b, c].into_iter().enumerate() {
                    let repeated = (at > 0 && i == a) || (at > 1 && i == b);
                    if i != NONE && !repeated && !self.locked.contains(&i) {
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
        Bound { least: best.0, in_play, forced, charges: best.1 }
    }

    /// Marks pigments that no set within the limit holds, and those that every one of them holds.
    fn sort_out(&self, look: &Look, limit: f64, out: &mut [bool], must: &mut [bool]) {
        if look.ranked.len() <= self.places {
            return;
        }
        let last_in = look.earned[look.ranked[self.places - 1]];
        let first_out = look.earned[look.ranked[self.places]];
        for (rank, i) in look.ranked.iter().enumerate() {
            if rank < self.places {
                must[*i] |= look.value + look.earned[*i] - first_out > limit;
            } else {
                out[*i] |= look.value + last_in - look.earned[*i] > limit;
            }
        }
    }

    fn look(&self) -> Look {
        let (n, m) = (self.dense.len(), self.dense.width);
        let heads: Vec<usize> = (0..n).collect();
        let parts: Vec<Cheapest> = heads.into_par_iter().map(|i| self.from_head(i)).collect();
        let mut cheapest = Cheapest::of(&self.dense.free);
        for part in &parts {
            cheapest.merge(part);
        }
        let earned: Vec<f64> = (0..n).map(|i| self.charges[i * m..][..m].iter().map(|c| f64::from(*c)).sum()).collect();
        let mut ranked = self.open.clone();
        ranked.sort_by(|a, b| earned[*b].total_cmp(&earned[*a]).then(a.cmp(b)));
        let taken: f64 = ranked.iter().take(self.places).map(|i| earned[*i]).sum();
        let value = cheapest.cost.iter().map(|c| f64::from(*c)).sum::<f64>() - taken;
        let used = cheapest.code.iter().map(|c| decode(*c, n)).collect();
        Look { value, used, earned, ranked }
    }

    /// The cheapest groups whose first pigment is `i`.
    fn from_head(&self, i: usize) -> Cheapest {
        #[cfg(target_arch = "x86_64")]
        if is_x86_feature_detected!("avx2") {
            // SAFETY: the feature was just found on this processor.
            return unsafe { self.from_head_wide(i) };
        }
        self.from_head_plain(i)
    }

    #[cfg(target_arch = "x86_64")]
    #[target_feature(enable = "avx2")]
    fn from_head_wide(&self, i: usize) -> Cheapest {
        self.from_head_plain(i)
    }

    #[inline(always)]
    fn from_head_plain(&self, i: usize) -> Cheapest {
        let (n, m) = (self.dense.len(), self.dense.width);
        let charge = |p: usize| &self.charges[p * m..][..m];
        let mut cheapest = Cheapest { cost: vec![f32::INFINITY; m], code: vec![0; m] };
        cheapest.lower(self.dense.pair(i, i), charge(i), code(i, i, i, n));
        let mut both = vec![0.0f32; m];
        let mut all = vec![0.0f32; m];
        for j in i + 1..n {
            for t in 0..m {
                both[t] = charge(i)[t] + charge(j)[t];
            }
            cheapest.lower(self.dense.pair(i, j), &both, code(i, j, j, n));
            if self.dense.triples.is_empty() {
                continue;
            }
            for k in j + 1..n {
                for t in 0..m {
                    all[t] = both[t] + charge(k)[t];
                }
                cheapest.lower(self.dense.triple(i, j, k), &all, code(i, j, k, n));
            }
        }
        cheapest
    }
}

/// For each target the cheapest group so far, charges included.
struct Cheapest {
    cost: Vec<f32>,
    code: Vec<u32>,
}

impl Cheapest {
    /// What is free, charged nothing.
    fn of(free: &[f32]) -> Self {
        Self { cost: free.to_vec(), code: vec![u32::MAX; free.len()] }
    }

    #[inline(always)]
    fn lower(&mut self, row: &[f32], charges: &[f32], code: u32) {
        let m = self.cost.len();
        let (cost, codes, row, charges) = (&mut self.cost[..m], &mut self.code[..m], &row[..m], &charges[..m]);
        for t in 0..m {
            let whole = row[t] + charges[t];
            let better = whole < cost[t];
            cost[t] = if better { whole } else { cost[t] };
            codes[t] = if better { code } else { codes[t] };
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
