//! From what a painter asks to the command that does it.

use crate::colouring::coloured;
use crate::drawing::{PLANS, value_plans};
use crate::light::fitting::{DIFFERENCES, USUAL_DIFFERENCES};
use crate::light::key::{Reach, mapped};
use crate::light::propose::propose;
use crate::light::rules;
use crate::mixes::{self, ZoneMix};
use crate::requests::{FieldMove, Request};
use crate::stages::requests as stages;
use crate::studies::go_on::go_on;
use crate::surfaces;
use crate::zones::masses;
use lean_colour::{Lab, Share, Temperature, Value, moves};
use lean_media::PigmentId;
use lean_piece::change::{
    ChangeZones, ChooseSet, ChooseStudy, MarkReference, NoteStudy, RenameZone, SetAim, SetBrief, SetChoice, SetCompositions, SetDemands,
    SetDismissed, SetImportance, SetIntent, SetLighting, SetMixing, SetOthers, SetSessions, SetSheet, SetTarget, SetTogether, SetWall,
    SetWished, UseBox,
};
use lean_piece::light::{Facts, Graded};
use lean_piece::paint_box::PaintBox;
use lean_piece::wall::Wall;
use lean_piece::{Brief, ChosenSet, Command, Dismissal, MOST_NAME, Piece, Refusal, Surface, Zone, ZoneId};
use lean_search::{Recipes, most_in_set};

fn with_surface(piece: &Piece, id: ZoneId, surface: Option<Surface>, what: &str) -> Result<Command, Refusal> {
    let zone = piece.zone(id).ok_or(Refusal::NoSuchZone(id.0))?;
    let what = format!("{}: {what}", piece.zone_label(id)).chars().take(MOST_NAME).collect();
    Ok(Command::ChangeZones(ChangeZones { zones: vec![Zone { surface, ..zone.clone() }], what }))
}

/// Characters in which a page says what it did.
const MOST_SAID: usize = 200;

impl Request {
    /// The command that fulfils this request, checked against the Box in use (`paint_box`) and, for [`Request::UseBox`] and [`Request::DrawOnTwo`], the one
    /// asked for (`asked`).
    ///
    /// # Errors
    /// A [`Refusal`] naming what is not in the Box or does not fit.
    pub fn into_command(self, piece: &Piece, paint_box: Option<&PaintBox>, asked: Option<&PaintBox>) -> Result<Command, Refusal> {
        let owned = |pigments: &[PigmentId]| owned(paint_box, pigments);
        Ok(match self {
            Self::SetBrief { brief } => Command::SetBrief(SetBrief { brief: Brief { title: brief.title.trim().to_owned(), ..brief } }),
            Self::UseSurface { zone, worked, count, distance } => {
                if !(2..=12).contains(&count) || !(200.0..=20_000.0).contains(&distance.0) {
                    return Err(Refusal::Range("Siblings are 2 to 12, and dabs are seen from 0.2 to 20 metres.".into()));
                }
                let paint_box = paint_box.ok_or_else(|| Refusal::Unknown("There is no Box yet. Choose one first.".into()))?;
                let surface = surfaces::used(piece, paint_box, zone, worked, count, distance).map_err(Refusal::Unknown)?;
                with_surface(piece, zone, Some(surface), worked.label())?
            }
            Self::DropSurface { zone } => with_surface(piece, zone, None, "one mix again")?,
            Self::UseBox { paint_box } => {
                let found = asked.ok_or_else(|| Refusal::Unknown("There is no such Box. Choose one from the list.".into()))?;
                if found.medium != piece.brief.medium {
                    let (a, b) = (found.medium.name(), piece.brief.medium.name());
                    return Err(Refusal::Contradiction(format!(
                        "\"{}\" is a Box of {a}; this piece is in {b}. Choose a Box of {b}.",
                        found.name
                    )));
                }
                Command::UseBox(UseBox { paint_box: Some(paint_box) })
            }
            Self::DrawOnTwo { together } => {
                if let Some(t) = &together {
                    t.check(piece.brief.medium).map_err(Refusal::Contradiction)?;
                    let found = asked.ok_or_else(|| Refusal::Unknown("There is no such Box. Choose one from the list.".into()))?;
                    let own = piece.paint_box.as_ref() == Some(&t.paint_box);
                    if own && found.pigments.iter().all(|p| !p.white) {
                        return Err(Refusal::Contradiction(format!(
                            "\"{}\" has no white to lay over its washes. Put one in at Box, as titanium white, or choose another Box.",
                            found.name
                        )));
                    }
                    let (has, needs) = (found.medium.name(), t.second.box_medium().name());
                    if has != needs {
                        let what = t.second.name();
                        return Err(Refusal::Contradiction(format!(
                            "\"{}\" is a Box of {has}; {what} is taken from a Box of {needs}.",
                            found.name
                        )));
                    }
                }
                Command::SetTogether(SetTogether { together })
            }
            Self::RenameZone { zone, name } => Command::RenameZone(RenameZone { zone, name: name.trim().to_owned() }),
            Self::SetImportance { zone, importance } => Command::SetImportance(SetImportance { zone, importance }),
            Self::SetTarget { zone, target } => Command::SetTarget(SetTarget { zone, target: lean_colour::real::toward_real(target) }),
            Self::SetIntent { intent } => Command::SetIntent(SetIntent { intent }),
            Self::SetLighting { lighting } => Command::SetLighting(SetLighting { lighting }),
            Self::SetFacts { zone, facts } => changed(piece, zone, "the light at", |z| z.facts = Facts { by_hand: true, ..facts })?,
            Self::ProposeFacts => {
                let facts = propose(piece);
                let with = |z: &Zone| facts.iter().find(|(id, _)| *id == z.id).map(|(_, f)| Zone { facts: *f, ..z.clone() });
                Command::ChangeZones(ChangeZones {
                    zones: piece.zones.iter().filter_map(with).collect(),
                    what: "what was proposed of the light".into(),
                })
            }
            Self::ConfirmFacts => {
                let guessed = piece.zones.iter().filter(|z| z.facts.is_guess());
                let zones = guessed.map(|z| Zone { facts: Facts { by_hand: true, ..z.facts }, ..z.clone() }).collect();
                Command::ChangeZones(ChangeZones { zones, what: "that what was proposed is so".into() })
            }
            Self::SetTargets { what, .. } if what.chars().count() > MOST_SAID => {
                return Err(Refusal::Text(format!("What was done is said in {MOST_SAID} characters at most.")));
            }
            Self::SetTargets { targets, what } => {
                let zones = targets.iter().map(|t| {
                    let zone = piece.zone(t.zone).ok_or(Refusal::NoSuchZone(t.zone.0))?;
                    Ok(Zone { target: lean_colour::real::toward_real(t.target), ..zone.clone() })
                });
                Command::ChangeZones(ChangeZones { zones: zones.collect::<Result<_, _>>()?, what })
            }
            Self::MapValues { differences: Some(d), .. } if !DIFFERENCES.contains(&d) => {
                return Err(Refusal::Text(format!("{d} is out of range; differences count from 0 to 1.")));
            }
            Self::MapValues { key, differences } => {
                let reach = reach_of(piece, paint_box)?.within_rules(piece);
                let fit = mapped(piece, reach, key, piece.intent.contrast(), differences.map_or(USUAL_DIFFERENCES, Share));
                // What has no colour yet has no value to be fitted.
                let open = |id: ZoneId| piece.zone(id).is_some_and(|z| z.open);
                targets(piece, fit.into_iter().filter(|(id, _)| !open(*id)).collect(), "the values fitted to what can be laid")
            }
            Self::PlanValues { plan, .. } if !(1..=PLANS).contains(&plan) => {
                return Err(Refusal::Range(format!("There is no plan {plan} of the values; there are 1 to {PLANS}.")));
            }
            Self::PlanValues { plan, keep } => values_planned(piece, paint_box, plan, &keep)?,
            Self::LeaveBare { zones, bare } => {
                let paper = piece.ground().lab;
                let left = |id: &ZoneId| {
                    let zone = piece.zone(*id).ok_or(Refusal::NoSuchZone(id.0))?;
                    Ok(Zone { target: if bare { paper } else { zone.reading.lab }, graded: None, open: !bare, ..zone.clone() })
                };
                let zones = zones.iter().map(left).collect::<Result<_, Refusal>>()?;
                Command::ChangeZones(ChangeZones { zones, what: if bare { "paper left bare" } else { "taking colours back" }.into() })
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
                Command::SetWall(SetWall { wall: Some(Wall { measure, candidates, taken, heard, ..wall }), what: "the wall".into() })
            }
            Self::RemoveWall => Command::SetWall(SetWall { wall: None, what: "taking the wall away".into() }),
            Self::SetServes { serves } => Command::MarkReference(MarkReference { serves }),
            Self::SetOthers { others } => {
                if let Some(o) = others.iter().find(|o| !piece.others.iter().any(|p| p.digest == o.digest)) {
                    return Err(Refusal::Unknown(format!(
                        "\"{}\" is not among the references of this piece. Drop its file first.",
                        o.file_name
                    )));
                }
                Command::SetOthers(SetOthers { others })
            }
            Self::SetCompositions { compositions } => {
                if compositions.as_ref().map(|c| &c.digest) != piece.compositions.as_ref().map(|c| &c.digest) && compositions.is_some() {
                    return Err(Refusal::Unknown("That sheet is not kept with this piece. Drop its photo first.".into()));
                }
                Command::SetCompositions(SetCompositions { compositions })
            }
            Self::LayPlanes { planes } => crate::zones::from_planes(piece, planes)?,
            Self::SetWished { wished } => Command::SetWished(SetWished { wished }),
            Self::SetSessions { sessions } => Command::SetSessions(SetSessions { sessions, done: None }),
            Self::LogSession { session, tasks, at } => stages::logged(piece, session, &tasks, at).into(),
            Self::SetChoice { locked, excluded } => {
                owned(&locked)?;
                owned(&excluded)?;
                Command::SetChoice(SetChoice { locked, excluded })
            }
            Self::SetDemands { demands } => {
                if let Some(m) = &demands.mother {
                    owned(std::slice::from_ref(&m.pigment))?;
                }
                Command::SetDemands(SetDemands { demands })
            }
            Self::SetAim { aim } => Command::SetAim(SetAim { aim }),
            Self::SetMixing { mixing } => Command::SetMixing(SetMixing { mixing }),
            Self::ChooseSet { pigments } => {
                owned(&pigments)?;
                let most = most_in_set(piece.brief.medium);
                if pigments.len() > most {
                    return Err(Refusal::Range(format!(
                        "{} are more than the {most} a set in {} holds. Take one off first.",
                        pigments.len(),
                        piece.brief.medium.name()
                    )));
                }
                Command::ChooseSet(ChooseSet { chosen: ChosenSet { pigments } })
            }
            Self::ChooseStudy { number } => Command::ChooseStudy(ChooseStudy { number }),
            Self::GoOn { number, more } => go_on(piece, paint_box, &mixes_of(piece, paint_box), number, more)?.into(),
            Self::NoteStudy { number, reason, minutes, running_since } => {
                NoteStudy { number, reason: reason.trim().to_owned(), minutes, running_since }.into()
            }
            Self::Colour { zones, how, local } => coloured(piece, paint_box, &zones, &how, local)?.into(),
            Self::SetSheet { sheet } => Command::SetSheet(SetSheet { sheet }),
            Self::Dismiss { dismissal } => {
                let mut dismissed: Vec<Dismissal> = piece.dismissed.iter().filter(|d| d.finding != dismissal.finding).cloned().collect();
                dismissed.push(dismissal);
                Command::SetDismissed(SetDismissed { dismissed })
            }
            Self::SetEasel { easel } => stages::decided(piece, paint_box, easel)?.into(),
            Self::DidTask { task, done, at } => stages::did(piece, task, done, at).into(),
            Self::SkipTask { task, skipped } => stages::skip(piece, task, skipped).into(),
            Self::PutTaskBefore { task, before } => stages::put_before(piece, paint_box, task, before)?.into(),
            Self::UsualOrder => stages::usual_order(piece).into(),
            Self::Depart { departure } => stages::depart(piece, departure)?.into(),
            Self::TakeBackDeparture { at } => stages::take_back(piece, at)?.into(),
            Self::SetProgressPhoto { at, photo } => stages::photo(piece, at, photo)?.into(),
            Self::BringBackFindings => Command::SetDismissed(SetDismissed { dismissed: Vec::new() }),
        })
    }
}

/// The command that gives the shapes of a drawing the values of a plan; a background the plan leaves out stays bare.
fn values_planned(piece: &Piece, paint_box: Option<&PaintBox>, plan: u8, keep: &[ZoneId]) -> Result<Command, Refusal> {
    let reach = paint_box.and_then(|b| mixes::reach_of(piece, b)).map(|r| r.within_rules(piece));
    let plans = value_plans(piece, reach, keep);
    let chosen = plans
        .get(usize::from(plan) - 1)
        .ok_or_else(|| Refusal::Unknown("There are no shapes whose values could be planned. Drop a drawing first.".into()))?;
    let value = |z: &Zone| chosen.values.iter().find(|v| v.zone == z.id).map(|v| Lab::new(v.value.lightness(), 0.0, 0.0));
    let with = |z: &Zone| Zone { target: value(z).unwrap_or(piece.ground().lab), graded: None, open: false, ..z.clone() };
    let zones = piece.zones.iter().filter(|z| !keep.contains(&z.id)).map(with).collect();
    Ok(Command::ChangeZones(ChangeZones { zones, what: "the plan of the values".into() }))
}

/// The command that gives zones new targets.
pub fn targets(piece: &Piece, new: Vec<(ZoneId, Lab)>, what: &str) -> Command {
    let with = |(id, target): (ZoneId, Lab)| piece.zone(id).map(|z| Zone { target: lean_colour::real::toward_real(target), ..z.clone() });
    Command::ChangeZones(ChangeZones { zones: new.into_iter().filter_map(with).collect(), what: what.into() })
}

fn changed(piece: &Piece, zone: ZoneId, what: &str, change: impl FnOnce(&mut Zone)) -> Result<Command, Refusal> {
    let mut new = piece.zone(zone).cloned().ok_or(Refusal::NoSuchZone(zone.0))?;
    change(&mut new);
    let what: String = format!("{what} {}", piece.zone_label(zone)).chars().take(MOST_NAME).collect();
    Ok(Command::ChangeZones(ChangeZones { zones: vec![new], what }))
}

/// The plan in the mixes of its set; none without one.
fn mixes_of(piece: &Piece, paint_box: Option<&PaintBox>) -> Vec<ZoneMix> {
    let set = |b: &PaintBox| {
        let pigments = mixes::pigments_of(b, &piece.chosen.pigments);
        (!pigments.is_empty()).then(|| mixes::mixes(piece, &Recipes::of(mixes::technique_of(piece, b, &pigments).as_ref())))
    };
    paint_box.and_then(set).unwrap_or_default()
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
