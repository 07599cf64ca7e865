//! Recipes a hand can measure: whole parts, eight at most.

use std::sync::LazyLock;

/// Most parts in one mix.
pub const MOST_PARTS: u8 = 8;
/// Most pigments in one mix besides white.
pub const MOST_PIGMENTS: usize = 3;

/// Parts of up to three pigments and of white: `[p, q, r, white]`.
pub type Pattern = [u8; 4];

static ALL: LazyLock<[Vec<Pattern>; 4]> = LazyLock::new(|| [list(0), list(1), list(2), list(3)]);

/// Every pattern with exactly `pigments` (0..=3) pigments: each has at least one part, white any number, eight parts in all at most,
/// no common divisor.
pub fn of(pigments: usize) -> &'static [Pattern] {
    &ALL[pigments.min(3)]
}

fn list(pigments: usize) -> Vec<Pattern> {
    let mut found = Vec::new();
    let range = |on: bool| if on { 1..=MOST_PARTS } else { 0..=0 };
    for p in range(pigments > 0) {
        for q in range(pigments > 1) {
            for r in range(pigments > 2) {
                for white in 0..=MOST_PARTS {
                    let pattern = [p, q, r, white];
                    let total: u32 = pattern.iter().map(|n| u32::from(*n)).sum();
                    if (1..=u32::from(MOST_PARTS)).contains(&total) && pattern.into_iter().fold(0, gcd) == 1 {
                        found.push(pattern);
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
        assert_eq!([of(0).len(), of(1).len(), of(2).len(), of(3).len()], [1, 22, 73, 121]);
    }
}
