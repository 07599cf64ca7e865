//! What is to be done, and when it is done.

use thiserror::Error;

/// Whole minutes, of work or since the first sitting began.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub struct Minutes(pub u32);

/// One thing to do without a break.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Job {
    /// Minutes of work, at least 1 and at most one sitting.
    pub work: Minutes,
    /// Not before.
    pub from: Minutes,
    /// Minutes after it until what it is part of is finished: a last film that dries.
    pub after: Minutes,
    /// When it should be finished, [`Job::after`] included; none when there is no hurry.
    pub due: Option<Minutes>,
}

impl Job {
    /// Some minutes of work, at any time.
    pub const fn of(work: Minutes) -> Self {
        Self { work, from: Minutes(0), after: Minutes(0), due: None }
    }
}

/// One job waits for another. Jobs are named by their place in [`Plan::jobs`].
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Lag {
    /// The first.
    pub before: usize,
    /// The second: it begins once the first has ended and `wait` has passed.
    pub after: usize,
    /// Minutes between.
    pub wait: Minutes,
}

/// Two jobs that may come in either order, the second only once the first is dry.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Apart {
    /// One.
    pub one: usize,
    /// Minutes it stays wet.
    pub one_wet: Minutes,
    /// The other.
    pub other: usize,
    /// Minutes that stays wet.
    pub other_wet: Minutes,
}

/// When there is work: so many minutes from the beginning of every day of some length.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Sittings {
    /// Minutes of one sitting, at least 1.
    pub long: Minutes,
    /// Minutes from the beginning of one to that of the next, at least as many.
    pub every: Minutes,
}

impl Sittings {
    /// One sitting without end.
    pub const fn endless() -> Self {
        Self { long: Minutes(u32::MAX / 4), every: Minutes(u32::MAX / 4) }
    }

    /// The earliest beginning, not before `from`, of `work` minutes within one sitting.
    pub fn fit(self, from: Minutes, work: Minutes) -> Minutes {
        let (day, at) = (from.0 / self.every.0, from.0 % self.every.0);
        if at + work.0 <= self.long.0 { from } else { Minutes((day + 1) * self.every.0) }
    }

    /// When `work` minutes that may be broken between sittings are done at the earliest.
    pub fn done(self, from: Minutes, work: Minutes) -> Minutes {
        if work.0 == 0 {
            return from;
        }
        let (mut day, at) = (from.0 / self.every.0, from.0 % self.every.0);
        let mut left = work.0;
        let today = self.long.0.saturating_sub(at);
        if left <= today {
            return Minutes(from.0 + left);
        }
        left -= today;
        day += 1 + (left - 1) / self.long.0;
        Minutes(day * self.every.0 + (left - 1) % self.long.0 + 1)
    }
}

/// What is to be done.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Plan {
    /// The jobs, in the order they would be done if nothing had to wait.
    pub jobs: Vec<Job>,
    /// What waits for what.
    pub lags: Vec<Lag>,
    /// What must not be touched beside something wet.
    pub apart: Vec<Apart>,
    /// When there is work.
    pub sittings: Sittings,
}

/// Why a plan cannot be timed.
#[derive(Clone, Debug, Error, PartialEq, Eq)]
pub enum Impossible {
    /// A job that no sitting holds.
    #[error("a piece of work takes {work} minutes; a sitting has {sitting}: make sittings longer, or part the work")]
    TooLong {
        /// Its minutes.
        work: u32,
        /// Those of a sitting.
        sitting: u32,
    },
    /// Jobs that wait for each other in a circle, or for one that is not there.
    #[error("work {0} waits for itself: take one of the orders back")]
    Circle(usize),
    /// A number out of range.
    #[error("{0}")]
    Range(String),
}

/// When each job begins.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Timetable {
    /// The beginning of each job.
    pub begins: Vec<Minutes>,
    /// The jobs in the order they are done.
    pub order: Vec<usize>,
    /// When the last is finished, what dries after it included.
    pub last: Minutes,
    /// Minutes by which the latest job misses its date; 0 when all are kept.
    pub late: Minutes,
    /// Whether no timetable is less late, or as late and done sooner.
    pub proved: bool,
    /// No timetable is done sooner than this.
    pub least: Minutes,
}

/// Most jobs of a plan.
pub(crate) const MOST_JOBS: usize = 2000;
/// No job, wait or date is further than this, about three hundred years.
const FAR: u32 = 160_000_000;

impl Plan {
    /// Says what is wrong with it.
    ///
    /// # Errors
    /// See [`Impossible`].
    pub fn check(&self) -> Result<(), Impossible> {
        let range = |text: &str| Err(Impossible::Range(text.into()));
        if self.jobs.len() > MOST_JOBS {
            return Err(Impossible::Range(format!("{} jobs; {MOST_JOBS} can be timed at once", self.jobs.len())));
        }
        if self.sittings.long.0 == 0 || self.sittings.every < self.sittings.long {
            return range("a sitting is at least a minute long and at most as long as from one to the next");
        }
        let waits = self.lags.iter().map(|l| l.wait).chain(self.apart.iter().flat_map(|a| [a.one_wet, a.other_wet]));
        let times = self.jobs.iter().flat_map(|j| [Some(j.from), Some(j.after), j.due]).flatten();
        if waits.chain(times).any(|m| m.0 > FAR) {
            return range("a wait or a date lies too far off");
        }
        if self.jobs.iter().any(|j| j.work.0 == 0) {
            return range("every job takes at least a minute");
        }
        if let Some(j) = self.jobs.iter().find(|j| j.work > self.sittings.long) {
            return Err(Impossible::TooLong { work: j.work.0, sitting: self.sittings.long.0 });
        }
        let n = self.jobs.len();
        let ends = self.lags.iter().flat_map(|l| [l.before, l.after]).chain(self.apart.iter().flat_map(|a| [a.one, a.other]));
        if ends.into_iter().any(|i| i >= n) || self.apart.iter().any(|a| a.one == a.other) {
            return range("an order names work that is not in the plan");
        }
        self.in_turn().map(|_| ())
    }

    /// The jobs so that none comes before one it waits for.
    ///
    /// # Errors
    /// Names a job that waits for itself.
    pub(crate) fn in_turn(&self) -> Result<Vec<usize>, Impossible> {
        let n = self.jobs.len();
        let mut waits = vec![0usize; n];
        self.lags.iter().for_each(|l| waits[l.after] += 1);
        let mut open: Vec<usize> = (0..n).filter(|i| waits[*i] == 0).collect();
        let mut turn = Vec::with_capacity(n);
        while let Some(i) = open.pop() {
            turn.push(i);
            for l in self.lags.iter().filter(|l| l.before == i) {
                waits[l.after] -= 1;
                if waits[l.after] == 0 {
                    open.push(l.after);
                }
            }
        }
        if turn.len() == n { Ok(turn) } else { Err(Impossible::Circle(waits.iter().position(|w| *w > 0).unwrap_or(0))) }
    }
}
