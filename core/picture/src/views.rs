//! Ways of looking at the reference itself: values only, warm–cool only, squint.

use crate::picture::{Picture, centivalue};
use crate::values::{Ladder, ladder};
use lean_colour::temperature::{Temperature, WARM_POLE};
use lean_colour::{Lab, Srgb8, Value, screen};
use rayon::prelude::*;

/// How the reference is shown.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum View {
    /// Unchanged.
    AsItIs,
    /// Greys of the same value; with groups, that many greys.
    Values,
    /// One value everywhere, warmer or cooler than the picture's own neutral.
    WarmCool,
    /// Blurred, and flattened into value groups.
    Squint,
    /// Unchanged, but what the camera could not hold is hatched.
    Clipped,
    /// What lies within a quarter step of a value, in hundredths of a step, as it is; the rest as a faint grey.
    Equal(u16),
}

/// Groups used by squint when none are asked for.
pub(crate) const SQUINT_GROUPS: usize = 4;

/// Draws a view. `groups` (2..=12) flattens values; `None` leaves them continuous, except when squinting.
pub fn draw(picture: &Picture, view: View, groups: Option<usize>) -> Picture {
    match view {
        View::AsItIs => picture.clone(),
        View::Values => values_only(picture, groups),
        View::WarmCool => warm_cool_only(picture),
        View::Squint => squint(picture, groups.unwrap_or(SQUINT_GROUPS)),
        View::Clipped => clipped(picture),
        View::Equal(value) => equal(picture, value),
    }
}

fn mapped(picture: &Picture, colour: impl Fn([u8; 3]) -> [u8; 3] + Sync) -> Picture {
    let mut out = picture.clone();
    out.rgb.par_chunks_mut(3 << 12).for_each(|block| {
        for px in block.chunks_exact_mut(3) {
            px.copy_from_slice(&colour([px[0], px[1], px[2]]));
        }
    });
    out
}

fn grey_of(value: f64) -> u8 {
    screen::grey_byte(Value(value).luminance() / 100.0)
}

/// For each hundredth of a step, the middle of its group; itself when ungrouped.
fn flattened(l: &Ladder, groups: Option<usize>) -> Vec<f64> {
    (0..=1000)
        .map(|c| {
            let v = f64::from(c) / 100.0;
            if groups.is_none() {
                return v;
            }
            let g = l.groups.iter().find(|g| v < g.to).or(l.groups.last());
            g.map_or(v, |g| group_mean(l, g.from, g.to).unwrap_or(v))
        })
        .collect()
}

fn group_mean(l: &Ladder, from: f64, to: f64) -> Option<f64> {
    let rungs = (from * 10.0).round() as usize..(to * 10.0).round() as usize;
    let n: u64 = l.histogram[rungs.clone()].iter().sum();
    let sum: f64 = rungs.map(|r| (r as f64 + 0.5) / 10.0 * l.histogram[r] as f64).sum();
    (n > 0).then(|| sum / n as f64)
}

fn values_only(picture: &Picture, groups: Option<usize>) -> Picture {
    let l = ladder(picture, groups.unwrap_or(1));
    let greys: Vec<u8> = flattened(&l, groups).into_iter().map(grey_of).collect();
    mapped(picture, |px| [greys[centivalue(&px) as usize]; 3])
}

fn warm_cool_only(picture: &Picture) -> Picture {
    let neutral = mean_temperature(picture);
    mapped(picture, |px| {
        let c = warm_cool_colour(Temperature(screen::lab_of_srgb(px).temperature().warmer_than(neutral)));
        [c.r, c.g, c.b]
    })
}

/// The colour that shows a temperature alone: one lightness, on the warm–cool axis.
pub fn warm_cool_colour(relative: Temperature) -> Srgb8 {
    let (sin, cos) = WARM_POLE.to_radians().sin_cos();
    let t = relative.0.clamp(-60.0, 60.0);
    Lab::new(62.0, t * cos, t * sin).xyz().srgb()
}

/// Temperature of the picture's mean light: its own neutral.
pub fn mean_temperature(picture: &Picture) -> Temperature {
    let one = picture.reduced(1);
    screen::lab_of_srgb(one.at(0, 0)).temperature()
}

/// Hatches pixels with every channel at an end: dark stripes on lost lights, light stripes on lost darks.
fn clipped(picture: &Picture) -> Picture {
    let mut out = picture.clone();
    let w = picture.width as usize;
    let stripe = (w / 160).max(2);
    out.rgb.par_chunks_exact_mut(w * 3).enumerate().for_each(|(y, row)| {
        for (x, px) in row.chunks_exact_mut(3).enumerate() {
            let lost = px.iter().all(|b| *b == 255) || px.iter().all(|b| *b == 0);
            if lost {
                px.fill(if ((x + y) / stripe).is_multiple_of(2) { 16 } else { 240 });
            }
        }
    });
    out
}

fn equal(picture: &Picture, value: u16) -> Picture {
    let near = |px: &[u8; 3]| centivalue(px).abs_diff(value) <= 25;
    mapped(picture, |px| {
        if near(&px) {
            return px;
        }
        // The rest keeps its drawing, at a fifth of its contrast around the room's grey.
        let v = 5.5 + (f64::from(centivalue(&px)) / 100.0 - 5.5) * 0.2;
        [grey_of(v); 3]
    })
}

fn squint(picture: &Picture, groups: usize) -> Picture {
    // A quarter-size copy enlarged again after blurring costs a sixteenth and cannot be told apart.
    let side = picture.width.max(picture.height);
    let small = blurred(&picture.reduced((side / 4).max(1)), (side as usize / 160).max(1));
    let l = ladder(&small, groups);
    let flat = flattened(&l, Some(groups));
    let soft = enlarged(&small, picture.width, picture.height);
    mapped(&soft, |px| {
        let lab = screen::lab_of_srgb(px);
        let c = Lab::new(Value(flat[centivalue(&px) as usize]).lightness(), lab.a, lab.b).xyz().srgb();
        [c.r, c.g, c.b]
    })
}

/// Three box blurs in linear light, close to a Gaussian.
fn blurred(picture: &Picture, radius: usize) -> Picture {
    let (w, h) = (picture.width as usize, picture.height as usize);
    let mut planes: Vec<Vec<f32>> =
        (0..3).map(|c| picture.rgb.iter().skip(c).step_by(3).map(|b| screen::LINEAR[*b as usize] as f32).collect()).collect();
    planes.par_iter_mut().for_each(|p| {
        for _ in 0..3 {
            *p = box_blur(p, w, h, radius);
        }
    });
    let rgb = (0..w * h).flat_map(|i| [0, 1, 2].map(|c| screen::grey_byte(f64::from(planes[c][i])))).collect();
    Picture { width: picture.width, height: picture.height, rgb }
}

fn box_blur(plane: &[f32], w: usize, h: usize, r: usize) -> Vec<f32> {
    let rows: Vec<f32> = plane.chunks_exact(w).flat_map(|row| running_mean(row.to_vec(), r)).collect();
    let mut out = vec![0.0; w * h];
    for x in 0..w {
        for (y, v) in running_mean((0..h).map(|y| rows[y * w + x]).collect(), r).into_iter().enumerate() {
            out[y * w + x] = v;
        }
    }
    out
}

fn running_mean(line: Vec<f32>, r: usize) -> Vec<f32> {
    let mut sums = vec![0.0f64];
    for v in &line {
        sums.push(sums[sums.len() - 1] + f64::from(*v));
    }
    (0..line.len())
        .map(|i| {
            let (a, b) = (i.saturating_sub(r), (i + r + 1).min(line.len()));
            ((sums[b] - sums[a]) / (b - a) as f64) as f32
        })
        .collect()
}

fn enlarged(picture: &Picture, width: u32, height: u32) -> Picture {
    let buffer = image::RgbImage::from_raw(picture.width, picture.height, picture.rgb.clone());
    let rgb = buffer.map(|b| image::imageops::resize(&b, width, height, image::imageops::FilterType::Triangle).into_raw());
    Picture { width, height, rgb: rgb.unwrap_or_default() }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn ramp() -> Picture {
        Picture { width: 64, height: 48, rgb: (0..64 * 48).flat_map(|i| [(i % 64 * 4) as u8, 90, (i / 64 * 5) as u8]).collect() }
    }

    #[test]
    fn values_only_keeps_every_value_and_has_no_hue() {
        let (p, v) = (ramp(), draw(&ramp(), View::Values, None));
        for (a, b) in p.rgb.chunks(3).zip(v.rgb.chunks(3)) {
            assert!(b[0] == b[1] && b[1] == b[2]);
            assert!((i32::from(centivalue(a)) - i32::from(centivalue(b))).abs() <= 5);
        }
    }

    #[test]
    fn groups_leave_that_many_greys() {
        let mut greys: Vec<u8> = draw(&ramp(), View::Values, Some(3)).rgb;
        greys.sort_unstable();
        greys.dedup();
        assert_eq!(greys.len(), 3);
    }

    #[test]
    fn warm_cool_has_one_value_and_keeps_the_sign() {
        let p = Picture { width: 2, height: 1, rgb: vec![220, 140, 60, 60, 110, 200] };
        let w = draw(&p, View::WarmCool, None);
        let t = |i: usize| screen::lab_of_srgb(w.at(i as u32, 0)[..].try_into().unwrap());
        assert!(t(0).temperature().0 > 5.0 && t(1).temperature().0 < -5.0);
        assert!((t(0).l - t(1).l).abs() < 2.0);
    }

    #[test]
    fn squint_keeps_the_size_and_flattens() {
        let s = draw(&ramp(), View::Squint, Some(3));
        assert_eq!((s.width, s.height), (64, 48));
        let mut v: Vec<u16> = s.rgb.chunks(3).map(|p| centivalue(p) / 20).collect();
        v.sort_unstable();
        v.dedup();
        assert!(v.len() <= 6, "{v:?}");
    }
}
