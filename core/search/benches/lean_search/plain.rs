//! The same work without any cleverness.

use crate::questions::{owned, targets};
use lean_media::{Paint, Parts, Pigment, library, opaque::OIL};
use lean_recipes::Cost;
use lean_recipes::wet::parts::usual;
use lean_search::Table;
use std::time::Instant;

/// Seconds to add up every set of `k` out of a table, one after the other, and the least cost.
pub(crate) fn enumeration(table: &Table, k: usize) -> (f64, f32) {
    let start = Instant::now();
    let n = table.pigments;
    let mut set: Vec<usize> = (0..k).collect();
    let mut best = f32::INFINITY;
    loop {
        let mut row = table.free().to_vec();
        let mut lower = |other: &[f32]| row.iter_mut().zip(other).for_each(|(a, b)| *a = a.min(*b));
        for a in 0..k {
            lower(table.single(set[a]));
            for b in a + 1..k {
                lower(table.pair(set[a], set[b]));
                for c in b + 1..k {
                    lower(table.triple_of(set[a], set[b], set[c]));
                }
            }
        }
        best = best.min(row.iter().sum());
        let Some(i) = (0..k).rev().find(|i| set[*i] < n - k + i) else { break };
        set[i] += 1;
        for j in i + 1..k {
            set[j] = set[j - 1] + 1;
        }
    }
    (start.elapsed().as_secs_f64(), best)
}

/// Seconds a recipe of a straightforward table in double precision: mix, look, judge against every target.
pub(crate) fn recipe(m: usize) -> f64 {
    let pigments = owned(12);
    let white = library::find("PW6").expect("white is shipped");
    let wanted = targets(m);
    let start = Instant::now();
    let mut recipes = 0u32;
    for i in 0..12 {
        for j in i + 1..12 {
            for k in j + 1..12 {
                let mut least = vec![f64::INFINITY; m];
                for p in usual(3) {
                    let of = [(&pigments[i], 0), (&pigments[j], 1), (&pigments[k], 2), (white, 3)];
                    let of: [(&Pigment, Parts); 4] = of.map(|(g, place)| (g, Parts(f64::from(p.parts[place]))));
                    let lab = Paint::mixed(&of).expect("there are parts").opaque(OIL).xyz().lab();
                    least.iter_mut().zip(&wanted).for_each(|(l, t)| *l = l.min(Cost::default().of(lab, t.lab)));
                    recipes += 1;
                }
                std::hint::black_box(&least);
            }
        }
    }
    start.elapsed().as_secs_f64() / f64::from(recipes)
}
