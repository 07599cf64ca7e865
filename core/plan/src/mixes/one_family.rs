//! The parts of a form laid with one family: recipes that share a pigment with that of its middle, where that costs little.

use lean_colour::Steps;
use lean_media::PigmentId;
use lean_piece::wanted::Wanted;
use lean_piece::{Piece, ZoneId};
use lean_recipes::{Cost, Mix};
use lean_search::Recipes;

/// Most that a recipe of the family may cost more than the best, in steps of value. A choice: less than a hand puts right.
const MORE: f64 = 0.5;
/// Recipes weighed for each part.
const LOOKED_AT: usize = 60;

/// For parts of forms the best recipe that shares a pigment of the set with the middle's, where one costs less than half a step more; every other zone
/// keeps its own.
pub(super) fn shared(piece: &Piece, recipes: &Recipes, wanted: &[Wanted], mut chosen: Vec<Option<Mix>>, cost: Cost) -> Vec<Option<Mix>> {
    let middle_of = |whole: ZoneId| wanted.iter().position(|w| w.zone == whole);
    let set = &piece.chosen.pigments;
    for (i, w) in wanted.iter().enumerate() {
        let Some(form) = piece.zone(w.zone).and_then(|z| z.form).filter(|f| f.whole != w.zone) else { continue };
        let Some(family) = middle_of(form.whole).and_then(|m| chosen[m].as_ref()).map(|mix| of_set(mix, set)) else { continue };
        if family.is_empty() || chosen[i].as_ref().is_none_or(|mix| shares(mix, &family)) {
            continue;
        }
        let ranked = recipes.ranked(w.target.lab, cost, LOOKED_AT);
        let least = ranked.first().map_or(0.0, |r| r.0);
        let kin = ranked.into_iter().take_while(|r| r.0 <= least + cost.of_value(Steps(MORE))).find(|r| shares(&r.1, &family));
        if let Some((_, mix)) = kin {
            chosen[i] = Some(mix);
        }
    }
    chosen
}

fn of_set(mix: &Mix, set: &[PigmentId]) -> Vec<PigmentId> {
    mix.parts.iter().map(|p| p.pigment.clone()).filter(|id| set.contains(id)).collect()
}

fn shares(mix: &Mix, family: &[PigmentId]) -> bool {
    mix.parts.iter().any(|p| family.contains(&p.pigment))
}
