//! Alcohol marker: dye in paper (Beer–Lambert, light passing twice), coats that saturate, inks that dissolve what lies beneath.

use super::{Building, Layer, Refused, weighed};
use crate::amount::Dose;
use crate::choices::Dulling;
use crate::pens::strength_in_a_pen;
use crate::pigment::Pigment;

pub(super) fn lay(b: &mut Building, run: &[&Layer]) -> Result<(), Refused> {
    let doses = settled(b, run)?;
    b.enter(b.choices.paper);
    let (k, _) = weighed(&doses, |d| d.0);
    let grey = b.choices.ink.dulling.grey(Dulling::depth(&k));
    for (inside, k) in b.inside.iter_mut().zip(k) {
        *inside *= (-2.0 * (k + grey)).exp();
    }
    Ok(())
}

/// The doses that are left when all coats are on. A further coat of the same ink leaves less than the one before; a coat of another ink, or
/// of blender, carries off some of what lies beneath.
fn settled<'a>(b: &Building, run: &[&Layer<'a>]) -> Result<Vec<(&'a Pigment, Dose)>, Refused> {
    let c = b.choices.ink;
    let mut coats: Vec<(&Pigment, Dose, i32)> = Vec::new();
    for (n, layer) in run.iter().enumerate() {
        let (of, taken): (&[_], f64) = match layer {
            Layer::Ink { of, into_wet: true } => (of, c.wet_in_wet),
            Layer::Ink { of, into_wet: false } => (of, c.redissolved),
            _ => (&[], c.blender),
        };
        let fresh = |p: &Pigment| of.iter().any(|(q, _)| q.id == p.id);
        coats.iter_mut().filter(|(p, ..)| !fresh(p)).for_each(|(_, dose, _)| dose.0 *= 1.0 - taken);
        for (pigment, dose) in of {
            match coats.iter_mut().find(|(p, ..)| p.id == pigment.id) {
                Some((_, there, times)) => {
                    there.0 += dose.0 * c.further_coat.powi(*times);
                    *times += 1;
                }
                None => coats.push((pigment, *dose, 1)),
            }
        }
        // Paper drinks ink, however much dye is in it.
        let total: f64 = coats.iter().map(|(p, d, _)| d.0 / strength_in_a_pen(p)).sum();
        if total > b.ground.ink_dose {
            return Err(Refused::Bleeds { ground: b.ground.name.clone(), after: n + 1, holds: b.ground.ink_dose });
        }
    }
    Ok(coats.into_iter().map(|(p, d, _)| (p, d)).collect())
}
