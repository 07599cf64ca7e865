//! Zones found, joined and parted: pixels turned into the facts a command carries.

use crate::piece::{Command, Importance, Piece, Reference, Zone, ZoneId};
use lean_picture::segment::Proposal;
use lean_picture::split::{Place, by_line};
use lean_picture::{Picture, ZoneMap, readings, views};

/// Longer side of the copy of the reference that zones and views are read from, in pixels.
pub const WORKING_SIDE: u32 = 1600;

/// The command that puts a reference in place with the zones the machine proposes.
pub fn set_reference(working: &Picture, digest: String, file_name: String, full_size: (u32, u32)) -> Command {
    let proposal = Proposal::of(working);
    let map = proposal.zones(proposal.natural_count());
    Command::SetReference {
        reference: Some(Reference {
            digest,
            file_name,
            width: full_size.0,
            height: full_size.1,
            neutral: views::mean_temperature(working),
        }),
        zones: fresh(working, &map),
        zone_map: Some(map),
    }
}

/// The command that lays `count` new zones over the reference. Names and targets start anew.
pub fn propose(working: &Picture, count: usize) -> Command {
    let map = Proposal::of(working).zones(count);
    Command::LayZones { zones: fresh(working, &map), zone_map: Some(map), what: format!("{count} new zones") }
}

/// The command that joins zone `from` into zone `into`. The joined zone keeps `into`'s number, name and importance; its
/// target starts as its reading.
///
/// # Errors
/// When there is no map, a zone is not there, or both are the same.
pub fn merge(piece: &Piece, working: &Picture, from: ZoneId, into: ZoneId) -> Result<Command, String> {
    let map = piece.zone_map.as_ref().ok_or("There are no zones yet. Drop a picture first.")?;
    if from == into {
        return Err("A zone cannot be joined with itself. Choose its neighbour.".into());
    }
    for z in [from, into] {
        piece.zone(z).ok_or_else(|| format!("There is no zone {} any more.", z.0))?;
    }
    let map = map.merged(from.0, into.0);
    let what = format!("joining zones {} and {}", into.0, from.0);
    Ok(relaid(piece, working, map, &[into], what))
}

/// The command that parts a zone by a line. The new zone gets the lowest free number.
///
/// # Errors
/// When there is no map, the zone is not there, or the line does not cross it.
pub fn split(piece: &Piece, working: &Picture, zone: ZoneId, from: Place, to: Place) -> Result<Command, String> {
    let map = piece.zone_map.as_ref().ok_or("There are no zones yet. Drop a picture first.")?;
    piece.zone(zone).ok_or_else(|| format!("There is no zone {} any more.", zone.0))?;
    let used = map.zones();
    let new = (1..=u16::MAX).find(|n| !used.contains(n)).unwrap_or(u16::MAX);
    let map = by_line(map, zone.0, from, to, new)?;
    Ok(relaid(piece, working, map, &[zone, ZoneId(new)], format!("parting zone {}", zone.0)))
}

fn fresh(working: &Picture, map: &ZoneMap) -> Vec<Zone> {
    readings::read(working, map)
        .into_iter()
        .map(|(id, reading)| Zone { id: ZoneId(id), name: String::new(), importance: Importance::Usual, target: reading.lab, reading })
        .collect()
}

/// Zones over a changed map: those in `changed` are read anew, the others stay as the painter left them.
fn relaid(piece: &Piece, working: &Picture, map: ZoneMap, changed: &[ZoneId], what: String) -> Command {
    let zones = fresh(working, &map)
        .into_iter()
        .map(|new| match piece.zone(new.id) {
            Some(old) if !changed.contains(&new.id) => old.clone(),
            Some(old) => Zone { name: old.name.clone(), importance: old.importance, ..new },
            None => new,
        })
        .collect();
    Command::LayZones { zone_map: Some(map), zones, what }
}
