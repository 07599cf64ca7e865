//! What a miss costs: value first.

pub mod quick;

use crate::mix::Mix;
use lean_colour::difference::ciede2000;
use lean_colour::moves::with_value;
use lean_colour::{D65, Lab, Steps, Temperature, Value};
use lean_media::Medium;
use serde::{Deserialize, Serialize};

/// A wanted colour and how much it matters.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Target {
    /// The wanted colour.
    pub lab: Lab<D65>,
    /// Relative weight, ≥ 0.
    pub weight: f64,
}

/// What counts besides value.
#[derive(Clone, Copy, Debug, Default, PartialEq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case", tag = "kind")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Colour {
    /// The whole difference (CIEDE2000).
    #[default]
    Whole,
    /// Only that a warm target stays warm and a cool one cool, relative to the picture's neutral; hue and chroma are free.
    SideOnly {
        /// Temperature of the picture's neutral.
        neutral: Temperature,
    },
}

/// Misses too small to be seen, which cost nothing: no pigment is spent on them.
#[derive(Clone, Copy, Debug, Default, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Tolerance {
    /// Steps of value.
    pub value: f64,
    /// CIEDE2000.
    pub colour: f64,
}

/// Ranking of recipes and sets besides by what they miss. All are choices, visible to the painter.
#[derive(Clone, Copy, Debug, Default, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Ranking {
    /// Charge per unit that a slip of the hand moves a mix, see [`Hand::slip`](crate::hand::Hand).
    pub slip: f64,
    /// Charge for every layer or heap beyond the first; a further coat of the same thing is charged a part of it.
    pub layer: f64,
    /// Further charge for every layer beyond the second: what a third must gain.
    #[serde(default)]
    pub third: f64,
    /// How much faster than its miss a zone's charge grows: a miss of `m` is charged as `m·(1 + growth·m)`, so that no zone is given up for the
    /// mean of the others. Convex, so that the least charge is that of the least miss.
    pub growth: f64,
}

/// Steps of value a second layer is charged as in a medium that is chosen rather than mixed; `None` in the others.
pub fn usual_layer(medium: Medium) -> Option<f64> {
    match medium {
        Medium::SoftPastel => Some(0.15),
        Medium::Marker => Some(0.2),
        Medium::Pencil => Some(0.05),
        Medium::Watercolour | Medium::Oil => None,
    }
}

/// Steps of value below which a layer is charged next to nothing.
const MANY_LAYERS: f64 = 0.05;
/// Further charge for a third layer: half a step of value.
const THIRD: f64 = 10.0;

impl Ranking {
    /// By the miss alone.
    pub const MISS: Self = Self { slip: 0.0, layer: 0.0, third: 0.0, growth: 0.0 };
    /// What a hand can be sure of, and no zone given up. Over 114 recipes in five media a slip charged by half goes with what nine hands in ten
    /// stay within.
    pub const SURE: Self = Self { slip: 0.5, layer: 0.7, third: 0.0, growth: 0.05 };

    /// Ranking of recipes of a medium unless the painter says otherwise: what is chosen rather than mixed is laid once, or one over another; a
    /// third layer has to gain half a step of value or a difference of five.
    pub fn usual(medium: Medium) -> Self {
        usual_layer(medium).map_or(Self::SURE, |steps| Self::layered(Steps(steps)))
    }

    /// A second layer charged as so many steps of value. Where that is next to nothing, a third is charged no more than a second.
    pub fn layered(steps: Steps) -> Self {
        Self { layer: STEP * steps.0, third: if steps.0 < MANY_LAYERS { 0.0 } else { THIRD }, ..Self::SURE }
    }

    /// Charge for a hand that slips so far over so many layers beyond the first.
    pub(crate) fn of_hand(&self, hand: crate::hand::Hand) -> f64 {
        self.slip * hand.slip + self.of_layers(hand.more_layers)
    }

    /// Charge for so many layers beyond the first.
    pub fn of_layers(&self, n: f64) -> f64 {
        self.layer * n + self.third * (n - 1.0).max(0.0)
    }

    /// What a zone that misses by `miss` counts in a set.
    pub fn of_zone(&self, miss: f64) -> f64 {
        miss * (1.0 + self.growth * miss)
    }

    /// The miss a zone counts `charge` for.
    pub fn miss_of(&self, charge: f64) -> f64 {
        if self.growth > 0.0 { ((1.0 + 4.0 * self.growth * charge).sqrt() - 1.0) / (2.0 * self.growth) } else { charge }
    }
}

/// Values that can be had at all, from the darkest to the lightest: nobody is charged for the value that nobody can give.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Within {
    /// Darkest value, 0..=10.
    pub darkest: f64,
    /// Lightest value, 0..=10.
    pub lightest: f64,
}

impl Within {
    /// The whole ladder: nothing is known yet of what can be had, and colours are compared as they are.
    pub const LADDER: Self = Self { darkest: 0.0, lightest: 10.0 };

    /// From the darkest to the lightest of some colours; the whole ladder without any.
    pub fn of(colours: impl Iterator<Item = Value>) -> Self {
        let ends = colours.fold((f64::INFINITY, f64::NEG_INFINITY), |(a, b), v| (a.min(v.0), b.max(v.0)));
        if ends.0 <= ends.1 { Self { darkest: ends.0, lightest: ends.1 } } else { Self::LADDER }
    }

    /// A value as near as can be had.
    pub fn fit(&self, value: Value) -> Value {
        Value(value.0.max(self.darkest).min(self.lightest))
    }

    /// What is left of the weight of a step for a wanted value, [`LEAST_WEIGHT`]..=1: near the darkest that can be had, and beyond either end, hue and
    /// chroma are kept rather than the last tenths of a step.
    fn weight(&self, value: Value) -> f64 {
        let inside = if value.0 > self.lightest { 0.0 } else { (self.fit(value).0 - self.darkest) / FADES };
        LEAST_WEIGHT + (1.0 - LEAST_WEIGHT) * inside.min(1.0)
    }
}

/// Share of the weight of a step that is left at the ends of what can be had: eight where it is twenty. On seven darks of six photographs this
/// brought hues from 17.3 to 10.5 CIEDE2000 off for a third of a step.
pub(crate) const LEAST_WEIGHT: f64 = 0.4;
/// Steps above the darkest value that can be had over which the weight of a step comes back.
const FADES: f64 = 1.5;

/// Cost of a mix for a target: `value_weight·|ΔV| + CIEDE2000`, both beyond a tolerance, plus a heavy charge for leaving a value that must hold.
///
/// All constants are choices, visible to the painter: with the default a whole step of value weighs as much as a colour difference of 20.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
pub struct Cost {
    /// Charge per step of value.
    pub value_weight: f64,
    /// Steps of value a mix may be off before [`HOLD_CHARGE`] is added; `None` when values are only weighed.
    pub hold: Option<f64>,
    /// What counts besides value.
    #[serde(default)]
    pub colour: Colour,
    /// What is too small to count.
    #[serde(default)]
    pub tolerance: Tolerance,
    /// What counts besides the miss.
    #[serde(default)]
    pub ranking: Ranking,
    /// Values that can be had: wanted ones are compared after they were [fitted](Within::fit) into them. `None` compares them as they are.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub within: Option<Within>,
}

/// Charge per step beyond what [`Cost::hold`] allows. High enough that no hue is worth leaving the value for.
pub(crate) const HOLD_CHARGE: f64 = 400.0;
/// Charge per unit of temperature on the wrong side of neutral: forty units weigh as much as a step of value. A choice.
pub(crate) const SIDE_CHARGE: f64 = 0.5;

/// What a step of value costs: as much as a colour difference of twenty. A choice: value first.
pub const STEP: f64 = 20.0;

/// How far two colours lie apart: [`STEP`] a step of value, and CIEDE2000.
pub fn apart(one: Lab<D65>, other: Lab<D65>) -> f64 {
    STEP * (one.value().0 - other.value().0).abs() + ciede2000(one, other)
}

impl Default for Cost {
    fn default() -> Self {
        Self {
            value_weight: STEP,
            hold: None,
            colour: Colour::Whole,
            tolerance: Tolerance::default(),
            ranking: Ranking::MISS,
            within: None,
        }
    }
}

impl Cost {
    /// Values held within a quarter step.
    pub const QUARTER_STEP: f64 = 0.25;
    /// Good enough for the eye: within a quarter step and a difference of 2. A choice.
    pub const GOOD_ENOUGH: Tolerance = Tolerance { value: Self::QUARTER_STEP, colour: 2.0 };

    /// Every difference alike, value not put first.
    pub fn strict() -> Self {
        Self { value_weight: 0.0, ..Self::default() }
    }

    /// Values, and on which side of neutral: hue and chroma free.
    pub fn values_only(neutral: Temperature) -> Self {
        Self { colour: Colour::SideOnly { neutral }, ..Self::default() }
    }

    /// The charge for a value difference alone; the whole cost is never less.
    pub fn of_value(&self, by: Steps) -> f64 {
        let off = by.0.abs();
        // Held a little inside the allowance, so that what is shown rounded is still inside it.
        let beyond = self.hold.map_or(0.0, |h| (off - 0.9 * h).max(0.0) * HOLD_CHARGE);
        self.value_weight * (off - self.tolerance.value).max(0.0) + beyond
    }

    /// The charge for all that is not value.
    pub fn of_colour(&self, mix: Lab<D65>, wanted: Lab<D65>) -> f64 {
        match self.colour {
            Colour::Whole => (ciede2000(mix, wanted) - self.tolerance.colour).max(0.0),
            Colour::SideOnly { neutral } => {
                let wrong = -side(wanted, neutral) * mix.temperature().warmer_than(neutral);
                SIDE_CHARGE * wrong.max(0.0)
            }
        }
    }

    /// What a recipe is ranked by for `wanted`: what it misses by, and how sure a hand is of it.
    pub fn of_mix(&self, mix: &Mix, wanted: Lab<D65>) -> f64 {
        self.of(mix.lab, wanted) + self.ranking.of_hand(mix.hand())
    }

    /// The colour a wanted one is compared as, and the cost it is compared with: fitted into [`within`](Self::within), if that is known.
    pub fn toward(self, wanted: Lab<D65>) -> (Lab<D65>, Self) {
        let Some(within) = self.within.filter(|w| *w != Within::LADDER) else { return (wanted, Self { within: None, ..self }) };
        let (value, fitted) = (wanted.value(), within.fit(wanted.value()));
        let lab = if fitted == value { wanted } else { with_value(wanted, fitted) };
        (lab, Self { value_weight: self.value_weight * within.weight(value), within: None, ..self })
    }

    /// Cost of `mix` for `wanted`.
    pub fn of(&self, mix: Lab<D65>, wanted: Lab<D65>) -> f64 {
        if self.within.is_some() {
            let (wanted, cost) = self.toward(wanted);
            return cost.of(mix, wanted);
        }
        self.of_value(Steps(mix.value().0 - wanted.value().0)) + self.of_colour(mix, wanted)
    }
}

/// 1 for a target that is warm, −1 for a cool one, 0 for one that is neither.
pub fn side(wanted: Lab<D65>, neutral: Temperature) -> f64 {
    let t = wanted.temperature().warmer_than(neutral);
    if t.abs() < lean_colour::temperature::SAME { 0.0 } else { t.signum() }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_step_of_value_outweighs_a_visible_hue() {
        let c = Cost::default();
        let wanted = Lab::new(50.0, 10.0, 10.0);
        assert_eq!(c.of(wanted, wanted), 0.0);
        let darker = Lab::new(40.0, 10.0, 10.0);
        let duller = Lab::new(50.0, 0.0, 0.0);
        assert!(c.of(darker, wanted) > c.of(duller, wanted));
        assert!((Cost::strict().of(duller, wanted) - ciede2000(duller, wanted)).abs() < 1e-12);
    }

    #[test]
    fn holding_charges_only_beyond_the_allowance() {
        let held = Cost { hold: Some(0.25), ..Cost::default() };
        assert_eq!(held.of_value(Steps(0.2)), Cost::default().of_value(Steps(0.2)));
        assert!(held.of_value(Steps(0.5)) > Cost::default().of_value(Steps(0.5)) + 50.0);
    }

    #[test]
    fn values_only_leaves_the_hue_free_on_its_side() {
        let cost = Cost::values_only(Temperature(0.0));
        let (warm, cool) = (Lab::new(50.0, 20.0, 30.0), Lab::new(50.0, -20.0, -30.0));
        assert_eq!(cost.of(Lab::new(50.0, 40.0, 10.0), warm), 0.0);
        assert!(cost.of(cool, warm) > 10.0 && cost.of(warm, cool) > 10.0);
        assert_eq!(cost.of(cool, Lab::new(50.0, 0.0, 0.0)), 0.0, "a neutral target takes either side");
    }

    #[test]
    fn nobody_is_charged_for_a_value_that_cannot_be_had() {
        let within = Within { darkest: 2.0, lightest: 9.0 };
        let cost = Cost { within: Some(within), ..Cost::default() };
        let brown = Lab::from_lch(8.0, 14.0, 55.0);
        let (black, umber) = (Lab::from_lch(20.5, 1.0, 55.0), Lab::from_lch(26.0, 13.0, 55.0));
        assert!(cost.of(umber, brown) < cost.of(black, brown), "{} {}", cost.of(umber, brown), cost.of(black, brown));
        assert!(Cost::default().of(umber, brown) > Cost::default().of(black, brown), "without it the darkest is nearest");
        let middle = Lab::from_lch(60.0, 20.0, 55.0);
        assert_eq!(cost.of(umber, middle), Cost::default().of(umber, middle), "well inside nothing changes");
    }

    #[test]
    fn what_cannot_be_seen_costs_nothing() {
        let cost = Cost { tolerance: Cost::GOOD_ENOUGH, ..Cost::default() };
        let wanted = Lab::new(50.0, 10.0, 10.0);
        assert_eq!(cost.of(Lab::new(51.0, 10.5, 10.0), wanted), 0.0);
        assert!(cost.of(Lab::new(58.0, 10.0, 10.0), wanted) > 0.0);
    }
}
