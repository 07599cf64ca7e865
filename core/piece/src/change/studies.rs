//! Studies made, the one carried forward, and the sheet.

use super::{Change, Refusal};
use crate::Piece;
use crate::studies::{SheetSettings, Study, StudySlot};
use serde::{Deserialize, Serialize};

/// Keep studies that were made.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
pub struct KeepStudies {
    /// Up to three.
    pub studies: Vec<Study>,
    /// The one carried forward, if any.
    pub chosen: Option<StudySlot>,
}

impl Change for KeepStudies {
    fn describe(&self) -> String {
        "the studies".into()
    }

    fn check(&self, _piece: &Piece) -> Result<(), Refusal> {
        match self.chosen {
            Some(slot) if !self.studies.iter().any(|s| s.slot == slot) => {
                Err(Refusal::Unknown(format!("Study {slot:?} has not been made.")))
            }
            _ => Ok(()),
        }
    }

    fn apply(self, piece: &mut Piece) {
        (piece.studies, piece.chosen_study) = (self.studies, self.chosen);
    }
}

/// Carry a study forward.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
pub struct ChooseStudy {
    /// Which; `None` takes the choice back.
    pub slot: Option<StudySlot>,
}

impl Change for ChooseStudy {
    fn describe(&self) -> String {
        match self.slot {
            Some(s) => format!("the choice of study {s:?}"),
            None => "the choice of a study".into(),
        }
    }

    fn check(&self, piece: &Piece) -> Result<(), Refusal> {
        match self.slot {
            Some(slot) if !piece.studies.iter().any(|s| s.slot == slot) => {
                Err(Refusal::Unknown(format!("Study {slot:?} has not been made yet. Make the studies first.")))
            }
            _ => Ok(()),
        }
    }

    fn apply(self, piece: &mut Piece) {
        piece.chosen_study = self.slot;
    }
}

/// Say how studies are printed.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
pub struct SetSheet {
    /// The settings.
    pub sheet: SheetSettings,
}

impl Change for SetSheet {
    fn describe(&self) -> String {
        "the sheet".into()
    }

    fn check(&self, _piece: &Piece) -> Result<(), Refusal> {
        let longer = self.sheet.longer_side.0;
        if !(20.0..=300.0).contains(&longer) {
            return Err(Refusal::Range(format!("A study of {longer} mm cannot be printed. Its longer side may be 20 to 300 mm.")));
        }
        Ok(())
    }

    fn apply(self, piece: &mut Piece) {
        piece.sheet = self.sheet;
    }
}
