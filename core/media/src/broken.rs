//! Broken colour: dabs side by side, seen together from afar.

use lean_colour::{BANDS, Reflectance, Share};

/// Angle below which two dabs fuse in the eye, in minutes of arc; larger dabs stay apart and must be shown apart. A choice within
/// the usual 1 to 2.
pub const FUSES_AT: f64 = 1.5;

/// Dabs of these shares of the area seen together (Yule & Nielsen 1951): `R = (Σ aᵢ Rᵢ^(1/n))ⁿ`. `n` is 1 for paint that lets no light
/// spread (Murray–Davies) and up to 2 where light spreads in a translucent ground. Never average encoded screen colours or Lab instead.
///
/// # Errors
/// When shares are negative or all zero, or `n` is outside 1..=2.
pub fn fused(dabs: &[(Share, Reflectance)], n: f64) -> Result<Reflectance, String> {
    if !(1.0..=2.0).contains(&n) {
        return Err(format!("a spread of {n}: it lies between 1 (none) and 2"));
    }
    if let Some((share, _)) = dabs.iter().find(|(Share(s), _)| !s.is_finite() || *s < 0.0) {
        return Err(format!("a share of {}: shares are zero or more", share.0));
    }
    let total: f64 = dabs.iter().map(|(s, _)| s.0).sum();
    if total <= 0.0 {
        return Err("all shares are zero: give at least one dab some area".into());
    }
    Ok(Reflectance(std::array::from_fn(|i| dabs.iter().map(|(s, r)| s.0 / total * r.0[i].max(0.0).powf(1.0 / n)).sum::<f64>().powf(n))))
}

/// Whether dabs of `size` millimetres fuse at `distance` millimetres.
pub fn fuses(size: f64, distance: f64) -> bool {
    (size / distance).atan().to_degrees() * 60.0 <= FUSES_AT
}

/// Layers of strokes that fall where they may: what each of the 2ᵐ overlaps covers when layers cover the shares `covers`
/// independently (Demichel 1924). Bit `i` of the index says whether layer `i` is there.
pub(crate) fn overlaps(covers: &[Share]) -> Vec<Share> {
    (0..1usize << covers.len())
        .map(|state| Share(covers.iter().enumerate().map(|(i, c)| if state >> i & 1 == 1 { c.0 } else { c.rest().0 }).product()))
        .collect()
}

/// The bands of several reflectances combined one by one.
pub(crate) fn by_band(f: impl Fn(usize) -> f64) -> Reflectance {
    let mut out = [0.0; BANDS];
    for (i, o) in out.iter_mut().enumerate() {
        *o = f(i);
    }
    Reflectance(out)
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    #[test]
    fn overlaps_fill_the_whole_area() {
        let a = overlaps(&[0.3, 0.7, 0.2].map(Share));
        assert_eq!(a.len(), 8);
        assert!((a.iter().map(|s| s.0).sum::<f64>() - 1.0).abs() < 1e-12);
        assert!((a[0b101].0 - 0.3 * 0.3 * 0.2).abs() < 1e-12);
    }

    #[test]
    fn small_dabs_fuse_from_afar_and_large_ones_do_not() {
        assert!(fuses(1.0, 3000.0) && !fuses(10.0, 3000.0));
    }

    #[test]
    fn bad_shares_are_refused() {
        let r = Reflectance::flat(0.5);
        assert!(fused(&[(Share(0.0), r)], 1.0).unwrap_err().contains("all shares"));
        assert!(fused(&[(Share(-1.0), r)], 1.0).is_err() && fused(&[(Share(1.0), r)], 3.0).is_err());
    }

    proptest! {
        #[test]
        fn what_is_fused_lies_between_its_dabs(a in 0.0..1.0f64, b in 0.0..1.0f64, s in 0.01..1.0f64, n in 1.0..2.0f64) {
            let r = fused(&[(Share(s), Reflectance::flat(a)), (Share(1.0 - s), Reflectance::flat(b))], n).unwrap().0[0];
            prop_assert!(r >= a.min(b) - 1e-9 && r <= a.max(b) + 1e-9);
        }
    }
}
