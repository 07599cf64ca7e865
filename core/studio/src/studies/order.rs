//! Recipes chosen together so that warm zones stay warmer than their neighbours.

use crate::lean::exact::Recipes;
use crate::lean::{Cost, Mix};
use crate::piece::Piece;
use lean_colour::Lab;
use lean_colour::temperature::SAME;

/// How many recipes are weighed for each zone.
const LOOKED_AT: usize = 4000;
/// Charge for each pair of neighbours whose order is lost. More than any hue is worth.
const LOST: f64 = 60.0;
/// Charge for a value that leaves what it must hold. More than any order: value first, temperature second.
const LET_GO: f64 = 400.0;

/// A pair of neighbouring zones (positions in `piece.zones`) of which the first is planned warmer.
pub type WarmerThan = (usize, usize);

/// Neighbours whose planned temperatures differ enough to be told apart.
pub fn ordered_pairs(piece: &Piece) -> Vec<WarmerThan> {
    let borders = piece.zone_map.as_ref().map(|m| m.borders()).unwrap_or_default();
    let at = |id: u16| piece.zones.iter().position(|z| z.id.0 == id);
    borders
        .into_iter()
        .filter_map(|(a, b, _)| {
            let (i, j) = (at(a)?, at(b)?);
            let t = piece.zones[i].target.temperature().warmer_than(piece.zones[j].target.temperature());
            (t.abs() >= SAME).then_some(if t > 0.0 { (i, j) } else { (j, i) })
        })
        .collect()
}

/// Whether the order holds for a pair, given the colours of all zones.
pub fn holds(colours: &[Lab], (warm, cool): WarmerThan) -> bool {
    colours[warm].temperature().0 > colours[cool].temperature().0
}

/// The cheapest recipe for each wanted colour, then changed zone by zone while that mends more lost order than it costs.
pub fn choose_together(recipes: &Recipes, wanted: &[Lab], cost: Cost, pairs: &[WarmerThan]) -> Vec<Mix> {
    let ranked: Vec<Vec<(f64, Mix)>> = wanted.iter().map(|w| recipes.ranked(*w, cost, LOOKED_AT)).collect();
    if ranked.iter().any(Vec::is_empty) {
        return Vec::new();
    }
    let mut picked = vec![0usize; wanted.len()];
    for _ in 0..8 {
        let mut changed = false;
        for zone in 0..wanted.len() {
            let judge = |choice: usize, picked: &[usize]| {
                let t = |z: usize| ranked[z][if z == zone { choice } else { picked[z] }].1.lab.temperature().0;
                let lost = pairs.iter().filter(|(w, c)| (*w == zone || *c == zone) && t(*w) <= t(*c)).count();
                let off = (ranked[zone][choice].1.lab.value().0 - wanted[zone].value().0).abs();
                let let_go = if cost.hold.is_some_and(|h| off > h) { LET_GO } else { 0.0 };
                ranked[zone][choice].0 + LOST * lost as f64 + let_go
            };
            let best = (0..ranked[zone].len()).min_by(|a, b| judge(*a, &picked).total_cmp(&judge(*b, &picked))).unwrap_or(0);
            if judge(best, &picked) < judge(picked[zone], &picked) {
                picked[zone] = best;
                changed = true;
            }
        }
        if !changed {
            break;
        }
    }
    ranked.into_iter().zip(picked).map(|(mut r, i)| r.swap_remove(i).1).collect()
}
