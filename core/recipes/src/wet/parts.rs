//! Wet mixes a hand can measure: whole parts, and at the finest a touch of one more pigment.

use crate::mix::TOUCH;
use std::sync::LazyLock;

/// Most parts in a usual mix.
pub const MOST_PARTS: u8 = 8;
/// Most parts in a finer one.
pub(crate) const FINER_PARTS: u8 = 16;

/// Whole parts of up to three pigments and of white, `[p, q, r, white]`, and which of the three is only a touch.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Pattern {
    /// Whole parts; none for the one that is a touch.
    pub parts: [u8; 4],
    /// The place of the pigment there is only a touch of.
    pub touch: Option<usize>,
}

impl Pattern {
    /// Amounts whose ratios make the mix.
    pub fn amounts(&self) -> [f64; 4] {
        let mut amounts = self.parts.map(f64::from);
        if let Some(place) = self.touch {
            amounts[place] = amounts.iter().sum::<f64>() / TOUCH;
        }
        amounts
    }
}

static USUAL: LazyLock<[Vec<Pattern>; 4]> = LazyLock::new(|| std::array::from_fn(|n| list(n, MOST_PARTS)));
static FINER: LazyLock<[Vec<Pattern>; 4]> = LazyLock::new(|| {
    std::array::from_fn(|n| {
        let mut all = list(n, FINER_PARTS);
        for touch in 0..n {
            all.extend(touches(n, touch));
        }
        all
    })
});

/// Every pattern with exactly `pigments` (0..=3) pigments: each has at least one part, white any number, eight parts in all at most,
/// no common divisor.
pub fn usual(pigments: usize) -> &'static [Pattern] {
    &USUAL[pigments.min(3)]
}

/// The same up to sixteen parts, and up to eight with a touch of one more pigment.
pub fn finer(pigments: usize) -> &'static [Pattern] {
    &FINER[pigments.min(3)]
}

/// Patterns of `n` pigments of which the one at `touch` is only a touch.
fn touches(n: usize, touch: usize) -> Vec<Pattern> {
    list(n - 1, MOST_PARTS)
        .into_iter()
        .map(|p| {
            let mut rest = p.parts[..n - 1].iter();
            let mut parts = [0, 0, 0, p.parts[3]];
            (0..n).filter(|place| *place != touch).zip(rest.by_ref()).for_each(|(place, n)| parts[place] = *n);
            Pattern { parts, touch: Some(touch) }
        })
        .collect()
}

fn list(pigments: usize, most: u8) -> Vec<Pattern> {
    let mut found = Vec::new();
    let range = |on: bool| if on { 1..=most } else { 0..=0 };
    for p in range(pigments > 0) {
        for q in range(pigments > 1) {
            for r in range(pigments > 2) {
                for white in 0..=most {
                    let parts = [p, q, r, white];
                    let total: u32 = parts.iter().map(|n| u32::from(*n)).sum();
                    if (1..=u32::from(most)).contains(&total) && parts.into_iter().fold(0, gcd) == 1 {
                        found.push(Pattern { parts, touch: None });
                    }
                }
            }
        }
    }
    found
}

fn gcd(a: u8, b: u8) -> u8 {
    if b == 0 { a } else { gcd(b, a % b) }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn as_many_as_counted_by_hand() {
        assert_eq!([0, 1, 2, 3].map(|n| usual(n).len()), [1, 22, 73, 121]);
    }

    #[test]
    fn finer_mixes_hold_the_usual_ones_and_touches() {
        for n in 0..=3 {
            assert!(usual(n).iter().all(|p| finer(n).contains(p)));
        }
        let touched = finer(2).iter().find(|p| p.touch == Some(1) && p.parts == [3, 0, 0, 1]).unwrap();
        let a = touched.amounts();
        assert!((a[1] / (a[0] + a[3]) - 1.0 / TOUCH).abs() < 1e-12);
        assert!(finer(3).iter().all(|p| p.amounts().iter().take(3).all(|n| *n > 0.0)));
    }
}
