//! What a miss costs: value first.

use lean_colour::difference::ciede2000;
use lean_colour::{D65, Lab};
use serde::{Deserialize, Serialize};

/// A wanted colour and how much it matters.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Target {
    /// The wanted colour.
    pub lab: Lab<D65>,
    /// Relative weight, ≥ 0.
    pub weight: f64,
}

/// Cost of a mix for a target: `value_weight·|ΔV| + CIEDE2000`, plus a heavy charge for leaving a value that must hold.
///
/// Both constants are choices, visible to the painter: with the default a whole step of value weighs as much as a colour difference of 20.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
pub struct Cost {
    /// Charge per step of value.
    pub value_weight: f64,
    /// Steps of value a mix may be off before [`HOLD_CHARGE`] is added; `None` when values are only weighed.
    pub hold: Option<f64>,
}

/// Charge per step beyond what [`Cost::hold`] allows. High enough that no hue is worth leaving the value for.
pub const HOLD_CHARGE: f64 = 400.0;

impl Default for Cost {
    fn default() -> Self {
        Self { value_weight: 20.0, hold: None }
    }
}

impl Cost {
    /// Values held within a quarter step.
    pub const QUARTER_STEP: f64 = 0.25;

    /// The charge for a value difference alone; the whole cost is never less.
    pub fn of_value(&self, dv: f64) -> f64 {
        let off = dv.abs();
        // Held a little inside the allowance, so that what is shown rounded is still inside it.
        let beyond = self.hold.map_or(0.0, |h| (off - 0.9 * h).max(0.0) * HOLD_CHARGE);
        self.value_weight * off + beyond
    }

    /// Cost of `mix` for `wanted`.
    pub fn of(&self, mix: Lab<D65>, wanted: Lab<D65>) -> f64 {
        self.of_value(mix.value().0 - wanted.value().0) + ciede2000(mix, wanted)
    }
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
    }

    #[test]
    fn holding_charges_only_beyond_the_allowance() {
        let held = Cost { hold: Some(0.25), ..Cost::default() };
        assert_eq!(held.of_value(0.2), Cost::default().of_value(0.2));
        assert!(held.of_value(0.5) > Cost::default().of_value(0.5) + 50.0);
    }
}
