//! Small plans searched to the end: every order there is, as far as it can still be better.

use crate::plan::Minutes;
use crate::timing::{Timing, Worth};
use std::collections::HashMap;

/// Looks for begins worth less than `worth`, until `least` is met, all is seen, or `nodes` are. Whether all was seen, and the best found.
pub(crate) fn searched(timing: &Timing, worth: Worth, least: Worth, nodes: usize) -> (bool, Option<Vec<u32>>) {
    let n = timing.waits.len();
    let mut search = Search {
        timing,
        least,
        best: worth,
        found: None,
        left: nodes,
        seen: HashMap::new(),
        begins: vec![0; n],
        ready: timing.plan.jobs.iter().map(|j| j.from.0).collect(),
        waits: timing.waits.clone(),
        done: 0,
    };
    search.go(0, (0, 0));
    let all = search.left > 0 || search.best <= least;
    (all, search.found)
}

struct Search<'a> {
    timing: &'a Timing<'a>,
    least: Worth,
    best: Worth,
    found: Option<Vec<u32>>,
    left: usize,
    /// For each set of jobs done: states that were looked at, each with when the hand was free, what it was worth, and when the rest could begin.
    seen: HashMap<u32, Vec<(u32, Worth, Vec<u32>)>>,
    begins: Vec<u32>,
    ready: Vec<u32>,
    waits: Vec<usize>,
    done: u32,
}

impl Search<'_> {
    fn go(&mut self, free: u32, so_far: Worth) {
        if self.left == 0 || self.best <= self.least {
            return;
        }
        self.left -= 1;
        let n = self.begins.len();
        if self.done.count_ones() as usize == n {
            if so_far < self.best {
                self.best = so_far;
                self.found = Some(self.begins.clone());
            }
            return;
        }
        if self.bound(free, so_far) >= self.best || self.is_seen(free, so_far) {
            return;
        }
        let mut next: Vec<(u32, usize)> = (0..n)
            .filter(|i| self.done >> i & 1 == 0 && self.waits[*i] == 0)
            .map(|i| (self.timing.sittings.fit(Minutes(self.ready[i].max(free)), self.timing.plan.jobs[i].work).0, i))
            .collect();
        next.sort_unstable();
        for (begin, i) in next {
            let (ready, waits) = (self.ready.clone(), self.waits.clone());
            let end = begin + self.timing.work(i);
            self.begins[i] = begin;
            self.done |= 1 << i;
            for (j, wet) in &self.timing.beside[i] {
                self.ready[*j] = self.ready[*j].max(end + wet);
            }
            for (j, wait) in &self.timing.then[i] {
                self.ready[*j] = self.ready[*j].max(end + wait);
                self.waits[*j] -= 1;
            }
            let job = self.timing.plan.jobs[i];
            let finished = end + job.after.0;
            let late = job.due.map_or(0, |d| finished.saturating_sub(d.0));
            self.go(end, (so_far.0.max(late), so_far.1.max(finished)));
            self.done &= !(1 << i);
            (self.ready, self.waits) = (ready, waits);
        }
    }

    /// What the rest makes of it at best.
    fn bound(&self, free: u32, so_far: Worth) -> Worth {
        let t = self.timing;
        let (mut late, mut last, mut work, mut shortest) = (so_far.0, so_far.1, 0, u32::MAX);
        for i in (0..self.begins.len()).filter(|i| self.done >> i & 1 == 0) {
            let end = t.sittings.fit(Minutes(self.ready[i].max(free)), t.plan.jobs[i].work).0 + t.work(i);
            last = last.max(end + t.tail[i]);
            late = late.max(end.saturating_sub(t.due[i]));
            work += t.work(i);
            shortest = shortest.min(t.tail[i]);
        }
        (late, last.max(t.sittings.done(Minutes(free), Minutes(work)).0 + shortest))
    }

    /// Whether the same jobs were done before with the hand free as soon and the rest as ready; kept otherwise.
    fn is_seen(&mut self, free: u32, so_far: Worth) -> bool {
        const KEPT: usize = 24;
        let rest: Vec<u32> = (0..self.begins.len()).filter(|i| self.done >> i & 1 == 0).map(|i| self.ready[i].max(free)).collect();
        let states = self.seen.entry(self.done).or_default();
        let better = |s: &(u32, Worth, Vec<u32>)| {
            s.0 <= free && s.1.0 <= so_far.0 && s.1.1 <= so_far.1 && s.2.iter().zip(&rest).all(|(a, b)| a <= b)
        };
        if states.iter().any(better) {
            return true;
        }
        if states.len() < KEPT {
            states.push((free, so_far, rest));
        }
        false
    }
}
