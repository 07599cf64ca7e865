//! Sets judged in double precision, group by group, each group once.

use crate::progress::{Cancelled, Progress};
use crate::table::Errand;
use crate::table::kernel::Wanted;
use lean_colour::Lab;
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
    cost: f64,
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
    /// Weighted mean cost.
    pub cost: f64,
    /// Least cost of each target, errand after errand.
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
        let misses: Vec<f64> = self.choose(errands, set).iter().map(|c| c.map_or(f64::INFINITY, |(b, _)| b.cost)).collect();
        let weights: Vec<f64> = errands.iter().flat_map(|e| e.weights(errands)).collect();
        let cost = misses.iter().zip(weights).filter(|(_, w)| *w > 0.0).map(|(m, w)| m * w).sum();
        Judged { cost, misses }
    }

    /// The recipe of each target, errand after errand.
    pub fn mixes(&self, errands: &[Errand], set: &[u16]) -> Vec<Option<Mix>> {
        let crafts = errands.iter().flat_map(|e| std::iter::repeat_n(e.craft, e.targets.len()));
        let mix = |(chosen, craft): (Option<(Best, Group)>, &dyn Craft)| {
            chosen.map(|(best, group)| craft.mix(&numbers(group), best.nth as usize, best.lab))
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
        let colours: Vec<(f64, Lab)> = e.craft.exact(&of).into_iter().map(|lab| (lab.value().0, lab)).collect();
        for target in &e.targets {
            let value = target.lab.value().0;
            let wanted = Wanted::of(target.lab, e.cost);
            let mut best: Option<Best> = None;
            for (nth, (v, lab)) in colours.iter().enumerate() {
                let by_value = e.cost.of_value(v - value);
                if best.is_some_and(|b| by_value >= b.cost) {
                    continue;
                }
                if best.is_some_and(|b| by_value + wanted.colour_bound(*lab, e.cost) >= b.cost) {
                    continue;
                }
                let cost = by_value + e.cost.of_colour(*lab, target.lab);
                if best.is_none_or(|b| cost < b.cost) {
                    best = Some(Best { cost, nth: nth as u32, lab: *lab });
                }
            }
            all.push(best);
        }
    }
    Arc::new(all)
}
