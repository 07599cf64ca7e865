//! A zone turned in the light: cut into its shadow side, middle, light, rim and highlight, each a zone with a colour of its own, and laid flat again.
//!
//! Parts are zones like any other, so that mixes, tasks, sheets and pictures know of them; [`Formed`] says which belong together.

mod colours;

use crate::drawing::is_drawing;
use crate::light::key::Reach;
use crate::zones::{Surveyed, by_hand};
use colours::{Turned, coloured};
use lean_picture::ZoneMap;
use lean_picture::form::{Bulge, Cutting, FormPart, Lit, turned};
use lean_picture::spot::Spot;
use lean_piece::change::LayZones;
use lean_piece::light::{Facts, LampFrom};
use lean_piece::{Command, Formed, Piece, Zone, ZoneId};
use std::collections::{BTreeMap, BTreeSet};

/// Zones to be turned, and the manner of it.
#[derive(Clone, Debug, PartialEq)]
pub struct Turning {
    /// The zones.
    pub zones: Vec<ZoneId>,
    /// Their bulge; `None` takes the light and dark that the picture has in them, of a drawing a round form.
    pub bulge: Option<Bulge>,
    /// Share of each that lies in shadow, 0.1..=0.7.
    pub dark: f64,
    /// True to keep a rim of thrown-back light and a highlight.
    pub edges: bool,
    /// A line along which the shadow begins; empty where the light says it.
    pub shadow: Vec<Spot>,
    /// True to keep the mean colour of each.
    pub holds_mean: bool,
}

/// Most zones a piece may have once some are turned. A choice: a search over more takes too long to be waited for.
const MOST_ZONES: usize = 320;
/// Mark of a drawing that was not cut with a brush, as a share of the longer side. A choice: a broad pen.
const PEN: f64 = 0.012;
/// Rounds in which parts that the brush loses are given back to the middle.
const ROUNDS: usize = 3;

/// The command that turns zones in the light; those that are turned already are turned anew.
///
/// # Errors
/// When a zone is not there, locked or too small, or there would be too many.
pub fn turn(piece: &Piece, look: Surveyed, reach: Reach, ask: &Turning) -> Result<Command, String> {
    if !(0.1..=0.7).contains(&ask.dark) {
        return Err(format!("A share of {} in shadow is out of range; it may be 0.1 to 0.7.", ask.dark));
    }
    let wholes = wholes(piece, &ask.zones)?;
    let map = piece.map().ok_or("There are no zones yet. Drop a picture first.")?;
    let flat = flattened(piece, map, &wholes);
    let before = without_parts(piece, &wholes, &flat);
    let by_rules = ask.bulge.is_some() || is_drawing(piece);
    let lit = if by_rules { Lit::From(ask.bulge.unwrap_or_default(), from(piece)) } else { Lit::Seen(look.working) };
    let longer = f64::from(map.width.max(map.height));
    let cutting = Cutting { dark: ask.dark, brush: piece.cut.as_ref().map_or(PEN, |c| c.brush) * longer, edges: ask.edges };
    let shadow = (!ask.shadow.is_empty()).then_some(ask.shadow.as_slice());
    let mut cut = BTreeMap::new();
    for whole in &wholes {
        let cells = turned(&flat, whole.0, lit, &cutting, shadow)?;
        if !cells.is_empty() {
            cut.insert(*whole, cells);
        }
    }
    if cut.is_empty() {
        let label = piece.zone_label(wholes[0]);
        return Err(format!("{label} is too small to be turned with this brush. Take a smaller brush, or a larger shape."));
    }
    let taken: BTreeSet<u16> = before.zones.iter().map(|z| z.id.0).collect();
    for _ in 0..ROUNDS {
        let (laid, numbers) = numbered(&flat, &cut, &taken);
        if laid_count(&before, &numbers) > MOST_ZONES {
            return Err(format!("That makes more than {MOST_ZONES} zones. Turn fewer at once."));
        }
        let done = match &wholes[..] {
            [one] => format!("{} turned in the light", piece.zone_label(*one)),
            all => format!("{} zones turned in the light", all.len()),
        };
        let mut command = by_hand(&before, look, laid, &numbers.values().copied().collect::<Vec<_>>(), done)?;
        let Command::LayZones(LayZones { zones, zone_map: Some(map), .. }) = &mut command else { return Ok(command) };
        let there: BTreeSet<u16> = map.geometry().areas.iter().map(|a| a.0).collect();
        let lost: Vec<(ZoneId, FormPart)> = numbers.iter().filter(|(_, id)| !there.contains(&id.0)).map(|(of, _)| *of).collect();
        if lost.is_empty() {
            let turned = Turned { piece, reach, by_rules, holds_mean: ask.holds_mean };
            wholes.iter().for_each(|whole| coloured(&turned, zones, *whole, &numbers));
            return Ok(command);
        }
        // The brush took them: the middle has their cells.
        for (whole, cells) in &mut cut {
            cells.iter_mut().filter(|(_, part)| lost.contains(&(*whole, *part))).for_each(|(_, part)| *part = FormPart::Middle);
        }
    }
    Err("The brush leaves nothing of its parts. Take a smaller brush, or turn a larger shape.".into())
}

/// The command that lays turned zones flat again, in the colour they were meant to have.
///
/// # Errors
/// When none of them is turned.
pub fn lay_flat(piece: &Piece, look: Surveyed, zones: &[ZoneId]) -> Result<Command, String> {
    let wholes = wholes(piece, zones)?;
    let map = piece.map().ok_or("There are no zones yet. Drop a picture first.")?;
    if !wholes.iter().any(|w| piece.zones.iter().any(|z| z.form.is_some_and(|f| f.whole == *w))) {
        return Err(format!("{} is flat already.", piece.zone_label(wholes[0])));
    }
    let done = match &wholes[..] {
        [one] => format!("{} laid flat again", whole_name(piece, *one)),
        all => format!("{} zones laid flat again", all.len()),
    };
    let flat = flattened(piece, map, &wholes);
    let before = without_parts(piece, &wholes, &flat);
    let mut command = by_hand(&before, look, flat, &wholes, done)?;
    if let Command::LayZones(LayZones { zones, .. }) = &mut command {
        for zone in zones.iter_mut().filter(|z| wholes.contains(&z.id)) {
            let Some(old) = piece.zone(zone.id) else { continue };
            let form = old.form.or_else(|| piece.zones.iter().filter_map(|z| z.form).find(|f| f.whole == zone.id));
            let facts = Facts { role: None, local: None, ..old.facts };
            *zone =
                Zone { name: whole_name(piece, old.id), target: form.map_or(old.target, |f| f.local), form: None, facts, ..zone.clone() };
        }
    }
    Ok(command)
}

/// The zones that were meant, whole: of a part the zone it is a part of. Each once.
fn wholes(piece: &Piece, zones: &[ZoneId]) -> Result<Vec<ZoneId>, String> {
    let mut all = Vec::new();
    for id in zones {
        let zone = piece.zone(*id).ok_or_else(|| format!("There is no zone {} any more.", id.0))?;
        if zone.kept {
            return Err(format!("{} is locked: unlock it first.", piece.zone_label(*id)));
        }
        let whole = zone.form.map_or(*id, |f| f.whole);
        if !all.contains(&whole) {
            all.push(whole);
        }
    }
    if all.is_empty() { Err("Choose a zone to turn.".into()) } else { Ok(all) }
}

fn is_other_part(piece: &Piece, wholes: &[ZoneId], id: ZoneId) -> bool {
    piece.zone(id).and_then(|z| z.form).is_some_and(|f| wholes.contains(&f.whole) && f.whole != id)
}

/// The map with the parts of forms joined again.
fn flattened(piece: &Piece, map: &ZoneMap, wholes: &[ZoneId]) -> ZoneMap {
    let into: BTreeMap<u16, u16> =
        piece.zones.iter().filter_map(|z| z.form.filter(|f| wholes.contains(&f.whole)).map(|f| (z.id.0, f.whole.0))).collect();
    let labels = map.labels.iter().map(|l| into.get(l).copied().unwrap_or(*l)).collect();
    ZoneMap { labels, ..*map }
}

/// The piece with the parts of forms joined again, over that map.
fn without_parts(piece: &Piece, wholes: &[ZoneId], flat: &ZoneMap) -> Piece {
    let mut whole = piece.clone();
    whole.zones.retain(|z| !is_other_part(piece, wholes, z.id));
    whole.zone_map = Some(flat.clone().into());
    if let Some(cut) = &mut whole.cut {
        cut.hand = cut.hand.as_ref().and_then(|h| h.map()).map(|hand| flattened(piece, hand, wholes).into());
    }
    whole
}

type Cells = Vec<(usize, FormPart)>;

/// The map with a number for every part; the middle, or else the largest, keeps the number of the whole.
fn numbered(flat: &ZoneMap, cut: &BTreeMap<ZoneId, Cells>, taken: &BTreeSet<u16>) -> (ZoneMap, BTreeMap<(ZoneId, FormPart), ZoneId>) {
    let mut labels = flat.labels.clone();
    let mut free = (1..u16::MAX).filter(|n| !taken.contains(n));
    let mut numbers = BTreeMap::new();
    for (whole, cells) in cut {
        let mut sizes: BTreeMap<FormPart, usize> = BTreeMap::new();
        cells.iter().for_each(|(_, part)| *sizes.entry(*part).or_default() += 1);
        let largest = sizes.iter().max_by_key(|(_, n)| **n).map(|(part, _)| *part);
        let stays = if sizes.contains_key(&FormPart::Middle) { Some(FormPart::Middle) } else { largest };
        for part in sizes.keys() {
            let id = if Some(*part) == stays { whole.0 } else { free.next().unwrap_or(whole.0) };
            numbers.insert((*whole, *part), ZoneId(id));
        }
        cells.iter().for_each(|(i, part)| labels[*i] = numbers[&(*whole, *part)].0);
    }
    (ZoneMap { labels, ..*flat }, numbers)
}

fn laid_count(piece: &Piece, numbers: &BTreeMap<(ZoneId, FormPart), ZoneId>) -> usize {
    let all: BTreeSet<ZoneId> = piece.zones.iter().map(|z| z.id).chain(numbers.values().copied()).collect();
    all.len()
}

/// Name of a zone without that of its part.
fn whole_name(piece: &Piece, id: ZoneId) -> String {
    let name = piece.zone(id).map(|z| z.name.clone()).unwrap_or_default();
    let part = FormPart::ALL.iter().find_map(|p| name.strip_suffix(&format!(", {}", p.word())).map(str::to_owned));
    // A zone without a name lends its parts its number.
    part.map_or(name, |whole| if whole == format!("zone {}", id.0) { String::new() } else { whole })
}

/// Direction the light comes from: to the right, down, and towards the eye. From above on the left where nobody named it.
fn from(piece: &Piece) -> [f64; 3] {
    match piece.lighting.lamp(Default::default()).map(|l| l.from) {
        Some(LampFrom::Left) => [-0.78, -0.35, 0.52],
        Some(LampFrom::Right) => [0.78, -0.35, 0.52],
        Some(LampFrom::Above) => [-0.12, -0.84, 0.53],
        Some(LampFrom::Below) => [-0.12, 0.84, 0.53],
        Some(LampFrom::Front) => [-0.2, -0.25, 0.95],
        Some(LampFrom::Behind) => [-0.45, -0.6, -0.66],
        None => [-0.55, -0.62, 0.56],
    }
}

/// Facts of a part: the zone it is of, and its colour.
fn formed(whole: ZoneId, part: FormPart, local: lean_colour::Lab) -> Option<Formed> {
    Some(Formed { whole, part, local })
}
