//! The light on a sheet: how it falls over the paper, and what the grey card says of its strength and colour.

use super::{GREY_CARD, Layout, Unread, grid, middle, pixel};
use crate::Picture;
use crate::falling_light::{least_squares, terms};
use crate::projection::Projection;

/// What linear light is multiplied by at a place on the sheet.
pub(super) struct Field {
    /// Logarithm of the light on bare paper, a surface of the second degree for each channel.
    paper: [[f64; 6]; 3],
    /// What makes the grey card what it is, for each channel.
    scale: [f64; 3],
    size: (f64, f64),
}

impl Field {
    /// The gain of each channel at a place in millimetres.
    pub(super) fn gain(&self, x: f64, y: f64) -> [f64; 3] {
        let t = terms(x / self.size.0 - 0.5, y / self.size.1 - 0.5);
        std::array::from_fn(|c| self.scale[c] / (0..6).map(|i| self.paper[c][i] * t[i]).sum::<f64>().exp())
    }
}

/// How far the grey card may lie from neutral paper light, and how bright a photo must be. Choices.
const TINTED: f64 = 1.35;
const BRIGHT: std::ops::Range<f64> = 0.02..1.0;

/// Fits the light on the bare paper, and scales it by the grey card.
pub(super) fn field(photo: &Picture, layout: &Layout, to_photo: &Projection) -> Result<Field, Unread> {
    let mut rows = Vec::new();
    let mut logs: [Vec<f64>; 3] = Default::default();
    for rect in &layout.bare {
        let seen: Vec<[f64; 3]> = grid(rect, 6, 0.6).into_iter().map(|(x, y)| pixel(photo, to_photo.at(x, y)).0).collect();
        let (x, y) = (rect[0] + rect[2] / 2.0, rect[1] + rect[3] / 2.0);
        rows.push(terms(x / layout.size.0 - 0.5, y / layout.size.1 - 0.5));
        for (c, log) in logs.iter_mut().enumerate() {
            log.push(middle(seen.iter().map(|s| s[c]).collect()).max(1e-4).ln());
        }
    }
    let mean = logs[1].iter().sum::<f64>() / logs[1].len().max(1) as f64;
    if !BRIGHT.contains(&mean.exp()) {
        return Err(Unread::Exposure);
    }
    let fitted = |log: &[f64]| -> [f64; 6] {
        // Places a smear or a shadow fell on are left out: those farthest from the fit, twice.
        let mut kept: Vec<usize> = (0..rows.len()).collect();
        let mut fit = least_squares(&rows, log, &kept);
        for _ in 0..2 {
            let miss = |i: &usize| ((0..6).map(|k| fit[k] * rows[*i][k]).sum::<f64>() - log[*i]).abs();
            kept.sort_by(|a, b| miss(a).total_cmp(&miss(b)));
            kept.truncate((kept.len() * 9 / 10).max(8));
            fit = least_squares(&rows, log, &kept);
        }
        fit
    };
    let paper = [fitted(&logs[0]), fitted(&logs[1]), fitted(&logs[2])];
    let even = Field { paper, scale: [1.0; 3], size: layout.size };
    let mut seen: [Vec<f64>; 3] = Default::default();
    for (x, y) in grid(&layout.grey, 10, 0.6) {
        let (raw, _) = pixel(photo, to_photo.at(x, y));
        let gain = even.gain(x, y);
        seen.iter_mut().enumerate().for_each(|(c, s)| s.push(raw[c] * gain[c]));
    }
    // Light on the grey card relative to that on the paper round it.
    let grey: [f64; 3] = seen.clone().map(middle);
    let spread =
        seen.iter().zip(grey).map(|(s, m)| s.iter().map(|x| (x / m - 1.0).abs()).sum::<f64>() / s.len() as f64).fold(0.0, f64::max);
    let (least, most) = (grey.iter().copied().fold(f64::INFINITY, f64::min), grey.iter().copied().fold(0.0, f64::max));
    // A card is darker than paper, even, and no colour.
    if !(0.05..0.55).contains(&grey[1]) || spread > 0.2 || most > TINTED * least {
        return Err(Unread::Grey);
    }
    Ok(Field { scale: grey.map(|g| GREY_CARD / g), ..even })
}
