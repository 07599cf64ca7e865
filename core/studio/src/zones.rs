//! Zones found, joined and parted: pixels turned into the facts a command carries.

use crate::light::{Distance, Facts, Plane};
use crate::piece::{Command, Piece, PlaneKind, PlaneShape, Reference, Refusal, Zone, ZoneId};
use lean_picture::segment::Proposal;
use lean_picture::split::{Place, by_line};
use lean_picture::{Picture, Reading, ZoneMap, readings, views};

/// Longer side of the copy of the reference that zones and views are read from, in pixels.
pub const WORKING_SIDE: u32 = 1600;

/// The command that puts a reference in place with the zones the machine proposes.
pub fn set_reference(working: &Picture, digest: String, file_name: String, full_size: (u32, u32)) -> Command {
    let proposal = Proposal::of(working);
    let map = proposal.zones(proposal.natural_count());
    Command::SetReference {
        reference: Some(Reference::whole(digest, file_name, full_size, views::mean_temperature(working))),
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
        .map(|(id, reading)| Zone::read(ZoneId(id), reading))
        .collect()
}

/// Zones over a changed map: those in `changed` are read anew, the others stay as the painter left them.
fn relaid(piece: &Piece, working: &Picture, map: ZoneMap, changed: &[ZoneId], what: String) -> Command {
    let zones = fresh(working, &map)
        .into_iter()
        .map(|new| match piece.zone(new.id) {
            Some(old) if !changed.contains(&new.id) => old.clone(),
            Some(old) => Zone { name: old.name.clone(), importance: old.importance, facts: old.facts, kept: old.kept, ..new },
            None => new,
        })
        .collect();
    Command::LayZones { zone_map: Some(map), zones, what }
}

/// Cells across the longer side of the grid that planes are laid on.
const PLANE_GRID: f64 = 400.0;

/// The command that lays planes, from back to front, and makes them the zones. A zone keeps its number, name and target while its plane stays
/// in place; a plane wholly covered makes no zone.
///
/// # Errors
/// When there are none, or the piece is made from a reference.
pub fn from_planes(piece: &Piece, planes: Vec<PlaneShape>) -> Result<Command, Refusal> {
    if piece.reference.is_some() {
        return Err(Refusal::Contradiction("This piece has a reference; its zones lie on that. Planes are for pieces without one.".into()));
    }
    if planes.len() > 24 {
        return Err(Refusal::Range("24 planes are enough. Take one off first.".into()));
    }
    let (w, h) = (piece.brief.size.width.0, piece.brief.size.height.0);
    let scale = PLANE_GRID / w.max(h);
    let (gw, gh) = (((w * scale).round() as u32).max(8), ((h * scale).round() as u32).max(8));
    let mut labels = vec![0u16; (gw * gh) as usize];
    for (i, l) in labels.iter_mut().enumerate() {
        let (x, y) = ((i as u32 % gw) as f64 / f64::from(gw), (i as u32 / gw) as f64 / f64::from(gh));
        // What no plane covers belongs to the one farthest back.
        *l = planes.iter().rposition(|p| covers(p, x, y)).map_or(1, |n| n as u16 + 1);
    }
    if planes.is_empty() {
        return Ok(Command::LayPlanes { planes, zone_map: None, zones: Vec::new() });
    }
    let map = ZoneMap { width: gw, height: gh, labels };
    let cells = f64::from(gw * gh);
    let zones = map.areas().into_iter().map(|(id, n)| {
        let area = n as f64 / cells;
        match piece.zone(ZoneId(id)) {
            Some(old) => Zone { reading: Reading { area, ..old.reading.clone() }, ..old.clone() },
            None => plane_zone(ZoneId(id), &planes[usize::from(id) - 1], area),
        }
    });
    Ok(Command::LayPlanes { zones: zones.collect(), zone_map: Some(map), planes })
}

fn covers(p: &PlaneShape, x: f64, y: f64) -> bool {
    let (u, v) = ((x - p.part.left) / p.part.width, (y - p.part.top) / p.part.height);
    if !(0.0..1.0).contains(&u) || !(0.0..1.0).contains(&v) {
        return false;
    }
    match p.kind {
        PlaneKind::Sky | PlaneKind::Flat | PlaneKind::Upright => true,
        PlaneKind::Slanted => v >= (u - 0.5).abs() * 1.2,
        // A head on a body that widens downwards.
        PlaneKind::Figure => {
            let head = ((u - 0.5) / 0.22).powi(2) + ((v - 0.13) / 0.13).powi(2) <= 1.0;
            head || (v > 0.24 && (u - 0.5).abs() < 0.30 + 0.20 * (v - 0.24))
        }
    }
}

fn plane_zone(id: ZoneId, plane: &PlaneShape, area: f64) -> Zone {
    let (name, facing, value) = match plane.kind {
        PlaneKind::Sky => ("sky", Plane::Sky, 8.0),
        PlaneKind::Flat => ("ground", Plane::Flat, 6.4),
        PlaneKind::Slanted => ("slope", Plane::Slanted, 5.2),
        PlaneKind::Upright => ("upright", Plane::Upright, 4.2),
        PlaneKind::Figure => ("figure", Plane::Upright, 3.6),
    };
    let value = lean_colour::Value(value);
    let lab = lean_colour::Lab::new(value.lightness(), 0.0, 0.0);
    let distance = match plane.part.top + plane.part.height {
        b if b > 0.86 => Distance::Near,
        b if b > 0.62 => Distance::Middle,
        _ => Distance::Far,
    };
    let facts = Facts { plane: Some(facing), distance: Some(distance), by_hand: true, ..Facts::default() };
    Zone { name: name.into(), facts, ..Zone::read(id, Reading { area, value, lab }) }
}
