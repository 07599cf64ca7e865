//! What a piece is.

use super::aim::{Aim, Mixing};
use super::cut::{Cut, Mass};
use super::session::Session;
use super::subject::{Chart, Compositions, Other, PlaneShape, Serves, Wished};
use crate::intent::Intent;
use crate::light::{Facts, Graded, Lighting};
use crate::paint_box::BoxId;
use crate::wall::Wall;
use lean_colour::{Lab, Temperature};
use lean_media::{GroundId, Medium, PigmentId};
use lean_picture::frame::Frame;
use lean_picture::kept_map::Geometry;
use lean_picture::{KeptMap, Reading, ZoneMap};
use lean_recipes::Mix;
use lean_search::{Demands, SetFound};
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
}

impl Zone {
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
        }
    }
}

/// Size of a picture.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct PixelSize {
    /// Pixels across.
    pub width: u32,
    /// Pixels down.
    pub height: u32,
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
    /// What it is used for; empty for everything.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub serves: Vec<Serves>,
    /// What of the file is looked at, and how. Width and height are those of the framed picture.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub frame: Frame,
    /// Pixels of the whole file, upright; none when it was never framed.
    #[serde(default)]
    pub full: Option<PixelSize>,
    /// A drawing in lines: its closed outlines are the zones.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub lines: bool,
    /// Share of its linear resolution that it uses, above 0 to 1: a blurred photo has fewer pixels than it counts.
    #[serde(default = "sharp")]
    #[cfg_attr(feature = "schema", schema(required = true, minimum = 0, maximum = 1))]
    pub sharpness: f64,
}

fn sharp() -> f64 {
    1.0
}

impl Reference {
    /// Pixels of the whole file, upright.
    pub fn full_size(&self) -> (u32, u32) {
        self.full.map_or((self.width, self.height), |f| (f.width, f.height))
    }

    /// A reference looked at whole and as it is, for everything; it counts as sharp.
    pub fn whole(digest: String, file_name: String, (width, height): (u32, u32), neutral: Temperature) -> Self {
        Self {
            digest,
            file_name,
            width,
            height,
            neutral,
            serves: Vec::new(),
            frame: Frame::default(),
            full: None,
            lines: false,
            sharpness: 1.0,
        }
    }
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
    /// The zones the recipes belong to, in order; a graded zone once more for each further stop.
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
    /// What it is for and by which rules it is made.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub intent: Intent,
    /// The place it will hang.
    #[serde(default)]
    pub wall: Option<Wall>,
    /// What falls on it.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub lighting: Lighting,
    /// Other references beside the one zones are found in.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub others: Vec<Other>,
    /// A sheet of pencil compositions, cut apart.
    #[serde(default)]
    pub compositions: Option<Compositions>,
    /// Planes dragged into place when there is no reference.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub planes: Vec<PlaneShape>,
    /// The colours of the reference as a chart.
    #[serde(default)]
    pub chart: Option<Chart>,
    /// Colours of another picture this piece's set should serve too.
    #[serde(default)]
    pub wished: Option<Wished>,
    /// The Box it draws on.
    pub paint_box: Option<BoxId>,
    /// What it is made from.
    pub reference: Option<Reference>,
    /// Which zone every place belongs to.
    #[cfg_attr(feature = "schema", schema(value_type = Option<Object>))]
    pub zone_map: Option<KeptMap>,
    /// The colours and the brush it was cut with; none where zones were laid in another way.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(value_type = Option<Object>))]
    pub cut: Option<Cut>,
    /// The masses, by number.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub masses: Vec<Mass>,
    /// Which mass every place belongs to.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(value_type = Option<Object>))]
    pub mass_map: Option<KeptMap>,
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
    /// Work done on it, first session first.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub sessions: Vec<Session>,
}

impl Piece {
    /// A piece with nothing but its brief.
    pub fn new(brief: Brief) -> Self {
        Self {
            brief,
            intent: Intent::default(),
            wall: None,
            lighting: Lighting::default(),
            others: Vec::new(),
            compositions: None,
            planes: Vec::new(),
            chart: None,
            wished: None,
            paint_box: None,
            reference: None,
            zone_map: None,
            cut: None,
            masses: Vec::new(),
            mass_map: None,
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
            sessions: Vec::new(),
        }
    }

    /// Which zone every cell belongs to.
    pub fn map(&self) -> Option<&ZoneMap> {
        self.zone_map.as_ref().and_then(KeptMap::map)
    }

    /// Its places, their borders and areas; empty without zones.
    pub fn geometry(&self) -> &Geometry {
        static NOTHING: Geometry = Geometry { places: Vec::new(), borders: Vec::new(), areas: Vec::new() };
        self.zone_map.as_ref().map_or(&NOTHING, KeptMap::geometry)
    }

    /// Every map it names.
    pub fn maps_mut(&mut self) -> impl Iterator<Item = &mut KeptMap> {
        let hand = self.cut.as_mut().and_then(|c| c.hand.as_mut());
        [self.zone_map.as_mut(), hand, self.mass_map.as_mut()].into_iter().flatten()
    }

    /// The mass with this number.
    pub fn mass(&self, id: super::cut::MassId) -> Option<&Mass> {
        self.masses.iter().find(|m| m.id == id)
    }

    /// The zone with this number.
    pub fn zone(&self, id: ZoneId) -> Option<&Zone> {
        self.zones.iter().find(|z| z.id == id)
    }

    /// What a zone should be, within the rules of the game: nothing below its limit.
    pub fn wanted(&self, zone: &Zone) -> Lab {
        self.within_rules(zone.target)
    }

    /// A colour lifted to the value below which nothing may lie.
    pub fn within_rules(&self, lab: Lab) -> Lab {
        match self.intent.games.nothing_below {
            Some(limit) if lab.value().0 < limit => lean_colour::moves::with_value(lab, lean_colour::Value(limit)),
            _ => lab,
        }
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
