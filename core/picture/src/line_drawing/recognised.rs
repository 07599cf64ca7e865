//! True where a picture is a drawing in lines: nearly all of it plain paper, with thin strokes darker than the paper around them.

use super::paper;
use crate::picture::{Picture, centivalue};
use rayon::prelude::*;

/// Longer side of the copy that is looked at, in pixels.
const SIDE: u32 = 800;
/// Hundredths of a step by which a line is darker than the paper around it.
const LINE: f32 = 90.0;
/// Hundredths of a step within which paper is plain.
const PLAIN: f32 = 60.0;
/// Least share of plain paper. A choice: hatched drawings have about two thirds.
const LEAST_PLAIN: f64 = 0.6;
/// Shares of the picture that lines cover, the least and the most. Choices.
const LINES: (f64, f64) = (0.003, 0.26);
/// Widest line, as a share of the longer side: most of what is dark must be thinner. A choice.
const WIDEST: f64 = 0.016;
/// Share of what is dark that may be wider: a blot, a signature, an eye. A choice.
const WIDE: f64 = 0.2;
/// Share of the plain paper whose colour differs from that of the rest by more than [`SAME`]. A choice.
const COLOURED: f64 = 0.12;
/// Distance in a*, b* within which paper has one colour.
const SAME: f64 = 9.0;

/// True where a picture, or its negative, is a drawing in lines.
pub fn is_drawing(picture: &Picture) -> bool {
    let small = picture.reduced(SIDE);
    is_lines(&small) || is_lines(&small.negative())
}

/// True where the lines of a drawing are lighter than its ground.
pub(super) fn is_inverted(picture: &Picture) -> bool {
    let small = picture.reduced(SIDE);
    !is_lines(&small) && is_lines(&small.negative())
}

fn is_lines(picture: &Picture) -> bool {
    let (w, h) = (picture.width as usize, picture.height as usize);
    let values: Vec<f32> = picture.rgb.par_chunks_exact(3).map(|p| f32::from(centivalue(p))).collect();
    let ground = paper(&values, w, h);
    let line: Vec<bool> = values.iter().zip(&ground).map(|(v, p)| *v < p - LINE).collect();
    let share = |n: usize| n as f64 / values.len() as f64;
    let dark = line.iter().filter(|l| **l).count();
    if !(LINES.0..=LINES.1).contains(&share(dark)) {
        return false;
    }
    let plain: Vec<bool> = values.iter().zip(&ground).map(|(v, p)| (v - p).abs() <= PLAIN).collect();
    if share(plain.iter().filter(|p| **p).count()) < LEAST_PLAIN {
        return false;
    }
    let reach = ((w.max(h) as f64 * WIDEST / 2.0).round() as usize).max(1);
    let wide = (0..values.len()).filter(|i| line[*i] && is_wide(&line, w, h, *i, reach)).count();
    // What is left of a wide stroke when its edges are taken away is less than all of it.
    wide as f64 <= WIDE * dark as f64 && is_of_one_colour(picture, &plain)
}

/// True where everything within `reach` cells, across and down, is dark as well.
fn is_wide(line: &[bool], w: usize, h: usize, i: usize, reach: usize) -> bool {
    let (x, y) = (i % w, i / w);
    let inside = x >= reach && y >= reach && x + reach < w && y + reach < h;
    inside && (y - reach..=y + reach).all(|yy| line[yy * w + x - reach..=yy * w + x + reach].iter().all(|l| *l))
}

/// True where the paper is of one colour: a photo has many.
fn is_of_one_colour(picture: &Picture, plain: &[bool]) -> bool {
    let some: Vec<(f64, f64)> = picture
        .rgb
        .chunks_exact(3)
        .zip(plain)
        .filter(|(_, p)| **p)
        .step_by(17)
        .map(|(px, _)| {
            let lab = lean_colour::screen::lab_of_srgb([px[0], px[1], px[2]]);
            (lab.a, lab.b)
        })
        .collect();
    let middle = |of: &dyn Fn(&(f64, f64)) -> f64| {
        let mut all: Vec<f64> = some.iter().map(of).collect();
        all.sort_by(f64::total_cmp);
        all.get(all.len() / 2).copied().unwrap_or_default()
    };
    let (a, b) = (middle(&|c| c.0), middle(&|c| c.1));
    let off = some.iter().filter(|c| (c.0 - a).hypot(c.1 - b) > SAME).count();
    off as f64 <= COLOURED * some.len() as f64
}
