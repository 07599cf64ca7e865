//! Values of the reference fitted into what can be reached, with the least movement: what lies within reach stays, what lies beyond is pressed
//! softly into the last step or two, and lighter stays lighter.

use lean_colour::{Share, Value};
use lean_piece::Piece;
use std::ops::RangeInclusive;

/// Weight of the differences between neighbouring zones: 0 keeps the lights and middles where they are, 1 keeps the differences.
pub(crate) const DIFFERENCES: RangeInclusive<f64> = 0.0..=1.0;
/// The usual place between the two. A choice.
pub const USUAL_DIFFERENCES: Share = Share(0.4);

/// Share of their difference that neighbours keep where the range allows it. A choice.
const KEPT: f64 = 0.6;
/// Share of their difference that values keep however narrow the range is: order is never lost. A choice.
const LEAST_KEPT: f64 = 0.1;
/// Weight of a movement of values well within reach, 1 for those at the ends, where differences count least. A choice.
const INSIDE: f64 = 30.0;
/// Steps above the darkest value where that weight begins, and over which it comes to be there: the last two steps may move. Choices.
const PRESSED: (f64, f64) = (0.3, 1.7);
/// The same below the lightest value.
const PRESSED_LIGHT: f64 = 0.7;
/// Weight of a lost difference where differences count least, and the factor on it where they count most. Choices.
const LOST: (f64, f64) = (1.0, 60.0);
/// Most steps of the descent; it ends when nothing moves by a thousandth of a step.
const ROUNDS: usize = 1500;
const STILL: f64 = 1e-4;

/// Two values side by side: which is lighter, which darker, and the share of all borders that is theirs.
struct Border {
    light: usize,
    dark: usize,
    share: f64,
}

/// Values to fit into a range.
struct Fitting {
    /// As read, one for each zone.
    read: Vec<f64>,
    /// As near as can be had.
    near: Vec<f64>,
    /// Weight of moving each from there.
    weights: Vec<f64>,
    /// Place of each among the different values, darkest first.
    place: Vec<usize>,
    /// Steps that each different value stays above the one before, whatever else.
    least: Vec<f64>,
    borders: Vec<Border>,
    lost: f64,
    darkest: f64,
    /// Steps there are to give beyond the least.
    room: f64,
}

/// The planned values of all zones, in the order of `piece.zones`, within `darkest..=lightest`.
pub fn fitted(piece: &Piece, (darkest, lightest): (f64, f64), differences: Share) -> Vec<Value> {
    if piece.zones.is_empty() {
        return Vec::new();
    }
    let fitting = Fitting::of(piece, (darkest, lightest.max(darkest)), differences.0.clamp(0.0, 1.0));
    fitting.values(&fitting.solved()).into_iter().map(Value).collect()
}

impl Fitting {
    fn of(piece: &Piece, (darkest, lightest): (f64, f64), differences: f64) -> Self {
        let read: Vec<f64> = piece.zones.iter().map(|z| z.reading.value.0).collect();
        let all: f64 = piece.zones.iter().map(|z| z.reading.area).sum::<f64>().max(f64::MIN_POSITIVE);
        let inside = |v: f64| {
            let (from, over) = PRESSED;
            ((v - darkest - from) / over).clamp(0.0, 1.0) * ((lightest - v) / PRESSED_LIGHT).clamp(0.0, 1.0)
        };
        let weight = |v: f64| 1.0 + (INSIDE - 1.0) * inside(v) * (1.0 - differences);
        let mut different = read.clone();
        different.sort_by(f64::total_cmp);
        different.dedup();
        let gaps = std::iter::once(0.0).chain(different.windows(2).map(|w| w[1] - w[0]));
        let least: Vec<f64> = gaps.map(|g| LEAST_KEPT * g).collect();
        let taken: f64 = least.iter().sum();
        let narrow = if taken > lightest - darkest { (lightest - darkest) / taken } else { 1.0 };
        Self {
            near: read.iter().map(|v| v.max(darkest).min(lightest)).collect(),
            weights: piece.zones.iter().zip(&read).map(|(z, v)| z.reading.area / all * weight(*v)).collect(),
            place: read.iter().map(|v| different.partition_point(|d| d < v)).collect(),
            least: least.iter().map(|l| l * narrow).collect(),
            borders: borders(piece, &read),
            lost: LOST.0 * LOST.1.powf(differences),
            darkest,
            room: lightest - darkest - taken * narrow,
            read,
        }
    }

    /// The values of all zones for what each different value is given beyond the least.
    fn values(&self, given: &[f64]) -> Vec<f64> {
        let mut at = self.darkest;
        let levels: Vec<f64> = self
            .least
            .iter()
            .zip(given)
            .map(|(l, g)| {
                at += l + g;
                at
            })
            .collect();
        self.place.iter().map(|p| levels[*p]).collect()
    }

    /// How much of its difference a border lacks.
    fn lacks(&self, b: &Border, values: &[f64]) -> f64 {
        (KEPT * (self.read[b.light] - self.read[b.dark]) - (values[b.light] - values[b.dark])).max(0.0)
    }

    fn charge(&self, given: &[f64]) -> f64 {
        let values = self.values(given);
        let moved: f64 = (0..values.len()).map(|i| self.weights[i] * (values[i] - self.near[i]).powi(2)).sum();
        moved + self.lost * self.borders.iter().map(|b| b.share * self.lacks(b, &values).powi(2)).sum::<f64>()
    }

    fn slope(&self, given: &[f64]) -> Vec<f64> {
        let values = self.values(given);
        let mut of_zone: Vec<f64> = (0..values.len()).map(|i| 2.0 * self.weights[i] * (values[i] - self.near[i])).collect();
        for b in &self.borders {
            let pull = 2.0 * self.lost * b.share * self.lacks(b, &values);
            of_zone[b.light] -= pull;
            of_zone[b.dark] += pull;
        }
        // What a value is given lifts it and every lighter one.
        let mut slope = vec![0.0; given.len()];
        for (place, s) in self.place.iter().zip(of_zone) {
            slope[*place] += s;
        }
        for i in (1..slope.len()).rev() {
            slope[i - 1] += slope[i];
        }
        slope
    }

    /// The least charge, by accelerated descent within what may be given (Beck & Teboulle 2009, with a fresh start where it overshoots).
    fn solved(&self) -> Vec<f64> {
        let mut best = self.begun();
        let (mut ahead, mut momentum, mut step) = (best.clone(), 1.0f64, 1.0f64);
        for _ in 0..ROUNDS {
            let (slope, here) = (self.slope(&ahead), self.charge(&ahead));
            let next = loop {
                let tried = within(ahead.iter().zip(&slope).map(|(x, s)| x - step * s).collect(), self.room);
                let moved: Vec<f64> = tried.iter().zip(&ahead).map(|(a, b)| a - b).collect();
                let model: f64 = moved.iter().zip(&slope).map(|(m, s)| m * s + 0.5 / step * m * m).sum();
                if self.charge(&tried) <= here + model + 1e-12 || step < 1e-7 {
                    break tried;
                }
                step *= 0.5;
            };
            let moved: Vec<f64> = next.iter().zip(&best).map(|(a, b)| a - b).collect();
            let overshot = moved.iter().zip(ahead.iter().zip(&next)).map(|(m, (a, n))| m * (a - n)).sum::<f64>() > 0.0;
            let faster = if overshot { 1.0 } else { (1.0 + (1.0 + 4.0 * momentum * momentum).sqrt()) / 2.0 };
            let on = if overshot { 0.0 } else { (momentum - 1.0) / faster };
            ahead = next.iter().zip(&moved).map(|(n, m)| n + on * m).collect();
            let still = moved.iter().all(|m| m.abs() < STILL * STILL);
            (best, momentum) = (next, faster);
            if still {
                break;
            }
        }
        best
    }

    /// Where to begin: every value as near as can be had.
    fn begun(&self) -> Vec<f64> {
        let mut levels = vec![self.darkest; self.least.len()];
        self.place.iter().zip(&self.near).for_each(|(p, v)| levels[*p] = *v);
        let steps = levels.iter().enumerate().map(|(i, v)| v - if i == 0 { self.darkest } else { levels[i - 1] });
        within(steps.zip(&self.least).map(|(s, l)| s - l).collect(), self.room)
    }
}

/// Borders between zones of different value.
fn borders(piece: &Piece, read: &[f64]) -> Vec<Border> {
    let at = |id: u16| piece.zones.iter().position(|z| z.id.0 == id);
    let borders = piece.geometry().borders.clone();
    let mut found: Vec<Border> = borders
        .into_iter()
        .filter_map(|(a, b, n)| {
            let (a, b) = (at(a)?, at(b)?);
            let (light, dark) = if read[a] > read[b] { (a, b) } else { (b, a) };
            (read[light] > read[dark]).then_some(Border { light, dark, share: n as f64 })
        })
        .collect();
    let all: f64 = found.iter().map(|b| b.share).sum();
    found.iter_mut().for_each(|b| b.share /= all);
    found
}

/// The nearest amounts that are nothing less than zero and no more than `room` together.
fn within(mut amounts: Vec<f64>, room: f64) -> Vec<f64> {
    amounts.iter_mut().for_each(|a| *a = a.max(0.0));
    if amounts.iter().sum::<f64>() <= room {
        return amounts;
    }
    let mut largest = amounts.clone();
    largest.sort_by(|a, b| b.total_cmp(a));
    let (mut sum, mut less) = (0.0, 0.0);
    for (n, a) in largest.iter().enumerate() {
        sum += a;
        let even = (sum - room) / (n + 1) as f64;
        if *a > even {
            less = even;
        }
    }
    amounts.iter().map(|a| (a - less).max(0.0)).collect()
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::staged::{Staged, staged};
    use proptest::prelude::*;

    fn of(values: &[f64], reach: (f64, f64), differences: Share) -> Vec<f64> {
        let piece = staged(&values.iter().map(|v| Staged::vt(*v, 0.0)).collect::<Vec<_>>());
        let read: Vec<f64> = piece.zones.iter().map(|z| z.reading.value.0).collect();
        assert!(read.iter().zip(values).all(|(a, b)| (a - b).abs() < 0.02), "{read:?}");
        fitted(&piece, reach, differences).iter().map(|v| v.0).collect()
    }

    #[test]
    fn what_lies_within_reach_stays_and_what_lies_beyond_is_pressed_in() {
        let values = [0.4, 1.2, 2.0, 3.0, 4.5, 5.5, 6.5, 7.5, 8.5, 9.6];
        let fit = of(&values, (2.4, 9.3), USUAL_DIFFERENCES);
        for (read, planned) in values.iter().zip(&fit).filter(|(v, _)| (4.4..=8.6).contains(*v)) {
            assert!((read - planned).abs() <= 0.3, "{read} moved to {planned}");
        }
        assert!(fit.windows(2).all(|w| w[1] > w[0]), "{fit:?}");
        assert!(fit[0] >= 2.4 - 1e-9 && fit[9] <= 9.3 + 1e-9, "{fit:?}");
    }

    #[test]
    fn where_differences_count_neighbours_keep_six_tenths_of_them() {
        let values = [0.5, 1.5, 2.5, 3.5];
        let (lights, differences) = (of(&values, (3.0, 9.3), Share::NONE), of(&values, (3.0, 9.3), Share::ALL));
        let least = |fit: &[f64]| fit.windows(2).map(|w| w[1] - w[0]).fold(f64::INFINITY, f64::min);
        assert!(least(&differences) > 0.45 && least(&lights) < 0.3, "{lights:?} {differences:?}");
    }

    #[test]
    fn a_picture_that_can_be_laid_is_left_alone() {
        let values = [3.0, 5.0, 8.0];
        assert!(of(&values, (1.5, 9.5), USUAL_DIFFERENCES).iter().zip(&values).all(|(a, b)| (a - b).abs() < 0.03));
    }

    proptest! {
        #[test]
        fn lighter_stays_lighter_within_reach(
            values in prop::collection::vec(0.2..9.8f64, 1..12), dark in 0.5..4.0f64, width in 1.0..6.0f64, differences in 0.0..1.0f64,
        ) {
            let fit = of(&values, (dark, dark + width), Share(differences));
            prop_assert!(fit.iter().all(|v| *v >= dark - 1e-9 && *v <= dark + width + 1e-9), "{fit:?}");
            for (i, j) in (0..values.len()).flat_map(|i| (0..values.len()).map(move |j| (i, j))) {
                if values[i] + 0.05 < values[j] { prop_assert!(fit[i] < fit[j], "{values:?} {fit:?}"); }
            }
        }
    }
}
