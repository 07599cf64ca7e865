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
    let rows: Vec<f32> = plane.chunks_exact(w).flat_map(|row| line_mean(row.iter().copied(), w, r)).collect();
    let mut out = vec![0.0; w * h];
    for x in 0..w {
        for (y, v) in line_mean((0..h).map(|y| rows[y * w + x]), h, r).into_iter().enumerate() {
            out[y * w + x] = v;
        }
    }
    out
}

fn line_mean(line: impl Iterator<Item = f32>, n: usize, r: usize) -> Vec<f32> {
    let mut sums = Vec::with_capacity(n + 1);
    let mut total = 0.0f64;
    sums.push(0.0);
    for v in line {
        total += f64::from(v);
        sums.push(total);
    }
    (0..n)
        .map(|i| {
            let (a, b) = (i.saturating_sub(r), (i + r + 1).min(n));
            ((sums[b] - sums[a]) / (b - a) as f64) as f32
        })
        .collect()
}
