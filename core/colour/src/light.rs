//! Lamps a piece is seen under.

use crate::lab::{Adapted, Lab, WHITE_D65, Xyz};
use crate::screen::Srgb8;
use crate::spectrum::{BANDS, Reflectance};
use serde::{Deserialize, Serialize};
use std::sync::LazyLock;

/// Folded weights of a light and an observer: one `[x, y, z]` row per band, `XYZ = Σ R·W`, Y of the perfect diffuser 100.
pub type Weights = [[f64; 3]; BANDS];

/// A light, always with the CIE 1931 2° observer.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Light {
    /// Overcast daylight, CIE illuminant D65: what colours are judged by when nothing else is said.
    #[default]
    Daylight,
    /// Warm daylight and viewing booths, CIE illuminant D50.
    D50,
    /// A filament lamp, CIE illuminant A.
    Tungsten,
    /// A warm white LED, CIE illuminant LED-B3.
    WarmLed,
}

static TABLES: LazyLock<[Weights; 4]> = LazyLock::new(|| {
    [
        include_str!("../data/weights_D65.csv"),
        include_str!("../data/weights_D50.csv"),
        include_str!("../data/weights_A.csv"),
        include_str!("../data/weights_LED-B3.csv"),
    ]
    .map(table)
});

fn table(text: &str) -> Weights {
    let mut rows = [[0.0; 3]; BANDS];
    for (row, line) in rows.iter_mut().zip(text.lines().skip(1)) {
        for (cell, number) in row.iter_mut().zip(line.split(',').skip(1)) {
            *cell = number.trim().parse().expect("the shipped weight tables are numeric");
        }
    }
    rows
}

impl Light {
    /// Every light, daylight first.
    pub const ALL: [Self; 4] = [Self::Daylight, Self::D50, Self::Tungsten, Self::WarmLed];

    /// The word on the screen.
    pub fn name(self) -> &'static str {
        match self {
            Self::Daylight => "daylight (D65)",
            Self::D50 => "warm daylight (D50)",
            Self::Tungsten => "tungsten lamp (A)",
            Self::WarmLed => "warm LED (LED-B3)",
        }
    }

    /// Its folded weights. The reflectance is taken as linear between bands and flat outside them.
    pub fn weights(self) -> &'static Weights {
        &TABLES[self as usize]
    }

    /// Its white: the perfect diffuser under it.
    pub fn white(self) -> Xyz {
        Reflectance::flat(1.0).xyz_under(self)
    }

    /// A light by what a painter or a file may call it.
    ///
    /// # Errors
    /// Says which words are understood.
    pub fn parse(text: &str) -> Result<Self, String> {
        match text.trim().to_ascii_lowercase().as_str() {
            "d65" | "daylight" => Ok(Self::Daylight),
            "d50" => Ok(Self::D50),
            "a" | "tungsten" => Ok(Self::Tungsten),
            "led-b3" | "led" | "warm-led" => Ok(Self::WarmLed),
            _ => Err(format!("no light called \"{text}\": use daylight (d65), d50, tungsten (a) or warm-led (led-b3)")),
        }
    }
}

impl Reflectance {
    /// Tristimulus values under daylight (D65) for the 2° observer, Y of the perfect diffuser = 100.
    pub fn xyz(&self) -> Xyz {
        self.xyz_under(Light::Daylight)
    }

    /// Tristimulus values under a light, Y of the perfect diffuser = 100.
    pub fn xyz_under(&self, light: Light) -> Xyz {
        let mut sum = [0.0; 3];
        for (r, w) in self.0.iter().zip(light.weights()) {
            for (s, w) in sum.iter_mut().zip(w) {
                *s += r * w;
            }
        }
        Xyz { x: sum[0], y: sum[1], z: sum[2] }
    }
}

impl Xyz {
    /// CIELAB relative to the white of the light it is seen under: what an eye used to that light sees.
    pub fn lab_under(&self, light: Light) -> Lab<Adapted> {
        self.lab_relative_to(light.white())
    }

    /// The screen colour that looks the same to an eye used to daylight as this does to one used to `light` (linear Bradford
    /// adaptation, as in ICC profiles).
    pub fn srgb_under(&self, light: Light) -> Srgb8 {
        self.adapted(light.white(), WHITE_D65).srgb()
    }

    /// Carried from one white to another by the linear Bradford transform (ICC.1, annex E).
    pub fn adapted(&self, from: Xyz, to: Xyz) -> Xyz {
        const CONES: [[f64; 3]; 3] = [[0.8951, 0.2664, -0.1614], [-0.7502, 1.7135, 0.0367], [0.0389, -0.0685, 1.0296]];
        const BACK: [[f64; 3]; 3] =
            [[0.986_992_9, -0.147_054_3, 0.159_962_7], [0.432_305_3, 0.518_360_3, 0.049_291_2], [-0.008_528_7, 0.040_042_8, 0.968_486_7]];
        let (own, old, new) = (times(&CONES, *self), times(&CONES, from), times(&CONES, to));
        let [x, y, z] = times(&BACK, Xyz { x: own[0] * new[0] / old[0], y: own[1] * new[1] / old[1], z: own[2] * new[2] / old[2] });
        Xyz { x, y, z }
    }
}

/// A 3 × 3 matrix times a colour.
pub(crate) fn times(matrix: &[[f64; 3]; 3], c: Xyz) -> [f64; 3] {
    std::array::from_fn(|i| matrix[i][0] * c.x + matrix[i][1] * c.y + matrix[i][2] * c.z)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn whites_are_the_published_ones() {
        // CIE 015 and CIE S 014-2, to what 10 nm bands that end at 730 nm allow.
        for (light, x, z, tolerance) in
            [(Light::Daylight, 95.047, 108.883, 0.01), (Light::D50, 96.422, 82.521, 0.02), (Light::Tungsten, 109.85, 35.585, 0.2)]
        {
            let w = light.white();
            assert!((w.y - 100.0).abs() < 1e-4 && (w.x - x).abs() < tolerance && (w.z - z).abs() < tolerance, "{light:?} {w:?}");
        }
    }

    #[test]
    fn a_grey_stays_grey_under_every_lamp() {
        for light in Light::ALL {
            let xyz = Reflectance::flat(0.18).xyz_under(light);
            let lab = xyz.lab_under(light);
            assert!(lab.chroma() < 1e-6, "{light:?} {lab:?}");
            let seen = xyz.srgb_under(light);
            assert!(seen.r.abs_diff(seen.g) <= 1 && seen.g.abs_diff(seen.b) <= 1, "{light:?} {seen:?}");
        }
    }

    #[test]
    fn adapting_there_and_back_changes_nothing() {
        let c = Xyz { x: 30.0, y: 25.0, z: 12.0 };
        let (a, d) = (Light::Tungsten.white(), WHITE_D65);
        let back = c.adapted(d, a).adapted(a, d);
        assert!((back.x - c.x).abs() < 1e-4 && (back.y - c.y).abs() < 1e-4 && (back.z - c.z).abs() < 1e-4);
    }

    #[test]
    fn lights_are_called_by_several_names() {
        assert_eq!(Light::parse("D65"), Ok(Light::Daylight));
        assert_eq!(Light::parse("tungsten"), Ok(Light::Tungsten));
        assert!(Light::parse("moon").unwrap_err().contains("tungsten"));
    }
}
