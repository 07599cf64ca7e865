//! The light on a sheet whose paper is in sight: how it falls, its strength and its colour.

use super::Unread;
use crate::Picture;
use crate::falling_light::{least_squares, terms};
use crate::spot::Spot;
use crate::swatch_sheet::GREY_CARD;
use lean_colour::screen::LINEAR;

/// Tiles along the longer side, in each of which paper is looked for.
const TILES: u32 = 24;
/// Part of a tile's pixels, by their light, that may be paper: the lightest but for specks.
const LIGHTEST: std::ops::Range<f64> = 0.82..0.97;
/// Logarithms by which paper may lie below and above the surface through it, and by which its tint may be off. Choices.
const BELOW: f64 = 0.07;
const ABOVE: f64 = 0.2;
const TINTED: f64 = 0.06;
/// Share of the tiles in which paper must be seen.
const LEAST: f64 = 0.08;
/// Rounds of fitting.
const ROUNDS: usize = 10;
/// Reflectance of plain white paper, L* 94.6. A choice.
pub(super) const PAPER: f64 = 0.867;
/// Linear light of paper in a photo that can be read.
const BRIGHT: std::ops::Range<f64> = 0.03..0.995;
/// Logarithms by which a grey card may be off in light and in tint, and the radius that is read, as a share of the longer side. Choices.
const CARD: f64 = 0.9;
const CARD_TINT: f64 = 0.25;
const CARD_RADIUS: f64 = 0.008;

/// Gains that turn linear light of the photo into that of the sheet under even daylight.
pub(super) struct Field {
    /// Logarithm of the light on bare paper, for each channel.
    paper: [[f64; 6]; 3],
    scale: [f64; 3],
    size: (f64, f64),
    /// True where a grey card was read.
    pub(super) by_card: bool,
}

impl Field {
    /// The light on the paper of a photo, scaled by a grey card where one lies.
    pub(super) fn of(photo: &Picture, grey: Option<Spot>) -> Result<Self, Unread> {
        let (rows, logs) = lightest(photo);
        let kept = paper_tiles(&rows, &logs).ok_or(Unread::Paper)?;
        let mean = kept.iter().map(|i| logs[1][*i]).sum::<f64>() / kept.len() as f64;
        if !BRIGHT.contains(&mean.exp()) {
            return Err(Unread::Exposure);
        }
        let paper = [0, 1, 2].map(|c| least_squares(&rows, &logs[c], &kept));
        let size = (f64::from(photo.width), f64::from(photo.height));
        let by_paper = Self { paper, scale: [PAPER; 3], size, by_card: false };
        match grey {
            None => Ok(by_paper),
            Some(at) => by_paper.by_card(photo, at),
        }
    }

    fn by_card(self, photo: &Picture, at: Spot) -> Result<Self, Unread> {
        let radius = (CARD_RADIUS * self.size.0.max(self.size.1)).max(2.0) as i64;
        let middle_of = |share: f64, n: u32| ((share * f64::from(n)) as i64).clamp(0, i64::from(n) - 1);
        let (x, y) = (middle_of(at.x, photo.width), middle_of(at.y, photo.height));
        let span = |at: i64, n: u32| (at - radius).max(0) as u32..=((at + radius).min(i64::from(n) - 1)) as u32;
        let seen: Vec<[f64; 3]> =
            span(y, photo.height).flat_map(|y| span(x, photo.width).map(move |x| (x, y))).map(|(x, y)| self.even(photo, x, y)).collect();
        let grey: [f64; 3] = std::array::from_fn(|c| middle(seen.iter().map(|s| s[c]).collect()).max(1e-4));
        let off = (grey[1] / GREY_CARD).ln().abs();
        let tint = (grey[0] / grey[1]).ln().abs().max((grey[2] / grey[1]).ln().abs());
        if off > CARD || tint > CARD_TINT {
            return Err(Unread::Grey);
        }
        let scale = std::array::from_fn(|c| self.scale[c] * GREY_CARD / grey[c]);
        Ok(Self { scale, by_card: true, ..self })
    }

    /// Linear light of a pixel as the sheet has it under even daylight.
    pub(super) fn even(&self, photo: &Picture, x: u32, y: u32) -> [f64; 3] {
        let t = terms((f64::from(x) + 0.5) / self.size.0 - 0.5, (f64::from(y) + 0.5) / self.size.1 - 0.5);
        let seen = photo.at(x, y);
        std::array::from_fn(|c| {
            let paper = (0..6).map(|i| self.paper[c][i] * t[i]).sum::<f64>().exp();
            LINEAR[usize::from(seen[c])] * self.scale[c] / paper
        })
    }
}

/// Place of every tile and, for each channel, the logarithm of the mean light of its lightest pixels.
fn lightest(photo: &Picture) -> (Vec<[f64; 6]>, [Vec<f64>; 3]) {
    let (mut rows, mut logs): (Vec<[f64; 6]>, [Vec<f64>; 3]) = Default::default();
    let tile = (photo.width.max(photo.height) / TILES).max(1);
    for top in (0..photo.height).step_by(tile as usize) {
        for left in (0..photo.width).step_by(tile as usize) {
            let (right, foot) = ((left + tile).min(photo.width), (top + tile).min(photo.height));
            let mut seen: Vec<[f64; 3]> = (top..foot)
                .step_by(2)
                .flat_map(|y| (left..right).step_by(2).map(move |x| (x, y)))
                .map(|(x, y)| photo.at(x, y).map(|b| LINEAR[usize::from(b)]))
                .collect();
            seen.sort_by(|a, b| a[1].total_cmp(&b[1]));
            let n = seen.len() as f64;
            let part = &seen
                [(n * LIGHTEST.start) as usize..((n * LIGHTEST.end).ceil() as usize).clamp((n * LIGHTEST.start) as usize + 1, seen.len())];
            let middle_at = |from: u32, to: u32, whole: u32| f64::from(from + to) / 2.0 / f64::from(whole) - 0.5;
            rows.push(terms(middle_at(left, right, photo.width), middle_at(top, foot, photo.height)));
            for (c, log) in logs.iter_mut().enumerate() {
                log.push((part.iter().map(|s| s[c]).sum::<f64>() / part.len() as f64).max(1e-4).ln());
            }
        }
    }
    (rows, logs)
}

/// Tiles in which paper is seen; `None` where hardly any has some.
fn paper_tiles(rows: &[[f64; 6]], logs: &[Vec<f64>; 3]) -> Option<Vec<usize>> {
    let all: Vec<usize> = (0..rows.len()).collect();
    let mut light = logs[1].clone();
    light.sort_by(f64::total_cmp);
    let usual = light[light.len() * 4 / 5];
    let mut kept: Vec<usize> = all.iter().copied().filter(|i| logs[1][*i] > usual - 0.35).collect();
    for _ in 0..ROUNDS {
        let fit = least_squares(rows, &logs[1], &kept);
        let tint = |i: usize, c: usize| logs[c][i] - logs[1][i];
        let [red, blue] = [0, 2].map(|c| middle(kept.iter().map(|i| tint(*i, c)).collect()));
        let next: Vec<usize> = all
            .iter()
            .copied()
            .filter(|i| {
                let off = logs[1][*i] - (0..6).map(|k| fit[k] * rows[*i][k]).sum::<f64>();
                (-BELOW..ABOVE).contains(&off) && (tint(*i, 0) - red).abs() < TINTED && (tint(*i, 2) - blue).abs() < TINTED
            })
            .collect();
        if next.len() < 6 {
            return None;
        }
        if next == kept {
            break;
        }
        kept = next;
    }
    (kept.len() as f64 >= LEAST * rows.len() as f64).then_some(kept)
}

pub(super) fn middle(mut of: Vec<f64>) -> f64 {
    of.sort_by(f64::total_cmp);
    of.get(of.len() / 2).copied().unwrap_or(0.0)
}
