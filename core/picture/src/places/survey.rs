//! What a picture is made of, looked at once and then cut at any number of colours and any brush.

use super::accents;
use super::cells::{self, Cells};
use super::colours::{self, Colours};
use super::depth::Depth;
use super::joining::{self, Joins};
use super::laid::Laid;
use super::patches::{self, Patches};
use super::runs::{self, Run};
use super::shapes::{FINE, LARGEST, Shape, Shapes};
use crate::picture::Picture;
use crate::spot::Spot;
use crate::zone_map::ZoneMap;
use lean_colour::{Lab, Share};
use std::sync::Mutex;

/// Contrast, in look units, that a spot as large as the brush needs to be kept in a picture of usual range. A choice.
const KEPT: f32 = 4.5;
/// A picture taken apart.
pub struct Survey {
    pub(super) picture: Picture,
    pub(super) cells: Cells,
    pub(super) patches: Patches,
    pub(super) joins: Joins,
    pub(super) runs: Vec<Run>,
    /// Run of each patch, from 0.
    pub(super) run_of: Vec<Option<usize>>,
    /// Which mass every patch lies in, and which masses stand one before the other.
    pub(super) depth: Depth,
    pub(super) colours: Colours,
    kept: f32,
    blur: f32,
    /// What was laid last, with the shades and the brush: turning a dial back and mending by hand start from it.
    pub(super) last: Mutex<Option<(Vec<Laid>, f64, ZoneMap)>>,
}

/// A border that a brush of so many cells no longer keeps: a spot as large as it, of contrast `kept`, is just missed as much.
fn missed_by(brush: f32, kept: f32) -> f32 {
    brush * kept * kept / 4.0
}

impl Survey {
    /// Takes a picture of any size apart.
    pub fn of(picture: &Picture) -> Self {
        let blur = 1.7 * (cells::GRID as f32 / picture.width.max(picture.height) as f32).max(1.0);
        let picture = cells::on_grid(picture);
        let mut cells = Cells::of(&picture);
        let kept = KEPT * cells.scale;
        let (runs, of_cell) = runs::find(&cells);
        let w = cells.width;
        for (i, look) in cells.looks.iter_mut().enumerate().filter(|(i, _)| of_cell[*i] > 0) {
            let run = &runs[usize::from(of_cell[i]) - 1];
            let here = run.at((i % w) as f32, (i / w) as f32);
            (0..3).for_each(|c| look[c] += run.mean[c] - here[c]);
        }
        let patches = patches::grow(&cells);
        let run_of = runs_of(&patches, &of_cell, runs.len());
        let brush = |share: f64| (share * cells.longer() as f64) as f32;
        let joins = joining::join(&patches, missed_by(brush(LARGEST), kept) * 1.5);
        let (depth, colours) = Default::default();
        let mut survey = Self { picture, cells, patches, joins, runs, run_of, depth, colours, kept, blur, last: Mutex::new(None) };
        survey.depth = Depth::of(&survey.patches, &survey.shapes(Share(LARGEST)), survey.cells.width);
        let (shapes, fine) = (survey.shapes(Share(FINE)), survey.shapes(Share(accents::BRUSH)));
        survey.colours = colours::find(&colours::Source {
            patches: &survey.patches,
            runs: &survey.runs,
            depth: &survey.depth,
            shapes: &shapes,
            fine: &fine,
            picture: survey.cells.looks.len() as f32,
            scale: survey.cells.scale,
        });
        survey
    }

    /// Mean colour of the disc of the brush around a spot.
    pub fn colour_at(&self, at: Spot, brush: Share) -> Lab {
        let cell = |share: f64, n: usize| ((share.clamp(0.0, 1.0) * n as f64) as u32).min(n as u32 - 1);
        let radius = (brush.0 * self.cells.longer() as f64 / 2.0).round() as u32;
        let (x, y) = (cell(at.x, self.cells.width), cell(at.y, self.cells.height));
        self.picture.patch(x, y, radius).unwrap_or(Lab::new(50.0, 0.0, 0.0))
    }

    /// Cells across and down.
    pub fn size(&self) -> (u32, u32) {
        (self.cells.width as u32, self.cells.height as u32)
    }

    /// Patches joined as far as a brush of this share of the longer side joins them.
    pub fn shapes(&self, brush: Share) -> Shapes {
        let brush = (brush.0 * self.cells.longer() as f64) as f32;
        let of_patch = self.joins.shapes(missed_by(brush, self.kept));
        let mut all = vec![Shape::default(); of_patch.len()];
        let mut in_run = vec![0.0f32; of_patch.len()];
        for (p, patch) in self.patches.all.iter().enumerate() {
            let s = &mut all[of_patch[p] as usize];
            s.cells += patch.cells;
            (0..3).for_each(|c| s.look[c] += patch.look[c] * patch.cells);
            s.middle.0 += patch.middle.0 * patch.cells;
            s.middle.1 += patch.middle.1 * patch.cells;
            if let Some(r) = self.run_of[p] {
                in_run[of_patch[p] as usize] += patch.cells;
                s.run = Some(r);
            }
        }
        for (s, inside) in all.iter_mut().zip(in_run).filter(|(s, _)| s.cells > 0.0) {
            s.look = s.look.map(|v| v / s.cells);
            s.middle = (s.middle.0 / s.cells, s.middle.1 / s.cells);
            s.run = s.run.filter(|_| inside > 0.5 * s.cells);
        }
        let mut pairs: Vec<(u32, u32, u32)> = self
            .patches
            .borders
            .iter()
            .map(|(a, b, n)| (of_patch[*a as usize], of_patch[*b as usize], *n))
            .filter(|(a, b, _)| a != b)
            .flat_map(|(a, b, n)| [(a, b, n), (b, a, n)])
            .collect();
        pairs.sort_unstable();
        let mut next_to = vec![Vec::new(); of_patch.len()];
        for run in pairs.chunk_by(|p, q| (p.0, p.1) == (q.0, q.1)) {
            next_to[run[0].0 as usize].push((run[0].1, run.iter().map(|p| p.2).sum()));
        }
        Shapes { of_patch, all, next_to, least: brush * brush, blur: self.blur }
    }
}

fn runs_of(patches: &Patches, of_cell: &[u8], runs: usize) -> Vec<Option<usize>> {
    let mut votes = vec![0u32; patches.all.len() * (runs + 1)];
    patches.of_cell.iter().zip(of_cell).for_each(|(p, r)| votes[*p as usize * (runs + 1) + usize::from(*r)] += 1);
    votes.chunks_exact(runs + 1).map(|v| (1..=runs).find(|r| 2 * v[*r] > v.iter().sum::<u32>()).map(|r| r - 1)).collect()
}
