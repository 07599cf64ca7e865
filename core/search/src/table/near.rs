//! Recipes whose miss alone would lower the least cost of a target: those of them that still do with what a slip of the hand is charged.

use super::NEVER;
use lean_recipes::cost::quick::{self, CostF};

/// One recipe for one target, by what it costs without what a slip is charged.
#[derive(Clone, Copy)]
struct Near {
    charged: f32,
    recipe: u32,
}

/// For every target the recipes of a group that are near enough.
pub(crate) struct NearMisses {
    of: Vec<Vec<Near>>,
}

impl NearMisses {
    pub(super) fn of(targets: usize) -> Self {
        Self { of: vec![Vec::new(); targets] }
    }

    pub(super) fn add(&mut self, target: usize, recipe: usize, charged: f32) {
        self.of[target].push(Near { charged, recipe: recipe as u32 });
    }

    /// Lowers the least costs by the recipes of a group, of which there are so many. `slips` tells how far a slip moves some of them, the second list
    /// saying beyond which slip none matters. The nearest of each target are asked first: what they come to spares most of the others.
    pub(super) fn settle(mut self, best: &mut [f32], cost: CostF, recipes: usize, mut slips: impl FnMut(&[usize], &[f32]) -> Vec<f32>) {
        if self.of.iter().all(Vec::is_empty) {
            return;
        }
        let width = best.len();
        // Charged without a slip, `[recipe][target]`.
        let mut charged = vec![NEVER; recipes * width];
        for (target, near) in self.of.iter_mut().enumerate() {
            near.sort_unstable_by(|a, b| a.charged.total_cmp(&b.charged).then(a.recipe.cmp(&b.recipe)));
            near.iter().for_each(|n| charged[n.recipe as usize * width + target] = n.charged);
        }
        let row = |recipe: usize| &charged[recipe * width..(recipe + 1) * width];
        let mut known = vec![false; recipes];
        let mut from = vec![0usize; width];
        let (mut asked, mut matters) = (Vec::with_capacity(width), Vec::with_capacity(width));
        loop {
            asked.clear();
            matters.clear();
            for (target, near) in self.of.iter().enumerate() {
                while near.get(from[target]).is_some_and(|n| known[n.recipe as usize]) {
                    from[target] += 1;
                }
                if let Some(n) = near.get(from[target]).filter(|n| n.charged < best[target]) {
                    known[n.recipe as usize] = true;
                    asked.push(n.recipe as usize);
                }
            }
            if asked.is_empty() {
                return;
            }
            let gain = |recipe: &usize| row(*recipe).iter().zip(best.iter()).fold(0.0, |most, (c, b)| quick::more(most, b - c));
            matters.extend(asked.iter().map(|recipe| cost.slip_of_charge(gain(recipe))));
            for (recipe, slip) in asked.iter().zip(slips(&asked, &matters)) {
                let slip = cost.of_slip(slip);
                best.iter_mut().zip(row(*recipe)).for_each(|(b, c)| *b = quick::less(*b, c + slip));
            }
        }
    }
}
