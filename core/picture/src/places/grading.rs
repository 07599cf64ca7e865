//! How a zone that is a smooth run goes from one end to the other.

use super::laid::Laid;
use super::runs::Run;
use super::survey::Survey;
use crate::picture::Picture;
use crate::zone_map::ZoneMap;
use lean_colour::{Lab, screen};

/// Share of a zone that must lie in its run for the zone to be graded.
const MOST_OF: f64 = 0.6;

/// A zone's colour from one end to the other.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Grading {
    /// Colour at the near end.
    pub from: Lab,
    /// Colour at the far end.
    pub to: Lab,
    /// The way there, degrees clockwise from rightwards.
    pub direction: f64,
}

/// Least difference between the ends (CIEDE2000) that is worth running. A choice.
const WORTH: f64 = 4.0;

impl Survey {
    /// The grading of a zone on a map of this survey; `None` when it has no run, most of it is something else, or the ends are alike.
    pub fn grading(&self, map: &ZoneMap, shades: &[Laid], zone: u16) -> Option<Grading> {
        let run = shades.iter().filter(|s| s.zone == zone).filter_map(|s| s.run.as_ref()).max_by_key(|r| r.cells)?;
        grading(&self.picture, map, run, zone)
    }
}

fn grading(small: &Picture, map: &ZoneMap, run: &Run, zone: u16) -> Option<Grading> {
    let w = map.width as usize;
    let inside: Vec<usize> = (0..map.labels.len()).filter(|i| map.labels[*i] == zone).collect();
    if inside.is_empty() || (run.cells as f64) < MOST_OF * inside.len() as f64 {
        return None;
    }
    let direction = run.direction();
    let (sin, cos) = direction.to_radians().sin_cos();
    let along = |i: usize| (i % w) as f64 * cos + (i / w) as f64 * sin;
    let n = inside.len() as f64;
    let lab = |i: usize| screen::lab_of_srgb([small.rgb[i * 3], small.rgb[i * 3 + 1], small.rgb[i * 3 + 2]]);
    let (mut t, mut tt, mut sum, mut cross) = (0.0, 0.0, [0.0; 3], [0.0; 3]);
    let (mut first, mut last) = (f64::INFINITY, f64::NEG_INFINITY);
    for i in &inside {
        let (s, c) = (along(*i), lab(*i));
        (first, last) = (first.min(s), last.max(s));
        t += s / n;
        tt += s * s / n;
        for (k, v) in [c.l, c.a, c.b].into_iter().enumerate() {
            sum[k] += v / n;
            cross[k] += s * v / n;
        }
    }
    let spread = (tt - t * t).max(1e-9);
    let at = |s: f64| {
        let v: [f64; 3] = std::array::from_fn(|k| sum[k] + (cross[k] - t * sum[k]) / spread * (s - t));
        lean_colour::real::toward_real(Lab::new(v[0].clamp(0.0, 100.0), v[1], v[2]))
    };
    let (from, to) = (at(first), at(last));
    (lean_colour::difference::ciede2000(from, to) >= WORTH).then_some(Grading { from, to, direction })
}
