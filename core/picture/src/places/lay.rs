//! Zones laid over a picture at one brush: each shape takes the zone of the shade nearest to it, and what is left is made fit for the brush.

use super::cells::{Look, apart2};
use super::runs::Run;
use super::survey::Survey;
use super::tidy::{self, Ground};
use crate::zone_map::ZoneMap;

/// A shade and the zone it is laid in.
#[derive(Clone, Debug, PartialEq)]
pub struct Laid {
    /// Its look; of a run, the mean.
    pub look: Look,
    /// The smooth run it is.
    pub run: Option<Run>,
    /// The zone.
    pub zone: u16,
}

impl Laid {
    fn at(&self, (x, y): (f32, f32)) -> Look {
        self.run.as_ref().map_or(self.look, |r| r.at(x, y))
    }
}

/// How much nearer, in squared look units, a run's own ground is to it than to a flat shade.
const OWN_GROUND: f32 = 16.0;

impl Survey {
    /// Which zone every cell belongs to at a brush of this share of the longer side. `hand` (0 where free) is what was laid by hand.
    /// Nothing smaller than the brush is left, unless the whole picture is.
    pub fn lay(&self, shades: &[Laid], brush: f64, hand: Option<&[u16]>) -> ZoneMap {
        let shapes = self.shapes(brush);
        let zone_of: Vec<u16> = shapes
            .all
            .iter()
            .map(|s| {
                if s.cells == 0.0 {
                    return 0;
                }
                // What it looks like where it is: its change put back.
                let look = s.run.map_or(s.look, |r| {
                    let (run, here) = (&self.runs[r], self.runs[r].at(s.middle.0, s.middle.1));
                    std::array::from_fn(|c| s.look[c] + here[c] - run.mean[c])
                });
                let miss = |shade: &Laid| apart2(look, shade.at(s.middle)) - if s.run.is_some() && shade.run.is_some() { OWN_GROUND } else { 0.0 };
                shades.iter().min_by(|a, b| miss(a).total_cmp(&miss(b))).map_or(1, |s| s.zone)
            })
            .collect();
        let mut labels: Vec<u16> =
            self.patches.of_cell.iter().map(|p| zone_of[shapes.of_patch[*p as usize] as usize]).collect();
        if let Some(hand) = hand {
            labels.iter_mut().zip(hand).filter(|(_, h)| **h > 0).for_each(|(l, h)| *l = *h);
        }
        let ground = Ground { cells: &self.cells, hand };
        let map = ZoneMap { width: self.cells.width as u32, height: self.cells.height as u32, labels };
        tidy::fit_for(map, &ground, brush * self.cells.longer() as f64)
    }

    /// The shades of `count` colours, zones numbered from 1 by the share of the picture they cover.
    pub fn palette(&self, count: usize) -> Vec<Laid> {
        let cut = self.colours.cut(count);
        let laid = |zone: &dyn Fn(usize) -> u16| -> Vec<Laid> {
            let run = |r: Option<usize>| r.map(|r| self.runs[r].clone());
            self.colours.shades.iter().enumerate().map(|(i, s)| Laid { look: s.look, run: run(s.run), zone: zone(i) }).collect()
        };
        let raw = self.lay(&laid(&|i| cut[i] as u16 + 1), super::survey::MIDDLE, None);
        let mut by_area = raw.areas();
        by_area.sort_by_key(|(z, n)| (std::cmp::Reverse(*n), *z));
        let mut tops: Vec<u16> = by_area.into_iter().map(|(z, _)| z).collect();
        // A colour too small for the middle brush comes last.
        cut.iter().map(|c| *c as u16 + 1).for_each(|z| {
            if !tops.contains(&z) {
                tops.push(z);
            }
        });
        laid(&|i| tops.iter().position(|t| *t == cut[i] as u16 + 1).map_or(1, |p| p as u16 + 1))
    }
}
