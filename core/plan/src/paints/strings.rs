//! Strings in a Box: trios of a light, a middle and a dark that blend, and trios far apart meant for contrast.

use crate::mark::Mark;
use crate::mixes::swatch;
use crate::wording::hue::hue_word;
use lean_colour::{Lab, Temperature};
use lean_media::{PigmentId, ground};
use lean_piece::paint_box::PaintBox;
use serde::Serialize;

/// A light, a middle and a dark.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Trio {
    /// From light to dark.
    pub pigments: [PigmentId; 3],
    /// How each looks.
    pub marks: [Mark; 3],
    /// What it is, in a few words.
    pub words: String,
}

/// The strings of a Box, the best first.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Strings {
    /// Trios that blend: one hue, values a step or two apart, the darker no duller than it must be.
    pub blending: Vec<Trio>,
    /// Trios that span: far apart in hue, with values to tell them apart.
    pub spanning: Vec<Trio>,
}

/// Steps of value between neighbours of a trio, the least, the best and the most. Choices.
const STEPS: (f64, f64, f64) = (0.8, 1.8, 3.5);
/// Degrees of hue over which a trio still blends, and the chroma below which hue says nothing. Choices.
const BLENDS: f64 = 28.0;
const GREY: f64 = 8.0;
/// How many of each kind are told.
const TOLD: usize = 8;

/// Finds the strings of a Box.
pub fn strings(paint_box: &PaintBox) -> Strings {
    let ground = ground::usual(paint_box.medium);
    let mut all: Vec<(PigmentId, Lab)> = paint_box
        .pigments
        .iter()
        .filter(|p| !p.white && !p.owned.used_up)
        .map(|p| (p.id.clone(), swatch(paint_box.medium, &ground, p)))
        .collect();
    all.sort_by(|a, b| b.1.l.total_cmp(&a.1.l));
    let (mut blending, mut spanning) = (Vec::new(), Vec::new());
    for (i, light) in all.iter().enumerate() {
        for (j, middle) in all.iter().enumerate().skip(i + 1) {
            let first = light.1.value().0 - middle.1.value().0;
            if !(STEPS.0..=STEPS.2).contains(&first) {
                continue;
            }
            for dark in &all[j + 1..] {
                let second = middle.1.value().0 - dark.1.value().0;
                if !(STEPS.0..=STEPS.2).contains(&second) {
                    continue;
                }
                let trio = [light, middle, dark];
                blending.extend(blends(&trio, first, second).map(|score| (score, trio)));
                spanning.extend(spans(&trio).map(|score| (score, trio)));
            }
        }
    }
    Strings { blending: best(blending), spanning: best(spanning) }
}

type Owned<'a> = [&'a (PigmentId, Lab); 3];

fn off(a: &Lab, b: &Lab) -> f64 {
    ((a.hue().0 - b.hue().0 + 180.0).rem_euclid(360.0) - 180.0).abs()
}

/// How badly a trio blends, 0 best; `None` where it does not.
fn blends(trio: &Owned, first: f64, second: f64) -> Option<f64> {
    let [light, middle, dark] = trio.map(|t| &t.1);
    if [light, middle, dark].iter().any(|l| l.chroma() < GREY) {
        return None;
    }
    let turned = off(light, middle).max(off(middle, dark)).max(off(light, dark));
    let uneven = (first - second).abs() + (first - STEPS.1).abs() + (second - STEPS.1).abs();
    // The middle of a string is its strongest: it may not be duller than both ends.
    let dull = (light.chroma().min(dark.chroma()) - middle.chroma()).max(0.0);
    (turned <= BLENDS).then_some(turned / 6.0 + 2.0 * uneven + 0.2 * dull)
}

/// How little a trio spans, lower is better; `None` where two are of one hue.
fn spans(trio: &Owned) -> Option<f64> {
    let labs = trio.map(|t| &t.1);
    let least = off(labs[0], labs[1]).min(off(labs[1], labs[2])).min(off(labs[0], labs[2]));
    let weakest = labs.iter().map(|l| l.chroma()).fold(f64::INFINITY, f64::min);
    (least >= 75.0 && weakest >= 2.0 * GREY).then_some(-(least / 12.0 + weakest / 6.0))
}

/// The best, no pigment in more than two of them.
fn best(mut scored: Vec<(f64, Owned)>) -> Vec<Trio> {
    scored.sort_by(|a, b| a.0.total_cmp(&b.0));
    let mut told: Vec<Trio> = Vec::new();
    for (_, trio) in scored {
        let often = |id: &PigmentId| told.iter().filter(|t| t.pigments.contains(id)).count();
        if trio.iter().any(|(id, _)| often(id) >= 2) {
            continue;
        }
        let words = trio.map(|(_, lab)| hue_word(lab.hue()));
        let hues = if words[0] == words[2] { words[0].to_owned() } else { format!("{}, {}, {}", words[0], words[1], words[2]) };
        let values = trio.map(|(_, lab)| format!("{:.1}", lab.value().0)).join(", ");
        told.push(Trio {
            pigments: trio.map(|(id, _)| id.clone()),
            marks: trio.map(|(_, lab)| Mark::of(*lab, Temperature(0.0))),
            words: format!("{hues}; values {values}"),
        });
        if told.len() == TOLD {
            break;
        }
    }
    told
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn sticks_hold_strings_from_light_to_dark() {
        let b = lean_demo::pastels();
        let found = strings(&PaintBox { name: b.name, medium: b.medium, pigments: b.pigments });
        assert!(found.blending.len() >= 5 && found.spanning.len() >= 3, "{} {}", found.blending.len(), found.spanning.len());
        for t in found.blending.iter().chain(&found.spanning) {
            let v = t.marks.map(|m| m.value.0);
            assert!(v[0] - v[1] >= STEPS.0 && v[1] - v[2] >= STEPS.0, "{t:?}");
        }
        assert!(found.blending.iter().all(|t| off(&t.marks[0].lab, &t.marks[2].lab) <= BLENDS));
        assert!(found.spanning.iter().all(|t| off(&t.marks[0].lab, &t.marks[2].lab) >= 75.0));
    }

    #[test]
    fn a_box_of_one_pigment_has_none() {
        let one = lean_media::library::find("PB29").unwrap().clone();
        let found = strings(&PaintBox { name: "one".into(), medium: lean_media::Medium::Marker, pigments: vec![one] });
        assert!(found.blending.is_empty() && found.spanning.is_empty());
    }
}
