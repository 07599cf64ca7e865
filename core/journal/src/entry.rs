//! One thing that happened.

use lean_colour::{Lab, Value};
use lean_media::{Medium, PigmentId};
use lean_piece::easel::Outcome;
use lean_piece::intent::occasion::Occasion;
use serde::{Deserialize, Serialize};

/// What it was.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum EntryKind {
    /// A piece that is finished, or given up.
    Piece,
    /// A study.
    Study,
    /// A lean set taken into use.
    Set,
    /// A mix tried for a piece.
    Trial,
    /// A swatch read.
    Reading,
    /// A session at the easel.
    Session,
    /// A departure from the plan.
    Departure,
    /// A note made in the field.
    FieldNote,
}

lean_piece::worded! {
    EntryKind {
        Piece: "finished pieces",
        Study: "studies",
        Set: "sets",
        Trial: "trials",
        Reading: "readings",
        Session: "sessions",
        Departure: "departures",
        FieldNote: "field notes",
    }
}

impl EntryKind {
    /// As it is kept and asked for.
    pub fn key(self) -> &'static str {
        match self {
            Self::Piece => "piece",
            Self::Study => "study",
            Self::Set => "set",
            Self::Trial => "trial",
            Self::Reading => "reading",
            Self::Session => "session",
            Self::Departure => "departure",
            Self::FieldNote => "field-note",
        }
    }
}

/// A colour with how much of it there is.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct EntryColour {
    /// The colour under daylight.
    pub lab: Lab,
    /// Share of the picture, 0..=1.
    #[cfg_attr(feature = "schema", schema(minimum = 0, maximum = 1))]
    pub share: f64,
}

/// A pigment that was used.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct PigmentUse {
    /// Which.
    pub pigment: PigmentId,
    /// What it is called in its Box.
    pub name: String,
    /// Share of the picture whose mixes hold it, 0..=1; `None` where nobody knows.
    pub share: Option<f64>,
    /// By how much the cost rises when it is dropped from its set; `None` where nobody knows.
    pub price: Option<f64>,
}

/// One thing that happened.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct JournalEntry {
    /// What it was.
    pub kind: EntryKind,
    /// Its number among those of its kind and source: of a study the study's own.
    pub number: u32,
    /// What it belongs to: the title of the piece, the Box, or the note.
    pub of: String,
    /// What it is, in a line.
    pub title: String,
    /// What the painter wrote of it; may be empty.
    pub words: String,
    /// The day it happened, as `2025-01-14`.
    pub on: String,
    /// When and in what light and weather its subject was seen.
    pub occasion: Occasion,
    /// The medium; `None` for a field note.
    pub medium: Option<Medium>,
    /// Name of the ground; empty where there is none.
    pub ground: String,
    /// The scheme in words; empty where there is none.
    pub scheme: String,
    /// How the piece came out.
    pub outcome: Option<Outcome>,
    /// The pigments in it.
    pub pigments: Vec<PigmentUse>,
    /// Its colours as planned.
    pub colours: Vec<EntryColour>,
    /// What was really there, where it was read.
    pub read: Option<Lab>,
    /// How far what was read lies from what was wanted, CIEDE2000.
    pub miss: Option<f64>,
    /// Of a trial: which try at the same place it was, from 1.
    pub attempt: Option<u32>,
    /// Minutes it took; `None` where nobody counted.
    pub minutes: Option<u32>,
    /// Photos of the piece on its way.
    pub photos: usize,
    /// SHA-256 of the photo of a field note.
    pub photo: Option<String>,
}

impl JournalEntry {
    /// Mean value of its colours by area; `None` without colours.
    pub fn value(&self) -> Option<Value> {
        let all: f64 = self.colours.iter().map(|c| c.share).sum();
        (all > 0.0).then(|| Value(self.colours.iter().map(|c| c.lab.value().0 * c.share).sum::<f64>() / all))
    }

    /// The day whose season it belongs to: that of its subject, or else its own.
    pub fn season_day(&self) -> &str {
        self.occasion.day().unwrap_or(&self.on)
    }

    /// All its words, to be searched.
    pub fn text(&self) -> String {
        let pigments: Vec<&str> = self.pigments.iter().map(|p| p.name.as_str()).collect();
        let medium = self.medium.map_or("", Medium::name);
        let outcome = self.outcome.map_or("", Outcome::words);
        let o = &self.occasion;
        [
            &self.of,
            &self.title,
            &self.words,
            &o.subject,
            &o.weather,
            &o.light,
            &self.ground,
            &self.scheme,
            medium,
            outcome,
            &pigments.join(" "),
        ]
        .iter()
        .filter(|t| !t.is_empty())
        .copied()
        .collect::<Vec<_>>()
        .join("\n")
    }
}
