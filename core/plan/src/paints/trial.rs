//! A trial of a mix: what was mixed, what it read, how far off in words, and which way the trials went.

use super::correction::{Correction, correction};
use super::learned::predicted;
use crate::mark::Mark;
use crate::mixes::{pigments_of, technique_of};
use crate::wording::Difference;
use lean_colour::Lab;
use lean_colour::difference::ciede2000;
use lean_media::layering::State;
use lean_piece::Piece;
use lean_piece::paint_box::{Dampness, PaintBox, Swatch, SwatchReading};
use lean_recipes::laid::{LaidStep, steps_of};
use lean_recipes::{Mix, telling};
use lean_search::Recipes;
use serde::Serialize;

/// A trial judged.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Trial {
    /// Number of its reading.
    pub reading: i64,
    /// What was mixed, on one line.
    pub mixed: String,
    /// What it read; of a wet swatch what it is predicted to dry to.
    pub read: Mark,
    /// True where `read` is a prediction of what it dries to.
    pub dries_to: bool,
    /// How far off it is from what is wanted, in a sentence.
    pub sentence: String,
    /// The same as one number, CIEDE2000.
    pub difference: f64,
    /// Whether it went the right way after the trial before, in a few words; empty for the first.
    pub went: String,
}

/// The trials of one thing that is wanted, in their order, and what to do about the last.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Trials {
    /// What is wanted.
    pub wanted: Mark,
    /// What the next trial starts from: what lies there with what is advised, or the recipe; `None` without either.
    pub next: Option<Swatch>,
    /// The layers of that on one line; empty without any.
    pub next_layers: String,
    /// The same as steps that can be changed to what was really laid; empty for a wet mix.
    pub next_steps: Vec<LaidStep>,
    /// The colour the next trial is held against: that of the planned recipe, or of what it starts from.
    pub against: Option<Mark>,
    /// Trials, the first made first.
    pub trials: Vec<Trial>,
    /// What to add to what lies there, or to lay over it; `None` before there is a trial, or where a pigment of it is gone.
    pub correction: Option<Correction>,
}

/// Judges trials against what is wanted. `mix` is the recipe that is planned for it; the nearest of the set in use where there is none.
pub fn trials(piece: &Piece, paint_box: &PaintBox, wanted: Lab, mix: Option<Mix>, readings: &[(i64, SwatchReading)]) -> Trials {
    let neutral = piece.neutral();
    let mut judged: Vec<Trial> = Vec::new();
    for (id, r) in readings {
        let (lab, dries_to) = dry(paint_box, r);
        let difference = ciede2000(lab, wanted);
        let went = judged.last().map(|before| way(before.difference, difference)).unwrap_or_default();
        judged.push(Trial {
            reading: *id,
            mixed: mixed(paint_box, r),
            read: Mark::of(lab, neutral),
            dries_to,
            sentence: Difference::of(wanted, lab).words,
            difference,
            went: went.into(),
        });
    }
    let last = readings.last().map(|(_, r)| correction(piece, paint_box, &r.swatch, dry(paint_box, r).0, wanted));
    let lies_there = readings.last().map(|(_, r)| &r.swatch).zip(last.as_ref()).filter(|(_, c)| c.anew.is_none());
    let planned = mix.or_else(|| nearest(piece, paint_box, wanted));
    let next = match lies_there {
        Some((swatch, advice)) => Some(with(swatch, advice)),
        None => planned.as_ref().map(|m| Swatch::of_mix(m, piece.brief.ground.clone())),
    };
    let of_next = || next.as_ref().and_then(|s| predicted(paint_box, s, State::Dry)).map(|r| r.xyz().lab());
    let against = planned.as_ref().map(|m| m.lab).or_else(of_next).map(|lab| Mark::of(lab, neutral));
    let next_steps = next.as_ref().map(|s| steps_of(piece.brief.medium, &s.layers)).unwrap_or_default();
    let next_layers = next.as_ref().map(|s| telling::layers(&s.layers, &|id| paint_box.name_of(id))).unwrap_or_default();
    Trials { wanted: Mark::of(wanted, neutral), next, next_layers, next_steps, against, trials: judged, correction: last }
}

/// What lies there with what is advised.
fn with(swatch: &Swatch, advice: &Correction) -> Swatch {
    let mut next = swatch.clone();
    for more in &advice.add {
        match next.parts.iter_mut().find(|p| p.pigment == more.pigment) {
            Some(there) => there.parts += more.parts,
            None => next.parts.push(more.clone()),
        }
    }
    next.layers.extend(advice.over.iter().cloned());
    next
}

/// The recipe of the set in use that comes nearest.
fn nearest(piece: &Piece, paint_box: &PaintBox, wanted: Lab) -> Option<Mix> {
    let set = pigments_of(paint_box, &piece.chosen.pigments);
    let technique = (!set.is_empty()).then(|| technique_of(piece, paint_box, &set))?;
    Recipes::of(technique.as_ref()).best(wanted, piece.cost()).map(|b| b.1)
}

fn way(before: f64, now: f64) -> &'static str {
    match now - before {
        d if d < -0.5 => "nearer",
        d if d > 0.5 => "farther off",
        _ => "no nearer",
    }
}

/// What a swatch reads, and whether it was predicted. Wet is never judged against dry: what a wet swatch dries to is predicted, by as much as the
/// model says it moves.
pub fn dry(paint_box: &PaintBox, r: &SwatchReading) -> (Lab, bool) {
    if r.state == Dampness::Dry {
        return (r.seen.lab, false);
    }
    let at = |state: State| predicted(paint_box, &r.swatch, state).map(|x| x.xyz().lab());
    match (at(State::Wet), at(State::Dry)) {
        (Some(wet), Some(dry)) => {
            let (seen, share) = (r.seen.lab, if r.state == Dampness::Damp { 0.5 } else { 1.0 });
            let moved = |s: f64, d: f64, w: f64| s + share * (d - w);
            (Lab::new(moved(seen.l, dry.l, wet.l).clamp(0.0, 100.0), moved(seen.a, dry.a, wet.a), moved(seen.b, dry.b, wet.b)), true)
        }
        _ => (r.seen.lab, false),
    }
}

/// What a swatch was made of, on one line.
pub fn mixed(paint_box: &PaintBox, r: &SwatchReading) -> String {
    let name = |id: &lean_media::PigmentId| paint_box.name_of(id);
    if r.swatch.parts.is_empty() {
        return telling::layers(&r.swatch.layers, &name);
    }
    let part = |p: &lean_piece::paint_box::WetPart| format!("{} {}", (p.parts * 1000.0).round() / 1000.0, name(&p.pigment));
    r.swatch.parts.iter().map(part).collect::<Vec<_>>().join(" : ")
}
