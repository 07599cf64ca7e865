//! Soft pastel: dust of pigment and chalk that the tooth holds, crisp or rubbed. The least supported model here: every number is a choice.

use super::{Bands, Building, Layer, Refused, Top};
use crate::opaque::masstone;

/// Dust that lies there: its mass, and the absorption and scattering of its mixture.
struct Dust {
    mass: f64,
    k: Bands,
    s: Bands,
}

pub(super) fn lay(b: &mut Building, run: &[&Layer]) -> Result<(), Refused> {
    let c = b.choices.pastel;
    let mut there = Dust { mass: 0.0, k: [0.0; lean_colour::BANDS], s: [0.0; lean_colour::BANDS] };
    let mut on_itself = 0;
    b.enter(c.surface);
    for (n, layer) in run.iter().enumerate() {
        let Layer::Pastel { of, mass, rubbing } = layer else { continue };
        on_itself = if n > 0 && same_stick(run[n - 1], layer) { on_itself + 1 } else { 0 };
        let room = b.ground.pastel_mass - there.mass;
        if room <= 1e-9 {
            return Err(Refused::ToothFull { ground: b.ground.name.clone(), what: "pastel", after: n });
        }
        let taken = mass.0.min(room);
        if taken < mass.0 - 1e-9 {
            b.remark(format!("The tooth took only {:.0} % of stroke {}.", 100.0 * taken / mass.0, n + 1));
        }
        let total: f64 = of.iter().map(|(_, p)| p.0).sum();
        let (mut k, mut s): (Bands, Bands) = ([0.0; lean_colour::BANDS], [0.0; lean_colour::BANDS]);
        for (pigment, parts) in of {
            let (dust_k, dust_s) = c.dust(pigment);
            for i in 0..k.len() {
                k[i] += parts.0 / total * dust_k[i];
                s[i] += parts.0 / total * dust_s[i];
            }
        }
        // What is rubbed up from beneath joins the stroke as parts of the mixture.
        let joins = rubbing.0 * there.mass / (taken + rubbing.0 * there.mass);
        let blend = |own: &Bands, under: &Bands| {
            std::array::from_fn::<f64, { lean_colour::BANDS }, _>(|i| (1.0 - joins) * own[i] + joins * under[i])
        };
        let (k, s) = (blend(&k, &there.k), blend(&s, &there.s));
        let cover = 1.0 - (-taken).exp();
        for i in 0..b.inside.len() {
            b.inside[i] = (1.0 - cover) * b.inside[i] + cover * masstone(k[i], s[i]);
        }
        let all = there.mass + taken;
        let mean = |old: &Bands, new: &Bands| std::array::from_fn(|i| (old[i] * there.mass + new[i] * taken) / all);
        there = Dust { mass: all, k: mean(&there.k, &k), s: mean(&there.s, &s) };
    }
    b.top = Top::Surface(c.pressed(on_itself));
    Ok(())
}

/// Whether two strokes are of one stick.
fn same_stick(a: &Layer, b: &Layer) -> bool {
    let ids = |l: &Layer| match l {
        Layer::Pastel { of, .. } => of.iter().map(|(p, n)| (p.id.clone(), n.0)).collect(),
        _ => Vec::new(),
    };
    ids(a) == ids(b)
}
