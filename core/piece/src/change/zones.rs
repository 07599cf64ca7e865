//! Zones, masses, and what each zone should be.

use super::{Change, Refusal, check_text, check_what};
use crate::Piece;
use crate::zones::{Cut, Importance, MOST_TURNS, Mass, Zone, ZoneId};
use lean_colour::Lab;
use lean_picture::KeptMap;
use serde::{Deserialize, Serialize};
use std::collections::BTreeSet;

/// Lay zones anew over the same reference.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
pub struct LayZones {
    /// Which zone every place belongs to.
    pub zone_map: Option<KeptMap>,
    /// What each zone reads and should be.
    pub zones: Vec<Zone>,
    /// The colours and the brush.
    #[serde(default)]
    pub cut: Option<Cut>,
    /// What was done, for the line that says what was undone.
    pub what: String,
}

impl Change for LayZones {
    fn describe(&self) -> String {
        self.what.clone()
    }

    fn maps_mut(&mut self) -> Vec<&mut KeptMap> {
        [self.zone_map.as_mut(), hand(&mut self.cut)].into_iter().flatten().collect()
    }

    fn check(&self, _piece: &Piece) -> Result<(), Refusal> {
        check_what(&self.what)?;
        check_cut(self.cut.as_ref())?;
        check_zones(self.zone_map.as_ref(), &self.zones)
    }

    fn apply(self, piece: &mut Piece) {
        (piece.cut, piece.zone_map, piece.zones) = (self.cut, self.zone_map, self.zones);
    }
}

/// Change several zones at once: targets, facts, grading, locks.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
pub struct ChangeZones {
    /// The zones as they should be; those not named stay.
    pub zones: Vec<Zone>,
    /// What was done.
    pub what: String,
}

impl Change for ChangeZones {
    fn describe(&self) -> String {
        self.what.clone()
    }

    fn check(&self, piece: &Piece) -> Result<(), Refusal> {
        check_what(&self.what)?;
        self.zones.iter().try_for_each(|z| piece.known(z.id))
    }

    fn apply(self, piece: &mut Piece) {
        self.zones.into_iter().for_each(|new| piece.change(new.id, |z| *z = new.replacing(z)));
    }
}

/// Say which big shapes hold together and what is known of them.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
pub struct SetMasses {
    /// The masses.
    pub masses: Vec<Mass>,
    /// Which mass every place belongs to.
    pub mass_map: Option<KeptMap>,
    /// Zones whose facts follow.
    #[serde(default)]
    pub zones: Vec<Zone>,
    /// What was done.
    pub what: String,
}

impl Change for SetMasses {
    fn describe(&self) -> String {
        self.what.clone()
    }

    fn maps_mut(&mut self) -> Vec<&mut KeptMap> {
        self.mass_map.iter_mut().collect()
    }

    fn check(&self, piece: &Piece) -> Result<(), Refusal> {
        self.zones.iter().try_for_each(|z| piece.known(z.id))?;
        check_masses(&self.masses, self.mass_map.as_ref())
    }

    fn apply(self, piece: &mut Piece) {
        (piece.masses, piece.mass_map) = (self.masses, self.mass_map);
        self.zones.into_iter().for_each(|new| piece.change(new.id, |z| *z = new));
    }
}

/// Give a zone a name.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
pub struct RenameZone {
    /// Which.
    pub zone: ZoneId,
    /// At most 80 characters; empty takes the name away.
    pub name: String,
}

impl Change for RenameZone {
    fn describe(&self) -> String {
        match self.name.as_str() {
            "" => format!("the name of zone {}", self.zone.0),
            name => format!("the name {name}"),
        }
    }

    fn check(&self, piece: &Piece) -> Result<(), Refusal> {
        check_text("The name", &self.name, 0)?;
        piece.known(self.zone)
    }

    fn apply(self, piece: &mut Piece) {
        piece.change(self.zone, |z| z.name = self.name);
    }
}

/// Say how much a zone matters.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
pub struct SetImportance {
    /// Which.
    pub zone: ZoneId,
    /// How much.
    pub importance: Importance,
}

impl Change for SetImportance {
    fn describe(&self) -> String {
        format!("the importance of zone {}", self.zone.0)
    }

    fn check(&self, piece: &Piece) -> Result<(), Refusal> {
        piece.known(self.zone)
    }

    fn apply(self, piece: &mut Piece) {
        piece.change(self.zone, |z| z.importance = self.importance);
    }
}

/// Say what a zone should be.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
pub struct SetTarget {
    /// Which.
    pub zone: ZoneId,
    /// The wanted colour.
    pub target: Lab,
}

impl Change for SetTarget {
    fn describe(&self) -> String {
        format!("the target of zone {}", self.zone.0)
    }

    fn check(&self, piece: &Piece) -> Result<(), Refusal> {
        piece.known(self.zone)
    }

    fn apply(self, piece: &mut Piece) {
        piece.change(self.zone, |z| {
            // What was chosen for another colour is no surface of this one.
            z.surface = z.surface.take().filter(|_| z.target == self.target);
            (z.target, z.open) = (self.target, false);
        });
    }
}

/// What was laid by hand, of a cut.
pub(super) fn hand(cut: &mut Option<Cut>) -> Option<&mut KeptMap> {
    cut.as_mut().and_then(|c| c.hand.as_mut())
}

/// Brushes a plan may be cut with, as shares of the longer side.
const BRUSH: std::ops::RangeInclusive<f64> = 0.001..=0.5;
/// Most shades a plan tells apart, those taken by hand counted.
const MOST_SHADES: usize = 96;

pub(super) fn check_zones(map: Option<&KeptMap>, zones: &[Zone]) -> Result<(), Refusal> {
    let listed: BTreeSet<u16> = zones.iter().map(|z| z.id.0).collect();
    // A zone may have no place that is as large as the brush; a place without a zone there is none.
    let on_map = map.map(|m| m.geometry().areas.as_slice()).unwrap_or_default();
    if listed.len() != zones.len() || on_map.is_empty() != zones.is_empty() || on_map.iter().any(|(z, _)| !listed.contains(z)) {
        return Err(Refusal::Contradiction("The zones listed are not the zones on the map. Find the zones again.".into()));
    }
    Ok(())
}

pub(super) fn check_cut(cut: Option<&Cut>) -> Result<(), Refusal> {
    let Some(cut) = cut else { return Ok(()) };
    let shades = cut.shades.len();
    let sound = cut.joins.iter().all(|(a, b)| a != b && *a < shades && *b < shades);
    if !(BRUSH.contains(&cut.brush) && sound && shades <= MOST_SHADES && cut.turned.len() <= MOST_TURNS) {
        return Err(Refusal::Range("The colours or the brush of this plan are out of range. Find the zones again.".into()));
    }
    Ok(())
}

pub(super) fn check_masses(masses: &[Mass], map: Option<&KeptMap>) -> Result<(), Refusal> {
    let listed: Vec<u16> = masses.iter().map(|m| m.id.0).collect();
    let on_map: Vec<u16> = map.map(|m| m.geometry().areas.iter().map(|a| a.0).collect()).unwrap_or_default();
    if listed != on_map {
        return Err(Refusal::Contradiction("The masses listed are not the masses on the map. Propose them again.".into()));
    }
    masses.iter().try_for_each(|m| check_text("The name", &m.name, 0))
}
