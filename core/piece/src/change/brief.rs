//! The brief, what a piece is for, and the Box it draws on.

use super::{Change, Refusal, check_text};
use crate::Piece;
use crate::brief::Brief;
use crate::intent::Intent;
use crate::paint_box::BoxId;
use crate::together::{Together, is_of_second};
use crate::units::Size;
use lean_media::{PigmentId, ground};
use serde::{Deserialize, Serialize};

/// Title, medium, ground and size.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
pub struct SetBrief {
    /// The whole new brief.
    pub brief: Brief,
}

impl Change for SetBrief {
    fn describe(&self) -> String {
        "the brief".into()
    }

    fn check(&self, _piece: &Piece) -> Result<(), Refusal> {
        check_text("The title", &self.brief.title, 1)?;
        check_size(self.brief.size)?;
        if ground::find(&self.brief.ground).is_none() {
            return Err(Refusal::Unknown(format!("There is no ground \"{}\". Choose one from the list.", self.brief.ground.0)));
        }
        Ok(())
    }

    fn apply(self, piece: &mut Piece) {
        if self.brief.medium != piece.brief.medium {
            draw_on(piece, None);
            piece.together = None;
        }
        piece.brief = self.brief;
    }
}

/// What it is for and by which rules it is made.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
pub struct SetIntent {
    /// All of it.
    pub intent: Intent,
}

impl Change for SetIntent {
    fn describe(&self) -> String {
        "what it is for".into()
    }

    fn check(&self, _piece: &Piece) -> Result<(), Refusal> {
        self.intent.check().map_err(Refusal::Contradiction)
    }

    fn apply(self, piece: &mut Piece) {
        piece.intent = self.intent;
    }
}

/// Draw on another Box. Locks, exclusions and the set are cleared: they name pigments of the old one.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
pub struct UseBox {
    /// Which; `None` draws on none.
    pub paint_box: Option<BoxId>,
}

impl Change for UseBox {
    fn describe(&self) -> String {
        "the Box".into()
    }

    fn apply(self, piece: &mut Piece) {
        draw_on(piece, self.paint_box);
    }
}

/// Draws on another Box; what names pigments of the old one goes.
fn draw_on(piece: &mut Piece, paint_box: Option<BoxId>) {
    piece.paint_box = paint_box;
    piece.locked.clear();
    piece.excluded.clear();
    piece.demands.mother = None;
    piece.search = None;
    piece.chosen.pigments.clear();
    piece.studies.clear();
    piece.chosen_study = None;
    piece.scheme = None;
}

/// Draw on a second Box, laid over the first medium or taken for the studies. What names pigments of an earlier second Box goes.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
pub struct SetTogether {
    /// What and from which Box; `None` keeps to one medium.
    pub together: Option<Together>,
}

impl Change for SetTogether {
    fn describe(&self) -> String {
        match &self.together {
            Some(t) => format!("{} as a second medium", t.second.name()),
            None => "one medium alone".into(),
        }
    }

    fn check(&self, piece: &Piece) -> Result<(), Refusal> {
        self.together.as_ref().map_or(Ok(()), |t| t.check(piece.brief.medium).map_err(Refusal::Contradiction))
    }

    fn apply(self, piece: &mut Piece) {
        if self.together != piece.together {
            let own = |p: &PigmentId| !is_of_second(p);
            piece.locked.retain(own);
            piece.excluded.retain(own);
            piece.chosen.pigments.retain(own);
            piece.demands.mother.take_if(|m| is_of_second(&m.pigment));
            piece.search = None;
            piece.studies.clear();
            piece.chosen_study = None;
            piece.scheme = None;
        }
        piece.together = self.together;
    }
}

fn check_size(size: Size) -> Result<(), Refusal> {
    for (side, mm) in [("wide", size.width.0), ("high", size.height.0)] {
        if !(10.0..=3000.0).contains(&mm) {
            return Err(Refusal::Range(format!("A piece {mm} mm {side} is out of range. Each side may be 10 to 3000 mm.")));
        }
    }
    Ok(())
}
