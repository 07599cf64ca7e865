//! Siblings: things that repeat (windows, stones, leaves) get mixes of one value, varied in hue and temperature, so that no two are alike.

use lean_colour::Lab;
use lean_colour::difference::ciede2000;
use lean_recipes::{Cost, Mix};
use lean_search::Recipes;

/// Steps of value siblings lie within. A choice.
pub const WITHIN: f64 = 0.25;
/// CIEDE2000 by which siblings differ at least. A choice.
pub const APART: f64 = 2.5;
/// CIEDE2000 by which they may differ from what is wanted. A choice.
const AWAY: f64 = 8.0;
/// Recipes looked at.
const LOOKED_AT: usize = 600;

/// Up to `count` mixes within a quarter step of the wanted value, no two alike, as far apart as the set allows; the nearest to what is wanted first. Each next one
/// is that farthest from all before (Gonzalez 1985), so that few differ plainly and many still differ.
pub fn siblings(recipes: &Recipes, wanted: Lab, cost: Cost, count: usize) -> Vec<Mix> {
    let plain = Cost { ranking: lean_recipes::cost::Ranking::MISS, ..cost };
    let near: Vec<(usize, Lab)> = recipes
        .nearest(wanted, plain, LOOKED_AT)
        .into_iter()
        .map(|(_, i, lab)| (i, lab))
        .filter(|(_, lab)| (lab.value().0 - wanted.value().0).abs() <= WITHIN && ciede2000(*lab, wanted) <= AWAY)
        .collect();
    let Some(first) = near.first() else { return Vec::new() };
    let mut taken = vec![*first];
    while taken.len() < count {
        let far = |lab: Lab| taken.iter().map(|(_, t)| ciede2000(lab, *t)).fold(f64::INFINITY, f64::min);
        let next = near.iter().map(|(i, lab)| (far(*lab), *i, *lab)).max_by(|a, b| a.0.total_cmp(&b.0));
        match next {
            Some((apart, i, lab)) if apart >= APART => taken.push((i, lab)),
            _ => break,
        }
    }
    taken.into_iter().map(|(i, _)| recipes.recipe(i)).collect()
}
