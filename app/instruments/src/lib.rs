//! Instruments at the easel: a colour meter and a camera.
//!
//! **The nouns and how they meet.** A [`ColourMeter`] reads the spectrum of what lies under its head once it is warm and was calibrated on its white
//! tile; a [`Camera`] takes a picture of a page. Real devices would sit behind these traits; what is here are [`SimulatedMeter`] and
//! [`SimulatedCamera`], which look at a [`World`] that somebody sets up. Everything is seeded, so that the same steps give the same readings.
#![deny(missing_docs)]

mod camera;
mod chance;
mod meter;
mod page;
mod world;

pub use camera::{Camera, Picture, Shot, SimulatedCamera};
pub use meter::{ColourMeter, MeterState, Refused, SimulatedMeter};
pub use page::painted_sheet;
pub use world::{World, own_pigment};
