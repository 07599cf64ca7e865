//! What a reference says: pixels read as values, temperatures and big shapes.
//!
//! **The three nouns and how they meet.** A [`Picture`] is an upright sRGB image decoded honestly from whatever was given;
//! a [`Ladder`](values::Ladder) counts its pixels on the value scale; and a [`ZoneMap`] parts it into a handful of
//! connected shapes whose [`outline`]s can be drawn and whose readings feed the plan.
//!
//! ```
//! use lean_picture::{Picture, values::ladder};
//!
//! // Half of it black, half of it white.
//! let rgb = [[0u8; 3]; 8].concat().into_iter().chain([[255u8; 3]; 8].concat()).collect();
//! let picture = Picture { width: 4, height: 4, rgb };
//! let read = ladder(&picture, 2);
//! assert_eq!(read.groups.len(), 2);
//! assert!((read.groups[0].share - 0.5).abs() < 1e-9);
//! assert!(read.darkest < 0.1 && read.lightest > 9.5);
//! ```
#![deny(missing_docs)]

pub mod borders;
pub mod chart;
pub mod cut_apart;
pub mod decode;
mod falling_light;
pub mod form;
pub mod frame;
pub mod kept_map;
pub mod laid_over;
pub mod line_drawing;
pub mod loose_sheet;
pub mod measure;
pub mod outline;
pub mod paint;
pub mod painted;
mod picture;
pub mod places;
pub mod projection;
pub mod readings;
pub mod sharpness;
pub mod spot;
pub mod swatch_sheet;
pub mod values;
pub mod views;
pub mod zone_map;

pub use decode::{Unreadable, decode};
pub use kept_map::KeptMap;
pub use picture::Picture;
pub use readings::Reading;
pub use zone_map::ZoneMap;
