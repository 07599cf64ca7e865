//! Trials of mixes for two zones of a piece, read with the meter: the second comes nearer than the first, and the later years nearer than the
//! early ones.

use crate::problem::Problem;
use jiff::civil::Date;
use lean_colour::Lab;
use lean_piece::paint_box::{BoxId, Dampness, PaintBox, ReadColour, ReadWith, Swatch, SwatchReading, TriedFor};
use lean_plan::mixes::mixes_of;
use lean_store::{PieceId, Readings, Store};

/// How far the hand errs at first, in units of CIELAB.
const FIRST: f64 = 7.0;
/// Zones tried, the largest first.
const ZONES: usize = 2;

pub(super) fn fill(store: &Store, id: PieceId, box_id: &BoxId, (day, nth): (Date, usize)) -> Result<(), Problem> {
    let piece = store.piece(id)?.piece;
    let paint_box = store.paint_box(box_id)?;
    let mut mixes = mixes_of(&piece, Some(&paint_box));
    mixes.retain(|m| !m.mix.layers.is_empty() || !m.mix.parts.is_empty());
    mixes.sort_by(|a, b| area(&piece, b.zone).total_cmp(&area(&piece, a.zone)));
    let errs = FIRST / (1.0 + 0.12 * nth as f64);
    let piece = &piece;
    let readings = mixes.iter().take(ZONES).enumerate().flat_map(|(i, m)| {
        (0..2).map(move |attempt| {
            let far = errs * if attempt == 0 { 1.0 } else { 0.4 };
            let turn = (nth * 5 + i * 3) as f64;
            let lab = m.mix.lab;
            let seen = Lab::new((lab.l + far * turn.sin().abs()).min(99.0), lab.a + far * 0.6 * turn.cos(), lab.b - far * 0.5 * turn.sin());
            SwatchReading {
                swatch: Swatch::of_mix(&m.mix, piece.brief.ground.clone()),
                seen: ReadColour { lab: seen, bands: Vec::new() },
                state: Dampness::Dry,
                sealed: false,
                with: ReadWith::Typed,
                eye: None,
                played: Some(false),
                at: format!("{day}T{:02}:{:02}:00Z", 9 + i, 20 + 15 * attempt),
                tried_for: Some(TriedFor { piece: id, zone: Some(m.zone), cell: None }),
                // They are kept as trials; what they would teach of the pans was never asked.
                left_out: true,
                note: String::new(),
            }
        })
    });
    let readings: Vec<SwatchReading> = readings.collect();
    store.change_readings(box_id, Readings::Add(readings), |b: &PaintBox, _| Ok::<_, Problem>(b.clone()))?;
    Ok(())
}

fn area(piece: &lean_piece::Piece, zone: lean_piece::ZoneId) -> f64 {
    piece.zone(zone).map_or(0.0, |z| z.reading.area)
}
