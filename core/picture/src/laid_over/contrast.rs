//! The curve of a camera: phones darken darks and lighten lights. Told by the whole painting, most of which is taken to be as planned.

use lean_linear::{dot, solve};

/// A patch of one zone: where it lies about the middle, and the logarithms of the light expected and seen.
pub(super) struct Patch {
    pub x: f64,
    pub y: f64,
    pub expected: [f64; 3],
    pub seen: [f64; 3],
}

/// Contrasts that are believed, and the least one that is worth taking out. Choices. Cameras steepen; what is flatter than planned is how it was
/// painted, darks too light.
const BELIEVED: std::ops::Range<f64> = 1.0..1.7;
const LEAST: f64 = 0.07;
/// Least spread of expected light, as the standard deviation of its logarithm, that shows a curve.
const SPREAD: f64 = 0.5;
/// Share of the miss without a curve that may be left with it. A choice.
const BETTER: f64 = 0.6;
/// Fewest patches that show a curve.
const FEWEST: usize = 8;

/// Contrast of the photo: the power the camera raised the light to, 1..1.7, 1 where no curve shows. Robust: patches that are off count
/// little (Cauchy weights; Holland & Welsch 1977).
pub(super) fn contrast(patches: &[Patch]) -> f64 {
    let mean = |l: [f64; 3]| (l[0] + l[1] + l[2]) / 3.0;
    let rows: Vec<([f64; 4], f64)> = patches.iter().map(|p| ([1.0, p.x, p.y, mean(p.expected)], mean(p.seen))).collect();
    let n = rows.len() as f64;
    let middle = rows.iter().map(|r| r.0[3]).sum::<f64>() / n.max(1.0);
    let spread = (rows.iter().map(|r| (r.0[3] - middle).powi(2)).sum::<f64>() / n.max(1.0)).sqrt();
    if rows.len() < FEWEST || spread < SPREAD {
        return 1.0;
    }
    let (straight, without) = fitted(&rows, Some(1.0));
    let (curved, with) = fitted(&rows, None);
    debug_assert!((straight[3] - 1.0).abs() < 1e-6);
    let shows = BELIEVED.contains(&curved[3]) && (curved[3] - 1.0).abs() >= LEAST && with < BETTER * without;
    if shows { curved[3] } else { 1.0 }
}

/// The plane of light and the contrast that fit, and the median miss. A contrast that is given is kept.
fn fitted(rows: &[([f64; 4], f64)], given: Option<f64>) -> ([f64; 4], f64) {
    let mut found = [0.0, 0.0, 0.0, given.unwrap_or(1.0)];
    found[0] = median(rows.iter().map(|(x, y)| y - x[3] * found[3]).collect());
    let miss = |found: &[f64; 4]| median(rows.iter().map(|(x, y)| (y - dot(x, found)).abs()).collect());
    for _ in 0..20 {
        let scale = (1.48 * miss(&found)).max(0.01);
        let n = rows.len() as f64;
        let hold = if given.is_some() { 1e9 } else { 1e-9 };
        let pull = [1e-9, 1e-2 * n, 1e-2 * n, hold];
        let mut normal: [[f64; 4]; 4] = std::array::from_fn(|i| std::array::from_fn(|k| if i == k { pull[i] } else { 0.0 }));
        let mut to = [0.0, 0.0, 0.0, hold * given.unwrap_or(1.0)];
        for (x, y) in rows {
            let w = 1.0 / (1.0 + ((y - dot(x, &found)) / scale).powi(2));
            for i in 0..4 {
                (0..4).for_each(|k| normal[i][k] += w * x[i] * x[k]);
                to[i] += w * y * x[i];
            }
        }
        match solve(normal, to) {
            Some(solved) => found = solved,
            None => break,
        }
    }
    (found, miss(&found))
}

fn median(mut of: Vec<f64>) -> f64 {
    of.sort_by(f64::total_cmp);
    of.get(of.len() / 2).copied().unwrap_or(0.0)
}

#[cfg(test)]
mod tests {
    use super::*;

    fn patches(power: f64, wrong: usize) -> Vec<Patch> {
        (0..30)
            .map(|i| {
                let expected = [-(f64::from(i % 10) / 2.5); 3];
                let (x, y) = (f64::from(i % 6) / 6.0 - 0.5, f64::from(i / 6) / 5.0 - 0.5);
                let off = if (i as usize) < wrong { -0.5 } else { 0.01 * f64::from(i % 3) };
                Patch { x, y, expected, seen: expected.map(|e| power * e - 0.3 + 0.2 * x + off) }
            })
            .collect()
    }

    #[test]
    fn a_curve_is_found_among_patches_that_are_off_and_none_where_there_is_none() {
        for wrong in [0, 3, 6] {
            assert!((contrast(&patches(1.3, wrong)) - 1.3).abs() < 0.03, "{wrong} off: {}", contrast(&patches(1.3, wrong)));
            assert_eq!(contrast(&patches(1.0, wrong)), 1.0, "{wrong} off");
        }
        assert_eq!(contrast(&patches(1.3, 0)[..5]), 1.0, "five patches show nothing");
        assert_eq!(contrast(&patches(0.8, 0)), 1.0, "darks laid too light are no camera's curve");
    }
}
