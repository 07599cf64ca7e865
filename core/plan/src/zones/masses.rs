//! Masses: the big shapes that hold together. What is said of one holds for its places unless a zone says otherwise.

use super::{cells_of, free_number, said, what};
use crate::requests::OfMass;
use crate::wording::capital;
use lean_picture::places::Survey;
use lean_picture::spot::Spot;
use lean_picture::{ZoneMap, borders};
use lean_piece::change::SetMasses;
use lean_piece::light::Facts;
use lean_piece::{Command, Mass, MassId, Piece, Zone, ZoneId};
use std::collections::BTreeMap;

const NO_MASSES: &str = "No masses were proposed yet. Propose them first.";
/// Fewest and most masses.
pub(crate) const MASS_RANGE: std::ops::RangeInclusive<usize> = 1..=9;
/// Share of a zone that must lie in a mass for what is said of the mass to hold for the zone.
const MOSTLY: f64 = 0.6;
/// Share of the picture above which a zone's part in a mass is large.
const LARGE: f64 = 0.02;

/// Share of each zone in each mass: `(zone, mass) -> share of the zone`.
pub fn shares(piece: &Piece) -> BTreeMap<(ZoneId, MassId), f64> {
    let (Some(zones), Some(masses)) = (&piece.zone_map, &piece.mass_map) else { return BTreeMap::new() };
    let of_zone: BTreeMap<u16, u64> = zones.geometry().areas.iter().copied().collect();
    let share = |zone: u16, n: u64| n as f64 / of_zone.get(&zone).copied().unwrap_or(1).max(1) as f64;
    zones.overlap(masses).iter().map(|((z, m), n)| ((ZoneId(*z), MassId(*m)), share(*z, *n))).collect()
}

/// The mass most of each zone lies in.
pub fn mass_of(piece: &Piece) -> BTreeMap<ZoneId, MassId> {
    shares(piece).into_iter().filter(|(_, share)| *share >= MOSTLY).map(|((z, m), _)| (z, m)).collect()
}

/// The command that proposes the masses of the picture anew.
pub fn propose(survey: &Survey) -> Command {
    let (masses, map) = super::found::masses(survey);
    Command::SetMasses(SetMasses { masses, mass_map: Some(map), zones: Vec::new(), what: "the masses proposed".into() })
}

/// The command that says what is known of a mass: its name, and facts that its zones take over unless something was said of them by hand.
///
/// # Errors
/// When it is not there.
pub fn say(piece: &Piece, id: MassId, said: OfMass) -> Result<Command, String> {
    let old = piece.mass(id).ok_or_else(|| gone(id))?;
    let new = Mass { id, name: said.name.trim().to_owned(), plane: said.plane, distance: said.distance, light: said.light };
    let zones = mass_of(piece)
        .into_iter()
        .filter(|(_, mass)| *mass == id)
        .filter_map(|(zone, _)| piece.zone(zone))
        .filter(|z| !z.facts.by_hand)
        .map(|z| Zone { facts: told(z.facts, &new), ..z.clone() })
        .collect();
    let masses = piece.masses.iter().map(|m| if m.id == id { new.clone() } else { m.clone() }).collect();
    let done = what(format!("what is said of {}", if new.name.is_empty() { old.label() } else { new.label() }));
    Ok(Command::SetMasses(SetMasses { masses, mass_map: piece.mass_map.clone(), zones, what: done }))
}

/// Facts of a zone as its mass has them; what the mass does not say stays.
pub fn told(facts: Facts, mass: &Mass) -> Facts {
    Facts {
        plane: mass.plane.or(facts.plane),
        distance: mass.distance.or(facts.distance),
        light: mass.light.unwrap_or(facts.light),
        ..facts
    }
}

fn gone(id: MassId) -> String {
    format!("There is no mass {} any more. Choose one on the picture.", id.0)
}

fn map(piece: &Piece) -> Result<&ZoneMap, String> {
    piece.mass_map.as_ref().and_then(|m| m.map()).ok_or_else(|| NO_MASSES.into())
}

/// The command that joins two masses; the first keeps its name and what is said of it.
///
/// # Errors
/// When either is not there, or both are the same.
pub fn join(piece: &Piece, into: MassId, from: MassId) -> Result<Command, String> {
    if into == from {
        return Err("A mass cannot be joined with itself. Choose another.".into());
    }
    for id in [into, from] {
        piece.mass(id).ok_or_else(|| gone(id))?;
    }
    let map = map(piece)?.merged(from.0, into.0);
    Ok(relaid(piece, map, what(format!("joining {} masses", 2))))
}

/// The command that parts a mass along a drawn line.
///
/// # Errors
/// When it is not there, the line does not cross it, or there are too many.
pub fn part(piece: &Piece, id: MassId, stroke: &[Spot]) -> Result<Command, String> {
    piece.mass(id).ok_or_else(|| gone(id))?;
    if piece.masses.len() >= *MASS_RANGE.end() {
        return Err(format!("{} masses are enough. Join two first.", MASS_RANGE.end()));
    }
    let new = free_number(piece.masses.iter().map(|m| m.id.0));
    let map = borders::parted_by(map(piece)?, id.0, stroke, new).map_err(|e| said(e.replace("zone", "mass")))?;
    Ok(relaid(piece, map, "parting a mass".into()))
}

/// The command that redraws the border of a mass.
///
/// # Errors
/// When it would change nothing or swallow a mass.
pub fn redraw(piece: &Piece, id: MassId, stroke: &[Spot]) -> Result<Command, String> {
    piece.mass(id).ok_or_else(|| gone(id))?;
    let map = borders::redrawn(map(piece)?, id.0, stroke, &[]).map_err(|e| said(e.replace("zone", "mass")))?;
    Ok(relaid(piece, map, "the border of a mass".into()))
}

/// Masses over a changed map: those that are left keep what was said of them, a new one has nothing said.
fn relaid(piece: &Piece, map: ZoneMap, done: String) -> Command {
    let masses = cells_of(&map).into_keys().map(|id| piece.mass(MassId(id)).cloned().unwrap_or_else(|| Mass::new(MassId(id)))).collect();
    Command::SetMasses(SetMasses { masses, mass_map: Some(map.into()), zones: Vec::new(), what: done })
}

/// A zone whose colour lies in two masses of different light, both times over much of the picture: it can be two zones.
#[derive(Clone, Debug, PartialEq, serde::Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Straddles {
    /// The zone.
    pub zone: ZoneId,
    /// The mass whose places would become a zone of their own: the one that holds less of it.
    pub mass: MassId,
    /// Why, in a sentence.
    pub why: String,
}

/// Zones that lie in masses of different plane, distance or light, in both over a large part.
pub fn straddling(piece: &Piece) -> Vec<Straddles> {
    let shares = shares(piece);
    let differ = |a: &Mass, b: &Mass| {
        let other = |p: bool, q: bool| p && q;
        other(a.plane.is_some() && b.plane.is_some(), a.plane != b.plane)
            || other(a.distance.is_some() && b.distance.is_some(), a.distance != b.distance)
            || other(a.light.is_some() && b.light.is_some(), a.light != b.light)
    };
    let mut found = Vec::new();
    for zone in piece.zones.iter().filter(|z| !z.kept) {
        let mut here: Vec<(f64, &Mass)> = piece
            .masses
            .iter()
            .filter_map(|m| Some((shares.get(&(zone.id, m.id))? * zone.reading.area, m)))
            .filter(|(area, _)| *area >= LARGE)
            .collect();
        here.sort_by(|a, b| b.0.total_cmp(&a.0));
        let Some((_, most)) = here.first() else { continue };
        if let Some((_, other)) = here[1..].iter().find(|(_, m)| differ(most, m)) {
            let why = format!(
                "{} lies in {} and in {}, which do not stand in the same light: it can be two zones.",
                capital(&piece.zone_label(zone.id)),
                most.label(),
                other.label()
            );
            found.push(Straddles { zone: zone.id, mass: other.id, why });
        }
    }
    found
}

/// The map on which the part of a zone that lies in a mass is a zone of its own, with that zone's number.
///
/// # Errors
/// When nothing of the zone lies there, or all of it does.
pub(crate) fn parted_by_mass(piece: &Piece, zone: ZoneId, mass: MassId) -> Result<(ZoneMap, ZoneId), String> {
    let (zones, masses) = (piece.map().ok_or("There are no zones yet. Drop a picture first.")?, map(piece)?);
    let new = ZoneId(free_number(piece.zones.iter().map(|z| z.id.0)));
    let scaled = super::found::on_grid(masses, (zones.width, zones.height), |m| m == mass.0);
    let labels: Vec<u16> =
        zones.labels.iter().zip(&scaled.labels).map(|(z, m)| if *z == zone.0 && *m == mass.0 { new.0 } else { *z }).collect();
    let parted = ZoneMap { labels, ..*zones };
    let left = cells_of(&parted);
    if left.contains_key(&zone.0) && left.contains_key(&new.0) {
        Ok((parted, new))
    } else {
        Err("That zone does not lie on both sides of the border of this mass.".into())
    }
}
