//! Edges of zones settled: on the picture's edges where it has them, short and even where it has none.

use super::Ground;
use crate::places::cells::{Cells, EvenColour, apart2};
use crate::zone_map::ZoneMap;
use rayon::prelude::*;

/// Radius of the vote that calms an edge, as a share of the brush.
const VOTE: f64 = 0.16;
/// What a full vote weighs in a picture of usual range, in squared look units. A choice.
const CALM: f32 = 250.0;
/// What it costs to lie where the zone is not found nearby, in squared look units.
const STRANGE: f32 = 400.0;
/// Rounds of settling.
const ROUNDS: usize = 5;
/// Cells an edge may move in a round.
const STEP: usize = 2;
/// Longer side of the picture in tiles over which the look of a zone nearby is taken.
const TILES: usize = 24;

/// Radius of the vote for a brush of so many cells.
pub(super) fn reach(brush: f64) -> usize {
    ((brush * VOTE).round() as usize).clamp(1, 7)
}

/// Lets every cell beside an edge choose among the zones around it: by likeness to what each zone looks like nearby, and by how many cells
/// around have it.
pub(super) fn settled(mut map: ZoneMap, ground: &Ground, r: usize) -> ZoneMap {
    let (w, h) = (map.width as usize, map.height as usize);
    let nearby = Nearby::of(&map, ground.cells);
    let calm = CALM * ground.cells.scale.powi(2);
    let free = |i: &usize| ground.hand.is_none_or(|hand| hand[*i] == 0);
    let step = r.min(STEP);
    let rim = |labels: &[u16], i: usize| {
        let (x, y) = (i % w, i / w);
        let own = labels[i];
        labels[y * w + x.saturating_sub(step)] != own
            || labels[y * w + (x + step).min(w - 1)] != own
            || labels[y.saturating_sub(step) * w + x] != own
            || labels[(y + step).min(h - 1) * w + x] != own
    };
    let mut band: Vec<usize> = (0..w * h).into_par_iter().filter(|i| rim(&map.labels, *i) && free(i)).collect();
    let mut near = vec![false; w * h];
    for _ in 0..ROUNDS {
        let labels = &map.labels;
        let moved: Vec<(usize, u16)> = band
            .par_iter()
            .filter_map(|i| {
                let (x, y) = (i % w, i / w);
                let (own, look) = (labels[*i], ground.cells.looks[*i]);
                let mut votes = Votes::default();
                // A few rows tell what all would.
                for yy in (y.saturating_sub(r)..(y + r + 1).min(h)).step_by(r.div_ceil(2)) {
                    votes.count(&labels[yy * w + x.saturating_sub(r)..yy * w + (x + r + 1).min(w)]);
                }
                let all: u32 = votes.met().iter().map(|v| v.1).sum();
                let score = |(zone, n): (u16, u32)| {
                    let miss = nearby.look(zone, x, y).map_or(STRANGE, |l| apart2(look, l).min(2.0 * STRANGE));
                    miss - calm * n as f32 / all as f32 - if zone == own { 1e-3 } else { 0.0 }
                };
                let best = votes.met().iter().copied().min_by(|a, b| score(*a).total_cmp(&score(*b)).then(a.0.cmp(&b.0)))?;
                (best.0 != own).then_some((*i, best.0))
            })
            .collect();
        if moved.is_empty() {
            break;
        }
        moved.iter().for_each(|(i, zone)| map.labels[*i] = *zone);
        // Only near where something moved can something move again.
        let mut next = Vec::new();
        for (i, _) in &moved {
            let (x, y) = (i % w, i / w);
            for yy in y.saturating_sub(step)..(y + step + 1).min(h) {
                for j in yy * w + x.saturating_sub(step)..yy * w + (x + step + 1).min(w) {
                    if !std::mem::replace(&mut near[j], true) {
                        next.push(j);
                    }
                }
            }
        }
        next.iter().for_each(|j| near[*j] = false);
        next.retain(|j| rim(&map.labels, *j) && free(j));
        band = next;
    }
    map
}

/// Zones met and how often; those met after the eighth are not counted.
#[derive(Default)]
struct Votes {
    met: [(u16, u32); 8],
    n: usize,
}

impl Votes {
    fn met(&self) -> &[(u16, u32)] {
        &self.met[..self.n]
    }

    fn count(&mut self, row: &[u16]) {
        for run in row.chunk_by(|a, b| a == b) {
            let n = run.len() as u32;
            match self.met[..self.n].iter().position(|v| v.0 == run[0]) {
                Some(at) => self.met[at].1 += n,
                None if self.n < self.met.len() => {
                    self.met[self.n] = (run[0], n);
                    self.n += 1;
                }
                None => {}
            }
        }
    }
}

/// Mean look of every zone in coarse tiles, each taken with the tiles around it.
struct Nearby {
    across: usize,
    tile: usize,
    zones: usize,
    looks: Vec<Option<EvenColour>>,
}

type Sum = ([f32; 3], f32);

impl Nearby {
    fn of(map: &ZoneMap, cells: &Cells) -> Self {
        let (w, h) = (cells.width, cells.height);
        let tile = (cells.longer() / TILES).max(1);
        let (across, down) = (w.div_ceil(tile), h.div_ceil(tile));
        let zones = map.labels.iter().max().map_or(0, |m| usize::from(*m) + 1);
        let sums: Vec<Vec<Sum>> = (0..across * down)
            .into_par_iter()
            .map(|t| {
                let (x0, y0) = (t % across * tile, t / across * tile);
                let mut sums = vec![Sum::default(); zones];
                // Every other cell tells enough.
                for y in (y0..(y0 + tile).min(h)).step_by(2) {
                    for i in (y * w + x0..y * w + (x0 + tile).min(w)).step_by(2) {
                        add(&mut sums[usize::from(map.labels[i])], (cells.looks[i], 1.0));
                    }
                }
                sums
            })
            .collect();
        let around = |t: usize, zone: usize| {
            let (tx, ty) = (t % across, t / across);
            let mut sum = Sum::default();
            for y in ty.saturating_sub(1)..(ty + 2).min(down) {
                (tx.saturating_sub(1)..(tx + 2).min(across)).for_each(|x| add(&mut sum, sums[y * across + x][zone]));
            }
            (sum.1 >= 4.0).then(|| sum.0.map(|v| v / sum.1))
        };
        let looks = (0..across * down * zones).into_par_iter().map(|i| around(i / zones, i % zones)).collect();
        Self { across, tile, zones, looks }
    }

    fn look(&self, zone: u16, x: usize, y: usize) -> Option<EvenColour> {
        self.looks[(y / self.tile * self.across + x / self.tile) * self.zones + usize::from(zone)]
    }
}

fn add(sum: &mut Sum, more: Sum) {
    (0..3).for_each(|c| sum.0[c] += more.0[c]);
    sum.1 += more.1;
}
