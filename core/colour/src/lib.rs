//! What a colour is to a painter: value first, temperature second, hue last.
//!
//! **The three nouns and how they meet.** A [`Reflectance`] is what a surface does to light in 36 bands; seen
//! under daylight it becomes an [`Xyz`]; and an `Xyz` is read as a [`Lab`], whose lightness is a [`Value`] on the
//! painters' 0–10 ladder and whose warm–cool position is a [`Temperature`]. Differences between two colours are
//! measured by [`difference::ciede2000`]; colours are moved one quality at a time by [`moves`], never past what
//! [`real`] surfaces can show. A [`Light`] other than daylight is one call away ([`mod@light`]), a colour without
//! a spectrum gets an inferred one ([`inferred`]), and [`neighbours`] says how a colour tends to look among others.
//!
//! ```
//! use lean_colour::{D65, HueAngle, Lab, Reflectance, Value, difference::ciede2000};
//!
//! let grey = Reflectance::flat(0.1842).xyz().lab();
//! assert!((grey.value().0 - 4.9).abs() < 0.01);
//! assert!(grey.temperature().0.abs() < 1e-6, "a grey is neither warm nor cool");
//!
//! let orange = Lab::<D65>::from_lch(60.0, 50.0, 55.0);
//! let darker = lean_colour::moves::with_value(orange, Value(4.0));
//! assert!((darker.value().0 - 4.0).abs() < 1e-6);
//! assert!(darker.hue().apart(HueAngle(55.0)) < 1e-6);
//! assert!(ciede2000(orange, darker) > 10.0);
//! ```
#![deny(missing_docs)]

pub mod difference;
mod hue;
pub mod inferred;
pub mod lab;
pub mod light;
pub mod moves;
pub mod neighbours;
pub mod real;
pub mod screen;
mod share;
pub mod spectrum;
pub mod surfaces;
pub mod temperature;
pub mod typed;
mod value;
pub mod words;

pub use hue::HueAngle;
pub use lab::{Adapted, D65, Lab, Oklab, Xyz};
pub use light::Light;
pub use screen::Srgb8;
pub use share::Share;
pub use spectrum::{BANDS, Reflectance};
pub use temperature::Temperature;
pub use value::{Steps, Value};
