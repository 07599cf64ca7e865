//! The best sets of one size, proved.
//!
//! A climb finds good sets; the relaxation of [`super::bound`] shows which pigments can be in no set as good; what is left is gone through one by
//! one. Where too much is left, the question is parted in two, sets with and sets without one pigment, and each part is bounded again
//! (branch and bound). A budget of counted steps, not of time, ends hopeless cases with an honest bound, the same on every machine.

pub(crate) mod bound;
pub(crate) mod climb;
mod large;
pub mod measured;
pub(crate) mod subsets;
pub(crate) mod top;

use crate::progress::{Cancelled, Progress, Unreported};
use crate::proof::bound::{Bound, Relaxation, Scope};
use crate::proof::climb::Climb;
use crate::proof::subsets::{Unmet, Walk, count};
use crate::proof::top::Top;
use crate::table::Table;
use crate::table::in_play::InPlay;

/// What is asked of one size.
pub(crate) struct AskedSize<'a> {
    pub table: &'a Table,
    /// Numbers in the table every set holds, ascending.
    pub locked: &'a [usize],
    /// Numbers to choose from, ascending.
    pub open: &'a [usize],
    /// How many of `open` a set holds.
    pub places: usize,
    /// What else a set must fulfil.
    pub unmet: &'a Unmet<'a>,
    /// Whether there is anything to leave unmet.
    pub demanding: bool,
    /// Sets within this share of the best are wanted too.
    pub margin: f32,
    /// How far single precision may be off.
    pub rounding: f32,
    /// Steps before the proof is given up, see [`BUDGET`].
    pub budget: f64,
}

/// What was found for one size.
pub(crate) struct Proved {
    /// Best first. All sets within the margin, unless `top` is full.
    pub top: Top,
    /// When the best set is not known for certain: no set costs less than this.
    pub least: Option<f64>,
    /// True where `top` holds every set within the margin, as far as it has room.
    pub all_near: bool,
}

/// What one size may learn from the one before.
#[derive(Default)]
pub(crate) struct Lesson {
    /// Good sets, by number in the table.
    seeds: Vec<Vec<u16>>,
    /// Charges of the relaxation, one row for each pigment of the table.
    charges: Option<Vec<f32>>,
}

/// Sets few enough to go through without any bound.
const FEW: f64 = 50_000.0;
/// Sets that are gone through at once: every set of six of sixty takes less time than bounding what bounds can do with them.
const WALKED: f64 = 60_000_000.0;
/// Sets of a part that are gone through rather than parted again: about as long as bounding its parts takes.
const WALKED_OF_PART: f64 = 6_000_000.0;
/// Steps of the relaxation over everything, and over a part.
const STEPS: usize = 240;
const STEPS_OF_PART: usize = 25;
/// Steps in all, counted in sets gone through; one look of the relaxation at all triples takes as long as half as many sets. Some seven seconds on
/// two cores. A choice.
pub(crate) const BUDGET: f64 = 6e8;
/// What a set costs that has to be held against demands, counted likewise: as long as no set is known that meets them, this is every one.
const JUDGED: f64 = 200.0;
/// Targets in a row that the budget is meant for; wider rows take longer.
const USUAL_WIDTH: f64 = 24.0;
/// How often what is in play is laid out anew as it shrinks.
const ROUNDS: usize = 6;

impl AskedSize<'_> {
    /// Finds and proves the best sets, or ends with a bound.
    ///
    /// # Errors
    /// [`Cancelled`] when the watcher asks for it.
    pub(crate) fn prove(&self, lesson: &mut Lesson, progress: &dyn Progress) -> Result<Proved, Cancelled> {
        let mut top = Top::below(f32::INFINITY);
        let everything = Branch::whole(self, lesson.charges.take());
        if !self.table.is_complete() || count(self.open.len(), self.places) <= FEW {
            everything.walk(self, &mut top, progress)?;
            top.tighten(self.margin, self.rounding);
            lesson.seeds = top.sets().iter().take(4).map(|r| r.set.clone()).collect();
            lesson.charges = Some(everything.charges_of_table(self.table));
            return Ok(Proved { top, least: None, all_near: true });
        }
        everything.climb(self, &lesson.seeds, &mut top);
        if progress.is_cancelled() {
            return Err(Cancelled);
        }
        top.tighten(self.margin, self.rounding);
        let large = everything.sets() > WALKED && self.is_large() && !top.sets().is_empty();
        let (least, charges) = if everything.sets() <= WALKED {
            everything.walk(self, &mut top, progress)?;
            top.tighten(self.margin, self.rounding);
            (None, everything.charges_of_table(self.table))
        } else if large {
            // What charges of other sizes leave out would have to be found again: this begins from none.
            (self.nearly(Branch::whole(self, None), &mut top, progress)?, Vec::new())
        } else {
            self.branch(everything, &mut top, progress)?
        };
        lesson.seeds = top.sets().iter().take(4).map(|r| r.set.clone()).collect();
        lesson.charges = Some(charges);
        let all_near = !large && least.is_none();
        Ok(Proved { top, least, all_near })
    }

    /// Goes through everything in parts. Returns the bound of what was left when the budget ran out, and the charges of the whole.
    fn branch(&self, whole: Branch, top: &mut Top, progress: &dyn Progress) -> Result<(Option<f64>, Vec<f32>), Cancelled> {
        let (all, mut decided) = (whole.sets(), 0.0);
        let mut spent = 0.0;
        // Each step costs as much more as rows are wider than the usual ones.
        let budget = self.budget * (USUAL_WIDTH / self.table.width as f64).min(1.0);
        let mut charges = Vec::new();
        let mut parts = vec![(f64::NEG_INFINITY, whole)];
        while let Some((known, mut part)) = parts.pop() {
            if spent > budget {
                let left = parts.iter().map(|p| p.0).fold(known, f64::min);
                return Ok((Some(left), charges));
            }
            // Parts split the sets among them: the share of sets decided is the share of work, and exact.
            progress.report(decided / all);
            let before = part.sets();
            let first = charges.is_empty();
            let bounded = part.bound(self, top, if first { STEPS } else { STEPS_OF_PART }, &mut spent, progress)?;
            if first {
                charges = part.charges_of_table(self.table);
            }
            let left = if bounded.is_some() { part.sets() } else { 0.0 };
            decided += before - left;
            let Some(least) = bounded else { continue };
            let least = least.max(known);
            if left <= WALKED_OF_PART {
                decided += left;
                spent += left * if self.demanding && !top.bar().is_finite() { JUDGED } else { 1.0 };
                part.walk(self, top, &Unreported(progress))?;
                top.tighten(self.margin, self.rounding);
                continue;
            }
            let (with, without) = part.parted(self.table.width);
            // With first: good sets lower the limit for the rest.
            parts.push((least, without));
            parts.push((least, with));
        }
        Ok((None, charges))
    }
}

/// Sets that hold all of some pigments and some of others.
struct Branch {
    /// Numbers in the table, ascending.
    ids: Vec<usize>,
    /// Which of them every set holds.
    fixed: Vec<bool>,
    /// How many of the others a set holds.
    places: usize,
    /// Charges of the relaxation, one row for each of `ids`.
    charges: Vec<f32>,
}

impl Branch {
    fn whole(size: &AskedSize, charges: Option<Vec<f32>>) -> Self {
        let mut ids: Vec<usize> = size.locked.iter().chain(size.open).copied().collect();
        ids.sort_unstable();
        let m = size.table.width;
        let known = charges.filter(|c| c.len() == size.table.pigments * m);
        let charges = known.map_or(vec![0.0; ids.len() * m], |c| rows(&c, m, &ids));
        let fixed = ids.iter().map(|i| size.locked.contains(i)).collect();
        Self { ids, fixed, places: size.places, charges }
    }

    /// Numbers of the pigments that are, or are not, in every set.
    fn those(&self, fixed: bool) -> Vec<usize> {
        self.ids.iter().zip(&self.fixed).filter(|(_, f)| **f == fixed).map(|(i, _)| *i).collect()
    }

    fn open(&self) -> usize {
        self.fixed.iter().filter(|f| !**f).count()
    }

    fn sets(&self) -> f64 {
        count(self.open(), self.places)
    }

    fn climb(&self, size: &AskedSize, seeds: &[Vec<u16>], top: &mut Top) {
        let (locked, open) = (self.those(true), self.those(false));
        let seeds: Vec<Vec<usize>> =
            seeds.iter().map(|s| s.iter().map(|i| usize::from(*i)).filter(|i| open.contains(i)).collect()).collect();
        Climb { table: size.table, locked: &locked, open: &open, places: self.places, unmet: size.unmet }.all(&seeds, top);
    }

    fn walk(&self, size: &AskedSize, top: &mut Top, progress: &dyn Progress) -> Result<(), Cancelled> {
        let mut ids = self.those(true);
        let locked = ids.len();
        ids.extend(self.those(false));
        let in_play = InPlay::of(size.table, ids, size.table.has_triples() && locked + self.places > 2);
        Walk { in_play: &in_play, locked, places: self.places, unmet: size.unmet }.all(top, progress)
    }

    /// Bounds this part and takes out of play what it can. `None` when no set of it is within the limit.
    fn bound(
        &mut self,
        size: &AskedSize,
        top: &Top,
        steps: usize,
        spent: &mut f64,
        progress: &dyn Progress,
    ) -> Result<Option<f64>, Cancelled> {
        let limit = f64::from(top.bar());
        let mut least = f64::NEG_INFINITY;
        if !limit.is_finite() {
            return Ok(Some(least));
        }
        for round in 0..ROUNDS {
            if progress.is_cancelled() {
                return Err(Cancelled);
            }
            if self.places == 0 || self.places > self.open() {
                return Ok((self.places == 0).then_some(least));
            }
            let steps = if round == 0 { steps } else { steps / 3 };
            *spent += size.table.groups_of(self.ids.len()) / 2.0 * steps as f64;
            let b = self.relaxed(size, limit, steps, progress);
            least = least.max(b.least);
            if least > limit {
                return Ok(None);
            }
            if !self.shrink(size.table.width, &b.in_play, &b.forced) || self.sets() <= WALKED_OF_PART {
                break;
            }
        }
        Ok(Some(least))
    }

    /// The relaxation of this part, raised; its charges are kept.
    fn relaxed(&mut self, size: &AskedSize, limit: f64, steps: usize, progress: &dyn Progress) -> Bound {
        let scope = Scope { table: size.table, ids: &self.ids, fixed: &self.fixed, places: self.places };
        let mut bound = Relaxation::of(scope, std::mem::take(&mut self.charges)).raise(limit, steps, progress);
        self.charges = std::mem::take(&mut bound.charges);
        bound
    }

    /// Keeps positions in play and takes forced ones into every set. Returns whether anything changed.
    fn shrink(&mut self, width: usize, in_play: &[usize], forced: &[usize]) -> bool {
        let newly: Vec<usize> = forced.iter().copied().filter(|i| !self.fixed[*i]).collect();
        newly.iter().for_each(|i| self.fixed[*i] = true);
        self.places -= newly.len().min(self.places);
        let kept: Vec<usize> = (0..self.ids.len()).filter(|i| in_play.contains(i) || self.fixed[*i]).collect();
        let changed = !newly.is_empty() || kept.len() < self.ids.len();
        self.keep(&kept, width);
        changed
    }

    fn keep(&mut self, kept: &[usize], width: usize) {
        self.charges = rows(&self.charges, width, kept);
        self.ids = kept.iter().map(|i| self.ids[*i]).collect();
        self.fixed = kept.iter().map(|i| self.fixed[*i]).collect();
    }

    /// The sets with and the sets without the pigment that earns most.
    fn parted(self, width: usize) -> (Self, Self) {
        let earned = |i: usize| self.charges[i * width..(i + 1) * width].iter().sum::<f32>();
        let open = (0..self.ids.len()).filter(|i| !self.fixed[*i]);
        let pick = open.max_by(|a, b| earned(*a).total_cmp(&earned(*b)).then(b.cmp(a))).unwrap_or(0);
        let mut without = Self { ids: self.ids.clone(), fixed: self.fixed.clone(), places: self.places, charges: self.charges.clone() };
        without.keep(&(0..self.ids.len()).filter(|i| *i != pick).collect::<Vec<_>>(), width);
        let mut with = self;
        with.fixed[pick] = true;
        with.places -= 1;
        (with, without)
    }

    /// Charges with a row for each pigment of the table: what the next size starts from.
    fn charges_of_table(&self, table: &Table) -> Vec<f32> {
        let m = table.width;
        let mut all = vec![0.0; table.pigments * m];
        for (at, id) in self.ids.iter().enumerate() {
            all[id * m..(id + 1) * m].copy_from_slice(&self.charges[at * m..(at + 1) * m]);
        }
        all
    }
}

/// Some rows of many.
fn rows(all: &[f32], width: usize, which: &[usize]) -> Vec<f32> {
    which.iter().flat_map(|i| &all[i * width..(i + 1) * width]).copied().collect()
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::progress::Unwatched;
    use crate::table::Served;
    use lean_colour::Lab;
    use lean_media::{Pigment, library};
    use lean_recipes::cost::{Cost, Target};
    use lean_recipes::{Grain, Limits, Wet};

    fn prove(table: &Table, places: usize, budget: f64) -> Proved {
        let open: Vec<usize> = (0..table.pigments).collect();
        let size =
            AskedSize { table, locked: &[], open: &open, places, unmet: &|_| 0, demanding: false, margin: 0.02, rounding: 1e-3, budget };
        size.prove(&mut Lesson::default(), &Unwatched).unwrap()
    }

    #[test]
    fn a_proof_given_up_leaves_a_bound_that_is_true() {
        let pigments: Vec<&Pigment> = library::modelled().iter().filter(|p| !p.white).take(48).collect();
        let technique = Wet::of(&pigments, library::find("PW6"), Limits::default(), Grain::Parts);
        let targets = (0..16)
            .map(|i| Target { lab: Lab::from_lch(20.0 + 4.0 * f64::from(i), 10.0 + f64::from(i), 67.0 * f64::from(i)), weight: 1.0 });
        let served_piece = Served { technique: &technique, targets: targets.collect(), cost: Cost::default(), weight: 1.0 };
        let table = Table::of(&[served_piece], &Unwatched).unwrap();
        // More sets of seven than are gone through at once.
        assert!(count(48, 7) > WALKED);
        let whole = prove(&table, 7, BUDGET);
        let best = f64::from(whole.top.sets()[0].cost);
        assert!(whole.least.is_none());
        for budget in [0.0, 1e5, 3e6, 1e7] {
            let given_up = prove(&table, 7, budget);
            assert!(f64::from(given_up.top.sets()[0].cost) >= best - 1e-5);
            assert!(given_up.least.is_none_or(|least| least <= best + 1e-5), "{:?} is above {best}", given_up.least);
        }
        assert!(prove(&table, 7, 1e5).least.is_some_and(|least| least > 0.8 * best), "the bound says something");
    }
}
