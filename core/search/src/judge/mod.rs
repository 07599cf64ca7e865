//! Sets judged in double precision, group by group, each group once.

pub(crate) mod exact;
pub(crate) mod kept;

use crate::progress::{Cancelled, Progress};
use crate::table::Served;
use lean_colour::{Lab, Steps};
use lean_media::lanes::LANES;
use lean_recipes::cost::quick::{self, CostF, Wanted};
use lean_recipes::cost::{Cost, Ranking};
use lean_recipes::technique::{Listed, Quick};
use lean_recipes::{Mix, Technique};
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

/// Best own recipes of a group for every target of every served_piece; a group without recipes has none.
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
    /// What each target misses by, served_piece after served_piece.
    pub misses: Vec<f64>,
}

/// The largest group that has recipes of its own in any piece.
fn largest_group(served: &[Served]) -> usize {
    served.iter().map(|e| e.technique.largest_group()).max().unwrap_or(0)
}

/// The groups of a set of two, or of up to three pigments; what is free first.
fn groups(set: &[u16], largest: usize) -> Vec<Group> {
    let mut all = vec![[NONE; 3]];
    for (a, i) in set.iter().enumerate() {
        all.push([*i, NONE, NONE]);
        for (b, j) in set.iter().enumerate().skip(a + 1) {
            all.push([*i, *j, NONE]);
            if largest > 2 {
                all.extend(set[b + 1..].iter().map(|k| [*i, *j, *k]));
            }
        }
    }
    all
}

impl Judge {
    /// Works out, on all threads, what the groups of these sets (ascending numbers) can do.
    ///
    /// # Errors
    /// [`Cancelled`] when the watcher asks for it.
    pub fn prepare(&self, served: &[Served], sets: &[Vec<u16>], progress: &dyn Progress) -> Result<(), Cancelled> {
        let mut missing: Vec<Group> = {
            let known = self.known.read().unwrap_or_else(|p| p.into_inner());
            sets.iter().flat_map(|s| groups(s, largest_group(served))).filter(|g| !known.contains_key(g)).collect()
        };
        missing.sort_unstable();
        missing.dedup();
        let work = |g: Group| if progress.is_cancelled() { Err(Cancelled) } else { Ok((g, bests(served, g))) };
        let found: Vec<(Group, Bests)> = missing.into_par_iter().map(work).collect::<Result<_, _>>()?;
        self.known.write().unwrap_or_else(|p| p.into_inner()).extend(found);
        Ok(())
    }

    fn of_group(&self, served: &[Served], group: Group) -> Bests {
        if let Some(b) = self.known.read().unwrap_or_else(|p| p.into_inner()).get(&group) {
            return b.clone();
        }
        let b = bests(served, group);
        self.known.write().unwrap_or_else(|p| p.into_inner()).insert(group, b.clone());
        b
    }

    /// The best recipe of each target from a set, with its group. Ties go to the smaller group, then to the one listed first.
    fn choose(&self, served: &[Served], set: &[u16]) -> Vec<Option<(Best, Group)>> {
        let targets: usize = served.iter().map(|e| e.targets.len()).sum();
        let mut chosen: Vec<Option<(Best, Group)>> = vec![None; targets];
        let mut all = groups(set, largest_group(served));
        all.sort_by_key(|g| g.iter().filter(|i| **i != NONE).count());
        for group in all {
            for (slot, best) in chosen.iter_mut().zip(self.of_group(served, group).iter()) {
                if let Some(b) = best.filter(|b| slot.as_ref().is_none_or(|s| b.cost < s.0.cost)) {
                    *slot = Some((b, group));
                }
            }
        }
        chosen
    }

    /// What a set costs. A target no recipe reaches costs without end.
    pub fn judge(&self, served: &[Served], set: &[u16]) -> Judged {
        let chosen = self.choose(served, set);
        let weights = served.iter().flat_map(|e| e.weights(served).into_iter().map(|w| (w, e.cost.ranking)));
        let charge = |c: &Option<(Best, Group)>, ranking: Ranking| c.map_or(f64::INFINITY, |(b, _)| ranking.of_zone(b.cost));
        let cost = chosen.iter().zip(weights).filter(|(_, (w, _))| *w > 0.0).map(|(c, (w, ranking))| charge(c, ranking) * w).sum();
        Judged { cost, misses: chosen.iter().map(|c| c.map_or(f64::INFINITY, |(b, _)| b.miss)).collect() }
    }

    /// The recipe of each target, served_piece after served_piece.
    pub fn mixes(&self, served: &[Served], set: &[u16]) -> Vec<Option<Mix>> {
        let techniques = served.iter().flat_map(|e| std::iter::repeat_n(e.technique, e.targets.len()));
        let mix = |(chosen, technique): (Option<(Best, Group)>, &dyn Technique)| {
            chosen.map(|(best, group)| technique.listed(&numbers(group)).mix(best.nth as usize, best.lab))
        };
        self.choose(served, set).into_iter().zip(techniques).map(mix).collect()
    }
}

fn numbers(group: Group) -> Vec<usize> {
    group.iter().filter(|i| **i != NONE).map(|i| usize::from(*i)).collect()
}

/// How far a miss in single precision may be off; where a value must hold, its steep charge multiplies the rounding of the value.
fn rounding(cost: &Cost) -> f32 {
    if cost.hold.is_some() { 8e-2 } else { 8e-3 }
}

/// How far what a slip of the hand is charged may be off in single precision.
const SLIP_ROUNDING: f32 = 6e-2;

/// Recipes are sifted in single precision; whatever could be best is judged in double.
fn bests(served: &[Served], group: Group) -> Bests {
    let of = numbers(group);
    let mut all = Vec::new();
    let mut mixed = Quick::default();
    for e in served {
        mixed.clear();
        e.technique.quick(&of, &mut mixed);
        let listed = e.technique.listed(&of);
        let mut sifting = Sifting {
            served_piece: e,
            group: &of,
            mixed: &mut mixed,
            single: CostF::of(e.cost),
            slips: vec![f32::NAN; listed.count()],
            known: vec![Known::default(); listed.count()],
        };
        all.extend(e.targets.iter().map(|target| sifting.best(listed.as_ref(), target.lab)));
    }
    Arc::new(all)
}

/// What is known in double precision of a recipe.
#[derive(Clone, Copy, Default)]
struct Known {
    colour: Option<(f64, Lab)>,
    charge: Option<f64>,
}

/// Recipes of a group on their way from single to double precision.
struct Sifting<'a> {
    served_piece: &'a Served<'a>,
    group: &'a [usize],
    mixed: &'a mut Quick,
    single: CostF,
    /// How far a slip moves each, in single precision; not a number until it is asked for.
    slips: Vec<f32>,
    known: Vec<Known>,
}

impl Sifting<'_> {
    /// The best recipe for a target. Of equals the one listed first.
    fn best(&mut self, listed: &dyn Listed, target: Lab) -> Option<Best> {
        let mut best: Option<Best> = None;
        for nth in self.perhaps_best(target) {
            let b = self.judged(listed, nth, target);
            let better = |a: &Best| b.cost < a.cost || b.cost == a.cost && b.nth < a.nth;
            if best.as_ref().is_none_or(better) {
                best = Some(b);
            }
        }
        best
    }

    /// Every recipe that single precision cannot tell from the best.
    fn perhaps_best(&mut self, target: Lab) -> Vec<usize> {
        let slack = rounding(&self.served_piece.cost) + if self.single.asks_slips() { SLIP_ROUNDING } else { 0.0 };
        let near = self.nearest(target);
        let mut least = f32::INFINITY;
        let mut ranked: Vec<(f32, usize)> = Vec::new();
        // The nearest first, a few at a time: what they come to spares most of the others.
        for few in near.chunks(LANES) {
            if few[0].0 > least + slack {
                break;
            }
            self.ask_slips(few);
            for (charged, nth) in few {
                let rank = charged + if self.single.asks_slips() { self.single.of_slip(self.slips[*nth]) } else { 0.0 };
                least = quick::less(least, rank);
                ranked.push((rank, *nth));
            }
        }
        ranked.into_iter().filter(|(rank, _)| *rank <= least + slack).map(|(_, nth)| nth).collect()
    }

    /// All recipes by what they cost without what a slip of the hand is charged.
    fn nearest(&self, target: Lab) -> Vec<(f32, usize)> {
        let wanted = Wanted::of(target, self.served_piece.cost);
        let single = CostF::of(self.served_piece.cost.toward(target).1);
        let mut near: Vec<(f32, usize)> = Vec::with_capacity(self.known.len());
        for (eight, colours) in self.mixed.colours.iter().enumerate() {
            let charge = self.mixed.more_layers.get(eight).map_or([0.0; LANES], |n| single.of_layers(n));
            let Some(lanes) = quick::charged(colours, &charge, &wanted, single, f32::INFINITY) else { continue };
            near.extend(lanes.iter().enumerate().map(|(lane, c)| (*c, eight * LANES + lane)).filter(|(_, nth)| *nth < self.known.len()));
        }
        near.sort_unstable_by(|a, b| a.0.total_cmp(&b.0).then(a.1.cmp(&b.1)));
        near
    }

    fn ask_slips(&mut self, few: &[(f32, usize)]) {
        let unknown: Vec<usize> = few.iter().map(|(_, nth)| *nth).filter(|nth| self.slips[*nth].is_nan()).collect();
        if !self.single.asks_slips() || unknown.is_empty() {
            return;
        }
        let told = self.served_piece.technique.quick_slips(self.group, self.mixed, &unknown, &vec![f32::INFINITY; unknown.len()]);
        unknown.iter().zip(told).for_each(|(nth, slip)| self.slips[*nth] = slip);
    }

    fn judged(&mut self, listed: &dyn Listed, nth: usize, target: Lab) -> Best {
        let (target, cost) = self.served_piece.cost.toward(target);
        let own = &mut self.known[nth];
        let (value, lab) = *own.colour.get_or_insert_with(|| {
            let lab = listed.colour(nth);
            (lab.value().0, lab)
        });
        let miss = cost.of_value(Steps(value - target.value().0)) + cost.of_colour(lab, target);
        let charge = *own.charge.get_or_insert_with(|| listed.charge(nth, cost.ranking));
        Best { cost: miss + charge, miss, nth: nth as u32, lab }
    }
}
