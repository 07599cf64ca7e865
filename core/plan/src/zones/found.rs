//! Zones of a picture as they are first proposed, of a line drawing, and of a picture framed anew.

use super::{COLOURS, PictureFile, Surveyed, fresh};
use lean_picture::frame::Frame;
use lean_picture::line_drawing::{self, Lines};
use lean_picture::places::{MIDDLE, Survey};
use lean_picture::{KeptMap, Picture, ZoneMap, views};
use lean_piece::change::{LayZones, SetReference};
use lean_piece::{Command, Cut, Mass, MassId, Piece, PixelSize, Reference, Zone, ZoneId};

/// The command that puts a reference in place with the colours, places and masses the machine proposes.
pub fn set_reference(working: &Picture, file: PictureFile) -> Command {
    set_reference_at(Surveyed { working, survey: &Survey::of(working) }, COLOURS, file)
}

/// The command that puts a drawing in lines in place, its closed outlines the zones; `None` where no outline closes.
pub fn set_drawing(working: &Picture, file: PictureFile) -> Option<Command> {
    let map = line_drawing::zones(working, Lines::Given).ok()?;
    let zones = fresh(working, &map).into_iter().map(|z| Zone { open: true, ..z }).collect();
    let reference = Reference { lines: true, ..file.reference(working) };
    Some(Command::SetReference(SetReference {
        reference: Some(reference),
        zones,
        zone_map: Some(map.into()),
        cut: None,
        masses: Vec::new(),
        mass_map: None,
    }))
}

/// The same with so many colours of a picture looked at before.
pub fn set_reference_at(look: Surveyed, colours: usize, file: PictureFile) -> Command {
    let cut = cut(look.survey, colours);
    put(look, file.reference(look.working), cut)
}

/// The command that puts a reference in place, cut like this.
pub(crate) fn put(look: Surveyed, reference: Reference, cut: Cut) -> Command {
    let (masses, mass_map) = masses(look.survey);
    let nothing = Piece::new(lean_piece::Brief {
        title: String::new(),
        medium: lean_media::Medium::Oil,
        ground: lean_media::GroundId(String::new()),
        size: lean_piece::Size { width: lean_piece::Millimetres(100.0), height: lean_piece::Millimetres(100.0) },
    });
    Command::SetReference(SetReference {
        reference: Some(reference),
        zones: look.zones(&nothing, &cut, &[]),
        zone_map: Some(look.laid(&cut).into()),
        cut: Some(cut),
        masses,
        mass_map: Some(mass_map),
    })
}

/// So many colours of a picture at the middle brush.
pub(crate) fn cut(survey: &Survey, colours: usize) -> Cut {
    let (shades, joins) = survey.palette(colours);
    Cut { brush: MIDDLE, shades, joins, hand: None, turned: Vec::new() }
}

/// The masses of a picture, nothing said of them yet.
pub(crate) fn masses(survey: &Survey) -> (Vec<Mass>, KeptMap) {
    let map = KeptMap::from(survey.masses());
    let masses = map.geometry().areas.iter().map(|(id, _)| Mass::new(MassId(*id))).collect();
    (masses, map)
}

/// The command that finds so many colours anew over the reference; locked zones stay where they lie, the others lose names and targets.
pub fn propose(piece: &Piece, look: Surveyed, colours: usize) -> Command {
    let kept: Vec<u16> = piece.zones.iter().filter(|z| z.kept).map(|z| z.id.0).collect();
    let hand = piece.map().filter(|_| !kept.is_empty()).map(|map| on_grid(map, look.survey.size(), |zone| kept.contains(&zone)));
    let mut new = cut(look.survey, colours.saturating_sub(kept.len()).max(1));
    // New zones take the numbers that no locked one has.
    let mut free = (1..).filter(|n: &u16| !kept.contains(n));
    let numbers: Vec<u16> = (0..new.shades.len()).filter_map(|_| free.next()).collect();
    new.shades.iter_mut().for_each(|s| s.zone = numbers[usize::from(s.zone) - 1]);
    new.brush = piece.cut.as_ref().map_or(MIDDLE, |c| c.brush);
    new.hand = hand.map(KeptMap::from);
    let anew: Vec<ZoneId> = piece.zones.iter().filter(|z| !z.kept).map(|z| z.id).collect();
    let nameless = Piece { zones: piece.zones.iter().filter(|z| z.kept).cloned().collect(), ..piece.clone() };
    Command::LayZones(LayZones {
        zones: look.zones(&nameless, &new, &anew),
        zone_map: Some(look.laid(&new).into()),
        cut: Some(new),
        what: format!("{colours} new colours"),
    })
}

/// The cells of some zones of a map stretched over a grid, 0 elsewhere.
pub(crate) fn on_grid(map: &ZoneMap, (width, height): (u32, u32), takes: impl Fn(u16) -> bool) -> ZoneMap {
    let labels = (0..height)
        .flat_map(|y| (0..width).map(move |x| (x, y)))
        .map(|(x, y)| {
            let at = |i: u32, n: u32, full: u32| (u64::from(i) * u64::from(full) / u64::from(n)) as u32;
            let zone = map.at(at(x, width, map.width), at(y, height, map.height));
            if takes(zone) { zone } else { 0 }
        })
        .collect();
    ZoneMap { width, height, labels }
}

/// The command that makes the closed outlines of a line drawing the zones.
///
/// # Errors
/// When there is no reference, no line, or no line closes a shape.
pub fn from_lines(piece: &Piece, working: &Picture, lines: Lines) -> Result<Command, String> {
    let reference = piece.reference.clone().ok_or("This piece has no reference yet. Drop the drawing on it.")?;
    let map = line_drawing::zones(working, lines).map_err(|e| format!("The drawing makes no zones: {e}."))?;
    Ok(Command::SetReference(SetReference {
        zones: fresh(working, &map).into_iter().map(|z| Zone { open: true, ..z }).collect(),
        zone_map: Some(map.into()),
        reference: Some(Reference { lines: true, ..reference }),
        cut: None,
        masses: Vec::new(),
        mass_map: None,
    }))
}

/// The command that reads a drawing as a picture again: its colours and places as the machine proposes them.
///
/// # Errors
/// When there is no reference.
pub fn from_picture(piece: &Piece, look: Surveyed) -> Result<Command, String> {
    let reference = piece.reference.clone().ok_or("This piece has no reference yet. Drop a picture on it.")?;
    Ok(put(look, Reference { lines: false, ..reference }, cut(look.survey, COLOURS)))
}

/// The command that frames the reference anew: turned, cropped or corrected. Where only the light is corrected the zones stay and are read
/// again; otherwise they are found anew. `look` is at the picture in its new frame.
///
/// # Errors
/// When there is no reference or the frame is out of range.
pub fn reframe(piece: &Piece, look: Surveyed, frame: Frame) -> Result<Command, String> {
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
        neutral: views::mean_temperature(look.working),
        ..old
    };
    let Some(map) = piece.map().filter(|_| same_cut) else {
        let colours = piece.cut.as_ref().map_or(COLOURS, |_| piece.zones.len());
        return Ok(put(look, reference, cut(look.survey, colours)));
    };
    let zones = fresh(look.working, map);
    // A zone with no place at this brush keeps what it read.
    let zones = piece.zones.iter().map(|old| match zones.iter().find(|new| new.id == old.id) {
        Some(new) => Zone { name: old.name.clone(), importance: old.importance, facts: old.facts, kept: old.kept, ..new.clone() },
        None => old.clone(),
    });
    Ok(Command::SetReference(SetReference {
        zones: zones.collect(),
        zone_map: piece.zone_map.clone(),
        reference: Some(reference),
        cut: piece.cut.clone(),
        masses: piece.masses.clone(),
        mass_map: piece.mass_map.clone(),
    }))
}
