//! What is asked of the search, and whether it can be asked.

pub mod demands;
pub(crate) mod families;
pub(crate) mod judgement;
pub(crate) mod no_answer;

use demands::Demands;
use lean_media::{Ground, Medium, Pigment, PigmentId};
use lean_recipes::cost::{Cost, Target};
use lean_recipes::{Grain, Limits};
use no_answer::NoAnswer;
use std::ops::RangeInclusive;

/// Most targets one search takes, over all its pieces.
pub(crate) const MOST_TARGETS: usize = 96;
/// Largest set searched for in any medium.
pub const MOST_IN_SET: usize = 24;

/// Largest set searched for in a medium: few where colours are mixed wet, more where a pan is at hand, and a stick, pen or pencil for each value
/// where colours are chosen rather than mixed.
pub fn most_in_set(medium: Medium) -> usize {
    match medium {
        Medium::Oil => 8,
        Medium::Watercolour => 12,
        Medium::Marker | Medium::Pencil | Medium::SoftPastel => MOST_IN_SET,
    }
}

/// What the painter has decided about the set beforehand.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Choice {
    /// Must be in every set.
    pub locked: Vec<PigmentId>,
    /// Must be in none.
    pub excluded: Vec<PigmentId>,
    /// What else is asked.
    pub demands: Demands,
    /// How parts of wet mixes are measured.
    pub grain: Grain,
}

/// One piece a set has to serve.
#[derive(Clone, Debug, PartialEq)]
pub struct Need {
    /// The ground it is made on.
    pub ground: Ground,
    /// What it needs.
    pub targets: Vec<Target>,
    /// What a miss costs.
    pub cost: Cost,
    /// How much it counts against the others, ≥ 0.
    pub weight: f64,
}

/// What is asked of the search.
pub struct Ask<'a> {
    /// Everything owned.
    pub pigments: &'a [Pigment],
    /// Its medium.
    pub medium: Medium,
    /// The piece, or the pieces, to serve.
    pub needs: &'a [Need],
    /// What is decided beforehand.
    pub choice: &'a Choice,
    /// How many pigments, white not counted.
    pub sizes: RangeInclusive<usize>,
}

pub(crate) fn check(ask: &Ask) -> Result<(), NoAnswer> {
    let (least, most) = (*ask.sizes.start(), *ask.sizes.end());
    let largest = most_in_set(ask.medium);
    if least < 1 || most > largest || least > most {
        return Err(NoAnswer::Sizes(least, most, largest));
    }
    for (i, p) in ask.pigments.iter().enumerate() {
        if ask.pigments[..i].iter().any(|q| q.id == p.id) {
            return Err(NoAnswer::Duplicate(p.id.clone()));
        }
    }
    let targets: Vec<&Target> = ask.needs.iter().flat_map(|n| &n.targets).collect();
    if let Some((i, t)) = targets.iter().enumerate().find(|(_, t)| !t.weight.is_finite() || t.weight < 0.0) {
        return Err(NoAnswer::Weight(i + 1, t.weight));
    }
    let counts = |n: &Need| n.weight > 0.0 && n.targets.iter().any(|t| t.weight > 0.0);
    if !ask.needs.iter().any(counts) {
        return Err(NoAnswer::NoTargets);
    }
    if targets.len() > MOST_TARGETS {
        return Err(NoAnswer::TooManyTargets(targets.len()));
    }
    ask.choice.demands.check().map_err(NoAnswer::Demand)
}

/// The whites of a Box that are at hand in this medium: the strongest, or none where bare paper plays its part.
pub fn white_of(pigments: &[Pigment], medium: Medium) -> Option<&Pigment> {
    let whites = pigments.iter().filter(|p| p.white && medium.has_white());
    whites.max_by(|a, b| a.s[17].total_cmp(&b.s[17]))
}

/// Limits of mixes that follow from demands; `index` finds a pigment's number.
pub(crate) fn limits(demands: &Demands, index: impl Fn(&PigmentId) -> Option<usize>) -> Result<Limits, NoAnswer> {
    let usual = Limits::default();
    let mother = match &demands.mother {
        None => None,
        Some(m) => Some((index(&m.pigment).ok_or_else(|| NoAnswer::NotInBox(m.pigment.clone()))?, m.share)),
    };
    Ok(Limits {
        most_pigments: demands.most_in_mix.map_or(usual.most_pigments, usize::from),
        most_layers: demands.most_layers.map_or(usual.most_layers, usize::from),
        mother,
        unusual: demands.unusual_layers,
    })
}
