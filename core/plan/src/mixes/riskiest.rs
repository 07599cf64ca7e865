//! The zone to rehearse first: where a hand is least sure.

use super::ZoneMix;
use crate::wording::lowered;
use lean_piece::{Piece, ZoneId};
use lean_recipes::cost::STEP;
use serde::Serialize;

/// The zone whose mix is the riskiest.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Riskiest {
    /// Which.
    pub zone: ZoneId,
    /// Why, in a sentence.
    pub words: String,
}

/// What a layer or a heap beyond the first adds to the risk, in steps of value. A choice.
const PER_LAYER: f64 = 0.08;
/// Below this risk, in steps, nothing needs a rehearsal. A choice.
const LEAST: f64 = 0.25;

/// The riskiest zone of a plan: a slip of the hand, layers, and how much the zone matters; `None` where nothing is risky.
pub fn riskiest(piece: &Piece, mixes: &[ZoneMix]) -> Option<Riskiest> {
    let risk = |m: &ZoneMix| {
        let more = m.mix.layers().max(m.mix.heaps.len()).saturating_sub(1) as f64;
        m.mix.slip / STEP + PER_LAYER * more
    };
    let weighed = |m: &ZoneMix| risk(m) * piece.zone(m.zone).map_or(1.0, |z| z.importance.factor().sqrt() * (0.5 + z.reading.area.sqrt()));
    let m = mixes.iter().filter(|m| risk(m) >= LEAST).max_by(|a, b| weighed(a).total_cmp(&weighed(b)))?;
    let layers = m.mix.layers().max(m.mix.heaps.len());
    let how = if layers > 1 { format!(" in {layers} steps") } else { String::new() };
    let words = format!(
        "The riskiest mix{how} is that of {}: {} Rehearse it on an offcut of the same ground, and keep what it reads as a trial.",
        piece.zone_label(m.zone),
        lowered(&m.slip)
    );
    Some(Riskiest { zone: m.zone, words })
}
