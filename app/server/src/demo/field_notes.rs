//! Two notes made in the field.

use crate::pictures::TakenIn;
use crate::problem::Problem;
use lean_picture::spot::Spot;
use lean_plan::field_note::{FieldMark, FieldNote, Side};
use lean_store::Store;

/// A note with a photo and one with an outline only.
pub(super) fn fill(store: &Store) -> Result<(), Problem> {
    let mark = |x: f64, y: f64, word: &str, value: f64, side: Side, pigment: &str| FieldMark {
        place: Spot { x, y },
        word: word.into(),
        value: Some(value),
        side: Some(side),
        pigment: pigment.into(),
    };
    let photo = TakenIn::keep(store, lean_demo::TRAM_SHED)?;
    store.create_field_note(&FieldNote {
        words: "breath hanging over the rails, the red only where the doors stand open".into(),
        at: "2025-01-14T08:20".into(),
        light: "low, warm, from the left".into(),
        weather: "frost, no wind".into(),
        proportion: photo.proportion(),
        photo: Some(photo.digest),
        file_name: lean_demo::TRAM_SHED_FILE.into(),
        outline: Vec::new(),
        marks: vec![
            mark(0.60, 0.10, "pale, nearly white", 8.5, Side::Neutral, ""),
            mark(0.43, 0.31, "slate, blue-grey", 5.0, Side::Cool, "PB29 and a grey"),
            mark(0.36, 0.52, "brick in sun", 5.5, Side::Warm, "burnt earth"),
            mark(0.63, 0.60, "dull red", 3.0, Side::Warm, ""),
            mark(0.20, 0.87, "frost over mud", 6.5, Side::Cool, ""),
        ],
    })?;
    let line = |points: &[(f64, f64)]| points.iter().map(|(x, y)| Spot { x: *x, y: *y }).collect::<Vec<_>>();
    store.create_field_note(&FieldNote {
        words: "the sluice at slack water, one lamp already lit".into(),
        at: "2025-11-22T16:05".into(),
        light: "after sunset, from everywhere".into(),
        weather: "overcast, mild".into(),
        photo: None,
        file_name: String::new(),
        proportion: 1.5,
        outline: vec![
            line(&[(0.0, 0.42), (0.30, 0.40), (0.52, 0.43), (1.0, 0.41)]),
            line(&[(0.0, 0.62), (0.40, 0.58), (1.0, 0.66)]),
            line(&[(0.66, 0.42), (0.66, 0.18), (0.80, 0.18), (0.80, 0.42)]),
        ],
        marks: vec![
            mark(0.30, 0.18, "violet grey", 6.5, Side::Cool, ""),
            mark(0.73, 0.30, "sluice house, near black", 2.0, Side::Warm, ""),
            mark(0.20, 0.50, "far bank", 4.5, Side::Cool, ""),
            mark(0.50, 0.82, "water, the sky a step down", 5.5, Side::Cool, ""),
        ],
    })?;
    Ok(())
}
