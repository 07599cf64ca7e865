//! What can be done next, in the order asked for.

use crate::bound::least;
use crate::plan::{Impossible, Minutes, Plan, Timetable};
use crate::timing::Timing;

/// Does, whenever the hand is free, what can begin soonest; of several the one that is asked for first. What a painter without a plan does.
///
/// # Errors
/// See [`Impossible`].
pub fn greedy(plan: &Plan) -> Result<Timetable, Impossible> {
    let timing = Timing::of(plan)?;
    let rank: Vec<f64> = (0..plan.jobs.len()).map(|i| i as f64).collect();
    let begins = listed(&timing, &rank);
    let least = least(&timing);
    Ok(timing.table(begins, least))
}

/// Begins of all jobs when, whenever the hand is free, the job is taken that can begin soonest; of several the one of least rank.
pub(crate) fn listed(timing: &Timing, rank: &[f64]) -> Vec<u32> {
    let n = rank.len();
    let mut waits = timing.waits.clone();
    let mut open: Vec<usize> = (0..n).filter(|i| waits[*i] == 0).collect();
    let mut ready: Vec<u32> = timing.plan.jobs.iter().map(|j| j.from.0).collect();
    let mut begins = vec![0; n];
    let mut done = vec![false; n];
    let mut free = 0;
    for _ in 0..n {
        let mut next = (0, (u32::MAX, f64::INFINITY));
        for (at, i) in open.iter().enumerate() {
            let begin = timing.sittings.fit(Minutes(ready[*i].max(free)), timing.plan.jobs[*i].work).0;
            if begin < next.1.0 || (begin == next.1.0 && rank[*i] < next.1.1) {
                next = (at, (begin, rank[*i]));
            }
        }
        let (at, (begin, _)) = next;
        let i = open.swap_remove(at);
        begins[i] = begin;
        done[i] = true;
        free = begin + timing.work(i);
        for (j, wet) in &timing.beside[i] {
            if !done[*j] {
                ready[*j] = ready[*j].max(free + wet);
            }
        }
        for (j, wait) in &timing.then[i] {
            ready[*j] = ready[*j].max(free + wait);
            waits[*j] -= 1;
            if waits[*j] == 0 {
                open.push(*j);
            }
        }
    }
    begins
}
