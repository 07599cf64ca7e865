//! The search as a painter asks for it: the best set of each size, its runner-up, and what each pigment is worth.

use super::cost::{Cost, Target};
use super::exact::{Mix, Recipes};
use super::subsets::{KEPT, Ranked, best_sets};
use super::table::{MOST_TARGETS, Table};
use crate::progress::{Cancelled, Progress, Stage, Unreported};
use lean_media::{Pigment, PigmentId};
use serde::{Deserialize, Serialize};
use std::ops::RangeInclusive;
use thiserror::Error;

/// What the painter has decided about the set beforehand.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Choice {
    /// Must be in every set.
    pub locked: Vec<PigmentId>,
    /// Must be in none.
    pub excluded: Vec<PigmentId>,
}

/// The best set of one size.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct SetFound {
    /// The pigments, white not counted.
    pub pigments: Vec<PigmentId>,
    /// Weighted mean cost over the zones.
    pub cost: f64,
    /// Whether every other set of this size is known to cost at least as much.
    pub proved_optimal: bool,
    /// The second-best set, when there is one.
    pub runner_up: Vec<PigmentId>,
    /// Its cost.
    pub runner_up_cost: Option<f64>,
    /// By how much the cost rises when one pigment is dropped, in the order of `pigments`.
    pub price_of_dropping: Vec<f64>,
    /// The recipe for each target, in the order given.
    pub recipes: Vec<Mix>,
}

/// Why there is no answer.
#[derive(Debug, Error, PartialEq)]
pub enum NoAnswer {
    /// Fewer pigments than the smallest size.
    #[error("Only {0} can be chosen from, which is too few to choose a set. Add pigments to the Box or take back an exclusion.")]
    TooFew(String),
    /// A pigment is both locked and excluded.
    #[error("\"{0}\" is both locked and excluded. Take one of the two back.")]
    Contradiction(PigmentId),
    /// A locked pigment is not in the Box.
    #[error("\"{0}\" is locked but not in this Box. Unlock it or choose the Box that holds it.")]
    NotInBox(PigmentId),
    /// More pigments are locked than the largest set holds.
    #[error("{0} pigments are locked, but the largest set asked for has {1}. Unlock some.")]
    TooManyLocked(usize, usize),
    /// No zone counts.
    #[error("There is nothing to match: no zone has any weight. Find zones first, or raise the importance of one.")]
    NoTargets,
    /// More zones than the search takes.
    #[error("{0} zones are more than the {MOST_TARGETS} one search takes. Merge some.")]
    TooManyTargets(usize),
    /// The painter cancelled; nothing was changed.
    #[error("The search was cancelled. Nothing was changed.")]
    Cancelled,
}

impl From<Cancelled> for NoAnswer {
    fn from(_: Cancelled) -> Self {
        Self::Cancelled
    }
}

/// Share of the work that evaluating recipes is, for a true-enough progress figure at 60 pigments.
const TABLE_SHARE: f64 = 0.55;

/// Finds the exact best set for every size in `sizes`, smallest first; `found` is told each as soon as it is known.
///
/// `pigments` may hold whites: the strongest is free in every mix and never counted; other whites are left out.
///
/// # Errors
/// See [`NoAnswer`]; nothing is guessed.
pub fn search(
    pigments: &[Pigment],
    targets: &[Target],
    choice: &Choice,
    sizes: RangeInclusive<usize>,
    cost: Cost,
    progress: &dyn Progress,
    found: &dyn Fn(&SetFound),
) -> Result<Vec<SetFound>, NoAnswer> {
    let targets: Vec<Target> = targets.to_vec();
    if targets.iter().map(|t| t.weight).sum::<f64>() <= 0.0 {
        return Err(NoAnswer::NoTargets);
    }
    if targets.len() > MOST_TARGETS {
        return Err(NoAnswer::TooManyTargets(targets.len()));
    }
    let field = Field::of(pigments, choice, &sizes)?;
    let evaluating = Stage { whole: progress, from: 0.0, span: TABLE_SHARE };
    let begun = Table::begin(&field.coloured, field.white, &targets, cost, &evaluating);
    let mut answers = Vec::new();
    let reachable = sizes.clone().filter(|k| *k >= field.locked.len().max(1) && *k <= field.locked.len() + field.free.len());
    let reachable: Vec<usize> = reachable.collect();
    // Each size is about ten times the work of the one before: shares of the bar follow.
    let work = |k: usize| 10f64.powi(k as i32);
    let mut answer = |table: &Table, k: usize, progress: &dyn Progress| -> Result<(), NoAnswer> {
        let answer = field.judge(&best_sets(table, &field.locked, &field.free, k, progress)?, &targets, cost);
        found(&answer);
        answers.push(answer);
        Ok(())
    };
    // Sets of one and two need no recipes of three: the painter sees them at once.
    let (small, large): (Vec<usize>, Vec<usize>) = reachable.into_iter().partition(|k| *k <= 2);
    for k in small {
        answer(&begun.table, k, &Unreported(progress))?;
    }
    if large.is_empty() {
        return Ok(answers);
    }
    let table = begun.completed()?;
    let total: f64 = large.iter().map(|k| work(*k)).sum();
    let mut done = 0.0;
    for k in large {
        let stage =
            Stage { whole: progress, from: TABLE_SHARE + (1.0 - TABLE_SHARE) * done / total, span: (1.0 - TABLE_SHARE) * work(k) / total };
        answer(&table, k, &stage)?;
        done += work(k);
    }
    Ok(answers)
}

/// The strongest white of a Box: the one free in every mix.
pub fn white_of(pigments: &[Pigment]) -> Option<&Pigment> {
    pigments.iter().filter(|p| p.white).max_by(|a, b| a.s[17].total_cmp(&b.s[17]))
}

struct Field<'a> {
    coloured: Vec<&'a Pigment>,
    white: Option<&'a Pigment>,
    locked: Vec<usize>,
    free: Vec<usize>,
}

impl<'a> Field<'a> {
    fn of(pigments: &'a [Pigment], choice: &Choice, sizes: &RangeInclusive<usize>) -> Result<Self, NoAnswer> {
        if let Some(both) = choice.locked.iter().find(|p| choice.excluded.contains(p)) {
            return Err(NoAnswer::Contradiction(both.clone()));
        }
        if let Some(missing) = choice.locked.iter().find(|l| !pigments.iter().any(|p| p.id == **l)) {
            return Err(NoAnswer::NotInBox(missing.clone()));
        }
        let coloured: Vec<&Pigment> = pigments.iter().filter(|p| !p.white && !choice.excluded.contains(&p.id)).collect();
        let index = |of: &dyn Fn(&Pigment) -> bool| (0..coloured.len()).filter(|i| of(coloured[*i])).collect::<Vec<_>>();
        let locked = index(&|p| choice.locked.contains(&p.id));
        let free = index(&|p| !choice.locked.contains(&p.id));
        if locked.len() > *sizes.end() {
            return Err(NoAnswer::TooManyLocked(locked.len(), *sizes.end()));
        }
        if coloured.len() < *sizes.start() {
            let n = coloured.len();
            return Err(NoAnswer::TooFew(if n == 1 { "one pigment".into() } else { format!("{n} pigments") }));
        }
        Ok(Self { coloured, white: white_of(pigments), locked, free })
    }

    fn recipes(&self, set: &[u16]) -> Recipes<'a> {
        let of: Vec<&Pigment> = set.iter().map(|i| self.coloured[*i as usize]).collect();
        Recipes::of(&of, self.white)
    }

    fn names(&self, set: &[u16]) -> Vec<PigmentId> {
        set.iter().map(|i| self.coloured[*i as usize].id.clone()).collect()
    }

    /// Re-judges in double precision every set that could be best, and explains the winner.
    fn judge(&self, ranked: &[Ranked], targets: &[Target], cost: Cost) -> SetFound {
        // Single-precision costs are off by well under this much; see the kernel's tests. Where a value must hold, its steep
        // charge multiplies the rounding of the value.
        let rounding: f32 = if cost.hold.is_some() { 8e-2 } else { 8e-3 };
        let limit = ranked.get(1).map_or(f32::INFINITY, |second| second.cost + rounding);
        let close: Vec<&Ranked> = ranked.iter().take_while(|r| r.cost <= limit).collect();
        let mut judged: Vec<(f64, &Ranked)> = close.iter().map(|r| (self.recipes(&r.set).cost_of(targets, cost), *r)).collect();
        judged.sort_by(|a, b| a.0.total_cmp(&b.0).then_with(|| a.1.set.cmp(&b.1.set)));
        let (best, winner) = (judged[0].0, &judged[0].1.set);
        let proved_optimal = close.len() < KEPT;
        let recipes = self.recipes(winner);
        let without = |drop: u16| {
            let rest: Vec<u16> = winner.iter().copied().filter(|p| *p != drop).collect();
            self.recipes(&rest).cost_of(targets, cost) - best
        };
        SetFound {
            pigments: self.names(winner),
            cost: best,
            proved_optimal,
            runner_up: judged.get(1).map(|r| self.names(&r.1.set)).unwrap_or_default(),
            runner_up_cost: judged.get(1).map(|r| r.0),
            price_of_dropping: winner.iter().map(|p| if winner.len() == 1 && self.white.is_none() { best } else { without(*p) }).collect(),
            recipes: targets.iter().filter_map(|t| recipes.best(t.lab, cost).map(|b| b.1)).collect(),
        }
    }
}

/// The size to start with: the smallest after which one more pigment buys less than a twelfth of what the smallest set costs.
/// A choice, only a starting point for the painter.
pub fn knee(sizes: &[SetFound]) -> Option<&SetFound> {
    let first = sizes.first()?.cost;
    let gain = |i: usize| sizes.get(i + 1).map_or(0.0, |next| sizes[i].cost - next.cost);
    (0..sizes.len()).find(|i| gain(*i) < first / 12.0).map(|i| &sizes[i])
}
