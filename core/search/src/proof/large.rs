//! Large sets, of which there are too many to go through: the best that is found, and how much better any other can be.
//!
//! Best-first branch and bound: the parts whose bounds are lowest are parted next, so that the bound of the whole rises as fast as it can. What earns
//! most at the charges of each part is a set to climb from. It ends when no part can hold a set better by more than [`NEARLY`], or when the steps
//! run out; then the lowest bound of what is left is told.

use super::{AskedSize, Branch, STEPS_OF_PART};
use crate::progress::{Cancelled, Progress, Unreported};
use crate::proof::climb::Climb;
use crate::proof::top::Top;
use rayon::prelude::*;

/// A set this share above the best possible is good enough, from [`PROVED`] pigments on.
const NEARLY: f64 = 0.002;
/// Sets of up to so many pigments are proved to be the best.
const PROVED: usize = 8;
/// Steps of the relaxation over everything.
const STEPS: usize = 600;
/// Sets of a part that are gone through rather than parted again.
const WALKED: f64 = 100_000.0;
/// Groups the relaxation looks at before a size is given up. Some quarter of a second for 60 pigments on two cores.
const BUDGET: f64 = 2e7;
/// The same for a size that is to be proved.
const BUDGET_OF_PROOF: f64 = 8e7;
/// Parts looked at beside each other; a fixed number, so that the answer is the same on every machine.
const BESIDE: usize = 4;
/// A set that earns most is climbed from when it costs at most this share more than the best.
const WORTH_CLIMBING: f32 = 1.03;

/// A part with the least its sets can cost.
struct Part {
    least: f64,
    branch: Branch,
}

/// The result of bounding a part.
struct Looked {
    /// The least its sets can cost.
    least: f64,
    /// The rest to be parted; `None` when all of it is decided.
    open: Option<Branch>,
    /// Sets met on the way.
    met: Top,
    /// Groups looked at.
    spent: f64,
}

impl AskedSize<'_> {
    /// True where sets are so large, or recipes of so few pigments, that the best are found by their bounds alone.
    pub(super) fn is_large(&self) -> bool {
        !self.table.has_triples() || self.places > PROVED
    }

    /// Finds a best set, or one nearly as good; `top` holds a set to begin with. Returns the bound where it is not proved.
    pub(super) fn nearly(&self, whole: Branch, top: &mut Top, progress: &dyn Progress) -> Result<Option<f64>, Cancelled> {
        let (gap, budget) = if self.places <= PROVED { (0.0, BUDGET_OF_PROOF) } else { (NEARLY, BUDGET) };
        let rounding = f64::from(self.rounding) * 0.1;
        let best = |top: &Top| f64::from(top.sets()[0].cost);
        let limit = |top: &Top| best(top) * (1.0 - gap) - rounding;
        // No set of what was dismissed costs less.
        let mut dismissed = f64::INFINITY;
        let mut spent = 0.0;
        let mut parts = vec![Part { least: f64::NEG_INFINITY, branch: whole }];
        while spent <= budget && !parts.is_empty() {
            progress.report(spent / budget);
            let bar = limit(top);
            let steps = if spent > 0.0 { STEPS_OF_PART } else { STEPS };
            parts.sort_by(|a, b| b.least.total_cmp(&a.least));
            let next = parts.split_off(parts.len().saturating_sub(BESIDE));
            let cost = top.sets()[0].cost;
            let looked: Vec<Looked> =
                next.into_par_iter().map(|p| self.looked_at(p, bar, steps, cost, progress)).collect::<Result<_, _>>()?;
            for Looked { least, open, met, spent: more } in looked {
                spent += more;
                top.merge(met);
                match open {
                    Some(branch) => {
                        let (with, without) = branch.parted(self.table.width);
                        parts.extend([with, without].map(|branch| Part { least, branch }));
                    }
                    None => dismissed = dismissed.min(least),
                }
            }
        }
        let least = parts.iter().map(|p| p.least).fold(dismissed, f64::min);
        let proved = least >= best(top) - 2.0 * rounding;
        Ok((!proved).then_some(least))
    }

    /// Bounds a part, takes out of it what no better set holds, climbs from what earns most, and goes through what is small. `bar` is what a set has to
    /// cost less than to be looked for, `cost` that of the best so far.
    fn looked_at(&self, part: Part, bar: f64, steps: usize, cost: f32, progress: &dyn Progress) -> Result<Looked, Cancelled> {
        if progress.is_cancelled() {
            return Err(Cancelled);
        }
        let Part { least, mut branch } = part;
        let mut met = Top::below(cost);
        if least >= bar {
            return Ok(Looked { least, open: None, met, spent: 0.0 });
        }
        if branch.places > branch.open() {
            return Ok(Looked { least: f64::INFINITY, open: None, met, spent: 0.0 });
        }
        let mut spent = 0.0;
        let mut least = least;
        if branch.places > 0 {
            spent += self.table.groups_of(branch.ids.len()) * steps as f64;
            let bound = branch.relaxed(self, bar, steps, progress);
            least = least.max(bound.least);
            let earning = bound.ranked.iter().take(branch.places).map(|i| branch.ids[*i]);
            let set: Vec<usize> = earning.chain(branch.those(true)).filter(|i| !self.locked.contains(i)).collect();
            let climb = Climb { table: self.table, locked: self.locked, open: self.open, places: self.places, unmet: self.unmet };
            if climb.cost(&set) <= cost * WORTH_CLIMBING {
                climb.one(set, &mut met);
            }
            if least >= bar {
                return Ok(Looked { least, open: None, met, spent });
            }
            branch.shrink(self.table.width, &bound.in_play, &bound.forced);
        }
        let sets = branch.sets();
        if branch.places == 0 || sets <= WALKED {
            branch.walk(self, &mut met, &Unreported(progress))?;
            // Whatever is not met costs no less than the best.
            return Ok(Looked { least: f64::INFINITY, open: None, met, spent: spent + sets });
        }
        Ok(Looked { least, open: Some(branch), met, spent })
    }
}
