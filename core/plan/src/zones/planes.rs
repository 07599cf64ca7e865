//! Zones without a reference: planes dragged into place.

use lean_picture::places::GRID;
use lean_picture::{Reading, ZoneMap};
use lean_piece::change::LayPlanes;
use lean_piece::light::{Distance, Facts, Plane};
use lean_piece::{Command, Piece, PlaneKind, PlaneShape, Refusal, Zone, ZoneId};

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
    let scale = f64::from(GRID) / w.max(h);
    let (gw, gh) = (((w * scale).round() as u32).max(8), ((h * scale).round() as u32).max(8));
    let mut labels = vec![0u16; (gw * gh) as usize];
    for (i, l) in labels.iter_mut().enumerate() {
        let (x, y) = ((i as u32 % gw) as f64 / f64::from(gw), (i as u32 / gw) as f64 / f64::from(gh));
        // What no plane covers belongs to the one farthest back.
        *l = planes.iter().rposition(|p| covers(p, x, y)).map_or(1, |n| n as u16 + 1);
    }
    if planes.is_empty() {
        return Ok(Command::LayPlanes(LayPlanes { planes, zone_map: None, zones: Vec::new() }));
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
    Ok(Command::LayPlanes(LayPlanes { zones: zones.collect(), zone_map: Some(map.into()), planes }))
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
