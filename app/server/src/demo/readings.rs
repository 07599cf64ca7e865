//! What the painter of the demo studio read of the pans: three of them twice, and once the wrong one lay under the head.

use crate::handlers::instruments::own_box;
use crate::problem::Problem;
use lean_instruments::{ColourMeter, SimulatedMeter};
use lean_media::PigmentId;
use lean_media::layering::State;
use lean_media::learn::Evidence;
use lean_piece::paint_box::{BoxId, Dampness, PaintBox, ReadColour, ReadWith, Swatch, SwatchReading};
use lean_plan::paints::learned::{learned, predicted, swatches_of};
use lean_store::{Readings, Store};

/// Which pans, and which of the swatches each is tried in.
const READ: [(&str, [usize; 2]); 3] = [("ultramarine", [2, 4]), ("burnt-sienna", [2, 4]), ("yellow-ochre", [2, 4])];
const SEED: u64 = 31;

/// Reads them with the simulated meter and learns.
pub(super) fn fill(store: &Store, (id, pans): &(BoxId, PaintBox)) -> Result<(), Problem> {
    let own = own_box(pans);
    let mut meter = SimulatedMeter::seeded(SEED);
    meter.world.tile = true;
    for _ in 0..5 {
        meter.calibrate().map_err(|e| Problem::internal(e.to_string()))?;
    }
    meter.world.tile = false;
    let mut read = |under: &Swatch, said: &Swatch, at: usize| -> Option<SwatchReading> {
        meter.world.under = Some(predicted(&own, under, State::Dry)?);
        Some(SwatchReading {
            swatch: said.clone(),
            seen: ReadColour::of(&Evidence::Spectral(meter.read().ok()?)),
            state: Dampness::Dry,
            sealed: false,
            with: ReadWith::Meter,
            eye: None,
            played: Some(true),
            at: format!("2026-02-{:02}T09:30:00Z", 3 + at),
            tried_for: None,
            left_out: false,
            note: String::new(),
        })
    };
    let swatches = |pan: &str| pans.find(&PigmentId(pan.into())).map(|p| swatches_of(pans, p)).unwrap_or_default();
    let mut all = Vec::new();
    for (at, (pan, which)) in READ.iter().enumerate() {
        let of = swatches(pan);
        all.extend(which.iter().filter_map(|i| of.get(*i)).filter_map(|(_, s)| read(s, s, at)));
    }
    // The ochre lay under the head, and was taken for the blue.
    if let (Some((_, ochre)), Some((_, blue))) = (swatches("yellow-ochre").get(3), swatches("ultramarine").get(3)) {
        all.extend(read(ochre, blue, READ.len()));
    }
    let learn = |b: &PaintBox, kept: &[(i64, SwatchReading)]| -> Result<PaintBox, Problem> {
        learned(b, kept).map(|l| l.paint_box).map_err(|e| Problem::internal(e.to_string()))
    };
    store.change_readings(id, Readings::Add(all), learn)?;
    Ok(())
}
