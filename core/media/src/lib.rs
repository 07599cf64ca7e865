//! What pigments do on a ground.
//!
//! **The three nouns and how they meet.** A [`Pigment`] absorbs and scatters light in 36 bands; a [`Layering`] says what was put
//! down, in what order and how much, on a [`Ground`]; and laying it gives a [`Reflectance`](lean_colour::Reflectance), from which
//! [`Seen`] makes colour under any light. Pigments are learned from [`readings`] by [`learn`]; every shipped one is *modelled*, not
//! measured, and says so. What is an engineering choice stands in [`choices`].
//!
//! ```
//! use lean_media::recipe_text::{Written, layers};
//! use lean_media::{Layering, Medium, State, ground, library};
//!
//! let paper = ground::usual(Medium::Marker);
//! let coats = |text: &str| -> Result<f64, Box<dyn std::error::Error>> {
//!     let layers = layers(text, Written::Marker { into_wet: false }, library::modelled())?;
//!     Ok(Layering { ground: &paper, layers }.lay(State::Dry)?.reflectance.xyz().lab().value().0)
//! };
//! let (once, twice) = (coats("PB29*0.1")?, coats("PB29*0.1 > PB29*0.1")?);
//! assert!(twice < once, "a second coat darkens");
//! # Ok::<(), Box<dyn std::error::Error>>(())
//! ```
#![deny(missing_docs)]

pub mod amount;
pub mod broken;
mod choices;
pub mod facts;
pub mod film;
pub mod forms;
pub mod ground;
pub mod lanes;
pub mod layering;
pub mod learn;
pub mod library;
mod medium;
pub mod opaque;
pub mod pens;
pub mod pigment;
pub mod pigment_file;
pub mod readings;
pub mod recipe_text;
pub mod rows;
mod seen;
pub mod swatch;
pub mod touch;

pub use choices::Choices;
pub use ground::{Ground, GroundId};
pub use layering::{Beneath, Laid, Layer, Layering, State};
pub use medium::{Medium, Second};
pub use opaque::{Paint, SurfaceOptics};
pub use pigment::{Parts, Pigment, PigmentId, Provenance};
pub use seen::Seen;
