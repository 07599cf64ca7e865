//! Pixels counted on the value ladder.

use crate::picture::Picture;
use rayon::prelude::*;
use serde::Serialize;

/// Number of counts in a histogram: tenths of a step over 0..10.
pub(crate) const RUNGS: usize = 100;

/// One value group: from, to (steps) and the share of the picture in it, 0..=1.
#[derive(Clone, Copy, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Group {
    /// Lower end in steps.
    pub from: f64,
    /// Upper end in steps.
    pub to: f64,
    /// Share of the picture, 0..=1.
    pub share: f64,
}

/// Shares of pixels the camera could not hold, 0..=1.
#[derive(Clone, Copy, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Clipped {
    /// Share with every channel at 0.
    pub dark: f64,
    /// Share with every channel at 255.
    pub light: f64,
}

/// What the values of a picture are.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Ladder {
    /// Pixels across.
    pub width: u32,
    /// Pixels down.
    pub height: u32,
    /// Middle value in steps.
    pub median: f64,
    /// Value that one pixel in two hundred lies below: the darkest dark that is more than a speck.
    pub darkest: f64,
    /// Value that one pixel in two hundred lies above.
    pub lightest: f64,
    /// Pixels per tenth of a step, 100 counts over 0..10.
    pub histogram: Vec<u64>,
    /// The picture parted into value groups, darkest first.
    pub groups: Vec<Group>,
    /// Pixels the camera could not hold.
    pub clipped: Clipped,
}

/// Reads the ladder of a picture in `groups` value groups (1..=12; clamped).
pub fn ladder(picture: &Picture, groups: usize) -> Ladder {
    let (fine, dark, light) = count(picture);
    let total = picture.len() as u64;
    let mut histogram = vec![0u64; RUNGS];
    for (v, n) in fine.iter().enumerate() {
        histogram[(v / 10).min(RUNGS - 1)] += n;
    }
    let edges = group_edges(&fine, groups.clamp(1, 12));
    Ladder {
        width: picture.width,
        height: picture.height,
        median: quantile(&fine, 0.5),
        darkest: quantile(&fine, 0.005),
        lightest: quantile(&fine, 0.995),
        histogram,
        groups: edges.windows(2).map(|e| Group { from: e[0], to: e[1], share: share_between(&fine, e[0], e[1], total) }).collect(),
        clipped: Clipped { dark: dark as f64 / total as f64, light: light as f64 / total as f64 },
    }
}

/// Pixels per hundredth of a step (1001 counts), and how many are clipped dark and light.
fn count(picture: &Picture) -> (Vec<u64>, u64, u64) {
    let zero = || (vec![0u64; 1001], 0u64, 0u64);
    picture
        .rgb
        .par_chunks(3 << 16)
        .fold(zero, |(mut h, mut dark, mut light), block| {
            for px in block.chunks_exact(3) {
                h[crate::picture::centivalue(px) as usize] += 1;
                dark += u64::from(px == [0, 0, 0]);
                light += u64::from(px == [255, 255, 255]);
            }
            (h, dark, light)
        })
        .reduce(zero, |(mut a, d1, l1), (b, d2, l2)| {
            a.iter_mut().zip(b).for_each(|(x, y)| *x += y);
            (a, d1 + d2, l1 + l2)
        })
}

/// Value in steps below which the share `q` of the counts lies. `fine` counts hundredths of a step.
pub(crate) fn quantile(fine: &[u64], q: f64) -> f64 {
    let total: u64 = fine.iter().sum();
    let wanted = (q * total as f64).max(f64::MIN_POSITIVE);
    let mut seen = 0u64;
    for (v, n) in fine.iter().enumerate() {
        seen += n;
        if seen as f64 >= wanted && *n > 0 {
            return v as f64 / 100.0;
        }
    }
    10.0
}

fn share_between(fine: &[u64], from: f64, to: f64, total: u64) -> f64 {
    let lo = (from * 100.0).round() as usize;
    let hi = if to >= 10.0 { fine.len() } else { (to * 100.0).round() as usize };
    fine[lo.min(fine.len())..hi.min(fine.len())].iter().sum::<u64>() as f64 / total as f64
}

/// Where to part the ladder so that each group is as much of one value as can be: the exact split with the least total
/// within-group variance (Fisher 1958), found over tenths of a step.
fn group_edges(fine: &[u64], groups: usize) -> Vec<f64> {
    let rungs: Vec<f64> =
        (0..RUNGS).map(|r| fine[r * 10..if r + 1 == RUNGS { 1001 } else { r * 10 + 10 }].iter().sum::<u64>() as f64).collect();
    let mut n = vec![0.0; RUNGS + 1];
    let mut s = vec![0.0; RUNGS + 1];
    let mut q = vec![0.0; RUNGS + 1];
    for (r, c) in rungs.iter().enumerate() {
        let v = r as f64 + 0.5;
        n[r + 1] = n[r] + c;
        s[r + 1] = s[r] + c * v;
        q[r + 1] = q[r] + c * v * v;
    }
    let spread = |a: usize, b: usize| {
        let c = n[b] - n[a];
        if c <= 0.0 { 0.0 } else { (q[b] - q[a] - (s[b] - s[a]).powi(2) / c).max(0.0) }
    };
    let mut best: Vec<f64> = (0..=RUNGS).map(|b| spread(0, b)).collect();
    let mut cuts = vec![vec![0usize; RUNGS + 1]; groups];
    for cut in cuts.iter_mut().skip(1) {
        let mut next = vec![f64::INFINITY; RUNGS + 1];
        for b in 0..=RUNGS {
            for a in 0..=b {
                let c = best[a] + spread(a, b);
                if c < next[b] - 1e-9 {
                    next[b] = c;
                    cut[b] = a;
                }
            }
        }
        best = next;
    }
    let mut edges = vec![RUNGS];
    for cut in cuts.iter().skip(1).rev() {
        edges.push(cut[*edges.last().unwrap_or(&RUNGS)]);
    }
    edges.push(0);
    edges.reverse();
    edges.dedup();
    edges.into_iter().map(|e| e as f64 / 10.0).collect()
}

#[cfg(test)]
mod tests {
    use super::*;

    fn strip(bytes: &[u8]) -> Picture {
        Picture { width: bytes.len() as u32, height: 1, rgb: bytes.iter().flat_map(|b| [*b; 3]).collect() }
    }

    #[test]
    fn the_histogram_counts_every_pixel_and_the_shares_are_whole() {
        let l = ladder(&strip(&(0..=255).collect::<Vec<_>>()), 5);
        assert_eq!(l.histogram.iter().sum::<u64>(), 256);
        assert_eq!(l.histogram.len(), 100);
        assert!((l.groups.iter().map(|g| g.share).sum::<f64>() - 1.0).abs() < 1e-12);
        assert_eq!((l.groups[0].from, l.groups.last().unwrap().to), (0.0, 10.0));
        assert!((l.clipped.dark - 1.0 / 256.0).abs() < 1e-12 && (l.clipped.light - 1.0 / 256.0).abs() < 1e-12);
    }

    #[test]
    fn two_greys_part_into_two_even_groups() {
        let l = ladder(&strip(&[40, 40, 40, 200, 200, 200]), 2);
        assert_eq!(l.groups.len(), 2);
        assert!((l.groups[0].share - 0.5).abs() < 1e-12);
        let dark = lean_colour::Value::from_luminance(lean_colour::screen::xyz_of_srgb([40; 3]).y).0;
        assert!((l.darkest - dark).abs() < 0.011 && l.lightest > 7.0);
    }

    #[test]
    fn one_flat_colour_is_one_rung() {
        let l = ladder(&strip(&[119; 9]), 5);
        assert_eq!(l.darkest, l.lightest);
        assert_eq!(l.histogram.iter().filter(|n| **n > 0).count(), 1);
    }
}
