//! Zones: the big simple shapes of a piece, and how they were cut.

pub(crate) mod cut;
mod surface;

pub use cut::{Cut, MOST_TURNS, Mass, MassId, Turn};
pub use surface::{Surface, SurfaceMix, Worked};

use crate::light::{Facts, Graded};
use lean_colour::Lab;
use lean_colour::real::toward_real;
use lean_picture::Reading;
use lean_picture::form::FormPart;
use serde::{Deserialize, Serialize};

/// Number of a zone inside its piece, from 1.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
#[serde(transparent)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ZoneId(pub u16);

/// How much a zone matters.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Importance {
    /// May be off a little.
    Quiet,
    /// As its area says.
    #[default]
    Usual,
    /// The eye goes there.
    Focal,
}

crate::worded! { Importance { Quiet: "background", Usual: "normal", Focal: "focal point" } }

impl Importance {
    /// Factor on the zone's weight. A choice.
    pub fn factor(self) -> f64 {
        match self {
            Self::Quiet => 0.4,
            Self::Usual => 1.0,
            Self::Focal => 2.5,
        }
    }
}

/// One big simple shape of the piece.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Zone {
    /// Number on the picture and in the field.
    pub id: ZoneId,
    /// The painter's word for it; empty until given.
    pub name: String,
    /// How much it matters.
    pub importance: Importance,
    /// What the reference reads there.
    pub reading: Reading,
    /// What it should be in the piece. Starts as the reading.
    pub target: Lab,
    /// How it stands in the light.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub facts: Facts,
    /// When the target runs to another colour: where to and which way.
    #[serde(default)]
    pub graded: Option<Graded>,
    /// Stays as it is when zones are proposed anew.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub kept: bool,
    /// A shape of a drawing that nobody gave a colour yet: it is neither planned nor paper.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub open: bool,
    /// The form it is a part of; none of a zone that was not turned.
    #[serde(default)]
    pub form: Option<Formed>,
    /// Several mixes it is laid in side by side; none where it is laid in one.
    #[serde(default)]
    pub surface: Option<Surface>,
}

/// A part of a zone that was turned in the light.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Formed {
    /// The zone that was turned: it is the middle of the form, and keeps its number.
    pub whole: ZoneId,
    /// The part of the form.
    pub part: FormPart,
    /// Target of the whole zone before it was turned.
    pub local: Lab,
}

impl Zone {
    /// This zone with another target; a run from colour to colour is moved as a whole.
    pub fn retargeted(&self, target: Lab) -> Self {
        let moved = |g: Graded| Graded {
            to: toward_real(Lab::new(
                (g.to.l + target.l - self.target.l).clamp(0.0, 100.0),
                g.to.a + target.a - self.target.a,
                g.to.b + target.b - self.target.b,
            )),
            ..g
        };
        let same = target == self.target;
        let graded = if same { self.graded } else { self.graded.map(moved) };
        Self { graded, target, surface: self.surface.clone().filter(|_| same), ..self.clone() }
    }

    /// This zone as it is after a change: what was given another colour is not open any more.
    pub(crate) fn replacing(self, old: &Self) -> Self {
        let given = self.target != old.target && self.target != self.reading.lab;
        // What was chosen for another colour is no surface of this one.
        let surface = self.surface.filter(|_| self.target == old.target);
        Self { open: self.open && !given, surface, ..self }
    }

    /// A zone as it was just read: nameless, its target what it reads.
    pub fn read(id: ZoneId, reading: Reading) -> Self {
        Self {
            id,
            name: String::new(),
            importance: Importance::Usual,
            target: reading.lab,
            reading,
            facts: Facts::default(),
            graded: None,
            kept: false,
            open: false,
            form: None,
            surface: None,
        }
    }
}
