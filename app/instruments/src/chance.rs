//! Random numbers that are the same every time.

/// A sequence of random numbers from a seed (a linear congruential generator with the constants of Knuth's MMIX).
#[derive(Clone, Copy, Debug)]
pub(crate) struct Chance(u64);

impl Chance {
    pub(crate) fn seeded(seed: u64) -> Self {
        Self(seed.wrapping_mul(0x9E37_79B9_7F4A_7C15) ^ 0x5DEE_CE66)
    }

    /// The next number, 0..1, even.
    pub(crate) fn uniform(&mut self) -> f64 {
        self.0 = self.0.wrapping_mul(6_364_136_223_846_793_005).wrapping_add(1_442_695_040_888_963_407);
        (self.0 >> 11) as f64 / (1u64 << 53) as f64
    }

    /// The next number, roughly normal with a standard deviation of 1 (the sum of twelve even ones).
    pub(crate) fn normal(&mut self) -> f64 {
        (0..12).map(|_| self.uniform()).sum::<f64>() - 6.0
    }
}
