//! Edges laid back where the picture has them: squinting finds the masses, a closer look finds their edges.

use super::features::{box_mean, box_means};
use crate::zone_map::ZoneMap;
use rayon::prelude::*;
use std::collections::BTreeSet;

/// How far an edge may be moved, as a share of the longer side.
const BAND: f64 = 0.018;
/// Neighbourhood from which a zone's colour near an edge is taken, as a share of the longer side.
const NEAR: f64 = 0.05;
/// What a ragged edge costs against a misfit of one step of value, squared. A choice.
const SMOOTH: f32 = 2.5;
/// Rounds of looking again; later ones change almost nothing.
const ROUNDS: usize = 5;

/// What one zone asks for: how ill each cell of its box fits it; infinite out of reach.
struct Claim {
    zone: u16,
    within: Within,
    misfit: Vec<f32>,
}

impl Claim {
    fn misfit(&self, x: usize, y: usize) -> Option<f32> {
        self.within.index(x, y).map(|i| self.misfit[i]).filter(|m| m.is_finite())
    }
}

/// A box of cells: first column and row, columns and rows.
#[derive(Clone, Copy)]
struct Within {
    x: usize,
    y: usize,
    w: usize,
    h: usize,
}

impl Within {
    /// The least box that holds a zone and everything within `margin` of it; none when the zone has no cells.
    fn reach_of(map: &ZoneMap, zone: u16, margin: usize) -> Option<Self> {
        let (w, h) = (map.width as usize, map.height as usize);
        let (mut left, mut top, mut right, mut bottom) = (w, h, 0, 0);
        for (y, row) in map.labels.chunks_exact(w).enumerate() {
            let Some(first) = row.iter().position(|l| *l == zone) else { continue };
            let last = row.iter().rposition(|l| *l == zone).unwrap_or(first);
            (left, right) = (left.min(first), right.max(last));
            (top, bottom) = (top.min(y), y);
        }
        let (x, y) = (left.saturating_sub(margin), top.saturating_sub(margin));
        (left < w).then(|| Self { x, y, w: (right + margin + 1).min(w) - x, h: (bottom + margin + 1).min(h) - y })
    }

    fn index(&self, x: usize, y: usize) -> Option<usize> {
        let (x, y) = (x.checked_sub(self.x)?, y.checked_sub(self.y)?);
        (x < self.w && y < self.h).then(|| y * self.w + x)
    }

    /// The cells of the box out of a grid `width` cells wide.
    fn cells<T: Copy>(self, grid: &[T], width: usize) -> impl Iterator<Item = T> {
        (self.y..self.y + self.h).flat_map(move |y| grid[y * width + self.x..][..self.w].iter().copied())
    }
}

/// Moves every edge to where the two zones' own colours part: each cell near an edge goes to the zone it is most like,
/// evened out by its neighbours (iterated conditional modes, Besag 1986). `planes` are in steps of value.
pub fn settled(map: &ZoneMap, planes: &[Vec<f32>; 3]) -> ZoneMap {
    let longer = f64::from(map.width.max(map.height));
    let reach = |share: f64| ((longer * share).round() as usize).max(1);
    let cells: Vec<[f32; 3]> = (0..planes[0].len()).map(|i| [planes[0][i], planes[1][i], planes[2][i]]).collect();
    let mut map = map.clone();
    let mut claims: Vec<Claim> = Vec::new();
    let mut changed: BTreeSet<u16> = map.zones().into_iter().collect();
    for round in 0..ROUNDS {
        // A zone that neither won nor lost a cell claims the same again.
        claims.retain(|c| !changed.contains(&c.zone));
        let anew: Vec<u16> = changed.into_iter().collect();
        claims.par_extend(anew.par_iter().filter_map(|z| claim(&map, &cells, *z, reach(BAND), reach(NEAR))));
        changed = sweep(&mut map, &claims, round % 2 == 1);
        if changed.is_empty() {
            break;
        }
    }
    map
}

/// How ill each cell within `band` of a zone fits its colour nearby. Nothing outside the zone's reach is looked at: the mean of a zone's cells in a
/// window needs no others.
fn claim(map: &ZoneMap, cells: &[[f32; 3]], zone: u16, band: usize, near: usize) -> Option<Claim> {
    let within = Within::reach_of(map, zone, band)?;
    let Within { w, h, .. } = within;
    let own: Vec<f32> = within.cells(&map.labels, map.width as usize).map(|l| f32::from(u8::from(l == zone))).collect();
    let reached = box_mean(&own, w, h, band);
    let seen: Vec<[f32; 3]> = within.cells(cells, map.width as usize).collect();
    let mine: Vec<[f32; 4]> = seen.iter().zip(&own).map(|(c, o)| [c[0] * o, c[1] * o, c[2] * o, *o]).collect();
    let sums = box_means(&mine, w, h, near);
    let misfit = seen.iter().zip(sums.iter().zip(&reached)).map(|(cell, (sum, reached))| {
        if *reached <= 0.0 {
            return f32::INFINITY;
        }
        (0..3).map(|c| (cell[c] - sum[c] / sum[3].max(1e-9)).powi(2)).sum()
    });
    Some(Claim { zone, misfit: misfit.collect(), within })
}

/// Gives every cell to the zone that claims it cheapest, its eight neighbours having their say; says which zones won or lost any.
fn sweep(map: &mut ZoneMap, claims: &[Claim], backwards: bool) -> BTreeSet<u16> {
    let (w, h) = (map.width as usize, map.height as usize);
    let cells = w * h;
    let mut changed = BTreeSet::new();
    for n in 0..cells {
        let i = if backwards { cells - 1 - n } else { n };
        let (x, y) = (i % w, i / w);
        let around = |zone: u16| unlike(map, x, y, zone);
        let own = map.labels[i];
        if around(own) == 0 {
            continue;
        }
        let best = claims
            .iter()
            .filter_map(|c| c.misfit(x, y).map(|m| (c, m)))
            .map(|(c, misfit)| (misfit + SMOOTH * around(c.zone) as f32 / 8.0, c.zone))
            .min_by(|a, b| a.0.total_cmp(&b.0).then((a.1 != own).cmp(&(b.1 != own))).then(a.1.cmp(&b.1)));
        if let Some((_, zone)) = best.filter(|(_, zone)| *zone != own) {
            map.labels[i] = zone;
            changed.extend([own, zone]);
        }
    }
    changed
}

/// How many of a cell's up to eight neighbours are not of a zone.
fn unlike(map: &ZoneMap, x: usize, y: usize, zone: u16) -> u32 {
    let (w, h) = (map.width as usize, map.height as usize);
    let columns = x.saturating_sub(1)..(x + 2).min(w);
    let rows = y.saturating_sub(1)..(y + 2).min(h);
    let others = rows.map(|yy| map.labels[yy * w..][columns.clone()].iter().map(|l| u32::from(*l != zone)).sum::<u32>()).sum::<u32>();
    others - u32::from(map.labels[y * w + x] != zone)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_misplaced_edge_goes_where_the_picture_parts() {
        let (w, h) = (200u32, 120u32);
        let plane: Vec<f32> = (0..w * h).map(|i| if i % w < 100 { 7.0 } else { 4.0 }).collect();
        let misplaced = ZoneMap { width: w, height: h, labels: (0..w * h).map(|i| if i % w < 97 + (i / w) % 4 { 1 } else { 2 }).collect() };
        let zeros = vec![0.0; plane.len()];
        let map = settled(&misplaced, &[plane, zeros.clone(), zeros]);
        for (i, zone) in map.labels.iter().enumerate() {
            assert_eq!(*zone, if (i as u32) % w < 100 { 1 } else { 2 }, "cell {} {}", i as u32 % w, i as u32 / w);
        }
    }
}
