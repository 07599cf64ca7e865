//! The best sets of one size, proved.
//!
//! A climb finds good sets; the relaxation of [`super::bound`] shows which pigments can be in no set as good; what is left is gone through one by
//! one. Where too much is left, the question is parted in two, sets with and sets without one pigment, and each part is bounded again
//! (branch and bound). A budget of counted steps, not of time, ends hopeless cases with an honest bound, the same on every machine.

use super::bound::Relaxation;
use super::climb::Climb;
use super::dense::Dense;
use super::subsets::{Admits, Walk, count};
use super::table::Table;
use super::top::Top;
use crate::progress::{Cancelled, Progress, Unreported};

/// What is asked of one size.
pub struct Size<'a> {
    pub table: &'a Table,
    /// Numbers in the table every set holds, ascending.
    pub locked: &'a [usize],
    /// Numbers to choose from, ascending.
    pub open: &'a [usize],
    /// How many of `open` a set holds.
    pub places: usize,
    /// What else a set must fulfil.
    pub admits: &'a Admits<'a>,
    /// Sets within this share of the best are wanted too.
    pub margin: f32,
    /// How far single precision may be off.
    pub rounding: f32,
}

/// What was found for one size.
pub struct Proved {
    /// Best first. All sets within the margin, unless `top` is full.
    pub top: Top,
    /// When the budget ran out: no set costs less than this.
    pub least: Option<f64>,
}

/// What one size may learn from the one before.
#[derive(Default)]
pub struct Lesson {
    /// Good sets, by number in the table.
    seeds: Vec<Vec<u16>>,
    /// Charges of the relaxation, one row for each pigment of the table.
    charges: Option<Vec<f32>>,
}

/// Sets few enough to go through without any bound.
const FEW: f64 = 50_000.0;
/// Sets that are gone through rather than parted again: about as long as bounding two parts takes.
const WALKED: f64 = 2_000_000.0;
/// Steps of the relaxation over everything, and over a part.
const STEPS: usize = 240;
const STEPS_OF_PART: usize = 50;
/// Steps in all, counted in sets gone through: one look of the relaxation at all triples counts as many sets as it has triples.
const BUDGET: f64 = 6e8;
/// How often what is in play is laid out anew as it shrinks.
const ROUNDS: usize = 6;

impl Size<'_> {
    /// Finds and proves the best sets, or ends with a bound.
    ///
    /// # Errors
    /// [`Cancelled`] when the watcher asks for it.
    pub fn prove(&self, lesson: &mut Lesson, progress: &dyn Progress) -> Result<Proved, Cancelled> {
        let mut top = Top::below(f32::INFINITY);
        let everything = Part::whole(self, lesson.charges.take());
        if self.places <= 2 - 2usize.min(self.locked.len()) || count(self.open.len(), self.places) <= FEW {
            everything.walk(self, &mut top, progress)?;
            top.tighten(self.margin, self.rounding);
            lesson.seeds = top.sets().iter().take(4).map(|r| r.set.clone()).collect();
            lesson.charges = Some(everything.charges_of_table(self.table));
            return Ok(Proved { top, least: None });
        }
        everything.climb(self, &lesson.seeds, &mut top);
        if progress.is_cancelled() {
            return Err(Cancelled);
        }
        top.tighten(self.margin, self.rounding);
        let (least, charges) = self.branch(everything, &mut top, progress)?;
        lesson.seeds = top.sets().iter().take(4).map(|r| r.set.clone()).collect();
        lesson.charges = Some(charges);
        Ok(Proved { top, least })
    }

    /// Goes through everything in parts. Returns the bound of what was left when the budget ran out, and the charges of the whole.
    fn branch(&self, whole: Part, top: &mut Top, progress: &dyn Progress) -> Result<(Option<f64>, Vec<f32>), Cancelled> {
        let mut spent = 0.0;
        let mut charges = Vec::new();
        let mut parts = vec![(f64::NEG_INFINITY, whole)];
        while let Some((known, mut part)) = parts.pop() {
            if spent > BUDGET {
                let left = parts.iter().map(|p| p.0).fold(known, f64::min);
                return Ok((Some(left), charges));
            }
            let first = charges.is_empty();
            let bounded = part.bound(self, top, if first { STEPS } else { STEPS_OF_PART }, &mut spent, progress)?;
            if first {
                charges = part.charges_of_table(self.table);
                progress.report(0.5);
            }
            let Some(least) = bounded else { continue };
            let least = least.max(known);
            if part.sets() <= WALKED {
                spent += part.sets();
                part.walk(self, top, &Unreported(progress))?;
                top.tighten(self.margin, self.rounding);
                continue;
            }
            let (with, without) = part.parted();
            // With first: good sets lower the limit for the rest.
            parts.push((least, without));
            parts.push((least, with));
        }
        Ok((None, charges))
    }
}

/// Sets that hold all of some pigments and some of others.
struct Part {
    dense: Dense,
    /// Positions in `dense`.
    locked: Vec<usize>,
    open: Vec<usize>,
    places: usize,
    charges: Option<Vec<f32>>,
    /// The open position that earns most.
    richest: Option<usize>,
}

impl Part {
    fn whole(size: &Size, charges: Option<Vec<f32>>) -> Self {
        let mut ids: Vec<usize> = size.locked.iter().chain(size.open).copied().collect();
        ids.sort_unstable();
        let m = size.table.width;
        let charges = charges.filter(|c| c.len() == size.table.pigments * m);
        let charges = charges.map(|c| ids.iter().flat_map(|i| c[i * m..(i + 1) * m].to_vec()).collect());
        Self::over(Dense::of(size.table, ids), size.locked, size.places, charges)
    }

    /// A part over a layout; `locked` by number in the table.
    fn over(dense: Dense, locked: &[usize], places: usize, charges: Option<Vec<f32>>) -> Self {
        let is_locked = |i: &usize| locked.contains(&dense.ids[*i]);
        let (locked, open) = (0..dense.len()).partition(is_locked);
        Self { dense, locked, open, places, charges, richest: None }
    }

    fn sets(&self) -> f64 {
        count(self.open.len(), self.places)
    }

    fn climb(&self, size: &Size, seeds: &[Vec<u16>], top: &mut Top) {
        let position = |id: &u16| self.dense.ids.iter().position(|i| *i == usize::from(*id)).filter(|p| !self.locked.contains(p));
        let seeds: Vec<Vec<usize>> = seeds.iter().map(|s| s.iter().filter_map(position).collect()).collect();
        let climb = Climb { dense: &self.dense, locked: &self.locked, open: &self.open, places: self.places, admits: size.admits };
        climb.all(&seeds, top);
    }

    fn walk(&self, size: &Size, top: &mut Top, progress: &dyn Progress) -> Result<(), Cancelled> {
        let walk = Walk { dense: &self.dense, locked: &self.locked, open: &self.open, places: self.places, admits: size.admits };
        walk.all(top, progress)
    }

    /// Bounds this part and takes out of play what it can. `None` when no set of it is within the limit.
    fn bound(&mut self, size: &Size, top: &Top, steps: usize, spent: &mut f64, progress: &dyn Progress) -> Result<Option<f64>, Cancelled> {
        let limit = f64::from(top.bar());
        let mut least = f64::NEG_INFINITY;
        if !limit.is_finite() {
            return Ok(Some(least));
        }
        for round in 0..ROUNDS {
            if progress.is_cancelled() {
                return Err(Cancelled);
            }
            if self.places == 0 || self.places > self.open.len() {
                return Ok((self.places == 0).then_some(least));
            }
            let steps = if round == 0 { steps } else { steps / 3 };
            let looked = count(self.dense.len(), 3) / 2.0;
            *spent += looked * steps as f64;
            let b = Relaxation::of(&self.dense, &self.locked, self.places, self.charges.take()).raise(limit, steps);
            least = least.max(b.least);
            self.charges = Some(b.charges);
            if least > limit {
                return Ok(None);
            }
            let before = self.dense.len();
            let forced_now = b.forced.iter().filter(|i| !self.locked.contains(i)).count();
            self.shrink(size, &b.in_play, &b.forced);
            self.find_richest();
            let shrunk = self.dense.len() < before || forced_now > 0;
            if !shrunk || self.sets() <= WALKED {
                break;
            }
        }
        Ok(Some(least))
    }

    /// Lays out anew what is in play and takes forced pigments into every set.
    fn shrink(&mut self, size: &Size, in_play: &[usize], forced: &[usize]) {
        let newly: Vec<usize> = forced.iter().copied().filter(|i| !self.locked.contains(i)).collect();
        let locked: Vec<usize> = self.locked.iter().chain(&newly).map(|i| self.dense.ids[*i]).collect();
        self.places -= newly.len().min(self.places);
        let kept: Vec<usize> = (0..self.dense.len()).filter(|i| in_play.contains(i) || self.locked.contains(i)).collect();
        let m = self.dense.width;
        let charges = self.charges.take().map(|c| kept.iter().flat_map(|i| c[i * m..(i + 1) * m].to_vec()).collect());
        if kept.len() < self.dense.len() {
            let ids = kept.iter().map(|i| self.dense.ids[*i]).collect();
            self.dense = Dense::of(size.table, ids);
        }
        let is_locked = |i: &usize| locked.contains(&self.dense.ids[*i]);
        (self.locked, self.open) = (0..self.dense.len()).partition(is_locked);
        self.charges = charges;
    }

    fn find_richest(&mut self) {
        let m = self.dense.width;
        let earned = |i: &usize| self.charges.as_ref().map_or(0.0, |c| c[i * m..(i + 1) * m].iter().sum::<f32>());
        self.richest = self.open.iter().copied().max_by(|a, b| earned(a).total_cmp(&earned(b)).then(b.cmp(a)));
    }

    /// The sets with and the sets without the pigment that earns most.
    fn parted(self) -> (Self, Self) {
        let pick = self.richest.unwrap_or(self.open[0]);
        let open: Vec<usize> = self.open.iter().copied().filter(|i| *i != pick).collect();
        let kept: Vec<usize> = (0..self.dense.len()).filter(|i| *i != pick).collect();
        let m = self.dense.width;
        let fewer = self.charges.as_ref().map(|c| kept.iter().flat_map(|i| c[i * m..(i + 1) * m].to_vec()).collect());
        let locked_ids: Vec<usize> = self.locked.iter().map(|i| self.dense.ids[*i]).collect();
        let without = Self::over(self.dense.without(pick), &locked_ids, self.places, fewer);
        let mut locked = self.locked;
        locked.push(pick);
        let with = Self { dense: self.dense, locked, open, places: self.places - 1, charges: self.charges, richest: None };
        (with, without)
    }

    /// Charges with a row for each pigment of the table: what the next size starts from.
    fn charges_of_table(&self, table: &Table) -> Vec<f32> {
        let m = table.width;
        let mut all = vec![0.0; table.pigments * m];
        if let Some(c) = &self.charges {
            for (at, id) in self.dense.ids.iter().enumerate() {
                all[id * m..(id + 1) * m].copy_from_slice(&c[at * m..(at + 1) * m]);
            }
        }
        all
    }
}
