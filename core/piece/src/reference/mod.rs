//! What a piece is made from: its main reference and what stands beside it.

pub(crate) mod chart;
pub(crate) mod compositions;
pub(crate) mod planes;

use crate::units::PixelSize;
use crate::zones::ZoneId;
use lean_colour::Temperature;
use lean_picture::frame::Frame;
use serde::{Deserialize, Serialize};

/// What the piece is made from. The file itself is kept untouched under its digest.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Reference {
    /// SHA-256 of the file, in hexadecimal.
    pub digest: String,
    /// Name it was dropped under.
    pub file_name: String,
    /// Pixels across, upright.
    pub width: u32,
    /// Pixels down, upright.
    pub height: u32,
    /// Temperature of the picture's mean light: its own neutral, the middle of the field.
    pub neutral: Temperature,
    /// What it is used for; empty for everything.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub serves: Vec<Serves>,
    /// What of the file is looked at, and how. Width and height are those of the framed picture.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub frame: Frame,
    /// Pixels of the whole file, upright; none when it was never framed.
    #[serde(default)]
    pub full: Option<PixelSize>,
    /// A drawing in lines: its closed outlines are the zones.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub lines: bool,
    /// Share of its linear resolution that it uses, above 0 to 1: a blurred photo has fewer pixels than it counts.
    #[serde(default = "sharp")]
    #[cfg_attr(feature = "schema", schema(required = true, minimum = 0, maximum = 1))]
    pub sharpness: f64,
}

fn sharp() -> f64 {
    1.0
}

impl Reference {
    /// Pixels of the whole file, upright.
    pub fn full_size(&self) -> (u32, u32) {
        self.full.map_or((self.width, self.height), |f| (f.width, f.height))
    }

    /// A reference looked at whole and as it is, for everything; it counts as sharp.
    pub fn whole(digest: String, file_name: String, (width, height): (u32, u32), neutral: Temperature) -> Self {
        Self {
            digest,
            file_name,
            width,
            height,
            neutral,
            serves: Vec::new(),
            frame: Frame::default(),
            full: None,
            lines: false,
            sharpness: 1.0,
        }
    }
}

/// What a reference is used for.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Serves {
    /// Its light and shadow.
    Light,
    /// Its shapes.
    Drawing,
    /// Its colours.
    Colour,
    /// Its detail.
    Detail,
}

crate::worded! { Serves { Light: "light", Drawing: "drawing", Colour: "colour", Detail: "detail" } }

/// Most references beside the main one.
pub const MOST_OTHERS: usize = 60;
/// Most characters of what a reference is for.
const MOST_PURPOSE: usize = 120;

/// Another reference.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Other {
    /// SHA-256 of the file.
    pub digest: String,
    /// Name it was dropped under.
    pub file_name: String,
    /// Pixels across.
    pub width: u32,
    /// Pixels down.
    pub height: u32,
    /// What it is used for.
    pub serves: Vec<Serves>,
    /// Its purpose in words: "the hand", "how cloth folds"; may be empty.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub purpose: String,
    /// Zones it stands beside while one of them is chosen.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub pinned: Vec<ZoneId>,
}

impl Other {
    /// Another reference that is for nothing in particular yet.
    pub fn of(digest: String, file_name: String, (width, height): (u32, u32)) -> Self {
        Self { digest, file_name, width, height, serves: Vec::new(), purpose: String::new(), pinned: Vec::new() }
    }

    /// Says what is out of range.
    ///
    /// # Errors
    /// Names what is wrong and what to do.
    pub(crate) fn check(&self) -> Result<(), String> {
        match self.purpose.chars().count() {
            n if n > MOST_PURPOSE => Err(format!("What {} is for has {n} characters; {MOST_PURPOSE} fit.", self.file_name)),
            _ => Ok(()),
        }
    }
}
