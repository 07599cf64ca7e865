//! A piece: one planned work, as data, and everything that changes it.
//!
//! **The nouns and how they meet.** A [`Piece`] is one aggregate: its [`brief`], [`intent`], [`reference`], [`zones`], [`light`], [`wall`],
//! [`set`], [`studies`], what happens at the [`easel`] and the log of [`session`]s. It changes only by a [`Command`](change::Command) in [`change`], which gives the next piece and the way
//! back. A [`PaintBox`](paint_box::PaintBox) is what the painter owns. Nothing here advises: what follows from a piece is in the crate above.
//!
//! ```
//! use lean_media::Medium;
//! use lean_piece::change::SetBrief;
//! use lean_piece::{Brief, Millimetres, Piece, Size};
//!
//! let size = Size { width: Millimetres(300.0), height: Millimetres(200.0) };
//! let brief = Brief { title: "Weir in rain".into(), medium: Medium::Oil, ground: lean_media::ground::usual(Medium::Oil).id, size };
//! let piece = Piece::new(brief.clone());
//! let named = SetBrief { brief: Brief { title: "Weir, evening".into(), ..brief } };
//! let (next, undo) = piece.apply(named)?;
//! assert_eq!(next.brief.title, "Weir, evening");
//! assert_eq!(next.take_back(undo)?.brief.title, "Weir in rain");
//! # Ok::<(), Box<dyn std::error::Error>>(())
//! ```
#![deny(missing_docs)]

mod answered;
mod brief;
pub mod change;
pub mod easel;
pub mod intent;
mod kept_text;
pub mod light;
pub mod own_ground;
pub mod paint_box;
mod piece;
mod reference;
mod session;
mod set;
mod studies;
mod together;
pub mod units;
pub mod wall;
mod words;
mod zones;

pub use answered::Dismissal;
pub use brief::{Brief, MOST_NAME};
pub use change::{Command, Refusal, Undo};
pub use kept_text::KeptText;
pub use piece::{Asked, Piece, nearly_finished, wanted};
pub use reference::chart::{Chart, ChartCell, Wished, WishedColour};
pub use reference::compositions::{Composition, Compositions};
pub use reference::planes::{PlaneKind, PlaneShape};
pub use reference::{MOST_OTHERS, Other, Reference, Serves};
pub use session::{MOST_SESSIONS, Session};
pub use set::aim::{Aim, Companion, MOST_COMPANIONS, Matching, Mixing};
pub use set::{ChosenSet, SearchKept};
pub use studies::{Chord, HueShare, MOST_STUDIES, OtherLight, PageFormat, Scheme, SheetSettings, Study, StudyMix, StudyNumber};
pub use together::Together;
pub use units::{Millimetres, PixelSize, Size};
pub use zones::{Cut, Formed, Importance, MOST_TURNS, Mass, MassId, Surface, SurfaceMix, Turn, Worked, Zone, ZoneId};
