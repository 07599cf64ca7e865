//! The best timetable: found by trying orders near the one asked for, proved by what no timetable can beat, or searched to the end.

use crate::bound::least;
use crate::greedy::listed;
use crate::plan::{Impossible, Plan, Timetable};
use crate::search::searched;
use crate::timing::{Timing, Worth};

/// How much is tried before an answer is given unproved.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Effort {
    /// Orders tried.
    pub orders: usize,
    /// Beginnings of timetables looked at when a small plan is searched to the end.
    pub nodes: usize,
}

impl Default for Effort {
    /// About a second for thirty zones in six layers, when nothing can be proved.
    fn default() -> Self {
        Self { orders: 6000, nodes: 800_000 }
    }
}

/// Plans up to so many jobs are searched to the end.
const SMALL: usize = 24;

/// The timetable that is least late, then done soonest; of those found, the one nearest to the order asked for. The same answer every time.
///
/// # Errors
/// See [`Impossible`].
pub fn best(plan: &Plan, effort: Effort) -> Result<Timetable, Impossible> {
    let timing = Timing::of(plan)?;
    let n = plan.jobs.len();
    let least = least(&timing);
    let asked: Vec<f64> = (0..n).map(|i| i as f64).collect();
    let mut found = listed(&timing, &asked);
    let mut worth = timing.worth(&found);
    if worth > least {
        (found, worth) = tried(&timing, found, least, effort.orders);
        found = as_asked(&timing, &asked, found, worth);
    }
    if worth > least && n <= SMALL {
        let (to_the_end, better) = searched(&timing, worth, least, effort.nodes);
        found = better.unwrap_or(found);
        if to_the_end {
            let worth = timing.worth(&found);
            return Ok(timing.table(found, worth));
        }
    }
    Ok(timing.table(found, least))
}

/// Tries orders: by tail, by date, and then the best so far with a few jobs moved, farther away the longer nothing helps.
fn tried(timing: &Timing, asked: Vec<u32>, least: Worth, orders: usize) -> (Vec<u32>, Worth) {
    let n = asked.len();
    let mut chance = Chance(0x9E37_79B9_7F4A_7C15);
    let own = |i: usize| i as f64 / n.max(1) as f64;
    let degree = |i: usize| timing.beside[i].iter().map(|(_, w)| f64::from(*w)).sum::<f64>();
    let by = |key: &dyn Fn(usize) -> f64| -> Vec<f64> { (0..n).map(|i| key(i) + own(i)).collect() };
    let starts = [
        by(&|i| i as f64),
        by(&|i| -f64::from(timing.tail[i]) * 2.0),
        by(&|i| f64::from(timing.due[i])),
        by(&|i| -degree(i)),
        by(&|i| -f64::from(timing.tail[i]) - degree(i)),
    ];
    let mut best = (timing.worth(&asked), asked, starts[0].clone());
    for rank in &starts {
        let begins = listed(timing, rank);
        let worth = timing.worth(&begins);
        if worth < best.0 {
            best = (worth, begins, rank.clone());
        }
    }
    let mut idle = 0;
    for _ in 0..orders {
        if best.0 <= least || n < 2 {
            break;
        }
        let mut rank = best.2.clone();
        let moved = 1 + idle / 150 % 6;
        for _ in 0..=moved {
            let (i, j) = (chance.below(n), chance.below(n));
            rank[i] = rank[j] + if chance.below(2) == 0 { 1e-3 } else { -1e-3 };
        }
        let begins = listed(timing, &rank);
        let worth = timing.worth(&begins);
        // Equals are taken too: they lead on over level ground.
        if worth <= best.0 {
            idle = if worth < best.0 { 0 } else { idle + 1 };
            best = (worth, begins, rank);
        } else {
            idle += 1;
        }
    }
    (best.1, best.0)
}

/// Of timetables worth no less, the one nearest to the order asked for, on the way from it to the one found.
fn as_asked(timing: &Timing, asked: &[f64], found: Vec<u32>, worth: Worth) -> Vec<u32> {
    const STEPS: usize = 24;
    let mut by_begin: Vec<usize> = (0..found.len()).collect();
    by_begin.sort_by_key(|i| found[*i]);
    let mut place = vec![0.0; found.len()];
    by_begin.iter().enumerate().for_each(|(n, i)| place[*i] = n as f64);
    let way = |step: usize| {
        let share = step as f64 / STEPS as f64;
        let rank: Vec<f64> = asked.iter().zip(&place).map(|(a, p)| a * (1.0 - share) + p * share).collect();
        listed(timing, &rank)
    };
    (1..=STEPS).map(way).find(|begins| timing.worth(begins) <= worth).unwrap_or(found)
}

/// Numbers by chance, the same every time (Marsaglia 2003, xorshift).
struct Chance(u64);

impl Chance {
    fn below(&mut self, n: usize) -> usize {
        self.0 ^= self.0 << 13;
        self.0 ^= self.0 >> 7;
        self.0 ^= self.0 << 17;
        (self.0 % n.max(1) as u64) as usize
    }
}
