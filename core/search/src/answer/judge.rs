//! Sets judged in double precision, group by group, each group once.

use crate::progress::{Cancelled, Progress};
use crate::table::Errand;
use lean_colour::Lab;
use lean_recipes::cost::Ranking;
use lean_recipes::cost::quick::Wanted;
use lean_recipes::{Craft, Mix};
use rayon::prelude::*;
use std::collections::HashMap;
use std::sync::{Arc, RwLock};

/// A group: ascending numbers, filled up with [`NONE`].
type Group = [u16; 3];

const NONE: u16 = u16::MAX;

/// The best own recipe of a group for one target.
#[derive(Clone, Copy, Debug)]
struct Best {
    /// What it is ranked by.
    cost: f64,
    miss: f64,
    nth: u32,
    lab: Lab,
}

/// Best own recipes of a group for every target of every errand; a group without recipes has none.
type Bests = Arc<Vec<Option<Best>>>;

/// Remembers what groups can do.
#[derive(Default)]
pub struct Judge {
    known: RwLock<HashMap<Group, Bests>>,
}

/// What a set comes to.
#[derive(Clone, Debug, PartialEq)]
pub struct Judged {
    /// Weighted mean of what the targets are charged.
    pub cost: f64,
    /// What each target misses by, errand after errand.
    pub misses: Vec<f64>,
}

/// The groups of a set, what is free first.
fn groups(set: &[u16]) -> Vec<Group> {
    let mut all = vec![[NONE; 3]];
    for (a, i) in set.iter().enumerate() {
        all.push([*i, NONE, NONE]);
        for (b, j) in set.iter().enumerate().skip(a + 1) {
            all.push([*i, *j, NONE]);
            all.extend(set[b + 1..].iter().map(|k| [*i, *j, *k]));
        }
    }
    all
}

impl Judge {
    /// Works out, on all threads, what the groups of these sets (ascending numbers) can do.
    ///
    /// # Errors
    /// [`Cancelled`] when the watcher asks for it.
    pub fn prepare(&self, errands: &[Errand], sets: &[Vec<u16>], progress: &dyn Progress) -> Result<(), Cancelled> {
        let mut missing: Vec<Group> = {
            let known = self.known.read().unwrap_or_else(|p| p.into_inner());
            sets.iter().flat_map(|s| groups(s)).filter(|g| !known.contains_key(g)).collect()
        };
        missing.sort_unstable();
        missing.dedup();
        let work = |g: Group| if progress.is_cancelled() { Err(Cancelled) } else { Ok((g, bests(errands, g))) };
        let found: Vec<(Group, Bests)> = missing.into_par_iter().map(work).collect::<Result<_, _>>()?;
        self.known.write().unwrap_or_else(|p| p.into_inner()).extend(found);
        Ok(())
    }

    fn of_group(&self, errands: &[Errand], group: Group) -> Bests {
        if let Some(b) = self.known.read().unwrap_or_else(|p| p.into_inner()).get(&group) {
            return b.clone();
        }
        let b = bests(errands, group);
        self.known.write().unwrap_or_else(|p| p.into_inner()).insert(group, b.clone());
        b
    }

    /// The best recipe of each target from a set, with its group. Ties go to the smaller group, then to the one listed first.
    fn choose(&self, errands: &[Errand], set: &[u16]) -> Vec<Option<(Best, Group)>> {
        let targets: usize = errands.iter().map(|e| e.targets.len()).sum();
        let mut chosen: Vec<Option<(Best, Group)>> = vec![None; targets];
        let mut all = groups(set);
        all.sort_by_key(|g| g.iter().filter(|i| **i != NONE).count());
        for group in all {
            for (slot, best) in chosen.iter_mut().zip(self.of_group(errands, group).iter()) {
                if let Some(b) = best.filter(|b| slot.as_ref().is_none_or(|s| b.cost < s.0.cost)) {
                    *slot = Some((b, group));
                }
            }
        }
        chosen
    }

    /// What a set costs. A target no recipe reaches costs without end.
    pub fn judge(&self, errands: &[Errand], set: &[u16]) -> Judged {
        let chosen = self.choose(errands, set);
        let weights = errands.iter().flat_map(|e| e.weights(errands).into_iter().map(|w| (w, e.cost.ranking)));
        let charge = |c: &Option<(Best, Group)>, ranking: Ranking| c.map_or(f64::INFINITY, |(b, _)| ranking.of_zone(b.cost));
        let cost = chosen.iter().zip(weights).filter(|(_, (w, _))| *w > 0.0).map(|(c, (w, ranking))| charge(c, ranking) * w).sum();
        Judged { cost, misses: chosen.iter().map(|c| c.map_or(f64::INFINITY, |(b, _)| b.miss)).collect() }
    }

    /// The recipe of each target, errand after errand.
    pub fn mixes(&self, errands: &[Errand], set: &[u16]) -> Vec<Option<Mix>> {
        let crafts = errands.iter().flat_map(|e| std::iter::repeat_n(e.craft, e.targets.len()));
        let mix = |(chosen, craft): (Option<(Best, Group)>, &dyn Craft)| {
            chosen.map(|(best, group)| craft.listed(&numbers(group)).mix(best.nth as usize, best.lab))
        };
        self.choose(errands, set).into_iter().zip(crafts).map(mix).collect()
    }
}

fn numbers(group: Group) -> Vec<usize> {
    group.iter().filter(|i| **i != NONE).map(|i| usize::from(*i)).collect()
}

fn bests(errands: &[Errand], group: Group) -> Bests {
    let of = numbers(group);
    let mut all = Vec::new();
    for e in errands {
        let listed = e.craft.listed(&of);
        let colours: Vec<(f64, Lab)> = listed.colours().into_iter().map(|lab| (lab.value().0, lab)).collect();
        let ranking = e.cost.ranking;
        let mut charges: Vec<Option<f64>> = vec![if ranking.asks_hands() { None } else { Some(0.0) }; colours.len()];
        for target in &e.targets {
            let value = target.lab.value().0;
            let wanted = Wanted::of(target.lab, e.cost);
            let mut best: Option<Best> = None;
            for (nth, (v, lab)) in colours.iter().enumerate() {
                let by_value = e.cost.of_value(v - value);
                let known = charges[nth].unwrap_or(0.0);
                if best.is_some_and(|b| by_value + known >= b.cost) {
                    continue;
                }
                if best.is_some_and(|b| by_value + known + wanted.colour_bound(*lab, e.cost) >= b.cost) {
                    continue;
                }
                let miss = by_value + e.cost.of_colour(*lab, target.lab);
                if best.is_some_and(|b| miss + known >= b.cost) {
                    continue;
                }
                let charge = *charges[nth].get_or_insert_with(|| ranking.of_hand(listed.hand(nth)));
                if best.is_none_or(|b| miss + charge < b.cost) {
                    best = Some(Best { cost: miss + charge, miss, nth: nth as u32, lab: *lab });
                }
            }
            all.push(best);
        }
    }
    Arc::new(all)
}
