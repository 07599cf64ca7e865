//! The most probable differences from the models, given what was read.

use super::slopes::{laid_of, misses, rows};
use super::{Belief, FARTHEST, Observation};
use crate::pigment::Pigment;
use lean_linear::{Matrix, dot};

/// Rounds after which what has not settled is taken as it is. A choice.
const ROUNDS: usize = 12;
/// A fit has settled when a round gains less than this share of what is left. A choice.
const SETTLED: f64 = 1e-4;

impl Belief {
    /// The belief that explains the kept readings best, beginning where this one is.
    pub(super) fn fitted(&self, seen: &[Observation], kept: &[usize]) -> Self {
        let (mut at, mut now) = (self.at.clone(), self.now.clone());
        let mut cost = self.misfit(&at, &now, seen, kept);
        let mut gathered = None;
        for _ in 0..ROUNDS {
            let (information, pull) = self.information(&at, &now, seen, kept);
            let Some(solved) = information.cholesky() else { break };
            let step = solved.solve_column(&pull);
            gathered = Some(solved);
            // Half the way, and half of that, until it is a better place.
            let better = (0..6).map(|n| 0.5f64.powi(n)).find_map(|share| {
                let there: Vec<f64> = at.iter().zip(&step).map(|(x, by)| (x + share * by).clamp(-FARTHEST, FARTHEST)).collect();
                let pigments = self.pigments_at(&there);
                let cost_there = self.misfit(&there, &pigments, seen, kept);
                (cost_there < cost).then_some((there, pigments, cost_there))
            });
            let Some((there, pigments, cost_there)) = better else { break };
            let settled = cost - cost_there < SETTLED * (1.0 + cost);
            (at, now, cost) = (there, pigments, cost_there);
            if settled {
                break;
            }
        }
        let spread = gathered.map_or_else(|| self.spread.clone(), |solved| solved.inverse());
        Self { models: self.models.clone(), now, at, spread, firmness: self.firmness.clone() }
    }

    /// What the readings say of the numbers believed, to first order, and which way they pull them.
    fn information(&self, at: &[f64], now: &[Pigment], seen: &[Observation], kept: &[usize]) -> (Matrix, Vec<f64>) {
        let mut information = self.firmness.clone();
        let mut pull: Vec<f64> = self.firmness.times_column(at).iter().map(|x| -x).collect();
        for (slopes, misses) in kept.iter().filter_map(|nth| rows(now, &seen[*nth])) {
            let back = slopes.by.transposed();
            let (own, towards) = (back.times(&slopes.by), back.times_column(&misses));
            for (i, a) in slopes.touched.iter().enumerate() {
                pull[*a] += towards[i];
                slopes.touched.iter().enumerate().for_each(|(j, b)| information[(*a, *b)] += own[(i, j)]);
            }
        }
        (information, pull)
    }

    /// Half the sum of squares that is made least.
    fn misfit(&self, at: &[f64], now: &[Pigment], seen: &[Observation], kept: &[usize]) -> f64 {
        let of = |nth: &usize| {
            let o = &seen[*nth];
            laid_of(now, &o.laid, o.reading.state).map_or(0.0, |r| misses(&o.reading, &r).iter().map(|x| x * x).sum::<f64>())
        };
        0.5 * (dot(at, &self.firmness.times_column(at)) + kept.iter().map(of).sum::<f64>())
    }
}
