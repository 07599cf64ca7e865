//! The marks at the corners of a sheet, and the projection they give.

use super::Layout;
use crate::Picture;
use crate::projection::{Projection, projection};
use lean_colour::screen::LINEAR;

/// The longer side a photo is reduced to before marks are looked for.
const SIDE: u32 = 1100;
/// How much darker than its surroundings a mark is. A choice.
const DARKER: f64 = 0.5;
/// Candidates for each corner that are tried.
const TRIED: usize = 4;

/// A dark blob that may be a mark.
#[derive(Clone, Copy)]
struct Blob {
    x: f64,
    y: f64,
    area: f64,
}

/// The projection from millimetres on the sheet to pixels of the photo; `None` where a mark of the sheet is not found.
pub(super) fn placed(photo: &Picture, layout: &Layout) -> Option<Projection> {
    let small = photo.reduced(SIDE);
    let scale = f64::from(photo.width) / f64::from(small.width);
    let light: Vec<f32> = small
        .rgb
        .chunks_exact(3)
        .map(|p| (0.2126 * LINEAR[usize::from(p[0])] + 0.7152 * LINEAR[usize::from(p[1])] + 0.0722 * LINEAR[usize::from(p[2])]) as f32)
        .collect();
    let (w, h) = (small.width as usize, small.height as usize);
    let blobs = blobs(&light, w, h);
    // For each corner of the photo the blobs that lie farthest towards it.
    let towards = |sx: f64, sy: f64| {
        let mut by: Vec<Blob> = blobs.clone();
        by.sort_by(|a, b| (sx * b.x + sy * b.y).total_cmp(&(sx * a.x + sy * a.y)));
        by.truncate(TRIED);
        by
    };
    let corners = [towards(-1.0, -1.0), towards(1.0, -1.0), towards(1.0, 1.0), towards(-1.0, 1.0)];
    let mut best: Option<(f64, Projection)> = None;
    for a in &corners[0] {
        for b in &corners[1] {
            for c in &corners[2] {
                for d in &corners[3] {
                    let four = [*a, *b, *c, *d];
                    if !alike(&four) {
                        continue;
                    }
                    // The sheet may lie any way round: the small mark says which.
                    for turn in 0..4 {
                        let at: [(f64, f64); 4] = std::array::from_fn(|i| (four[(i + turn) % 4].x, four[(i + turn) % 4].y));
                        let Ok(p) = projection(&layout.marks, &at) else { continue };
                        let fits = fits(&light, w, h, layout, &p);
                        if fits > best.as_ref().map_or(0.35, |b| b.0) {
                            best = Some((fits, p));
                        }
                    }
                }
            }
        }
    }
    let (_, p) = best?;
    Some(Projection::scaling(scale).after(&p))
}

/// Dark blobs that may be marks: compact, and not at the edge of the photo.
fn blobs(light: &[f32], w: usize, h: usize) -> Vec<Blob> {
    let mean = blurred(light, w, h, w.max(h) / 14);
    let dark: Vec<bool> = light.iter().zip(&mean).map(|(l, m)| f64::from(*l) < DARKER * f64::from(*m)).collect();
    let mut seen = vec![false; dark.len()];
    let mut found = Vec::new();
    let least = (w.max(h) as f64 / 160.0).powi(2);
    let most = (w.max(h) as f64 / 9.0).powi(2);
    for start in 0..dark.len() {
        if !dark[start] || seen[start] {
            continue;
        }
        let mut stack = vec![start];
        seen[start] = true;
        let (mut n, mut sx, mut sy) = (0.0, 0.0, 0.0);
        let (mut x0, mut x1, mut y0, mut y1) = (w, 0, h, 0);
        while let Some(at) = stack.pop() {
            let (x, y) = (at % w, at / w);
            (n, sx, sy) = (n + 1.0, sx + x as f64, sy + y as f64);
            (x0, x1, y0, y1) = (x0.min(x), x1.max(x), y0.min(y), y1.max(y));
            let beside = [(x > 0).then(|| at - 1), (x + 1 < w).then(|| at + 1), (y > 0).then(|| at - w), (y + 1 < h).then(|| at + w)];
            for next in beside.into_iter().flatten() {
                if dark[next] && !seen[next] {
                    seen[next] = true;
                    stack.push(next);
                }
            }
        }
        let (bw, bh) = ((x1 - x0 + 1) as f64, (y1 - y0 + 1) as f64);
        let inside = x0 > 0 && y0 > 0 && x1 + 1 < w && y1 + 1 < h;
        if inside && (least..most).contains(&n) && (0.4..2.5).contains(&(bw / bh)) && n / (bw * bh) > 0.5 {
            found.push(Blob { x: sx / n + 0.5, y: sy / n + 0.5, area: n });
        }
    }
    found
}

/// Four blobs of about one size at the corners of something like a rectangle.
fn alike(of: &[Blob; 4]) -> bool {
    let (least, most) = of.iter().fold((f64::INFINITY, 0.0f64), |(a, b), p| (a.min(p.area), b.max(p.area)));
    let far = |a: &Blob, b: &Blob| (a.x - b.x).hypot(a.y - b.y);
    let sides: Vec<f64> = (0..4).map(|i| far(&of[i], &of[(i + 1) % 4])).collect();
    let enough = sides.iter().all(|s| *s > 4.0 * most.sqrt());
    most < 4.0 * least && enough && ratio(sides[0], sides[2]) < 1.9 && ratio(sides[1], sides[3]) < 1.9
}

fn ratio(a: f64, b: f64) -> f64 {
    (a / b.max(1e-9)).max(b / a.max(1e-9))
}

/// How well marks, small mark and bare paper lie where a projection says: the contrast between them, 0..1.
fn fits(light: &[f32], w: usize, h: usize, layout: &Layout, p: &Projection) -> f64 {
    let at = |x: f64, y: f64| {
        let (px, py) = p.at(x, y);
        if px < 0.0 || py < 0.0 || px >= w as f64 || py >= h as f64 { None } else { Some(f64::from(light[py as usize * w + px as usize])) }
    };
    let Some(bare) = layout.bare.iter().map(|r| at(r[0] + r[2] / 2.0, r[1] + r[3] / 2.0)).collect::<Option<Vec<f64>>>() else { return 0.0 };
    let paper = super::middle(bare);
    let around = |(x, y): (f64, f64), off: f64| -> Option<Vec<f64>> {
        [(0.0, 0.0), (-off, -off), (off, -off), (-off, off), (off, off)].iter().map(|(dx, dy)| at(x + dx, y + dy)).collect()
    };
    let mut worst: f64 = 1.0;
    for (mark, side) in layout.marks.iter().map(|m| (*m, layout.mark)).chain([(layout.first, layout.mark / 2.0)]) {
        let (Some(inside), Some(outside)) = (around(mark, 0.3 * side), around(mark, 0.95 * side)) else { return 0.0 };
        let darkest = inside.iter().copied().fold(0.0, f64::max);
        let lightest = super::middle(outside[1..].to_vec());
        worst = worst.min((lightest - darkest) / lightest.max(paper).max(1e-6));
    }
    worst
}

/// Means over squares, by a summed table.
fn blurred(light: &[f32], w: usize, h: usize, radius: usize) -> Vec<f32> {
    let mut sums = vec![0.0f64; (w + 1) * (h + 1)];
    for y in 0..h {
        let mut row = 0.0;
        for x in 0..w {
            row += f64::from(light[y * w + x]);
            sums[(y + 1) * (w + 1) + x + 1] = sums[y * (w + 1) + x + 1] + row;
        }
    }
    let mut out = Vec::with_capacity(light.len());
    for y in 0..h {
        for x in 0..w {
            let (x0, x1) = (x.saturating_sub(radius), (x + radius + 1).min(w));
            let (y0, y1) = (y.saturating_sub(radius), (y + radius + 1).min(h));
            let sum = sums[y1 * (w + 1) + x1] - sums[y0 * (w + 1) + x1] - sums[y1 * (w + 1) + x0] + sums[y0 * (w + 1) + x0];
            out.push((sum / ((x1 - x0) * (y1 - y0)) as f64) as f32);
        }
    }
    out
}
