//! Masses: the few big shapes that hold together when squinting, each in one piece.
//!
//! The joining of patches goes on from the largest brush, now by how unlike two shapes are and how much of the picture both are, until few
//! are left; the cut where the next join would cost most compared with the one before is proposed.

use super::cells::{EvenColour, apart2};
use super::shapes::Shapes;
use std::collections::BTreeMap;

/// How many masses are proposed.
pub(super) const MASSES: std::ops::RangeInclusive<usize> = 3..=9;
/// Power of a shape's size in the cost of joining it. A choice between 1 (area alone) and 0.
const SIZE: f32 = 0.6;
/// What a border as long as the smaller shape is round counts for. A choice: what touches along its whole length belongs together sooner.
const TOUCH: f32 = 0.5;

/// The mass of each shape: the number of one shape in it.
pub(crate) fn owners(shapes: &Shapes) -> Vec<u32> {
    let mut joining = Joining::of(shapes);
    let mut costs = Vec::new();
    let mut cuts: BTreeMap<usize, Vec<u32>> = BTreeMap::new();
    loop {
        let left = joining.left();
        if MASSES.contains(&left) || left < *MASSES.start() {
            cuts.insert(left, joining.owners());
        }
        let Some((cost, a, b)) = joining.cheapest().filter(|_| left > 1) else { break };
        costs.push((left, cost));
        joining.join(a, b);
    }
    // Keeping `n` masses is worth what the join to `n - 1` would cost against the join before it.
    let cost_at = |n: usize| costs.iter().find(|(left, _)| *left == n).map_or(0.0, |c| c.1);
    let worth = |n: usize| cost_at(n) / cost_at(n + 1).max(1e-3);
    let chosen = cuts.keys().copied().filter(|n| MASSES.contains(n)).max_by(|a, b| worth(*a).total_cmp(&worth(*b)).then(b.cmp(a)));
    chosen.or_else(|| cuts.keys().copied().max()).and_then(|n| cuts.remove(&n)).unwrap_or_default()
}

struct Joining {
    shapes: BTreeMap<u32, (f32, EvenColour)>,
    next_to: BTreeMap<(u32, u32), u32>,
    into: Vec<u32>,
}

impl Joining {
    fn of(shapes: &Shapes) -> Self {
        let all = shapes.all.iter().enumerate().filter(|(_, s)| s.cells > 0.0).map(|(i, s)| (i as u32, (s.cells, s.look))).collect();
        let mut next_to = BTreeMap::new();
        for (i, beside) in shapes.next_to.iter().enumerate() {
            for (j, n) in beside.iter().filter(|(j, _)| *j > i as u32) {
                next_to.insert((i as u32, *j), *n);
            }
        }
        Self { shapes: all, next_to, into: (0..shapes.all.len() as u32).collect() }
    }

    fn left(&self) -> usize {
        self.shapes.len()
    }

    fn cheapest(&self) -> Option<(f32, u32, u32)> {
        let cost = |a: u32, b: u32, border: u32| {
            let ((n, p), (m, q)) = (self.shapes[&a], self.shapes[&b]);
            let round = 4.0 * n.min(m).sqrt();
            let (n, m) = (n.powf(SIZE), m.powf(SIZE));
            n * m / (n + m) * apart2(p, q) / (1.0 + TOUCH * border as f32 / round)
        };
        self.next_to
            .iter()
            .map(|((a, b), n)| (cost(*a, *b, *n), *a, *b))
            .min_by(|p, q| p.0.total_cmp(&q.0).then((p.1, p.2).cmp(&(q.1, q.2))))
    }

    fn join(&mut self, kept: u32, gone: u32) {
        let Some((m, q)) = self.shapes.remove(&gone) else { return };
        if let Some((n, p)) = self.shapes.get_mut(&kept) {
            let all = *n + m;
            (0..3).for_each(|c| p[c] += (q[c] - p[c]) * m / all);
            *n = all;
        }
        self.into[gone as usize] = kept;
        let borders: Vec<((u32, u32), u32)> =
            self.next_to.iter().filter(|((a, b), _)| *a == gone || *b == gone).map(|(k, n)| (*k, *n)).collect();
        for ((a, b), n) in borders {
            self.next_to.remove(&(a, b));
            let other = if a == gone { b } else { a };
            if other != kept {
                *self.next_to.entry((other.min(kept), other.max(kept))).or_default() += n;
            }
        }
    }

    fn owners(&self) -> Vec<u32> {
        (0..self.into.len() as u32)
            .map(|mut i| {
                while self.into[i as usize] != i {
                    i = self.into[i as usize];
                }
                i
            })
            .collect()
    }
}
