//! What was read with a meter, a camera or an eye.

use super::used;
use crate::entry::{EntryColour, EntryKind, JournalEntry};
use lean_colour::Lab;
use lean_colour::difference::ciede2000;
use lean_media::ground;
use lean_media::layering::State;
use lean_piece::paint_box::{PaintBox, SwatchReading};
use lean_piece::{Piece, ZoneId};
use lean_plan::paints::learned::predicted;
use lean_plan::paints::trial::dry;
use lean_plan::wording::Difference;

/// The piece a reading was a trial for, and which try at its place it was, from 1.
pub struct Tried<'a> {
    /// The piece.
    pub piece: &'a Piece,
    /// Which try, from 1.
    pub attempt: u32,
}

/// The entry of a reading of a Box.
pub fn of_reading(reading: &SwatchReading, number: u32, paint_box: &PaintBox, tried: Option<&Tried>) -> JournalEntry {
    let wanted = tried.and_then(|t| wanted(t.piece, reading.tried_for.and_then(|t| t.zone)));
    let looked_for = wanted.or_else(|| expected(reading, paint_box));
    // A trial is judged as it will dry; any other swatch in the state it was read in.
    let read = if wanted.is_some() { dry(paint_box, reading).0 } else { reading.seen.lab };
    let names: Vec<String> = reading.swatch.pigments().into_iter().map(|id| super::name(Some(paint_box), id)).collect();
    let title = match tried {
        Some(t) => {
            let zone = reading.tried_for.and_then(|t| t.zone).map_or_else(|| "a cell of the chart".into(), |z| t.piece.zone_label(z));
            format!("Trial {} for {zone}", t.attempt)
        }
        None => names.join(" and "),
    };
    let off = looked_for.map(|e| Difference::of(e, read).words).unwrap_or_default();
    JournalEntry {
        kind: if tried.is_some() { EntryKind::Trial } else { EntryKind::Reading },
        number,
        of: tried.map_or_else(|| paint_box.name.clone(), |t| t.piece.brief.title.clone()),
        title,
        words: [reading.note.as_str(), off.as_str()].into_iter().filter(|t| !t.is_empty()).collect::<Vec<_>>().join("; "),
        on: reading.at.get(..10).unwrap_or_default().to_owned(),
        occasion: tried.map(|t| t.piece.intent.occasion.clone()).unwrap_or_default(),
        medium: Some(paint_box.medium),
        ground: ground::find(&reading.swatch.ground).map(|g| g.name).unwrap_or_default(),
        scheme: String::new(),
        outcome: None,
        pigments: reading.swatch.pigments().into_iter().map(|id| used(Some(paint_box), id, None)).collect(),
        colours: vec![EntryColour { lab: looked_for.unwrap_or(read), share: 1.0 }],
        read: Some(read),
        miss: looked_for.map(|e| ciede2000(e, read)),
        attempt: tried.map(|t| t.attempt),
        minutes: None,
        photos: 0,
        photo: None,
    }
}

/// What the swatch is predicted to look like in the state it was read in; damp lies between what the models know.
fn expected(reading: &SwatchReading, paint_box: &PaintBox) -> Option<Lab> {
    let state = reading.state.state().unwrap_or(State::Wet);
    predicted(paint_box, &reading.swatch, state).map(|r| r.xyz().lab())
}

fn wanted(piece: &Piece, zone: Option<ZoneId>) -> Option<Lab> {
    piece.zone(zone?).map(|z| piece.wanted(z))
}
