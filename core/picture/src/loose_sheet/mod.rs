//! Patches of colour in a photo of any sheet: a chart, a page of swatches, a row of sticks. No marks are needed: the paper round the patches is the white,
//! and says how the light falls; a grey card makes it surer.

mod grid;
mod light;
mod patches;

use crate::Picture;
use crate::spot::Spot;
use crate::swatch_sheet::Unread as SheetUnread;
use lean_colour::Lab;
use lean_colour::screen::xyz_of_linear;
use light::Field;
use serde::{Deserialize, Serialize};
use thiserror::Error;

/// A rectangle of the photo, shares of its width and height.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct PhotoRect {
    /// Left edge.
    pub x: f64,
    /// Upper edge.
    pub y: f64,
    /// Width.
    pub width: f64,
    /// Height.
    pub height: f64,
}

impl PhotoRect {
    /// The rectangle itself, if it lies on the photo and has a size.
    ///
    /// # Errors
    /// When it does not, says where it lies.
    pub fn checked(self) -> Result<Self, String> {
        let Self { x, y, width, height } = self;
        let inside = x >= 0.0 && y >= 0.0 && x + width <= 1.0 + 1e-9 && y + height <= 1.0 + 1e-9;
        if inside && width > 0.0 && height > 0.0 {
            return Ok(self);
        }
        Err(format!("A cell at {x:.2}, {y:.2} of {width:.2} by {height:.2} does not lie on the photo. Put it there."))
    }

    fn holds(&self, at: Spot) -> bool {
        (self.x..self.x + self.width).contains(&at.x) && (self.y..self.y + self.height).contains(&at.y)
    }
}

/// A patch of colour.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Patch {
    /// Where.
    pub place: PhotoRect,
    /// Its colour under daylight.
    pub lab: Lab,
    /// Expected error of it, in CIEDE2000.
    pub doubt: f64,
    /// True where it is uneven, in glare or clipped and should be looked at.
    pub doubtful: bool,
    /// True where nothing was seen that stands apart from the paper: only the rows and columns say that a patch should be there.
    pub guessed: bool,
}

/// Why a photo cannot be read.
#[derive(Clone, Copy, Debug, Error, PartialEq, Eq)]
pub enum Unread {
    /// No paper is seen round the patches.
    #[error("No plain paper is seen round the colours. Photograph the sheet with some bare paper between them, in even daylight.")]
    Paper,
    /// The place pointed out as a grey card is none.
    #[error("What was pointed out is no grey card: it is too light, too dark, uneven or coloured. Point at its middle, or leave it out.")]
    Grey,
    /// The photo is too dark, or burnt out.
    #[error("{}", SheetUnread::Exposure)]
    Exposure,
    /// Nothing stands apart from the paper.
    #[error("No patch of colour stands apart from the paper. Press the photo where one is.")]
    Nothing,
}

/// Longer side of the copy that is read, in pixels.
const SIDE: u32 = 1000;
/// Expected error where the paper is the white, and where a grey card was read: its own white is not known, a camera's colours are its own. Choices.
const DOUBT: [f64; 2] = [2.4, 1.6];
/// Error that unevenness adds to it, CIEDE2000 for light that varies by all of itself. A choice.
const OF_UNEVEN: f64 = 15.0;
/// Unevenness from which a patch is looked at again. A choice: the grain of sticks stays below it.
const UNEVEN: f64 = 0.22;

/// Finds the patches of a sheet and reads them, row by row. A grey card lies at `grey`, where there is one.
///
/// # Errors
/// See [`Unread`].
pub fn find(photo: &Picture, grey: Option<Spot>) -> Result<Vec<Patch>, Unread> {
    let small = photo.reduced(SIDE);
    let field = Field::of(&small, grey)?;
    let places = patches::found(&small, &field);
    let places: Vec<PhotoRect> = places.into_iter().filter(|p| grey.is_none_or(|at| !p.holds(at))).collect();
    if places.is_empty() {
        return Err(Unread::Nothing);
    }
    let placed = grid::in_rows(&places, (small.width, small.height));
    Ok(placed.into_iter().map(|(place, guessed)| Patch { guessed, ..patch(&small, &field, place) }).collect())
}

/// Reads given places of a sheet.
///
/// # Errors
/// See [`Unread`].
pub fn read(photo: &Picture, grey: Option<Spot>, places: &[PhotoRect]) -> Result<Vec<Patch>, Unread> {
    let small = photo.reduced(SIDE);
    let field = Field::of(&small, grey)?;
    Ok(places.iter().map(|place| patch(&small, &field, *place)).collect())
}

/// Share of a place, from its middle, that is read: its edges are ragged.
const MIDDLE: f64 = 0.6;

fn patch(photo: &Picture, field: &Field, place: PhotoRect) -> Patch {
    let cells = |from: f64, size: f64, n: u32| {
        let first = ((from + size * (1.0 - MIDDLE) / 2.0) * f64::from(n)) as u32;
        let last = ((from + size * (1.0 + MIDDLE) / 2.0) * f64::from(n)).ceil() as u32;
        first.min(n - 1)..last.clamp(first.min(n - 1) + 1, n)
    };
    let (mut seen, mut clipped) = (Vec::new(), 0);
    for y in cells(place.y, place.height, photo.height) {
        for x in cells(place.x, place.width, photo.width) {
            clipped += usize::from(photo.at(x, y).iter().any(|b| *b >= 254));
            seen.push(field.even(photo, x, y));
        }
    }
    let median: [f64; 3] = std::array::from_fn(|c| light::middle(seen.iter().map(|s| s[c]).collect()));
    let mean = (0.2126 * median[0] + 0.7152 * median[1] + 0.0722 * median[2]).max(0.01);
    let spread = seen.iter().map(|s| (0..3).map(|c| (s[c] - median[c]).powi(2)).sum::<f64>() / 3.0).sum::<f64>() / seen.len() as f64;
    // A dark patch is noisy of itself: noise of the camera is not unevenness of paint.
    let uneven = spread.sqrt() / (mean + 0.05);
    Patch {
        place,
        lab: xyz_of_linear(median.map(|c| c.max(0.0))).lab(),
        doubt: DOUBT[usize::from(field.by_card)].hypot(OF_UNEVEN * uneven),
        doubtful: uneven > UNEVEN || clipped * 4 > seen.len(),
        guessed: false,
    }
}
