//! Zones that are laid in several colours side by side: dabs, a drift of relatives, things that repeat and are not alike.

use super::{Light, light, noise::hashed};
use crate::zone_map::ZoneMap;
use crate::zone_map::parts::Parts;
use lean_colour::{Lab, Share};

/// Several colours in one zone.
#[derive(Clone, Debug, PartialEq)]
pub struct Mosaic {
    /// Each with its share of the zone.
    pub colours: Vec<(Lab, Share)>,
    /// Width of a dab, in pixels of the picture that is made.
    pub dab: f32,
    /// True where every place of the zone has one of the colours, whole.
    pub by_place: bool,
}

/// A mosaic made ready: which colour lies where.
pub(super) struct Tiled {
    /// The light of each colour, and the sum of the shares up to it.
    steps: Vec<(Light, f32)>,
    dab: f32,
    by_place: bool,
}

impl Tiled {
    pub(super) fn of(mosaic: &Mosaic) -> Option<Self> {
        let whole: f64 = mosaic.colours.iter().map(|(_, s)| s.0).sum();
        if mosaic.colours.is_empty() || whole <= 0.0 {
            return None;
        }
        let mut sum = 0.0;
        let steps = mosaic.colours.iter().map(|(lab, s)| {
            sum += s.0 / whole;
            (light(*lab), sum as f32)
        });
        Some(Self { steps: steps.collect(), dab: mosaic.dab.max(1.5), by_place: mosaic.by_place })
    }

    pub(super) fn is_by_place(&self) -> bool {
        self.by_place
    }

    /// The colour at a pixel; `place` tells places of one zone apart.
    pub(super) fn at(&self, (x, y): (f32, f32), place: u32, seed: u32) -> Light {
        if self.by_place {
            return self.steps[place as usize % self.steps.len()].0;
        }
        // The nearest of scattered middles (Worley 1996).
        let (u, v) = (x / self.dab, y / self.dab);
        let (iu, iv) = (u.floor() as i32, v.floor() as i32);
        let mut nearest = (f32::INFINITY, 0.0);
        for j in iv - 1..=iv + 1 {
            for i in iu - 1..=iu + 1 {
                let (du, dv) = (i as f32 + hashed(i, j, seed ^ 0x51) - u, j as f32 + hashed(i, j, seed ^ 0xa7) - v);
                // Dabs are laid a little longer than wide.
                let far = du * du + 1.6 * dv * dv;
                if far < nearest.0 {
                    nearest = (far, hashed(i, j, seed ^ 0x3c));
                }
            }
        }
        self.steps.iter().find(|s| nearest.1 <= s.1).unwrap_or(&self.steps[self.steps.len() - 1]).0
    }
}

/// Number of the place every pixel lies in.
pub(super) fn places(labels: &[u16], (w, h): (usize, usize)) -> Vec<u32> {
    Parts::of(&ZoneMap { width: w as u32, height: h as u32, labels: labels.to_vec() }).of_cells()
}
