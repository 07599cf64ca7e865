//! How strong the ink of a pen is: by what one coat of it reads on marker paper, not by the peak of its absorption. A dull dye thinned by its
//! peak would be pale, and every pen neon.

use crate::choices::{Choices, Dulling};
use crate::library;
use crate::pigment::{Pigment, PigmentId};
use lean_colour::{D65, Lab, Reflectance, Value};
use std::collections::BTreeMap;
use std::sync::LazyLock;

/// Dose left by one coat of a pen of usual strength. A choice.
pub(crate) const COAT: f64 = 0.05;
/// Reflectance of the marker paper that coats are judged on.
const PAPER: f64 = 0.89;
/// Luminous depth of the deepest coat one pen of usual make leaves: a black then reads about L* 30, and two coats the deepest dark there is.
const DEEPEST: f64 = 1.2;
/// Chroma above which a dye has a hue that too much of it spoils.
const COLOURED: f64 = 12.0;

/// What a coat of absorption K·d `times` as strong as `k` (36 bands) reads on marker paper.
fn coat(k: &[f64], times: f64) -> Lab<D65> {
    let choices = Choices::default();
    let grey = choices.ink.dulling.grey(times * Dulling::depth(k));
    let inside = choices.paper.inside(PAPER);
    Reflectance(std::array::from_fn(|i| choices.paper.outside(inside * (-2.0 * (k[i] * times + grey)).exp()))).xyz().lab()
}

/// Dose of a full coat of a dye that absorbs like `pigment`: that of the greatest chroma, but never deeper than a pen of usual make is; a grey
/// or black is as deep as that.
pub fn full_coat(pigment: &Pigment) -> f64 {
    let k = pigment.model.as_ref().map_or(&pigment.k, |m| &m.k);
    let deepest = DEEPEST / Dulling::depth(k).max(f64::MIN_POSITIVE);
    // Doses from a hundredth of the deepest up to it, each a twentieth stronger than the one before.
    let doses = (0..=94).map(|n| deepest * 0.01 * 1.05f64.powi(n)).filter(|d| *d <= deepest);
    let best = doses.map(|d| (d, coat(k, d).chroma())).max_by(|a, b| a.1.total_cmp(&b.1));
    best.filter(|(_, chroma)| *chroma > COLOURED).map_or(deepest, |(dose, _)| dose)
}

/// The pigment as the ink of a pen whose one coat is `strength` of a [`full_coat`].
pub fn inked(pigment: Pigment, strength: f64) -> Pigment {
    let times = strength * full_coat(&pigment) / COAT;
    scaled(pigment, times)
}

/// The pigment as the ink of a pen whose one coat reads this value on marker paper; as near as it comes.
pub fn inked_to(pigment: Pigment, reads: Value) -> Pigment {
    let (mut pale, mut deep) = (0.0, 6.0 / Dulling::depth(&pigment.k).max(f64::MIN_POSITIVE));
    // Forty halvings: far below what can be seen.
    for _ in 0..40 {
        let middle = 0.5 * (pale + deep);
        if coat(&pigment.k, middle).value() > reads { pale = middle } else { deep = middle }
    }
    scaled(pigment, deep / COAT)
}

/// Absorption (36 bands) of the ink of a pen whose one coat is seen as `seen` on marker paper.
pub fn ink_seen_as(seen: &Reflectance) -> Vec<f64> {
    let choices = Choices::default();
    let paper = choices.paper.inside(PAPER);
    // Light passes the ink twice; what is as light as the paper or lighter holds next to none.
    let depth = seen.0.map(|r| (-0.5 * (choices.paper.inside(r).max(1e-4) / paper).ln()).max(1e-4));
    // The grey of the coat hangs on its depth without it.
    let mut grey = 0.0;
    for _ in 0..40 {
        grey = choices.ink.dulling.grey((Dulling::depth(&depth) - grey).max(0.0));
    }
    depth.iter().map(|d| (d - grey).max(1e-4) / COAT).collect()
}

fn scaled(pigment: Pigment, times: f64) -> Pigment {
    Pigment { k: pigment.k.iter().map(|k| k * times).collect(), ..pigment }
}

/// How strong each pigment of the library is as the ink of a pen: its full coat relative to [`COAT`].
static OF_LIBRARY: LazyLock<BTreeMap<PigmentId, f64>> =
    LazyLock::new(|| library::modelled().iter().map(|p| (p.id.clone(), full_coat(p) / COAT)).collect());

/// How strong a pigment is in a pen: 1 for the ink of a pen, whose absorption is that of its coats; a pigment of the library is paint, and is
/// taken as the ink of a [`full_coat`].
pub(crate) fn strength_in_a_pen(pigment: &Pigment) -> f64 {
    let k = pigment.model.as_ref().map_or(&pigment.k, |m| &m.k);
    let shipped = library::find(&pigment.id.0).is_some_and(|shipped| !shipped.white && shipped.k == *k);
    if shipped { OF_LIBRARY[&pigment.id] } else { 1.0 }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn reads(p: &Pigment) -> Lab<D65> {
        coat(&p.k, COAT * strength_in_a_pen(p))
    }

    #[test]
    fn one_coat_reads_what_it_was_asked_to() {
        for (id, l) in [("PG23", 45.0), ("PG7", 33.0), ("PB29", 32.0), ("PY154", 91.0)] {
            let pen = Pigment {
                id: PigmentId("pen".into()),
                ..inked_to(library::find(id).unwrap().clone(), Lab::<D65>::new(l, 0.0, 0.0).value())
            };
            assert!((reads(&pen).l - l).abs() < 0.01, "{id}: {:?}", reads(&pen));
        }
    }

    #[test]
    fn an_ink_is_found_from_its_coat() {
        for id in ["PG23", "PR254", "PB29", "PBk9"] {
            let pen = inked(Pigment { id: PigmentId("pen".into()), ..library::find(id).unwrap().clone() }, 0.7);
            let choices = Choices::default();
            let (grey, paper) = (choices.ink.dulling.grey(COAT * Dulling::depth(&pen.k)), choices.paper.inside(PAPER));
            let seen = Reflectance(std::array::from_fn(|i| choices.paper.outside(paper * (-2.0 * (COAT * pen.k[i] + grey)).exp())));
            let (wanted, found) = (reads(&pen), coat(&ink_seen_as(&seen), COAT));
            assert!(lean_colour::difference::ciede2000(wanted, found) < 1.0, "{id}: {wanted:?} {found:?}");
        }
    }

    #[test]
    fn full_coats_are_neither_pale_nor_black() {
        for p in library::modelled().iter().filter(|p| !p.white) {
            let lab = reads(p);
            assert!(lab.l < 93.0 && lab.l > 26.0, "{}: {lab:?}", p.id);
            assert!(lab.l < 62.0 || lab.chroma() > 30.0, "{} is pale: {lab:?}", p.id);
        }
    }
}
