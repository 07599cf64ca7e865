//! The search as a painter asks for it: the best set of each size under what is decided beforehand.

use crate::answer::{NEAR, SetFound, answer, rounding};
use crate::progress::{Progress, Stage, Unreported};
use crate::proof::{BUDGET, Lesson, Size};
use crate::question::demands::{Demands, Judgement};
use crate::question::field::Field;
use crate::question::no_answer::NoAnswer;
use crate::question::ready::{Key, Ready, Tables};
use crate::question::{Ask, MOST_IN_SET, check};
use crate::table::Table;
use std::sync::Arc;

/// Seconds of a cold search at 60 pigments and 24 zones on two cores, measured: for evaluating recipes, and for sets of each size. Only their
/// ratios matter: what share of the work each stage is.
const EVALUATING: f64 = 0.5;
const SIZES: [f64; MOST_IN_SET + 1] = [0.0, 0.01, 0.02, 0.03, 0.05, 0.2, 0.5, 1.0, 2.0];

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
    let ready = remembered.unwrap_or_else(|| Arc::new(Ready::without_table(key)));
    let field = Field::of(ask, &ready)?;
    let judgement = Judgement::of(&ask.choice.demands, ready.crafts[0].as_ref(), &field.alone);
    if ask.choice.demands.ask_of_sets()
        && let Some(why) = judgement.out_of_reach(&field.all(), progress)?
    {
        return Err(NoAnswer::Demand(why));
    }
    let mut run = Run {
        ask,
        ready: &ready,
        field: &field,
        judgement: &judgement,
        found,
        answers: Vec::new(),
        lesson: Lesson::default(),
        undecided: false,
    };
    let mut sizes = field.sizes(ask);
    let work = |sizes: &[usize]| sizes.iter().map(|k| SIZES[*k]).sum::<f64>();
    if ready.table.get().is_none() {
        let evaluating = EVALUATING / (EVALUATING + work(&sizes));
        let errands = ready.errands();
        let stage = Stage { whole: progress, from: 0.0, span: evaluating };
        let begun = Table::begin(&errands, &stage);
        // Sets of one and two need no recipes of three: the painter sees them at once.
        let (small, large): (Vec<usize>, Vec<usize>) = sizes.into_iter().partition(|k| *k + field.carried.len() - field.locked.len() <= 2);
        run.sizes(&begun.table, &small, &Unreported(progress))?;
        let table = begun.completed()?;
        ready.table.get_or_init(|| table);
        tables.keep(ready.clone());
        sizes = large;
        let rest = Stage { whole: progress, from: evaluating, span: 1.0 - evaluating };
        run.sizes(ready.table(), &sizes, &rest)?;
    } else {
        run.sizes(ready.table(), &sizes, progress)?;
    }
    run.ended()
}

/// A search under way.
struct Run<'a> {
    ask: &'a Ask<'a>,
    ready: &'a Ready,
    field: &'a Field,
    judgement: &'a Judgement<'a>,
    found: &'a dyn Fn(&SetFound),
    answers: Vec<SetFound>,
    lesson: Lesson,
    /// Whether a size was given up before every set was decided.
    undecided: bool,
}

impl Run<'_> {
    fn sizes(&mut self, table: &Table, sizes: &[usize], progress: &dyn Progress) -> Result<(), NoAnswer> {
        let whole: f64 = sizes.iter().map(|k| SIZES[*k]).sum();
        let mut from = 0.0;
        for k in sizes {
            let span = SIZES[*k] / whole;
            self.one(table, *k, &Stage { whole: progress, from, span })?;
            from += span;
        }
        Ok(())
    }

    fn one(&mut self, table: &Table, k: usize, progress: &dyn Progress) -> Result<(), NoAnswer> {
        let demanding = self.ask.choice.demands.ask_of_sets();
        let unmet = |set: &[u16]| if demanding { self.judgement.unmet(set) } else { 0 };
        let size = Size {
            table,
            locked: &self.field.carried,
            open: &self.field.open,
            places: k - self.field.locked.len(),
            unmet: &unmet,
            demanding,
            margin: NEAR as f32,
            rounding: rounding(self.ready),
            budget: BUDGET,
        };
        let proving = Stage { whole: progress, from: 0.0, span: 0.9 };
        let proved = size.prove(&mut self.lesson, &proving)?;
        self.undecided |= proved.least.is_some();
        if let Some(answer) = answer(self.ready, self.field, &proved, progress)? {
            (self.found)(&answer);
            self.answers.push(answer);
        }
        progress.report(1.0);
        Ok(())
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
