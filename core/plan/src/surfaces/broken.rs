//! Broken colour: two or three dabs side by side whose light adds up to what is wanted, seen from far enough.

use super::ToldMix;
use crate::mark::Mark;
use lean_colour::difference::ciede2000;
use lean_colour::{Lab, Share, Xyz};
use lean_linear::solve;
use lean_media::broken::FUSES_AT;
use lean_piece::Millimetres;
use lean_recipes::cost::Ranking;
use lean_recipes::{Cost, Mix};
use lean_search::Recipes;
use serde::Serialize;

/// Dabs that fuse.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Broken {
    /// The dabs with their shares, most first.
    pub dabs: Vec<ToldMix>,
    /// What they give from afar.
    pub fused: Mark,
    /// How far that is from what is wanted, CIEDE2000.
    pub difference: f64,
    /// Largest dab that still fuses at the viewing distance.
    pub largest: Millimetres,
    /// What they do side by side, in a sentence.
    pub words: String,
}

/// Candidates looked at, steps of value within which they lie of what is wanted, CIEDE2000 two dabs must be apart to be worth it, and the least share of
/// a dab. Choices.
const CANDIDATES: usize = 90;
const WITHIN: f64 = 1.6;
const WORTH: f64 = 14.0;
const LEAST: f64 = 0.12;
/// Most CIEDE2000 the fused colour may be off, and by how much three dabs must be nearer than two to be taken. Choices.
const OFF: f64 = 4.0;
const NEARER: f64 = 1.0;
/// Steps of value within which opposites shimmer. A choice.
const SHIMMERS: f64 = 0.5;

/// The largest dab that fuses at a distance (both in millimetres): the eye parts two dabs from about an arc minute and a half on.
pub fn largest_dab(distance: Millimetres) -> Millimetres {
    Millimetres(distance.0 * (FUSES_AT / 60.0).to_radians().tan())
}

/// The dabs that fuse best to what is wanted, told. `None` where no plainly different mixes do.
pub(super) fn broken(recipes: &Recipes, wanted: Lab, distance: Millimetres, tell: &dyn Fn(&Mix, Share) -> ToldMix) -> Option<Broken> {
    let Fusing { mixes, fused, difference } = fusing(recipes, wanted)?;
    let labs: Vec<Lab> = mixes.iter().map(|(mix, _)| mix.lab).collect();
    let dabs = mixes.iter().map(|(mix, share)| tell(mix, *share)).collect();
    let fused = Mark::of(fused, lean_colour::Temperature(0.0));
    Some(Broken { words: words(&labs), largest: largest_dab(distance), dabs, fused, difference })
}

/// Dabs with their shares, most first, what they give from afar, and how far that is from what is wanted, CIEDE2000.
pub(super) struct Fusing {
    pub(super) mixes: Vec<(Mix, Share)>,
    fused: Lab,
    difference: f64,
}

/// The dabs that fuse best to what is wanted: their light adds up by their shares (Murray & Davies 1936). `None` where no plainly different mixes do.
pub(super) fn fusing(recipes: &Recipes, wanted: Lab) -> Option<Fusing> {
    let candidates = candidates(recipes, wanted);
    let target = wanted.xyz();
    let mut two: Option<(f64, Vec<(usize, f64)>)> = None;
    let mut three: Option<(f64, Vec<(usize, f64)>)> = None;
    for (i, a) in candidates.iter().enumerate() {
        for (j, b) in candidates.iter().enumerate().skip(i + 1) {
            if ciede2000(a.1, b.1) < WORTH {
                continue;
            }
            if let Some((t, off)) = of_two(a.1.xyz(), b.1.xyz(), target, wanted) {
                better(&mut two, off, || vec![(i, 1.0 - t), (j, t)]);
            }
            for (k, c) in candidates.iter().enumerate().skip(j + 1).step_by(3) {
                if ciede2000(a.1, c.1) < WORTH || ciede2000(b.1, c.1) < WORTH {
                    continue;
                }
                if let Some((shares, off)) = of_three([a.1.xyz(), b.1.xyz(), c.1.xyz()], target, wanted) {
                    better(&mut three, off, || vec![(i, shares[0]), (j, shares[1]), (k, shares[2])]);
                }
            }
        }
    }
    let best = match (two, three) {
        (Some(a), Some(b)) => Some(if b.0 < a.0 - NEARER { b } else { a }),
        (a, b) => a.or(b),
    };
    let (difference, mut shares) = best.filter(|b| b.0 <= OFF)?;
    shares.sort_by(|a, b| b.1.total_cmp(&a.1));
    let fused = sum(&shares.iter().map(|(i, s)| (candidates[*i].1.xyz(), *s)).collect::<Vec<_>>()).lab();
    let mixes = shares.iter().map(|(i, s)| (recipes.recipe(candidates[*i].0), Share(*s))).collect();
    Some(Fusing { mixes, fused, difference })
}

fn better(best: &mut Option<(f64, Vec<(usize, f64)>)>, off: f64, shares: impl FnOnce() -> Vec<(usize, f64)>) {
    if best.as_ref().is_none_or(|b| off < b.0) {
        *best = Some((off, shares()));
    }
}

/// Strong simple mixes around what is wanted, spread over its surroundings.
fn candidates(recipes: &Recipes, wanted: Lab) -> Vec<(usize, Lab)> {
    // Looked for around what is wanted in several directions of hue: dabs are stronger than what they fuse to.
    let plain = Cost { ranking: Ranking::MISS, ..Cost::default() };
    let mut found: Vec<(usize, Lab)> = Vec::new();
    for turn in 0..12 {
        let (sin, cos) = (f64::from(turn) * 30.0).to_radians().sin_cos();
        for (out, up) in [(18.0, 0.0), (34.0, 0.0), (18.0, 10.0), (18.0, -10.0)] {
            let around = Lab::new((wanted.l + up).clamp(2.0, 98.0), wanted.a + out * cos, wanted.b + out * sin);
            for (_, i, lab) in recipes.nearest(around, plain, 2) {
                let near = (lab.value().0 - wanted.value().0).abs() <= WITHIN;
                if near && !found.iter().any(|f| f.0 == i || ciede2000(f.1, lab) < 2.0) && found.len() < CANDIDATES {
                    found.push((i, lab));
                }
            }
        }
    }
    found
}

fn sum(of: &[(Xyz, f64)]) -> Xyz {
    let mean = |f: fn(&Xyz) -> f64| of.iter().map(|(c, s)| s * f(c)).sum::<f64>();
    Xyz { x: mean(|c| c.x), y: mean(|c| c.y), z: mean(|c| c.z) }
}

/// The share of `b` beside `a` that comes nearest to the target, and how far off that is.
fn of_two(a: Xyz, b: Xyz, target: Xyz, wanted: Lab) -> Option<(f64, f64)> {
    let d = [b.x - a.x, b.y - a.y, b.z - a.z];
    let to = [target.x - a.x, target.y - a.y, target.z - a.z];
    let long: f64 = d.iter().map(|v| v * v).sum();
    let t = (0..3).map(|i| d[i] * to[i]).sum::<f64>() / long.max(1e-9);
    let t = (t * 20.0).round() / 20.0;
    (LEAST..=1.0 - LEAST).contains(&t).then(|| (t, ciede2000(sum(&[(a, 1.0 - t), (b, t)]).lab(), wanted)))
}

/// Shares of three that come nearest to the target, by least squares in light, to a twentieth.
fn of_three(of: [Xyz; 3], target: Xyz, wanted: Lab) -> Option<([f64; 3], f64)> {
    let v = |p: Xyz, q: Xyz| [p.x - q.x, p.y - q.y, p.z - q.z];
    let (d, e, to) = (v(of[1], of[0]), v(of[2], of[0]), v(target, of[0]));
    let dot = |a: &[f64; 3], b: &[f64; 3]| (0..3).map(|i| a[i] * b[i]).sum::<f64>();
    let s = solve([[dot(&d, &d), dot(&d, &e)], [dot(&d, &e), dot(&e, &e)]], [dot(&d, &to), dot(&e, &to)])?;
    let (t, u) = ((s[0] * 20.0).round() / 20.0, (s[1] * 20.0).round() / 20.0);
    let shares = [1.0 - t - u, t, u];
    shares.iter().all(|s| *s >= LEAST).then(|| {
        let all: Vec<(Xyz, f64)> = of.into_iter().zip(shares).collect();
        (shares, ciede2000(sum(&all).lab(), wanted))
    })
}

/// Whether the dabs shimmer.
fn words(labs: &[Lab]) -> String {
    let opposite = |a: &Lab, b: &Lab| {
        let chroma = a.chroma().min(b.chroma());
        let turned = (a.a * b.a + a.b * b.b) / (a.chroma() * b.chroma()).max(1e-9);
        chroma > 15.0 && turned < -0.5 && (a.value().0 - b.value().0).abs() < SHIMMERS
    };
    let shimmers = labs.iter().enumerate().any(|(i, a)| labs[i + 1..].iter().any(|b| opposite(a, b)));
    match shimmers {
        true => "Opposites of equal value: side by side they shimmer. Is that meant?".into(),
        false => "They lie quietly side by side.".into(),
    }
}
