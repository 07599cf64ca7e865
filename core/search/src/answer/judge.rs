//! Sets judged in double precision, group by group, each group once.

use crate::progress::{Cancelled, Progress};
use crate::table::Errand;
use lean_colour::Lab;
use lean_media::lanes::LANES;
use lean_recipes::cost::quick::{self, CostF, Wanted};
use lean_recipes::cost::{Cost, Ranking};
use lean_recipes::craft::{Listed, Quick};
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

/// How far a miss in single precision may be off; where a value must hold, its steep charge multiplies the rounding of the value.
fn rounding(cost: &Cost) -> f32 {
    if cost.hold.is_some() { 8e-2 } else { 8e-3 }
}

/// Recipes are sifted in single precision; whatever could be best is judged in double.
fn bests(errands: &[Errand], group: Group) -> Bests {
    let of = numbers(group);
    let mut all = Vec::new();
    let mut mixed = Quick::default();
    for e in errands {
        mixed.clear();
        e.craft.quick(&of, &mut mixed);
        let listed = e.craft.listed(&of);
        let mut known: Vec<Known> = Vec::new();
        known.resize_with(listed.count(), Known::default);
        let single = CostF::of(e.cost);
        for target in &e.targets {
            all.push(best(e, &mixed, listed.as_ref(), &mut known, target.lab, single));
        }
    }
    Arc::new(all)
}

/// What is known in double precision of a recipe.
#[derive(Clone, Copy, Default)]
struct Known {
    colour: Option<(f64, Lab)>,
    charge: Option<f64>,
}

fn best(e: &Errand, mixed: &Quick, listed: &dyn Listed, known: &mut [Known], target: Lab, single: CostF) -> Option<Best> {
    let (value, ranking) = (target.value().0, e.cost.ranking);
    let wanted = Wanted::of(target, e.cost);
    let slack = rounding(&e.cost);
    // The nearest first: what it comes to spares most of the others.
    let mut near: Vec<(f32, usize)> = Vec::with_capacity(known.len());
    for (eight, colours) in mixed.colours.iter().enumerate() {
        let charge = mixed.more_layers.get(eight).map_or([0.0; LANES], |n| single.of_layers(n));
        let Some(lanes) = quick::charged(colours, &charge, &wanted, single, f32::INFINITY) else { continue };
        near.extend(lanes.iter().enumerate().map(|(lane, c)| (*c, eight * LANES + lane)).filter(|(_, nth)| *nth < known.len()));
    }
    near.sort_unstable_by(|a, b| a.0.total_cmp(&b.0).then(a.1.cmp(&b.1)));
    let mut best: Option<Best> = None;
    for (charged, nth) in near {
        if best.is_some_and(|b| f64::from(charged - slack) > b.cost) {
            break;
        }
        let own = &mut known[nth];
        let (v, lab) = *own.colour.get_or_insert_with(|| {
            let lab = listed.colour(nth);
            (lab.value().0, lab)
        });
        let miss = e.cost.of_value(v - value) + e.cost.of_colour(lab, target);
        if best.is_some_and(|b| miss > b.cost) {
            continue;
        }
        let charge = *own.charge.get_or_insert_with(|| listed.charge(nth, ranking));
        // Of equals the one listed first.
        if best.is_none_or(|b| miss + charge < b.cost || miss + charge == b.cost && (nth as u32) < b.nth) {
            best = Some(Best { cost: miss + charge, miss, nth: nth as u32, lab });
        }
    }
    best
}
