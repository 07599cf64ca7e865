//! Two surfaces that match under one light and part under another.

use crate::difference::ciede2000;
use crate::light::Light;
use crate::spectrum::Reflectance;

/// Below this CIEDE2000 two colours count as matching. A choice.
pub(crate) const MATCH: f64 = 2.0;
/// From this CIEDE2000 on, two colours that match by daylight are said to part under a lamp. A choice.
pub(crate) const PARTS: f64 = 3.0;

/// How far apart two surfaces look under one light.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) struct Under {
    /// The light.
    pub light: Light,
    /// CIEDE2000, each relative to the light's own white.
    pub difference: f64,
}

/// Differences of two *measured or computed* surfaces under every light. An inferred reflectance must not be used here: it is one metamer
/// of many.
pub(crate) fn differences(a: &Reflectance, b: &Reflectance) -> [Under; 4] {
    Light::ALL.map(|light| {
        let lab = |r: &Reflectance| r.xyz_under(light).lab_under(light);
        Under { light, difference: ciede2000(lab(a), lab(b)) }
    })
}

/// The lamp under which two surfaces that match by daylight part most, if they part at all.
pub(crate) fn warning(a: &Reflectance, b: &Reflectance) -> Option<Under> {
    let [daylight, lamps @ ..] = differences(a, b);
    let worst = lamps.into_iter().max_by(|x, y| x.difference.total_cmp(&y.difference))?;
    (daylight.difference < MATCH && worst.difference >= PARTS).then_some(worst)
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::inferred::reflectance_of;

    #[test]
    fn a_surface_never_parts_from_itself() {
        let r = Reflectance(std::array::from_fn(|i| 0.1 + 0.02 * i as f64));
        assert!(differences(&r, &r).iter().all(|u| u.difference == 0.0));
        assert_eq!(warning(&r, &r), None);
    }

    #[test]
    fn a_comb_and_a_smooth_grey_part_under_a_lamp() {
        // A surface with three narrow peaks, and the smoothest surface of the same daylight colour.
        let peak = |i: usize, at: f64| (-((i as f64 - at) / 1.6).powi(2)).exp();
        let comb = Reflectance(std::array::from_fn(|i| 0.05 + 0.75 * (peak(i, 7.0) + peak(i, 16.0) + peak(i, 23.0)).min(1.0)));
        let smooth = reflectance_of(comb.xyz()).reflectance;
        let warned = warning(&comb, &smooth).expect("they part");
        assert!(warned.light != Light::Daylight && warned.difference > PARTS);
    }

    #[test]
    fn plainly_different_colours_are_no_metamers() {
        assert_eq!(warning(&Reflectance::flat(0.2), &Reflectance::flat(0.6)), None);
    }
}
