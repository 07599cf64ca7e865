//! One sitting at the easel, and a photo of what came of it.

use crate::handlers::progress::{simulated, with_photo};
use crate::pictures::{TakenIn, png};
use crate::problem::Problem;
use jiff::civil::Date;
use lean_colour::moves::with_value;
use lean_colour::{Lab, Value};
use lean_piece::change::{SetEasel, SetSessions};
use lean_piece::easel::Done;
use lean_piece::paint_box::PaintBox;
use lean_piece::{Session, ZoneId};
use lean_plan::stages::spent::planned_minutes;
use lean_store::{PieceId, Store};

/// Steps by which this painter's darks come out too light, the further down the more: one habit for the journal to find.
const TOO_LIGHT: f64 = 0.16;
/// Steps by which the hand strays otherwise.
const STRAYS: f64 = 0.12;

/// Pixels along the longer side of the photo.
const SHOT: u32 = 760;

/// Everything is done in one sitting; accents take this painter longer than planned.
pub(super) fn at_the_easel(store: &Store, id: PieceId, paint_box: &PaintBox, day: Date, nth: usize) -> Result<(), Problem> {
    let piece = store.piece(id)?.piece;
    let planned = planned_minutes(&piece, paint_box);
    let all: u32 = planned.iter().map(|(_, m)| m).sum();
    let took = (f64::from(all) * (1.1 + 0.08 * (nth % 4) as f64)).round().clamp(15.0, 1440.0) as u32;
    let done = planned.iter().map(|(task, _)| Done { task: *task, at: Some(format!("{day}T18:00")) }).collect();
    let session =
        Session { on: day.to_string(), minutes: took, did: "In one sitting.".into(), zones: piece.zones.iter().map(|z| z.id).collect() };
    store.apply(id, None, SetSessions { sessions: vec![session], done: None }.into())?;
    let easel = lean_piece::easel::Easel { done, ..store.piece(id)?.piece.easel };
    store.apply(id, None, SetEasel { easel, what: "what is done".into() }.into())?;
    let piece = store.piece(id)?.piece;
    let hand = |zone: ZoneId, lab: Lab| {
        let v = lab.value().0;
        let stray = STRAYS * (f64::from(zone.0) * 2.4 + nth as f64).sin();
        with_value(lab, Value((v + TOO_LIGHT * (5.0 - v).max(0.0) + stray).clamp(0.0, 10.0)))
    };
    let photo = png(&simulated(&piece, paint_box, &hand, SHOT)?)?;
    let TakenIn { digest, full, .. } = TakenIn::keep(store, &photo)?;
    store.apply(id, None, with_photo(piece, digest, "finished.png".into(), full, format!("{day}T18:30")))?;
    Ok(())
}
