//! Quick notes in the field: marks with a few words on a photo or an outline, and how they become the zones of a piece.

mod colours;
mod zones;

pub use colours::{SaidColour, colour_said};
pub use zones::{with_photo, without_photo};

use lean_picture::spot::Spot;
use lean_piece::intent::occasion::Occasion;
use lean_piece::{MOST_NAME, kept_as_text};
use serde::{Deserialize, Serialize};

/// Most marks on one note: as many as there are zones at most.
pub const MOST_MARKS: usize = 24;

/// Warm or cool to the eye.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Side {
    /// Warm.
    Warm,
    /// Neither.
    Neutral,
    /// Cool.
    Cool,
}

lean_piece::worded! { Side { Warm: "warm", Neutral: "neutral", Cool: "cool" } }

/// A place with what was seen there.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct FieldMark {
    /// Where.
    pub place: Spot,
    /// A colour word: "dull red".
    pub word: String,
    /// Its value as judged, 0..=10.
    #[cfg_attr(feature = "schema", schema(minimum = 0, maximum = 10))]
    pub value: Option<f64>,
    /// Warm or cool as judged.
    pub side: Option<Side>,
    /// The pigment it may be.
    pub pigment: String,
}

/// A note made in the field.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct FieldNote {
    /// A line that brings the moment back.
    pub words: String,
    /// Date and time as the painter's own clock had it, `2026-11-25T08:10`.
    pub at: String,
    /// The light, in words.
    pub light: String,
    /// The weather, in words.
    pub weather: String,
    /// SHA-256 of a photo, if there is one.
    pub photo: Option<String>,
    /// Name of the photo's file.
    pub file_name: String,
    /// Width by height of the frame.
    #[cfg_attr(feature = "schema", schema(minimum = 0.2, maximum = 5))]
    pub proportion: f64,
    /// Lines of an outline drawn with a finger.
    pub outline: Vec<Vec<Spot>>,
    /// Places with what was seen there.
    pub marks: Vec<FieldMark>,
}

kept_as_text!(FieldNote);

/// Lines an outline may have.
const MOST_LINES: usize = 2000;

/// Letters of a digest, SHA-256 in hexadecimal.
const MOST_DIGEST: usize = 64;

impl FieldNote {
    /// Says what is out of range.
    ///
    /// # Errors
    /// Names what is wrong and what to do.
    pub fn check(&self) -> Result<(), String> {
        for (what, text, most) in [
            ("line of words", &self.words, 300),
            ("light", &self.light, 80),
            ("weather", &self.weather, 80),
            ("time", &self.at, 40),
            ("file name", &self.file_name, MOST_NAME),
        ] {
            let n = text.chars().count();
            if n > most {
                return Err(format!("The {what} has {n} characters; {most} fit."));
            }
        }
        if !(0.2..=5.0).contains(&self.proportion) {
            return Err(format!("A frame {} times as wide as high is out of range; it may be 0.2 to 5.", self.proportion));
        }
        if self.marks.len() > MOST_MARKS {
            return Err(format!("{MOST_MARKS} marks fit on one note. Start another."));
        }
        if self.photo.as_ref().is_some_and(|digest| digest.len() > MOST_DIGEST) {
            return Err("That names no photo. Take the photo again.".into());
        }
        if self.outline.len() > MOST_LINES || self.outline.iter().map(Vec::len).sum::<usize>() > 20_000 {
            return Err("That outline has too many points. Draw fewer, longer lines.".into());
        }
        for p in self.outline.iter().flatten().chain(self.marks.iter().map(|m| &m.place)) {
            p.checked().map_err(|_| "A line or a mark lies outside the frame. Put it inside.")?;
        }
        for m in &self.marks {
            if m.value.is_some_and(|v| !(0.0..=10.0).contains(&v)) {
                return Err("A value runs from 0 to 10.".into());
            }
            if m.word.chars().count() > 60 || m.pigment.chars().count() > 60 {
                return Err("A colour word and a pigment have 60 characters at most.".into());
            }
        }
        Ok(())
    }
}

/// When and in what light and weather a note was made. A time that was not written as one is left out.
pub fn occasion(note: &FieldNote) -> Occasion {
    let noted = Occasion {
        subject: String::new(),
        at: Some(note.at.clone()).filter(|at| !at.is_empty()),
        weather: note.weather.clone(),
        light: note.light.clone(),
    };
    if noted.check().is_ok() { noted } else { Occasion { at: None, ..noted } }
}

/// Title of a piece made of a note: its words, or its time.
pub fn title(note: &FieldNote) -> String {
    let words: String = note.words.trim().chars().take(60).collect();
    if words.is_empty() { format!("Field note, {}", note.at.replace('T', " ")) } else { words }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn limits_are_named() {
        let mark = |x: f64, value: f64| FieldMark {
            place: Spot { x, y: 0.2 },
            word: "x".into(),
            value: Some(value),
            side: None,
            pigment: String::new(),
        };
        let note = |proportion: f64, marks| FieldNote {
            words: String::new(),
            at: String::new(),
            light: String::new(),
            weather: String::new(),
            photo: None,
            file_name: String::new(),
            proportion,
            outline: Vec::new(),
            marks,
        };
        assert!(note(1.0, vec![mark(1.4, 5.0)]).check().unwrap_err().contains("outside"));
        assert!(note(1.0, vec![mark(0.4, 15.0)]).check().is_err());
        assert!(note(9.0, vec![]).check().is_err());
        assert!(note(1.0, vec![mark(0.4, 5.0)]).check().is_ok());
    }
}
