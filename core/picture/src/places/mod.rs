//! Colours, places and the brush: a picture parted into a few colours, each with every place where it lies.
//!
//! **The three nouns and how they meet.** A [`Survey`] is a picture taken apart once: small patches, the order in which larger and larger
//! brushes join them, smooth runs, and the colours they nest in. A palette of [`Laid`] shades says which zone each shade belongs to. Laid over
//! the survey at a brush, the palette gives a [`ZoneMap`](crate::ZoneMap) whose connected parts are the places.

mod accents;
mod cells;
mod colours;
mod depth;
mod grading;
mod joining;
mod laid;
mod lay;
mod mass_map;
mod masses;
mod palette;
mod parting;
mod patches;
mod runs;
mod shade;
mod shapes;
mod survey;
mod tidy;
mod tip;

pub use cells::GRID;
pub use grading::Grading;
pub use laid::Laid;
pub use palette::{joined, parted, with_shade};
pub use runs::Run;
pub use shapes::{LARGEST, MIDDLE, SMALLEST};
pub use survey::Survey;
pub(crate) use tidy::least_cells;
