//! The nearest recipe that is less work.

use lean_colour::Lab;
use lean_recipes::{Cost, Mix};
use lean_search::Recipes;
use serde::Serialize;

/// Recipes looked through.
const LOOKED_AT: usize = 120;
/// How much worse a simpler recipe may be to be offered: half a step, or plainly another colour. A choice.
const MOST_WORSE: f64 = 10.0;

/// A recipe that is less work, and what it costs.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Simpler {
    /// What goes in.
    pub mix: Mix,
    /// How much more it misses by, in units of cost: twenty a step of value.
    pub worse: f64,
}

/// How many things are measured or laid for a mix.
fn work(mix: &Mix) -> usize {
    let heaps: usize = mix.heaps.iter().map(|h| h.with.len() + usize::from(h.of_last > 0)).sum();
    let layers: usize = mix.layers.iter().map(|l| l.of.len()).sum();
    heaps.max(layers).max(mix.parts.len())
}

/// The best recipe that takes less work than `mix`; `None` where none comes near.
pub fn than(mix: &Mix, recipes: &Recipes, wanted: Lab, cost: Cost) -> Option<Simpler> {
    let (own, least) = (work(mix), cost.of(mix.lab, wanted));
    if own <= 1 {
        return None;
    }
    let found = recipes.ranked(wanted, cost, LOOKED_AT).into_iter().map(|r| r.1).find(|m| work(m) < own && !m.is_bare_ground())?;
    let worse = (cost.of(found.lab, wanted) - least).max(0.0);
    (worse <= MOST_WORSE).then_some(Simpler { mix: found, worse })
}

#[cfg(test)]
mod tests {
    use super::*;
    use lean_media::{Pigment, library};
    use lean_recipes::{Grain, Limits, Wet};

    #[test]
    fn what_is_offered_is_less_work_and_its_price_is_true() {
        let set: Vec<&Pigment> = ["PB29", "PY43", "PR101"].iter().filter_map(|id| library::find(id)).collect();
        let craft = Wet::of(&set, library::find("PW6"), Limits::default(), Grain::LetDowns);
        let recipes = Recipes::of(&craft);
        let cost = Cost::default();
        let mut offered = 0;
        for i in 0..12 {
            let wanted = Lab::from_lch(30.0 + 5.0 * f64::from(i), 12.0, 31.0 * f64::from(i));
            let (_, mix) = recipes.best(wanted, cost).unwrap();
            if let Some(s) = than(&mix, &recipes, wanted, cost) {
                offered += 1;
                assert!(work(&s.mix) < work(&mix));
                assert!((cost.of(mix.lab, wanted) + s.worse - cost.of(s.mix.lab, wanted)).abs() < 1e-9);
            }
        }
        assert!(offered > 3, "{offered} of twelve");
    }
}
