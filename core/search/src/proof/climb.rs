//! Good sets found quickly, by adding the best pigment and then exchanging one for another: what the proof starts from.

use crate::proof::subsets::Unmet;
use crate::proof::top::Top;
use crate::table::Table;
use crate::table::in_play::lower;
use rayon::prelude::*;

/// Finds good sets and offers every set looked at to a list.
pub(crate) struct Climb<'a> {
    pub table: &'a Table,
    /// Numbers every set holds.
    pub locked: &'a [usize],
    /// Numbers to choose from.
    pub open: &'a [usize],
    /// How many of `open` a set holds.
    pub places: usize,
    /// What else a set must fulfil.
    pub unmet: &'a Unmet<'a>,
}

/// Climbs started from a single pigment.
const STARTS: usize = 12;
/// The same for sets of more than so many: those begin near the best of the size before.
const STARTS_OF_LARGE: usize = 2;
const LARGE: usize = 8;
/// Exchanges in a row before a climb ends anyway.
const MOST_EXCHANGES: usize = 40;
/// Added for every demand a set leaves unmet, so that climbs lead towards those that meet them all.
const UNMET: f32 = 1e3;

impl Climb<'_> {
    /// Climbs from the best pigments added one by one, and from `seeds` (of open pigments) filled up or cut down to the size. Deterministic.
    pub(crate) fn all(&self, seeds: &[Vec<usize>], top: &mut Top) {
        if self.places > self.open.len() {
            return;
        }
        let mut starts: Vec<Vec<usize>> = seeds.to_vec();
        starts.push(Vec::new());
        // A start from each of the pigments that do most alone: a first climb might pass over them.
        let alone = |p: &usize| self.table.single(*p).iter().sum::<f32>();
        let mut best = self.open.to_vec();
        best.sort_by(|a, b| alone(a).total_cmp(&alone(b)).then(a.cmp(b)));
        let most = if self.places > LARGE { STARTS_OF_LARGE } else { STARTS };
        starts.extend(best.into_iter().take(most).map(|p| vec![p]));
        let limit = top.limit;
        let tops: Vec<Top> = starts
            .into_par_iter()
            .map(|start| {
                let mut own = Top::below(limit);
                self.one(start, &mut own);
                own
            })
            .collect();
        tops.into_iter().for_each(|t| top.merge(t));
    }

    /// Climbs from one set of open pigments, filled up or cut down to the size.
    pub(crate) fn one(&self, mut set: Vec<usize>, top: &mut Top) {
        set.truncate(self.places);
        while set.len() < self.places {
            let Some(best) = self.best_addition(&set, top) else { return };
            set.push(best);
        }
        let mut cost = self.judge(&set, top);
        for _ in 0..MOST_EXCHANGES {
            // The exchange that gains most: each member taken out in turn, the best other put in.
            let mut better: Option<(f32, Vec<usize>)> = None;
            for out in 0..set.len() {
                let mut rest = set.clone();
                rest.remove(out);
                let Some(best) = self.best_addition(&rest, top) else { continue };
                rest.push(best);
                let c = self.judge(&rest, top);
                if c < better.as_ref().map_or(cost, |b| b.0) {
                    better = Some((c, rest));
                }
            }
            let Some((c, next)) = better else { return };
            (cost, set) = (c, next);
        }
    }

    fn whole(&self, set: &[usize]) -> Vec<usize> {
        self.locked.iter().chain(set).copied().collect()
    }

    /// The cost of a set of open pigments, whatever else is asked.
    pub(crate) fn cost(&self, set: &[usize]) -> f32 {
        self.least(&self.whole(set)).iter().sum()
    }

    fn judge(&self, set: &[usize], top: &mut Top) -> f32 {
        let whole = self.whole(set);
        let cost = self.least(&whole).iter().sum();
        self.offered(cost, &whole, top)
    }

    /// Least cost of each target with a set.
    fn least(&self, set: &[usize]) -> Vec<f32> {
        let mut now = self.table.free().to_vec();
        for (a, i) in set.iter().enumerate() {
            lower(&mut now, self.table.single(*i));
            for (b, j) in set.iter().enumerate().skip(a + 1) {
                lower(&mut now, self.table.pair_of(*i, *j));
                if self.table.has_triples() {
                    set[b + 1..].iter().for_each(|k| lower(&mut now, self.table.triple_of(*i, *j, *k)));
                }
            }
        }
        now
    }

    /// Offers a set of the right size; a set that is not admitted counts as much worse.
    fn offered(&self, cost: f32, whole: &[usize], top: &mut Top) -> f32 {
        let mut ids: Vec<u16> = whole.iter().map(|i| *i as u16).collect();
        ids.sort_unstable();
        let unmet = (self.unmet)(&ids);
        if unmet > 0 {
            return cost + UNMET * unmet as f32;
        }
        top.offer(cost, ids);
        cost
    }

    /// The open pigment that lowers the cost most when added to `set`.
    fn best_addition(&self, set: &[usize], top: &mut Top) -> Option<usize> {
        let base = self.whole(set);
        let now = self.least(&base);
        let twos = base.iter().enumerate().flat_map(|(a, i)| base[a + 1..].iter().map(move |j| (*i, *j)));
        let pairs: Vec<(usize, usize)> = if self.table.has_triples() { twos.collect() } else { Vec::new() };
        let full = set.len() + 1 == self.places;
        let mut best: Option<(f32, usize)> = None;
        let mut row = now.clone();
        for p in self.open.iter().filter(|p| !set.contains(p)) {
            row.copy_from_slice(&now);
            lower(&mut row, self.table.single(*p));
            base.iter().for_each(|i| lower(&mut row, self.table.pair_of(*i, *p)));
            pairs.iter().for_each(|(i, j)| lower(&mut row, self.table.triple_of(*i, *j, *p)));
            let mut cost: f32 = row.iter().sum();
            // Sets too dear to be kept need no judgement, unless a climb has to find its way to any that will do.
            if full && (cost <= top.bar() || best.is_some_and(|b| b.0 >= UNMET)) {
                let mut whole = base.clone();
                whole.push(*p);
                cost = self.offered(cost, &whole, top);
            }
            if best.is_none_or(|b| cost < b.0) {
                best = Some((cost, *p));
            }
        }
        best.map(|b| b.1)
    }
}
