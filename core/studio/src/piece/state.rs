//! What a piece is.

use super::aim::{Aim, Mixing};
use crate::lean::{Demands, Mix, SetFound};
use crate::paint_box::BoxId;
use lean_colour::{Lab, Temperature};
use lean_media::{GroundId, Medium, PigmentId};
use lean_picture::{Reading, ZoneMap};
use serde::{Deserialize, Serialize};

/// Longest title or name, in characters.
pub const MOST_NAME: usize = 80;

/// A length in millimetres.
#[derive(Clone, Copy, Debug, PartialEq, PartialOrd, Serialize, Deserialize)]
#[serde(transparent)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Millimetres(pub f64);

/// Width and height of a piece or study.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Size {
    /// Across, 10..=3000 mm.
    #[cfg_attr(feature = "schema", schema(minimum = 10, maximum = 3000))]
    pub width: Millimetres,
    /// Down, 10..=3000 mm.
    #[cfg_attr(feature = "schema", schema(minimum = 10, maximum = 3000))]
    pub height: Millimetres,
}

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
}

/// What the piece is made from. The file itself is kept untouched under its digest.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Reference {
    /// SHA-256 of the file, in hexadecimal.
    pub digest: String,
    /// Name it was dropped under.
    pub file_name: String,
    /// Pixels across, upright.
    pub width: u32,
    /// Pixels down, upright.
    pub height: u32,
    /// Temperature of the picture's mean light: its own neutral, the middle of the field.
    pub neutral: Temperature,
}

/// What the piece is, before any picture.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Brief {
    /// Title, 1..=80 characters.
    pub title: String,
    /// Medium of the piece and of the Box it draws on.
    pub medium: Medium,
    /// Surface it is made on.
    pub ground: GroundId,
    /// Its size.
    pub size: Size,
}

/// Result of the last search with what it was based on.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct SearchKept {
    /// Fingerprint of zones, locks and Box at the time; when it differs from today's, the curve is out of date.
    pub basis: String,
    /// The zones the recipes belong to, in order.
    pub zones: Vec<ZoneId>,
    /// Best set of each size, smallest first.
    pub sizes: Vec<SetFound>,
}

/// The lean set in use.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ChosenSet {
    /// Pigments, white not counted.
    pub pigments: Vec<PigmentId>,
}

/// Which of the three studies.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum StudySlot {
    /// As read.
    A,
    /// Values held, hues from two opposites, one dominant.
    B,
    /// Values held, hues from neighbours on the circle.
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

/// A finding the painter has answered.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Dismissal {
    /// Key of the finding.
    pub finding: String,
    /// The painter's reason; may be empty.
    pub reason: String,
}

/// One planned work.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Piece {
    /// What it is.
    pub brief: Brief,
    /// The Box it draws on.
    pub paint_box: Option<BoxId>,
    /// What it is made from.
    pub reference: Option<Reference>,
    /// Which zone every place belongs to.
    #[cfg_attr(feature = "schema", schema(value_type = Option<Object>))]
    pub zone_map: Option<ZoneMap>,
    /// The zones, by number.
    pub zones: Vec<Zone>,
    /// Pigments every set must hold.
    pub locked: Vec<PigmentId>,
    /// Pigments no set may hold.
    pub excluded: Vec<PigmentId>,
    /// What else is asked of a set.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub demands: Demands,
    /// What the search aims at.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub aim: Aim,
    /// How mixes are made from a set.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub mixing: Mixing,
    /// The last search.
    pub search: Option<SearchKept>,
    /// The set in use.
    pub chosen: ChosenSet,
    /// The studies made.
    pub studies: Vec<Study>,
    /// The study carried forward.
    pub chosen_study: Option<StudySlot>,
    /// How they are printed.
    pub sheet: SheetSettings,
    /// Findings answered.
    pub dismissed: Vec<Dismissal>,
}

impl Piece {
    /// A piece with nothing but its brief.
    pub fn new(brief: Brief) -> Self {
        Self {
            brief,
            paint_box: None,
            reference: None,
            zone_map: None,
            zones: Vec::new(),
            locked: Vec::new(),
            excluded: Vec::new(),
            demands: Demands::default(),
            aim: Aim::default(),
            mixing: Mixing::default(),
            search: None,
            chosen: ChosenSet::default(),
            studies: Vec::new(),
            chosen_study: None,
            sheet: SheetSettings::default(),
            dismissed: Vec::new(),
        }
    }

    /// The zone with this number.
    pub fn zone(&self, id: ZoneId) -> Option<&Zone> {
        self.zones.iter().find(|z| z.id == id)
    }

    /// Temperature at the middle of the field: the picture's own neutral.
    pub fn neutral(&self) -> Temperature {
        self.reference.as_ref().map_or(Temperature(0.0), |r| r.neutral)
    }

    /// What a zone is called when it has no name.
    pub fn zone_label(&self, id: ZoneId) -> String {
        self.zone(id).map(|z| z.name.clone()).filter(|n| !n.is_empty()).unwrap_or_else(|| format!("zone {}", id.0))
    }
}
