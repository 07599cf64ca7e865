//! Mixes that share pigments where that cannot be seen: they belong together, and less is mixed afresh.

use lean_colour::{Lab, Share};
use lean_media::PigmentId;
use lean_recipes::{Cost, Mix};
use lean_search::Recipes;
use std::collections::BTreeMap;

/// How much more a recipe may cost than the best before anybody could see it: under a just noticeable difference, or a fortieth of a step of
/// value. A choice.
pub(crate) const INVISIBLE: f64 = 0.5;
/// Recipes weighed for each zone.
const LOOKED_AT: usize = 60;
/// Rounds until nothing changes; it settles in two or three.
const ROUNDS: usize = 12;

/// For each wanted colour, of the recipes nobody could tell from the best, the one whose pigments are most in use in the other zones (by area),
/// with fewer pigments before more. `None` where there is no recipe at all.
pub(super) fn related(recipes: &Recipes, wanted: &[Lab], areas: &[Share], cost: Cost) -> Vec<Option<Mix>> {
    let choices: Vec<Vec<Mix>> = wanted
        .iter()
        .map(|w| {
            let ranked = recipes.ranked(*w, cost, LOOKED_AT);
            let least = ranked.first().map_or(0.0, |r| r.0);
            ranked.into_iter().take_while(|r| r.0 <= least + INVISIBLE).map(|r| r.1).collect()
        })
        .collect();
    let mut picked = vec![0usize; wanted.len()];
    for _ in 0..ROUNDS {
        let mut changed = false;
        for zone in 0..wanted.len() {
            let in_use = use_of(&choices, &picked, areas, zone);
            let kin =
                |m: &Mix| m.parts.iter().map(|p| m.share_of(&p.pigment) * in_use.get(&p.pigment).copied().unwrap_or(0.0)).sum::<f64>();
            let better = |a: &Mix, b: &Mix| kin(a).total_cmp(&kin(b)).then(b.parts.len().cmp(&a.parts.len()));
            // Of equals the cheapest, which stands first.
            let best = (0..choices[zone].len()).rev().max_by(|a, b| better(&choices[zone][*a], &choices[zone][*b]));
            if let Some(best) = best.filter(|b| better(&choices[zone][*b], &choices[zone][picked[zone]]).is_gt()) {
                picked[zone] = best;
                changed = true;
            }
        }
        if !changed {
            break;
        }
    }
    choices.into_iter().zip(picked).map(|(c, i)| c.into_iter().nth(i)).collect()
}

/// Area each pigment is laid on in all zones but one.
fn use_of(choices: &[Vec<Mix>], picked: &[usize], areas: &[Share], but: usize) -> BTreeMap<PigmentId, f64> {
    let mut used = BTreeMap::new();
    for (zone, mixes) in choices.iter().enumerate().filter(|(zone, _)| *zone != but) {
        let Some(mix) = mixes.get(picked[zone]) else { continue };
        for p in &mix.parts {
            *used.entry(p.pigment.clone()).or_insert(0.0) += areas[zone].0 * mix.share_of(&p.pigment);
        }
    }
    used
}

#[cfg(test)]
mod tests {
    use super::*;
    use lean_media::{Pigment, library};
    use lean_recipes::{Grain, Limits, Wet};

    #[test]
    fn kin_share_more_and_nobody_sees_it() {
        let set: Vec<&Pigment> = ["PB29", "PY43", "PR101", "PY35", "PG7"].iter().filter_map(|id| library::find(id)).collect();
        let technique = Wet::of(&set, library::find("PW6"), Limits::default(), Grain::Parts);
        let recipes = Recipes::of(&technique);
        let wanted: Vec<Lab> =
            (0..12).map(|i| Lab::from_lch(25.0 + 5.0 * f64::from(i), 4.0 + f64::from(i % 4) * 4.0, 61.0 * f64::from(i))).collect();
        let cost = Cost::default();
        let kin = related(&recipes, &wanted, &[Share::ALL; 12], cost);
        let shared = |a: &Mix, b: &Mix| a.parts.iter().map(|p| a.share_of(&p.pigment) * b.share_of(&p.pigment)).sum::<f64>();
        let pairs =
            |mixes: &[Mix]| -> f64 { mixes.iter().enumerate().flat_map(|(i, a)| mixes[i + 1..].iter().map(|b| shared(a, b))).sum() };
        let alone: Vec<Mix> = wanted.iter().map(|w| recipes.best(*w, cost).unwrap().1).collect();
        let kin: Vec<Mix> = kin.into_iter().flatten().collect();
        assert!(pairs(&kin) > pairs(&alone), "{} {}", pairs(&kin), pairs(&alone));
        for (w, (k, a)) in wanted.iter().zip(kin.iter().zip(&alone)) {
            assert!(cost.of(k.lab, *w) <= cost.of(a.lab, *w) + INVISIBLE + 1e-9);
        }
    }
}
