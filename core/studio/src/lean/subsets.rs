//! Every set of a size, added up.

use super::table::{PADDED, Table};
use crate::progress::{Cancelled, Progress};
use rayon::prelude::*;
use std::sync::atomic::{AtomicUsize, Ordering};

/// A set of pigments (indices, ascending) and its single-precision cost.
#[derive(Clone, Debug, PartialEq)]
pub struct Ranked {
    pub cost: f32,
    pub set: Vec<u16>,
}

/// How many of the best sets are handed on to be judged exactly.
pub const KEPT: usize = 48;

/// The best sets met so far, best first. Ties are ordered by index, so that the answer does not depend on threads.
#[derive(Clone, Default)]
struct Top(Vec<Ranked>);

impl Top {
    fn worst(&self) -> f32 {
        if self.0.len() < KEPT { f32::INFINITY } else { self.0[KEPT - 1].cost }
    }

    fn offer(&mut self, cost: f32, set: impl FnOnce() -> Vec<u16>) {
        if cost > self.worst() {
            return;
        }
        let mut new = Ranked { cost, set: set() };
        new.set.sort_unstable();
        let at = self.0.partition_point(|r| r.cost.total_cmp(&new.cost).then_with(|| r.set.cmp(&new.set)).is_lt());
        self.0.insert(at, new);
        self.0.truncate(KEPT);
    }

    fn merge(mut self, other: Self) -> Self {
        for r in other.0 {
            self.offer(r.cost, || r.set);
        }
        self
    }
}

struct Walk<'a> {
    table: &'a Table,
    free: &'a [usize],
    size: usize,
    progress: &'a dyn Progress,
}

/// Minima carried down the recursion: for each possible next pigment, the least over all pairs already chosen.
struct Carried {
    chosen: Vec<usize>,
    now: Vec<f32>,
    next: Vec<f32>,
}

/// The best sets of `size` pigments that hold all of `locked` and otherwise only `free` ones, best first.
///
/// # Errors
/// [`Cancelled`] when the watcher asks for it.
pub fn best_sets(table: &Table, locked: &[usize], free: &[usize], size: usize, progress: &dyn Progress) -> Result<Vec<Ranked>, Cancelled> {
    let walk = Walk { table, free, size, progress };
    let mut start = walk.empty();
    for p in locked {
        start = walk.with(&start, *p, 0);
    }
    if start.chosen.len() == size {
        let cost = start.now.iter().sum();
        return Ok(vec![Ranked {
            cost,
            set: {
                let mut s: Vec<u16> = locked.iter().map(|p| *p as u16).collect();
                s.sort_unstable();
                s
            },
        }]);
    }
    let depth_left = size - start.chosen.len();
    // Two levels are opened for the threads to share; a single missing pigment is one short loop.
    let heads: Vec<Vec<usize>> = if depth_left <= 2 {
        (0..free.len()).map(|i| vec![i]).collect()
    } else {
        (0..free.len()).flat_map(|i| (i + 1..free.len()).map(move |j| vec![i, j])).collect()
    };
    let total = heads.len().max(1);
    let finished = AtomicUsize::new(0);
    let tops: Vec<Option<Top>> = heads
        .par_iter()
        .map(|head| {
            if progress.is_cancelled() {
                return None;
            }
            let mut top = Top::default();
            walk.explore(&start, head, &mut top);
            progress.report((finished.fetch_add(1, Ordering::Relaxed) + 1) as f64 / total as f64);
            Some(top)
        })
        .collect();
    let mut all = Top::default();
    for top in tops {
        all = all.merge(top.ok_or(Cancelled)?);
    }
    Ok(all.0)
}

impl Walk<'_> {
    fn empty(&self) -> Carried {
        let m = self.table.width;
        let next = (0..self.table.pigments).flat_map(|p| self.table.pair(p, p).to_vec()).collect();
        Carried {
            chosen: Vec::new(),
            now: self.table.bare.clone(),
            next: {
                let n: Vec<f32> = next;
                debug_assert_eq!(n.len(), m * self.table.pigments);
                n
            },
        }
    }

    /// Adds pigment `p`; `next` is brought up to date for free pigments from position `from` on.
    fn with(&self, c: &Carried, p: usize, from: usize) -> Carried {
        let m = self.table.width;
        let mut now = c.now.clone();
        lower(&mut now, &c.next[p * m..(p + 1) * m]);
        let mut next = c.next.clone();
        let later = if from == 0 { (0..self.table.pigments).collect::<Vec<_>>() } else { self.free[from..].to_vec() };
        for q in later.into_iter().filter(|q| *q != p) {
            self.lower_next(c, p, q, &mut next[q * m..(q + 1) * m]);
        }
        let mut chosen = c.chosen.clone();
        chosen.push(p);
        Carried { chosen, now, next }
    }

    fn lower_next(&self, c: &Carried, p: usize, q: usize, row: &mut [f32]) {
        if c.chosen.is_empty() {
            lower(row, self.table.pair(p, q));
        }
        // A table that is only begun serves sets of two, which end before a third is looked at.
        if self.table.triples.is_empty() {
            return;
        }
        for x in c.chosen.iter().filter(|x| **x != q) {
            lower(row, self.table.triple(*x, p, q));
        }
    }

    fn explore(&self, start: &Carried, head: &[usize], top: &mut Top) {
        let Some((first, rest)) = head.split_first() else { return };
        let left = self.size - start.chosen.len();
        if left == 1 {
            self.leaf(start, &[*first], top);
            return;
        }
        let c = self.with(start, self.free[*first], first + 1);
        if rest.is_empty() {
            self.descend(&c, first + 1, top);
        } else {
            self.explore(&c, rest, top);
        }
    }

    fn descend(&self, c: &Carried, from: usize, top: &mut Top) {
        let left = self.size - c.chosen.len();
        if left == 1 {
            let positions: Vec<usize> = (from..self.free.len()).collect();
            self.leaf(c, &positions, top);
            return;
        }
        if left == 2 {
            self.last_two(c, from, top);
            return;
        }
        for i in from..self.free.len() {
            if self.progress.is_cancelled() {
                return;
            }
            let next = self.with(c, self.free[i], i + 1);
            self.descend(&next, i + 1, top);
        }
    }

    fn leaf(&self, c: &Carried, positions: &[usize], top: &mut Top) {
        let m = self.table.width;
        for i in positions {
            let p = self.free[*i];
            let cost: f32 = c.now.iter().zip(&c.next[p * m..(p + 1) * m]).map(|(a, b)| less(*a, *b)).sum();
            top.offer(cost, || c.chosen.iter().chain([&p]).map(|x| *x as u16).collect());
        }
    }

    fn last_two(&self, c: &Carried, from: usize, top: &mut Top) {
        #[cfg(target_arch = "x86_64")]
        if is_x86_feature_detected!("avx2") {
            // SAFETY: the feature was just found on this processor.
            unsafe { self.last_two_wide(c, from, top) };
            return;
        }
        self.last_two_of_width(c, from, top);
    }

    #[cfg(target_arch = "x86_64")]
    #[target_feature(enable = "avx2")]
    fn last_two_wide(&self, c: &Carried, from: usize, top: &mut Top) {
        self.last_two_of_width(c, from, top);
    }

    #[inline(always)]
    fn last_two_of_width(&self, c: &Carried, from: usize, top: &mut Top) {
        match self.table.width {
            8 => self.last_two_pigments::<8>(c, from, top),
            12 => self.last_two_pigments::<12>(c, from, top),
            16 => self.last_two_pigments::<16>(c, from, top),
            20 => self.last_two_pigments::<20>(c, from, top),
            24 => self.last_two_pigments::<24>(c, from, top),
            28 => self.last_two_pigments::<28>(c, from, top),
            _ => self.last_two_pigments::<32>(c, from, top),
        }
    }

    /// The innermost two levels without building what is carried: this is where nearly all the time goes.
    #[inline(always)]
    fn last_two_pigments<const M: usize>(&self, c: &Carried, from: usize, top: &mut Top) {
        let n = self.table.pigments;
        let row = |data: &'_ [f32], at: usize| -> [f32; M] { data[at * M..at * M + M].try_into().unwrap_or([0.0; M]) };
        for i in from..self.free.len() {
            let p = self.free[i];
            let mut now: [f32; M] = row(&c.now, 0);
            let own = row(&c.next, p);
            for t in 0..M {
                now[t] = less(now[t], own[t]);
            }
            for j in i + 1..self.free.len() {
                let q = self.free[j];
                let mut least: [f32; M] = row(&c.next, q);
                for x in &c.chosen {
                    let r: &[f32] = &self.table.triples[((x * n + p) * n + q) * M..][..M];
                    for t in 0..M {
                        least[t] = less(least[t], r[t]);
                    }
                }
                if c.chosen.is_empty() {
                    let r = self.table.pair(p, q);
                    for t in 0..M {
                        least[t] = less(least[t], r[t]);
                    }
                }
                let mut lanes = [0.0f32; PADDED];
                for t in 0..M {
                    lanes[t % PADDED] += less(now[t], least[t]);
                }
                let cost: f32 = lanes.iter().sum();
                if cost <= top.worst() {
                    top.offer(cost, || c.chosen.iter().chain([&p, &q]).map(|x| *x as u16).collect());
                }
            }
        }
    }
}

/// The lesser of two numbers, neither of them NaN: one instruction for eight, where `f32::min` takes three.
#[inline(always)]
fn less(a: f32, b: f32) -> f32 {
    if b < a { b } else { a }
}

fn lower(row: &mut [f32], other: &[f32]) {
    for (a, b) in row.iter_mut().zip(other) {
        *a = less(*a, *b);
    }
}
