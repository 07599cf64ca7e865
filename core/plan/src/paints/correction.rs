//! What to add to what lies there: nothing can be taken out again.

use crate::mark::Mark;
use crate::mixes::{pigments_of, technique_of};
use crate::wording::{Difference, lowered};
use lean_colour::Lab;
use lean_colour::difference::ciede2000;
use lean_media::layering::{Layering, State};
use lean_media::opaque::OIL;
use lean_media::{Ground, Paint, Parts, Pigment, PigmentId, forms, ground};
use lean_piece::Piece;
use lean_piece::paint_box::{PaintBox, Swatch, WetPart};
use lean_recipes::{Cost, Mix, MixLayer, mix_layers, telling};
use lean_search::Recipes;
use lean_search::demands::HueFamily;
use serde::Serialize;

/// Parts a hand measures when it adds to a heap, in the parts the heap was measured in. A choice.
const PARTS: [f64; 17] = [0.0625, 0.125, 0.25, 0.375, 0.5, 0.75, 1.0, 1.5, 2.0, 3.0, 4.0, 6.0, 8.0, 12.0, 16.0, 24.0, 32.0];
/// What one more pigment, and doubling the heap, must gain in cost to be worth it. Choices.
const PER_PIGMENT: f64 = 0.3;
const PER_DOUBLING: f64 = 0.4;
/// A heap that grows beyond this many times itself wastes more paint than a new one. A choice.
const TOO_MUCH: f64 = 2.5;
/// Share of a miss that must be left at most for a change to be worth it. A choice.
const NEARER: f64 = 0.8;
/// Steps of value from which on a missing pigment is asked for by its value. A choice.
const STEP_OFF: f64 = 0.5;
/// CIEDE2000 up to which nobody sees a difference worth mending. A choice.
const GOOD: f64 = 2.0;

/// What to do about a mix that missed.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Correction {
    /// What to do, in a sentence.
    pub words: String,
    /// Parts to add, in the parts the heap was measured in; empty where something is laid over it, or nothing helps.
    pub add: Vec<WetPart>,
    /// Layers to lay over it; empty in wet mixes.
    pub over: Vec<MixLayer>,
    /// What it would become.
    pub becomes: Mark,
    /// How far that is from what is wanted, CIEDE2000.
    pub difference: f64,
    /// The whole recipe anew, where that is cheaper or the only way.
    pub anew: Option<String>,
}

/// What to do about a swatch of `piece` that read `seen` where `wanted` is wanted. The models say how a change moves it; what they missed of the swatch
/// itself is carried over.
pub fn correction(piece: &Piece, paint_box: &PaintBox, swatch: &Swatch, seen: Lab, wanted: Lab) -> Correction {
    let near = ciede2000(seen, wanted);
    let stay = |words: String| Correction {
        words,
        add: Vec::new(),
        over: Vec::new(),
        becomes: Mark::of(seen, piece.neutral()),
        difference: near,
        anew: None,
    };
    if near <= GOOD {
        return stay("Near enough: leave it.".into());
    }
    let found =
        if swatch.parts.is_empty() { over(piece, paint_box, swatch, seen, wanted) } else { added(piece, paint_box, swatch, seen, wanted) };
    let best = best(piece, paint_box, wanted);
    let anew = || best.as_ref().map(|mix| telling::short(mix, &|id| name(paint_box, id)));
    match found {
        Some(c) if c.difference < NEARER * near => Correction { anew: c.anew.as_ref().and_then(|_| anew()), ..c },
        _ if best.as_ref().is_some_and(|mix| ciede2000(mix.lab, wanted) < NEARER * near) => {
            Correction { anew: anew(), ..stay("Nothing that is added brings it nearer: start anew.".into()) }
        }
        _ => {
            let nearest = best.as_ref().map_or(seen, |mix| mix.lab);
            stay(format!("This set comes no nearer. What would: {}.", what_would(wanted, nearest)))
        }
    }
}

/// The best recipe of the set in use.
fn best(piece: &Piece, paint_box: &PaintBox, wanted: Lab) -> Option<Mix> {
    let set = pigments_of(paint_box, &piece.chosen.pigments);
    let technique = technique_of(piece, paint_box, &set);
    Recipes::of(technique.as_ref()).best(wanted, piece.cost()).map(|b| b.1)
}

/// The pigment a set lacks that comes no nearer to a colour than `nearest`, as a painter asks for it: "a cooler red", "a lighter, stronger blue".
fn what_would(wanted: Lab, nearest: Lab) -> String {
    let off = Difference::of(nearest, wanted);
    let value = match off.value_steps {
        s if s >= STEP_OFF => "lighter",
        s if s <= -STEP_OFF => "darker",
        _ => "",
    };
    let colour = HueFamily::of(wanted).map_or("grey", HueFamily::name);
    let comparison = off.comparison();
    let words: Vec<&str> = [value, comparison.as_str()].into_iter().filter(|w| !w.is_empty()).collect();
    match words[..] {
        [] => format!("a {colour} of its own"),
        _ => format!("a {} {colour}", words.join(", ")),
    }
}

fn name(paint_box: &PaintBox, id: &PigmentId) -> String {
    paint_box.name_of(id)
}

/// Pigments at hand for a correction: the set in use, what is in the swatch, and white.
fn at_hand<'a>(piece: &Piece, paint_box: &'a PaintBox, swatch: &Swatch) -> Vec<&'a Pigment> {
    let inside = swatch.pigments();
    paint_box
        .pigments
        .iter()
        .filter(|p| (p.white && p.second.is_none()) || piece.chosen.pigments.contains(&p.id) || inside.contains(&&p.id))
        .collect()
}

/// An addition that was tried: its charge, how much of what, and what it becomes.
type Tried<'a> = (f64, Vec<(&'a Pigment, f64)>, Lab);

/// The best addition of one or two pigments to a heap: every measure of every pair is tried.
fn added(piece: &Piece, paint_box: &PaintBox, swatch: &Swatch, seen: Lab, wanted: Lab) -> Option<Correction> {
    let heap: Vec<(&Pigment, Parts)> =
        swatch.parts.iter().map(|p| Some((paint_box.find(&p.pigment)?, Parts(p.parts)))).collect::<Option<_>>()?;
    let whole: f64 = heap.iter().map(|(_, n)| n.0).sum();
    let colour = |of: &[(&Pigment, Parts)]| Some(Paint::mixed(of).ok()?.opaque(OIL).xyz().lab());
    let model = colour(&heap)?;
    let missed = [seen.l - model.l, seen.a - model.a, seen.b - model.b];
    let cost = Cost::default();
    let pigments = at_hand(piece, paint_box, swatch);
    let mut best: Option<Tried> = None;
    let mut tried = |add: &[(&'_ Pigment, f64)]| -> Option<()> {
        let mut all = heap.clone();
        all.extend(add.iter().map(|(p, n)| (pigment_of(&pigments, p), Parts(*n))));
        let more: f64 = add.iter().map(|(_, n)| n).sum();
        let kept = whole / (whole + more);
        let c = colour(&all)?;
        let becomes = Lab::new((c.l + kept * missed[0]).clamp(0.0, 100.0), c.a + kept * missed[1], c.b + kept * missed[2]);
        let charge = cost.of(becomes, wanted) + PER_PIGMENT * add.len() as f64 + PER_DOUBLING * (1.0 + more / whole).log2();
        if best.as_ref().is_none_or(|b| charge < b.0) {
            best = Some((charge, add.iter().map(|(p, n)| (pigment_of(&pigments, p), *n)).collect(), becomes));
        }
        Some(())
    };
    for (i, one) in pigments.iter().enumerate() {
        for n in PARTS {
            tried(&[(one, n)]);
            for other in &pigments[i + 1..] {
                for m in PARTS {
                    tried(&[(one, n), (other, m)]);
                }
            }
        }
    }
    let (_, add, becomes) = best?;
    let more: f64 = add.iter().map(|(_, n)| n).sum();
    let told: Vec<String> = add.iter().map(|(p, n)| format!("{} of {}", parts_word(*n), p.name)).collect();
    let off = Difference::of(wanted, becomes).words;
    let words = if more > TOO_MUCH * whole {
        format!("Adding {} to {} parts would mend it, but that is more paint than a new heap.", told.join(" and "), number(whole))
    } else {
        format!("Add {} to the {} parts that lie there. Then: {}", told.join(" and "), number(whole), lowered(&off))
    };
    Some(Correction {
        words,
        add: add.iter().map(|(p, n)| WetPart { pigment: p.id.clone(), parts: *n }).collect(),
        over: Vec::new(),
        becomes: Mark::of(becomes, piece.neutral()),
        difference: ciede2000(becomes, wanted),
        anew: (more > TOO_MUCH * whole).then(String::new),
    })
}

fn pigment_of<'a>(all: &[&'a Pigment], p: &Pigment) -> &'a Pigment {
    all.iter().find(|q| q.id == p.id).copied().unwrap_or(all[0])
}

fn number(n: f64) -> String {
    if (n - n.round()).abs() < 1e-9 { format!("{n:.0}") } else { format!("{n:.2}").trim_end_matches('0').to_owned() }
}

/// A measure of parts in words: `half a part`, `2 parts`.
fn parts_word(n: f64) -> String {
    match n {
        0.0625 => "a sixteenth of a part".into(),
        0.125 => "an eighth of a part".into(),
        0.25 => "a quarter of a part".into(),
        0.375 => "three eighths of a part".into(),
        0.5 => "half a part".into(),
        0.75 => "three quarters of a part".into(),
        1.0 => "one part".into(),
        1.5 => "one and a half parts".into(),
        n => format!("{n:.0} parts"),
    }
}

/// The best further step laid over what is there: one pigment in up to two layers, or what lifts.
fn over(piece: &Piece, paint_box: &PaintBox, swatch: &Swatch, seen: Lab, wanted: Lab) -> Option<Correction> {
    let medium = piece.brief.medium;
    let ground: Ground = ground::find(&swatch.ground)?;
    let below = swatch.general(medium, &|id| paint_box.find(id))?;
    let colour = |layers: Vec<lean_media::Layer>| Some(Layering { ground: &ground, layers }.lay(State::Dry).ok()?.reflectance.xyz().lab());
    let model = colour(below.clone())?;
    let missed = [seen.l - model.l, seen.a - model.a, seen.b - model.b];
    let forms = forms::list(medium, &ground, 1, 2);
    let cost = Cost::default();
    let mut best: Option<(f64, Vec<MixLayer>, Lab)> = None;
    for pigment in at_hand(piece, paint_box, swatch) {
        for form in &forms {
            let layers = mix_layers(medium, &ground, form, &[pigment]);
            let Some(mut on_top) = layers.iter().map(|l| l.general(medium, &|id| paint_box.find(id))).collect::<Option<Vec<_>>>() else {
                continue;
            };
            let mut all = below.clone();
            all.extend(on_top.drain(..).flatten());
            let Some(c) = colour(all) else { continue };
            // What lies on top hides part of what was missed below; half of it is a fair guess.
            let becomes = Lab::new((c.l + 0.5 * missed[0]).clamp(0.0, 100.0), c.a + 0.5 * missed[1], c.b + 0.5 * missed[2]);
            let charge = cost.of(becomes, wanted) + PER_PIGMENT * layers.len() as f64;
            if best.as_ref().is_none_or(|b| charge < b.0) {
                best = Some((charge, layers, becomes));
            }
        }
    }
    let (_, over, becomes) = best?;
    let told: Vec<String> = over
        .iter()
        .map(|l| match l.of.first() {
            Some(p) => format!("{}, {}", name(paint_box, &p.pigment), l.how),
            None => l.how.clone(),
        })
        .collect();
    Some(Correction {
        words: format!("Lay over it: {}. Then: {}", told.join(", then "), lowered(&Difference::of(wanted, becomes).words)),
        add: Vec::new(),
        over,
        becomes: Mark::of(becomes, piece.neutral()),
        difference: ciede2000(becomes, wanted),
        anew: None,
    })
}
