//! Least squares for one band: two unknowns, K and S, neither below zero.

/// Variances and covariance of K and S.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub(crate) struct Covariance {
    /// Variance of K.
    pub kk: f64,
    /// Covariance.
    pub ks: f64,
    /// Variance of S.
    pub ss: f64,
}

/// Rows `a·K + b·S = y`, already divided by their standard error, summed up.
#[derive(Clone, Copy, Debug, Default)]
pub(super) struct Sums {
    aa: f64,
    ab: f64,
    bb: f64,
    ay: f64,
    by: f64,
    yy: f64,
}

impl Sums {
    /// Adds a row.
    pub(super) fn row(&mut self, a: f64, b: f64, y: f64) {
        self.aa += a * a;
        self.ab += a * b;
        self.bb += b * b;
        self.ay += a * y;
        self.by += b * y;
        self.yy += y * y;
    }

    fn misfit(&self, k: f64, s: f64) -> f64 {
        self.yy - 2.0 * (k * self.ay + s * self.by) + k * k * self.aa + 2.0 * k * s * self.ab + s * s * self.bb
    }

    /// The least-squares K and S with neither below zero (Lawson & Hanson 1974; with two unknowns the active sets can be
    /// gone through one by one).
    pub(super) fn solved(&self) -> (f64, f64) {
        let det = self.aa * self.bb - self.ab * self.ab;
        let free = (det > 1e-12 * self.aa * self.bb)
            .then(|| ((self.bb * self.ay - self.ab * self.by) / det, (self.aa * self.by - self.ab * self.ay) / det));
        let alone = |xx: f64, xy: f64| if xx > 0.0 { (xy / xx).max(0.0) } else { 0.0 };
        let candidates = [free, Some((alone(self.aa, self.ay), 0.0)), Some((0.0, alone(self.bb, self.by)))];
        candidates
            .into_iter()
            .flatten()
            .filter(|(k, s)| *k >= 0.0 && *s >= 0.0)
            .min_by(|p, q| self.misfit(p.0, p.1).total_cmp(&self.misfit(q.0, q.1)))
            .unwrap_or((0.0, 0.0))
    }

    /// Inverse of the normal matrix: how sure K and S are.
    pub(crate) fn covariance(&self) -> Covariance {
        let det = (self.aa * self.bb - self.ab * self.ab).max(1e-300);
        Covariance { kk: self.bb / det, ks: -self.ab / det, ss: self.aa / det }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    proptest! {
        #[test]
        fn no_other_pair_fits_better(rows in prop::collection::vec((-2.0..2.0f64, -2.0..2.0f64, -3.0..3.0f64), 3..8), k in 0.0..4.0f64, s in 0.0..4.0f64) {
            let mut sums = Sums::default();
            rows.iter().for_each(|(a, b, y)| sums.row(*a, *b, *y));
            let best = sums.solved();
            prop_assert!(best.0 >= 0.0 && best.1 >= 0.0);
            prop_assert!(sums.misfit(best.0, best.1) <= sums.misfit(k, s) + 1e-9);
        }
    }
}
