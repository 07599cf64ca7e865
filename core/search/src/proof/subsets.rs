//! Every set of a size, added up.

use crate::progress::{Cancelled, Progress};
use crate::proof::top::Top;
use crate::table::eights::{Plain, Row, by_width};
use crate::table::in_play::{InPlay, lower};
use lean_recipes::cost::quick::less;
use rayon::prelude::*;
use std::sync::atomic::{AtomicUsize, Ordering};

#[cfg(target_arch = "x86_64")]
use crate::table::eights::Wide;

/// How many of the demands on whole sets a set, by numbers in the table, leaves unmet; with none it may be had.
pub(crate) type Unmet<'a> = dyn Fn(&[u16]) -> u32 + Sync + 'a;

/// Sets of one size over what is in play.
pub(crate) struct Walk<'a> {
    /// Costs; positions that every set holds come first.
    pub in_play: &'a InPlay,
    /// How many of the first positions every set holds.
    pub locked: usize,
    /// How many of the others a set holds.
    pub places: usize,
    /// What else a set must fulfil.
    pub unmet: &'a Unmet<'a>,
}

/// Minima carried down the recursion.
struct Carried {
    chosen: Vec<usize>,
    now: Vec<f32>,
    /// For each possible next position, from `from` on, the least over all pairs it makes with those chosen.
    next: Vec<f32>,
    from: usize,
}

/// How many sets there are of `places` out of `open`, as far as this can be counted.
pub(crate) fn count(open: usize, places: usize) -> f64 {
    (0..places).map(|i| (open as f64 - i as f64) / (i as f64 + 1.0)).product::<f64>().max(0.0)
}

impl Walk<'_> {
    /// Offers every set to `top`. Sets above its limit are passed over.
    ///
    /// # Errors
    /// [`Cancelled`] when the watcher asks for it.
    pub(crate) fn all(&self, top: &mut Top, progress: &dyn Progress) -> Result<(), Cancelled> {
        let n = self.in_play.len();
        let start = (0..self.locked).fold(self.empty(), |c, p| self.with(&c, p));
        if self.places == 0 {
            self.offer(top, start.now.iter().sum(), &start.chosen, &[]);
            return Ok(());
        }
        let heads: Vec<Vec<usize>> = match self.places {
            1 | 2 => vec![vec![]],
            3 | 4 => (self.locked..n).map(|i| vec![i]).collect(),
            _ => (self.locked..n).flat_map(|i| (i + 1..n).map(move |j| vec![i, j])).collect(),
        };
        // A head has as many sets below it as there are ways to go on: shares of the work are exact.
        let sets = |head: &[usize]| count(n - head.last().map_or(self.locked, |i| i + 1), self.places - head.len()) as usize;
        let total: usize = heads.iter().map(|h| sets(h)).sum();
        let finished = AtomicUsize::new(0);
        let bar = Bar::at(top.bar());
        let limit = top.limit;
        let tops: Vec<Top> = heads
            .par_iter()
            .with_max_len(1)
            .map(|head| {
                if progress.is_cancelled() {
                    return Err(Cancelled);
                }
                let mut own = Met { top: Top::below(limit), bar: &bar };
                match head.split_first() {
                    None => self.descend(&start, &mut own, progress),
                    Some((first, rest)) => {
                        let c = rest.iter().fold(self.with(&start, *first), |c, p| self.with(&c, *p));
                        self.descend(&c, &mut own, progress);
                    }
                }
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
        let mut set: Vec<u16> = chosen.iter().chain(more).map(|i| self.in_play.ids[*i] as u16).collect();
        set.sort_unstable();
        if (self.unmet)(&set) == 0 {
            top.offer(cost, set);
        }
    }

    fn empty(&self) -> Carried {
        let (n, m) = (self.in_play.len(), self.in_play.width);
        let next = (0..n).flat_map(|p| &self.in_play.pairs[(p * n + p) * m..][..m]).copied().collect();
        Carried { chosen: Vec::new(), now: self.in_play.free.clone(), next, from: 0 }
    }

    /// Adds position `p`; only later ones can follow.
    fn with(&self, c: &Carried, p: usize) -> Carried {
        let (n, m) = (self.in_play.len(), self.in_play.width);
        let mut now = c.now.clone();
        lower(&mut now, &c.next[(p - c.from) * m..][..m]);
        let mut next = c.next[(p + 1 - c.from) * m..].to_vec();
        let length = next.len();
        if c.chosen.is_empty() || self.in_play.triples.is_empty() {
            lower(&mut next, &self.in_play.pairs[(p * n + p + 1) * m..][..length]);
        } else {
            c.chosen.iter().for_each(|x| lower(&mut next, &self.in_play.triples[((x * n + p) * n + p + 1) * m..][..length]));
        }
        let mut chosen = c.chosen.clone();
        chosen.push(p);
        Carried { chosen, now, next, from: p + 1 }
    }

    fn descend(&self, c: &Carried, met: &mut Met, progress: &dyn Progress) {
        match self.places + self.locked - c.chosen.len() {
            0 => self.offer(&mut met.top, c.now.iter().sum(), &c.chosen, &[]),
            1 => self.last_one(c, met),
            2 => self.last_two(c, met),
            _ => {
                for i in c.from..self.in_play.len() {
                    if progress.is_cancelled() {
                        return;
                    }
                    self.descend(&self.with(c, i), met, progress);
                }
            }
        }
    }

    fn last_one(&self, c: &Carried, met: &mut Met) {
        let m = self.in_play.width;
        for (p, row) in (c.from..).zip(c.next.chunks_exact(m)) {
            let cost: f32 = c.now.iter().zip(row).map(|(a, b)| less(*a, *b)).sum();
            if cost <= met.bar() {
                self.offer(&mut met.top, cost, &c.chosen, &[p]);
                met.share();
            }
        }
    }

    fn last_two(&self, c: &Carried, met: &mut Met) {
        #[cfg(target_arch = "x86_64")]
        if is_x86_feature_detected!("avx2") {
            // SAFETY: the feature was just found on this processor.
            unsafe { self.last_two_wide(c, met) };
            return;
        }
        by_width!(Plain, self.in_play.width, self.last_two_rows(c, met));
    }

    #[cfg(target_arch = "x86_64")]
    #[target_feature(enable = "avx2")]
    fn last_two_wide(&self, c: &Carried, met: &mut Met) {
        by_width!(Wide, self.in_play.width, self.last_two_rows(c, met));
    }

    /// The innermost two levels without building what is carried: this is where nearly all the time goes.
    #[inline(always)]
    fn last_two_rows<R: Row>(&self, c: &Carried, met: &mut Met) {
        let (n, m) = (self.in_play.len(), self.in_play.width);
        let mut beside: Vec<&[f32]> = Vec::with_capacity(c.chosen.len() + 1);
        let now = R::read(&c.now, 0);
        for p in c.from..n {
            let with = now.least(R::read(&c.next, p - c.from));
            // Rows of every third pigment beside the two of each pair already chosen.
            beside.clear();
            if c.chosen.is_empty() || self.in_play.triples.is_empty() {
                beside.push(&self.in_play.pairs[p * n * m..(p + 1) * n * m]);
            } else {
                beside.extend(c.chosen.iter().map(|x| &self.in_play.triples[(x * n + p) * n * m..][..n * m]));
            }
            for q in p + 1..n {
                let mut all = with.least(R::read(&c.next, q - c.from));
                for rows in &beside {
                    all = all.least(R::read(rows, q));
                }
                let cost = all.sum();
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
