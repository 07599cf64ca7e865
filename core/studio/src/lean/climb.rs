//! Good sets found quickly, by adding the best pigment and then exchanging one for another: what the proof starts from.

use super::dense::{Dense, lower};
use super::subsets::Admits;
use super::top::Top;
use rayon::prelude::*;

/// Finds good sets and offers every set looked at to a list.
pub struct Climb<'a> {
    pub dense: &'a Dense,
    pub locked: &'a [usize],
    pub open: &'a [usize],
    pub places: usize,
    pub admits: &'a Admits<'a>,
}

/// Exchanges in a row before a climb ends anyway.
const MOST_EXCHANGES: usize = 40;
/// Added for a set that is not admitted, so that climbs lead towards those that are.
const NOT_ADMITTED: f32 = 1e3;

impl Climb<'_> {
    /// Climbs from the best pigments added one by one, and from `seeds` (open positions) filled up or cut down to the size. Deterministic.
    pub fn all(&self, seeds: &[Vec<usize>], top: &mut Top) {
        if self.places > self.open.len() {
            return;
        }
        let mut starts: Vec<Vec<usize>> = seeds.to_vec();
        starts.push(Vec::new());
        // A start from each pigment that a first climb might pass over.
        starts.extend(self.open.iter().map(|p| vec![*p]));
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

    fn one(&self, mut set: Vec<usize>, top: &mut Top) {
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

    fn judge(&self, set: &[usize], top: &mut Top) -> f32 {
        let whole = self.whole(set);
        let cost = self.dense.cost(&whole);
        self.offered(cost, &whole, top)
    }

    /// Offers a set of the right size; a set that is not admitted counts as much worse.
    fn offered(&self, cost: f32, whole: &[usize], top: &mut Top) -> f32 {
        let mut ids: Vec<u16> = whole.iter().map(|i| self.dense.ids[*i] as u16).collect();
        ids.sort_unstable();
        if !(self.admits)(&ids) {
            return cost + NOT_ADMITTED;
        }
        top.offer(cost, ids);
        cost
    }

    /// The open position that lowers the cost most when added to `set`.
    fn best_addition(&self, set: &[usize], top: &mut Top) -> Option<usize> {
        let base = self.whole(set);
        let mut now = self.dense.free.clone();
        let mut pairs: Vec<(usize, usize)> = Vec::new();
        for (a, i) in base.iter().enumerate() {
            lower(&mut now, self.dense.pair(*i, *i));
            for (b, j) in base.iter().enumerate().skip(a + 1) {
                pairs.push((*i, *j));
                lower(&mut now, self.dense.pair(*i, *j));
                base[b + 1..].iter().for_each(|k| lower(&mut now, self.dense.triple(*i, *j, *k)));
            }
        }
        let full = set.len() + 1 == self.places;
        let mut best: Option<(f32, usize)> = None;
        let mut row = now.clone();
        for p in self.open.iter().filter(|p| !set.contains(p)) {
            row.copy_from_slice(&now);
            lower(&mut row, self.dense.pair(*p, *p));
            base.iter().for_each(|i| lower(&mut row, self.dense.pair(*i, *p)));
            pairs.iter().for_each(|(i, j)| lower(&mut row, self.dense.triple(*i, *j, *p)));
            let mut cost: f32 = row.iter().sum();
            if full && cost <= top.bar() {
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
