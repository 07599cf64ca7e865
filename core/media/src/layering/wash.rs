//! Washes: films over paper, one per dried wash, bottom up (the antecedent is Curtis et al. 1997).

use super::{Bands, Building, Layer, Refused, State, Top, weighed};
use crate::amount::Thickness;
use crate::choices::Dulling;
use crate::film;
use crate::pigment::Pigment;

/// The band at 550 nm, where thickness is defined.
const GREEN: usize = 17;

pub(super) fn lay(b: &mut Building, run: &[&Layer]) -> Result<(), Refused> {
    let washes = lifted(b, run);
    let mut body = 0.0f64;
    b.enter(b.choices.paper);
    for wash in &washes {
        let (mut k, mut s) = weighed(wash, |x| x.0);
        let whites: Vec<_> = wash.iter().filter(|(p, _)| p.white).cloned().collect();
        let (_, white) = weighed(&whites, |x| x.0);
        if b.state == State::Wet {
            for (s, w) in s.iter_mut().zip(white) {
                *s += w * (1.0 / b.choices.wash.white_dries_to - 1.0);
            }
        }
        let grey = b.choices.dulling.grey(Dulling::depth(&k));
        k.iter_mut().for_each(|k| *k += grey);
        settle(b, wash, &k, &s);
        body = body.max(1.0 - (-white[GREEN] / b.choices.wash.body_at).exp());
    }
    b.top = Top::PaperToBody { share: body, state: b.state };
    Ok(())
}

/// The washes with what later lifting took from each.
fn lifted<'a>(b: &Building, run: &[&Layer<'a>]) -> Vec<Vec<(&'a Pigment, Thickness)>> {
    let mut washes: Vec<Vec<(&Pigment, Thickness)>> = Vec::new();
    for layer in run {
        match layer {
            Layer::Wash { of } => washes.push(of.clone()),
            Layer::Lifting => {
                for (pigment, x) in washes.iter_mut().flatten() {
                    let lost = if pigment.staining { b.choices.wash.lifted_staining } else { b.choices.wash.lifted_other };
                    x.0 *= 1.0 - lost;
                }
            }
            _ => {}
        }
    }
    washes
}

/// Lays one wash. Pigment gathers in the hollows of the paper: the mean over a thicker and a thinner film, which keeps the mean
/// thickness and lightens the wash over white paper.
fn settle(b: &mut Building, wash: &[(&Pigment, Thickness)], k: &Bands, s: &Bands) {
    let total: f64 = wash.iter().map(|(_, x)| x.0).sum();
    let spread: f64 = wash
        .iter()
        .map(|(p, x)| x.0 / total * if p.granulating { b.choices.wash.granulation } else { b.choices.wash.settling })
        .sum::<f64>()
        * b.ground.tooth;
    for i in 0..k.len() {
        let laid = |times: f64| film::over(k[i], s[i], times, b.inside[i]);
        b.inside[i] = if spread == 0.0 { laid(1.0) } else { (laid(1.0 - spread) + laid(1.0 + spread)) / 2.0 };
    }
}
