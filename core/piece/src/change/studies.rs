//! Studies made, the one carried forward, and the sheet.

use super::{Change, Refusal};
use crate::Piece;
use crate::set::ChosenSet;
use crate::studies::{MOST_STUDIES, SheetSettings, Study, StudyNumber};
use crate::zones::ZoneId;
use lean_colour::Lab;
use serde::{Deserialize, Serialize};

/// Keep studies that were made.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
pub struct KeepStudies {
    /// All of them.
    pub studies: Vec<Study>,
    /// The one carried forward, if any.
    pub chosen: Option<StudyNumber>,
}

impl Change for KeepStudies {
    fn describe(&self) -> String {
        "the studies".into()
    }

    fn check(&self, _piece: &Piece) -> Result<(), Refusal> {
        if self.studies.len() > MOST_STUDIES {
            return Err(Refusal::Range(format!("{MOST_STUDIES} studies of one piece are kept. Make fewer, or leave some out.")));
        }
        match self.chosen {
            Some(number) if !self.studies.iter().any(|s| s.number == number) => {
                Err(Refusal::Unknown(format!("Study {number} has not been made.")))
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
    #[serde(alias = "slot")]
    pub number: Option<StudyNumber>,
}

impl Change for ChooseStudy {
    fn describe(&self) -> String {
        match self.number {
            Some(s) => format!("the choice of study {s}"),
            None => "the choice of a study".into(),
        }
    }

    fn check(&self, piece: &Piece) -> Result<(), Refusal> {
        match self.number {
            Some(number) if !piece.studies.iter().any(|s| s.number == number) => {
                Err(Refusal::Unknown(format!("Study {number} has not been made yet. Make the studies first.")))
            }
            _ => Ok(()),
        }
    }

    fn apply(self, piece: &mut Piece) {
        piece.chosen_study = self.number;
    }
}

/// Make a study the plan: its wanted colours the targets, its set the tray, its scheme the one the piece lives in. The plan it takes the place
/// of stays as a study.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
pub struct GoOn {
    /// Which study.
    pub number: StudyNumber,
    /// The plan as it was, in its mixes; none where it had no set.
    pub former: Option<Box<Study>>,
    /// What each zone becomes.
    pub targets: Vec<(ZoneId, Lab)>,
    /// Fingerprint of the piece as it will be: no study is out of date by this.
    pub basis: String,
    /// Pigments the large piece may have beyond those of the study; `None` leaves locks and sizes alone.
    pub more: Option<u8>,
}

impl Change for GoOn {
    fn describe(&self) -> String {
        format!("going on with study {}", self.number)
    }

    fn check(&self, piece: &Piece) -> Result<(), Refusal> {
        if !piece.studies.iter().any(|s| s.number == self.number) {
            return Err(Refusal::Unknown(format!("Study {} has not been made yet. Make the studies first.", self.number)));
        }
        if piece.studies.len() + usize::from(self.former.is_some()) > MOST_STUDIES {
            return Err(Refusal::Range(format!(
                "{MOST_STUDIES} studies are kept already. Make them anew, fewer of them, before you go on."
            )));
        }
        self.targets.iter().try_for_each(|(zone, _)| piece.known(*zone))
    }

    fn apply(self, piece: &mut Piece) {
        let Some(study) = piece.studies.iter().find(|s| s.number == self.number) else { return };
        let (pigments, scheme) = (piece.set_with(study), study.scheme.clone());
        for (zone, target) in self.targets {
            piece.change(zone, |z| *z = z.retargeted(target));
        }
        if let Some(more) = self.more {
            piece.locked = pigments.clone();
            piece.excluded.retain(|p| !pigments.contains(p));
            piece.aim.largest = (pigments.len() as u8).saturating_add(more).min(lean_search::most_in_set(piece.brief.medium) as u8);
        }
        piece.chosen = ChosenSet { pigments };
        piece.scheme = Some(scheme);
        piece.studies.extend(self.former.map(|f| *f));
        piece.chosen_study = Some(self.number);
        piece.studies.iter_mut().for_each(|s| s.basis.clone_from(&self.basis));
    }
}

/// Keep a reason and the minutes spent with a study.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
pub struct NoteStudy {
    /// Which study.
    pub number: StudyNumber,
    /// Why it was chosen, or what is to be remembered; may be empty.
    pub reason: String,
    /// Minutes spent painting it.
    pub minutes: u32,
    /// Since when its clock runs, in seconds of Unix time; `None` while it stands.
    #[serde(default)]
    pub running_since: Option<i64>,
}

impl Change for NoteStudy {
    fn describe(&self) -> String {
        format!("what is kept of study {}", self.number)
    }

    fn check(&self, piece: &Piece) -> Result<(), Refusal> {
        match self.reason.chars().count() {
            n if n > 300 => Err(Refusal::Text(format!("The reason has {n} characters; 300 fit."))),
            _ if self.minutes > 6000 => {
                Err(Refusal::Range(format!("{} minutes for a study are out of range; it may be 0 to 6000.", self.minutes)))
            }
            _ if !piece.studies.iter().any(|s| s.number == self.number) => {
                Err(Refusal::Unknown(format!("Study {} is not there any more.", self.number)))
            }
            _ => Ok(()),
        }
    }

    fn apply(self, piece: &mut Piece) {
        if let Some(s) = piece.studies.iter_mut().find(|s| s.number == self.number) {
            (s.reason, s.minutes, s.running_since) = (self.reason, self.minutes, self.running_since);
        }
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
