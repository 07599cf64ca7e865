//! Colours on this screen: sRGB (IEC 61966-2-1), with an honest flag when the screen cannot show one.

use crate::lab::{D65, Lab, Xyz};
use palette::convert::FromColorUnclamped;
use palette::{FromColor, Srgb, white_point};
use serde::{Deserialize, Serialize};
use std::sync::LazyLock;

/// An encoded sRGB colour, 8 bits each, and whether the true colour was inside the screen's gamut.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Srgb8 {
    /// Red, 0..=255.
    pub r: u8,
    /// Green, 0..=255.
    pub g: u8,
    /// Blue, 0..=255.
    pub b: u8,
    /// False when the colour had to be clipped to be shown.
    pub in_gamut: bool,
}

impl Srgb8 {
    /// `#rrggbb`.
    pub fn hex(&self) -> String {
        format!("#{:02x}{:02x}{:02x}", self.r, self.g, self.b)
    }
}

impl Xyz {
    /// The nearest screen colour, clipped per channel, flagged when it was clipped.
    pub fn srgb(&self) -> Srgb8 {
        let xyz: palette::Xyz<white_point::D65, f64> = palette::Xyz::new(self.x / 100.0, self.y / 100.0, self.z / 100.0);
        let rgb: Srgb<f64> = Srgb::from_linear(palette::LinSrgb::from_color_unclamped(xyz));
        let slack = 0.5 / 255.0;
        let inside = |c: f64| (-slack..=1.0 + slack).contains(&c);
        let byte = |c: f64| (c.clamp(0.0, 1.0) * 255.0).round() as u8;
        Srgb8 {
            r: byte(rgb.red),
            g: byte(rgb.green),
            b: byte(rgb.blue),
            in_gamut: inside(rgb.red) && inside(rgb.green) && inside(rgb.blue),
        }
    }
}

/// An encoded colour for a screen with the Display P3 gamut (the primaries of SMPTE RP 431-2, white D65, the curve of sRGB).
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct DisplayP3 {
    /// Red, 0..=1.
    pub r: f64,
    /// Green, 0..=1.
    pub g: f64,
    /// Blue, 0..=1.
    pub b: f64,
    /// False when the colour had to be clipped even there.
    pub in_gamut: bool,
}

/// Linear Display P3 from tristimulus values (white D65), by its primaries (0.680, 0.320), (0.265, 0.690), (0.150, 0.060).
const P3_OF_XYZ: [[f64; 3]; 3] = [
    [2.493_496_911_941_425, -0.931_383_617_919_123_9, -0.402_710_784_450_716_84],
    [-0.829_488_969_561_574_7, 1.762_664_060_318_346_3, 0.023_624_685_841_943_577],
    [0.035_845_830_243_784_47, -0.076_172_389_268_041_82, 0.956_884_524_007_687_2],
];

impl Xyz {
    /// The nearest colour of a wide screen, clipped per channel, flagged when it was clipped.
    pub fn display_p3(&self) -> DisplayP3 {
        let linear = P3_OF_XYZ.map(|row| (row[0] * self.x + row[1] * self.y + row[2] * self.z) / 100.0);
        let encoded: Srgb<f64> = Srgb::from_linear(palette::LinSrgb::new(linear[0], linear[1], linear[2]));
        let all = [encoded.red, encoded.green, encoded.blue];
        let slack = 0.5 / 255.0;
        let [r, g, b] = all.map(|c| (c.clamp(0.0, 1.0) * 1e4).round() / 1e4);
        DisplayP3 { r, g, b, in_gamut: all.iter().all(|c| (-slack..=1.0 + slack).contains(c)) }
    }
}

/// Linear light, 0..=1, of each encoded sRGB byte.
pub static LINEAR: LazyLock<[f64; 256]> = LazyLock::new(|| {
    std::array::from_fn(|i| {
        let linear: palette::LinSrgb<f64> = Srgb::new(i as f64 / 255.0, 0.0, 0.0).into_linear();
        linear.red
    })
});

/// Tristimulus values of an encoded sRGB pixel.
pub fn xyz_of_srgb(rgb: [u8; 3]) -> Xyz {
    xyz_of_linear([LINEAR[rgb[0] as usize], LINEAR[rgb[1] as usize], LINEAR[rgb[2] as usize]])
}

/// Tristimulus values of linear sRGB light, each 0..=1.
pub fn xyz_of_linear(rgb: [f64; 3]) -> Xyz {
    let lin = palette::LinSrgb::new(rgb[0], rgb[1], rgb[2]);
    let xyz: palette::Xyz<white_point::D65, f64> = palette::Xyz::from_color(lin);
    Xyz { x: xyz.x * 100.0, y: xyz.y * 100.0, z: xyz.z * 100.0 }
}

/// Linear sRGB light of tristimulus values; below 0 or above 1 where no screen shows them.
pub fn linear_of_xyz(xyz: Xyz) -> [f64; 3] {
    let xyz: palette::Xyz<white_point::D65, f64> = palette::Xyz::new(xyz.x / 100.0, xyz.y / 100.0, xyz.z / 100.0);
    let rgb: palette::LinSrgb<f64> = palette::LinSrgb::from_color_unclamped(xyz);
    [rgb.red, rgb.green, rgb.blue]
}

/// CIELAB of an encoded sRGB pixel.
pub fn lab_of_srgb(rgb: [u8; 3]) -> Lab<D65> {
    xyz_of_srgb(rgb).lab()
}

/// Reads `#rrggbb` (the `#` may be missing).
///
/// # Errors
/// Says which text was not six hexadecimal digits.
pub fn parse_hex(text: &str) -> Result<[u8; 3], String> {
    let t = text.trim().trim_start_matches('#');
    let parsed = (t.len() == 6 && t.is_ascii()).then(|| u32::from_str_radix(t, 16).ok()).flatten();
    match parsed {
        Some(n) => Ok([(n >> 16) as u8, (n >> 8) as u8, n as u8]),
        None => Err(format!("\"{text}\" is not a colour: write six hexadecimal digits, as in #a39c90")),
    }
}

/// The neutral grey of linear light `y` (0..=1) as an encoded byte.
pub fn grey_byte(y: f64) -> u8 {
    let encoded: Srgb<f64> = Srgb::from_linear(palette::LinSrgb::new(y, y, y));
    (encoded.red.clamp(0.0, 1.0) * 255.0).round() as u8
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn every_grey_comes_back() {
        for i in 0..=255u8 {
            let c = xyz_of_srgb([i, i, i]).srgb();
            assert_eq!((c.r, c.g, c.b, c.in_gamut), (i, i, i, true));
            assert_eq!(grey_byte(LINEAR[i as usize]), i);
        }
    }

    #[test]
    fn a_colour_no_screen_shows_is_flagged() {
        assert!(!Lab::new(50.0, -90.0, -60.0).xyz().srgb().in_gamut);
        assert!(Lab::new(50.0, 10.0, -10.0).xyz().srgb().in_gamut);
    }

    #[test]
    fn a_wide_screen_shows_the_same_greys_and_more_red() {
        let grey = Lab::new(50.0, 0.0, 0.0).xyz();
        let (wide, usual) = (grey.display_p3(), grey.srgb());
        assert!((wide.r - f64::from(usual.r) / 255.0).abs() < 0.003 && (wide.r - wide.b).abs() < 0.002);
        // Pure sRGB red lies inside the wide gamut, at 0.9175, 0.2003, 0.1387 (the conversion published in CSS Color 4).
        let red = xyz_of_srgb([255, 0, 0]).display_p3();
        assert!((red.r - 0.9175).abs() < 1e-3 && (red.g - 0.2003).abs() < 1e-3 && (red.b - 0.1387).abs() < 1e-3 && red.in_gamut, "{red:?}");
        let strong = Lab::new(60.0, 80.0, 60.0).xyz();
        assert!(!strong.srgb().in_gamut && strong.display_p3().in_gamut);
    }

    #[test]
    fn hex_is_read_and_refused() {
        assert_eq!(parse_hex("#a39c90"), Ok([0xa3, 0x9c, 0x90]));
        assert!(parse_hex("#a39c9").unwrap_err().contains("#a39c9"));
    }
}
