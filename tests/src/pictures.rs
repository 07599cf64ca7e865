//! Pictures made for the tests.

use image::{Rgb, RgbImage};
use std::path::Path;

/// A barn at evening: sky over ground, a lit and a shaded wall, a dark door. Saved by the ending of the path.
pub fn barn(path: &Path, width: u32, height: u32) {
    let picture = RgbImage::from_fn(width, height, |x, y| {
        let (u, v) = (f64::from(x) / f64::from(width), f64::from(y) / f64::from(height));
        let grain = (x.wrapping_mul(2_654_435_761) ^ y.wrapping_mul(40_503)) >> 13 & 15;
        let c = if (0.30..0.52).contains(&u) && (0.34..0.80).contains(&v) {
            [206, 142, 96]
        } else if (0.66..0.74).contains(&u) && (0.52..0.80).contains(&v) {
            [30, 26, 34]
        } else if (0.52..0.82).contains(&u) && (0.34..0.80).contains(&v) {
            [92, 74, 82]
        } else if v < 0.58 {
            [178 + (v * 40.0) as u32, 190 + (v * 20.0) as u32, 212]
        } else {
            [132, 128, 108]
        };
        Rgb(c.map(|n: u32| (n + grain - 7).min(255) as u8))
    });
    picture.save(path).expect("the picture is written");
}

/// One flat colour.
pub fn flat(path: &Path) {
    RgbImage::from_pixel(640, 480, Rgb([140, 120, 100])).save(path).expect("the picture is written");
}
