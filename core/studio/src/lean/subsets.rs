//! Every set of a size, added up.

use super::dense::{Dense, less, lower};
use super::table::PADDED;
use super::top::Top;
use crate::progress::{Cancelled, Progress};
use rayon::prelude::*;
use std::sync::atomic::{AtomicUsize, Ordering};

/// Whether a set, by numbers in the table, may be had at all.
pub type Admits<'a> = dyn Fn(&[u16]) -> bool + Sync + 'a;

/// Sets of one size over what is in play.
pub struct Walk<'a> {
    pub dense: &'a Dense,
    /// Positions every set holds.
    pub locked: &'a [usize],
    /// Positions to choose from, ascending.
    pub open: &'a [usize],
    /// How many of `open` a set holds.
    pub places: usize,
    /// What else a set must fulfil.
    pub admits: &'a Admits<'a>,
}

/// Minima carried down the recursion: for each possible next pigment, the least over all pairs already chosen.
#[derive(Clone)]
struct Carried {
    chosen: Vec<usize>,
    now: Vec<f32>,
    next: Vec<f32>,
}

/// How many sets there are of `places` out of `open`, as far as this can be counted.
pub fn count(open: usize, places: usize) -> f64 {
    (0..places).map(|i| (open as f64 - i as f64) / (i as f64 + 1.0)).product::<f64>().max(0.0)
}

impl Walk<'_> {
    /// Offers every set to `top`. Sets above its limit are passed over.
    ///
    /// # Errors
    /// [`Cancelled`] when the watcher asks for it.
    pub fn all(&self, top: &mut Top, progress: &dyn Progress) -> Result<(), Cancelled> {
        let mut start = self.empty();
        for p in self.locked {
            start = self.with(&start, *p, &self.everything());
        }
        if self.places == 0 {
            self.offer(top, start.now.iter().sum(), &start.chosen, &[]);
            return Ok(());
        }
        // Two levels are opened for the threads to share; a single missing pigment is one short loop.
        let heads: Vec<Vec<usize>> = if self.places <= 2 {
            (0..self.open.len()).map(|i| vec![i]).collect()
        } else {
            (0..self.open.len()).flat_map(|i| (i + 1..self.open.len()).map(move |j| vec![i, j])).collect()
        };
        // A head has as many sets below it as there are ways to go on: shares of the work are exact.
        let sets = |head: &[usize]| count(self.open.len() - head[head.len() - 1] - 1, self.places - head.len()) as usize;
        let total: usize = heads.iter().map(|h| sets(h)).sum();
        let finished = AtomicUsize::new(0);
        let bar = Bar::at(top.bar());
        let limit = top.limit;
        let tops: Vec<Top> = heads
            .par_iter()
            .map(|head| {
                if progress.is_cancelled() {
                    return Err(Cancelled);
                }
                let mut own = Met { top: Top::below(limit), bar: &bar };
                self.explore(&start, head, &mut own, progress);
                let done = finished.fetch_add(sets(head), Ordering::Relaxed) + sets(head);
                progress.report(done as f64 / total.max(1) as f64);
                Ok(own.top)
            })
            .collect::<Result<_, _>>()?;
        if progress.is_cancelled() {
            return Err(Cancelled);
        }
        tops.into_iter().for_each(|t| top.merge(t));
        Ok(())
    }

    fn offer(&self, top: &mut Top, cost: f32, chosen: &[usize], more: &[usize]) {
        if cost > top.bar() {
            return;
        }
        let mut set: Vec<u16> = chosen.iter().chain(more).map(|i| self.dense.ids[*i] as u16).collect();
        set.sort_unstable();
        if (self.admits)(&set) {
            top.offer(cost, set);
        }
    }

    fn everything(&self) -> Vec<usize> {
        (0..self.dense.len()).collect()
    }

    fn empty(&self) -> Carried {
        let next = (0..self.dense.len()).flat_map(|p| self.dense.pair(p, p).to_vec()).collect();
        Carried { chosen: Vec::new(), now: self.dense.free.clone(), next }
    }

    /// Adds position `p`; `next` is brought up to date for the positions in `later`.
    fn with(&self, c: &Carried, p: usize, later: &[usize]) -> Carried {
        let m = self.dense.width;
        let mut now = c.now.clone();
        lower(&mut now, &c.next[p * m..(p + 1) * m]);
        let mut next = c.next.clone();
        for q in later.iter().copied().filter(|q| *q != p) {
            let row = &mut next[q * m..(q + 1) * m];
            if c.chosen.is_empty() {
                lower(row, self.dense.pair(p, q));
            }
            // A table that is only begun serves sets of two, which end before a third is looked at.
            if !self.dense.triples.is_empty() {
                c.chosen.iter().filter(|x| **x != q).for_each(|x| lower(row, self.dense.triple(*x, p, q)));
            }
        }
        let mut chosen = c.chosen.clone();
        chosen.push(p);
        Carried { chosen, now, next }
    }

    fn explore(&self, start: &Carried, head: &[usize], met: &mut Met, progress: &dyn Progress) {
        let Some((first, rest)) = head.split_first() else { return };
        if self.places + self.locked.len() - start.chosen.len() == 1 {
            self.leaf(start, &self.open[*first..=*first], met);
            return;
        }
        let c = self.with(start, self.open[*first], &self.open[first + 1..]);
        if rest.is_empty() {
            self.descend(&c, first + 1, met, progress);
        } else {
            self.explore(&c, rest, met, progress);
        }
    }

    fn descend(&self, c: &Carried, from: usize, met: &mut Met, progress: &dyn Progress) {
        match self.places + self.locked.len() - c.chosen.len() {
            0 => self.offer(&mut met.top, c.now.iter().sum(), &c.chosen, &[]),
            1 => self.leaf(c, &self.open[from..], met),
            2 => self.last_two(c, from, met),
            _ => {
                for i in from..self.open.len() {
                    if progress.is_cancelled() {
                        return;
                    }
                    let next = self.with(c, self.open[i], &self.open[i + 1..]);
                    self.descend(&next, i + 1, met, progress);
                }
            }
        }
    }

    fn leaf(&self, c: &Carried, last: &[usize], met: &mut Met) {
        let m = self.dense.width;
        for p in last {
            let cost: f32 = c.now.iter().zip(&c.next[p * m..(p + 1) * m]).map(|(a, b)| less(*a, *b)).sum();
            if cost <= met.bar() {
                self.offer(&mut met.top, cost, &c.chosen, &[*p]);
                met.share();
            }
        }
    }

    fn last_two(&self, c: &Carried, from: usize, met: &mut Met) {
        #[cfg(target_arch = "x86_64")]
        if is_x86_feature_detected!("avx2") {
            // SAFETY: the feature was just found on this processor.
            unsafe { self.last_two_wide(c, from, met) };
            return;
        }
        self.last_two_of_width(c, from, met);
    }

    #[cfg(target_arch = "x86_64")]
    #[target_feature(enable = "avx2")]
    fn last_two_wide(&self, c: &Carried, from: usize, met: &mut Met) {
        self.last_two_of_width(c, from, met);
    }

    #[inline(always)]
    fn last_two_of_width(&self, c: &Carried, from: usize, met: &mut Met) {
        match self.dense.width {
            8 => self.last_two_pigments::<8>(c, from, met),
            12 => self.last_two_pigments::<12>(c, from, met),
            16 => self.last_two_pigments::<16>(c, from, met),
            20 => self.last_two_pigments::<20>(c, from, met),
            24 => self.last_two_pigments::<24>(c, from, met),
            28 => self.last_two_pigments::<28>(c, from, met),
            32 => self.last_two_pigments::<32>(c, from, met),
            // Sets for several pieces: fewer of them, so one width for all is enough.
            n if n <= 48 => self.last_two_padded::<48>(c, from, met),
            n if n <= 72 => self.last_two_padded::<72>(c, from, met),
            _ => self.last_two_padded::<96>(c, from, met),
        }
    }

    /// The innermost two levels without building what is carried: this is where nearly all the time goes.
    #[inline(always)]
    fn last_two_pigments<const M: usize>(&self, c: &Carried, from: usize, met: &mut Met) {
        self.last_two_rows(c, from, met, |data: &[f32], at: usize| -> [f32; M] { *data[at * M..].first_chunk().unwrap_or(&[0.0; M]) });
    }

    /// The same for a width that is not among those compiled: rows are copied and filled up with nothing.
    #[inline(always)]
    fn last_two_padded<const M: usize>(&self, c: &Carried, from: usize, met: &mut Met) {
        let m = self.dense.width;
        self.last_two_rows(c, from, met, |data: &[f32], at: usize| -> [f32; M] {
            let mut row = [0.0; M];
            row[..m].copy_from_slice(&data[at * m..][..m]);
            row
        });
    }

    #[inline(always)]
    fn last_two_rows<const M: usize>(&self, c: &Carried, from: usize, met: &mut Met, row: impl Fn(&[f32], usize) -> [f32; M]) {
        let (n, m) = (self.dense.len(), self.dense.width);
        let mut beside: Vec<&[f32]> = Vec::with_capacity(c.chosen.len() + 1);
        for i in from..self.open.len() {
            let p = self.open[i];
            let mut now: [f32; M] = row(&c.now, 0);
            let own = row(&c.next, p);
            for t in 0..M {
                now[t] = less(now[t], own[t]);
            }
            // Rows of every third pigment beside the two of each pair already chosen.
            beside.clear();
            if c.chosen.is_empty() {
                beside.push(&self.dense.pairs[p * n * m..(p + 1) * n * m]);
            }
            beside.extend(c.chosen.iter().map(|x| &self.dense.triples[(x * n + p) * n * m..][..n * m]));
            for j in i + 1..self.open.len() {
                let q = self.open[j];
                let mut least: [f32; M] = row(&c.next, q);
                for rows in &beside {
                    let r = row(rows, q);
                    for t in 0..M {
                        least[t] = less(least[t], r[t]);
                    }
                }
                let mut lanes = [0.0f32; PADDED];
                for t in 0..M {
                    lanes[t % PADDED] += less(now[t], least[t]);
                }
                let cost: f32 = lanes.iter().sum();
                if cost <= met.bar() {
                    self.offer(&mut met.top, cost, &c.chosen, &[p, q]);
                    met.share();
                }
            }
        }
    }
}

/// What one thread has met, with the bar all threads know of. A bar only passes sets that could not be kept in the end, so that the answer does
/// not depend on which thread was first.
struct Met<'a> {
    top: Top,
    bar: &'a Bar,
}

impl Met<'_> {
    #[inline(always)]
    fn bar(&self) -> f32 {
        less(self.top.bar(), self.bar.now())
    }

    fn share(&self) {
        self.bar.lower(self.top.bar());
    }
}

/// The lowest bar of any thread. Costs are never negative, so that their bits are in the order of their values.
struct Bar(std::sync::atomic::AtomicU32);

impl Bar {
    fn at(bar: f32) -> Self {
        Self(bar.max(0.0).to_bits().into())
    }

    #[inline(always)]
    fn now(&self) -> f32 {
        f32::from_bits(self.0.load(Ordering::Relaxed))
    }

    fn lower(&self, bar: f32) {
        self.0.fetch_min(bar.max(0.0).to_bits(), Ordering::Relaxed);
    }
}
