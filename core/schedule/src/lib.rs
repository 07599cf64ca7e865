//! When to do what, for one pair of hands, while paint dries.
//!
//! **The nouns and how they meet.** A [`Plan`] is a list of [`Job`]s, each some minutes of work. A [`Lag`] says that one waits for another, and how
//! long after it (the next layer, once the last is dry). Two jobs kept [`Apart`] may come in either order, but the second waits until the first is dry:
//! a wash beside a wet wash. Work is done in [`Sittings`]. A [`Timetable`] says when each job begins; it comes from [`greedy`](fn@greedy), which takes
//! what can be done next in the order asked for, or from [`best`](fn@best), which keeps the dates, is done soonest, and says whether that is proved.
//!
//! Scheduling one machine with release times, tails and time lags is NP-hard (Brucker, Scheduling Algorithms, 2007, ch. 4 and 9). Here the lower bounds are
//! usually met, which proves a timetable at once; where they are not, small plans are searched to the end, and larger ones say how far they can be off.
//!
//! ```
//! use lean_schedule::{Job, Lag, Minutes, Plan, Sittings, best, Effort};
//! let wash = Job::of(Minutes(10));
//! // Two layers on one zone with half an hour to dry, and another zone to fill the wait.
//! let plan = Plan { jobs: vec![wash, wash, wash], lags: vec![Lag { before: 0, after: 1, wait: Minutes(30) }], apart: vec![], sittings: Sittings::endless() };
//! let table = best(&plan, Effort::default()).unwrap();
//! assert_eq!(table.last, Minutes(50));
//! assert!(table.proved);
//! ```
#![deny(missing_docs)]

mod bound;
mod greedy;
mod improve;
mod plan;
mod search;
mod timing;

pub use greedy::greedy;
pub use improve::{Effort, best};
pub use plan::{Apart, Impossible, Job, Lag, Minutes, Plan, Sittings, Timetable};
