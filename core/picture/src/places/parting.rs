//! One colour in two masses, one before the other, parted: each part has its own measured colour.

use super::cells::{EvenColour, apart2};
use super::depth::{Depth, MOST};
use super::shade::{RARE, Shade};
use super::shapes::Shapes;

/// Share of the picture that a part must cover. A choice.
const LEAST: f32 = 0.004;
/// Least distance between the parts, in look units. A choice: what is nearer is one colour to the eye.
const APART: f32 = 2.0;
/// How much more a join of colours costs that lie one before the other, and one that makes a whole mass the colour of what is behind it.
/// Choices.
const BEFORE: f32 = 1.5;
const LOST: f32 = 3.0;

/// Where the cells of a shade lie: how many in each mass.
pub(super) type Spread = [f32; MOST];

/// The shades, those that lie in two facing masses parted, with where each lies. `in_mass` is the spread of every shape.
pub(super) fn parted(shades: Vec<Shade>, shapes: &Shapes, in_mass: &[Spread], depth: &Depth, scale: f32) -> (Vec<Shade>, Vec<Spread>) {
    let picture: f32 = shapes.all.iter().map(|s| s.cells).sum();
    let mut sums = vec![[(0.0f32, [0.0f32; 3]); MOST]; shades.len()];
    for (i, s) in shapes.all.iter().enumerate().filter(|(_, s)| s.cells > 0.0) {
        let of_run = |shade: &Shade| shade.run.is_some() && shade.run == s.run;
        let nearest = (0..shades.len()).min_by(|a, b| {
            let miss = |n: usize| if of_run(&shades[n]) { -1.0 } else { apart2(s.look, shades[n].look) };
            miss(*a).total_cmp(&miss(*b))
        });
        let Some(own) = nearest else { continue };
        for (sum, cells) in sums[own].iter_mut().zip(in_mass[i]) {
            sum.0 += cells;
            (0..3).for_each(|c| sum.1[c] += cells * s.look[c]);
        }
    }
    let (mut all, mut spreads) = (Vec::new(), Vec::new());
    for (shade, sums) in shades.into_iter().zip(sums) {
        let parts = if shade.run.is_some() { Vec::new() } else { parts(&sums, picture, depth, scale) };
        if parts.len() < 2 {
            spreads.push(sums.map(|s| s.0));
            all.push(shade);
            continue;
        }
        let whole: f32 = parts.iter().map(|m| sums[*m].0).sum();
        for mass in parts {
            let (cells, sum) = sums[mass];
            let mut spread = [0.0; MOST];
            spread[mass] = cells;
            spreads.push(spread);
            all.push(Shade {
                look: sum.map(|v| v / cells),
                run: None,
                weight: shade.weight * (cells / whole).powf(RARE),
                within: Some(depth.inside(mass)),
            });
        }
    }
    (all, spreads)
}

/// The masses that parts of a shade are made for: large enough, and unlike the part in a mass before or behind it.
fn parts(sums: &[(f32, [f32; 3]); MOST], picture: f32, depth: &Depth, scale: f32) -> Vec<usize> {
    let large: Vec<usize> = (1..MOST).filter(|m| sums[*m].0 >= LEAST * picture).collect();
    let look = |m: usize| -> EvenColour { sums[m].1.map(|v| v / sums[m].0) };
    let stands_off = |m: usize| large.iter().any(|n| depth.facing(m, *n) && apart2(look(m), look(*n)).sqrt() >= APART * scale);
    if large.iter().any(|m| stands_off(*m)) { large } else { Vec::new() }
}

/// What a join costs more where the one lies before the other: a factor from 1.
pub(super) fn dearer(a: &Spread, b: &Spread, depth: &Depth) -> f32 {
    let (n, m): (f32, f32) = (a.iter().sum(), b.iter().sum());
    if n * m <= 0.0 {
        return 1.0;
    }
    // A thing is lost in what is behind it as far as both are of these colours.
    let lost = |p: usize, q: usize| ((a[p] / depth.size(p)).min(1.0) * (b[q] / depth.size(q)).min(1.0)).sqrt();
    let facing = (1..MOST).flat_map(|p| (1..MOST).map(move |q| (p, q))).filter(|(p, q)| depth.facing(*p, *q));
    1.0 + facing.map(|(p, q)| (BEFORE + LOST * lost(p, q)) * a[p] * b[q] / (n * m)).sum::<f32>()
}
