//! Patches that stand apart from the paper and from each other.

use super::PhotoRect;
use super::light::Field;
use crate::Picture;
use lean_colour::Lab;
use lean_colour::screen::xyz_of_linear;
use rayon::prelude::*;

/// Half of the side over which light is averaged, in pixels.
const BLUR: usize = 3;
/// CIELAB units by which a patch differs from the paper, and within which it varies over a few pixels. Choices: the grain of sticks stays below.
const APART: f64 = 5.0;
const EDGE: f64 = 11.0;
/// Pixels by which a patch is drawn in from its edges: lines of a pencil are not left over.
const INSET: usize = 5;
/// Least side of what is left of a patch, in pixels, share of its rectangle that it fills, and how long it may be for its width. Choices.
const LEAST: usize = 9;
const FILLS: f64 = 0.45;
const LONG: f64 = 14.0;
/// Share of the photo above which a patch is no patch: a table, a mount.
const MOST: f64 = 0.2;
/// CIELAB units within which parts that touch are parts of one patch.
const ONE: f64 = 6.0;

struct Part {
    left: usize,
    right: usize,
    top: usize,
    foot: usize,
    cells: usize,
    sum: [f64; 3],
}

impl Part {
    fn lab(&self) -> [f64; 3] {
        self.sum.map(|s| s / self.cells as f64)
    }

    fn rectangle(&self) -> f64 {
        ((self.right - self.left + 1) * (self.foot - self.top + 1)) as f64
    }

    fn with(&self, other: &Self) -> Self {
        Self {
            left: self.left.min(other.left),
            right: self.right.max(other.right),
            top: self.top.min(other.top),
            foot: self.foot.max(other.foot),
            cells: self.cells + other.cells,
            sum: std::array::from_fn(|c| self.sum[c] + other.sum[c]),
        }
    }

    fn touches(&self, other: &Self) -> bool {
        let near = 2 * INSET + 2;
        self.left <= other.right + near && other.left <= self.right + near && self.top <= other.foot + near && other.top <= self.foot + near
    }

    /// True where it runs out of the photo: a table, or a patch that was cut off.
    fn is_cut(&self, w: usize, h: usize) -> bool {
        let rim = INSET + BLUR;
        self.left <= rim || self.top <= rim || self.right + rim + 1 >= w || self.foot + rim + 1 >= h
    }

    fn is_patch(&self, w: usize, h: usize) -> bool {
        let (across, down) = ((self.right - self.left + 1) as f64, (self.foot - self.top + 1) as f64);
        across.min(down) >= LEAST as f64
            && across.max(down) <= LONG * across.min(down)
            && self.cells as f64 >= FILLS * across * down
            && self.rectangle() < MOST * (w * h) as f64
    }
}

/// The rectangles of the patches, in no order.
pub(super) fn found(photo: &Picture, field: &Field) -> Vec<PhotoRect> {
    let (w, h) = (photo.width as usize, photo.height as usize);
    let labs = labs(photo, field);
    let paper = paper_lab();
    let apart = |a: &[f64; 3], b: &[f64; 3]| (0..3).map(|c| (a[c] - b[c]).powi(2)).sum::<f64>().sqrt();
    let inside: Vec<bool> = (0..w * h)
        .into_par_iter()
        .map(|i| {
            let (x, y) = (i % w, i / w);
            let across = apart(&labs[y * w + x.saturating_sub(BLUR)], &labs[y * w + (x + BLUR).min(w - 1)]);
            let down = apart(&labs[y.saturating_sub(BLUR) * w + x], &labs[(y + BLUR).min(h - 1) * w + x]);
            apart(&labs[i], &paper) > APART && across.max(down) < EDGE
        })
        .collect();
    let drawn_in = eroded(&inside, w, h);
    // The table is no part of a patch of its colour.
    let on_sheet = parts(&drawn_in, &labs, w).into_iter().filter(|p| !p.is_cut(w, h)).collect();
    let parts = joined(on_sheet);
    let share = |from: usize, n: usize| from as f64 / n as f64;
    let of = |p: &Part| {
        // Edges that were drawn in are put back.
        let (left, top) = (p.left.saturating_sub(INSET), p.top.saturating_sub(INSET));
        let (right, foot) = ((p.right + INSET + 1).min(w), (p.foot + INSET + 1).min(h));
        PhotoRect { x: share(left, w), y: share(top, h), width: share(right - left, w), height: share(foot - top, h) }
    };
    parts.iter().filter(|p| p.is_patch(w, h)).map(of).collect()
}

fn paper_lab() -> [f64; 3] {
    let lab: Lab = xyz_of_linear([super::light::PAPER; 3]).lab();
    [lab.l, lab.a, lab.b]
}

/// CIELAB of every pixel, its light averaged with what is round it.
fn labs(photo: &Picture, field: &Field) -> Vec<[f64; 3]> {
    let (w, h) = (photo.width as usize, photo.height as usize);
    let light: Vec<[f64; 3]> = (0..w * h).into_par_iter().map(|i| field.even(photo, (i % w) as u32, (i / w) as u32)).collect();
    let mean = |of: &[[f64; 3]], at: &(dyn Fn(usize) -> usize + Sync), n: usize, i: usize| -> [f64; 3] {
        let span = i.saturating_sub(BLUR)..(i + BLUR + 1).min(n);
        let count = span.len() as f64;
        let mut sum = [0.0; 3];
        span.for_each(|j| (0..3).for_each(|c| sum[c] += of[at(j)][c]));
        sum.map(|s| s / count)
    };
    let across: Vec<[f64; 3]> = (0..w * h).into_par_iter().map(|i| mean(&light, &|x| i / w * w + x, w, i % w)).collect();
    (0..w * h)
        .into_par_iter()
        .map(|i| {
            let lab: Lab = xyz_of_linear(mean(&across, &|y| y * w + i % w, h, i / w).map(|c| c.max(0.0))).lab();
            [lab.l, lab.a, lab.b]
        })
        .collect()
}

/// Pixels left when so many are taken off every edge.
fn eroded(of: &[bool], w: usize, h: usize) -> Vec<bool> {
    let across: Vec<bool> = (0..w * h)
        .into_par_iter()
        .map(|i| ((i % w).saturating_sub(INSET)..(i % w + INSET + 1).min(w)).all(|x| of[i / w * w + x]))
        .collect();
    (0..w * h).into_par_iter().map(|i| ((i / w).saturating_sub(INSET)..(i / w + INSET + 1).min(h)).all(|y| across[y * w + i % w])).collect()
}

/// Connected parts, by four neighbours.
fn parts(of: &[bool], labs: &[[f64; 3]], w: usize) -> Vec<Part> {
    let mut seen = vec![false; of.len()];
    let mut all = Vec::new();
    for start in 0..of.len() {
        if !of[start] || seen[start] {
            continue;
        }
        let mut part = Part { left: w, right: 0, top: usize::MAX, foot: 0, cells: 0, sum: [0.0; 3] };
        let mut stack = vec![start];
        seen[start] = true;
        while let Some(i) = stack.pop() {
            let (x, y) = (i % w, i / w);
            (part.left, part.right) = (part.left.min(x), part.right.max(x));
            (part.top, part.foot) = (part.top.min(y), part.foot.max(y));
            part.cells += 1;
            (0..3).for_each(|c| part.sum[c] += labs[i][c]);
            let around = [(x > 0).then(|| i - 1), (x + 1 < w).then(|| i + 1), i.checked_sub(w), (i + w < of.len()).then(|| i + w)];
            for j in around.into_iter().flatten() {
                if of[j] && !seen[j] {
                    seen[j] = true;
                    stack.push(j);
                }
            }
        }
        if part.cells >= 12 {
            all.push(part);
        }
    }
    all
}

/// Parts of one colour that touch and lie in one rectangle, made one: a stroke dragged over a patch, its grain.
fn joined(mut parts: Vec<Part>) -> Vec<Part> {
    parts.sort_by_key(|p| std::cmp::Reverse(p.cells));
    let mut whole: Vec<Part> = Vec::new();
    for part in parts {
        let one = |p: &&mut Part| {
            let both = p.with(&part);
            let apart = (0..3).map(|c| (p.lab()[c] - part.lab()[c]).powi(2)).sum::<f64>().sqrt();
            apart < ONE && p.touches(&part) && both.rectangle() < 1.5 * p.rectangle().max(part.rectangle())
        };
        match whole.iter_mut().find(one) {
            Some(p) => *p = p.with(&part),
            None => whole.push(part),
        }
    }
    whole
}
