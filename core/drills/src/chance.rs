//! Numbers by chance, the same for the same seed (Steele, Lea & Flood 2014, SplitMix64).

/// A source of numbers.
pub(crate) struct Chance(u64);

impl Chance {
    pub(crate) fn seeded(seed: u64) -> Self {
        Self(seed)
    }

    pub(crate) fn next(&mut self) -> u64 {
        self.0 = self.0.wrapping_add(0x9E37_79B9_7F4A_7C15);
        let mut z = self.0;
        z = (z ^ (z >> 30)).wrapping_mul(0xBF58_476D_1CE4_E5B9);
        z = (z ^ (z >> 27)).wrapping_mul(0x94D0_49BB_1331_11EB);
        z ^ (z >> 31)
    }

    /// From 0 up to, not including, 1.
    pub(crate) fn share(&mut self) -> f64 {
        (self.next() >> 11) as f64 / (1u64 << 53) as f64
    }

    pub(crate) fn between(&mut self, from: f64, to: f64) -> f64 {
        from + (to - from) * self.share()
    }

    pub(crate) fn below(&mut self, n: usize) -> usize {
        (self.share() * n as f64) as usize
    }

    /// A list in any order.
    pub(crate) fn shuffled<T>(&mut self, mut of: Vec<T>) -> Vec<T> {
        for i in (1..of.len()).rev() {
            of.swap(i, self.below(i + 1));
        }
        of
    }
}
