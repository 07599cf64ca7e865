//! The two dials: how many colours, and how large a brush.

use super::found::{on_grid, propose};
use super::{COLOUR_RANGE, Surveyed, free_number, zones_of};
use lean_colour::Share;
use lean_picture::KeptMap;
use lean_picture::places::{LARGEST, MIDDLE, SMALLEST, joined, parted};
use lean_piece::change::LayZones;
use lean_piece::{Command, Cut, MOST_TURNS, Piece, Turn, Zone, ZoneId};

/// The command that shows the picture in `count` colours: each one more parts one zone, each one less joins two, the others keep their
/// identity. Locked zones are neither parted nor joined. Zones that were not cut by the dials are found anew.
///
/// # Errors
/// When the count is out of range, or no more colours are told apart, or no two zones are left to join.
pub fn colours(piece: &Piece, look: Surveyed, count: usize) -> Result<Command, String> {
    if !COLOUR_RANGE.contains(&count) {
        return Err(format!("{count} colours cannot be shown; ask for {} to {}.", COLOUR_RANGE.start(), COLOUR_RANGE.end()));
    }
    if piece.cut.is_none() {
        return Ok(propose(piece, look, count));
    }
    let mut now = piece.clone();
    while now.zones.len() != count {
        now = if now.zones.len() < count { one_more(&now, look)? } else { one_less(&now, look)? };
    }
    let cut = now.cut.take();
    let map = cut.as_ref().map(|c| KeptMap::from(look.laid(c)));
    Ok(Command::LayZones(LayZones { zones: now.zones, zone_map: map, cut, what: format!("{count} colours") }))
}

fn locked(piece: &Piece) -> Vec<u16> {
    piece.zones.iter().filter(|z| z.kept).map(|z| z.id.0).collect()
}

/// The piece with one zone parted; its map is not laid yet.
fn one_more(piece: &Piece, look: Surveyed) -> Result<Piece, String> {
    let mut cut = piece.cut.clone().ok_or("These zones were not cut into colours.")?;
    if let Some(Turn::Joined { kept, gone, shades }) = cut.turned.pop_if(|t| undoes_joining(t, piece)) {
        shades.iter().for_each(|s| cut.shades[*s].zone = gone.id.0);
        let mut zones: Vec<Zone> = piece.zones.iter().map(|z| if z.id == kept.id { (*kept).clone() } else { z.clone() }).collect();
        zones.push(*gone);
        zones.sort_by_key(|z| z.id);
        return Ok(Piece { zones, cut: Some(cut), ..piece.clone() });
    }
    let (zone, leave) = parted(&cut.shades, &cut.joins, &locked(piece))
        .ok_or("No more colours are told apart in this picture. Take one from the picture, or part a zone along a line.")?;
    let whole = piece.zone(ZoneId(zone)).cloned().ok_or_else(|| format!("There is no zone {zone} any more."))?;
    let new = ZoneId(free_number(piece.zones.iter().map(|z| z.id.0)));
    leave.iter().for_each(|s| cut.shades[*s].zone = new.0);
    remember(&mut cut, Turn::Parted { whole: Box::new(whole.clone()), left: new });
    let mut zones = look.zones(piece, &cut, &[whole.id, new]);
    // Both parts stand in the light as the whole did.
    zones.iter_mut().filter(|z| z.id == new).for_each(|z| (z.facts, z.importance) = (whole.facts, whole.importance));
    Ok(Piece { zones, cut: Some(cut), ..piece.clone() })
}

/// The piece with two zones joined; its map is not laid yet.
fn one_less(piece: &Piece, look: Surveyed) -> Result<Piece, String> {
    let mut cut = piece.cut.clone().ok_or("These zones were not cut into colours.")?;
    if let Some(Turn::Parted { whole, left }) = cut.turned.pop_if(|t| undoes_parting(t, piece)) {
        cut.shades.iter_mut().filter(|s| s.zone == left.0).for_each(|s| s.zone = whole.id.0);
        let zones =
            piece.zones.iter().filter(|z| z.id != left).map(|z| if z.id == whole.id { (*whole).clone() } else { z.clone() }).collect();
        return Ok(Piece { zones, cut: Some(cut), ..piece.clone() });
    }
    let mut stay = locked(piece);
    // What lies where a hand laid it is not given to another zone by a dial.
    stay.extend(cut.hand.iter().flat_map(|h| h.geometry().areas.iter().map(|a| a.0)));
    let (kept, gone) =
        joined(&cut.shades, &cut.joins, &stay).ok_or("No two zones are left to join: the others are locked or laid by hand.")?;
    let zone = |id: u16| piece.zone(ZoneId(id)).cloned().map(Box::new).ok_or_else(|| format!("There is no zone {id} any more."));
    let (kept, gone) = (zone(kept)?, zone(gone)?);
    let shades: Vec<usize> = (0..cut.shades.len()).filter(|s| cut.shades[*s].zone == gone.id.0).collect();
    shades.iter().for_each(|s| cut.shades[*s].zone = kept.id.0);
    remember(&mut cut, Turn::Joined { kept: kept.clone(), gone: gone.clone(), shades });
    let mut zones = look.zones(piece, &cut, &[kept.id]);
    if kept.name.is_empty() {
        zones.iter_mut().filter(|z| z.id == kept.id).for_each(|z| z.name.clone_from(&gone.name));
    }
    Ok(Piece { zones, cut: Some(cut), ..piece.clone() })
}

fn remember(cut: &mut Cut, turn: Turn) {
    cut.turned.push(turn);
    if cut.turned.len() > MOST_TURNS {
        cut.turned.remove(0);
    }
}

/// Whether the zone that took another in is as the dial left it, so that both come back as they were.
fn undoes_joining(turn: &Turn, piece: &Piece) -> bool {
    let Turn::Joined { kept, gone, shades } = turn else { return false };
    let of_kept = |s: &usize| piece.cut.as_ref().is_some_and(|c| c.shades.get(*s).is_some_and(|s| s.zone == kept.id.0));
    let there = piece.zone(kept.id).is_some_and(|z| !z.kept && z.target == untouched(z));
    there && piece.zone(gone.id).is_none() && shades.iter().all(of_kept)
}

/// Whether both parts are as the dial left them, so that the whole comes back as it was.
fn undoes_parting(turn: &Turn, piece: &Piece) -> bool {
    let Turn::Parted { whole, left } = turn else { return false };
    let free = |id: ZoneId| piece.zone(id).is_some_and(|z| !z.kept && z.target == untouched(z));
    let by_hand =
        |id: ZoneId| piece.cut.as_ref().and_then(|c| c.hand.as_ref()).is_some_and(|h| h.geometry().areas.iter().any(|a| a.0 == id.0));
    free(whole.id) && free(*left) && !by_hand(*left)
}

/// The target a zone has while nobody has moved it.
fn untouched(zone: &Zone) -> lean_colour::Lab {
    if zone.graded.is_some() { zone.target } else { zone.reading.lab }
}

/// The command that lays the same zones with a brush of this share of the longer side. Only places change.
///
/// # Errors
/// When the brush is out of range or there are no zones.
pub fn brush(piece: &Piece, look: Surveyed, brush: Share, name: &str) -> Result<Command, String> {
    // A hair of room, so that a brush told in rounded millimetres is not refused at either end.
    if !(SMALLEST * 0.98..=LARGEST * 1.02).contains(&brush.0) {
        return Err(format!(
            "A brush of {:.1} % of the longer side cannot be laid; it may be {:.1} to {:.0} %.",
            brush.0 * 100.0,
            SMALLEST * 100.0,
            LARGEST * 100.0
        ));
    }
    let cut = Cut { brush: brush.0.clamp(SMALLEST, LARGEST), ..cut_of(piece, look)? };
    let map = look.laid(&cut);
    let here = zones_of(&cut);
    let zones: Vec<Zone> = piece.zones.iter().filter(|z| here.contains(&z.id)).cloned().collect();
    Ok(Command::LayZones(LayZones { zones, zone_map: Some(map.into()), cut: Some(cut), what: format!("a brush of {name}") }))
}

/// The cut of a piece. Zones that were laid in another way (by an earlier program, or drawn) count as laid by hand.
///
/// # Errors
/// When there are no zones.
pub(crate) fn cut_of(piece: &Piece, look: Surveyed) -> Result<Cut, String> {
    if let Some(cut) = &piece.cut {
        return Ok(cut.clone());
    }
    let map = piece.map().ok_or("There are no zones yet. Drop a picture first.")?;
    let hand = on_grid(map, look.survey.size(), |_| true);
    let shades: Vec<_> = piece.zones.iter().map(|z| look.survey.shade(z.reading.lab, z.id.0)).collect();
    let joins = (1..shades.len()).map(|i| (0, i)).collect();
    Ok(Cut { brush: MIDDLE, shades, joins, hand: Some(hand.into()), turned: Vec::new() })
}
