//! Looks for the four corners between which a photo goes with what is expected: many coarse guesses, the best of them turned and pulled until nothing helps.

use super::{Expected, Quad, UNIT};
use crate::Picture;
use crate::projection::projection;
use crate::zone_map::ZoneMap;
use lean_colour::screen::{LINEAR, xyz_of_linear};

/// Samples across the longer side of the plan.
const SAMPLES: u32 = 40;
/// Longer side of the photo for coarse guesses and for the last pulls.
const COARSE: u32 = 72;
const FINE: u32 = 360;
/// Coarse guesses that are followed.
const FOLLOWED: usize = 6;

/// L*, a*, b* of every pixel.
struct InLab {
    width: usize,
    height: usize,
    lab: Vec<[f32; 3]>,
}

impl InLab {
    fn of(photo: &Picture, side: u32) -> Self {
        let small = photo.reduced(side);
        let lab = small
            .rgb
            .chunks_exact(3)
            .map(|p| {
                let lab = xyz_of_linear([LINEAR[usize::from(p[0])], LINEAR[usize::from(p[1])], LINEAR[usize::from(p[2])]]).lab();
                [lab.l as f32, lab.a as f32, lab.b as f32]
            })
            .collect();
        Self { width: small.width as usize, height: small.height as usize, lab }
    }
}

/// Places of the plan in shares, with their zones, and what each picture expects of those.
struct Samples {
    at: Vec<(f64, f64, usize)>,
    /// For each picture expected, the colour of each zone; `None` of one that is not in it.
    wanted: Vec<Vec<Option<[f64; 3]>>>,
}

impl Samples {
    fn of(map: &ZoneMap, expected: &[Expected]) -> Self {
        let zones = map.zones();
        let longer = map.width.max(map.height);
        let step = (longer / SAMPLES).max(1);
        let mut at = Vec::new();
        for y in (step / 2..map.height).step_by(step as usize) {
            for x in (step / 2..map.width).step_by(step as usize) {
                let zone = zones.binary_search(&map.at(x, y)).unwrap_or(0);
                at.push(((f64::from(x) + 0.5) / f64::from(map.width), (f64::from(y) + 0.5) / f64::from(map.height), zone));
            }
        }
        let of = |e: &Expected| zones.iter().map(|z| e.zones.get(z).map(|lab| [lab.l, lab.a, lab.b])).collect();
        Self { at, wanted: expected.iter().map(of).collect() }
    }
}

/// What is seen of one zone: how many places, their sums and sums of squares.
#[derive(Clone, Copy, Default)]
struct Sums {
    n: f64,
    sum: [f64; 3],
    squares: [f64; 3],
}

/// Share of the picture that may be other than expected without counting against a fit: what was forgotten or painted otherwise. A choice.
const FORGIVEN: f64 = 0.2;
/// How much better everything else must fit without a zone for it to be forgiven: a corner that lies a little off must not pass as a zone painted otherwise.
const PLAIN: f64 = 0.035;

/// How far off a parallelogram a picture is seen without anyone minding. A choice.
const ASKEW: f64 = 0.15;

/// The correlation of what is seen between corners with what is expected, over lightness and both colour axes together, the worst few zones forgiven
/// up to `most` of the picture; `None` where the corners span nothing or hardly anything of them is in the photo.
fn correlation(seen: &InLab, samples: &Samples, which: usize, corners: &Quad, most: f64) -> Option<f64> {
    let (w, h) = (seen.width as f64, seen.height as f64);
    let to_photo = projection(&UNIT, &corners.map(|(x, y)| (x * w, y * h))).ok()?;
    let wanted = &samples.wanted[which];
    let mut zones = vec![Sums::default(); wanted.len()];
    for (x, y, zone) in &samples.at {
        let (px, py) = to_photo.at(*x, *y);
        if !(0.0..w).contains(&px) || !(0.0..h).contains(&py) {
            continue;
        }
        let have = seen.lab[py as usize * seen.width + px as usize];
        let s = &mut zones[*zone];
        s.n += 1.0;
        for c in 0..3 {
            let q = f64::from(have[c]);
            s.sum[c] += q;
            s.squares[c] += q * q;
        }
    }
    let all = samples.at.len() as f64;
    let n: f64 = zones.iter().map(|s| s.n).sum();
    if n < 0.8 * all {
        return None;
    }
    let mut kept: Vec<usize> = (0..zones.len()).filter(|z| wanted[*z].is_some() && zones[*z].n > 0.0).collect();
    let mut r = pooled(&zones, wanted, &kept)?;
    let mut forgiven = 0.0;
    while kept.len() > 5 {
        let without = |z: usize| -> Option<(f64, usize)> {
            let rest: Vec<usize> = kept.iter().copied().filter(|k| *k != z).collect();
            let fits = forgiven + zones[z].n <= most * n;
            fits.then(|| pooled(&zones, wanted, &rest)).flatten().map(|r| (r, z))
        };
        let Some((better, worst)) = kept.iter().filter_map(|z| without(*z)).max_by(|a, b| a.0.total_cmp(&b.0)) else { break };
        if better < r + PLAIN {
            break;
        }
        forgiven += zones[worst].n;
        kept.retain(|z| *z != worst);
        r = better;
    }
    // What lies outside the photo cannot be right; what is forgiven is not quite as good as what fits; and a picture is seldom seen very askew.
    Some(r * (n / all) - 0.1 * forgiven / n - 0.5 * (askew(corners) - ASKEW).max(0.0))
}

/// The pooled correlation over some zones; `None` where either side does not vary.
fn pooled(zones: &[Sums], wanted: &[Option<[f64; 3]>], kept: &[usize]) -> Option<f64> {
    let (mut cov, mut var_p, mut var_q) = (0.0, 0.0, 0.0);
    for c in 0..3 {
        let (mut n, mut p, mut q, mut pp, mut qq, mut pq) = (0.0, 0.0, 0.0, 0.0, 0.0, 0.0);
        for z in kept {
            let (s, want) = (zones[*z], wanted[*z]?[c]);
            n += s.n;
            p += s.n * want;
            q += s.sum[c];
            pp += s.n * want * want;
            qq += s.squares[c];
            pq += want * s.sum[c];
        }
        cov += pq - p * q / n;
        var_p += pp - p * p / n;
        var_q += qq - q * q / n;
    }
    (var_p > 1e-6 && var_q > 1e-6).then(|| cov / (var_p * var_q).sqrt())
}

/// How far four corners are from those of a parallelogram, as a share of its size.
fn askew(q: &Quad) -> f64 {
    let off = (q[0].0 + q[2].0 - q[1].0 - q[3].0).hypot(q[0].1 + q[2].1 - q[1].1 - q[3].1);
    let size: f64 = (0..4).map(|i| (q[i].0 - q[(i + 1) % 4].0).hypot(q[i].1 - q[(i + 1) % 4].1)).sum();
    off / (size / 4.0).max(1e-6)
}

/// Which of the pictures expected fits best between corners, and how well.
pub(crate) fn best_of(photo: &Picture, map: &ZoneMap, expected: &[Expected], corners: &Quad) -> Option<(usize, f64)> {
    let (seen, samples) = (InLab::of(photo, FINE), Samples::of(map, expected));
    let each = (0..expected.len()).filter_map(|i| Some((i, correlation(&seen, &samples, i, corners, FORGIVEN)?)));
    each.max_by(|a, b| a.1.total_cmp(&b.1))
}

/// The corners, the picture and the fit that go best together; `None` where nothing can be compared.
pub(super) fn found(photo: &Picture, map: &ZoneMap, expected: &[Expected]) -> Option<(Quad, usize, f64)> {
    let samples = Samples::of(map, expected);
    let coarse = InLab::of(photo, COARSE);
    let proportion = f64::from(map.width) / f64::from(map.height) * f64::from(photo.height) / f64::from(photo.width);
    let mut tried: Vec<(f64, usize, Quad)> = Vec::new();
    for quad in guesses(proportion) {
        for which in 0..expected.len() {
            if let Some(fit) = correlation(&coarse, &samples, which, &quad, FORGIVEN) {
                tried.push((fit, which, quad));
            }
        }
    }
    tried.sort_by(|a, b| b.0.total_cmp(&a.0));
    tried.truncate(FOLLOWED);
    let fine = InLab::of(photo, FINE);
    let middle = InLab::of(photo, (COARSE + FINE) / 2);
    let pulled = tried.into_iter().filter_map(|(_, which, quad)| {
        let (quad, _) = pull(&coarse, &samples, which, quad, &[0.06, 0.03, 0.015], FORGIVEN);
        let (quad, _) = pull(&middle, &samples, which, quad, &[0.02, 0.01, 0.005], FORGIVEN);
        let (quad, fit) = pull(&fine, &samples, which, quad, &[0.008, 0.004, 0.002, 0.001], FORGIVEN);
        // Where all of it fits nearly as well as all but a zone, that zone was not painted otherwise: a corner lay off.
        let (strict, all) = pull(&fine, &samples, which, quad, &[0.03, 0.015, 0.008, 0.004, 0.002, 0.001], 0.0);
        let fit = fit?;
        Some(if all.is_some_and(|a| a > fit - PLAIN / 2.0) { (strict, which, all.unwrap_or(fit)) } else { (quad, which, fit) })
    });
    let (quad, _, _) = pulled.max_by(|a, b| a.2.total_cmp(&b.2))?;
    let each = (0..expected.len()).filter_map(|i| Some((i, correlation(&fine, &samples, i, &quad, FORGIVEN)?)));
    let (which, fit) = each.max_by(|a, b| a.1.total_cmp(&b.1))?;
    Some((quad, which, fit))
}

/// Rectangles of the plan's proportion all over the photo, upright, upside down and on either side; and the whole photo, cut as it is.
fn guesses(proportion: f64) -> Vec<Quad> {
    let mut all = Vec::new();
    // Along the photo, width to height of the rectangle in shares of it: upright, and lying on a side.
    for turned in [false, true] {
        let ratio = if turned { 1.0 / proportion } else { proportion };
        let (w1, h1) = if ratio > 1.0 { (1.0, 1.0 / ratio) } else { (ratio, 1.0) };
        for scale in [1.0, 0.92, 0.84, 0.76, 0.68, 0.6, 0.5] {
            let (w, h) = (w1 * scale, h1 * scale);
            let places = |free: f64| (0..=4).map(move |i| free * f64::from(i) / 4.0);
            for x in places(1.0 - w) {
                for y in places(1.0 - h) {
                    let upright = [(x, y), (x + w, y), (x + w, y + h), (x, y + h)];
                    for turn in if turned { [1, 3] } else { [0, 2] } {
                        all.push(std::array::from_fn(|i| upright[(i + turn) % 4]));
                    }
                }
            }
        }
    }
    all.push(UNIT);
    all
}

/// Moves, stretches, turns and pulls corners as long as that helps, by smaller and smaller steps.
fn pull(seen: &InLab, samples: &Samples, which: usize, mut quad: Quad, steps: &[f64], most: f64) -> (Quad, Option<f64>) {
    let mut fit = correlation(seen, samples, which, &quad, most);
    for step in steps {
        for _ in 0..6 {
            let before = fit;
            for next in moves(&quad, *step) {
                let then = correlation(seen, samples, which, &next, most);
                if then.is_some_and(|t| fit.is_none_or(|f| t > f)) {
                    (quad, fit) = (next, then);
                }
            }
            if fit == before {
                break;
            }
        }
    }
    (quad, fit)
}

/// All small moves of four corners: together, about their middle, one by one.
fn moves(quad: &Quad, step: f64) -> Vec<Quad> {
    let middle = (quad.iter().map(|c| c.0).sum::<f64>() / 4.0, quad.iter().map(|c| c.1).sum::<f64>() / 4.0);
    let mut all = Vec::new();
    for s in [step, -step] {
        all.push(quad.map(|(x, y)| (x + s, y)));
        all.push(quad.map(|(x, y)| (x, y + s)));
        all.push(quad.map(|(x, y)| (middle.0 + (x - middle.0) * (1.0 + s), y)));
        all.push(quad.map(|(x, y)| (x, middle.1 + (y - middle.1) * (1.0 + s))));
        all.push(quad.map(|(x, y)| (middle.0 + (x - middle.0) * (1.0 + s), middle.1 + (y - middle.1) * (1.0 + s))));
        let (sin, cos) = s.sin_cos();
        all.push(quad.map(|(x, y)| {
            let (dx, dy) = (x - middle.0, y - middle.1);
            (middle.0 + cos * dx - sin * dy, middle.1 + sin * dx + cos * dy)
        }));
        for corner in 0..4 {
            let (mut across, mut down) = (*quad, *quad);
            across[corner].0 += s;
            down[corner].1 += s;
            all.push(across);
            all.push(down);
        }
    }
    all
}
