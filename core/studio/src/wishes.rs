//! What a painter may ask of a piece directly. Facts about pixels and searches come from the work itself, never from outside.

use crate::intent::Intent;
use crate::light::key::{Key, Reach, mapped};
use crate::light::propose::propose;
use crate::light::{Facts, Graded, Lighting, rules};
use crate::paint_box::{BoxId, PaintBox};
use crate::piece::{
    Aim, Brief, ChosenSet, Command, Compositions, Dismissal, Importance, MOST_NAME, MassId, Mixing, Other, Piece, PlaneShape, Refusal,
    Serves, Session, SheetSettings, StudySlot, Wished, Zone, ZoneId,
};
use crate::wall::{Candidate, Heard, Measure, Wall};
use crate::zones::masses::{self, OfMass};
use lean_colour::{Lab, Temperature, Value, moves};
use lean_media::PigmentId;
use lean_picture::spot::Spot;
use lean_search::Demands;
use lean_search::MOST_IN_SET;
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
    /// What it is for and by which rules it is made.
    SetIntent {
        /// All of it.
        intent: Intent,
    },
    /// What falls on it.
    SetLighting {
        /// All of it.
        lighting: Lighting,
    },
    /// Say how a zone stands in the light.
    SetFacts {
        /// Which.
        zone: ZoneId,
        /// All that is known; it counts as said by hand.
        facts: Facts,
    },
    /// Propose plane, distance, role and kind for every zone nothing was said about.
    ProposeFacts,
    /// Say that everything proposed of the light is so: findings go by it from now on.
    ConfirmFacts,
    /// Say what several zones should be.
    SetTargets {
        /// Which and what.
        targets: Vec<ZoneTarget>,
        /// What was done, for the line that says what was undone.
        what: String,
    },
    /// Map the values of the reference into what can be reached.
    MapValues {
        /// Which part of the range.
        key: Key,
    },
    /// Targets from the rules of light alone.
    TargetsFromRules,
    /// Let a target run to another colour, or not.
    SetGraded {
        /// Which zone.
        zone: ZoneId,
        /// Where to and which way; `None` makes it even again.
        graded: Option<Grading>,
    },
    /// Say what is known of a mass. Zones nothing was said of by hand follow it.
    SayOfMass {
        /// Which.
        mass: MassId,
        /// What.
        said: OfMass,
    },
    /// Join two masses.
    JoinMasses {
        /// The one that stays.
        into: MassId,
        /// The other.
        from: MassId,
    },
    /// Part a mass along a drawn line.
    PartMass {
        /// Which.
        mass: MassId,
        /// The line.
        stroke: Vec<Spot>,
    },
    /// Redraw the border of a mass.
    RedrawMass {
        /// Which.
        mass: MassId,
        /// The line.
        stroke: Vec<Spot>,
    },
    /// Keep a zone when zones are proposed anew, or not.
    KeepZone {
        /// Which.
        zone: ZoneId,
        /// Whether it stays.
        kept: bool,
    },
    /// Panels, measure and meaning of the wall.
    SetWall {
        /// What is known about lengths.
        measure: Option<Measure>,
        /// Ways to hang it.
        candidates: Vec<Candidate>,
        /// The one taken.
        taken: Option<usize>,
        /// How it is meant to be heard.
        heard: Option<Heard>,
    },
    /// Take the wall away.
    RemoveWall,
    /// Say what the main reference is for.
    SetServes {
        /// For what; empty for everything.
        serves: Vec<Serves>,
    },
    /// Say what the other references are for, or leave some out.
    SetOthers {
        /// Those that stay.
        others: Vec<Other>,
    },
    /// Choose among compositions and say why.
    SetCompositions {
        /// The sheet, or none.
        compositions: Option<Compositions>,
    },
    /// Planes dragged into place where there is no reference.
    LayPlanes {
        /// The planes, from back to front.
        planes: Vec<PlaneShape>,
    },
    /// Colours of another picture the set should serve too, or none.
    SetWished {
        /// Them.
        wished: Option<Wished>,
    },
    /// Log work done on the piece.
    SetSessions {
        /// All sessions.
        sessions: Vec<Session>,
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
            Self::SetIntent { intent } => Command::SetIntent { intent },
            Self::SetLighting { lighting } => Command::SetLighting { lighting },
            Self::SetFacts { zone, facts } => changed(piece, zone, "the light at", |z| z.facts = Facts { by_hand: true, ..facts })?,
            Self::ProposeFacts => {
                let facts = propose(piece);
                let with = |z: &Zone| facts.iter().find(|(id, _)| *id == z.id).map(|(_, f)| Zone { facts: *f, ..z.clone() });
                Command::ChangeZones { zones: piece.zones.iter().filter_map(with).collect(), what: "what was proposed of the light".into() }
            }
            Self::ConfirmFacts => {
                let guessed = piece.zones.iter().filter(|z| z.facts.is_guess());
                let zones = guessed.map(|z| Zone { facts: Facts { by_hand: true, ..z.facts }, ..z.clone() }).collect();
                Command::ChangeZones { zones, what: "that what was proposed is so".into() }
            }
            Self::SetTargets { targets, what } => {
                let zones = targets.iter().map(|t| {
                    let zone = piece.zone(t.zone).ok_or(Refusal::NoSuchZone(t.zone.0))?;
                    Ok(Zone { target: lean_colour::real::toward_real(t.target), ..zone.clone() })
                });
                Command::ChangeZones { zones: zones.collect::<Result<_, _>>()?, what }
            }
            Self::MapValues { key } => {
                let reach = reach_of(piece, paint_box)?.within_rules(piece);
                targets(piece, mapped(piece, reach, key, piece.intent.contrast()), "the values mapped into reach")
            }
            Self::TargetsFromRules => {
                let reach = reach_of(piece, paint_box)?.within_rules(piece);
                targets(piece, rules::targets(piece, reach), "targets from the rules of light")
            }
            Self::SetGraded { zone, graded } => {
                let of = piece.zone(zone).ok_or(Refusal::NoSuchZone(zone.0))?;
                let end = of.graded.map_or(of.target, |g| g.to);
                let graded = graded
                    .map(|g| Ok(Graded { to: moved(end, piece.neutral(), g.end)?, direction: g.direction.rem_euclid(360.0) }))
                    .transpose()?;
                changed(piece, zone, "the grading of", |z| z.graded = graded)?
            }
            Self::SayOfMass { mass, said } => masses::say(piece, mass, said).map_err(Refusal::Unknown)?,
            Self::JoinMasses { into, from } => masses::join(piece, into, from).map_err(Refusal::Contradiction)?,
            Self::PartMass { mass, stroke } => masses::part(piece, mass, &stroke).map_err(Refusal::Contradiction)?,
            Self::RedrawMass { mass, stroke } => masses::redraw(piece, mass, &stroke).map_err(Refusal::Contradiction)?,
            Self::KeepZone { zone, kept } => changed(piece, zone, "the lock of", |z| z.kept = kept)?,
            Self::SetWall { measure, candidates, taken, heard } => {
                let wall =
                    piece.wall.clone().ok_or_else(|| Refusal::Unknown("There is no photo of the wall yet. Drop one first.".into()))?;
                Command::SetWall { wall: Some(Wall { measure, candidates, taken, heard, ..wall }), what: "the wall".into() }
            }
            Self::RemoveWall => Command::SetWall { wall: None, what: "taking the wall away".into() },
            Self::SetServes { serves } => Command::MarkReference { serves },
            Self::SetOthers { others } => {
                if let Some(o) = others.iter().find(|o| !piece.others.iter().any(|p| p.digest == o.digest)) {
                    return Err(Refusal::Unknown(format!(
                        "\"{}\" is not among the references of this piece. Drop its file first.",
                        o.file_name
                    )));
                }
                Command::SetOthers { others }
            }
            Self::SetCompositions { compositions } => {
                if compositions.as_ref().map(|c| &c.digest) != piece.compositions.as_ref().map(|c| &c.digest) && compositions.is_some() {
                    return Err(Refusal::Unknown("That sheet is not kept with this piece. Drop its photo first.".into()));
                }
                Command::SetCompositions { compositions }
            }
            Self::LayPlanes { planes } => crate::zones::from_planes(piece, planes)?,
            Self::SetWished { wished } => Command::SetWished { wished },
            Self::SetSessions { sessions } => Command::SetSessions { sessions },
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

/// How a target runs: where its far end lies in the field, and which way it goes.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Grading {
    /// Where the far end lies; what is left out stays as it is.
    pub end: FieldMove,
    /// Degrees clockwise from rightwards.
    pub direction: f64,
}

/// A zone and what it should be.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ZoneTarget {
    /// Which.
    pub zone: ZoneId,
    /// The wanted colour.
    pub target: Lab,
}

/// The command that gives zones new targets.
pub fn targets(piece: &Piece, new: Vec<(ZoneId, Lab)>, what: &str) -> Command {
    let with = |(id, target): (ZoneId, Lab)| piece.zone(id).map(|z| Zone { target: lean_colour::real::toward_real(target), ..z.clone() });
    Command::ChangeZones { zones: new.into_iter().filter_map(with).collect(), what: what.into() }
}

fn changed(piece: &Piece, zone: ZoneId, what: &str, change: impl FnOnce(&mut Zone)) -> Result<Command, Refusal> {
    let mut new = piece.zone(zone).cloned().ok_or(Refusal::NoSuchZone(zone.0))?;
    change(&mut new);
    let what: String = format!("{what} {}", piece.zone_label(zone)).chars().take(MOST_NAME).collect();
    Ok(Command::ChangeZones { zones: vec![new], what })
}

fn reach_of(piece: &Piece, paint_box: Option<&PaintBox>) -> Result<Reach, Refusal> {
    paint_box
        .and_then(|b| crate::mixes::reach_of(piece, b))
        .ok_or_else(|| Refusal::Unknown("What can be reached depends on the Box. Choose one in the brief.".into()))
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
