//! Where the painting went its own way, and why.

use crate::brief::MOST_NAME;
use crate::zones::ZoneId;
use lean_colour::Lab;
use lean_picture::spot::Spot;
use serde::{Deserialize, Serialize};

/// Most departures kept with one piece.
pub const MOST_DEPARTURES: usize = 40;

/// What is other than planned.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case", tag = "was")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum DepartureKind {
    /// A zone is not painted; what lies round it goes on.
    LeftOut {
        /// Which.
        zone: ZoneId,
    },
    /// A zone lies elsewhere.
    Moved {
        /// Which.
        zone: ZoneId,
        /// To the right, as a share of the width.
        right: f64,
        /// Down, as a share of the height.
        down: f64,
    },
    /// Something is there that was not planned.
    Added {
        /// What it is called.
        name: String,
        /// Its middle.
        at: Spot,
        /// Its width and height, each 0.005..=0.8 of the picture's.
        size: Extent,
        /// Its colour.
        lab: Lab,
    },
}

/// How large something is.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Extent {
    /// Share of the picture's width.
    pub across: f64,
    /// Share of its height.
    pub down: f64,
}

/// A departure from the plan.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Departure {
    /// What is other than planned.
    pub change: DepartureKind,
    /// Why, at most 300 characters.
    pub reason: String,
}

impl Departure {
    pub(super) fn check(&self) -> Result<(), String> {
        let long = self.reason.chars().count();
        if long > crate::intent::MOST_WORDS {
            return Err(format!("The reason has {long} characters; {} fit.", crate::intent::MOST_WORDS));
        }
        match &self.change {
            DepartureKind::LeftOut { .. } => Ok(()),
            DepartureKind::Moved { right, down, .. } if (-1.0..=1.0).contains(right) && (-1.0..=1.0).contains(down) => Ok(()),
            DepartureKind::Moved { .. } => Err("A zone is moved by shares of the picture, from −1 to 1.".into()),
            DepartureKind::Added { name, at, size, lab } => {
                let words = name.trim().chars().count();
                if !(1..=MOST_NAME).contains(&words) {
                    return Err(format!("Say in 1 to {MOST_NAME} characters what was added."));
                }
                let within = |n: f64| (0.0..=1.0).contains(&n);
                let sized = |n: f64| (0.005..=0.8).contains(&n);
                let sound = within(at.x) && within(at.y) && sized(size.across) && sized(size.down) && (0.0..=100.0).contains(&lab.l);
                let coloured = lab.a.abs() <= 200.0 && lab.b.abs() <= 200.0;
                if sound && coloured { Ok(()) } else { Err("What was added lies outside the picture, or is no colour.".into()) }
            }
        }
    }
}
