//! What pigments do on a ground.
//!
//! **The three nouns and how they meet.** A [`Pigment`] absorbs and scatters light in 36 bands; pigments in [`Parts`]
//! make a paint; and a paint laid opaque ([`opaque`]) or as a [`film`] over a [`ground`] sends back a
//! [`Reflectance`](lean_colour::Reflectance), which is where colour begins. Every shipped pigment is *modelled*, not
//! measured, and says so.
#![deny(missing_docs)]

pub mod film;
pub mod ground;
pub mod library;
pub mod medium;
pub mod opaque;
pub mod pigment;
pub mod pigment_file;
pub mod recipe_text;

pub use ground::{Ground, GroundId};
pub use medium::Medium;
pub use opaque::{Paint, SurfaceOptics};
pub use pigment::{Parts, Pigment, PigmentId, Provenance};
