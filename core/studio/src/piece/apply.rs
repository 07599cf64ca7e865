//! The one place where a piece changes.

use super::aim::{Aim, MOST_COMPANIONS};
use super::command::Command;
use super::cut::{Cut, MOST_TURNS, Mass};
use super::session::{MOST_SESSIONS, Session};
use super::state::{MOST_NAME, Piece, Size, Zone, ZoneId};
use super::subject::{Compositions, MOST_OTHERS};
use super::undo::Undo;
use crate::paint_box::BoxId;
use lean_media::{PigmentId, ground};
use lean_picture::KeptMap;
use lean_picture::frame::Crop;
use lean_search::MOST_IN_SET;
use std::collections::BTreeSet;
use thiserror::Error;

/// Why a command was refused. The piece is unchanged.
#[derive(Debug, Error, PartialEq)]
pub enum Refusal {
    /// No such zone.
    #[error("There is no zone {0} in this piece any more. Choose one of the zones on the picture.")]
    NoSuchZone(u16),
    /// A text is missing or too long.
    #[error("{0}")]
    Text(String),
    /// A number is out of range.
    #[error("{0}")]
    Range(String),
    /// Something named is not there.
    #[error("{0}")]
    Unknown(String),
    /// Parts of the command contradict each other.
    #[error("{0}")]
    Contradiction(String),
}

impl Piece {
    /// The piece after a command, and how to get back. Pure: nothing else changes a piece.
    ///
    /// # Errors
    /// A [`Refusal`] that says what was wrong and what to do; the piece stays as it is.
    pub fn apply(&self, command: Command) -> Result<(Self, Undo), Refusal> {
        self.apply_all(vec![command])
    }

    /// The piece after several commands, each checked against what those before it made, and one way back over all of them.
    ///
    /// # Errors
    /// As [`Piece::apply`]; then none of them was carried out.
    pub fn apply_all(&self, commands: Vec<Command>) -> Result<(Self, Undo), Refusal> {
        let mut next = self.clone();
        for command in commands {
            next.check(&command)?;
            next.carry_out(command);
        }
        let (before, after) = (written(self)?, written(&next)?);
        if serde_json::from_value::<Self>(after.clone()).ok().as_ref() != Some(&next) {
            return Err(Refusal::Range(
                "A number in this change cannot be kept: it is too large, or no number. Nothing was changed.".into(),
            ));
        }
        let undo = Undo::between(self, &before, &after);
        Ok((next, undo))
    }

    fn check(&self, command: &Command) -> Result<(), Refusal> {
        match command {
            Command::SetBrief { brief } => {
                check_text("The title", &brief.title, 1)?;
                check_size(brief.size)?;
                if ground::find(&brief.ground).is_none() {
                    return Err(Refusal::Unknown(format!("There is no ground \"{}\". Choose one from the list.", brief.ground.0)));
                }
                Ok(())
            }
            Command::SetIntent { intent } => intent.check().map_err(Refusal::Contradiction),
            Command::SetWall { wall, what } => {
                check_what(what)?;
                wall.as_ref().map_or(Ok(()), |w| w.check().map_err(Refusal::Contradiction))
            }
            Command::ChangeZones { zones, what } => {
                check_what(what)?;
                zones.iter().try_for_each(|z| self.known(z.id))
            }
            Command::SetOthers { others } if others.len() > MOST_OTHERS => {
                Err(Refusal::Range(format!("{MOST_OTHERS} references beside the main one are kept. Take one off first.")))
            }
            Command::SetCompositions { compositions: Some(c) } => check_compositions(c),
            Command::MarkReference { .. } if self.reference.is_none() => {
                Err(Refusal::Unknown("This piece has no reference yet. Drop a picture on it.".into()))
            }
            Command::LayPlanes { planes, zone_map, zones } => {
                check_parts(planes.iter().map(|p| p.part))?;
                check_zones(zone_map.as_ref(), zones)
            }
            Command::SetWished { wished: Some(w) } if !(0.0..=10.0).contains(&w.weight) => {
                Err(Refusal::Range(format!("A weight of {} for wished colours is out of range; it may be 0 to 10.", w.weight)))
            }
            Command::SetSessions { sessions } => check_sessions(sessions),
            Command::SetReference { reference, zone_map, zones, cut, masses, mass_map } => {
                check_cut(cut.as_ref())?;
                check_masses(masses, mass_map.as_ref())?;
                if reference.is_none() && !zones.is_empty() {
                    return Err(Refusal::Contradiction("Zones need a reference to lie on.".into()));
                }
                check_zones(zone_map.as_ref(), zones)
            }
            Command::SetMasses { masses, mass_map, zones, .. } => {
                zones.iter().try_for_each(|z| self.known(z.id))?;
                check_masses(masses, mass_map.as_ref())
            }
            Command::LayZones { zone_map, zones, cut, what } => {
                check_what(what)?;
                check_cut(cut.as_ref())?;
                check_zones(zone_map.as_ref(), zones)
            }
            Command::RenameZone { zone, name } => {
                check_text("The name", name, 0)?;
                self.known(*zone)
            }
            Command::SetImportance { zone, .. } | Command::SetTarget { zone, .. } => self.known(*zone),
            Command::SetChoice { locked, excluded } => check_choice(locked, excluded),
            Command::SetDemands { demands } => demands.check().map_err(Refusal::Contradiction),
            Command::SetAim { aim } => check_aim(aim),
            Command::KeepSearch { chosen, .. } | Command::ChooseSet { chosen } => check_distinct(&chosen.pigments),
            Command::KeepStudies { studies, chosen } => match chosen {
                Some(slot) if !studies.iter().any(|s| s.slot == *slot) => {
                    Err(Refusal::Unknown(format!("Study {slot:?} has not been made.")))
                }
                _ => Ok(()),
            },
            Command::ChooseStudy { slot: Some(slot) } if !self.studies.iter().any(|s| s.slot == *slot) => {
                Err(Refusal::Unknown(format!("Study {slot:?} has not been made yet. Make the studies first.")))
            }
            Command::SetSheet { sheet } if !(20.0..=300.0).contains(&sheet.longer_side.0) => Err(Refusal::Range(format!(
                "A study of {} mm cannot be printed. Its longer side may be 20 to 300 mm.",
                sheet.longer_side.0
            ))),
            _ => Ok(()),
        }
    }

    fn known(&self, zone: ZoneId) -> Result<(), Refusal> {
        self.zone(zone).map(|_| ()).ok_or(Refusal::NoSuchZone(zone.0))
    }

    /// Draws on another Box; what names pigments of the old one goes.
    fn draw_on(&mut self, paint_box: Option<BoxId>) {
        self.paint_box = paint_box;
        self.locked.clear();
        self.excluded.clear();
        self.demands.mother = None;
        self.search = None;
        self.chosen.pigments.clear();
        self.studies.clear();
        self.chosen_study = None;
    }

    pub(super) fn carry_out(&mut self, command: Command) {
        match command {
            Command::SetBrief { brief } => {
                if brief.medium != self.brief.medium {
                    self.draw_on(None);
                }
                self.brief = brief;
            }
            Command::SetIntent { intent } => self.intent = intent,
            Command::SetWall { wall, .. } => self.wall = wall,
            Command::SetLighting { lighting } => self.lighting = lighting,
            Command::ChangeZones { zones, .. } => {
                for new in zones {
                    self.change(new.id, |z| *z = new);
                }
            }
            Command::SetOthers { others } => self.others = others,
            Command::MarkReference { serves } => {
                if let Some(r) = &mut self.reference {
                    r.serves = serves;
                }
            }
            Command::SetCompositions { compositions } => self.compositions = compositions,
            Command::LayPlanes { planes, zone_map, zones } => {
                (self.planes, self.zone_map, self.zones, self.cut) = (planes, zone_map, zones, None);
            }
            Command::KeepChart { chart } => self.chart = chart,
            Command::SetWished { wished } => self.wished = wished,
            Command::SetSessions { mut sessions } => {
                sessions.sort_by(|a, b| a.on.cmp(&b.on));
                self.sessions = sessions;
            }
            Command::UseBox { paint_box } => self.draw_on(paint_box),
            Command::SetReference { reference, zone_map, zones, cut, masses, mass_map } => {
                self.reference = reference;
                (self.cut, self.masses, self.mass_map) = (cut, masses, mass_map);
                self.chart = None;
                // They worked on zones of another picture.
                self.sessions.iter_mut().for_each(|s| s.zones.clear());
                self.zone_map = zone_map;
                self.zones = zones;
                self.search = None;
                self.studies.clear();
                self.chosen_study = None;
            }
            Command::SetMasses { masses, mass_map, zones, .. } => {
                (self.masses, self.mass_map) = (masses, mass_map);
                for new in zones {
                    self.change(new.id, |z| *z = new);
                }
            }
            Command::LayZones { zone_map, zones, cut, .. } => {
                self.cut = cut;
                self.zone_map = zone_map;
                self.zones = zones;
            }
            Command::RenameZone { zone, name } => self.change(zone, |z| z.name = name),
            Command::SetImportance { zone, importance } => self.change(zone, |z| z.importance = importance),
            Command::SetTarget { zone, target } => self.change(zone, |z| z.target = target),
            Command::SetChoice { locked, excluded } => (self.locked, self.excluded) = (locked, excluded),
            Command::SetDemands { demands } => self.demands = demands,
            Command::SetAim { aim } => self.aim = aim,
            Command::SetMixing { mixing } => self.mixing = mixing,
            Command::KeepSearch { search, chosen } => (self.search, self.chosen) = (search, chosen),
            Command::ChooseSet { chosen } => self.chosen = chosen,
            Command::KeepStudies { studies, chosen } => (self.studies, self.chosen_study) = (studies, chosen),
            Command::ChooseStudy { slot } => self.chosen_study = slot,
            Command::SetSheet { sheet } => self.sheet = sheet,
            Command::SetDismissed { dismissed } => self.dismissed = dismissed,
        }
    }

    fn change(&mut self, id: ZoneId, f: impl FnOnce(&mut Zone)) {
        if let Some(z) = self.zones.iter_mut().find(|z| z.id == id) {
            f(z);
        }
    }
}

fn written(piece: &Piece) -> Result<serde_json::Value, Refusal> {
    serde_json::to_value(piece).map_err(|e| Refusal::Range(format!("This change cannot be written down ({e}). Nothing was changed.")))
}

/// What was done, as the log tells it: long names in it are cut there, not refused here.
fn check_what(what: &str) -> Result<(), Refusal> {
    if what.trim().is_empty() { Err(Refusal::Text("The description is empty. Say what is done.".into())) } else { Ok(()) }
}

fn check_text(what: &str, text: &str, least: usize) -> Result<(), Refusal> {
    let n = text.trim().chars().count();
    if n < least {
        return Err(Refusal::Text(format!("{what} is empty. Write a word or two.")));
    }
    if n > MOST_NAME {
        return Err(Refusal::Text(format!("{what} has {n} characters; {MOST_NAME} fit.")));
    }
    Ok(())
}

fn check_size(size: Size) -> Result<(), Refusal> {
    for (side, mm) in [("wide", size.width.0), ("high", size.height.0)] {
        if !(10.0..=3000.0).contains(&mm) {
            return Err(Refusal::Range(format!("A piece {mm} mm {side} is out of range. Each side may be 10 to 3000 mm.")));
        }
    }
    Ok(())
}

fn check_zones(map: Option<&KeptMap>, zones: &[Zone]) -> Result<(), Refusal> {
    let listed: BTreeSet<u16> = zones.iter().map(|z| z.id.0).collect();
    // A zone may have no place that is as large as the brush; a place without a zone there is none.
    let on_map = map.map(|m| m.geometry().areas.as_slice()).unwrap_or_default();
    if listed.len() != zones.len() || on_map.is_empty() != zones.is_empty() || on_map.iter().any(|(z, _)| !listed.contains(z)) {
        return Err(Refusal::Contradiction("The zones listed are not the zones on the map. Find the zones again.".into()));
    }
    Ok(())
}

fn check_cut(cut: Option<&Cut>) -> Result<(), Refusal> {
    let Some(cut) = cut else { return Ok(()) };
    let shades = cut.shades.len();
    let sound = cut.joins.iter().all(|(a, b)| a != b && *a < shades && *b < shades);
    if !(BRUSH.contains(&cut.brush) && sound && shades <= MOST_SHADES && cut.turned.len() <= MOST_TURNS) {
        return Err(Refusal::Range("The colours or the brush of this plan are out of range. Find the zones again.".into()));
    }
    Ok(())
}

fn check_masses(masses: &[Mass], map: Option<&KeptMap>) -> Result<(), Refusal> {
    let listed: Vec<u16> = masses.iter().map(|m| m.id.0).collect();
    let on_map: Vec<u16> = map.map(|m| m.geometry().areas.iter().map(|a| a.0).collect()).unwrap_or_default();
    if listed != on_map {
        return Err(Refusal::Contradiction("The masses listed are not the masses on the map. Propose them again.".into()));
    }
    masses.iter().try_for_each(|m| check_text("The name", &m.name, 0))
}

/// Brushes a plan may be cut with, as shares of the longer side.
const BRUSH: std::ops::RangeInclusive<f64> = 0.001..=0.5;
/// Most shades a plan tells apart, those taken by hand counted.
const MOST_SHADES: usize = 96;

fn check_parts(mut parts: impl Iterator<Item = Crop>) -> Result<(), Refusal> {
    let inside = |p: Crop| {
        [p.left, p.top].iter().all(|v| (0.0..=1.0).contains(v))
            && p.width > 0.0
            && p.height > 0.0
            && p.left + p.width <= 1.0 + 1e-6
            && p.top + p.height <= 1.0 + 1e-6
    };
    match parts.find(|p| !inside(*p)) {
        Some(_) => Err(Refusal::Range("A shape reaches outside the picture or has no size. Draw it inside the frame.".into())),
        None => Ok(()),
    }
}

fn check_sessions(sessions: &[Session]) -> Result<(), Refusal> {
    if sessions.len() > MOST_SESSIONS {
        return Err(Refusal::Range(format!("{MOST_SESSIONS} sessions are logged for one piece. Join some of them.")));
    }
    sessions.iter().try_for_each(|s| s.check().map_err(Refusal::Contradiction))
}

fn check_compositions(c: &Compositions) -> Result<(), Refusal> {
    if c.width == 0 || c.height == 0 {
        return Err(Refusal::Range(format!("A sheet {} by {} pixels has no size. Drop its photo again.", c.width, c.height)));
    }
    check_parts(c.cut.iter().map(|c| c.part))?;
    c.cut.iter().try_for_each(|c| check_text("The reason", &c.reason, 0))?;
    match c.chosen {
        Some(i) if i >= c.cut.len() => Err(Refusal::Unknown(format!("There is no composition {} on this sheet.", i + 1))),
        _ => Ok(()),
    }
}

fn check_choice(locked: &[PigmentId], excluded: &[PigmentId]) -> Result<(), Refusal> {
    check_distinct(locked)?;
    check_distinct(excluded)?;
    match locked.iter().find(|p| excluded.contains(p)) {
        Some(p) => Err(Refusal::Contradiction(format!("\"{p}\" cannot be both locked and excluded."))),
        None => Ok(()),
    }
}

fn check_aim(aim: &Aim) -> Result<(), Refusal> {
    if !(0.0..=100.0).contains(&aim.value_weight) {
        return Err(Refusal::Range(format!("A value weight of {} is out of range; it may be 0 to 100.", aim.value_weight)));
    }
    if !(1..=MOST_IN_SET as u8).contains(&aim.largest) {
        return Err(Refusal::Range(format!("A largest set of {} is out of range; it may be 1 to {MOST_IN_SET}.", aim.largest)));
    }
    if aim.also_for.len() > MOST_COMPANIONS {
        return Err(Refusal::Range(format!("One set serves {MOST_COMPANIONS} other pieces at most. Leave some out.")));
    }
    let mut pieces: Vec<i64> = aim.also_for.iter().map(|c| c.piece).collect();
    pieces.sort_unstable();
    pieces.dedup();
    if pieces.len() < aim.also_for.len() {
        return Err(Refusal::Contradiction("A piece is named twice. Name each once.".into()));
    }
    match aim.also_for.iter().find(|c| !(0.0..=10.0).contains(&c.weight)) {
        Some(c) => Err(Refusal::Range(format!("A weight of {} for another piece is out of range; it may be 0 to 10.", c.weight))),
        None => Ok(()),
    }
}

fn check_distinct(pigments: &[PigmentId]) -> Result<(), Refusal> {
    let distinct: BTreeSet<&PigmentId> = pigments.iter().collect();
    if distinct.len() == pigments.len() { Ok(()) } else { Err(Refusal::Contradiction("A pigment is named twice. Name each once.".into())) }
}
