//! Reading entries out of what was made: pieces, readings, field notes.

mod of_note;
mod of_piece;
mod of_reading;

pub use of_note::of_note;
pub use of_piece::of_piece;
pub use of_reading::{Tried, of_reading};

use crate::entry::PigmentUse;
use lean_media::PigmentId;
use lean_piece::paint_box::PaintBox;

/// What a pigment is called in its Box; its id where it is not there any more.
fn name(paint_box: Option<&PaintBox>, pigment: &PigmentId) -> String {
    paint_box.and_then(|b| b.find(pigment)).map_or_else(|| pigment.0.clone(), |p| p.name.clone())
}

fn used(paint_box: Option<&PaintBox>, pigment: &PigmentId, share: Option<f64>) -> PigmentUse {
    PigmentUse { pigment: pigment.clone(), name: name(paint_box, pigment), share, price: None }
}
