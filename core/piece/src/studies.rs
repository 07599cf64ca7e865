//! Studies: small colour versions of a piece, and how they are printed.

use crate::units::Millimetres;
use crate::zones::ZoneId;
use lean_colour::Lab;
use lean_media::PigmentId;
use lean_recipes::Mix;
use serde::{Deserialize, Serialize};

/// Number of a study on its sheet, from 1. Earlier versions had three and lettered them.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize)]
#[serde(from = "AsKept")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct StudyNumber(pub u8);

/// Most studies of one piece, plans it left behind counted.
pub const MOST_STUDIES: usize = 24;

#[derive(Deserialize)]
#[serde(untagged)]
enum AsKept {
    Number(u8),
    Letter(char),
}

impl From<AsKept> for StudyNumber {
    fn from(kept: AsKept) -> Self {
        match kept {
            AsKept::Number(n) => Self(n),
            AsKept::Letter(letter) => Self((letter as u8).saturating_sub(b'A') + 1),
        }
    }
}

impl std::fmt::Display for StudyNumber {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        self.0.fmt(f)
    }
}

/// A hue with the share of the picture it should cover.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct HueShare {
    /// Hue angle in CIELAB, degrees.
    #[cfg_attr(feature = "schema", schema(minimum = 0, maximum = 360))]
    pub hue: f64,
    /// Share of the picture, 0..=1.
    #[cfg_attr(feature = "schema", schema(minimum = 0, maximum = 1))]
    pub share: f64,
}

/// How several hues stand to each other on a wheel.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Chord {
    /// Two across the circle, with shares of their own.
    Opposites,
    /// Hues side by side, with shares of their own.
    Neighbours,
    /// One, and the two beside its opposite.
    SplitOpposite,
    /// Three, evenly spaced.
    Three,
    /// Four, evenly spaced.
    Square,
    /// Two pairs of opposites, not far apart.
    Rectangle,
    /// Those the game allows.
    Game,
}

/// Another light than the one the reference was seen in.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum OtherLight {
    /// Everything in the lighter part of what can be reached.
    HighKey,
    /// Everything in the darker part.
    LowKey,
    /// A low warm sun: what is lit warmer, what is in shadow cooler and deeper.
    LateSun,
    /// What matters most light, everything else dark.
    PaleOnDark,
}

/// Where the hues of a study come from.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case", tag = "kind")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Scheme {
    /// The targets as they are.
    AsRead,
    /// One hue in all its values.
    OneHue {
        /// Hue angle in CIELAB, degrees.
        hue: f64,
    },
    /// Two hues across the circle; the first rules.
    Opposites {
        /// Hue angle in CIELAB, degrees.
        dominant: f64,
        /// Hue angle of the other.
        other: f64,
    },
    /// A stretch of the circle.
    Neighbours {
        /// Hue angle at the cool end.
        from: f64,
        /// Hue angle at the warm end.
        to: f64,
    },
    /// Several hues, each with its share.
    Chord {
        /// How they stand to each other.
        chord: Chord,
        /// The hues, the ruling one first.
        hues: Vec<HueShare>,
    },
    /// One hue slides into another from dark to light.
    Slide {
        /// Hue angle of the darkest.
        dark: f64,
        /// Hue angle of the lightest.
        light: f64,
    },
    /// The colours of something else, laid by rank of value and warmth.
    Borrowed {
        /// What they were taken from.
        from: String,
    },
    /// The colours as they are in another light.
    Light {
        /// Which.
        light: OtherLight,
    },
    /// The plan as it was before a study took its place.
    Former,
}

/// One zone of a study.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct StudyMix {
    /// Which zone.
    pub zone: ZoneId,
    /// What was wanted there.
    pub wanted: Lab,
    /// Recipe and colour.
    pub mix: Mix,
    /// Where the zone runs from colour to colour: the mixes it hands over to, in their order.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub then: Vec<Mix>,
}

/// A small colour version of the piece.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Study {
    /// Its number.
    #[serde(alias = "slot")]
    pub number: StudyNumber,
    /// Where its hues come from.
    pub scheme: Scheme,
    /// Its own lean set.
    pub pigments: Vec<PigmentId>,
    /// Cost of that set for this study's wishes.
    pub cost: f64,
    /// Every zone in its mix.
    pub mixes: Vec<StudyMix>,
    /// Fingerprint of zones, locks and Box it was made from.
    pub basis: String,
    /// Why it was chosen, or what is to be remembered of it; may be empty.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub reason: String,
    /// Minutes spent painting it.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub minutes: u32,
    /// The day it was made, as `2025-01-14`; `None` in records of earlier versions.
    #[serde(default)]
    pub made: Option<String>,
    /// Since when its clock runs, in seconds of Unix time; `None` while it stands.
    #[serde(default)]
    pub running_since: Option<i64>,
}

/// Paper in the printer.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum PageFormat {
    /// 148 × 210 mm (ISO 216).
    A5,
    /// 297 × 420 mm (ISO 216).
    A3,
    /// 210 × 297 mm (ISO 216).
    #[default]
    A4,
    /// 215.9 × 279.4 mm.
    Letter,
}

/// How studies are laid out for printing.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct SheetSettings {
    /// Longer side of each study on paper.
    #[cfg_attr(feature = "schema", schema(minimum = 20, maximum = 300))]
    pub longer_side: Millimetres,
    /// Paper.
    pub page: PageFormat,
}

impl Default for SheetSettings {
    fn default() -> Self {
        Self { longer_side: Millimetres(100.0), page: PageFormat::A4 }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn letters_of_earlier_versions_are_numbers() {
        let read = |text: &str| serde_json::from_str::<StudyNumber>(text).unwrap();
        assert_eq!([read("\"A\""), read("\"C\""), read("7")], [StudyNumber(1), StudyNumber(3), StudyNumber(7)]);
        assert_eq!(serde_json::to_string(&StudyNumber(3)).unwrap(), "3");
    }
}
