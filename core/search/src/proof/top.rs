//! The best sets met so far.

/// A set of pigments (numbers in the table, ascending) and its single-precision cost.
#[derive(Clone, Debug, PartialEq)]
pub(crate) struct Ranked {
    pub cost: f32,
    pub set: Vec<u16>,
}

/// Most sets kept to be judged exactly.
pub(crate) const KEPT: usize = 256;

/// The best sets met so far, best first, none above a limit. Ties are ordered by number, so that the answer does not depend on threads.
#[derive(Clone, Debug)]
pub(crate) struct Top {
    sets: Vec<Ranked>,
    /// Sets above this are of no use.
    pub limit: f32,
}

impl Top {
    /// Nothing met yet.
    pub(crate) fn below(limit: f32) -> Self {
        Self { sets: Vec::new(), limit }
    }

    /// What a set must not cost more than to be kept.
    #[inline(always)]
    pub(crate) fn bar(&self) -> f32 {
        if self.sets.len() < KEPT { self.limit } else { less(self.limit, self.sets[KEPT - 1].cost) }
    }

    /// Whether sets below the limit had to be let go.
    pub(crate) fn is_full(&self) -> bool {
        self.sets.len() >= KEPT
    }

    /// Best first.
    pub(crate) fn sets(&self) -> &[Ranked] {
        &self.sets
    }

    /// Keeps a set if it is good enough and not yet there.
    pub(crate) fn offer(&mut self, cost: f32, mut set: Vec<u16>) {
        if cost > self.bar() {
            return;
        }
        set.sort_unstable();
        // The same set may come again with a cost that was added up in another order.
        if self.sets.iter().any(|r| r.set == set) {
            return;
        }
        let at = self.sets.partition_point(|r| r.cost.total_cmp(&cost).then_with(|| r.set.cmp(&set)).is_lt());
        self.sets.insert(at, Ranked { cost, set });
        self.sets.truncate(KEPT);
    }

    /// Takes over what another has met.
    pub(crate) fn merge(&mut self, other: Self) {
        for r in other.sets {
            self.offer(r.cost, r.set);
        }
    }

    /// Lowers the limit so that the best, the second best and all within `margin` of the best stay, with `rounding` to spare.
    pub(crate) fn tighten(&mut self, margin: f32, rounding: f32) {
        let Some(second) = self.sets.get(1) else { return };
        let near = self.sets[0].cost * (1.0 + margin);
        let limit = second.cost.max(near) + rounding;
        if limit < self.limit {
            self.limit = limit;
            let keep = self.sets.partition_point(|r| r.cost <= limit);
            self.sets.truncate(keep);
        }
    }
}

use lean_recipes::cost::quick::less;
