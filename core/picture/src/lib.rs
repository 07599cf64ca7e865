//! What a reference says: pixels read as values, temperatures and big shapes.
//!
//! **The three nouns and how they meet.** A [`Picture`] is an upright sRGB image decoded honestly from whatever was given;
//! a [`Ladder`](values::Ladder) counts its pixels on the value scale; and a [`ZoneMap`] parts it into a handful of
//! connected shapes whose [`outline`]s can be drawn and whose readings feed the plan.
#![deny(missing_docs)]

pub mod borders;
pub mod chart;
pub mod cut_apart;
pub mod decode;
pub mod frame;
pub mod kept_map;
pub mod laid_over;
pub mod line_drawing;
pub mod measure;
pub mod outline;
pub mod paint;
pub mod painted;
pub mod picture;
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
