//! Accents: small things of a colour that no large shape has, a green eye in brown fur, a red comb. They get a colour of their own before a
//! large shape gets its second shade.
//!
//! A small thing is judged by how far its colour lies from the few large colours of the picture, times what it is: one of a pair counts for more.

use super::cells::{EvenColour, apart2};
use super::shapes::Shapes;
use std::collections::BTreeSet;

/// The brush accents are looked for with, as a share of the longer side.
pub(super) const BRUSH: f64 = super::shapes::FINE;
/// Most share of the picture that is an accent.
const SMALL: f32 = 0.02;
/// Least strength of an accent, in look units. A choice.
const LEAST: f32 = 26.0;
/// Times the least strength from which on an accent stays to the last. A choice.
const LOUD: f32 = 1.8;
/// Least distance of a part of an accent from the large colours, in look units.
const FAR: f32 = 7.0;
/// Factor on the strength of one of a pair. A choice.
const PAIR: f32 = 1.6;
/// Weights of differences of value, chroma and hue, without unit: a thing that is only lighter or darker has a colour of its value already.
/// Choices.
const VALUE: f32 = 0.15;
const CHROMA: f32 = 1.0;
const HUE: f32 = 2.0;
/// Share of the picture from which on a thing counts in full, and the power by which a smaller one counts for less. Choices.
const USUAL: f32 = 0.004;
const SIZE: f32 = 0.35;
/// Colours nearer than this are one colour, in look units.
const ALIKE: f32 = 9.0;
/// Colours nearer than this as accents are one accent, in look units.
const SAME: f32 = 11.0;
/// Share of the brush that a thing must be wide on the whole: less is a thread or a soft rim.
const WIDE: f32 = 0.25;

/// A colour of one or more small things.
#[derive(Clone, Debug)]
pub(crate) struct Accent {
    /// Mean look.
    pub look: EvenColour,
    /// Number of cells.
    pub cells: f32,
    /// True when its strength is at least `LOUD` times the least: it stays to the last.
    pub loud: bool,
}

struct Thing {
    look: EvenColour,
    cells: f32,
    middle: (f32, f32),
    off: f32,
}

/// Distance of two colours in look units, weighted for accents by `VALUE`, `CHROMA` and `HUE`.
fn off(a: EvenColour, b: EvenColour) -> f32 {
    let (ca, cb) = (a[1].hypot(a[2]), b[1].hypot(b[2]));
    let plane2 = (a[1] - b[1]).powi(2) + (a[2] - b[2]).powi(2);
    let chroma2 = (ca - cb).powi(2);
    let hue2 = (plane2 - chroma2).max(0.0);
    ((VALUE * (a[0] - b[0])).powi(2) + CHROMA.powi(2) * chroma2 + HUE.powi(2) * hue2).sqrt()
}

/// The accents of a picture, the strongest first. `large` is the colour each shape at [`BRUSH`] has in a plan of few colours.
pub(super) fn find(shapes: &Shapes, large: &[EvenColour], picture: f32, scale: f32) -> Vec<Accent> {
    let things: Vec<Thing> = things(shapes, large, scale).into_iter().filter(|t| t.cells <= SMALL * picture).collect();
    let mut all: Vec<Accent> = Vec::new();
    let mut by_strength: Vec<(f32, &Thing)> = things
        .iter()
        .enumerate()
        .map(|(i, t)| {
            let pair = things.iter().enumerate().any(|(j, u)| i != j && is_pair(t, u, scale));
            (t.off * (t.cells / (USUAL * picture)).min(1.0).powf(SIZE) * if pair { PAIR } else { 1.0 }, t)
        })
        .filter(|(strength, _)| *strength >= LEAST * scale)
        .collect();
    by_strength.sort_by(|a, b| b.0.total_cmp(&a.0).then(a.1.middle.0.total_cmp(&b.1.middle.0)));
    for (strength, thing) in by_strength {
        match all.iter_mut().find(|a| off(a.look, thing.look) < SAME * scale) {
            Some(accent) => accent.cells += thing.cells,
            None => all.push(Accent { look: thing.look, cells: thing.cells, loud: strength >= LOUD * LEAST * scale }),
        }
    }
    all
}

/// Shapes far from their large colour, joined where they touch and are alike.
fn things(shapes: &Shapes, large: &[EvenColour], scale: f32) -> Vec<Thing> {
    let is_far = |i: usize| {
        let s = &shapes.all[i];
        s.cells > 0.0 && s.run.is_none() && off(s.look, large[i]) >= FAR * scale
    };
    let mut seen = BTreeSet::new();
    let mut found = Vec::new();
    for first in (0..shapes.all.len()).filter(|i| is_far(*i)) {
        if !seen.insert(first) {
            continue;
        }
        let (mut ahead, mut inside) = (vec![first], vec![first]);
        while let Some(i) = ahead.pop() {
            for (n, _) in &shapes.next_to[i] {
                let n = *n as usize;
                if is_far(n) && apart2(shapes.all[n].look, shapes.all[first].look).sqrt() < ALIKE * scale && seen.insert(n) {
                    ahead.push(n);
                    inside.push(n);
                }
            }
        }
        let cells: f32 = inside.iter().map(|i| shapes.all[*i].cells).sum();
        let border: u32 = inside
            .iter()
            .flat_map(|i| shapes.next_to[*i].iter())
            .filter(|(n, _)| !inside.contains(&(*n as usize)))
            .map(|(_, border)| border)
            .sum();
        if cells < shapes.least || border == 0 || 2.0 * cells / (border as f32) < (WIDE * shapes.least.sqrt()).max(shapes.blur) {
            continue;
        }
        let mean = |of: &dyn Fn(usize) -> f32| inside.iter().map(|i| of(*i) * shapes.all[*i].cells).sum::<f32>() / cells;
        let look = std::array::from_fn(|c| mean(&|i| shapes.all[i].look[c]));
        found.push(Thing {
            look,
            cells,
            middle: (mean(&|i| shapes.all[i].middle.0), mean(&|i| shapes.all[i].middle.1)),
            off: mean(&|i| off(shapes.all[i].look, large[i])),
        });
    }
    found
}

/// Two like things side by side, about level, near each other: eyes, lamps.
fn is_pair(a: &Thing, b: &Thing, scale: f32) -> bool {
    let (across, down) = ((a.middle.0 - b.middle.0).abs(), (a.middle.1 - b.middle.1).abs());
    let size = a.cells.max(b.cells).sqrt();
    a.cells.max(b.cells) < 6.0 * a.cells.min(b.cells)
        && (a.look[1] - b.look[1]).hypot(a.look[2] - b.look[2]) < ALIKE * scale
        && (a.look[0] - b.look[0]).abs() < 3.0 * ALIKE * scale
        && (1.5..8.0).contains(&(across / size))
        && down < 0.4 * across
}
