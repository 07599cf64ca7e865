//! The nearest recipe that is less work.

use lean_colour::Lab;
use lean_recipes::cost::STEP;
use lean_recipes::{Cost, Mix};
use lean_search::Recipes;
use serde::Serialize;

/// How much worse a simpler recipe may be to be offered: half a step, or plainly another colour. A choice.
const MOST_WORSE: f64 = 10.0;

/// A recipe that is less work, and what it costs.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Simpler {
    /// What goes in.
    pub mix: Mix,
    /// How much more it misses by, in steps of value; below nothing where it misses by less.
    pub worse: f64,
    /// What taking it would come to: "Simpler, 0.2 of a step worse".
    pub words: String,
}

impl Simpler {
    fn of(mix: Mix, more: f64) -> Self {
        let worse = more / STEP;
        let words =
            if worse < HARDLY { "Simpler, and nobody sees the difference".into() } else { format!("Simpler, {worse:.1} of a step worse") };
        Self { mix, worse, words }
    }

    /// The recipe it stands for, where it was taken.
    pub fn undone(&self, fuller: Mix) -> Self {
        let words = if self.worse < HARDLY {
            "The fuller recipe looks the same".into()
        } else {
            format!("The fuller recipe, {:.1} of a step nearer", self.worse)
        };
        Self { mix: fuller, worse: -self.worse, words }
    }
}

/// Steps of value that nobody sees. A choice.
const HARDLY: f64 = 0.05;

/// The best recipe that takes less work than the best of all, `mix`; `None` where none comes near.
pub(super) fn than(mix: &Mix, recipes: &Recipes, wanted: Lab, cost: Cost) -> Option<Simpler> {
    let own = recipes.work_of_best(wanted, cost);
    if own <= 1 {
        return None;
    }
    let found = recipes.best_of_less_work(own, wanted, cost)?;
    let worse = (cost.of(found.lab, wanted) - cost.of(mix.lab, wanted)).max(0.0);
    (worse <= MOST_WORSE).then(|| Simpler::of(found, worse))
}

#[cfg(test)]
mod tests {
    use super::*;
    use lean_media::{Pigment, library};
    use lean_recipes::{Grain, Limits, Wet};

    #[test]
    fn what_is_offered_is_less_work_and_its_price_is_true() {
        let set: Vec<&Pigment> = ["PB29", "PY43", "PR101"].iter().filter_map(|id| library::find(id)).collect();
        let technique = Wet::of(&set, library::find("PW6"), Limits::default(), Grain::LetDowns);
        let recipes = Recipes::of(&technique);
        let cost = Cost::default();
        let mut offered = 0;
        for i in 0..12 {
            let wanted = Lab::from_lch(30.0 + 5.0 * f64::from(i), 12.0, 31.0 * f64::from(i));
            let (_, mix) = recipes.best(wanted, cost).unwrap();
            if let Some(s) = than(&mix, &recipes, wanted, cost) {
                offered += 1;
                let measured =
                    |m: &Mix| m.heaps.iter().map(|h| h.with.len() + usize::from(h.of_last > 0)).sum::<usize>().max(m.parts.len());
                assert!(measured(&s.mix) < measured(&mix));
                assert!((cost.of(mix.lab, wanted) + STEP * s.worse - cost.of(s.mix.lab, wanted)).abs() < 1e-9);
            }
        }
        assert!(offered > 3, "{offered} of twelve");
    }
}
