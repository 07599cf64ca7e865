//! A reflectance for a colour that was never measured spectrally.

use crate::lab::Xyz;
use crate::light::Light;
use crate::spectrum::{BANDS, Reflectance};
use lean_linear::dot;

/// Unknowns of the system: one per band and one multiplier per tristimulus value.
const SIZE: usize = BANDS + 3;
type Unknowns = [f64; SIZE];

/// *A* reflectance that has the wanted colour under daylight: the smoothest of many. It is inferred, not measured, and says nothing
/// about how the real surface looks under another light.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Inferred {
    /// The reflectance, strictly between 0 and 1.
    pub reflectance: Reflectance,
    /// False when the colour is no surface's colour and had to be greyed until one could have it.
    pub exact: bool,
    /// Newton steps that were needed.
    pub steps: usize,
}

/// Infers a reflectance by least hyperbolic-tangent slope squared (LHTSS: Burns 2020), with back-tracking. Luminance is kept within
/// 0.1 and 99.9 %; a colour that no surface can have is shrunk towards the grey of its luminance.
pub fn reflectance_of(colour: Xyz) -> Inferred {
    let y = (colour.y / 100.0).clamp(1e-3, 1.0 - 1e-3);
    let white = Light::Daylight.white();
    let grey = [y * white.x / 100.0, y, y * white.z / 100.0];
    let wanted = [colour.x / 100.0, y, colour.z / 100.0];
    // Shares of the way from grey to the wanted colour; the last one, grey itself, always has a solution.
    for i in 0..=40 {
        let share = 1.0 - f64::from(i) / 40.0;
        let aim: [f64; 3] = std::array::from_fn(|c| grey[c] + share * (wanted[c] - grey[c]));
        if let Some((reflectance, steps)) = solve(aim) {
            return Inferred { reflectance, exact: i == 0 && y == colour.y / 100.0, steps };
        }
    }
    Inferred { reflectance: Reflectance::flat(y), exact: false, steps: 0 }
}

struct State {
    at: Unknowns,
    off: Unknowns,
}

/// Newton's method on the stationarity conditions; `None` when it does not converge.
fn solve(aim: [f64; 3]) -> Option<(Reflectance, usize)> {
    const CLOSE: f64 = 1e-9;
    const MOST_STEPS: usize = 120;
    let mut start = [0.0; SIZE];
    start[..BANDS].fill((2.0 * aim[1] - 1.0).atanh());
    let mut now = State { off: residual(&start, aim), at: start };
    for steps in 0..MOST_STEPS {
        if now.off.iter().all(|x| x.abs() < CLOSE) {
            return Some((reflectance(&now.at), steps));
        }
        let step = lean_linear::solve(jacobian(&now.at), now.off)?;
        now = along(&now, &step, aim)?;
    }
    None
}

/// The whole step, or the first half, quarter … of it that brings the residual down.
fn along(now: &State, step: &Unknowns, aim: [f64; 3]) -> Option<State> {
    let before = dot(&now.off, &now.off);
    (0..40).map(|halved| 0.5f64.powi(halved)).find_map(|length| {
        let at = std::array::from_fn(|i| now.at[i] - step[i] * length);
        let off = residual(&at, aim);
        (dot(&off, &off) < before).then_some(State { at, off })
    })
}

fn reflectance(at: &Unknowns) -> Reflectance {
    Reflectance(std::array::from_fn(|i| (at[i].tanh() + 1.0) / 2.0))
}

/// Weights scaled to luminance 0..1.
fn t(i: usize, c: usize) -> f64 {
    Light::Daylight.weights()[i][c] / 100.0
}

fn pull(at: &Unknowns, i: usize) -> f64 {
    (0..3).map(|c| t(i, c) * at[BANDS + c]).sum()
}

/// Second differences: 4 on the diagonal (2 at the ends), −2 beside it.
fn slope(i: usize, j: usize) -> f64 {
    match i.abs_diff(j) {
        0 if i == 0 || i == BANDS - 1 => 2.0,
        0 => 4.0,
        1 => -2.0,
        _ => 0.0,
    }
}

fn residual(at: &Unknowns, aim: [f64; 3]) -> Unknowns {
    let mut f = [0.0; SIZE];
    for i in 0..BANDS {
        let th = at[i].tanh();
        let near = i.saturating_sub(1)..(i + 2).min(BANDS);
        f[i] = near.map(|j| slope(i, j) * at[j]).sum::<f64>() + (1.0 - th * th) / 2.0 * pull(at, i);
        for c in 0..3 {
            f[BANDS + c] += t(i, c) * (th + 1.0) / 2.0;
        }
    }
    for c in 0..3 {
        f[BANDS + c] -= aim[c];
    }
    f
}

fn jacobian(at: &Unknowns) -> [[f64; SIZE]; SIZE] {
    let mut m = [[0.0; SIZE]; SIZE];
    for i in 0..BANDS {
        let th = at[i].tanh();
        let first = (1.0 - th * th) / 2.0;
        for j in i.saturating_sub(1)..(i + 2).min(BANDS) {
            m[i][j] = slope(i, j);
        }
        m[i][i] -= th * (1.0 - th * th) * pull(at, i);
        for c in 0..3 {
            m[i][BANDS + c] = first * t(i, c);
            m[BANDS + c][i] = first * t(i, c);
        }
    }
    m
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::screen::xyz_of_srgb;

    #[test]
    fn worked_examples() {
        for (rgb, wanted) in [
            ([200, 60, 40], [0.03417, 0.05417, 0.68105]),
            ([40, 90, 160], [0.34351, 0.09019, 0.04702]),
            ([240, 220, 70], [0.09994, 0.77186, 0.78183]),
        ] {
            let found = reflectance_of(xyz_of_srgb(rgb));
            assert!(found.exact);
            for (band, r) in [7, 17, 27].into_iter().zip(wanted) {
                assert!((found.reflectance.0[band] - r).abs() < 2e-4, "{rgb:?} band {band}: {} is not {r}", found.reflectance.0[band]);
            }
        }
    }

    #[test]
    fn every_screen_colour_gets_a_surface_of_that_colour() {
        let mut seed = 11u32;
        let mut byte = || {
            seed = seed.wrapping_mul(1_664_525).wrapping_add(1_013_904_223);
            (seed >> 24) as u8
        };
        let mut steps = Vec::new();
        for _ in 0..300 {
            let rgb = [byte(), byte(), byte()];
            let xyz = xyz_of_srgb(rgb);
            let found = reflectance_of(xyz);
            assert!(found.reflectance.0.iter().all(|r| (0.0..=1.0).contains(r)), "{rgb:?}");
            if (0.1..99.9).contains(&xyz.y) {
                let back = found.reflectance.xyz();
                assert!(found.exact && (back.x - xyz.x).abs() + (back.y - xyz.y).abs() + (back.z - xyz.z).abs() < 1e-6, "{rgb:?}");
            }
            steps.push(found.steps);
        }
        steps.sort_unstable();
        // Only near-black colours of strong hue need many: their reflectance hugs zero.
        assert!(steps[150] <= 6 && steps[295] <= 10, "median {} nearly all {}", steps[150], steps[295]);
    }

    #[test]
    fn black_white_and_the_impossible_are_answered_too() {
        for c in [Xyz { x: 0.0, y: 0.0, z: 0.0 }, Light::Daylight.white(), Xyz { x: 5.0, y: 60.0, z: 1.0 }] {
            let found = reflectance_of(c);
            assert!(!found.exact);
            assert!(found.reflectance.0.iter().all(|r| (0.0..=1.0).contains(r)));
            assert!((found.reflectance.xyz().y - c.y).abs() < 0.2);
        }
    }
}
