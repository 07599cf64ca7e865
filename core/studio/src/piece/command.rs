//! Everything that can be done to a piece.

use super::aim::{Aim, Mixing};
use super::cut::{Cut, Mass};
use super::session::Session;
use super::state::{Brief, ChosenSet, Dismissal, Importance, Reference, SearchKept, SheetSettings, Study, StudySlot, Zone, ZoneId};
use super::subject::{Chart, Compositions, Other, PlaneShape, Serves, Wished};
use crate::intent::Intent;
use crate::light::Lighting;
use crate::paint_box::BoxId;
use crate::wall::Wall;
use lean_colour::Lab;
use lean_media::PigmentId;
use lean_picture::KeptMap;
use lean_search::Demands;
use serde::{Deserialize, Serialize};

/// One change to a piece. Commands carry facts, never pixels: whatever had to be computed was computed before.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case", tag = "do")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Command {
    /// Title, medium, ground and size.
    SetBrief {
        /// The whole new brief.
        brief: Brief,
    },
    /// What it is for and by which rules it is made.
    SetIntent {
        /// All of it.
        intent: Intent,
    },
    /// The place it will hang.
    SetWall {
        /// The wall, or none.
        wall: Option<Wall>,
        /// What was done, for the line that says what was undone.
        what: String,
    },
    /// What falls on it.
    SetLighting {
        /// All of it.
        lighting: Lighting,
    },
    /// Change several zones at once: targets, facts, grading, locks.
    ChangeZones {
        /// The zones as they should be; those not named stay.
        zones: Vec<Zone>,
        /// What was done.
        what: String,
    },
    /// References beside the main one.
    SetOthers {
        /// All of them.
        others: Vec<Other>,
    },
    /// Say what the main reference is for.
    MarkReference {
        /// What it serves.
        serves: Vec<Serves>,
    },
    /// A sheet of pencil compositions.
    SetCompositions {
        /// The sheet, or none.
        compositions: Option<Compositions>,
    },
    /// Planes dragged into place, with the zones they make.
    LayPlanes {
        /// The planes.
        planes: Vec<PlaneShape>,
        /// Which zone every place belongs to.
        #[cfg_attr(feature = "schema", schema(value_type = Option<Object>))]
        zone_map: Option<KeptMap>,
        /// The zones.
        zones: Vec<Zone>,
    },
    /// Keep the colour chart.
    KeepChart {
        /// The chart, or none.
        chart: Option<Chart>,
    },
    /// Colours of another picture the set should serve too.
    SetWished {
        /// Them, or none.
        wished: Option<Wished>,
    },
    /// Log work done.
    SetSessions {
        /// All sessions.
        sessions: Vec<Session>,
    },
    /// Draw on another Box. Locks, exclusions and the set are cleared: they name pigments of the old one.
    UseBox {
        /// Which; `None` draws on none.
        paint_box: Option<BoxId>,
    },
    /// Put a reference in place with its zones.
    SetReference {
        /// What the file is.
        reference: Option<Reference>,
        /// Which zone every place belongs to.
        #[cfg_attr(feature = "schema", schema(value_type = Option<Object>))]
        zone_map: Option<KeptMap>,
        /// What each zone reads.
        zones: Vec<Zone>,
        /// The colours and the brush.
        #[serde(default)]
        #[cfg_attr(feature = "schema", schema(value_type = Option<Object>))]
        cut: Option<Cut>,
        /// The masses.
        #[serde(default)]
        masses: Vec<Mass>,
        /// Which mass every place belongs to.
        #[serde(default)]
        #[cfg_attr(feature = "schema", schema(value_type = Option<Object>))]
        mass_map: Option<KeptMap>,
    },
    /// Lay zones anew over the same reference.
    LayZones {
        /// Which zone every place belongs to.
        #[cfg_attr(feature = "schema", schema(value_type = Option<Object>))]
        zone_map: Option<KeptMap>,
        /// What each zone reads and should be.
        zones: Vec<Zone>,
        /// The colours and the brush.
        #[serde(default)]
        #[cfg_attr(feature = "schema", schema(value_type = Option<Object>))]
        cut: Option<Cut>,
        /// What was done, for the line that says what was undone.
        what: String,
    },
    /// Say which big shapes hold together and what is known of them.
    SetMasses {
        /// The masses.
        masses: Vec<Mass>,
        /// Which mass every place belongs to.
        #[cfg_attr(feature = "schema", schema(value_type = Option<Object>))]
        mass_map: Option<KeptMap>,
        /// Zones whose facts follow.
        #[serde(default)]
        zones: Vec<Zone>,
        /// What was done.
        what: String,
    },
    /// Give a zone a name.
    RenameZone {
        /// Which.
        zone: ZoneId,
        /// At most 80 characters; empty takes the name away.
        name: String,
    },
    /// Say how much a zone matters.
    SetImportance {
        /// Which.
        zone: ZoneId,
        /// How much.
        importance: Importance,
    },
    /// Say what a zone should be.
    SetTarget {
        /// Which.
        zone: ZoneId,
        /// The wanted colour.
        target: Lab,
    },
    /// Say which pigments must and must not be in a set.
    SetChoice {
        /// Must be in.
        locked: Vec<PigmentId>,
        /// Must not be in.
        excluded: Vec<PigmentId>,
    },
    /// Say what else is asked of a set.
    SetDemands {
        /// All of it.
        demands: Demands,
    },
    /// Say what the search aims at.
    SetAim {
        /// All of it.
        aim: Aim,
    },
    /// Say how mixes are made.
    SetMixing {
        /// All of it.
        mixing: Mixing,
    },
    /// Keep the result of a search and take one of its sets into use.
    KeepSearch {
        /// The result.
        search: Option<SearchKept>,
        /// The set to use.
        chosen: ChosenSet,
    },
    /// Take a set into use.
    ChooseSet {
        /// The set.
        chosen: ChosenSet,
    },
    /// Keep studies that were made.
    KeepStudies {
        /// Up to three.
        studies: Vec<Study>,
        /// The one carried forward, if any.
        chosen: Option<StudySlot>,
    },
    /// Carry a study forward.
    ChooseStudy {
        /// Which; `None` takes the choice back.
        slot: Option<StudySlot>,
    },
    /// Say how studies are printed.
    SetSheet {
        /// The settings.
        sheet: SheetSettings,
    },
    /// Answer a finding, or (with an empty list entry removed) take the answer back.
    SetDismissed {
        /// All answered findings.
        dismissed: Vec<Dismissal>,
    },
}

impl Command {
    /// Every map it names.
    pub fn maps_mut(&mut self) -> Vec<&mut KeptMap> {
        fn hand(cut: &mut Option<Cut>) -> Option<&mut KeptMap> {
            cut.as_mut().and_then(|c| c.hand.as_mut())
        }
        match self {
            Self::SetReference { zone_map, cut, mass_map, .. } => {
                [zone_map.as_mut(), hand(cut), mass_map.as_mut()].into_iter().flatten().collect()
            }
            Self::LayZones { zone_map, cut, .. } => [zone_map.as_mut(), hand(cut)].into_iter().flatten().collect(),
            Self::LayPlanes { zone_map, .. } => zone_map.iter_mut().collect(),
            Self::SetMasses { mass_map, .. } => mass_map.iter_mut().collect(),
            _ => Vec::new(),
        }
    }

    /// What this does, in a few words for the line that says what was done or undone.
    pub fn describe(&self) -> String {
        match self {
            Self::SetBrief { .. } => "the brief".into(),
            Self::SetIntent { .. } => "what it is for".into(),
            Self::SetWall { what, .. } | Self::ChangeZones { what, .. } => what.clone(),
            Self::SetLighting { .. } => "the light".into(),
            Self::SetOthers { .. } => "the other references".into(),
            Self::MarkReference { .. } => "what the reference is for".into(),
            Self::SetCompositions { .. } => "the compositions".into(),
            Self::LayPlanes { .. } => "the planes".into(),
            Self::KeepChart { .. } => "the colour chart".into(),
            Self::SetWished { .. } => "the colours wished for".into(),
            Self::SetSessions { .. } => "the log of sessions".into(),
            Self::UseBox { .. } => "the Box".into(),
            Self::SetReference { reference: Some(r), .. } => format!("the reference {}", r.file_name),
            Self::SetReference { .. } => "the reference".into(),
            Self::LayZones { what, .. } | Self::SetMasses { what, .. } => what.clone(),
            Self::RenameZone { zone, name } if name.is_empty() => format!("the name of zone {}", zone.0),
            Self::RenameZone { name, .. } => format!("the name {name}"),
            Self::SetImportance { zone, .. } => format!("the importance of zone {}", zone.0),
            Self::SetTarget { zone, .. } => format!("the target of zone {}", zone.0),
            Self::SetChoice { .. } => "locks and exclusions".into(),
            Self::SetDemands { .. } => "what is asked of the set".into(),
            Self::SetAim { .. } => "what the search aims at".into(),
            Self::SetMixing { .. } => "how mixes are made".into(),
            Self::KeepSearch { .. } => "the search".into(),
            Self::ChooseSet { chosen } => format!("the set of {}", chosen.pigments.len()),
            Self::KeepStudies { .. } => "the studies".into(),
            Self::ChooseStudy { slot: Some(s) } => format!("the choice of study {s:?}"),
            Self::ChooseStudy { slot: None } => "the choice of a study".into(),
            Self::SetSheet { .. } => "the sheet".into(),
            Self::SetDismissed { .. } => "an answered finding".into(),
        }
    }
}
