//! What of a picture is looked at: straightened, cropped, corrected by something known to be neutral.

use crate::picture::Picture;
use crate::spot::Spot;
use lean_colour::screen::{self, LINEAR};
use lean_colour::{Value, Xyz};
use rayon::prelude::*;
use serde::{Deserialize, Serialize};

/// A part of a picture, shares from its top left, after straightening.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Crop {
    /// Left edge.
    #[cfg_attr(feature = "schema", schema(minimum = 0, maximum = 1))]
    pub left: f64,
    /// Upper edge.
    #[cfg_attr(feature = "schema", schema(minimum = 0, maximum = 1))]
    pub top: f64,
    /// Width.
    #[cfg_attr(feature = "schema", schema(minimum = 0, maximum = 1))]
    pub width: f64,
    /// Height.
    #[cfg_attr(feature = "schema", schema(minimum = 0, maximum = 1))]
    pub height: f64,
}

/// How a picture is framed and corrected. The default looks at all of it as it is.
#[derive(Clone, Copy, Debug, Default, PartialEq, Serialize, Deserialize)]
#[serde(default)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Frame {
    /// Degrees clockwise it is turned, −45..=45; what turns out of the frame is cut off.
    #[cfg_attr(feature = "schema", schema(minimum = -45, maximum = 45, required = true))]
    pub straighten: f64,
    /// The part looked at; `None` for all.
    pub crop: Option<Crop>,
    /// Factors on linear red, green and blue that make something neutral; `None` for none.
    pub gains: Option<[f64; 3]>,
}

/// Least side of a crop, as a share. A choice.
const LEAST: f64 = 0.02;

impl Frame {
    /// Says what is out of range.
    ///
    /// # Errors
    /// Names what is wrong and what to do.
    pub fn check(&self) -> Result<(), String> {
        if !(-45.0..=45.0).contains(&self.straighten) {
            return Err(format!("A turn of {} degrees is more than straightening; it may be -45 to 45.", self.straighten));
        }
        if let Some(c) = self.crop {
            let inside =
                [c.left, c.top].iter().all(|v| (0.0..=1.0).contains(v)) && c.left + c.width <= 1.0 + 1e-6 && c.top + c.height <= 1.0 + 1e-6;
            if !(inside && c.width >= LEAST && c.height >= LEAST) {
                return Err("The cut-out is outside the picture or too small. Draw a larger one inside it.".into());
            }
        }
        match self.gains {
            Some(g) if !g.iter().all(|g| (0.05..=20.0).contains(g)) => {
                Err("That correction is too strong to be light. Pick something that is really a neutral grey.".into())
            }
            _ => Ok(()),
        }
    }

    /// Whether it changes nothing.
    pub fn is_whole(&self) -> bool {
        *self == Self::default()
    }

    /// The size of a picture of `size` pixels once framed.
    pub fn size_of(&self, (w, h): (u32, u32)) -> (u32, u32) {
        let inner = inner(f64::from(w), f64::from(h), self.straighten);
        let c = self.crop.unwrap_or(Crop { left: 0.0, top: 0.0, width: 1.0, height: 1.0 });
        let side = |full: f64, share: f64| ((full * share).round() as u32).max(1);
        (side(inner.0, c.width), side(inner.1, c.height))
    }

    /// The framed picture.
    pub fn apply(&self, picture: &Picture) -> Picture {
        if self.is_whole() {
            return picture.clone();
        }
        let (w, h) = (f64::from(picture.width), f64::from(picture.height));
        let inner = inner(w, h, self.straighten);
        let c = self.crop.unwrap_or(Crop { left: 0.0, top: 0.0, width: 1.0, height: 1.0 });
        let (out_w, out_h) = self.size_of((picture.width, picture.height));
        let (sin, cos) = (-self.straighten).to_radians().sin_cos();
        let origin = (c.left * inner.0 - inner.0 / 2.0, c.top * inner.1 - inner.1 / 2.0);
        let gains = self.gains.map(tables);
        let mut rgb = vec![0u8; out_w as usize * out_h as usize * 3];
        rgb.par_chunks_exact_mut(out_w as usize * 3).enumerate().for_each(|(y, row)| {
            for (x, out) in row.chunks_exact_mut(3).enumerate() {
                let (u, v) = (origin.0 + x as f64 + 0.5, origin.1 + y as f64 + 0.5);
                let (px, py) = (cos * u - sin * v + w / 2.0 - 0.5, sin * u + cos * v + h / 2.0 - 0.5);
                let seen = if self.straighten == 0.0 { nearest(picture, px, py) } else { between(picture, px, py) };
                out.copy_from_slice(&match &gains {
                    Some(t) => std::array::from_fn(|c| t[c][seen[c] as usize]),
                    None => seen,
                });
            }
        });
        Picture { width: out_w, height: out_h, rgb }
    }

    /// The largest crop of a proportion (width by height) around the middle of the present one, for a picture of `size` pixels.
    pub fn fitted(&self, size: (u32, u32), proportion: f64) -> Self {
        let inner = inner(f64::from(size.0), f64::from(size.1), self.straighten);
        let c = self.crop.unwrap_or(Crop { left: 0.0, top: 0.0, width: 1.0, height: 1.0 });
        let (w, h) = (c.width * inner.0, c.height * inner.1);
        let (fw, fh) = if w / h > proportion { (h * proportion, h) } else { (w, w / proportion) };
        let crop = Crop {
            left: c.left + (w - fw) / 2.0 / inner.0,
            top: c.top + (h - fh) / 2.0 / inner.1,
            width: fw / inner.0,
            height: fh / inner.1,
        };
        Self { crop: Some(crop), ..*self }
    }
}

/// The largest upright rectangle of the same proportion inside a turned picture.
fn inner(w: f64, h: f64, degrees: f64) -> (f64, f64) {
    let (sin, cos) = degrees.to_radians().abs().sin_cos();
    let scale = (w / (w * cos + h * sin)).min(h / (w * sin + h * cos)).min(1.0);
    (w * scale, h * scale)
}

fn tables(gains: [f64; 3]) -> [[u8; 256]; 3] {
    std::array::from_fn(|c| std::array::from_fn(|b| screen::grey_byte((LINEAR[b] * gains[c]).min(1.0))))
}

fn nearest(p: &Picture, x: f64, y: f64) -> [u8; 3] {
    let at = |v: f64, n: u32| (v.round().max(0.0) as u32).min(n - 1);
    p.at(at(x, p.width), at(y, p.height))
}

fn between(p: &Picture, x: f64, y: f64) -> [u8; 3] {
    let (x0, y0) = (x.floor(), y.floor());
    let (fx, fy) = (x - x0, y - y0);
    let at = |dx: f64, dy: f64| nearest(p, x0 + dx, y0 + dy).map(|b| LINEAR[b as usize]);
    let (a, b, c, d) = (at(0.0, 0.0), at(1.0, 0.0), at(0.0, 1.0), at(1.0, 1.0));
    std::array::from_fn(|i| screen::grey_byte((a[i] * (1.0 - fx) + b[i] * fx) * (1.0 - fy) + (c[i] * (1.0 - fx) + d[i] * fx) * fy))
}

/// Factors that make the disc of radius `radius` pixels around a place neutral; with `card` given it is also brought to that value.
///
/// # Errors
/// When the place is outside, clipped, or so dark or coloured that it tells nothing about the light.
pub fn neutral_at(picture: &Picture, at: Spot, radius: u32, card: Option<Value>) -> Result<[f64; 3], String> {
    let cell = |share: f64, n: u32| ((share * f64::from(n)) as u32).min(n - 1);
    if !(0.0..=1.0).contains(&at.x) || !(0.0..=1.0).contains(&at.y) {
        return Err("That place is outside the picture.".into());
    }
    let (cx, cy) = (cell(at.x, picture.width), cell(at.y, picture.height));
    let mut sum = [0.0; 3];
    let mut n = 0.0;
    for y in cy.saturating_sub(radius)..=(cy + radius).min(picture.height - 1) {
        for x in cx.saturating_sub(radius)..=(cx + radius).min(picture.width - 1) {
            let px = picture.at(x, y);
            if px.iter().any(|b| *b >= 254) {
                return Err("That place is clipped: the camera lost its colour. Pick a neutral that is darker.".into());
            }
            px.iter().zip(&mut sum).for_each(|(b, s)| *s += LINEAR[*b as usize]);
            n += 1.0;
        }
    }
    let mean = sum.map(|s| s / n);
    if mean.iter().any(|m| *m < 0.003) {
        return Err("That place is too dark to tell the light by. Pick a lighter neutral.".into());
    }
    let Xyz { y, .. } = screen::xyz_of_linear(mean);
    let grey = card.map_or(y / 100.0, |v| v.luminance() / 100.0);
    let gains = mean.map(|m| grey / m);
    if gains.iter().any(|g| !(0.2..=5.0).contains(&(g * y / 100.0 / grey))) {
        return Err("That place is strongly coloured, so it cannot be a neutral. Pick a grey or a white.".into());
    }
    Ok(gains)
}

#[cfg(test)]
mod tests {
    use super::*;

    fn chequered(w: u32, h: u32) -> Picture {
        let rgb = (0..w * h).flat_map(|i| if (i % w < w / 2) ^ (i / w < h / 2) { [180, 160, 120] } else { [60, 70, 90] }).collect();
        Picture { width: w, height: h, rgb }
    }

    #[test]
    fn the_default_changes_nothing() {
        let p = chequered(40, 30);
        assert_eq!(Frame::default().apply(&p), p);
        assert_eq!(Frame::default().size_of((40, 30)), (40, 30));
    }

    #[test]
    fn a_crop_is_the_part_it_names() {
        let p = chequered(40, 30);
        let f = Frame { crop: Some(Crop { left: 0.5, top: 0.0, width: 0.5, height: 0.5 }), ..Frame::default() };
        let got = f.apply(&p);
        assert_eq!((got.width, got.height), (20, 15));
        assert!(got.rgb.chunks(3).all(|c| c == p.at(30, 3)));
    }

    #[test]
    fn straightening_never_shows_what_was_not_in_the_picture() {
        // A dark rim would show if a corner turned in.
        let p = Picture { width: 200, height: 120, rgb: vec![200; 200 * 120 * 3] };
        let f = Frame { straighten: 7.0, ..Frame::default() };
        let got = f.apply(&p);
        assert!(got.width < 200 && got.height < 120 && got.rgb.iter().all(|b| *b == 200));
        assert!((f64::from(got.width) / f64::from(got.height) - 200.0 / 120.0).abs() < 0.03);
    }

    #[test]
    fn fitting_keeps_the_middle_and_the_proportion() {
        let f = Frame::default().fitted((1600, 1200), 1.0);
        let c = f.crop.unwrap();
        assert!((c.width * 1600.0 - c.height * 1200.0).abs() < 1e-6 && (c.left - 0.125).abs() < 1e-9);
    }

    #[test]
    fn a_picked_neutral_becomes_neutral_and_a_grey_card_gets_its_value() {
        let p = Picture { width: 30, height: 30, rgb: [140, 110, 80].repeat(900) };
        let at = Spot { x: 0.5, y: 0.5 };
        let seen = |card| {
            let f = Frame { gains: Some(neutral_at(&p, at, 3, card).unwrap()), ..Frame::default() };
            screen::lab_of_srgb(f.apply(&p).at(10, 10))
        };
        assert!(seen(None).chroma() < 0.6);
        assert!((seen(Some(Value(5.0))).value().0 - 5.0).abs() < 0.05);
    }

    #[test]
    fn what_tells_nothing_about_the_light_is_refused() {
        let flat = |rgb: [u8; 3]| Picture { width: 9, height: 9, rgb: rgb.repeat(81) };
        let at = Spot { x: 0.5, y: 0.5 };
        assert!(neutral_at(&flat([255, 255, 250]), at, 1, None).unwrap_err().contains("clipped"));
        assert!(neutral_at(&flat([2, 2, 3]), at, 1, None).unwrap_err().contains("too dark"));
        assert!(neutral_at(&flat([200, 20, 15]), at, 1, None).unwrap_err().contains("coloured"));
        assert!(neutral_at(&flat([90, 90, 90]), Spot { x: 2.0, y: 0.5 }, 1, None).is_err());
    }

    #[test]
    fn bad_frames_are_refused() {
        assert!(Frame { straighten: 80.0, ..Frame::default() }.check().is_err());
        assert!(Frame { crop: Some(Crop { left: 0.9, top: 0.0, width: 0.5, height: 0.5 }), ..Frame::default() }.check().is_err());
        assert!(Frame { gains: Some([0.0, 1.0, 1.0]), ..Frame::default() }.check().is_err());
    }
}
