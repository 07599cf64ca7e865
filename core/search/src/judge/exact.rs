//! All recipes of a given set with their colours, judged in double precision.

use lean_colour::{Lab, Steps, Value};
use lean_recipes::cost::{Cost, Target, Within};
use lean_recipes::hand::Hand;
use lean_recipes::technique::Listed;
use lean_recipes::{Mix, Technique};
use lru::LruCache;
use std::num::NonZeroUsize;
use std::sync::{Arc, Mutex, OnceLock};

/// How many answers are remembered: those of the zones of a plan with and without each of its pigments, several times over.
const REMEMBERED: NonZeroUsize = NonZeroUsize::new(1024).expect("not zero");

/// Which recipes are looked through.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
enum Among {
    All,
    /// Those that do without a pigment.
    Without(usize),
    /// Those of something laid that take less work than so much.
    LessWork(usize),
}

/// A wanted colour by its bits, which recipes, how many.
type Question = ([u64; 3], Among, usize);
/// The cheapest by cost and number.
type Answer = Arc<[(f64, usize)]>;

/// All recipes of a few pigments, made once and asked many times.
pub struct Recipes<'a> {
    groups: Vec<Box<dyn Listed + 'a>>,
    all: Vec<Candidate>,
    /// Answers given so far, each by what was asked and the cost it was weighed with: of a plan one zone is moved at a time.
    asked: Mutex<LruCache<Question, (Cost, Answer)>>,
    /// The values they can give, once asked.
    within: OnceLock<Within>,
}

struct Candidate {
    /// Its pigments, and the place of their group.
    of: [u16; 3],
    size: u8,
    group: u32,
    nth: u32,
    lab: Lab,
    value: f64,
    /// How sure a hand is of it, once asked.
    hand: OnceLock<Hand>,
}

impl Candidate {
    fn holds(&self, pigment: usize) -> bool {
        self.of[..usize::from(self.size)].iter().any(|i| usize::from(*i) == pigment)
    }
}

impl<'a> Recipes<'a> {
    /// Lists every recipe of all pigments of a technique, fewest pigments first.
    pub fn of(technique: &'a dyn Technique) -> Self {
        let set: Vec<usize> = (0..technique.pigments()).collect();
        Self::among(technique, &set)
    }

    /// Lists every recipe of some pigments of a technique (ascending numbers), fewest pigments first.
    pub fn among(technique: &'a dyn Technique, set: &[usize]) -> Self {
        let mut all = Vec::new();
        let mut groups = Vec::new();
        for size in 0..=technique.largest_group() {
            visit(set, size, &mut |group| {
                let mut of = [0u16; 3];
                of.iter_mut().zip(group).for_each(|(o, g)| *o = *g as u16);
                let listed = technique.listed(group);
                for (nth, lab) in listed.colours().into_iter().enumerate() {
                    let (group, nth) = (groups.len() as u32, nth as u32);
                    all.push(Candidate { of, size: size as u8, group, nth, lab, value: lab.value().0, hand: OnceLock::new() });
                }
                groups.push(listed);
            });
        }
        Self { groups, all, asked: Mutex::new(LruCache::new(REMEMBERED)), within: OnceLock::new() }
    }

    /// The values these recipes can give.
    pub fn within(&self) -> Within {
        *self.within.get_or_init(|| Within::of(self.all.iter().map(|c| Value(c.value))))
    }

    /// A cost that compares values after they were fitted, with what these recipes can give as what can be had.
    pub fn fitted(&self, cost: Cost) -> Cost {
        Cost { within: cost.within.map(|_| self.within()), ..cost }
    }

    /// Every colour the recipes give.
    pub fn colours(&self) -> impl Iterator<Item = Lab> + '_ {
        self.all.iter().map(|c| c.lab)
    }

    /// Every colour that something laid gives.
    pub fn laid(&self) -> impl Iterator<Item = Lab> + '_ {
        self.all.iter().filter(|c| c.size > 0).map(|c| c.lab)
    }

    /// Every colour that is free: bare ground, or white alone.
    pub fn free(&self) -> impl Iterator<Item = Lab> + '_ {
        self.all.iter().filter(|c| c.size == 0).map(|c| c.lab)
    }

    /// The recipe of least cost for a colour, and that cost. `None` when there are no recipes at all.
    pub fn best(&self, wanted: Lab, cost: Cost) -> Option<(f64, Mix)> {
        self.ranked(wanted, cost, 1).into_iter().next()
    }

    /// The `count` cheapest recipes, cheapest first.
    pub fn ranked(&self, wanted: Lab, cost: Cost, count: usize) -> Vec<(f64, Mix)> {
        self.cheapest(wanted, cost, count, Among::All).iter().map(|(cost, i)| (*cost, self.mix(*i))).collect()
    }

    /// The `count` cheapest recipes by their cost, their number here and their colour, cheapest first: many can be weighed before one is
    /// [made](Self::recipe), which asks how sure a hand is of it.
    pub fn nearest(&self, wanted: Lab, cost: Cost, count: usize) -> Vec<(f64, usize, Lab)> {
        self.cheapest(wanted, cost, count, Among::All).iter().map(|(cost, i)| (*cost, *i, self.all[*i].lab)).collect()
    }

    /// A recipe by its number.
    ///
    /// # Panics
    /// When there is no such number: ask [`Recipes::nearest`] for it.
    pub fn recipe(&self, number: usize) -> Mix {
        self.mix(number)
    }

    /// The cheapest recipe that takes less [work](Listed::work) than so much, bare ground left out; `None` where there is none.
    pub fn best_of_less_work(&self, than: usize, wanted: Lab, cost: Cost) -> Option<Mix> {
        self.cheapest(wanted, cost, 1, Among::LessWork(than)).first().map(|(_, i)| self.mix(*i))
    }

    /// How much work the cheapest recipe for a colour is.
    pub fn work_of_best(&self, wanted: Lab, cost: Cost) -> usize {
        self.cheapest(wanted, cost, 1, Among::All).first().map_or(0, |(_, i)| self.work(&self.all[*i]))
    }

    fn work(&self, of: &Candidate) -> usize {
        self.groups[of.group as usize].work(of.nth as usize)
    }

    /// The `count` cheapest candidates, cheapest first, looked for once.
    fn cheapest(&self, wanted: Lab, cost: Cost, count: usize, among: Among) -> Answer {
        let question = ([wanted.l, wanted.a, wanted.b].map(f64::to_bits), among, count);
        let asked = || self.asked.lock().unwrap_or_else(|poisoned| poisoned.into_inner());
        if let Some((_, known)) = asked().get(&question).filter(|(weighed, _)| *weighed == cost) {
            return known.clone();
        }
        let found: Answer = match among {
            Among::All => self.looked_through(wanted, cost, count, &|_| true),
            Among::Without(pigment) => self.looked_through(wanted, cost, count, &|c| !c.holds(pigment)),
            Among::LessWork(than) => self.looked_through(wanted, cost, count, &|c| c.size > 0 && self.work(c) < than),
        }
        .into();
        asked().put(question, (cost, found.clone()));
        found
    }

    /// The `count` cheapest candidates that fit, cheapest first.
    fn looked_through(&self, wanted: Lab, cost: Cost, count: usize, fits: &dyn Fn(&Candidate) -> bool) -> Vec<(f64, usize)> {
        let worst = |found: &[(f64, usize)]| if found.len() < count { f64::INFINITY } else { found[found.len() - 1].0 };
        let mut found: Vec<(f64, usize)> = Vec::with_capacity(count + 1);
        // What a slip is charged takes long to find: those nearest without it are asked first, and spare most of the others.
        for (least, i) in self.near(wanted, cost, count, fits) {
            if least >= worst(&found) {
                break;
            }
            let total = if cost.ranking.slip > 0.0 { least + cost.ranking.slip * self.hand(i).slip } else { least };
            if total < worst(&found) {
                // Of equals the one listed first.
                let at = found.partition_point(|f| f.0 < total || f.0 == total && f.1 < i);
                found.insert(at, (total, i));
                found.truncate(count);
            }
        }
        found
    }

    /// Candidates that fit by what they cost without what a slip is charged, cheapest first; those of which `count` others are known to be nearer
    /// are left out where slips are not asked.
    fn near(&self, wanted: Lab, cost: Cost, count: usize, fits: &dyn Fn(&Candidate) -> bool) -> Vec<(f64, usize)> {
        let (wanted, cost) = self.fitted(cost).toward(wanted);
        let value = wanted.value().0;
        let mut near: Vec<(f64, usize)> = Vec::new();
        // A true bound: where slips are not asked the dearest of the cheapest so far, and where one is wanted what the nearest so far comes to.
        let (mut bound, mut nearest) = (f64::INFINITY, f64::INFINITY);
        for (i, c) in self.all.iter().enumerate() {
            let by_value = cost.of_value(Steps(c.value - value));
            if by_value >= bound || !fits(c) {
                continue;
            }
            let layers = cost.ranking.of_layers(self.groups[c.group as usize].more_layers(c.nth as usize));
            let total = by_value + cost.of_colour(c.lab, wanted) + layers;
            if total >= bound {
                continue;
            }
            near.push((total, i));
            if cost.ranking.slip > 0.0 && count == 1 && total < nearest {
                nearest = total;
                bound = bound.min(total + cost.ranking.slip * self.hand(i).slip);
            }
            if cost.ranking.slip == 0.0 && near.len() >= 2 * count + 8 {
                near.sort_unstable_by(|a, b| a.0.total_cmp(&b.0).then(a.1.cmp(&b.1)));
                near.truncate(count);
                bound = near[count - 1].0;
            }
        }
        near.sort_unstable_by(|a, b| a.0.total_cmp(&b.0).then(a.1.cmp(&b.1)));
        near
    }

    fn hand(&self, i: usize) -> Hand {
        let c = &self.all[i];
        *c.hand.get_or_init(|| self.groups[c.group as usize].hand(c.nth as usize))
    }

    fn mix(&self, i: usize) -> Mix {
        let c = &self.all[i];
        self.groups[c.group as usize].mix(c.nth as usize, c.lab)
    }

    /// Weighted mean over the targets of the least cost of each.
    pub fn cost_of(&self, targets: &[Target], cost: Cost) -> f64 {
        self.mean(targets, cost, None)
    }

    /// The same without one pigment of the set.
    pub fn cost_without(&self, pigment: usize, targets: &[Target], cost: Cost) -> f64 {
        self.mean(targets, cost, Some(pigment))
    }

    fn mean(&self, targets: &[Target], cost: Cost, without: Option<usize>) -> f64 {
        let total: f64 = targets.iter().map(|t| t.weight).sum();
        let among = without.map_or(Among::All, Among::Without);
        let least = |t: &Target| self.cheapest(t.lab, cost, 1, among).first().map_or(f64::INFINITY, |b| b.0);
        let sum: f64 = targets.iter().filter(|t| t.weight > 0.0).map(|t| t.weight * cost.ranking.of_zone(least(t))).sum();
        sum / total
    }
}

/// Shows every group of `size` out of `set`.
fn visit(set: &[usize], size: usize, show: &mut dyn FnMut(&[usize])) {
    fn go(set: &[usize], size: usize, chosen: &mut Vec<usize>, show: &mut dyn FnMut(&[usize])) {
        if chosen.len() == size {
            return show(chosen);
        }
        for (at, i) in set.iter().enumerate() {
            chosen.push(*i);
            go(&set[at + 1..], size, chosen, show);
            chosen.pop();
        }
    }
    go(set, size, &mut Vec::new(), show);
}

#[cfg(test)]
mod tests {
    use super::*;
    use lean_media::{Pigment, library};
    use lean_recipes::{Grain, Limits, Wet};

    fn wet(ids: &[&str], white: Option<&str>) -> Wet {
        let set: Vec<&Pigment> = ids.iter().map(|id| library::find(id).unwrap()).collect();
        Wet::of(&set, white.and_then(library::find), Limits::default(), Grain::Parts)
    }

    #[test]
    fn a_colour_that_is_a_recipe_is_found_at_no_cost() {
        let technique = wet(&["PB29", "PY43", "PR101"], Some("PW6"));
        let recipes = Recipes::of(&technique);
        assert_eq!(recipes.all.len(), 1 + 3 * 22 + 3 * 73 + 121);
        let lab = recipes.all[200].lab;
        let (cost, mix) = recipes.best(lab, Cost::default()).unwrap();
        assert!(cost < 1e-9 && mix.lab == lab);
        let three = recipes.ranked(Lab::new(50.0, 5.0, 5.0), Cost::default(), 3);
        assert!(three.windows(2).all(|w| w[0].0 <= w[1].0));
    }

    #[test]
    fn the_cost_without_a_pigment_is_that_of_the_others_alone() {
        let technique = wet(&["PB29", "PY43", "PR101"], Some("PW6"));
        let targets = [Target { lab: Lab::new(45.0, 20.0, 15.0), weight: 2.0 }, Target { lab: Lab::new(60.0, -5.0, -20.0), weight: 1.0 }];
        let cost = Cost::default();
        for (out, rest) in [(0, [1, 2]), (1, [0, 2]), (2, [0, 1])] {
            let without = Recipes::of(&technique).cost_without(out, &targets, cost);
            assert!((without - Recipes::among(&technique, &rest).cost_of(&targets, cost)).abs() < 1e-12);
        }
    }

    #[test]
    fn without_white_no_recipe_calls_for_it() {
        assert_eq!(Recipes::of(&wet(&["PB29"], None)).all.len(), 1);
    }
}
