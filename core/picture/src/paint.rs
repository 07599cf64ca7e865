//! A plan as a picture: zones filled with their colours, graded ones from end to end.

use crate::picture::Picture;
use crate::zone_map::ZoneMap;
use lean_colour::Lab;
use rayon::prelude::*;
use std::collections::BTreeMap;

/// What a zone is filled with.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Fill {
    /// Its colour, or that at the near end.
    pub lab: Lab,
    /// The colour at the far end and the way there, in degrees clockwise from rightwards.
    pub to: Option<(Lab, f64)>,
}

/// Steps a grading is drawn in; enough that none is seen.
const STEPS: usize = 64;

/// Paints every zone; what has no fill gets the ground. `scale` pixels to a cell.
pub fn paint(map: &ZoneMap, fills: &BTreeMap<u16, Fill>, ground: Lab, scale: u32) -> Picture {
    let w = map.width as usize;
    let rgb = |lab: Lab| {
        let c = lab.xyz().srgb();
        [c.r, c.g, c.b]
    };
    let top = map.labels.iter().max().map_or(0, |m| usize::from(*m) + 1);
    let mut ramps: Vec<Ramp> = vec![Ramp::even(rgb(ground)); top];
    for (zone, fill) in fills.iter().filter(|(z, _)| usize::from(**z) < top) {
        ramps[usize::from(*zone)] = match fill.to {
            None => Ramp::even(rgb(fill.lab)),
            Some((to, degrees)) => Ramp::running(degrees, |t| {
                let mix = |a: f64, b: f64| a + (b - a) * t;
                rgb(Lab::new(mix(fill.lab.l, to.l), mix(fill.lab.a, to.a), mix(fill.lab.b, to.b)))
            }),
        };
    }
    for (i, label) in map.labels.iter().enumerate() {
        ramps[usize::from(*label)].reach(i % w, i / w);
    }
    let mut cells = vec![[0u8; 3]; map.labels.len()];
    cells.par_chunks_exact_mut(w).enumerate().for_each(|(y, row)| {
        for (x, cell) in row.iter_mut().enumerate() {
            *cell = ramps[usize::from(map.labels[y * w + x])].at(x, y);
        }
    });
    let scale = scale.max(1) as usize;
    let h = map.height as usize;
    let mut out = Vec::with_capacity(w * h * scale * scale * 3);
    for y in 0..h * scale {
        for cell in &cells[y / scale * w..(y / scale + 1) * w] {
            (0..scale).for_each(|_| out.extend_from_slice(cell));
        }
    }
    Picture { width: (w * scale) as u32, height: (h * scale) as u32, rgb: out }
}

/// The colours of a zone from one end to the other.
#[derive(Clone)]
struct Ramp {
    colours: Vec<[u8; 3]>,
    /// Cosine and sine of the way it runs.
    way: (f64, f64),
    /// Where it begins and ends along the way.
    ends: (f64, f64),
}

impl Ramp {
    fn even(colour: [u8; 3]) -> Self {
        Self { colours: vec![colour], way: (0.0, 0.0), ends: (0.0, 0.0) }
    }

    fn running(degrees: f64, colour: impl Fn(f64) -> [u8; 3]) -> Self {
        let (sin, cos) = degrees.to_radians().sin_cos();
        let colours = (0..=STEPS).map(|s| colour(s as f64 / STEPS as f64)).collect();
        Self { colours, way: (cos, sin), ends: (f64::INFINITY, f64::NEG_INFINITY) }
    }

    fn along(&self, x: usize, y: usize) -> f64 {
        x as f64 * self.way.0 + y as f64 * self.way.1
    }

    fn reach(&mut self, x: usize, y: usize) {
        if self.colours.len() > 1 {
            let s = self.along(x, y);
            self.ends = (self.ends.0.min(s), self.ends.1.max(s));
        }
    }

    fn at(&self, x: usize, y: usize) -> [u8; 3] {
        if self.colours.len() == 1 {
            return self.colours[0];
        }
        let share = (self.along(x, y) - self.ends.0) / (self.ends.1 - self.ends.0).max(1e-9);
        self.colours[(share * STEPS as f64).round() as usize]
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn zones_are_filled_graded_ones_run_and_the_rest_is_ground() {
        let map = ZoneMap { width: 4, height: 2, labels: vec![1, 1, 2, 2, 1, 1, 3, 3] };
        let (dark, light) = (Lab::new(20.0, 0.0, 0.0), Lab::new(90.0, 0.0, 0.0));
        let fills = BTreeMap::from([(1, Fill { lab: dark, to: Some((light, 90.0)) }), (2, Fill { lab: light, to: None })]);
        let p = paint(&map, &fills, Lab::new(50.0, 0.0, 0.0), 2);
        assert_eq!((p.width, p.height), (8, 4));
        assert!(p.at(0, 0)[0] < 60 && p.at(0, 3)[0] > 200, "runs downwards");
        assert_eq!(p.at(7, 0), p.at(0, 3));
        assert!((115..125).contains(&p.at(7, 3)[0]));
    }
}
