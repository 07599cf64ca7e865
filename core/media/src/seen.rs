//! What an eye makes of a reflectance under a light: one call from any layering.

use lean_colour::{Adapted, Lab, Light, Oklab, Reflectance, Srgb8, Temperature, Value, Xyz};

/// A colour under a light, in every form a painter or a screen asks for.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Seen {
    /// The light.
    pub light: Light,
    /// Tristimulus values under it, 2° observer.
    pub xyz: Xyz,
    /// CIELAB relative to its white: an eye used to that light.
    pub lab: Lab<Adapted>,
    /// OKLab of the same colour carried to daylight, for display gradients.
    pub oklab: Oklab,
    /// Munsell value of its luminance under that light.
    pub value: Value,
    /// Warm–cool position, relative to the light's own white.
    pub temperature: Temperature,
    /// The nearest screen colour carried to daylight, with an honest flag when this screen cannot show it.
    pub srgb: Srgb8,
}

impl Seen {
    /// A reflectance under a light.
    pub fn of(reflectance: &Reflectance, light: Light) -> Self {
        let xyz = reflectance.xyz_under(light);
        let lab = xyz.lab_under(light);
        Self {
            light,
            xyz,
            lab,
            oklab: if light == Light::Daylight { xyz.oklab() } else { xyz.adapted(light.white(), Light::Daylight.white()).oklab() },
            value: Value::from_luminance(xyz.y),
            temperature: Temperature::of(lab),
            srgb: if light == Light::Daylight { xyz.srgb() } else { xyz.srgb_under(light) },
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn daylight_is_what_colours_are_judged_by() {
        let r = Reflectance(std::array::from_fn(|i| 0.05 + 0.02 * i as f64));
        let seen = Seen::of(&r, Light::Daylight);
        let lab = r.xyz().lab();
        assert!((seen.lab.l - lab.l).abs() < 1e-4 && (seen.lab.a - lab.a).abs() < 1e-3 && (seen.lab.b - lab.b).abs() < 1e-3);
        assert!((seen.value.0 - lab.value().0).abs() < 1e-4);
    }

    #[test]
    fn a_red_gains_on_a_blue_under_a_filament_lamp() {
        let red = Reflectance(std::array::from_fn(|i| if i > 22 { 0.6 } else { 0.05 }));
        let blue = Reflectance(std::array::from_fn(|i| if i < 12 { 0.6 } else { 0.05 }));
        let gain = |r: &Reflectance| Seen::of(r, Light::Tungsten).value.0 - Seen::of(r, Light::Daylight).value.0;
        assert!(gain(&red) > 0.3 && gain(&blue) < -0.3);
    }
}
