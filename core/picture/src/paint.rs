//! A plan as a picture: zones filled with their colours, graded ones from end to end.

use crate::picture::Picture;
use crate::zone_map::ZoneMap;
use lean_colour::Lab;
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
    let (w, h) = (map.width as usize, map.height as usize);
    let rgb = |lab: Lab| {
        let c = lab.xyz().srgb();
        [c.r, c.g, c.b]
    };
    let bare = rgb(ground);
    let mut cells = vec![bare; w * h];
    for (zone, fill) in fills {
        let inside: Vec<usize> = (0..w * h).filter(|i| map.labels[*i] == *zone).collect();
        match fill.to {
            None => {
                let c = rgb(fill.lab);
                inside.into_iter().for_each(|i| cells[i] = c);
            }
            Some((to, degrees)) => {
                let (sin, cos) = degrees.to_radians().sin_cos();
                let along = |i: usize| (i % w) as f64 * cos + (i / w) as f64 * sin;
                let (from, end) =
                    inside.iter().map(|i| along(*i)).fold((f64::INFINITY, f64::NEG_INFINITY), |(a, b), v| (a.min(v), b.max(v)));
                let ramp: Vec<[u8; 3]> = (0..=STEPS)
                    .map(|s| {
                        let t = s as f64 / STEPS as f64;
                        let mix = |a: f64, b: f64| a + (b - a) * t;
                        rgb(Lab::new(mix(fill.lab.l, to.l), mix(fill.lab.a, to.a), mix(fill.lab.b, to.b)))
                    })
                    .collect();
                let span = (end - from).max(1e-9);
                for i in inside {
                    cells[i] = ramp[((along(i) - from) / span * STEPS as f64).round() as usize];
                }
            }
        }
    }
    let scale = scale.max(1) as usize;
    let mut out = Vec::with_capacity(w * h * scale * scale * 3);
    for y in 0..h * scale {
        for cell in &cells[y / scale * w..(y / scale + 1) * w] {
            (0..scale).for_each(|_| out.extend_from_slice(cell));
        }
    }
    Picture { width: (w * scale) as u32, height: (h * scale) as u32, rgb: out }
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
