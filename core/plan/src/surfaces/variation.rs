//! Variation inside one zone: a ruling mix drifts between relatives, and every pigment of the set appears.

use lean_colour::Lab;
use lean_media::PigmentId;
use lean_recipes::{Cost, Mix};
use lean_search::Recipes;

/// Share of the ruling mix. A choice.
pub(crate) const RULING: f64 = 0.6;
/// Most a relative may cost for what is wanted, in units of cost: half a step, or plainly related. A choice.
const RELATED: f64 = 12.0;
/// Recipes looked at.
const LOOKED_AT: usize = 1500;

/// The ruling mix with its relatives and their shares, and pigments that no relative near enough holds.
pub fn variation(recipes: &Recipes, wanted: Lab, cost: Cost, set: &[PigmentId]) -> (Vec<(Mix, f64)>, Vec<PigmentId>) {
    let plain = Cost { ranking: lean_recipes::cost::Ranking::MISS, ..cost };
    let near = recipes.nearest(wanted, plain, LOOKED_AT);
    let Some(ruling) = recipes.best(wanted, cost).map(|b| b.1) else { return (Vec::new(), set.to_vec()) };
    let holds = |mix: &Mix, id: &PigmentId| mix.parts.iter().any(|p| p.pigment == *id);
    let mut missing: Vec<PigmentId> = set.iter().filter(|id| !holds(&ruling, id)).cloned().collect();
    let mut relatives: Vec<Mix> = Vec::new();
    for (_, i, _) in near.iter().take_while(|n| n.0 <= RELATED) {
        if missing.is_empty() {
            break;
        }
        let mix = recipes.recipe(*i);
        if missing.iter().any(|id| holds(&mix, id)) {
            missing.retain(|id| !holds(&mix, id));
            relatives.push(mix);
        }
    }
    let each = (1.0 - RULING) / relatives.len().max(1) as f64;
    let first = if relatives.is_empty() { 1.0 } else { RULING };
    let all = std::iter::once((ruling, first)).chain(relatives.into_iter().map(|m| (m, each))).collect();
    (all, missing)
}
