//! What no timetable can beat.

use crate::plan::Minutes;
use crate::timing::{NO_DATE, Timing, Worth};
use std::collections::BinaryHeap;

/// The least any timetable can be worth: late, and finished.
pub(crate) fn least(timing: &Timing) -> Worth {
    let heads = heads(timing);
    let work = |i: usize| timing.work(i);
    let n = heads.len();
    let last = broken(timing, &heads, &timing.tail, |end, tail| end + tail);
    let dates: Vec<u32> = timing.due.iter().map(|d| NO_DATE - d).collect();
    let late = broken(timing, &heads, &dates, |end, date| (end + date).saturating_sub(NO_DATE));
    let alone = (0..n).map(|i| heads[i] + work(i) + timing.tail[i]).max().unwrap_or(0);
    (late, last.max(alone).max(kept_apart(timing, &heads)))
}

/// The earliest any job can begin.
pub(crate) fn heads(timing: &Timing) -> Vec<u32> {
    let mut heads: Vec<u32> = timing.plan.jobs.iter().map(|j| timing.sittings.fit(j.from, j.work).0).collect();
    for i in timing.plan.in_turn().unwrap_or_default() {
        for (j, wait) in &timing.then[i] {
            let from = heads[*j].max(heads[i] + timing.work(i) + wait);
            heads[*j] = timing.sittings.fit(Minutes(from), timing.plan.jobs[*j].work).0;
        }
    }
    heads
}

/// The best of one hand when work may be broken off: of what has begun, that with the longest tail goes first (Jackson 1955; Carlier 1982). Work
/// rests between sittings.
fn broken(timing: &Timing, heads: &[u32], tails: &[u32], worth: impl Fn(u32, u32) -> u32) -> u32 {
    let mut by_head: Vec<usize> = (0..heads.len()).collect();
    by_head.sort_by_key(|i| std::cmp::Reverse(heads[*i]));
    let mut open: BinaryHeap<(u32, usize)> = BinaryHeap::new();
    let mut left: Vec<u32> = (0..heads.len()).map(|i| timing.work(i)).collect();
    let (mut now, mut most) = (0, 0);
    while !by_head.is_empty() || !open.is_empty() {
        if open.is_empty() {
            now = now.max(heads[by_head[by_head.len() - 1]]);
        }
        while by_head.last().is_some_and(|i| heads[*i] <= now) {
            let i = by_head.pop().unwrap_or_default();
            open.push((tails[i], i));
        }
        let Some((_, i)) = open.peek().copied() else { break };
        let end = timing.sittings.done(Minutes(now), Minutes(left[i])).0;
        let next = by_head.last().map_or(u32::MAX, |j| heads[*j]);
        if end <= next {
            now = end;
            open.pop();
            most = most.max(worth(end, tails[i]));
        } else {
            left[i] -= worked(timing, now, next);
            now = next;
            if left[i] == 0 {
                open.pop();
                most = most.max(worth(now, tails[i]));
            }
        }
    }
    most
}

/// Minutes worked between two times.
fn worked(timing: &Timing, from: u32, to: u32) -> u32 {
    let until = |t: u32| {
        let (day, at) = (t / timing.sittings.every.0, t % timing.sittings.every.0);
        u64::from(day) * u64::from(timing.sittings.long.0) + u64::from(at.min(timing.sittings.long.0))
    };
    (until(to) - until(from)) as u32
}

/// Jobs that all keep apart from one another come one at a time, each dry before the next: found by growing from every job.
fn kept_apart(timing: &Timing, heads: &[u32]) -> u32 {
    let n = heads.len();
    // How long at least after `i` the job `j` must wait when it comes second; none where the two do not mind each other.
    let mut minds: Vec<std::collections::HashMap<usize, u32>> = vec![Default::default(); n];
    for i in 0..n {
        for (j, wet) in &timing.beside[i] {
            let w = minds[i].entry(*j).or_insert(*wet);
            *w = (*w).max(*wet);
        }
    }
    for (i, later) in later(timing).into_iter().enumerate() {
        for (j, wait) in later {
            minds[i].insert(j, wait);
            minds[j].entry(i).or_insert(wait);
        }
    }
    let mut most = 0;
    for start in 0..n {
        let mut group = vec![start];
        let mut near: Vec<usize> = minds[start].keys().copied().collect();
        near.sort_by_key(|j| (std::cmp::Reverse(minds[*j].len()), *j));
        for j in near {
            if group.iter().all(|i| minds[*i].contains_key(&j)) {
                group.push(j);
            }
        }
        // Between two that follow each other lies at least the shorter of their waits either way.
        let either = |i: usize, j: usize| minds[i][&j].min(minds[j].get(&i).copied().unwrap_or(u32::MAX));
        let wait = |i: usize| (0..group.len()).map(|g| group[g]).filter(|j| *j != i).map(|j| either(i, j)).min().unwrap_or(0);
        let waits: Vec<u32> = group.iter().map(|i| wait(*i)).collect();
        let all: u64 = group.iter().map(|i| u64::from(timing.work(*i))).sum::<u64>() + waits.iter().map(|w| u64::from(*w)).sum::<u64>()
            - u64::from(waits.iter().copied().max().unwrap_or(0));
        let first = group.iter().map(|i| heads[*i]).min().unwrap_or(0);
        let tail = group.iter().map(|i| timing.tail[*i]).min().unwrap_or(0);
        most = most.max(first.saturating_add(u32::try_from(all).unwrap_or(u32::MAX)).saturating_add(tail));
    }
    most
}

/// For every job all that come after it, with the least wait between its end and their beginning.
fn later(timing: &Timing) -> Vec<Vec<(usize, u32)>> {
    let n = timing.waits.len();
    let mut all: Vec<std::collections::BTreeMap<usize, u32>> = vec![Default::default(); n];
    for i in timing.plan.in_turn().unwrap_or_default().into_iter().rev() {
        let mut of = std::collections::BTreeMap::new();
        for (j, wait) in &timing.then[i] {
            let longest = |of: &mut std::collections::BTreeMap<usize, u32>, k: usize, w: u32| {
                let e = of.entry(k).or_insert(w);
                *e = (*e).max(w);
            };
            longest(&mut of, *j, *wait);
            for (k, w) in all[*j].clone() {
                longest(&mut of, k, wait + timing.work(*j) + w);
            }
        }
        all[i] = of;
    }
    all.into_iter().map(|m| m.into_iter().collect()).collect()
}
