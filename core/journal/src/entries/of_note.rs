//! What was noted in the field.

use crate::entry::{EntryColour, EntryKind, JournalEntry};
use lean_colour::{Lab, Value};
use lean_plan::field_note::{FieldNote, occasion, title};

/// The entry of a note; `changed` is the day its record changed last.
pub fn of_note(note: &FieldNote, changed: &str) -> JournalEntry {
    let occasion = occasion(note);
    let marks: Vec<&str> = note.marks.iter().flat_map(|m| [m.word.as_str(), m.pigment.as_str()]).filter(|t| !t.is_empty()).collect();
    let judged: Vec<Value> = note.marks.iter().filter_map(|m| m.value.map(Value)).collect();
    let share = 1.0 / judged.len().max(1) as f64;
    JournalEntry {
        kind: EntryKind::FieldNote,
        number: 1,
        of: title(note),
        title: "Field note".into(),
        words: marks.join(", "),
        on: occasion.day().unwrap_or(changed).to_owned(),
        occasion,
        medium: None,
        ground: String::new(),
        scheme: String::new(),
        outcome: None,
        pigments: Vec::new(),
        // Only values were judged: greys stand for them.
        colours: judged.into_iter().map(|v| EntryColour { lab: Lab::new(v.lightness(), 0.0, 0.0), share }).collect(),
        read: None,
        miss: None,
        attempt: None,
        minutes: None,
        photos: 0,
        photo: note.photo.clone(),
    }
}
