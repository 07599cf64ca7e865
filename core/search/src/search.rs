//! The search as a painter asks for it: the best set of each size under what is decided beforehand.

use crate::answer::{NEAR, Roles, SetFound, answer, rounding};
use crate::prepared::field::Field;
use crate::prepared::{Key, Prepared, Tables};
use crate::progress::{Progress, Stage, Unreported, Unwatched};
use crate::proof::{AskedSize, BUDGET, Lesson};
use crate::question::demands::{Alone, Demands};
use crate::question::families::{self, Planned};
use crate::question::judgement::Judgement;
use crate::question::no_answer::NoAnswer;
use crate::question::{Ask, Choice, Need, check};
use crate::table::Table;
use lean_media::{Medium, Pigment, PigmentId};
use std::sync::Arc;

/// Seconds of a cold search at 60 pigments and 24 zones on two cores, measured: for evaluating recipes, and for sets of each size. Only their
/// ratios matter: what share of the work each stage is.
const EVALUATING: f64 = 0.5;
const SIZES: [f64; 9] = [0.0, 0.01, 0.02, 0.03, 0.05, 0.2, 0.5, 1.0, 2.0];
/// The same for every size beyond: those are not gone through to the end.
const LARGE: f64 = 0.3;

fn seconds(size: usize) -> f64 {
    SIZES.get(size).copied().unwrap_or(LARGE)
}

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
    let remembered = tables.find(&key);
    let prepared = remembered.unwrap_or_else(|| Arc::new(Prepared::without_table(key)));
    let field = Field::of(ask, &prepared)?;
    let judgement = Judgement::of(&ask.choice.demands, prepared.techniques[0].as_ref(), &field.alone);
    if ask.choice.demands.ask_of_sets()
        && let Some(why) = judgement.out_of_reach(&field.all(), progress)?
    {
        return Err(NoAnswer::Demand(why));
    }
    let planned = families::planned(&ask.needs[0].targets);
    let mut run = Run {
        ask,
        prepared: &prepared,
        field: &field,
        judgement: &judgement,
        planned,
        found,
        answers: Vec::new(),
        lesson: Lesson::default(),
        undecided: false,
    };
    let mut sizes = field.sizes(ask);
    let work = |sizes: &[usize]| sizes.iter().map(|k| seconds(*k)).sum::<f64>();
    if prepared.table.get().is_none() {
        let evaluating = EVALUATING / (EVALUATING + work(&sizes));
        let served = prepared.served();
        let stage = Stage { whole: progress, from: 0.0, span: evaluating };
        let begun = Table::begin(&served, &stage);
        // Sets of one and two need no recipes of three: the painter sees them at once.
        let (small, large): (Vec<usize>, Vec<usize>) = sizes.into_iter().partition(|k| *k + field.carried.len() - field.locked.len() <= 2);
        run.sizes(&begun.table, &small, &Unreported(progress))?;
        let table = begun.completed()?;
        prepared.table.get_or_init(|| table);
        tables.keep(prepared.clone());
        sizes = large;
        let rest = Stage { whole: progress, from: evaluating, span: 1.0 - evaluating };
        run.sizes(prepared.table(), &sizes, &rest)?;
    } else {
        run.sizes(prepared.table(), &sizes, progress)?;
    }
    run.ended()
}

/// The coloured pigments by the best recipe of two, or of one, that each is in for the targets of a need; those that do best first.
///
/// # Errors
/// See [`NoAnswer`]: nothing to match, a pigment twice.
pub fn best_in_twos(pigments: &[Pigment], medium: Medium, need: &Need) -> Result<Vec<PigmentId>, NoAnswer> {
    let needs = std::slice::from_ref(need);
    let demands = Demands { families_may_go: true, most_in_mix: Some(2), ..Demands::default() };
    let choice = Choice { demands, ..Choice::default() };
    let ask = Ask { pigments, medium, needs, choice: &choice, sizes: 1..=1 };
    check(&ask)?;
    let prepared = Prepared::without_table(Key::of(&ask)?);
    let table = Table::begin(&prepared.served(), &Unwatched).table;
    let n = table.pigments;
    let cost = |i: usize, j: usize| table.pair_of(i, j).iter().sum::<f32>();
    let mut ranked: Vec<(f32, usize)> = (0..n)
        .filter(|i| !prepared.key.pigments[*i].white)
        .map(|i| ((0..n).map(|j| cost(i, j)).fold(f32::INFINITY, f32::min), i))
        .collect();
    ranked.sort_by(|a, b| a.0.total_cmp(&b.0).then(a.1.cmp(&b.1)));
    Ok(ranked.into_iter().map(|(_, i)| prepared.key.pigments[i].id.clone()).collect())
}

/// A search under way.
struct Run<'a> {
    ask: &'a Ask<'a>,
    prepared: &'a Prepared,
    field: &'a Field,
    judgement: &'a Judgement<'a>,
    /// The hue families of the plan.
    planned: Vec<Planned>,
    found: &'a dyn Fn(&SetFound),
    answers: Vec<SetFound>,
    lesson: Lesson,
    /// Whether a size was given up before every set was decided.
    undecided: bool,
}

impl Run<'_> {
    fn sizes(&mut self, table: &Table, sizes: &[usize], progress: &dyn Progress) -> Result<(), NoAnswer> {
        let whole: f64 = sizes.iter().map(|k| seconds(*k)).sum();
        let mut from = 0.0;
        for k in sizes {
            let span = seconds(*k) / whole;
            self.one(table, *k, &Stage { whole: progress, from, span })?;
            from += span;
        }
        Ok(())
    }

    fn one(&mut self, table: &Table, k: usize, progress: &dyn Progress) -> Result<(), NoAnswer> {
        let asked = self.families(table);
        let mut found = self.reaching(table, k, asked, progress)?;
        if found.is_none() && asked > 0 {
            // Not all of them at once: those of most weight first, as many as go together.
            let mut kept = 0;
            for family in (0..self.planned.len()).map(|n| 1 << n).filter(|bit| asked & bit > 0) {
                if let Some(better) = self.reaching(table, k, kept | family, progress)? {
                    (kept, found) = (kept | family, Some(better));
                }
            }
            if found.is_none() {
                found = self.reaching(table, k, 0, progress)?;
            }
        }
        if let Some(mut answer) = found {
            answer.missing = self.judgement.not_reached(&self.numbers(&answer), &self.planned);
            answer.roles = self.roles(&answer);
            (self.found)(&answer);
            self.answers.push(answer);
        }
        progress.report(1.0);
        Ok(())
    }

    /// The families of the plan that are asked for, one bit each: those that two of the pigments to choose from reach.
    fn families(&self, table: &Table) -> u8 {
        if self.ask.choice.demands.families_may_go {
            0
        } else {
            table.reached_by_twos(&self.field.all().into_iter().map(usize::from).collect::<Vec<_>>())
        }
    }

    /// The best set of a size that reaches these families of the plan besides what else is asked.
    fn reaching(&mut self, table: &Table, k: usize, families: u8, progress: &dyn Progress) -> Result<Option<SetFound>, NoAnswer> {
        let of_sets = self.ask.choice.demands.ask_of_sets();
        let demanding = of_sets || families > 0;
        let unmet = |set: &[u16]| {
            let lost = if families > 0 { (families & !table.reached(set)).count_ones() } else { 0 };
            lost + if of_sets { self.judgement.unmet(set) } else { 0 }
        };
        let size = AskedSize {
            table,
            locked: &self.field.carried,
            open: &self.field.open,
            places: k - self.field.locked.len(),
            unmet: &unmet,
            demanding,
            margin: NEAR as f32,
            rounding: rounding(self.prepared),
            budget: BUDGET,
        };
        let proving = Stage { whole: progress, from: 0.0, span: 0.9 };
        let proved = size.prove(&mut self.lesson, &proving)?;
        let found = answer(self.prepared, self.field, &proved, progress)?;
        self.undecided |= proved.least.is_some() && found.is_none();
        Ok(found)
    }

    fn roles(&self, set: &SetFound) -> Option<Roles> {
        let number = |id: &PigmentId| self.prepared.key.pigments.iter().position(|p| p.id == *id);
        let own: Vec<(&PigmentId, &Alone)> =
            set.pigments.iter().filter_map(|id| Some((id, self.field.alone[number(id)?].as_ref()?))).collect();
        let least = |of: &dyn Fn(&Alone) -> f64| own.iter().min_by(|a, b| of(a.1).total_cmp(&of(b.1))).map(|(id, _)| (*id).clone());
        Some(Roles {
            dark: least(&|a| a.darkest())?,
            light: least(&|a| -a.value())?,
            warm: least(&|a| -a.temperature())?,
            cool: least(&|a| a.temperature())?,
        })
    }

    /// The numbers of a set with what is always at hand, ascending.
    fn numbers(&self, set: &SetFound) -> Vec<u16> {
        let number = |id: &PigmentId| self.prepared.key.pigments.iter().position(|p| p.id == *id).map(|i| i as u16);
        let mut all: Vec<u16> = set.pigments.iter().filter_map(number).chain(self.field.carried.iter().map(|i| *i as u16)).collect();
        all.sort_unstable();
        all.dedup();
        all
    }

    /// The answers, or why there are none.
    fn ended(self) -> Result<Vec<SetFound>, NoAnswer> {
        if !self.answers.is_empty() {
            return Ok(self.answers);
        }
        let (least, most) = (*self.ask.sizes.start(), *self.ask.sizes.end());
        let asked = spoken(&self.ask.choice.demands);
        Err(if self.undecided { NoAnswer::NoneFound(least, most, asked) } else { NoAnswer::Demanding(least, most, asked) })
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
