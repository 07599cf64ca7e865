//! A photo of a painting laid over its plan: found where the picture lies in it, seen from anywhere, in any even light.

mod contrast;
mod find;
mod light;

pub use light::{LightFrom, LightOn, ZoneRead};

use crate::Picture;
use crate::projection::{Projection, projection};
use crate::zone_map::ZoneMap;
use lean_colour::Lab;
use lean_colour::screen::LINEAR;
use std::collections::BTreeMap;
use thiserror::Error;

/// Corners of the picture in the photo from its top left clockwise, in shares of the photo's width and height.
pub(crate) type Quad = [(f64, f64); 4];

/// What a picture is expected to look like: the colour of every zone, and that of the ground where nothing lies.
#[derive(Clone, Debug, PartialEq)]
pub struct Expected {
    /// Colours by the number of the zone.
    pub zones: BTreeMap<u16, Lab>,
    /// Those of them that are bare ground.
    pub bare: Vec<u16>,
}

/// Why a photo cannot be laid over a plan.
#[derive(Clone, Copy, Debug, Error, PartialEq, Eq)]
pub enum Unlaid {
    /// Too dark or burnt out.
    #[error("The photo is too dark or too bright to compare. Take it again in even daylight.")]
    Exposure,
    /// Nothing in it fits the plan.
    #[error("This photo cannot be laid over the plan: nothing in it lies as planned. If it is this piece, set its four corners by hand.")]
    NothingFits,
    /// The corners do not span a shape.
    #[error("The four corners do not span a picture. Set each at a corner of the painting.")]
    Corners,
}

/// A photo laid over a plan.
#[derive(Clone, Debug)]
pub struct LaidOver {
    /// Where the picture lies.
    pub corners: Quad,
    /// How well it fits, −1..=1: the correlation of colours seen and expected.
    pub fit: f64,
    /// Which of the pictures expected it fits best.
    pub which: usize,
    to_photo: Projection,
}

/// Fit below which a photo shows something else. A choice.
const FITS: f64 = 0.55;
/// Fit below which corners set by hand are not believed. A choice.
const FITS_BY_HAND: f64 = 0.25;

impl LaidOver {
    /// Finds where the picture lies in a photo, by what it is expected to look like: one of several pictures, as a piece passes through stages.
    ///
    /// # Errors
    /// See [`Unlaid`].
    pub fn find(photo: &Picture, map: &ZoneMap, expected: &[Expected]) -> Result<Self, Unlaid> {
        exposed(photo)?;
        let (corners, which, fit) = find::found(photo, map, expected).ok_or(Unlaid::NothingFits)?;
        if fit < FITS {
            return Err(Unlaid::NothingFits);
        }
        Self::of(photo, corners, which, fit)
    }

    /// The same with corners set by hand.
    ///
    /// # Errors
    /// See [`Unlaid`].
    pub fn at(photo: &Picture, map: &ZoneMap, expected: &[Expected], corners: Quad) -> Result<Self, Unlaid> {
        exposed(photo)?;
        let (which, fit) = find::best_of(photo, map, expected, &corners).ok_or(Unlaid::Corners)?;
        if fit < FITS_BY_HAND {
            return Err(Unlaid::NothingFits);
        }
        Self::of(photo, corners, which, fit)
    }

    fn of(photo: &Picture, corners: Quad, which: usize, fit: f64) -> Result<Self, Unlaid> {
        let (w, h) = (f64::from(photo.width), f64::from(photo.height));
        let pixels = corners.map(|(x, y)| (x * w, y * h));
        let to_photo = projection(&UNIT, &pixels).map_err(|_| Unlaid::Corners)?;
        Ok(Self { corners, fit, which, to_photo })
    }

    /// Whether the picture stands on its head in the photo, or lies on a side.
    pub fn is_turned(&self) -> bool {
        let [a, b, ..] = self.corners;
        b.0 - a.0 < (b.1 - a.1).abs()
    }

    /// The pixel of the photo at a place of the picture, both in shares.
    fn pixel(&self, x: f64, y: f64) -> (f64, f64) {
        self.to_photo.at(x, y)
    }

    /// Linear light of the photo at a place of the picture; `None` where that lies outside the photo.
    pub fn light_at(&self, photo: &Picture, x: f64, y: f64) -> Option<[f64; 3]> {
        let (px, py) = self.pixel(x, y);
        let inside = px >= 0.0 && py >= 0.0 && px < f64::from(photo.width) && py < f64::from(photo.height);
        inside.then(|| photo.at(px as u32, py as u32).map(|b| LINEAR[usize::from(b)]))
    }
}

/// The corners of a picture in shares of itself.
pub const UNIT: [(f64, f64); 4] = [(0.0, 0.0), (1.0, 0.0), (1.0, 1.0), (0.0, 1.0)];

/// Mean light outside of which a photo cannot be compared. Choices.
const EXPOSED: std::ops::Range<f64> = 0.012..0.93;

fn exposed(photo: &Picture) -> Result<(), Unlaid> {
    let small = photo.reduced(120);
    let mean = small.rgb.iter().map(|b| LINEAR[usize::from(*b)]).sum::<f64>() / small.rgb.len().max(1) as f64;
    if EXPOSED.contains(&mean) { Ok(()) } else { Err(Unlaid::Exposure) }
}
