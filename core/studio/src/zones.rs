//! Zones found, joined and parted: pixels turned into the facts a command carries.

use crate::light::{Distance, Facts, Plane};
use crate::piece::{Command, Piece, PixelSize, PlaneKind, PlaneShape, Reference, Refusal, Zone, ZoneId};
use lean_picture::frame::Frame;
use lean_picture::line_drawing::{self, Lines};
use lean_picture::place::Place;
use lean_picture::segment::Proposal;
use lean_picture::sharpness::sharpness;
use lean_picture::{Picture, Reading, ZoneMap, borders, readings, views};
use std::collections::BTreeSet;

/// Longer side of the copy of the reference that zones and views are read from, in pixels.
pub const WORKING_SIDE: u32 = 1600;

/// A picture file, as far as a reference tells of it.
#[derive(Clone, Debug, PartialEq)]
pub struct PictureFile {
    /// SHA-256 of the file, in hexadecimal.
    pub digest: String,
    /// Name it was dropped under.
    pub file_name: String,
    /// Pixels across and down, upright.
    pub full: (u32, u32),
    /// Share of its linear resolution that it uses, above 0 to 1.
    pub sharpness: f64,
}

impl PictureFile {
    /// What the picture in full tells.
    pub fn of(digest: String, file_name: String, full: &Picture) -> Self {
        Self { digest, file_name, full: (full.width, full.height), sharpness: sharpness(full) }
    }

    /// The reference it makes, looked at whole; `working` is its working copy.
    pub fn reference(self, working: &Picture) -> Reference {
        let whole = Reference::whole(self.digest, self.file_name, self.full, views::mean_temperature(working));
        Reference { sharpness: self.sharpness, ..whole }
    }
}

/// The command that puts a reference in place with the zones the machine proposes.
pub fn set_reference(working: &Picture, file: PictureFile) -> Command {
    let proposal = Proposal::of(working);
    set_reference_at(working, &proposal, proposal.natural_count(), file)
}

/// The same with so many zones of what was proposed before.
pub fn set_reference_at(working: &Picture, proposal: &Proposal, count: usize, file: PictureFile) -> Command {
    let map = proposal.zones(count);
    Command::SetReference { reference: Some(file.reference(working)), zones: fresh(working, &map), zone_map: Some(map) }
}

/// The command that lays `count` zones anew over the reference; locked ones stay, the others lose names and targets.
pub fn propose(piece: &Piece, working: &Picture, proposal: &Proposal, count: usize) -> Command {
    let kept: Vec<ZoneId> = piece.zones.iter().filter(|z| z.kept).map(|z| z.id).collect();
    let map = match &piece.zone_map {
        Some(old) => proposal.zones_around(old, &kept.iter().map(|z| z.0).collect::<Vec<_>>(), count),
        None => proposal.zones(count),
    };
    let zones = fresh(working, &map).into_iter().map(|new| match piece.zone(new.id).filter(|old| old.kept) {
        Some(old) => Zone { reading: new.reading, ..old.clone() },
        None => new,
    });
    Command::LayZones { zones: zones.collect(), zone_map: Some(map), what: format!("{count} new zones") }
}

/// The command that makes the closed outlines of a line drawing the zones.
///
/// # Errors
/// When there is no reference, no line, or no line closes a shape.
pub fn from_lines(piece: &Piece, working: &Picture, lines: Lines) -> Result<Command, String> {
    let reference = piece.reference.clone().ok_or("This piece has no reference yet. Drop the drawing on it.")?;
    let map = line_drawing::zones(working, lines).map_err(|e| format!("The drawing makes no zones: {e}."))?;
    Ok(Command::SetReference { zones: fresh(working, &map), zone_map: Some(map), reference: Some(Reference { lines: true, ..reference }) })
}

/// The command that frames the reference anew: turned, cropped or corrected. Where only the light is corrected the zones stay and are read
/// again; otherwise they are found anew. `working` is the picture in its new frame.
///
/// # Errors
/// When there is no reference or the frame is out of range.
pub fn reframe(piece: &Piece, working: &Picture, frame: Frame) -> Result<Command, String> {
    frame.check()?;
    let old = piece.reference.clone().ok_or("This piece has no reference yet. Drop a picture on it.")?;
    let same_cut = (old.frame.crop, old.frame.straighten) == (frame.crop, frame.straighten);
    let full = old.full_size();
    let (width, height) = frame.size_of(full);
    let reference = Reference {
        frame,
        full: Some(PixelSize { width: full.0, height: full.1 }),
        width,
        height,
        neutral: views::mean_temperature(working),
        ..old
    };
    let map = match &piece.zone_map {
        Some(map) if same_cut => map.clone(),
        _ => {
            let proposal = Proposal::of(working);
            proposal.zones(piece.zones.len().clamp(1, 24).max(proposal.natural_count().min(5)))
        }
    };
    let zones = fresh(working, &map).into_iter().map(|new| match piece.zone(new.id).filter(|_| same_cut) {
        Some(old) => Zone { name: old.name.clone(), importance: old.importance, facts: old.facts, kept: old.kept, ..new },
        None => new,
    });
    Ok(Command::SetReference { zones: zones.collect(), zone_map: Some(map), reference: Some(reference) })
}

/// The command that joins the zones a drawn line leads between; the one it starts in is kept.
///
/// # Errors
/// When the line does not cross a border.
pub fn join_by(piece: &Piece, working: &Picture, stroke: &[Place]) -> Result<Command, String> {
    let map = piece.zone_map.as_ref().ok_or("There are no zones yet. Drop a picture first.")?;
    let (into, from) = borders::joined_by(map, stroke).map_err(said)?;
    merge(piece, working, ZoneId(from), ZoneId(into))
}

/// The command that redraws a border of a zone: what the line encloses is taken in or cut off.
///
/// # Errors
/// When it would change nothing, swallow a zone, or change a locked one.
pub fn redraw(piece: &Piece, working: &Picture, zone: ZoneId, stroke: &[Place]) -> Result<Command, String> {
    let map = piece.zone_map.as_ref().ok_or("There are no zones yet. Drop a picture first.")?;
    piece.zone(zone).ok_or_else(|| format!("There is no zone {} any more.", zone.0))?;
    let kept: Vec<u16> = piece.zones.iter().filter(|z| z.kept).map(|z| z.id.0).collect();
    let new = borders::redrawn(map, zone.0, stroke, &kept).map_err(said)?;
    let changed: Vec<ZoneId> = new
        .labels
        .iter()
        .zip(&map.labels)
        .filter(|(a, b)| a != b)
        .flat_map(|(a, b)| [ZoneId(*a), ZoneId(*b)])
        .collect::<BTreeSet<_>>()
        .into_iter()
        .collect();
    Ok(relaid(piece, working, new, &changed, format!("the border of {}", piece.zone_label(zone))))
}

fn said(e: String) -> String {
    let mut c = e.chars();
    format!("{}.", c.next().map(|f| f.to_uppercase().chain(c).collect::<String>()).unwrap_or_default())
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

/// The command that parts a zone along a drawn line. The new zone gets the lowest free number.
///
/// # Errors
/// When there is no map, the zone is not there, or the line does not cross it.
pub fn split(piece: &Piece, working: &Picture, zone: ZoneId, stroke: &[Place]) -> Result<Command, String> {
    let map = piece.zone_map.as_ref().ok_or("There are no zones yet. Drop a picture first.")?;
    piece.zone(zone).ok_or_else(|| format!("There is no zone {} any more.", zone.0))?;
    let used = map.zones();
    let new = (1..=u16::MAX).find(|n| !used.contains(n)).unwrap_or(u16::MAX);
    let map = borders::parted_by(map, zone.0, stroke, new).map_err(said)?;
    Ok(relaid(piece, working, map, &[zone, ZoneId(new)], format!("parting zone {}", zone.0)))
}

pub(crate) fn fresh(working: &Picture, map: &ZoneMap) -> Vec<Zone> {
    readings::read(working, map).into_iter().map(|(id, reading)| Zone::read(ZoneId(id), reading)).collect()
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
