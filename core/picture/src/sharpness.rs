//! How much of its resolution a picture really uses: a blurred photo has fewer pixels than it counts.

use crate::picture::{Picture, centivalue};

/// Side of the squares looked at, in pixels.
const TILE: u32 = 256;
/// Squares across and down.
const TILES: u32 = 3;
/// Octaves of detail looked through, finest first.
const OCTAVES: usize = 4;
/// A picture of things has about as much contrast in every octave (Field 1987); an octave with less than this share of the next coarser one is
/// empty. A choice.
const EMPTY: f64 = 0.12;
/// The same where it is full. A choice.
const FULL: f64 = 0.35;
/// Least variance, in steps of value squared, for an octave to say anything.
const SAYS: f64 = 2e-4;

/// Share of its linear resolution that a picture uses, 1/8 to 1, judged at the sharpest of nine places. A picture without any detail says nothing
/// and counts as sharp.
pub fn sharpness(picture: &Picture) -> f64 {
    let places = (0..TILES * TILES).map(|i| (i % TILES, i / TILES));
    places.filter_map(|(i, j)| of_tile(picture, i, j)).max_by(f64::total_cmp).unwrap_or(1.0)
}

fn of_tile(picture: &Picture, i: u32, j: u32) -> Option<f64> {
    let side = TILE.min(picture.width).min(picture.height);
    let start = |n: u32, whole: u32| ((whole - side) * n) / (TILES - 1);
    let (left, top) = (start(i, picture.width), start(j, picture.height));
    let mut values: Vec<f64> = Vec::with_capacity((side * side) as usize);
    for y in top..top + side {
        values.extend((left..left + side).map(|x| f64::from(centivalue(&picture.at(x, y))) / 100.0));
    }
    let energies = octaves(values, side as usize);
    // From the coarse end the first octave that is plainly there is the measure for the finer ones.
    let mut used = 1.0;
    for (fine, pair) in energies.windows(2).enumerate().rev() {
        let [here, coarser] = *pair else { continue };
        if coarser < SAYS {
            continue;
        }
        let there = ((here / coarser - EMPTY) / (FULL - EMPTY)).clamp(0.0, 1.0);
        used = 0.5f64.powf(fine as f64 + 1.0 - there);
        if there < 1.0 {
            return Some(used);
        }
    }
    energies.iter().any(|e| *e >= SAYS).then_some(used)
}

/// Variance of what each halving loses, finest first.
fn octaves(mut values: Vec<f64>, mut side: usize) -> Vec<f64> {
    let mut energies = Vec::with_capacity(OCTAVES);
    while energies.len() < OCTAVES && side >= 8 {
        let half = side / 2;
        let mean = |x: usize, y: usize| {
            let at = |dx: usize, dy: usize| values[(2 * y + dy) * side + 2 * x + dx];
            (at(0, 0) + at(1, 0) + at(0, 1) + at(1, 1)) / 4.0
        };
        let halved: Vec<f64> = (0..half * half).map(|i| mean(i % half, i / half)).collect();
        let lost: f64 = (0..4 * half * half)
            .map(|i| {
                let (x, y) = (i % (2 * half), i / (2 * half));
                (values[y * side + x] - halved[(y / 2) * half + x / 2]).powi(2)
            })
            .sum();
        energies.push(lost / (4 * half * half) as f64);
        (values, side) = (halved, half);
    }
    energies
}

#[cfg(test)]
mod tests {
    use super::*;

    /// Patches of many sizes with hard edges, one over another, as things stand in a photo.
    fn things(side: u32) -> Picture {
        let mut seed = 9u32;
        let mut next = |n: u32| {
            seed = seed.wrapping_mul(1_664_525).wrapping_add(1_013_904_223);
            (seed >> 8) % n
        };
        let mut rgb = vec![128u8; (side * side * 3) as usize];
        for _ in 0..4000 {
            let size = 2 + 400 / (1 + next(200));
            let (x, y, grey) = (next(side), next(side), 20 + next(220) as u8);
            for yy in y..(y + size).min(side) {
                for xx in x..(x + size).min(side) {
                    let at = ((yy * side + xx) * 3) as usize;
                    rgb[at..at + 3].fill(grey);
                }
            }
        }
        Picture { width: side, height: side, rgb }
    }

    /// The same, every pixel the mean of the square of `2·r + 1` around it, three times over.
    fn blurred(picture: &Picture, r: i64) -> Picture {
        let (w, h) = (i64::from(picture.width), i64::from(picture.height));
        let mut plane: Vec<f64> = picture.rgb.chunks_exact(3).map(|p| f64::from(p[0])).collect();
        for (dx, dy) in [(1, 0), (0, 1), (1, 0), (0, 1), (1, 0), (0, 1)] {
            let at = |x: i64, y: i64| plane[(y.clamp(0, h - 1) * w + x.clamp(0, w - 1)) as usize];
            let mean = |i: i64| (-r..=r).map(|n| at(i % w + n * dx, i / w + n * dy)).sum::<f64>() / (2 * r + 1) as f64;
            plane = (0..w * h).map(mean).collect();
        }
        Picture { rgb: plane.iter().flat_map(|v| [v.round() as u8; 3]).collect(), ..*picture }
    }

    #[test]
    fn twice_the_blur_leaves_half_the_resolution() {
        let sharp = things(600);
        // Three boxes of radius r spread by about r + 1/2.
        let of = [0, 1, 3, 7].map(|r| sharpness(&blurred(&sharp, r)));
        assert!(of[0] > 0.9, "{of:?}");
        assert!(of.windows(2).all(|w| w[0] > w[1]), "{of:?}");
        let halved = of[2] / of[3];
        assert!((1.6..2.5).contains(&halved), "{of:?}");
    }

    #[test]
    fn one_flat_colour_says_nothing() {
        assert_eq!(sharpness(&Picture { width: 300, height: 200, rgb: vec![90; 180_000] }), 1.0);
        assert_eq!(sharpness(&Picture { width: 1, height: 1, rgb: vec![90; 3] }), 1.0);
    }
}
