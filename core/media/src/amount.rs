//! How much was put down, each medium in its own unit.

use crate::pigment::Parts;
use serde::{Deserialize, Serialize};

macro_rules! amount {
    ($(#[$doc:meta])* $name:ident) => {
        $(#[$doc])*
        #[derive(Clone, Copy, Debug, PartialEq, PartialOrd, Serialize, Deserialize)]
        #[serde(transparent)]
        pub struct $name(pub f64);
    };
}

amount!(
    /// Thickness X of a film, ≥ 0: 1 is where titanium white scatters once at 550 nm. A thin brush leaves about 2, a full coat 6 to 10 (a
    /// choice: white hides by about 10); washes are 0.05 to 0.5. Strength of a wash is thickness alone.
    Thickness
);
amount!(
    /// Dose of ink left by one coat of a marker, ≥ 0, in the units of [`Thickness`]: 0.03 to 0.1 for one coat.
    Dose
);
amount!(
    /// Pressure of a pencil, 0..=1.
    Pressure
);
amount!(
    /// Mass M of pastel laid, ≥ 0: 1 covers 63 % of the ground, 3 covers 95 %.
    Mass
);
amount!(
    /// Share of the pastel beneath that joins a stroke, 0..=1: 0 crisp, 0.3 to 0.6 rubbed.
    Rubbing
);

impl Thickness {
    /// Thickness of a wash of `pigment` parts of paint in `water` parts of water, from a brush with `load` (1 as usual) of a paint that would leave
    /// `self` undiluted. Strength of a wash is thickness alone: diluting changes nothing else.
    ///
    /// # Errors
    /// When a number is negative or both parts are zero.
    pub(crate) fn diluted(self, pigment: Parts, water: Parts, load: f64) -> Result<Self, String> {
        for (what, n) in [("thickness", self.0), ("paint", pigment.0), ("water", water.0), ("load", load)] {
            if !n.is_finite() || n < 0.0 {
                return Err(format!("{n} of {what}: it must be zero or more"));
            }
        }
        if pigment.0 + water.0 <= 0.0 {
            return Err("a wash of no paint and no water: give at least one of them some parts".into());
        }
        Ok(Self(self.0 * pigment.0 / (pigment.0 + water.0) * load))
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn water_only_thins() {
        let full = Thickness(0.6);
        assert_eq!(full.diluted(Parts(1.0), Parts(0.0), 1.0), Ok(full));
        assert!((full.diluted(Parts(1.0), Parts(3.0), 1.0).unwrap().0 - 0.15).abs() < 1e-12);
        assert_eq!(full.diluted(Parts(0.0), Parts(2.0), 1.0), Ok(Thickness(0.0)));
        assert!(full.diluted(Parts(0.0), Parts(0.0), 1.0).unwrap_err().contains("no paint"));
        assert!(full.diluted(Parts(1.0), Parts(-1.0), 1.0).unwrap_err().contains("water"));
    }
}
