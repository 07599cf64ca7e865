//! The picture in value-first coordinates: as squinting sees its masses, and closer for their edges.

use super::squint::median;
use crate::picture::{Picture, centivalue};
use lean_colour::{screen, temperature::WARM_POLE};
use rayon::prelude::*;

/// Units of warm–cool that weigh as much as one step of value. A choice: value first, temperature second.
const TEMPERATURE_PER_STEP: f64 = 16.0;
/// Units across the warm–cool axis that weigh as much as one step of value. A choice: hue last.
const HUE_PER_STEP: f64 = 32.0;
/// Radius of the square whose median is taken: what is thinner than about twice this share of the longer side is no mass. A choice.
const THIN: f64 = 0.022;
/// Neighbourhood over which texture is averaged, as a share of the longer side.
const CALM_RADIUS: f64 = 0.014;
/// The same for a closer look at edges: wires and joints, not corners.
const CLOSE_THIN: f64 = 0.012;
/// Local spread (in steps) up to which something counts as texture rather than as an edge.
const TEXTURE: f64 = 0.55;

/// Three planes (value, temperature, the axis across it), all in steps of value.
pub struct Features {
    pub width: usize,
    pub height: usize,
    /// As seen squinting: thin things lost, texture calmed.
    pub planes: [Vec<f32>; 3],
    /// As seen closer, for edges.
    pub close: [Vec<f32>; 3],
}

impl Features {
    pub fn of(picture: &Picture) -> Self {
        let (width, height) = (picture.width as usize, picture.height as usize);
        let (sin, cos) = WARM_POLE.to_radians().sin_cos();
        let cells: Vec<[f32; 3]> = picture
            .rgb
            .par_chunks_exact(3)
            .map(|px| {
                let lab = screen::lab_of_srgb([px[0], px[1], px[2]]);
                [
                    f32::from(centivalue(px)) / 100.0,
                    ((lab.a * cos + lab.b * sin) / TEMPERATURE_PER_STEP) as f32,
                    ((lab.b * cos - lab.a * sin) / HUE_PER_STEP) as f32,
                ]
            })
            .collect();
        let reach = |share: f64| ((width.max(height) as f64 * share).round() as usize).max(1);
        let raw: [Vec<f32>; 3] = std::array::from_fn(|c| cells.iter().map(|f| f[c]).collect());
        let mut planes = raw.clone();
        planes.par_iter_mut().for_each(|p| {
            *p = median(p, width, height, reach(THIN));
            for r in [reach(CALM_RADIUS), 2 * reach(CALM_RADIUS)] {
                *p = calmed(p, width, height, r);
            }
        });
        let close = raw.map(|p| median(&p, width, height, reach(CLOSE_THIN)));
        Self { width, height, planes, close }
    }

    pub fn at(&self, i: usize) -> [f32; 3] {
        [self.planes[0][i], self.planes[1][i], self.planes[2][i]]
    }

    pub fn len(&self) -> usize {
        self.width * self.height
    }
}

/// Self-guided filter (He, Sun & Tang 2010): flat where the local spread is below [`TEXTURE`], unchanged across edges.
fn calmed(plane: &[f32], w: usize, h: usize, radius: usize) -> Vec<f32> {
    let squares: Vec<f32> = plane.iter().map(|x| x * x).collect();
    let mean = box_mean(plane, w, h, radius);
    let mean_sq = box_mean(&squares, w, h, radius);
    let eps = (TEXTURE * TEXTURE) as f32;
    let keep: Vec<f32> = mean
        .iter()
        .zip(&mean_sq)
        .map(|(m, q)| {
            let var = (q - m * m).max(0.0);
            var * var / (var * var + eps * eps)
        })
        .collect();
    let level: Vec<f32> = mean.iter().zip(&keep).map(|(m, a)| m * (1.0 - a)).collect();
    let (keep, level) = (box_mean(&keep, w, h, radius), box_mean(&level, w, h, radius));
    plane.iter().zip(keep.iter().zip(&level)).map(|(x, (a, b))| a * x + b).collect()
}

/// Mean over the square of `2·r + 1` cells around each cell, cut at the frame.
pub fn box_mean(plane: &[f32], w: usize, h: usize, r: usize) -> Vec<f32> {
    box_means(plane.as_chunks::<1>().0, w, h, r).into_flattened()
}

/// The same of several planes at once.
pub fn box_means<const N: usize>(cells: &[[f32; N]], w: usize, h: usize, r: usize) -> Vec<[f32; N]> {
    let mut rows = Vec::with_capacity(cells.len());
    cells.chunks_exact(w).for_each(|row| sums_along(row, r, &mut rows));
    let mut out = Vec::with_capacity(cells.len());
    let mut below = vec![[0.0f64; N]; w];
    rows.chunks_exact(w).take(r).for_each(|row| below.iter_mut().zip(row).for_each(|(b, v)| change(b, v, 1.0)));
    for y in 0..h {
        if let Some(row) = rows.chunks_exact(w).nth(y + r) {
            below.iter_mut().zip(row).for_each(|(b, v)| change(b, v, 1.0));
        }
        if let Some(row) = y.checked_sub(r + 1).and_then(|gone| rows.chunks_exact(w).nth(gone)) {
            below.iter_mut().zip(row).for_each(|(b, v)| change(b, v, -1.0));
        }
        let tall = (y + r + 1).min(h) - y.saturating_sub(r);
        out.extend(below.iter().enumerate().map(|(x, sum)| {
            let wide = (x + r + 1).min(w) - x.saturating_sub(r);
            sum.map(|s| (s / (tall * wide) as f64) as f32)
        }));
    }
    out
}

fn change<const N: usize>(sum: &mut [f64; N], by: &[f64; N], sign: f64) {
    sum.iter_mut().zip(by).for_each(|(s, b)| *s += sign * b);
}

/// Sum of up to `2·r + 1` cells around each cell of a line.
fn sums_along<const N: usize>(line: &[[f32; N]], r: usize, out: &mut Vec<[f64; N]>) {
    let mut sum = [0.0f64; N];
    line.iter().take(r).for_each(|v| change(&mut sum, &v.map(f64::from), 1.0));
    for x in 0..line.len() {
        if let Some(v) = line.get(x + r) {
            change(&mut sum, &v.map(f64::from), 1.0);
        }
        if let Some(gone) = x.checked_sub(r + 1) {
            change(&mut sum, &line[gone].map(f64::from), -1.0);
        }
        out.push(sum);
    }
}
