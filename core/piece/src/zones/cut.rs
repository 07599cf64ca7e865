//! How the reference is cut into colours and places, and what the two dials did.

use super::{Zone, ZoneId};
use crate::light::{Distance, Plane, Which};
use lean_picture::KeptMap;
use lean_picture::places::Laid;
use serde::{Deserialize, Serialize};

/// The colours of a plan and the brush their places are laid with. The zone map follows from it and the picture.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
pub struct Cut {
    /// The smallest mark kept, as a share of the longer side of the picture.
    pub brush: f64,
    /// The shades told apart, each with its zone.
    pub shades: Vec<Laid>,
    /// The order in which shades join: `(kept, gone)`.
    pub joins: Vec<(usize, usize)>,
    /// What was laid by hand, 0 where nothing was.
    #[serde(default)]
    pub hand: Option<KeptMap>,
    /// What the dial of colours did last: the way back.
    #[serde(default)]
    pub turned: Vec<Turn>,
}

/// One step of the dial of colours, with what it takes to go back.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case", tag = "turn")]
pub enum Turn {
    /// One more.
    Parted {
        /// The zone before.
        whole: Box<Zone>,
        /// The zone that left it.
        left: ZoneId,
    },
    /// One less.
    Joined {
        /// The zone that took the other in, before.
        kept: Box<Zone>,
        /// The other.
        gone: Box<Zone>,
        /// Shades of the other.
        shades: Vec<usize>,
    },
}

/// Most turns of the dial that are remembered.
pub const MOST_TURNS: usize = 24;

/// Number of a mass inside its piece, from 1.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
#[serde(transparent)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct MassId(pub u16);

/// A big shape that holds together when squinting. What is said of it holds for its places unless a zone says otherwise.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Mass {
    /// Number on the map of masses.
    pub id: MassId,
    /// The painter's word for it; empty until given.
    pub name: String,
    /// Which way it faces.
    #[serde(default)]
    pub plane: Option<Plane>,
    /// How far off it is.
    #[serde(default)]
    pub distance: Option<Distance>,
    /// Which light falls on it, where there are two.
    #[serde(default)]
    pub light: Option<Which>,
}

impl Mass {
    /// A mass nothing is said of.
    pub fn new(id: MassId) -> Self {
        Self { id, name: String::new(), plane: None, distance: None, light: None }
    }

    /// Its name, or what it is called without one.
    pub fn label(&self) -> String {
        if self.name.is_empty() { format!("mass {}", self.id.0) } else { self.name.clone() }
    }
}
