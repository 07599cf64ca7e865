//! A piece as one aggregate: state, commands, and nothing else that changes it.

mod aim;
mod apply;
mod command;
mod cut;
mod session;
mod state;
mod subject;
mod undo;

pub use aim::{Aim, Asked, Companion, MOST_COMPANIONS, Matching, Mixing};
pub use apply::Refusal;
pub use command::Command;
pub use cut::{Cut, MOST_TURNS, Mass, MassId, Turn};
pub use session::{MOST_SESSIONS, Session};
pub use state::{
    Brief, ChosenSet, Dismissal, Importance, MOST_NAME, Millimetres, PageFormat, Piece, PixelSize, Reference, Schemed, SearchKept,
    SheetSettings, Size, Study, StudyMix, StudySlot, Zone, ZoneId,
};
pub use subject::{Chart, ChartCell, Composition, Compositions, MOST_OTHERS, Other, PlaneKind, PlaneShape, Serves, Wished, WishedColour};
pub use undo::Undo;
