//! The drills there are.

use serde::{Deserialize, Serialize};

/// A kind of question.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Drill {
    /// Judge the value of a patch, in steps.
    Value,
    /// Which of two is warmer.
    Warmer,
    /// Find the same patch in another surround.
    Surround,
    /// What two pigments give.
    PredictMix,
    /// Which pigment is missing from a mix.
    MissingPigment,
    /// Match a colour with three pigments in few trials.
    Match,
    /// Put a string in order of value.
    Order,
    /// Which of two places of a picture is darker.
    PictureLight,
}

impl Drill {
    /// All of them.
    pub const ALL: [Self; 8] =
        [Self::Value, Self::Warmer, Self::Surround, Self::PredictMix, Self::MissingPigment, Self::Match, Self::Order, Self::PictureLight];

    /// What it is called.
    pub fn name(self) -> &'static str {
        match self {
            Self::Value => "The value of a patch",
            Self::Warmer => "Which is warmer",
            Self::Surround => "The same in another surround",
            Self::PredictMix => "What the mix will be",
            Self::MissingPigment => "The missing pigment",
            Self::Match => "Match it with three",
            Self::Order => "A string in order",
            Self::PictureLight => "Darker in the picture",
        }
    }

    /// What its size is measured in.
    pub fn unit(self) -> &'static str {
        match self {
            Self::Value | Self::Surround | Self::Order | Self::PictureLight => "steps of value",
            Self::Warmer => "degrees of temperature",
            Self::PredictMix | Self::MissingPigment | Self::Match => "colour difference",
        }
    }

    /// Whether hue plays no part in it: fit for eyes that see hues otherwise.
    pub fn without_hue(self) -> bool {
        matches!(self, Self::Value | Self::Surround | Self::Order)
    }

    /// Chance of a right answer by guessing.
    pub fn by_guess(self) -> f64 {
        match self {
            Self::Warmer | Self::PictureLight => 0.5,
            Self::Surround => 1.0 / 3.0,
            Self::PredictMix | Self::MissingPigment => 0.25,
            Self::Value => 0.1,
            Self::Order | Self::Match => 0.05,
        }
    }

    /// The size an eye without practice just tells apart: where a drill begins. Choices.
    pub fn usual(self) -> f64 {
        match self {
            Self::Value => 0.8,
            Self::Warmer => 9.0,
            Self::Surround => 0.7,
            Self::PredictMix => 12.0,
            Self::MissingPigment => 14.0,
            Self::Match => 8.0,
            Self::Order => 0.4,
            Self::PictureLight => 0.8,
        }
    }

    /// Smallest and largest size a question can have.
    pub fn range(self) -> (f64, f64) {
        let usual = self.usual();
        (usual / 12.0, usual * 4.0)
    }
}
