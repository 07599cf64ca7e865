//! Small colour versions of a piece: one as read, the others with the values held and the hues freed, or in another light.

pub mod booklet;
pub mod chord;
pub mod clock;
mod drawn;
mod freed;
pub mod go_on;
pub mod kept;
pub mod ladder;
pub mod lent;
pub mod loosened;
pub mod make;
pub mod measures;
pub mod note;
pub mod order;
pub mod other_light;
pub mod restraint;
pub mod scheme;
pub mod sheet;
pub mod start;
pub mod variants;

pub use make::{make, make_one};
pub use note::StudyNote;
pub use variants::StudyKind;
