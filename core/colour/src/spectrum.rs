//! Surfaces in 36 bands, and how daylight sees them.

/// Number of bands: 380 to 730 nm by 10 nm.
pub const BANDS: usize = 36;

/// Share of light a surface sends back, per band, each in 0..=1 (air side of the surface).
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Reflectance(pub [f64; BANDS]);

/// Centre of band `i` in nanometres.
pub fn wavelength(i: usize) -> f64 {
    380.0 + 10.0 * i as f64
}

impl Reflectance {
    /// A flat reflectance, `r` in 0..=1.
    pub fn flat(r: f64) -> Self {
        Self([r; BANDS])
    }

    /// Area-weighted average of surfaces too small to be told apart (Murray–Davies/Neugebauer, n = 1).
    ///
    /// Shares need not sum to 1; all-zero shares give black.
    pub fn fused(parts: &[(f64, Reflectance)]) -> Self {
        let total: f64 = parts.iter().map(|p| p.0).sum();
        let mut out = [0.0; BANDS];
        if total > 0.0 {
            for (share, r) in parts {
                for (o, r) in out.iter_mut().zip(r.0) {
                    *o += share / total * r;
                }
            }
        }
        Self(out)
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::lab::WHITE_D65;

    #[test]
    fn the_perfect_diffuser_is_the_white_point() {
        let w = Reflectance::flat(1.0).xyz();
        assert!((w.x - WHITE_D65.x).abs() < 1e-5);
        assert!((w.y - 100.0).abs() < 1e-5);
        assert!((w.z - WHITE_D65.z).abs() < 1e-5);
    }

    #[test]
    fn fusing_a_surface_with_itself_changes_nothing() {
        let r = Reflectance::flat(0.4);
        let f = Reflectance::fused(&[(1.0, r), (3.0, r)]);
        assert!(f.0.iter().all(|x| (x - 0.4).abs() < 1e-12));
    }
}
