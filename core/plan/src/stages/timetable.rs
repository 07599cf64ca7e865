//! Sessions with their days: what is done when, so that nothing wet is touched and dates are kept.

use super::links::{Links, links, links_in_any_order};
use super::tasks::Task;
use jiff::civil::{Date, DateTime};
use jiff::{Span, Unit};
use lean_piece::Piece;
use lean_piece::easel::{Hours, TaskId};
use lean_schedule::{Apart, Effort, Job, Lag, Minutes, Plan, Sittings, Timetable, best, greedy};
use serde::Serialize;

const DAY: u32 = 1440;
/// Minutes that must be gained for the order of the schools to be left. A choice.
const WORTH_IT: u32 = 15;

/// A task in its session.
#[derive(Clone, Copy, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Slot {
    /// Which piece, by its place in the list that was asked.
    pub piece: usize,
    /// Which task.
    pub task: TaskId,
    /// Minutes from the beginning of the session.
    pub begins: u32,
    /// Minutes of work.
    pub minutes: u32,
}

/// One session.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct SessionPlan {
    /// The day, as `2025-01-14`.
    pub on: String,
    /// From its first stroke to its last, waits included.
    pub minutes: u32,
    /// Of these, minutes in which nothing can be done but wait.
    pub waits: u32,
    /// What is done.
    pub slots: Vec<Slot>,
}

/// When everything that is left is done.
#[derive(Clone, Debug, Default, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Sessions {
    /// The sessions, soonest first.
    pub sessions: Vec<SessionPlan>,
    /// The day by which all of it is finished and dry; none when nothing is left.
    pub finished: Option<String>,
    /// Days by which the latest piece misses its date; 0 when all dates are kept.
    pub late_days: u32,
    /// Whether no order of work is done sooner by more than a quarter of an hour.
    pub proved: bool,
    /// Minutes sooner than by always doing what can be done next.
    pub gained: u32,
    /// Minutes sooner it would be done in another order of tones than the school asks for; 0 where that is not asked or gains little.
    pub quicker_by: u32,
}

/// A piece with what is left to do.
pub struct Left<'a> {
    /// The piece.
    pub piece: &'a Piece,
    /// All its tasks, done ones too.
    pub tasks: &'a [Task],
}

/// What waits for what among the tasks of a piece.
type Linked = fn(&Piece, &[Task]) -> Links;

/// What is left of one or several pieces, as a plan to be timed; and for every job which piece and task it is part of.
fn plan(of: &[Left], now: DateTime, hours: Hours, linked: Linked) -> (Plan, Vec<(usize, TaskId)>) {
    let mut plan = Plan {
        jobs: Vec::new(),
        lags: Vec::new(),
        apart: Vec::new(),
        sittings: Sittings { long: Minutes(hours.session), every: Minutes(hours.every_days * DAY) },
    };
    let mut names = Vec::new();
    for (n, left) in of.iter().enumerate() {
        add(&mut plan, &mut names, (n, left), now, hours, linked);
    }
    (plan, names)
}

/// Adds one piece: every task as one job, or as several in turn where it is longer than a session.
fn add(plan: &mut Plan, names: &mut Vec<(usize, TaskId)>, (n, left): (usize, &Left), now: DateTime, hours: Hours, linked: Linked) {
    let (piece, tasks) = (left.piece, left.tasks);
    let Links { lags, apart } = linked(piece, tasks);
    let due = piece.intent.due.as_ref().and_then(|d| d.parse::<Date>().ok()).map(|d| until(now, d));
    // Minutes since a task was done; none while it is not. Nobody knows when: long enough ago.
    let done: Vec<Option<u32>> = tasks
        .iter()
        .map(|t| {
            let d = piece.easel.done.iter().find(|d| d.task == t.id)?;
            Some(d.time().map_or(u32::MAX, |at| passed(at, now)))
        })
        .collect();
    let mut first_and_last: Vec<Option<(usize, usize)>> = vec![None; tasks.len()];
    for (i, t) in tasks.iter().enumerate().filter(|(i, t)| done[*i].is_none() && !t.later) {
        let parts = t.minutes.0.div_ceil(hours.session).max(1);
        let begin = plan.jobs.len();
        for part in 0..parts {
            let work = t.minutes.0 / parts + u32::from(part < t.minutes.0 % parts);
            let last = part + 1 == parts;
            plan.jobs.push(Job { work: Minutes(work.max(1)), from: Minutes(0), after: if last { t.drying.over } else { Minutes(0) }, due });
            names.push((n, t.id));
            if part > 0 {
                plan.lags.push(Lag { before: plan.jobs.len() - 2, after: plan.jobs.len() - 1, wait: Minutes(0) });
            }
        }
        first_and_last[i] = Some((begin, plan.jobs.len() - 1));
    }
    for l in lags {
        match (first_and_last[l.before], first_and_last[l.after], done[l.before]) {
            (Some((_, before)), Some((after, _)), _) => plan.lags.push(Lag { before, after, wait: l.wait }),
            (None, Some((after, _)), Some(since)) => wait(plan, after, l.wait, since),
            _ => {}
        }
    }
    for a in apart {
        match (first_and_last[a.one], first_and_last[a.other]) {
            (Some((_, one)), Some((_, other))) => plan.apart.push(Apart { one, other, ..a }),
            (None, Some((first, _))) => wait(plan, first, a.one_wet, done[a.one].unwrap_or(u32::MAX)),
            (Some((first, _)), None) => wait(plan, first, a.other_wet, done[a.other].unwrap_or(u32::MAX)),
            (None, None) => {}
        }
    }
}

/// A job waits for what was done so many minutes ago and is dry after `wait`.
fn wait(plan: &mut Plan, job: usize, wait: Minutes, since: u32) {
    let from = &mut plan.jobs[job].from;
    *from = (*from).max(Minutes(wait.0.saturating_sub(since)));
}

/// Whole minutes from a time to now; 0 for one that lies ahead.
pub fn passed(at: DateTime, now: DateTime) -> u32 {
    let minutes = at.until((Unit::Minute, now)).map_or(0, |s| s.get_minutes());
    u32::try_from(minutes.max(0)).unwrap_or(u32::MAX)
}

/// Minutes until the end of a day.
fn until(now: DateTime, day: Date) -> Minutes {
    let days = now.date().until((Unit::Day, day)).map_or(0, |s| s.get_days());
    if days < 0 { Minutes(0) } else { Minutes(days.unsigned_abs() * DAY + DAY - 1) }
}

/// Times what is left from now on. The same answer every time.
///
/// # Errors
/// When the painter's orders wait for each other in a circle, in words.
pub fn timed(of: &[Left], now: DateTime, hours: Hours) -> Result<Sessions, String> {
    let (strict, names) = plan(of, now, hours, links);
    let quicker_by = if hours.quicker { 0 } else { gain(&plan(of, now, hours, links_in_any_order).0, &strict)? };
    let plan = strict;
    let table = best(&plan, Effort::default()).map_err(|e| format!("This order cannot be kept: {e}."))?;
    let plain = greedy(&plan).map_err(|e| e.to_string())?;
    let gained = plain.last.0.saturating_sub(table.last.0);
    // The order of the schools is not left for a few minutes.
    if plain.late == table.late && gained < WORTH_IT && plain.last.0 / DAY == table.last.0 / DAY {
        return Ok(dated(&plan, &Timetable { proved: table.proved, ..plain }, &names, now, (0, quicker_by)));
    }
    Ok(dated(&plan, &table, &names, now, (gained, quicker_by)))
}

/// Minutes sooner that a freer plan is done than a stricter one, as both are done in turn; nothing where it is not worth a word.
fn gain(free: &Plan, strict: &Plan) -> Result<u32, String> {
    let last = |p: &Plan| greedy(p).map(|t| t.last.0).map_err(|e| format!("This order cannot be kept: {e}."));
    Ok(Some(last(strict)?.saturating_sub(last(free)?)).filter(|minutes| *minutes >= WORTH_IT).unwrap_or(0))
}

fn dated(plan: &Plan, table: &Timetable, names: &[(usize, TaskId)], now: DateTime, (gained, quicker_by): (u32, u32)) -> Sessions {
    let every = plan.sittings.every.0;
    let mut sessions: Vec<SessionPlan> = Vec::new();
    let mut day = None;
    for i in &table.order {
        let (sitting, begins) = (table.begins[*i].0 / every, table.begins[*i].0 % every);
        let work = plan.jobs[*i].work.0;
        if day != Some(sitting) {
            day = Some(sitting);
            sessions.push(SessionPlan { on: on(now, sitting * (every / DAY)), minutes: 0, waits: 0, slots: Vec::new() });
        }
        if let Some(s) = sessions.last_mut() {
            s.waits += begins.saturating_sub(s.minutes);
            s.minutes = begins + work;
            let (piece, task) = names[*i];
            s.slots.push(Slot { piece, task, begins, minutes: work });
        }
    }
    let late = table.late.0.div_ceil(DAY);
    let finished = (!names.is_empty()).then(|| on(now, table.last.0 / DAY));
    Sessions { sessions, finished, late_days: late, proved: table.proved, gained, quicker_by }
}

fn on(now: DateTime, days: u32) -> String {
    now.date().checked_add(Span::new().days(i64::from(days))).map_or_else(|_| now.date().to_string(), |d| d.to_string())
}

/// The last day on which what is left can be begun to be finished in time; none without a date, or when it is too late.
pub fn begin_by(piece: &Piece, sessions: &Sessions, now: DateTime) -> Option<String> {
    let due: Date = piece.intent.due.as_ref()?.parse().ok()?;
    let finished: Date = sessions.finished.as_ref()?.parse().ok()?;
    let spare = finished.until((Unit::Day, due)).ok()?.get_days();
    (spare >= 0).then(|| on(now, spare.unsigned_abs()))
}
