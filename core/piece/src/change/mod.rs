//! Everything that can be done to a piece, and the one place where it is done.
//!
//! One file a subject. A command is a struct there with its check and how it is applied beside it ([`Change`]); [`Command`] is any one of them, as
//! the log keeps it. The way back needs nothing of a command: what it altered is kept as it was ([`Undo`]).

mod brief;
mod easel;
mod light;
mod log;
mod reference;
mod set;
mod studies;
mod undo;
mod wall;
mod zones;

pub use brief::{SetBrief, SetIntent, SetTogether, UseBox};
pub use easel::SetEasel;
pub use light::SetLighting;
pub use log::{SetDismissed, SetSessions};
pub use reference::{KeepChart, LayPlanes, MarkReference, SetCompositions, SetOthers, SetReference, SetWished};
pub use set::{ChooseSet, KeepSearch, SetAim, SetChoice, SetDemands, SetMixing};
pub use studies::{ChooseStudy, GoOn, KeepStudies, NoteStudy, SetSheet};
pub use undo::Undo;
pub use wall::SetWall;
pub use zones::{ChangeZones, LayZones, RenameZone, SetImportance, SetMasses, SetTarget};

use crate::brief::MOST_NAME;
use crate::zones::{Zone, ZoneId};
use crate::{KeptText, Piece};
use lean_picture::KeptMap;
use serde::{Deserialize, Serialize};
use serde_json::value::RawValue;
use std::borrow::Cow;
use thiserror::Error;

/// Why a command was refused. The piece is unchanged.
#[derive(Debug, Error, PartialEq)]
pub enum Refusal {
    /// No such zone.
    #[error("There is no zone {0} in this piece any more. Choose one of the zones on the picture.")]
    NoSuchZone(u16),
    /// A text is missing or too long.
    #[error("{0}")]
    Text(String),
    /// A number is out of range.
    #[error("{0}")]
    Range(String),
    /// Something named is not there.
    #[error("{0}")]
    Unknown(String),
    /// Parts of the command contradict each other.
    #[error("{0}")]
    Contradiction(String),
}

/// One kind of change. Commands carry facts, never pixels: whatever had to be computed was computed before.
trait Change {
    /// What this does, in a few words for the line that says what was done or undone.
    fn describe(&self) -> String;

    /// Every map it names.
    fn maps_mut(&mut self) -> Vec<&mut KeptMap> {
        Vec::new()
    }

    /// Whether it can be applied to this piece.
    ///
    /// # Errors
    /// Says what is wrong and what to do.
    fn check(&self, _piece: &Piece) -> Result<(), Refusal> {
        Ok(())
    }

    /// Changes the piece. Only called once checked, or, for the log of earlier versions, once it had been.
    fn apply(self, piece: &mut Piece);
}

/// The one list of commands: a new one is a struct with its [`Change`], and a word here.
macro_rules! commands {
    ($($name:ident),* $(,)?) => {
        /// One change to a piece, as the log keeps it.
        #[derive(Clone, Debug, PartialEq, Serialize)]
        #[serde(rename_all = "kebab-case", tag = "do")]
        pub enum Command {
            $(#[doc = concat!("See [`", stringify!($name), "`].")] $name($name),)*
        }

        impl Command {
            /// What they are called, in the order of the list.
            pub const NAMES: &[&str] = &[$(stringify!($name)),*];

            /// What this does, in a few words for the line that says what was done or undone.
            pub fn describe(&self) -> String {
                match self { $(Self::$name(c) => c.describe(),)* }
            }

            /// Every map it names.
            pub fn maps_mut(&mut self) -> Vec<&mut KeptMap> {
                match self { $(Self::$name(c) => c.maps_mut(),)* }
            }

            fn check(&self, piece: &Piece) -> Result<(), Refusal> {
                match self { $(Self::$name(c) => c.check(piece),)* }
            }

            fn apply(self, piece: &mut Piece) {
                match self { $(Self::$name(c) => c.apply(piece),)* }
            }
        }

        impl KeptText for Command {
            // Its name first, then what it holds straight from the text: an enum told apart by a field would be read twice, by code as large again.
            #[inline(never)]
            fn from_text(text: &[u8]) -> Result<Self, serde_json::Error> {
                let Named { name } = serde_json::from_slice(text)?;
                $(if kebab_case(stringify!($name)).eq(name.chars()) {
                    return serde_json::from_slice(text).map(Self::$name);
                })*
                Err(serde::de::Error::custom(format_args!("there is no command \"{name}\"")))
            }

            #[inline(never)]
            fn to_text(&self) -> Result<String, serde_json::Error> {
                serde_json::to_string(self)
            }
        }

        $(impl From<$name> for Command {
            fn from(c: $name) -> Self {
                Self::$name(c)
            }
        })*
    };
}

commands![
    SetBrief,
    SetIntent,
    UseBox,
    SetTogether,
    SetWall,
    SetLighting,
    SetReference,
    MarkReference,
    SetOthers,
    SetCompositions,
    LayPlanes,
    KeepChart,
    SetWished,
    LayZones,
    ChangeZones,
    SetMasses,
    RenameZone,
    SetImportance,
    SetTarget,
    SetChoice,
    SetDemands,
    SetAim,
    SetMixing,
    KeepSearch,
    ChooseSet,
    KeepStudies,
    ChooseStudy,
    GoOn,
    NoteStudy,
    SetSheet,
    SetSessions,
    SetDismissed,
    SetEasel,
];

/// What a kept command says first.
#[derive(Deserialize)]
struct Named<'a> {
    #[serde(rename = "do", borrow)]
    name: Cow<'a, str>,
}

/// The letters of a name as the log writes it: `set-brief` for `SetBrief`.
fn kebab_case(name: &str) -> impl Iterator<Item = char> {
    let letter = |(i, c): (usize, char)| (i > 0 && c.is_uppercase()).then_some('-').into_iter().chain([c.to_ascii_lowercase()]);
    name.chars().enumerate().flat_map(letter)
}

impl KeptText for Vec<Command> {
    #[inline(never)]
    fn from_text(text: &[u8]) -> Result<Self, serde_json::Error> {
        let each: Vec<&RawValue> = serde_json::from_slice(text)?;
        each.into_iter().map(|one| Command::from_text(one.get().as_bytes())).collect()
    }

    #[inline(never)]
    fn to_text(&self) -> Result<String, serde_json::Error> {
        serde_json::to_string(self)
    }
}

impl Piece {
    /// The piece after a command, and how to get back. Pure: nothing else changes a piece.
    ///
    /// # Errors
    /// A [`Refusal`] that says what was wrong and what to do; the piece stays as it is.
    pub fn apply(&self, command: impl Into<Command>) -> Result<(Self, Undo), Refusal> {
        self.apply_all(vec![command.into()])
    }

    /// What the piece would be after a command, for a look: nothing is written out, and there is no way back.
    ///
    /// # Errors
    /// As [`Piece::apply`].
    pub fn supposing(&self, command: impl Into<Command>) -> Result<Self, Refusal> {
        let mut next = self.clone();
        let command = command.into();
        command.check(&next)?;
        command.apply(&mut next);
        Ok(next)
    }

    /// The piece after several commands, each checked against what those before it made, and one way back over all of them.
    ///
    /// # Errors
    /// As [`Piece::apply`]; then none of them was carried out.
    pub fn apply_all(&self, commands: Vec<Command>) -> Result<(Self, Undo), Refusal> {
        let mut next = self.clone();
        for command in commands {
            command.check(&next)?;
            command.apply(&mut next);
        }
        let (before, after) = (written(self)?, written(&next)?);
        let read = next.to_text().and_then(|text| Self::from_text(text.as_bytes()));
        if read.ok().as_ref() != Some(&next) {
            return Err(Refusal::Range(
                "A number in this change cannot be kept: it is too large, or no number. Nothing was changed.".into(),
            ));
        }
        let undo = Undo::between(self, &before, &after);
        Ok((next, undo))
    }

    fn known(&self, zone: ZoneId) -> Result<(), Refusal> {
        self.zone(zone).map(|_| ()).ok_or(Refusal::NoSuchZone(zone.0))
    }

    fn change(&mut self, id: ZoneId, f: impl FnOnce(&mut Zone)) {
        if let Some(z) = self.zones.iter_mut().find(|z| z.id == id) {
            f(z);
        }
    }
}

fn written(piece: &Piece) -> Result<serde_json::Value, Refusal> {
    serde_json::to_value(piece).map_err(|e| Refusal::Range(format!("This change cannot be written down ({e}). Nothing was changed.")))
}

/// What was done, as the log tells it: long names in it are cut there, not refused here.
fn check_what(what: &str) -> Result<(), Refusal> {
    if what.trim().is_empty() { Err(Refusal::Text("The description is empty. Say what is done.".into())) } else { Ok(()) }
}

fn check_text(what: &str, text: &str, least: usize) -> Result<(), Refusal> {
    let n = text.trim().chars().count();
    if n < least {
        return Err(Refusal::Text(format!("{what} is empty. Write a word or two.")));
    }
    if n > MOST_NAME {
        return Err(Refusal::Text(format!("{what} has {n} characters; {MOST_NAME} fit.")));
    }
    Ok(())
}
