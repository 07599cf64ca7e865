//! Studies: small colour versions of a piece, and how they are printed.

use crate::units::Millimetres;
use crate::zones::ZoneId;
use lean_colour::Lab;
use lean_media::PigmentId;
use lean_recipes::Mix;
use serde::{Deserialize, Serialize};

/// Which of the three studies.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum StudySlot {
    /// As read.
    A,
    /// Values held, hues from two opposites, one dominant; from neighbours where the mood asks for them.
    B,
    /// Values held, hues from the other of these two.
    C,
}

/// Where the hues of a study come from.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case", tag = "kind")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Schemed {
    /// The targets as they are.
    AsRead,
    /// Two hues across the circle; the first rules.
    Opposites {
        /// Hue angle in CIELAB, degrees.
        dominant: f64,
        /// Hue angle of the other.
        other: f64,
    },
    /// A stretch of the circle.
    Neighbours {
        /// Hue angle at the cool end.
        from: f64,
        /// Hue angle at the warm end.
        to: f64,
    },
}

/// One zone of a study.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct StudyMix {
    /// Which zone.
    pub zone: ZoneId,
    /// What was wanted there.
    pub wanted: Lab,
    /// Recipe and colour.
    pub mix: Mix,
}

/// A small colour version of the piece.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Study {
    /// Which of the three.
    pub slot: StudySlot,
    /// Where its hues come from.
    pub scheme: Schemed,
    /// Its own lean set.
    pub pigments: Vec<PigmentId>,
    /// Cost of that set for this study's wishes.
    pub cost: f64,
    /// Every zone in its mix.
    pub mixes: Vec<StudyMix>,
    /// Fingerprint of zones, locks and Box it was made from.
    pub basis: String,
}

/// Paper in the printer.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum PageFormat {
    /// 210 × 297 mm (ISO 216).
    #[default]
    A4,
    /// 215.9 × 279.4 mm.
    Letter,
}

/// How studies are laid out for printing.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct SheetSettings {
    /// Longer side of each study on paper.
    #[cfg_attr(feature = "schema", schema(minimum = 20, maximum = 300))]
    pub longer_side: Millimetres,
    /// Paper.
    pub page: PageFormat,
}

impl Default for SheetSettings {
    fn default() -> Self {
        Self { longer_side: Millimetres(100.0), page: PageFormat::A4 }
    }
}
