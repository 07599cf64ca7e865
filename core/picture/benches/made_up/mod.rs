//! A picture for benchmarks.

use lean_picture::Picture;

/// A made-up photo: soft masses, texture, grain.
pub(crate) fn photo(width: u32, height: u32) -> Picture {
    let mut seed = 1u32;
    let mut rgb = Vec::with_capacity((width * height * 3) as usize);
    for y in 0..height {
        for x in 0..width {
            let (u, v) = (f64::from(x) / f64::from(width), f64::from(y) / f64::from(height));
            seed = seed.wrapping_mul(1_664_525).wrapping_add(1_013_904_223);
            let grain = f64::from(seed >> 24) / 12.0 - 10.0;
            let wall = f64::from(u8::from((0.3..0.7).contains(&u) && (0.35..0.8).contains(&v)));
            let base = 190.0 - 90.0 * wall * (1.5 - u) + 30.0 * (v * 9.0).sin() * (u * 7.0).cos();
            rgb.extend([base + 18.0 * wall + grain, base + grain, base + 20.0 * (1.0 - v) + grain].map(|c| c.clamp(0.0, 255.0) as u8));
        }
    }
    Picture { width, height, rgb }
}

/// The same as a phone gives it.
pub(crate) fn jpeg(width: u32, height: u32) -> Vec<u8> {
    use image::{ExtendedColorType, ImageEncoder};
    let mut out = Vec::new();
    image::codecs::jpeg::JpegEncoder::new_with_quality(&mut out, 88)
        .write_image(&photo(width, height).rgb, width, height, ExtendedColorType::Rgb8)
        .expect("the photo is written");
    out
}
