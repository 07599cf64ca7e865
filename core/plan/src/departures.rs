//! Where the painting went its own way: the piece as it is painted, and what has to be asked again.

use crate::findings::findings;
use crate::light::key::Reach;
use crate::mixes::{ZoneMix, mixes, pigments_of, reach_of, technique_of, wells};
use lean_picture::{Reading, ZoneMap};
use lean_piece::easel::{Departure, DepartureKind};
use lean_piece::paint_box::PaintBox;
use lean_piece::{Importance, Piece, Zone, ZoneId};
use lean_search::Recipes;
use serde::Serialize;

/// The piece as it is painted: zones left out have grown over, moved ones lie elsewhere, added ones are there. Without departures it is the piece.
pub fn as_painted(piece: &Piece) -> Piece {
    let mut painted = piece.clone();
    for departure in &piece.easel.departures {
        depart(&mut painted, departure);
    }
    painted
}

/// For every zone of the plan that is not painted, the one that has grown over it most: what is seen at its place.
pub fn grown_over_by(piece: &Piece, painted: &Piece) -> Vec<(ZoneId, ZoneId)> {
    let (Some(before), Some(after)) = (piece.map(), painted.map()) else { return Vec::new() };
    let gone = piece.zones.iter().map(|z| z.id).filter(|z| painted.zone(*z).is_none());
    let most = |gone: ZoneId| {
        let mut cells = std::collections::BTreeMap::<u16, usize>::new();
        for (_, there) in before.labels.iter().zip(&after.labels).filter(|(was, _)| **was == gone.0) {
            *cells.entry(*there).or_default() += 1;
        }
        cells.into_iter().max_by_key(|c| c.1).map(|c| (gone, ZoneId(c.0)))
    };
    gone.filter_map(most).collect()
}

fn depart(piece: &mut Piece, departure: &Departure) {
    let Some(map) = piece.map().cloned() else { return };
    let zone_there = |z: ZoneId| piece.zone(z).is_some();
    let new = match &departure.change {
        DepartureKind::LeftOut { zone } if zone_there(*zone) => grown_over(piece, map, *zone),
        DepartureKind::Moved { zone, right, down } if zone_there(*zone) => moved(piece, map, *zone, (*right, *down)),
        DepartureKind::Added { name, at, size, lab } => {
            let id = ZoneId(piece.zones.iter().map(|z| z.id.0).max().unwrap_or(0) + 1);
            let new = added(map, id, (at.x, at.y), (size.across, size.down));
            let reading = Reading { area: 0.0, value: lab.value(), lab: *lab };
            piece.zones.push(Zone { name: name.clone(), importance: Importance::Usual, ..Zone::read(id, reading) });
            new
        }
        _ => return,
    };
    remap(piece, new);
}

/// Puts another map in place: areas follow, and zones nothing is left of are gone.
fn remap(piece: &mut Piece, map: ZoneMap) {
    let total = map.labels.len().max(1) as f64;
    let areas = map.areas();
    for z in &mut piece.zones {
        z.reading.area = areas.iter().find(|(id, _)| *id == z.id.0).map_or(0.0, |(_, n)| *n as f64 / total);
    }
    piece.zones.retain(|z| z.reading.area > 0.0);
    piece.zone_map = Some(map.into());
}

/// What lies round a zone goes on over it, from its edges inwards.
fn grown_over(piece: &Piece, mut map: ZoneMap, zone: ZoneId) -> ZoneMap {
    if piece.zones.len() < 2 {
        return map;
    }
    fill(&mut map, |l| l == zone.0);
    map
}

/// Fills all cells of `gone` from those beside them, ring by ring.
fn fill(map: &mut ZoneMap, gone: impl Fn(u16) -> bool) {
    let (w, h) = (map.width as usize, map.height as usize);
    let mut open: Vec<usize> = (0..map.labels.len()).filter(|i| gone(map.labels[*i])).collect();
    while !open.is_empty() {
        let beside = |i: usize| {
            let (x, y) = (i % w, i / w);
            [(x > 0).then(|| i - 1), (x + 1 < w).then(|| i + 1), (y > 0).then(|| i - w), (y + 1 < h).then(|| i + w)]
        };
        let ring: Vec<(usize, u16)> =
            open.iter().filter_map(|i| Some((*i, beside(*i).into_iter().flatten().map(|j| map.labels[j]).find(|l| !gone(*l))?))).collect();
        if ring.is_empty() {
            return;
        }
        ring.iter().for_each(|(i, l)| map.labels[*i] = *l);
        open.retain(|i| gone(map.labels[*i]));
    }
}

/// The zone lies elsewhere; where it lay, what is round it goes on.
fn moved(piece: &Piece, mut map: ZoneMap, zone: ZoneId, (right, down): (f64, f64)) -> ZoneMap {
    if piece.zones.len() < 2 {
        return map;
    }
    let (w, h) = (i64::from(map.width), i64::from(map.height));
    let (dx, dy) = ((right * w as f64).round() as i64, (down * h as f64).round() as i64);
    let own: Vec<i64> = (0..w * h).filter(|i| map.labels[*i as usize] == zone.0).collect();
    fill(&mut map, |l| l == zone.0);
    for i in own {
        let (x, y) = (i % w + dx, i / w + dy);
        if (0..w).contains(&x) && (0..h).contains(&y) {
            map.labels[(y * w + x) as usize] = zone.0;
        }
    }
    map
}

/// An oval of a new zone.
fn added(mut map: ZoneMap, id: ZoneId, (x, y): (f64, f64), (across, down): (f64, f64)) -> ZoneMap {
    let (w, h) = (f64::from(map.width), f64::from(map.height));
    for (i, l) in map.labels.iter_mut().enumerate() {
        let (cx, cy) = ((i % map.width as usize) as f64 + 0.5, (i / map.width as usize) as f64 + 0.5);
        let off = ((cx / w - x) / (across / 2.0)).powi(2) + ((cy / h - y) / (down / 2.0)).powi(2);
        if off <= 1.0 {
            *l = id.0;
        }
    }
    map
}

/// What a departure raises, to be asked again.
#[derive(Clone, Debug, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Follows {
    /// What is noticed of the painting that was not of the plan, title first.
    pub raised: Vec<String>,
    /// What was noticed of the plan and has gone.
    pub settled: Vec<String>,
    /// What goes with it or stays behind, in sentences.
    pub asked: Vec<String>,
    /// How far the painting as it is misses what is wanted, against the plan, in a sentence.
    pub fit: String,
}

/// What follows from the departures of a piece; nothing without any.
pub fn follows(piece: &Piece, paint_box: &PaintBox) -> Option<Follows> {
    if piece.easel.departures.is_empty() {
        return None;
    }
    let painted = as_painted(piece);
    let (before, cost) = noticed(piece, paint_box);
    let (after, new_cost) = noticed(&painted, paint_box);
    let only = |of: &[String], not: &[String]| of.iter().filter(|t| !not.contains(t)).cloned().collect();
    let asked = piece.easel.departures.iter().flat_map(|d| asked(piece, d)).collect();
    let fit = match new_cost - cost {
        d if d > 0.5 => format!("The set serves the painting less well than the plan: {new_cost:.1} against {cost:.1}."),
        d if d < -0.5 => format!("The set serves the painting better than the plan: {new_cost:.1} against {cost:.1}."),
        _ => "The set serves the painting as well as the plan.".into(),
    };
    Some(Follows { raised: only(&after, &before), settled: only(&before, &after), asked, fit })
}

/// What is noticed of a piece, a line each, and what its set costs.
fn noticed(piece: &Piece, paint_box: &PaintBox) -> (Vec<String>, f64) {
    let set = pigments_of(paint_box, &piece.chosen.pigments);
    let technique = technique_of(piece, paint_box, &set);
    let recipes = Recipes::of(technique.as_ref());
    let mixes: Vec<ZoneMix> = if set.is_empty() { Vec::new() } else { mixes(piece, &recipes) };
    let wells = wells(piece, paint_box, &recipes, &mixes);
    let reach: Option<Reach> = reach_of(piece, paint_box).map(|r| r.within_rules(piece));
    let told = findings(piece, &mixes, &wells, reach);
    let cost = if mixes.is_empty() { 0.0 } else { crate::mixes::cost_of(piece, &mixes, recipes.fitted(piece.cost())) };
    (told.into_iter().map(|f| f.title).collect(), cost)
}

/// What goes with a thing that is left out or moved: its shadow, its echo, the eye's way.
fn asked(piece: &Piece, departure: &Departure) -> Vec<String> {
    use lean_piece::light::Role;
    let zone = match &departure.change {
        DepartureKind::LeftOut { zone } | DepartureKind::Moved { zone, .. } => piece.zone(*zone),
        DepartureKind::Added { name, .. } => {
            return vec![
                format!("Where does the shadow of {name} fall, and what light does it throw back?"),
                format!("Does the colour of {name} occur anywhere else?"),
            ];
        }
    };
    let Some(zone) = zone else { return Vec::new() };
    let label = piece.zone_label(zone.id);
    let out = matches!(departure.change, DepartureKind::LeftOut { .. });
    let beside: Vec<&Zone> = piece
        .geometry()
        .borders
        .iter()
        .filter_map(|(a, b, _)| match (*a == zone.id.0, *b == zone.id.0) {
            (true, _) => piece.zone(ZoneId(*b)),
            (_, true) => piece.zone(ZoneId(*a)),
            _ => None,
        })
        .collect();
    let mut asked = Vec::new();
    let is_shadow = |z: &&&Zone| matches!(z.facts.role, Some(Role::Shadow | Role::Contact));
    for shadow in beside.iter().filter(is_shadow) {
        let shade = piece.zone_label(shadow.id);
        asked.push(if out {
            format!("{label} is gone: does {shade} go with it?")
        } else {
            format!("{label} has moved: {shade} moves with it.")
        });
    }
    let near = |z: &&Zone| z.id != zone.id && lean_colour::difference::ciede2000(piece.wanted(z), piece.wanted(zone)) < 12.0;
    if out && zone.target.a.hypot(zone.target.b) > 15.0 {
        let echoes: Vec<String> = piece.zones.iter().filter(near).map(|z| piece.zone_label(z.id)).collect();
        asked.push(match echoes.len() {
            0 => format!("The colour of {label} occurs nowhere else now: is it missed?"),
            _ => format!("The colour of {label} is left in {} alone: does it stick out there?", echoes.join(" and ")),
        });
    }
    if zone.importance == Importance::Focal {
        asked.push(if out {
            format!("{label} was where the eye goes: what holds it now?")
        } else {
            format!("Does the eye still find {label}?")
        });
    }
    asked
}
