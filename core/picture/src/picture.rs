//! Upright sRGB pixels.

use lean_colour::screen::LINEAR;
use lean_colour::{Lab, Value, screen};
use rayon::prelude::*;
use std::sync::LazyLock;

/// An upright picture in sRGB, three bytes a pixel, row by row from the top left.
#[derive(Clone, PartialEq, Eq)]
pub struct Picture {
    /// Pixels across, ≥ 1.
    pub width: u32,
    /// Pixels down, ≥ 1.
    pub height: u32,
    /// `width * height * 3` bytes.
    pub rgb: Vec<u8>,
}

impl std::fmt::Debug for Picture {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        write!(f, "Picture {}x{}", self.width, self.height)
    }
}

/// Luminance of one channel byte in 1/65535ths, per channel (the Y row of sRGB, IEC 61966-2-1).
static LUMA: LazyLock<[[u32; 256]; 3]> = LazyLock::new(|| {
    let rows: [f64; 3] = std::array::from_fn(|c| {
        let mut rgb = [0.0; 3];
        rgb[c] = 1.0;
        screen::xyz_of_linear(rgb).y / 100.0
    });
    std::array::from_fn(|c| std::array::from_fn(|i| (rows[c] * LINEAR[i] * 65535.0 + 0.5) as u32))
});

/// Munsell value in hundredths of a step for each 16-bit luminance.
static VALUE_OF_LUMA: LazyLock<Vec<u16>> =
    LazyLock::new(|| (0..=65535u32).map(|y| (Value::from_luminance(f64::from(y) / 655.35).0 * 100.0).round() as u16).collect());

/// Value of an sRGB pixel in hundredths of a step, 0..=1000.
pub(crate) fn centivalue(px: &[u8]) -> u16 {
    let t = &*LUMA;
    let y = t[0][px[0] as usize] + t[1][px[1] as usize] + t[2][px[2] as usize];
    VALUE_OF_LUMA[y.min(65535) as usize]
}

impl Picture {
    /// Number of pixels.
    pub fn len(&self) -> usize {
        self.width as usize * self.height as usize
    }

    /// Never true for a decoded picture.
    pub fn is_empty(&self) -> bool {
        self.len() == 0
    }

    /// The pixel at column `x`, row `y`.
    pub fn at(&self, x: u32, y: u32) -> [u8; 3] {
        let i = (y as usize * self.width as usize + x as usize) * 3;
        [self.rgb[i], self.rgb[i + 1], self.rgb[i + 2]]
    }

    /// Light where it is dark, and dark where it is light.
    pub(crate) fn negative(&self) -> Self {
        Self { rgb: self.rgb.iter().map(|c| 255 - c).collect(), ..*self }
    }

    /// Value of every pixel in hundredths of a step.
    pub fn centivalues(&self) -> Vec<u16> {
        self.rgb.par_chunks_exact(3).map(centivalue).collect()
    }

    /// The picture made smaller so that its longer side is at most `side` pixels; each new pixel is the mean light of the
    /// old ones it covers. A picture that is small enough is returned as it is.
    pub fn reduced(&self, side: u32) -> Self {
        let longer = self.width.max(self.height);
        if longer <= side {
            return self.clone();
        }
        let scale = f64::from(side) / f64::from(longer);
        let w = ((f64::from(self.width) * scale).round() as u32).max(1);
        let h = ((f64::from(self.height) * scale).round() as u32).max(1);
        let mut rgb = vec![0u8; w as usize * h as usize * 3];
        rgb.par_chunks_exact_mut(w as usize * 3).enumerate().for_each(|(row, out)| self.reduce_row(row as u32, w, h, out));
        Self { width: w, height: h, rgb }
    }

    fn reduce_row(&self, row: u32, w: u32, h: u32, out: &mut [u8]) {
        let span = |i: u32, n: u32, full: u32| {
            let from = (u64::from(i) * u64::from(full) / u64::from(n)) as usize;
            let to = (u64::from(i + 1) * u64::from(full) / u64::from(n)) as usize;
            (from, to.max(from + 1))
        };
        let (y0, y1) = span(row, h, self.height);
        for x in 0..w {
            let (x0, x1) = span(x, w, self.width);
            let mut sum = [0u64; 3];
            for y in y0..y1 {
                let line = &self.rgb[(y * self.width as usize + x0) * 3..(y * self.width as usize + x1) * 3];
                for px in line.chunks_exact(3) {
                    for (s, b) in sum.iter_mut().zip(px) {
                        *s += u64::from(LINEAR16[*b as usize]);
                    }
                }
            }
            let n = ((y1 - y0) * (x1 - x0)) as u64;
            for c in 0..3 {
                out[x as usize * 3 + c] = BYTE_OF_LINEAR[((sum[c] + n / 2) / n) as usize];
            }
        }
    }

    /// Mean colour in linear light of the disc of radius `r` pixels around a point; `None` outside the picture.
    pub fn patch(&self, x: u32, y: u32, r: u32) -> Option<Lab> {
        if x >= self.width || y >= self.height {
            return None;
        }
        let mut sum = [0.0f64; 3];
        let mut n = 0.0;
        for py in y.saturating_sub(r)..=(y + r).min(self.height - 1) {
            for px in x.saturating_sub(r)..=(x + r).min(self.width - 1) {
                let (dx, dy) = (i64::from(px) - i64::from(x), i64::from(py) - i64::from(y));
                if dx * dx + dy * dy <= i64::from(r) * i64::from(r) {
                    for (s, b) in sum.iter_mut().zip(self.at(px, py)) {
                        *s += LINEAR[b as usize];
                    }
                    n += 1.0;
                }
            }
        }
        Some(screen::xyz_of_linear(sum.map(|s| s / n)).lab())
    }
}

static LINEAR16: LazyLock<[u16; 256]> = LazyLock::new(|| std::array::from_fn(|i| (LINEAR[i] * 65535.0).round() as u16));

/// Encoded byte of every 16-bit linear light.
static BYTE_OF_LINEAR: LazyLock<Vec<u8>> = LazyLock::new(|| (0..=65535u32).map(|i| screen::grey_byte(f64::from(i) / 65535.0)).collect());

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    fn flat(w: u32, h: u32, rgb: [u8; 3]) -> Picture {
        Picture { width: w, height: h, rgb: rgb.repeat((w * h) as usize) }
    }

    proptest! {
        #[test]
        fn quick_values_agree_with_the_formula(r: u8, g: u8, b: u8) {
            let exact = Value::from_luminance(screen::xyz_of_srgb([r, g, b]).y).0;
            // Very dark pixels fall between two 16-bit luminances: a hundredth of a step either way.
            prop_assert!((f64::from(centivalue(&[r, g, b])) / 100.0 - exact).abs() < 0.02);
        }

        #[test]
        fn reducing_a_flat_picture_keeps_its_colour(r: u8, g: u8, b: u8) {
            let small = flat(37, 23, [r, g, b]).reduced(9);
            prop_assert_eq!((small.width, small.height), (9, 6));
            prop_assert!(small.rgb.chunks(3).all(|p| p == [r, g, b]));
        }
    }

    #[test]
    fn half_black_half_white_reduces_to_half_the_light() {
        let mut rgb = vec![0u8; 3];
        rgb.extend([255, 255, 255]);
        let p = Picture { width: 2, height: 1, rgb }.reduced(1);
        assert_eq!(p.rgb, [188, 188, 188]);
    }

    #[test]
    fn a_patch_outside_is_none() {
        let p = flat(4, 4, [90, 90, 90]);
        assert!(p.patch(4, 0, 1).is_none());
        assert!((p.patch(0, 0, 9).unwrap().a).abs() < 0.01);
    }
}
