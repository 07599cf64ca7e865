//! A Box made better by readings.

use crate::mark::Mark;
use crate::wording::capital;
use lean_colour::Temperature;
use lean_media::layering::{Binder, Layer, Layering, State};
use lean_media::learn::{Belief, CannotLearn, Evidence, Judged, Observation, Reading};
use lean_media::pigment::Model;
use lean_media::{Ground, Medium, Parts, Pigment, PigmentId, Provenance, forms, ground};
use lean_piece::paint_box::{EyeJudgement, PaintBox, ReadWith, Swatch, SwatchReading, WetPart};
use serde::Serialize;
use std::collections::{BTreeMap, BTreeSet};

/// What was learned from all readings of a Box.
#[derive(Clone, Debug)]
pub struct Learned {
    /// The Box with its pigments as they are believed to be.
    pub paint_box: PaintBox,
    /// Readings nothing else explains: kept, left out, and to be looked at.
    pub strays: Vec<StrayReading>,
    /// What one more reading of each pigment would teach, the most telling first.
    pub teaches: Vec<Teaches>,
}

/// A reading that was left out because nothing else explains it.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct StrayReading {
    /// Number of the reading.
    pub reading: i64,
    /// Why, and what may be the matter, in a sentence.
    pub words: String,
}

/// What one more reading would teach.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Teaches {
    /// Of which pigment.
    pub pigment: PigmentId,
    /// What to lay and read.
    pub swatch: Swatch,
    /// How unsure the colours mixed from it are, in CIELAB units.
    pub now: f64,
    /// How unsure they would be then.
    pub then: f64,
    /// The same in a sentence.
    pub words: String,
}

/// Learns from readings, each with its number. What is left out by hand, damp, sealed, or speaks of pigments that are gone teaches nothing.
///
/// # Errors
/// When a reading holds numbers that are no surface's.
pub fn learned(paint_box: &PaintBox, readings: &[(i64, SwatchReading)]) -> Result<Learned, CannotLearn> {
    let models: Vec<Pigment> = paint_box.pigments.iter().map(Pigment::unlearned).collect();
    let find = |id: &PigmentId| models.iter().find(|p| p.id == *id);
    let grounds: BTreeMap<&str, Ground> =
        readings.iter().filter_map(|(_, r)| Some((r.swatch.ground.0.as_str(), ground::find(&r.swatch.ground)?))).collect();
    let fineness = fineness_of_eye(readings);
    let seen: Vec<(i64, &SwatchReading, Observation)> = readings
        .iter()
        .filter(|(_, r)| !r.left_out && !r.sealed)
        .filter_map(|(id, r)| {
            let laid = Layering { ground: grounds.get(r.swatch.ground.0.as_str())?, layers: r.swatch.general(paint_box.medium, &find)? };
            let of = match r.evidence() {
                Evidence::Judged(j) => Evidence::Judged(as_fine_as_shown(j, fineness)),
                read => read,
            };
            let reading = Reading { of, state: r.state.state()?, noise: r.with.noise() };
            Some((*id, r, Observation { laid, reading }))
        })
        .collect();
    let told: BTreeSet<&PigmentId> = seen.iter().flat_map(|(_, r, _)| r.swatch.pigments()).collect();
    let touched: Vec<&Pigment> = models.iter().filter(|p| told.contains(&p.id)).collect();
    let observations: Vec<Observation> = seen.iter().map(|(_, _, o)| o.clone()).collect();
    let (belief, strays) = Belief::of(&touched).after(&observations)?;
    let usual = ground::usual(paint_box.medium);
    let spectral = |id: &PigmentId| {
        let of = |(_, r, o): &(i64, &SwatchReading, Observation)| {
            matches!(o.reading.of, Evidence::Spectral(_)) && r.swatch.pigments().contains(&id)
        };
        seen.iter().any(of)
    };
    let pigment = |own: &Pigment| -> Pigment {
        let model = own.unlearned();
        let Some(now) = belief.pigments().iter().find(|p| p.id == own.id) else { return model };
        let kept = Model { k: model.k.clone(), s: model.s.clone(), provenance: model.provenance.clone() };
        let doubt = use_of(paint_box, &usual, &model).map(|u| belief.doubt(&u));
        let provenance = if spectral(&own.id) { Provenance::Measured } else { Provenance::Inferred };
        Pigment { k: now.k.clone(), s: now.s.clone(), provenance, model: Some(Box::new(kept)), doubt, ..model }
    };
    let better = PaintBox { pigments: paint_box.pigments.iter().map(pigment).collect(), ..paint_box.clone() };
    Ok(Learned {
        strays: strays.iter().map(|s| StrayReading { reading: seen[s.nth].0, words: stray_words(s.off, s.expected) }).collect(),
        teaches: teaches(&better, &belief, &models, &usual),
        paint_box: better,
    })
}

/// Number of judgements by eye without a later reading that weighs as much as what those with one show. A choice.
const PRESUMED: f64 = 4.0;
/// Limits of what readings show of an eye, as factors on its doubt. Choices.
const BELIEVED: (f64, f64) = (0.5, 3.0);

/// Factor on the doubt of judgements by eye: their errors where the same swatch was also read, against the errors expected of them.
fn fineness_of_eye(readings: &[(i64, SwatchReading)]) -> f64 {
    let kept = || readings.iter().map(|(_, r)| r).filter(|r| !r.left_out && !r.sealed);
    let squares = |r: &SwatchReading, eye: &EyeJudgement| {
        let judged = eye.judged();
        let read = kept().find(|other| other.eye.is_none() && other.swatch == r.swatch && other.state == r.state)?.seen.lab;
        let (l, a, b) = (read.l - judged.lab.l, read.a - judged.lab.a, read.b - judged.lab.b);
        Some(((l / judged.value_error).powi(2) + (a / judged.colour_error).powi(2) + (b / judged.colour_error).powi(2)) / 3.0)
    };
    let shown: Vec<f64> = kept().filter_map(|r| squares(r, r.eye.as_ref()?)).collect();
    let mean = (PRESUMED + shown.iter().sum::<f64>()) / (PRESUMED + shown.len() as f64);
    mean.sqrt().clamp(BELIEVED.0, BELIEVED.1)
}

fn as_fine_as_shown(judged: Judged, factor: f64) -> Judged {
    Judged { value_error: factor * judged.value_error, colour_error: factor * judged.colour_error, ..judged }
}

fn stray_words(off: f64, expected: f64) -> String {
    format!(
        "It lies {off:.0} away from what all other readings expect of it, give or take {expected:.0}. Smeared, another ground or another pigment? It is kept, and teaches nothing until you say so."
    )
}

/// What a pigment is mostly used for: a tint where white is at hand in wet paint, otherwise the usual swatch.
fn use_of<'a>(paint_box: &'a PaintBox, ground: &'a Ground, pigment: &'a Pigment) -> Option<Layering<'a>> {
    let layers = match paint_box.medium {
        Medium::Oil => wet(paint_box, pigment, if pigment.white { 0.0 } else { TINT })?,
        medium => forms::swatch(medium)?.layering(medium, ground, &[pigment]),
    };
    Some(Layering { ground, layers })
}

/// Parts of white to one of pigment in the tint that the doubt of a wet pigment speaks of.
const TINT: f64 = 3.0;

fn wet<'a>(paint_box: &'a PaintBox, pigment: &'a Pigment, white: f64) -> Option<Vec<Layer<'a>>> {
    let mut of = vec![(pigment, Parts(1.0))];
    if white > 0.0 {
        of.push((white_of(paint_box)?, Parts(white)));
    }
    Some(vec![Layer::Paint { binder: Binder::Oil, of, film: None }])
}

fn white_of(paint_box: &PaintBox) -> Option<&Pigment> {
    paint_box.pigments.iter().find(|p| p.white)
}

/// A reading is worth asking for while it takes away this share of the doubt, and the doubt itself is as large as this. Choices.
const WORTH: (f64, f64) = (0.2, 0.8);
/// How many are told.
const TOLD: usize = 8;

fn teaches(paint_box: &PaintBox, belief: &Belief, models: &[Pigment], ground: &Ground) -> Vec<Teaches> {
    let mut all: Vec<Teaches> = models.iter().filter_map(|p| best_reading(paint_box, belief, p, ground)).collect();
    all.sort_by(|a, b| (b.now - b.then).total_cmp(&(a.now - a.then)));
    all.truncate(TOLD);
    all
}

fn best_reading(paint_box: &PaintBox, belief: &Belief, pigment: &Pigment, ground: &Ground) -> Option<Teaches> {
    // Of a pigment nothing was read of its model alone is believed.
    let known = belief.pigments().iter().any(|p| p.id == pigment.id);
    let alone = Belief::of(&[pigment]);
    let belief = if known { belief } else { &alone };
    let of = use_of(paint_box, ground, pigment)?;
    let now = belief.doubt(&of);
    let best = candidates(paint_box, pigment, ground)
        .into_iter()
        .map(|(swatch, layers, what)| {
            let then = belief.doubt_if_read(&Layering { ground, layers }, ReadWith::Meter.noise(), &of);
            (then, swatch, what)
        })
        .min_by(|a, b| a.0.total_cmp(&b.0))?;
    let (then, swatch, what) = best;
    let words = match then / now.max(1e-9) {
        left if left < 0.4 => format!("Most useful reading: {what}. It cuts the uncertainty from {now:.1} to {then:.1}."),
        left if left < 0.6 => format!("Useful reading: {what}. It about halves the uncertainty, from {now:.1} to {then:.1}."),
        _ => format!("Possible reading: {what}. It lowers the uncertainty from {now:.1} to {then:.1}."),
    };
    (now >= WORTH.1 && then <= (1.0 - WORTH.0) * now).then(|| Teaches { pigment: pigment.id.clone(), swatch, now, then, words })
}

/// Swatches a painter would make of one pigment, with what they are called.
fn candidates<'a>(paint_box: &'a PaintBox, pigment: &'a Pigment, ground: &'a Ground) -> Vec<(Swatch, Vec<Layer<'a>>, String)> {
    let name = &pigment.name;
    if paint_box.medium == Medium::Oil {
        let part = |p: &Pigment, parts: f64| WetPart { pigment: p.id.clone(), parts };
        let tints = [0.0, 1.0, 3.0, 8.0];
        let of = |white: f64| {
            let layers = wet(paint_box, pigment, white)?;
            let mut parts = vec![part(pigment, 1.0)];
            if white > 0.0 {
                parts.push(part(white_of(paint_box)?, white));
            }
            let what = if white == 0.0 { format!("{name} alone") } else { format!("a 1:{white:.0} tint of {name}") };
            Some((Swatch { ground: ground.id.clone(), parts, layers: Vec::new() }, layers, what))
        };
        return tints.into_iter().filter(|w| *w == 0.0 || !pigment.white).filter_map(of).collect();
    }
    let forms = forms::list(paint_box.medium, ground, 1, 2);
    forms
        .iter()
        .map(|f| {
            let layers = lean_recipes::mix_layers(paint_box.medium, ground, f, &[pigment]);
            let how: Vec<&str> = layers.iter().map(|l| l.how.as_str()).collect();
            let what = format!("{name}, {}", how.join(", then "));
            (Swatch { ground: ground.id.clone(), parts: Vec::new(), layers }, f.layering(paint_box.medium, ground, &[pigment]), what)
        })
        .collect()
}

/// Swatches a painter would make of a pigment on the usual ground of its medium, each with what it is called.
pub fn swatches_of(paint_box: &PaintBox, pigment: &Pigment) -> Vec<(String, Swatch)> {
    let usual = ground::usual(paint_box.medium);
    candidates(paint_box, pigment, &usual).into_iter().map(|(swatch, _, words)| (capital(&words), swatch)).collect()
}

/// The usual swatch of a pigment, to be read: in wet paint with so many parts of white to one.
pub fn swatch_of(paint_box: &PaintBox, pigment: &Pigment, white: Parts) -> Option<Swatch> {
    let usual = ground::usual(paint_box.medium);
    let ground = usual.id.clone();
    if paint_box.medium == Medium::Oil {
        let mut parts = vec![WetPart { pigment: pigment.id.clone(), parts: 1.0 }];
        if white.0 > 0.0 {
            parts.push(WetPart { pigment: white_of(paint_box)?.id.clone(), parts: white.0 });
        }
        return Some(Swatch { ground, parts, layers: Vec::new() });
    }
    let form = forms::swatch(paint_box.medium)?;
    Some(Swatch { ground, parts: Vec::new(), layers: lean_recipes::mix_layers(paint_box.medium, &usual, &form, &[pigment]) })
}

/// What a swatch is predicted to look like from a Box; `None` where a pigment is gone or the ground does not take it.
pub fn predicted(paint_box: &PaintBox, swatch: &Swatch, state: State) -> Option<lean_colour::Reflectance> {
    let ground = ground::find(&swatch.ground)?;
    let layers = swatch.general(paint_box.medium, &|id| paint_box.find(id))?;
    Layering { ground: &ground, layers }.lay(state).ok().map(|l| l.reflectance)
}

/// A pigment before and after it was learned.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct BeforeAfter {
    /// Which.
    pub pigment: PigmentId,
    /// The usual swatch as modelled.
    pub before: Mark,
    /// The same as learned.
    pub after: Mark,
    /// A tint in white, or a fainter swatch, as modelled.
    pub tint_before: Option<Mark>,
    /// The same as learned.
    pub tint_after: Option<Mark>,
}

/// How the pigments that were learned changed.
pub fn before_after(paint_box: &PaintBox) -> Vec<BeforeAfter> {
    let models = PaintBox { pigments: paint_box.pigments.iter().map(Pigment::unlearned).collect(), ..paint_box.clone() };
    let mark = |b: &PaintBox, s: &Swatch| predicted(b, s, State::Dry).map(|r| Mark::of(r.xyz().lab(), Temperature(0.0)));
    let of = |p: &Pigment| {
        let (alone, tint) = (swatch_of(paint_box, p, Parts(0.0))?, swatch_of(paint_box, p, Parts(8.0)).filter(|s| s.parts.len() > 1));
        Some(BeforeAfter {
            pigment: p.id.clone(),
            before: mark(&models, &alone)?,
            after: mark(paint_box, &alone)?,
            tint_before: tint.as_ref().and_then(|t| mark(&models, t)),
            tint_after: tint.as_ref().and_then(|t| mark(paint_box, t)),
        })
    };
    paint_box.pigments.iter().filter(|p| p.model.is_some()).filter_map(of).collect()
}

#[cfg(test)]
mod tests {
    use super::*;
    use lean_colour::Lab;
    use lean_piece::paint_box::{Dampness, EyeDoubt, ReadColour};

    /// A swatch judged as a middle grey, and the same swatch read.
    fn judged_and_read(parts: f64, read: Lab) -> [(i64, SwatchReading); 2] {
        let eye = EyeJudgement {
            against: Lab::new(50.0, 0.0, 0.0),
            lighter: 0,
            warmer: 0,
            stronger: 0,
            turned: 0,
            doubt: EyeDoubt { value: 2.0, colour: 3.0 },
        };
        let by_eye = SwatchReading {
            swatch: Swatch {
                ground: ground::usual(Medium::Oil).id,
                parts: vec![WetPart { pigment: "PB29".into(), parts }],
                layers: Vec::new(),
            },
            seen: ReadColour { lab: eye.against, bands: Vec::new() },
            state: Dampness::Dry,
            sealed: false,
            with: ReadWith::Eye,
            eye: Some(eye),
            played: Some(false),
            at: "2026-03-01T10:00:00Z".into(),
            tried_for: None,
            left_out: false,
            note: String::new(),
        };
        let typed = SwatchReading { eye: None, with: ReadWith::Typed, seen: ReadColour { lab: read, bands: Vec::new() }, ..by_eye.clone() };
        [(2 * parts as i64, by_eye), (2 * parts as i64 + 1, typed)]
    }

    #[test]
    fn later_readings_show_how_fine_an_eye_is() {
        let shown = |read: Lab| fineness_of_eye(&(1..=6).flat_map(|n| judged_and_read(f64::from(n), read)).collect::<Vec<_>>());
        assert_eq!(fineness_of_eye(&judged_and_read(1.0, Lab::new(60.0, 0.0, 0.0))[..1]), 1.0, "nothing was read later");
        assert!(shown(Lab::new(50.0, 0.0, 0.0)) < 0.8, "it sees better than was presumed");
        assert!(shown(Lab::new(58.0, 6.0, 0.0)) > 1.5, "it sees worse");
    }
}
