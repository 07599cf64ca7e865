//! The lines of a drawing over a picture of its plan.

use super::{paper, recognised::is_inverted};
use crate::picture::{Picture, centivalue};
use rayon::prelude::*;

/// Hundredths of a step by which the paper may vary without being a line, and by which a line is as dark as it gets.
const FAINT: f32 = 45.0;
const FULL: f32 = 420.0;

/// The lines of a drawing: for each pixel the share that is line, 0 none to 1 as dark as lines are.
#[derive(Clone, Debug, PartialEq)]
pub struct LineArt {
    width: usize,
    height: usize,
    ink: Vec<f32>,
}

impl LineArt {
    /// The lines of a drawing; of one in light on dark, its light ones.
    pub fn of(drawing: &Picture) -> Self {
        let turned = is_inverted(drawing).then(|| drawing.negative());
        let picture = turned.as_ref().unwrap_or(drawing);
        let (width, height) = (picture.width as usize, picture.height as usize);
        let values: Vec<f32> = picture.rgb.par_chunks_exact(3).map(|p| f32::from(centivalue(p))).collect();
        let ground = paper(&values, width, height);
        let ink = values.par_iter().zip(&ground).map(|(v, p)| ((p - v - FAINT) / (FULL - FAINT)).clamp(0.0, 1.0)).collect();
        Self { width, height, ink }
    }

    /// The same picture with the lines over it, dark.
    pub fn over(&self, mut picture: Picture) -> Picture {
        const DARK: f32 = 22.0;
        let (w, h) = (picture.width as usize, picture.height as usize);
        picture.rgb.par_chunks_exact_mut(3 * w).enumerate().for_each(|(y, row)| {
            let (y0, y1) = span(y, h, self.height);
            for (x, px) in row.chunks_exact_mut(3).enumerate() {
                let (x0, x1) = span(x, w, self.width);
                let rows = (y0..y1).flat_map(|yy| &self.ink[yy * self.width + x0..yy * self.width + x1]);
                let ink = rows.sum::<f32>() / ((y1 - y0) * (x1 - x0)) as f32;
                px.iter_mut().for_each(|c| *c = (f32::from(*c) * (1.0 - ink) + DARK * ink).round() as u8);
            }
        });
        picture
    }
}

/// The pixels of `full` that place `i` of `n` covers.
fn span(i: usize, n: usize, full: usize) -> (usize, usize) {
    let from = i * full / n;
    (from, ((i + 1) * full / n).max(from + 1))
}
