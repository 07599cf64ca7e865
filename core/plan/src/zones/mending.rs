//! Zones mended by hand: places given away or made zones of their own, zones joined and parted, borders redrawn, colours taken from the
//! picture. What a hand laid stays where it is until it is smaller than the brush.

use super::dials::cut_of;
use super::{Surveyed, cells_of, free_number, fresh, said, what};
use lean_picture::places::with_shade;
use lean_picture::spot::Spot;
use lean_picture::{KeptMap, ZoneMap, borders};
use lean_piece::change::LayZones;
use lean_piece::light::Facts;
use lean_piece::{Command, Cut, MassId, Piece, Zone, ZoneId};
use std::collections::BTreeSet;

const NO_ZONES: &str = "There are no zones yet. Drop a picture first.";

/// The command that joins the zones a drawn line leads between; the one it starts in is kept.
///
/// # Errors
/// When the line does not cross a border.
pub fn join_by(piece: &Piece, look: Surveyed, stroke: &[Spot]) -> Result<Command, String> {
    let (into, from) = borders::joined_by(piece.map().ok_or(NO_ZONES)?, stroke).map_err(said)?;
    merge(piece, look, ZoneId(from), ZoneId(into))
}

/// The command that joins zone `from` into zone `into`, with all their places. The joined zone keeps `into`'s number, name and importance;
/// its target starts as its reading.
///
/// # Errors
/// When there is no map, a zone is not there, or both are the same.
pub fn merge(piece: &Piece, look: Surveyed, from: ZoneId, into: ZoneId) -> Result<Command, String> {
    let map = piece.map().ok_or(NO_ZONES)?;
    if from == into {
        return Err("A zone cannot be joined with itself. Choose another.".into());
    }
    for z in [from, into] {
        known(piece, z)?;
    }
    let done = what(format!("joining {} and {}", piece.zone_label(into), piece.zone_label(from)));
    let Some(mut cut) = piece.cut.clone() else { return Ok(relaid(piece, look, map.merged(from.0, into.0), &[into], done)) };
    cut.shades.iter_mut().filter(|s| s.zone == from.0).for_each(|s| s.zone = into.0);
    cut.hand = cut.hand.as_ref().and_then(KeptMap::map).map(|hand| hand.merged(from.0, into.0).into());
    Ok(cut_anew(piece, look, cut, &[into], done))
}

/// The command that parts a zone along a drawn line. The new zone gets the lowest free number.
///
/// # Errors
/// When there is no map, the zone is not there, or the line does not cross it.
pub fn split(piece: &Piece, look: Surveyed, zone: ZoneId, stroke: &[Spot]) -> Result<Command, String> {
    known(piece, zone)?;
    let new = free_number(piece.zones.iter().map(|z| z.id.0));
    let map = borders::parted_by(piece.map().ok_or(NO_ZONES)?, zone.0, stroke, new).map_err(said)?;
    // Both sides are laid by hand, so that the line stays where it was drawn.
    let done = what(format!("parting {}", piece.zone_label(zone)));
    by_hand(piece, look, map, &[zone, ZoneId(new)], done)
}

/// The command that redraws a border of a zone: what the line encloses is taken in or cut off.
///
/// # Errors
/// When it would change nothing, swallow a zone, or change a locked one.
pub fn redraw(piece: &Piece, look: Surveyed, zone: ZoneId, stroke: &[Spot]) -> Result<Command, String> {
    known(piece, zone)?;
    let kept: Vec<u16> = piece.zones.iter().filter(|z| z.kept).map(|z| z.id.0).collect();
    let new = borders::redrawn(piece.map().ok_or(NO_ZONES)?, zone.0, stroke, &kept).map_err(said)?;
    let done = what(format!("the border of {}", piece.zone_label(zone)));
    by_hand(piece, look, new, &[], done)
}

/// The command that gives the place at a spot to another zone.
///
/// # Errors
/// When the place is of that zone already, is all the zone has, or either zone is locked.
pub fn give(piece: &Piece, look: Surveyed, at: Spot, to: ZoneId) -> Result<Command, String> {
    let map = piece.map().ok_or(NO_ZONES)?;
    known(piece, to)?;
    let from = zone_at(map, at.checked()?);
    if from == to {
        return Err(format!("That place is of {} already. Choose a place of another zone.", piece.zone_label(to)));
    }
    for z in [from, to] {
        if piece.zone(z).is_some_and(|z| z.kept) {
            return Err(format!("{} is locked: unlock it first.", piece.zone_label(z)));
        }
    }
    let new = with_place(map, at, to.0);
    if !cells_of(&new).contains_key(&from.0) {
        return Err(format!("That is the only place of {}: join the two zones instead.", piece.zone_label(from)));
    }
    by_hand(piece, look, new, &[], what(format!("a place given to {}", piece.zone_label(to))))
}

/// The command that parts a zone where a mass ends: what lies in the mass becomes a zone of its own.
///
/// # Errors
/// As [`super::masses::parted_by_mass`].
pub fn part_by_mass(piece: &Piece, look: Surveyed, zone: ZoneId, mass: MassId) -> Result<Command, String> {
    known(piece, zone)?;
    let (map, new) = super::masses::parted_by_mass(piece, zone, mass)?;
    let facts = piece.zone(zone).map(|z| z.facts).unwrap_or_default();
    let mut command = by_hand(piece, look, map, &[zone, new], what(format!("parting {} by its masses", piece.zone_label(zone))))?;
    if let (Command::LayZones(LayZones { zones, .. }), Some(mass)) = (&mut command, piece.mass(mass)) {
        zones.iter_mut().filter(|z| z.id == new).for_each(|z| z.facts = super::masses::told(Facts { by_hand: false, ..facts }, mass));
    }
    Ok(command)
}

/// The command that makes the place at a spot a zone of its own.
///
/// # Errors
/// When it is the only place of its zone, or the zone is locked.
pub fn own(piece: &Piece, look: Surveyed, at: Spot) -> Result<Command, String> {
    let map = piece.map().ok_or(NO_ZONES)?;
    let from = zone_at(map, at.checked()?);
    if piece.zone(from).is_some_and(|z| z.kept) {
        return Err(format!("{} is locked: unlock it first.", piece.zone_label(from)));
    }
    let new = free_number(piece.zones.iter().map(|z| z.id.0));
    let map = with_place(map, at, new);
    if !cells_of(&map).contains_key(&from.0) {
        return Err(format!("{} has this one place only, so it is a zone of its own already.", piece.zone_label(from)));
    }
    by_hand(piece, look, map, &[ZoneId(new)], what(format!("a place of {} as a zone", piece.zone_label(from))))
}

/// The command that makes the colour at a spot a zone of its own, wherever it lies: "this, too".
///
/// # Errors
/// When there are no zones, or a zone has just this colour.
pub fn take(piece: &Piece, look: Surveyed, at: Spot) -> Result<Command, String> {
    piece.map().ok_or(NO_ZONES)?;
    let Cut { brush, shades, joins, hand, turned } = cut_of(piece, look)?;
    let lab = look.survey.colour_at(at.checked()?, lean_colour::Share(brush));
    let new = ZoneId(free_number(piece.zones.iter().map(|z| z.id.0)));
    let shade = look.survey.shade(lab, new.0);
    let same = (0..shades.len()).find(|s| shades[*s].run.is_none() && near(shades[*s].look, shade.look));
    let (shades, joins) = match same {
        None => with_shade(shades, joins, shade),
        // A shade of a zone that has others leaves it.
        Some(s) if shades.iter().filter(|t| t.zone == shades[s].zone).count() > 1 => {
            let mut shades = shades;
            shades[s].zone = new.0;
            (shades, joins)
        }
        Some(_) => return Err("A zone has this colour already. Point at another, or make this place a zone of its own.".into()),
    };
    let cut = Cut { brush, shades, joins, hand, turned };
    let map = look.laid(&cut);
    if !cells_of(&map).contains_key(&new.0) {
        return Err("This colour lies nowhere in a place as large as the brush. Take a smaller brush first.".into());
    }
    let others: Vec<ZoneId> = Vec::new();
    Ok(laid_command(piece, look, cut, map, &others, "a colour taken from the picture".into()))
}

/// Looks closer than this are one shade, in look units.
const SAME: f32 = 1.0;

fn near(p: [f32; 3], q: [f32; 3]) -> bool {
    (0..3).map(|c| (p[c] - q[c]).powi(2)).sum::<f32>() < SAME * SAME
}

fn known(piece: &Piece, zone: ZoneId) -> Result<(), String> {
    piece.zone(zone).map(|_| ()).ok_or_else(|| format!("There is no zone {} any more.", zone.0))
}

fn cell(map: &ZoneMap, at: Spot) -> usize {
    let cell = |share: f64, n: u32| ((share.clamp(0.0, 1.0) * f64::from(n)) as u32).min(n - 1);
    (cell(at.y, map.height) * map.width + cell(at.x, map.width)) as usize
}

/// The zone at a spot.
pub fn zone_at(map: &ZoneMap, at: Spot) -> ZoneId {
    ZoneId(map.labels[cell(map, at)])
}

/// The map with the place at a spot in another zone.
fn with_place(map: &ZoneMap, at: Spot, zone: u16) -> ZoneMap {
    let parts = lean_picture::zone_map::parts::Parts::of(map);
    let place = parts.of_cells()[cell(map, at)];
    let mut labels = map.labels.clone();
    parts.stretches().filter(|(_, part)| *part == place).for_each(|(run, _)| labels[run].fill(zone));
    ZoneMap { labels, ..*map }
}

/// The command for a map changed by hand: where it differs from the piece's the hand is remembered. Zones in `anew` are read anew.
pub(crate) fn by_hand(piece: &Piece, look: Surveyed, new: ZoneMap, anew: &[ZoneId], done: String) -> Result<Command, String> {
    let map = piece.map().ok_or(NO_ZONES)?;
    let Some(mut cut) = piece.cut.clone() else {
        let changed: BTreeSet<u16> = new.labels.iter().zip(&map.labels).filter(|(a, b)| a != b).flat_map(|(a, b)| [*a, *b]).collect();
        return Ok(relaid(piece, look, new, &changed.into_iter().map(ZoneId).collect::<Vec<_>>(), done));
    };
    let before = cut.hand.as_ref().and_then(KeptMap::map).map(|h| h.labels.as_slice());
    let hand = new
        .labels
        .iter()
        .zip(&map.labels)
        .enumerate()
        .map(|(i, (now, was))| if now == was { before.map_or(0, |b| b[i]) } else { *now })
        .collect();
    cut.hand = Some(ZoneMap { labels: hand, ..new }.into());
    Ok(cut_anew(piece, look, cut, anew, done))
}

fn cut_anew(piece: &Piece, look: Surveyed, cut: Cut, anew: &[ZoneId], done: String) -> Command {
    let map = look.laid(&cut);
    laid_command(piece, look, cut, map, anew, done)
}

fn laid_command(piece: &Piece, look: Surveyed, cut: Cut, map: ZoneMap, anew: &[ZoneId], done: String) -> Command {
    let zones = look.zones(piece, &cut, anew);
    Command::LayZones(LayZones { zones, zone_map: Some(map.into()), cut: Some(cut), what: done })
}

/// Zones over a changed map that no cut made: those in `changed` are read anew, the others stay as the painter left them.
fn relaid(piece: &Piece, look: Surveyed, map: ZoneMap, changed: &[ZoneId], done: String) -> Command {
    let zones = fresh(look.working, &map)
        .into_iter()
        .map(|new| match piece.zone(new.id) {
            Some(old) if !changed.contains(&new.id) => old.clone(),
            Some(old) => Zone { name: old.name.clone(), importance: old.importance, facts: old.facts, kept: old.kept, ..new },
            None => new,
        })
        .collect();
    Command::LayZones(LayZones { zone_map: Some(map.into()), zones, cut: None, what: done })
}
