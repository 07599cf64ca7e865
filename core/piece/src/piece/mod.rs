//! A piece as one aggregate of data.

pub mod nearly_finished;
mod searched;
pub mod wanted;

pub use searched::Asked;

use crate::answered::Dismissal;
use crate::brief::Brief;
use crate::easel::Easel;
use crate::intent::Intent;
use crate::kept_as_text;
use crate::light::Lighting;
use crate::paint_box::BoxId;
use crate::reference::chart::{Chart, Wished};
use crate::reference::compositions::Compositions;
use crate::reference::planes::PlaneShape;
use crate::reference::{Other, Reference};
use crate::session::Session;
use crate::set::aim::{Aim, Mixing};
use crate::set::{ChosenSet, SearchKept};
use crate::studies::{Scheme, SheetSettings, Study, StudyNumber};
use crate::together::Together;
use crate::wall::Wall;
use crate::zones::{Cut, Mass, MassId, Zone, ZoneId};
use lean_colour::{Lab, Temperature};
use lean_media::{Ground, PigmentId, ground};
use lean_picture::kept_map::Geometry;
use lean_picture::{KeptMap, ZoneMap};
use lean_search::Demands;
use serde::{Deserialize, Serialize};

kept_as_text!(Piece);

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
    /// A second medium, and the Box it is taken from.
    #[serde(default)]
    pub together: Option<Together>,
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
    pub chosen_study: Option<StudyNumber>,
    /// The scheme the piece lives in since it went on with a study.
    #[serde(default)]
    pub scheme: Option<Scheme>,
    /// How they are printed.
    pub sheet: SheetSettings,
    /// Findings answered.
    pub dismissed: Vec<Dismissal>,
    /// Work done on it, first session first.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub sessions: Vec<Session>,
    /// How it is carried out.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub easel: Easel,
}

impl Piece {
    /// A piece with nothing but its brief.
    pub fn new(brief: Brief) -> Self {
        let aim = Aim::usual(brief.medium);
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
            together: None,
            reference: None,
            zone_map: None,
            cut: None,
            masses: Vec::new(),
            mass_map: None,
            zones: Vec::new(),
            locked: Vec::new(),
            excluded: Vec::new(),
            demands: Demands::default(),
            aim,
            mixing: Mixing::default(),
            search: None,
            chosen: ChosenSet::default(),
            studies: Vec::new(),
            chosen_study: None,
            scheme: None,
            sheet: SheetSettings::default(),
            dismissed: Vec::new(),
            sessions: Vec::new(),
            easel: Easel::default(),
        }
    }

    /// The ground it is made on; the medium's usual one when that is not known any more.
    pub fn ground(&self) -> Ground {
        ground::find(&self.brief.ground).unwrap_or_else(|| ground::usual(self.brief.medium))
    }

    /// Which zone every cell belongs to.
    pub fn map(&self) -> Option<&ZoneMap> {
        self.zone_map.as_ref().and_then(KeptMap::map)
    }

    /// Its places, their borders and areas; empty without zones.
    pub fn geometry(&self) -> &Geometry {
        static NOTHING: Geometry = Geometry { places: Vec::new(), borders: Vec::new(), areas: Vec::new(), extents: Vec::new() };
        self.zone_map.as_ref().map_or(&NOTHING, KeptMap::geometry)
    }

    /// Every map it names.
    pub fn maps_mut(&mut self) -> impl Iterator<Item = &mut KeptMap> {
        let hand = self.cut.as_mut().and_then(|c| c.hand.as_mut());
        [self.zone_map.as_mut(), hand, self.mass_map.as_mut()].into_iter().flatten()
    }

    /// Digests of every picture it names: references, the sheet of compositions, the wall, photos of its progress.
    pub fn pictures(&self) -> impl Iterator<Item = &str> {
        let main = self.reference.iter().map(|r| r.digest.as_str());
        let others = self.others.iter().map(|o| o.digest.as_str());
        let sheet = self.compositions.iter().map(|c| c.digest.as_str());
        let wall = self.wall.iter().map(|w| w.digest.as_str());
        main.chain(others).chain(sheet).chain(wall).chain(self.easel.photos.iter().map(|p| p.digest.as_str()))
    }

    /// The mass with this number.
    pub fn mass(&self, id: MassId) -> Option<&Mass> {
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
