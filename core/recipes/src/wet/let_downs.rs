//! Wet mixes as a hand makes them when one pigment is far stronger than another: whole parts, and heaps let down step by step.
//!
//! No hand measures 1 part to 64. It lets the strong one down, 1 to 16, and takes of that. So amounts stand in octaves, 1:2, 1:4 ... 1:256, and each
//! is told as a short chain of heaps whose whole parts give it as nearly as whole parts do; the amounts of a recipe are those of its heaps.

use std::collections::HashSet;
use std::sync::LazyLock;

/// The weakest let-down, in octaves: one part to two hundred and fifty-six.
pub const OCTAVES: u32 = 8;
/// The weakest let-down in white, in octaves: one part to a thousand and twenty-four. A tint of a white cloth wants less than one part in 256.
pub(crate) const OCTAVES_OF_WHITE: u32 = 10;
/// Most parts against one other in a single heap; beyond it something is let down first. A choice.
const MOST_TO_ONE: f64 = 12.0;
/// How far a heap is let down at once: one part to so many, where there is enough to let it down in. A choice.
const LET_DOWN: f64 = 16.0;

/// One heap: whole parts of the heap before it and of the four things that may be in a mix.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
pub struct Heap {
    /// Parts of the heap before it; none in the first.
    pub of_last: u16,
    /// Parts of three pigments and white.
    pub with: [u16; 4],
}

impl Heap {
    /// All its parts.
    pub fn total(&self) -> f64 {
        f64::from(self.of_last) + self.with.iter().map(|n| f64::from(*n)).sum::<f64>()
    }
}

/// A chain of heaps, the mix last.
#[derive(Clone, Debug, PartialEq)]
pub struct Chain {
    /// First made first.
    pub heaps: Vec<Heap>,
    /// Amounts of three pigments and white in the mix, the least 1.
    pub amounts: [f64; 4],
}

impl Chain {
    fn of(heaps: Vec<Heap>) -> Self {
        let amounts = amounts_of(&heaps);
        let least = amounts.iter().copied().filter(|a| *a > 0.0).fold(f64::INFINITY, f64::min);
        Self { heaps, amounts: amounts.map(|a| a / least) }
    }
}

/// Amounts of three pigments and white in the last heap of a chain.
pub(crate) fn amounts_of(heaps: &[Heap]) -> [f64; 4] {
    let mut last = [0.0; 4];
    for heap in heaps {
        let before: f64 = last.iter().sum();
        let taken = if before > 0.0 { f64::from(heap.of_last) / before } else { 0.0 };
        last = std::array::from_fn(|i| last[i] * taken + f64::from(heap.with[i]));
    }
    last
}

static LISTS: LazyLock<[Vec<Chain>; 4]> = LazyLock::new(|| std::array::from_fn(list));

/// Every chain with exactly `pigments` (0..=3) pigments and any amount of white: all ratios in octaves down to 1:256, in white down to 1:1024, and
/// with one or two pigments the steps between (1:3, 1:6 ...) too.
pub fn chains(pigments: usize) -> &'static [Chain] {
    &LISTS[pigments.min(3)]
}

fn list(pigments: usize) -> Vec<Chain> {
    if pigments == 0 {
        return vec![Chain::of(vec![Heap { of_last: 0, with: [0, 0, 0, 1] }])];
    }
    let steps: Vec<f64> = (0..=OCTAVES).map(|e| f64::from(1u32 << e)).collect();
    let between: Vec<f64> = (0..OCTAVES - 1).map(|e| 3.0 * f64::from(1u32 << e)).collect();
    let (most, most_white) = (f64::from(1u32 << OCTAVES), f64::from(1u32 << OCTAVES_OF_WHITE));
    let absent = [0.0];
    let whites: Vec<f64> = absent.into_iter().chain((0..=OCTAVES_OF_WHITE).map(|e| f64::from(1u32 << e))).collect();
    let mut found = Vec::new();
    let mut told = HashSet::new();
    let mut offer = |amounts: [f64; 4]| {
        let there = || amounts.iter().copied().filter(|a| *a > 0.0);
        let least = there().fold(f64::INFINITY, f64::min);
        let largest = amounts[..3].iter().copied().fold(0.0, f64::max);
        if largest / least > most || amounts[3] / least > most_white {
            return;
        }
        let chain = Chain::of(heaps_of(amounts.map(|a| a / least)));
        if told.insert(chain.heaps.clone()) {
            found.push(chain);
        }
    };
    let range = |place: usize| if place < pigments { steps.as_slice() } else { absent.as_slice() };
    for p in range(0) {
        for q in range(1) {
            for r in range(2) {
                for white in &whites {
                    offer([*p, *q, *r, *white]);
                }
            }
        }
    }
    if pigments < 3 {
        // Half way between octaves: one of the amounts is three of the next smaller unit.
        for odd in &between {
            for p in range(0) {
                for q in range(1) {
                    for white in &whites {
                        offer([*odd, *q, 0.0, *white]);
                        offer([*p, *q, 0.0, *odd]);
                        if pigments == 2 {
                            offer([*p, *odd, 0.0, *white]);
                        }
                    }
                }
            }
        }
    }
    found
}

/// A chain of heaps that comes as near to some amounts as whole parts do.
fn heaps_of(amounts: [f64; 4]) -> Vec<Heap> {
    let there = |a: &[f64; 4]| -> Vec<usize> { (0..4).filter(|i| a[*i] > 0.0).collect() };
    let whole = |of_last: f64, a: [f64; 4]| {
        let parts = std::iter::once(of_last).chain(a).filter(|x| *x > 0.0);
        let least = parts.fold(f64::INFINITY, f64::min);
        let round = |x: f64| if x > 0.0 { (x / least).round().max(1.0) as u16 } else { 0 };
        reduced(Heap { of_last: round(of_last), with: a.map(round) })
    };
    let all = there(&amounts);
    let most = *all.iter().max_by(|a, b| amounts[**a].total_cmp(&amounts[**b]).then(a.cmp(b))).unwrap_or(&3);
    let least = all.iter().map(|i| amounts[*i]).fold(f64::INFINITY, f64::min);
    if amounts[most] / least <= MOST_TO_ONE {
        return vec![whole(0.0, amounts)];
    }
    // The small amounts are mixed first, as a base of their own.
    let small = |i: usize| i != most && amounts[i] * MOST_TO_ONE < amounts[most];
    let base: [f64; 4] = std::array::from_fn(|i| if small(i) { amounts[i] } else { 0.0 });
    let mut rest: [f64; 4] = std::array::from_fn(|i| if small(i) { 0.0 } else { amounts[i] });
    let mut heaps = if there(&base).len() > 1 { heaps_of(base) } else { Vec::new() };
    let mut last: f64 = base.iter().sum();
    while rest[most] / last > LET_DOWN || (heaps.is_empty() && there(&rest).len() > 1) {
        // Let it down in what there is most of.
        let times = (rest[most] / last).min(LET_DOWN);
        let times = 2f64.powf(times.log2().floor());
        let mut with = [0u16; 4];
        let of_last = if heaps.is_empty() {
            let only = there(&base)[0];
            with[only] = 1;
            0
        } else {
            1
        };
        with[most] = times as u16;
        heaps.push(Heap { of_last, with });
        rest[most] = (rest[most] - times * last).max(0.0);
        last *= 1.0 + times;
    }
    // What is left of it may be too little to count beside a part of the rest.
    let unit = std::iter::once(last).chain(rest.iter().copied().enumerate().filter(|(i, x)| *i != most && *x > 0.0).map(|(_, x)| x));
    let unit = unit.fold(f64::INFINITY, f64::min);
    if rest[most] < 0.5 * unit {
        rest[most] = 0.0;
    }
    if there(&rest).is_empty() {
        return heaps;
    }
    if heaps.is_empty() {
        return vec![whole(0.0, amounts)];
    }
    heaps.push(whole(last, rest));
    heaps
}

/// The same heap in the fewest parts.
fn reduced(heap: Heap) -> Heap {
    let divisor = heap.with.iter().fold(heap.of_last, |a, b| gcd(a, *b)).max(1);
    Heap { of_last: heap.of_last / divisor, with: heap.with.map(|n| n / divisor) }
}

fn gcd(a: u16, b: u16) -> u16 {
    if b == 0 { a } else { gcd(b, a % b) }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn every_ratio_in_octaves_is_there_within_what_whole_parts_can_say() {
        for n in 1..=3usize {
            let (mut worst, mut palest): (f64, f64) = (0.0, 0.0);
            for chain in chains(n) {
                assert!((0..3).all(|i| (chain.amounts[i] > 0.0) == (i < n)));
                assert!(chain.heaps.iter().all(|h| h.total() >= 1.0 && h.with.iter().chain([&h.of_last]).all(|p| *p <= 40)), "{chain:?}");
                assert!(chain.heaps.len() <= 4, "{chain:?}");
            }
            for e in 0..=OCTAVES_OF_WHITE {
                let wanted = f64::from(1u32 << e);
                let near = chains(n).iter().filter(|c| c.amounts[3] > 0.0).map(|c| (c.amounts[3] / c.amounts[0] / wanted).log2().abs());
                let off = near.fold(f64::INFINITY, f64::min);
                if e <= OCTAVES { worst = worst.max(off) } else { palest = palest.max(off) }
            }
            assert!(worst < 0.15 && palest < 0.2, "{n}: {worst} and {palest} of an octave off");
        }
    }

    #[test]
    fn a_strong_pigment_is_let_down_in_steps_a_hand_makes() {
        let tint = heaps_of([1.0, 0.0, 0.0, 64.0]);
        assert_eq!(tint, [Heap { of_last: 0, with: [1, 0, 0, 16] }, Heap { of_last: 1, with: [0, 0, 0, 3] }]);
        let amounts = amounts_of(&tint);
        assert!((amounts[3] / amounts[0] - 67.0).abs() < 1e-9, "one to sixteen, and of that one to three, is one to 67");
        assert_eq!(heaps_of([1.0, 0.0, 0.0, 4.0]), [Heap { of_last: 0, with: [1, 0, 0, 4] }]);
        let both = heaps_of([1.0, 1.0, 0.0, 64.0]);
        assert_eq!(both[0], Heap { of_last: 0, with: [1, 1, 0, 0] }, "what is small together is mixed first");
    }

    #[test]
    fn heaps_keep_to_the_ratios_they_were_asked_for() {
        let octaves = |n: u32| (0..4).map(move |place| f64::from(1u32 << (2 * (n >> (2 * place) & 3))));
        let mut worst: f64 = 0.0;
        for n in 0..256 {
            let wanted: [f64; 4] = octaves(n).collect::<Vec<_>>().try_into().unwrap();
            let told = amounts_of(&heaps_of(wanted));
            for (i, j) in [(0, 1), (1, 2), (2, 3), (3, 0)] {
                worst = worst.max(((told[i] / told[j]) / (wanted[i] / wanted[j])).log2().abs());
            }
        }
        println!("{worst:.2} of an octave");
        // Rounding to whole parts may be half a part off in one.
        assert!(worst < 1.5f64.log2() + 1e-9, "{worst} of an octave off");
    }

    #[test]
    fn as_many_as_counted() {
        assert_eq!(chains(0).len(), 1);
        let counts = [1, 2, 3].map(|n| chains(n).len());
        assert!(counts[0] > 20 && counts[2] > 2000 && counts[2] <= 3200, "{counts:?}");
    }
}
