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

/// A line drawing on paper: three closed shapes, one of them with a small gap in its line.
pub fn line_drawing(path: &Path) {
    let (w, h) = (900u32, 700u32);
    let mut img = image::RgbImage::from_pixel(w, h, image::Rgb([242, 240, 234]));
    let mut frame = |x: u32, y: u32, fw: u32, fh: u32, gap: u32| {
        for t in 0..4 {
            for i in 0..fw {
                if i < fw / 2 || i >= fw / 2 + gap {
                    img.put_pixel(x + i, y + t, image::Rgb([30, 28, 28]));
                }
                img.put_pixel(x + i, y + fh + t, image::Rgb([30, 28, 28]));
            }
            for i in 0..fh + 4 {
                img.put_pixel(x + t, y + i, image::Rgb([30, 28, 28]));
                img.put_pixel(x + fw + t, y + i, image::Rgb([30, 28, 28]));
            }
        }
    };
    frame(80, 80, 260, 220, 0);
    frame(480, 90, 300, 180, 9);
    frame(200, 400, 420, 220, 0);
    img.save(path).expect("the drawing can be written");
}

/// A sheet with four framed pencil compositions.
pub fn compositions(path: &Path) {
    let (w, h) = (1000u32, 760u32);
    let mut img = image::RgbImage::from_pixel(w, h, image::Rgb([236, 234, 228]));
    for (n, (x, y)) in [(60u32, 50u32), (540, 60), (70, 410), (530, 400)].into_iter().enumerate() {
        for i in 0..400 {
            for t in 0..4 {
                img.put_pixel(x + i, y + t, image::Rgb([80, 80, 80]));
                img.put_pixel(x + i, y + 296 + t, image::Rgb([80, 80, 80]));
            }
        }
        for i in 0..300 {
            for t in 0..4 {
                img.put_pixel(x + t, y + i, image::Rgb([80, 80, 80]));
                img.put_pixel(x + 396 + t, y + i, image::Rgb([80, 80, 80]));
            }
        }
        for yy in 150 + 20 * n as u32..280 {
            for xx in 20..380 {
                img.put_pixel(x + xx, y + yy, image::Rgb([120, 120, 120]));
            }
        }
    }
    img.save(path).expect("the sheet can be written");
}

/// A street: a sky that pales downwards, a wall with four windows, ground, and one small red lamp.
pub fn street(path: &Path) {
    let (w, h) = (1200u32, 900u32);
    let picture = RgbImage::from_fn(w, h, |x, y| {
        let grain = (x.wrapping_mul(2_654_435_761) ^ y.wrapping_mul(40_503)) >> 13 & 7;
        let window = (0..4).any(|i| (400 + 110 * i..455 + 110 * i).contains(&x)) && (380..470).contains(&y);
        let lamp = (f64::from(x) - 250.0).hypot(f64::from(y) - 500.0) < 26.0;
        let c: [u32; 3] = match () {
            () if lamp => [190, 40, 44],
            () if window => [52, 58, 68],
            () if (340..900).contains(&x) && (280..700).contains(&y) => [206, 164, 124],
            () if y > 700 => [118, 106, 86],
            () => [150 + y / 14, 172 + y / 18, 204],
        };
        Rgb(c.map(|n| (n + grain - 3).min(255) as u8))
    });
    picture.save(path).expect("the picture is written");
}

/// A sheet of twelve swatches, four across, with notes in pencil under them, on white paper.
pub fn swatches(path: &Path) {
    let picture = RgbImage::from_fn(1200, 900, |x, y| {
        let (column, row) = (x.saturating_sub(90) / 260, y.saturating_sub(80) / 250);
        let (within_x, within_y) = (x.saturating_sub(90) % 260, y.saturating_sub(80) % 250);
        let patch = x >= 90 && y >= 80 && column < 4 && row < 3 && within_x < 180 && within_y < 140;
        let note = column < 4 && row < 3 && (20..110).contains(&within_x) && (172..175).contains(&within_y);
        let grain = (x.wrapping_mul(2_654_435_761) ^ y.wrapping_mul(40_503)) >> 13 & 7;
        let [r, g, b] = match () {
            () if patch => [40 + 45 * column, 170 - 40 * row - 15 * column, 60 + 50 * row],
            () if note => [110, 108, 104],
            () => [226, 221, 208],
        };
        Rgb([r, g, b].map(|n| (n + grain).saturating_sub(3).min(255) as u8))
    });
    picture.save(path).expect("the picture is written");
}
