//! How little of one thing can still be seen in another.

use lean_colour::Lab;
use lean_colour::difference::ciede2000;

/// How far a mix must lie, in CIEDE2000, from what it is without one of its amounts for that amount to be worth measuring: less nobody sees. A
/// choice.
pub(crate) const VISIBLE: f64 = 1.5;
/// The amounts tried, in octaves to one part: 256 parts down to a two thousandth.
const OCTAVES: std::ops::RangeInclusive<i32> = -11..=8;
/// Amounts on the very edge count as seen, whatever way they are rounded.
const EDGE: f32 = 1.0 + 1e-4;

/// For every two things the least amount of the one that can be seen in one part of the other.
pub(crate) struct Visible {
    things: usize,
    least: Vec<f32>,
}

impl Visible {
    /// For so many things, given the colour of amounts of two of them.
    pub(super) fn of(things: usize, colour: impl Fn(usize, usize, (f64, f64)) -> Lab) -> Self {
        let mut least = vec![0.0; things * things];
        for i in 0..things {
            for j in (0..things).filter(|j| *j != i) {
                let pure = colour(i, j, (0.0, 1.0));
                let seen = |e: &i32| ciede2000(colour(i, j, (2f64.powi(*e), 1.0)), pure) >= VISIBLE;
                least[i * things + j] = OCTAVES.into_iter().find(seen).map_or(f32::INFINITY, |e| 2f32.powi(e));
            }
        }
        Self { things, least }
    }

    /// The same for four of them; places that hold the same thing hide nothing of each other.
    pub(super) fn among(&self, places: [usize; 4]) -> Among {
        Among(std::array::from_fn(|i| std::array::from_fn(|j| if i == j { 0.0 } else { self.least[places[i] * self.things + places[j]] })))
    }
}

/// The least visible amounts of four things in each other.
pub(super) struct Among([[f32; 4]; 4]);

impl Among {
    /// Of recipes whose amounts stand in four rows, the numbers of those in which each amount can be seen among the others: it must be as much
    /// as each of them alone would hide, added up.
    pub(super) fn seen(&self, amounts: &[Vec<f32>; 4]) -> Vec<u32> {
        let count = amounts[0].len();
        let mut seen = vec![true; count];
        #[cfg(target_arch = "x86_64")]
        if is_x86_feature_detected!("avx2") && is_x86_feature_detected!("fma") {
            // SAFETY: the two features were just found on this processor.
            unsafe { self.mark_wide(amounts, &mut seen) };
            return numbers(&seen);
        }
        self.mark(amounts, &mut seen);
        numbers(&seen)
    }

    #[cfg(target_arch = "x86_64")]
    #[target_feature(enable = "avx2,fma")]
    fn mark_wide(&self, amounts: &[Vec<f32>; 4], seen: &mut [bool]) {
        self.mark(amounts, seen);
    }

    #[inline(always)]
    fn mark(&self, amounts: &[Vec<f32>; 4], seen: &mut [bool]) {
        let n = seen.len();
        let [a, b, c, d] = [&amounts[0][..n], &amounts[1][..n], &amounts[2][..n], &amounts[3][..n]];
        // A thing that cannot be seen in another at all hides nothing where there is none of the other.
        let least = self.0.map(|row| row.map(|x| x.min(1e9)));
        for i in 0..n {
            let all = [a[i], b[i], c[i], d[i]];
            let mut each = true;
            for p in 0..4 {
                let hidden = least[p][0] * all[0] + least[p][1] * all[1] + least[p][2] * all[2] + least[p][3] * all[3];
                each &= (all[p] == 0.0) | (all[p] * EDGE >= hidden);
            }
            seen[i] = each;
        }
    }
}

fn numbers(seen: &[bool]) -> Vec<u32> {
    seen.iter().enumerate().filter(|(_, s)| **s).map(|(i, _)| i as u32).collect()
}
