//! How much was put down, each medium in its own unit.

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
