//! The picture on the grid that places live on, in coordinates in which equal steps look equal.

use crate::picture::Picture;
use lean_colour::screen;
use rayon::prelude::*;

/// Longer side of the grid places live on, in cells. Smaller pictures are enlarged to it, so that a brush has room for its edge.
pub const GRID: u32 = 1024;

/// A colour as lightness and two compressed chroma axes: a straight distance is close to CIEDE2000 without its hue terms.
///
/// Chroma is compressed by the integral of 1 / (1 + 0.045 C), the weighting of CIE94 (CIE 116-1995).
pub(crate) type EvenColour = [f32; 3];

/// Weight of chroma against lightness. A choice: enough that a light face stands off a light wall of another hue.
const CHROMA: f64 = 1.1;

/// Compresses a CIELAB colour.
pub(crate) fn even_colour(l: f64, a: f64, b: f64) -> EvenColour {
    let c = a.hypot(b);
    let scale = if c < 1e-9 { CHROMA } else { CHROMA * (0.045 * c).ln_1p() / (0.045 * c) };
    [l as f32, (a * scale) as f32, (b * scale) as f32]
}

/// Squared distance between two looks.
pub(crate) fn apart2(p: EvenColour, q: EvenColour) -> f32 {
    let d = [p[0] - q[0], p[1] - q[1], p[2] - q[2]];
    d[0] * d[0] + d[1] * d[1] + d[2] * d[2]
}

/// A grid of looks.
pub(super) struct Cells {
    /// Cells across.
    pub width: usize,
    /// Cells down.
    pub height: usize,
    /// One look a cell, row by row.
    pub looks: Vec<EvenColour>,
    /// By how much smaller contrasts count here than in a picture of usual range: in a picture of one green its shades matter. 0.2..=1.
    pub scale: f32,
}

impl Cells {
    /// The cells of a picture that is on the grid, single-cell grain averaged away.
    pub(super) fn of(small: &Picture) -> Self {
        let (width, height) = (small.width as usize, small.height as usize);
        let raw: Vec<EvenColour> = small
            .rgb
            .par_chunks_exact(3)
            .map(|px| {
                let lab = screen::lab_of_srgb([px[0], px[1], px[2]]);
                even_colour(lab.l, lab.a, lab.b)
            })
            .collect();
        let looks = binomial(&raw, width, height);
        let scale = (spread(&looks) / USUAL).clamp(0.2, 1.0);
        Self { width, height, looks, scale }
    }

    /// Longer side in cells.
    pub(super) fn longer(&self) -> usize {
        self.width.max(self.height)
    }
}

/// Spread of a picture of usual range, in look units. A choice.
const USUAL: f32 = 20.0;

/// Root mean square distance from the mean look.
fn spread(looks: &[EvenColour]) -> f32 {
    let n = looks.len() as f64;
    let mean: [f64; 3] = std::array::from_fn(|c| looks.iter().map(|l| f64::from(l[c])).sum::<f64>() / n);
    let mean = mean.map(|m| m as f32);
    (looks.iter().map(|l| f64::from(apart2(*l, mean))).sum::<f64>() / n).sqrt() as f32
}

/// The picture at the size of the grid.
pub(super) fn on_grid(picture: &Picture) -> Picture {
    if picture.width.max(picture.height) == GRID {
        return picture.clone();
    }
    if picture.width.max(picture.height) > GRID { picture.reduced(GRID) } else { enlarged(picture) }
}

/// Bilinear in encoded values: nothing is measured off it that the picture does not hold.
fn enlarged(picture: &Picture) -> Picture {
    let scale = f64::from(GRID) / f64::from(picture.width.max(picture.height));
    let side = |n: u32| ((f64::from(n) * scale).round() as u32).max(1);
    let (w, h) = (side(picture.width), side(picture.height));
    let at = |i: u32, n: u32, full: u32| {
        let s = ((f64::from(i) + 0.5) * f64::from(full) / f64::from(n) - 0.5).clamp(0.0, f64::from(full - 1));
        (s.floor() as u32, (s.floor() as u32 + 1).min(full - 1), s.fract())
    };
    let mut rgb = vec![0u8; (w * h * 3) as usize];
    rgb.par_chunks_exact_mut(w as usize * 3).enumerate().for_each(|(y, row)| {
        let (y0, y1, v) = at(y as u32, h, picture.height);
        for x in 0..w {
            let (x0, x1, u) = at(x, w, picture.width);
            let four = [picture.at(x0, y0), picture.at(x1, y0), picture.at(x0, y1), picture.at(x1, y1)];
            for c in 0..3 {
                let p = four.map(|px| f64::from(px[c]));
                let (top, low) = (p[0] + (p[1] - p[0]) * u, p[2] + (p[3] - p[2]) * u);
                row[x as usize * 3 + c] = (top + (low - top) * v).round() as u8;
            }
        }
    });
    Picture { width: w, height: h, rgb }
}

/// Weights 1 2 1 across and down.
pub(crate) fn binomial(looks: &[EvenColour], w: usize, h: usize) -> Vec<EvenColour> {
    let mix = |a: EvenColour, b: EvenColour, c: EvenColour| std::array::from_fn(|i| (a[i] + 2.0 * b[i] + c[i]) * 0.25);
    let mut across = vec![[0.0; 3]; looks.len()];
    across.par_chunks_exact_mut(w).zip(looks.par_chunks_exact(w)).for_each(|(out, row)| {
        for x in 0..w {
            out[x] = mix(row[x.saturating_sub(1)], row[x], row[(x + 1).min(w - 1)]);
        }
    });
    let mut down = vec![[0.0; 3]; looks.len()];
    down.par_chunks_exact_mut(w).enumerate().for_each(|(y, out)| {
        let (above, below) = (y.saturating_sub(1) * w, (y + 1).min(h - 1) * w);
        for x in 0..w {
            out[x] = mix(across[above + x], across[y * w + x], across[below + x]);
        }
    });
    down
}
