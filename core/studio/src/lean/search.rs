//! The search as a painter asks for it: the best set of each size, its runner-up, and what each pigment is worth.

use super::cost::{Cost, Target};
use super::craft::Mix;
use super::demands::{Alone, Demands, Judgement, forbidden};
use super::judge::Judge;
use super::prove::{Lesson, Proved, Size};
use super::ready::{Key, Ready, Tables};
use super::table::{Errand, MOST_TARGETS, Table};
use super::top::Ranked;
use crate::crafts::Limits;
use crate::progress::{Cancelled, Progress, Stage, Unreported};
use lean_media::{Ground, Medium, Pigment, PigmentId};
use serde::{Deserialize, Serialize};
use std::ops::RangeInclusive;
use std::sync::Arc;
use thiserror::Error;

/// Largest set searched for.
pub const MOST_IN_SET: usize = 8;
/// Sets that cost at most this share more than the best count as its equals. A choice.
pub const NEAR: f64 = 0.02;
/// Most near-ties listed.
pub const NEAR_LISTED: usize = 12;

/// What the painter has decided about the set beforehand.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Choice {
    /// Must be in every set.
    pub locked: Vec<PigmentId>,
    /// Must be in none.
    pub excluded: Vec<PigmentId>,
    /// What else is asked.
    pub demands: Demands,
}

/// One piece a set has to serve.
#[derive(Clone, Debug, PartialEq)]
pub struct Need {
    /// The ground it is made on.
    pub ground: Ground,
    /// What it needs.
    pub targets: Vec<Target>,
    /// What a miss costs.
    pub cost: Cost,
    /// How much it counts against the others, ≥ 0.
    pub weight: f64,
}

/// What is asked of the search.
pub struct Ask<'a> {
    /// Everything owned.
    pub pigments: &'a [Pigment],
    /// Its medium.
    pub medium: Medium,
    /// The piece, or the pieces, to serve.
    pub needs: &'a [Need],
    /// What is decided beforehand.
    pub choice: &'a Choice,
    /// How many pigments, white not counted.
    pub sizes: RangeInclusive<usize>,
}

/// A set nearly as good.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct NearTie {
    /// The pigments, white not counted.
    pub pigments: Vec<PigmentId>,
    /// Its cost.
    pub cost: f64,
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
    /// Where it is not: the best possible set costs at most this share less.
    #[serde(default)]
    pub within: Option<f64>,
    /// The second-best set, when there is one.
    pub runner_up: Vec<PigmentId>,
    /// Its cost.
    pub runner_up_cost: Option<f64>,
    /// Sets within a fiftieth of the best, best first, the best itself left out; at most a dozen are listed.
    #[serde(default)]
    pub near_ties: Vec<NearTie>,
    /// How many there are in all.
    #[serde(default)]
    pub near_tie_count: usize,
    /// Whether there are more than were counted.
    #[serde(default)]
    pub more_near_ties: bool,
    /// By how much the cost rises when one pigment is dropped, in the order of `pigments`.
    pub price_of_dropping: Vec<f64>,
    /// Zones (by place in the search) whose recipe each pigment is in, in the order of `pigments`.
    #[serde(default)]
    pub serves: Vec<Vec<usize>>,
    /// The recipe for each target of the first piece, in the order given.
    pub recipes: Vec<Mix>,
    /// What each target of the first piece misses by.
    #[serde(default)]
    pub misses: Vec<f64>,
    /// Mean miss of each piece it has to serve.
    #[serde(default)]
    pub pieces: Vec<f64>,
}

/// Why there is no answer.
#[derive(Debug, Error, PartialEq)]
pub enum NoAnswer {
    /// Fewer pigments than the smallest size.
    #[error("Only {0} can be chosen from, which is too few to choose a set. Add pigments to the Box or take back an exclusion.")]
    TooFew(String),
    /// Nothing at all is left.
    #[error("No pigment is left to choose from: {0}. Take one of these back.")]
    NothingLeft(String),
    /// A pigment is both locked and excluded.
    #[error("\"{0}\" is both locked and excluded. Take one of the two back.")]
    Contradiction(PigmentId),
    /// A pigment is locked but forbidden.
    #[error("\"{0}\" is locked, but \"{1}\" leaves it out. Take one of the two back.")]
    LockedForbidden(PigmentId, &'static str),
    /// A named pigment is not in the Box.
    #[error("\"{0}\" is not in this Box. Leave it out of the search or choose the Box that holds it.")]
    NotInBox(PigmentId),
    /// A pigment is named twice.
    #[error("Two pigments are both called \"{0}\". Give each an id of its own.")]
    Duplicate(PigmentId),
    /// A white is locked or excluded.
    #[error("\"{0}\" is white: it is free in every mix and never counted. Leave it out of locks and exclusions.")]
    White(PigmentId),
    /// More pigments are locked than the largest set holds.
    #[error("{0} pigments are locked, but the largest set asked for has {1}. Unlock some.")]
    TooManyLocked(usize, usize),
    /// A size that cannot be.
    #[error("Sizes {0} to {1} cannot be searched: a set has 1 to {MOST_IN_SET} pigments, the smaller size first.")]
    Sizes(usize, usize),
    /// A demand is out of range or contradicts another.
    #[error("{0}")]
    Demand(String),
    /// The demands cannot be met together by sets of the sizes asked for.
    #[error("No set of {0} to {1} pigments does all that is asked ({2}). Allow more pigments or ask for less.")]
    Demanding(usize, usize, String),
    /// No zone counts.
    #[error("There is nothing to match: no zone has any weight. Find zones first, or raise the importance of one.")]
    NoTargets,
    /// A weight is no weight.
    #[error("Target {0} has a weight of {1}: weights are zero or more.")]
    Weight(usize, f64),
    /// More zones than the search takes.
    #[error("{0} zones are more than the {MOST_TARGETS} one search takes. Merge some, or serve fewer pieces at once.")]
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

/// Share of a cold search that evaluating recipes is at 60 pigments and 24 zones, measured.
const TABLE_SHARE: f64 = 0.7;

/// Finds the exact best set for every size asked for, smallest first; `found` is told each as soon as it is known.
///
/// White is never counted: where it is mixed or laid, the strongest of the Box is always at hand and other whites are left out; where bare paper
/// plays its part, all are left out. `tables` remembers what was evaluated, so that another size, lock, exclusion or demand on sets starts from there.
///
/// # Errors
/// See [`NoAnswer`]; nothing is guessed.
pub fn search(ask: &Ask, tables: &Tables, progress: &dyn Progress, found: &dyn Fn(&SetFound)) -> Result<Vec<SetFound>, NoAnswer> {
    check(ask)?;
    let key = Key::of(ask)?;
    let mut run = Run { ask, answers: Vec::new(), lesson: Lesson::default(), found };
    if let Some(ready) = tables.find(&key) {
        let field = Field::of(ask, &ready)?;
        run.sizes(&field, &ready, &ready.table, &field.sizes(ask), progress)?;
        return run.ended(&Field::of(ask, &ready)?, progress);
    }
    let mut ready = Ready::without_table(key);
    let evaluating = Stage { whole: progress, from: 0.0, span: TABLE_SHARE };
    let field = Field::of(ask, &ready)?;
    let errands = ready.errands();
    let begun = Table::begin(&errands, &evaluating);
    // Sets of one and two need no recipes of three: the painter sees them at once.
    let (small, large): (Vec<usize>, Vec<usize>) = field.sizes(ask).into_iter().partition(|k| *k + field.carried.len() - field.locked.len() <= 2);
    let begun = run.small_sizes(&field, &ready, begun, &small, progress)?;
    let table = begun.completed()?;
    drop(errands);
    ready.table = table;
    let ready = Arc::new(ready);
    tables.keep(ready.clone());
    let rest = Stage { whole: progress, from: TABLE_SHARE, span: 1.0 - TABLE_SHARE };
    run.sizes(&field, &ready, &ready.table, &large, &rest)?;
    run.ended(&field, progress)
}

pub(super) fn check(ask: &Ask) -> Result<(), NoAnswer> {
    let (least, most) = (*ask.sizes.start(), *ask.sizes.end());
    if least < 1 || most > MOST_IN_SET || least > most {
        return Err(NoAnswer::Sizes(least, most));
    }
    for (i, p) in ask.pigments.iter().enumerate() {
        if ask.pigments[..i].iter().any(|q| q.id == p.id) {
            return Err(NoAnswer::Duplicate(p.id.clone()));
        }
    }
    let targets: Vec<&Target> = ask.needs.iter().flat_map(|n| &n.targets).collect();
    if let Some((i, t)) = targets.iter().enumerate().find(|(_, t)| !t.weight.is_finite() || t.weight < 0.0) {
        return Err(NoAnswer::Weight(i + 1, t.weight));
    }
    let counts = |n: &Need| n.weight > 0.0 && n.targets.iter().any(|t| t.weight > 0.0);
    if !ask.needs.iter().any(counts) {
        return Err(NoAnswer::NoTargets);
    }
    if targets.len() > MOST_TARGETS {
        return Err(NoAnswer::TooManyTargets(targets.len()));
    }
    ask.choice.demands.check().map_err(NoAnswer::Demand)
}

/// The whites of a Box that are at hand in this medium: the strongest, or none where bare paper plays its part.
pub fn white_of(pigments: &[Pigment], medium: Medium) -> Option<&Pigment> {
    let whites = pigments.iter().filter(|p| p.white && medium.has_white());
    whites.max_by(|a, b| a.s[17].total_cmp(&b.s[17]))
}

/// Who may, must and must not be in a set, by number.
struct Field {
    /// In every set: locked pigments, and white where it is a stick of its own.
    carried: Vec<usize>,
    locked: Vec<usize>,
    open: Vec<usize>,
    alone: Vec<Option<Alone>>,
}

impl Field {
    fn of(ask: &Ask, ready: &Ready) -> Result<Self, NoAnswer> {
        let choice = ask.choice;
        if let Some(both) = choice.locked.iter().find(|p| choice.excluded.contains(p)) {
            return Err(NoAnswer::Contradiction(both.clone()));
        }
        for named in choice.locked.iter().chain(&choice.excluded) {
            match ask.pigments.iter().find(|p| p.id == *named) {
                None => return Err(NoAnswer::NotInBox(named.clone())),
                Some(p) if p.white => return Err(NoAnswer::White(named.clone())),
                Some(_) => {}
            }
        }
        let craft = ready.crafts[0].as_ref();
        let free_craft = ready.without_limits();
        let alone: Vec<Option<Alone>> = (0..craft.pigments()).map(|i| Alone::of(free_craft.as_deref().unwrap_or(craft), i)).collect();
        let mut field = Self { carried: Vec::new(), locked: Vec::new(), open: Vec::new(), alone };
        let mut left_out: Vec<&'static str> = Vec::new();
        for (i, p) in ready.key.pigments.iter().enumerate() {
            let forbidden = forbidden(&choice.demands, p, field.alone[i].as_ref());
            let mother = choice.demands.mother.as_ref().is_some_and(|m| m.pigment == p.id);
            if p.white {
                field.carried.push(i);
            } else if choice.locked.contains(&p.id) || mother {
                if choice.excluded.contains(&p.id) {
                    return Err(NoAnswer::Contradiction(p.id.clone()));
                }
                if let Some(f) = forbidden {
                    return Err(NoAnswer::LockedForbidden(p.id.clone(), f.words()));
                }
                field.carried.push(i);
                field.locked.push(i);
            } else if choice.excluded.contains(&p.id) {
                left_out.push("exclusions");
            } else if let Some(f) = forbidden {
                left_out.push(f.words());
            } else {
                field.open.push(i);
            }
        }
        field.enough(ask, left_out)?;
        Ok(field)
    }

    fn enough(&self, ask: &Ask, mut left_out: Vec<&'static str>) -> Result<(), NoAnswer> {
        let (least, most) = (*ask.sizes.start(), *ask.sizes.end());
        if self.locked.len() > most {
            return Err(NoAnswer::TooManyLocked(self.locked.len(), most));
        }
        let n = self.locked.len() + self.open.len();
        if n == 0 && !left_out.is_empty() {
            left_out.sort_unstable();
            left_out.dedup();
            return Err(NoAnswer::NothingLeft(left_out.join(", ")));
        }
        if n < least {
            return Err(NoAnswer::TooFew(if n == 1 { "one pigment".into() } else { format!("{n} pigments") }));
        }
        Ok(())
    }

    /// Sizes that can be had.
    fn sizes(&self, ask: &Ask) -> Vec<usize> {
        ask.sizes.clone().filter(|k| *k >= self.locked.len().max(1) && *k <= self.locked.len() + self.open.len()).collect()
    }
}

/// A search under way.
struct Run<'a> {
    ask: &'a Ask<'a>,
    answers: Vec<SetFound>,
    lesson: Lesson,
    found: &'a dyn Fn(&SetFound),
}

impl<'a> Run<'a> {
    fn small_sizes<'t>(
        &mut self,
        field: &Field,
        ready: &Ready,
        begun: super::table::Begun<'t>,
        sizes: &[usize],
        progress: &dyn Progress,
    ) -> Result<super::table::Begun<'t>, NoAnswer> {
        self.sizes(field, ready, &begun.table, sizes, &Unreported(progress))?;
        Ok(begun)
    }

    fn sizes(&mut self, field: &Field, ready: &Ready, table: &Table, sizes: &[usize], progress: &dyn Progress) -> Result<(), NoAnswer> {
        for (i, k) in sizes.iter().enumerate() {
            let stage = Stage { whole: progress, from: i as f64 / sizes.len() as f64, span: 1.0 / sizes.len() as f64 };
            self.one(field, ready, table, *k, &stage)?;
        }
        Ok(())
    }

    fn one(&mut self, field: &Field, ready: &Ready, table: &Table, k: usize, progress: &dyn Progress) -> Result<(), NoAnswer> {
        let judgement = Judgement::of(&self.ask.choice.demands, ready.crafts[0].as_ref(), &field.alone);
        let demanding = self.ask.choice.demands.ask_of_sets();
        let admits = |set: &[u16]| !demanding || judgement.admits(set);
        let size = Size {
            table,
            locked: &field.carried,
            open: &field.open,
            places: k - field.locked.len(),
            admits: &admits,
            margin: NEAR as f32,
            rounding: rounding(ready),
        };
        let proved = size.prove(&mut self.lesson, progress)?;
        progress.report(0.9);
        if let Some(answer) = answer(ready, field, &proved) {
            (self.found)(&answer);
            self.answers.push(answer);
        }
        progress.report(1.0);
        Ok(())
    }

    /// The answers, or why there are none.
    fn ended(self, field: &Field, progress: &dyn Progress) -> Result<Vec<SetFound>, NoAnswer> {
        if !self.answers.is_empty() {
            return Ok(self.answers);
        }
        let demands = &self.ask.choice.demands;
        let ready = Ready::without_table(Key::of(self.ask)?);
        let all: Vec<u16> = field.carried.iter().chain(&field.open).map(|i| *i as u16).collect();
        let judgement = Judgement::of(demands, ready.crafts[0].as_ref(), &field.alone);
        if let Some(why) = judgement.out_of_reach(&all, progress)? {
            return Err(NoAnswer::Demand(why));
        }
        let (least, most) = (*self.ask.sizes.start(), *self.ask.sizes.end());
        Err(NoAnswer::Demanding(least, most, spoken(demands)))
    }
}

/// What is asked of whole sets, in a few words.
fn spoken(d: &Demands) -> String {
    let mut asked: Vec<String> = Vec::new();
    if d.string {
        asked.push("a string".into());
    }
    asked.extend(d.darkest.map(|v| format!("a dark of value {v:.1}")));
    asked.extend(d.lightest.map(|v| format!("a light of value {v:.1}")));
    asked.extend(d.warm_and_cool.iter().map(|f| format!("a warm and a cool {}", f.name())));
    asked.join(", ")
}

/// How far single-precision costs may be off; see the tests of the kernel and of the forms. Where a value must hold, its steep charge
/// multiplies the rounding of the value.
fn rounding(ready: &Ready) -> f32 {
    if ready.key.needs.iter().any(|n| n.cost.hold.is_some()) { 8e-2 } else { 8e-3 }
}

/// Judges every set that could be best in double precision, and explains the winner. `None` when there is no set.
fn answer(ready: &Ready, field: &Field, proved: &Proved) -> Option<SetFound> {
    let ranked = proved.top.sets();
    let slack = rounding(ready);
    let limit = ranked.get(1).map_or(f32::INFINITY, |second| second.cost.max(ranked[0].cost * (1.0 + NEAR as f32)) + slack);
    let close: Vec<&Ranked> = ranked.iter().take_while(|r| r.cost <= limit).collect();
    let errands = ready.errands();
    let sets: Vec<Vec<u16>> = close.iter().map(|r| r.set.clone()).collect();
    ready.judge.prepare(&errands, &sets);
    let judge: &Judge = &ready.judge;
    let mut judged: Vec<(f64, &Vec<u16>)> = sets.iter().map(|s| (judge.judge(&errands, s).cost, s)).collect();
    judged.sort_by(|a, b| a.0.total_cmp(&b.0).then_with(|| a.1.cmp(b.1)));
    let (best, winner) = (judged.first()?.0, judged.first()?.1);
    let counted: Vec<u16> = winner.iter().copied().filter(|i| is_counted(field, *i)).collect();
    let names = |set: &[u16]| -> Vec<PigmentId> {
        set.iter().filter(|i| is_counted(field, **i)).map(|i| ready.key.pigments[usize::from(*i)].id.clone()).collect()
    };
    // Sets the list had no room for cost more than its last one.
    let overflowed = proved.top.is_full() && close.len() == ranked.len();
    let near: Vec<&(f64, &Vec<u16>)> = judged.iter().skip(1).take_while(|j| j.0 <= best * (1.0 + NEAR)).collect();
    let price = |drop: &u16| {
        let rest: Vec<u16> = winner.iter().copied().filter(|p| p != drop).collect();
        let without = judge.judge(&errands, &rest).cost;
        if without.is_finite() { without - best } else { best }
    };
    let whole = judge.judge(&errands, winner);
    let first = errands[0].targets.len();
    let mixes: Vec<Option<Mix>> = judge.mixes(&errands, winner);
    let serves = |i: &u16| {
        let id = &ready.key.pigments[usize::from(*i)].id;
        let holds = |m: &Option<Mix>| m.as_ref().is_some_and(|m| m.parts.iter().any(|p| p.pigment == *id));
        (0..first).filter(|t| holds(&mixes[*t])).collect()
    };
    let proved_optimal = proved.least.is_none() && !(overflowed && judged.get(1).is_none());
    Some(SetFound {
        pigments: names(winner),
        cost: best,
        proved_optimal,
        within: proved.least.map(|l| ((best - l) / best.max(1e-12)).clamp(0.0, 1.0)),
        runner_up: judged.get(1).map(|j| names(j.1)).unwrap_or_default(),
        runner_up_cost: judged.get(1).map(|j| j.0),
        near_tie_count: near.len(),
        more_near_ties: overflowed,
        near_ties: near.iter().take(NEAR_LISTED).map(|j| NearTie { pigments: names(j.1), cost: j.0 }).collect(),
        price_of_dropping: counted.iter().map(price).collect(),
        serves: counted.iter().map(serves).collect(),
        recipes: mixes.iter().take(first).flatten().cloned().collect(),
        misses: whole.misses[..first].to_vec(),
        pieces: per_piece(&errands, &whole.misses),
    })
}

fn is_counted(field: &Field, i: u16) -> bool {
    let i = usize::from(i);
    field.locked.contains(&i) || !field.carried.contains(&i)
}

/// Mean miss of each errand by itself.
fn per_piece(errands: &[Errand], misses: &[f64]) -> Vec<f64> {
    let mut from = 0;
    errands
        .iter()
        .map(|e| {
            let own = &misses[from..from + e.targets.len()];
            from += e.targets.len();
            let total: f64 = e.targets.iter().map(|t| t.weight).sum();
            let sum: f64 = e.targets.iter().zip(own).filter(|(t, _)| t.weight > 0.0).map(|(t, m)| t.weight * m).sum();
            if total > 0.0 { sum / total } else { 0.0 }
        })
        .collect()
}

/// Limits of mixes that follow from demands; `index` finds a pigment's number.
pub(super) fn limits(demands: &Demands, index: impl Fn(&PigmentId) -> Option<usize>) -> Result<Limits, NoAnswer> {
    let usual = Limits::default();
    let mother = match &demands.mother {
        None => None,
        Some(m) => Some((index(&m.pigment).ok_or_else(|| NoAnswer::NotInBox(m.pigment.clone()))?, m.share)),
    };
    Ok(Limits {
        most_pigments: demands.most_in_mix.map_or(usual.most_pigments, usize::from),
        most_layers: demands.most_layers.map_or(usual.most_layers, usize::from),
        mother,
    })
}

/// The size to start with: the smallest after which one more pigment buys less than a twelfth of what the smallest set costs.
/// A choice, only a starting point for the painter.
pub fn knee(sizes: &[SetFound]) -> Option<&SetFound> {
    let first = sizes.first()?.cost;
    let gain = |i: usize| sizes.get(i + 1).map_or(0.0, |next| sizes[i].cost - next.cost);
    (0..sizes.len()).find(|i| gain(*i) < first / 12.0).map(|i| &sizes[i])
}
