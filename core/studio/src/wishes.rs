//! What a painter may ask of a piece directly. Facts about pixels and searches come from the work itself, never from outside.

use crate::lean::Demands;
use crate::lean::search::MOST_IN_SET;
use crate::paint_box::{BoxId, PaintBox};
use crate::piece::{Aim, Brief, ChosenSet, Command, Dismissal, Importance, Mixing, Piece, Refusal, SheetSettings, StudySlot, ZoneId};
use lean_colour::{Lab, Temperature, Value, moves};
use lean_media::PigmentId;
use serde::{Deserialize, Serialize};

/// A change asked for by the painter.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case", tag = "do")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Wish {
    /// Title, medium, ground and size.
    SetBrief {
        /// The whole new brief.
        brief: Brief,
    },
    /// Draw on another Box of the same medium.
    UseBox {
        /// Which.
        paint_box: BoxId,
    },
    /// Give a zone a name.
    RenameZone {
        /// Which.
        zone: ZoneId,
        /// At most 80 characters; empty takes the name away.
        name: String,
    },
    /// Say how much a zone matters.
    SetImportance {
        /// Which.
        zone: ZoneId,
        /// How much.
        importance: Importance,
    },
    /// Say what a zone should be.
    SetTarget {
        /// Which.
        zone: ZoneId,
        /// The wanted colour.
        target: Lab,
    },
    /// Say which pigments must and must not be in a set.
    SetChoice {
        /// Must be in.
        locked: Vec<PigmentId>,
        /// Must not be in.
        excluded: Vec<PigmentId>,
    },
    /// Say what else is asked of a set.
    SetDemands {
        /// All of it.
        demands: Demands,
    },
    /// Say what the search aims at.
    SetAim {
        /// All of it.
        aim: Aim,
    },
    /// Say how mixes are made.
    SetMixing {
        /// All of it.
        mixing: Mixing,
    },
    /// Take a set into use: at most eight pigments of the Box.
    ChooseSet {
        /// The set.
        pigments: Vec<PigmentId>,
    },
    /// Carry a study forward, or none.
    ChooseStudy {
        /// Which.
        slot: Option<StudySlot>,
    },
    /// Say how studies are printed.
    SetSheet {
        /// The settings.
        sheet: SheetSettings,
    },
    /// Answer a finding with a reason.
    Dismiss {
        /// Which and why.
        dismissal: Dismissal,
    },
    /// Take all answers back.
    BringBackFindings,
}

impl Wish {
    /// The command that fulfils this wish, checked against the Box in use (`paint_box`) and, for [`Wish::UseBox`], the one
    /// asked for (`asked`).
    ///
    /// # Errors
    /// A [`Refusal`] naming what is not in the Box or does not fit.
    pub fn into_command(self, piece: &Piece, paint_box: Option<&PaintBox>, asked: Option<&PaintBox>) -> Result<Command, Refusal> {
        let owned = |pigments: &[PigmentId]| owned(paint_box, pigments);
        Ok(match self {
            Self::SetBrief { brief } => Command::SetBrief { brief: Brief { title: brief.title.trim().to_owned(), ..brief } },
            Self::UseBox { paint_box } => {
                let found = asked.ok_or_else(|| Refusal::Unknown("There is no such Box. Choose one from the list.".into()))?;
                if found.medium != piece.brief.medium {
                    let (a, b) = (found.medium.name(), piece.brief.medium.name());
                    return Err(Refusal::Contradiction(format!(
                        "\"{}\" is a Box of {a}; this piece is in {b}. Choose a Box of {b}.",
                        found.name
                    )));
                }
                Command::UseBox { paint_box: Some(paint_box) }
            }
            Self::RenameZone { zone, name } => Command::RenameZone { zone, name: name.trim().to_owned() },
            Self::SetImportance { zone, importance } => Command::SetImportance { zone, importance },
            Self::SetTarget { zone, target } => Command::SetTarget { zone, target: lean_colour::real::toward_real(target) },
            Self::SetChoice { locked, excluded } => {
                owned(&locked)?;
                owned(&excluded)?;
                Command::SetChoice { locked, excluded }
            }
            Self::SetDemands { demands } => {
                if let Some(m) = &demands.mother {
                    owned(std::slice::from_ref(&m.pigment))?;
                }
                Command::SetDemands { demands }
            }
            Self::SetAim { aim } => Command::SetAim { aim },
            Self::SetMixing { mixing } => Command::SetMixing { mixing },
            Self::ChooseSet { pigments } => {
                owned(&pigments)?;
                if pigments.len() > MOST_IN_SET {
                    return Err(Refusal::Range(format!(
                        "{} pigments are more than the {MOST_IN_SET} a lean set holds. Take one off first.",
                        pigments.len()
                    )));
                }
                Command::ChooseSet { chosen: ChosenSet { pigments } }
            }
            Self::ChooseStudy { slot } => Command::ChooseStudy { slot },
            Self::SetSheet { sheet } => Command::SetSheet { sheet },
            Self::Dismiss { dismissal } => {
                let mut dismissed: Vec<Dismissal> = piece.dismissed.iter().filter(|d| d.finding != dismissal.finding).cloned().collect();
                dismissed.push(dismissal);
                Command::SetDismissed { dismissed }
            }
            Self::BringBackFindings => Command::SetDismissed { dismissed: Vec::new() },
        })
    }
}

fn owned(paint_box: Option<&PaintBox>, pigments: &[PigmentId]) -> Result<(), Refusal> {
    if pigments.is_empty() {
        return Ok(());
    }
    let paint_box = paint_box.ok_or_else(|| Refusal::Unknown("This piece draws on no Box yet. Choose one in the brief.".into()))?;
    match pigments.iter().find(|p| paint_box.find(p).is_none()) {
        Some(p) => Err(Refusal::Unknown(format!("\"{p}\" is not in the Box \"{}\".", paint_box.name))),
        None => match pigments.iter().find(|p| paint_box.find(p).is_some_and(|p| p.white)) {
            Some(p) => Err(Refusal::Contradiction(format!("\"{p}\" is white: it is free in every mix and never counted in a set."))),
            None => Ok(()),
        },
    }
}

/// Where a mark is dragged to in the field. Either may be left out.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct FieldMove {
    /// The new value, 0..=10.
    #[cfg_attr(feature = "schema", schema(minimum = 0, maximum = 10))]
    pub value: Option<f64>,
    /// The new temperature relative to the picture's neutral.
    #[cfg_attr(feature = "schema", schema(minimum = -200, maximum = 200))]
    pub temperature: Option<f64>,
}

/// The colour a mark has after being moved: up and down keeps hue and chroma, sideways keeps value, as far as real colours go.
///
/// # Errors
/// When a number is out of range.
pub fn moved(from: Lab, neutral: Temperature, to: FieldMove) -> Result<Lab, Refusal> {
    let mut lab = from;
    if let Some(v) = to.value {
        if !(0.0..=10.0).contains(&v) {
            return Err(Refusal::Range(format!("Value {v} is off the ladder; it runs from 0 to 10.")));
        }
        lab = moves::with_value(lab, Value(v));
    }
    if let Some(t) = to.temperature {
        if !(-200.0..=200.0).contains(&t) {
            return Err(Refusal::Range(format!("Temperature {t} is out of range; it runs from -200 to 200.")));
        }
        lab = moves::with_temperature(lab, Temperature(neutral.0 + t));
    }
    Ok(lab)
}
