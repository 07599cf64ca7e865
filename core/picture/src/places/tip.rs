//! What a brush loses and the eye would miss, put back with its tip: an eye, a light on a spoon, a mouth.
//!
//! A lost mark is judged by how far its colour lies from what would cover it; one of a pair counts for more, one of many for less: fur and
//! leaves are not drawn hair by hair.

use super::cells::{Cells, EvenColour, apart2};
use super::tidy;
use crate::zone_map::ZoneMap;
use crate::zone_map::parts::Parts;
use std::collections::BTreeMap;

/// The smallest mark the tip makes, as a share of the brush.
pub(crate) const TIP: f64 = 0.5;
/// Most marks that are put back.
const MOST: usize = 16;
/// Least strength of a mark that is put back, in look units. A choice.
const LEAST: f32 = 16.0;
/// Factor on the strength of one of a pair. A choice.
const PAIR: f32 = 1.6;
/// How far round a mark others of its kind make it one of many, in widths of it, and how many halve its strength.
const AROUND: f32 = 7.0;
const MANY: f32 = 4.0;
/// Colours nearer than this are one colour, in look units.
const ALIKE: f32 = 7.0;
/// Share of its border that one zone must have round a mark. A choice.
const INSIDE: f32 = 0.7;
/// A mark that is less round than this, as a share of what a disc of its border would cover, is an edge that moved.
const ROUND: f32 = 0.3;

struct Mark {
    part: u32,
    zone: u16,
    off: f32,
    look: EvenColour,
    cells: f32,
    middle: (f32, f32),
}

/// The map at a brush of so many cells with what it lost put back. `fine` has the label of every cell before the brush.
pub(super) fn put_back(map: ZoneMap, fine: &[u16], cells: &Cells, brush: f64) -> ZoneMap {
    let least = tip_cells(tidy::least_cells(brush));
    let lost: Vec<u16> = fine.iter().zip(&map.labels).map(|(tip, label)| if tip == label { 0 } else { *tip }).collect();
    let lost = ZoneMap { labels: lost, ..map.clone() };
    let parts = Parts::of(&lost);
    let marks = marks(&map, &parts, cells, least);
    let mut strong: Vec<(f32, &Mark)> =
        marks.iter().map(|m| (strength(m, &marks, cells.scale), m)).filter(|s| s.0 >= LEAST * cells.scale).collect();
    strong.sort_by(|a, b| b.0.total_cmp(&a.0).then(a.1.part.cmp(&b.1.part)));
    let mut map = map;
    let back: BTreeMap<u32, u16> = strong.iter().take(MOST).map(|(_, m)| (m.part, m.zone)).collect();
    for (stretch, part) in parts.stretches() {
        if let Some(zone) = back.get(&part) {
            map.labels[stretch].fill(*zone);
        }
    }
    tidy::small_given_away(map, cells, least)
}

/// The mended map with the marks of a tip that no hand touched: places of `before` of fewer than `least` cells. What such a mark cuts off from
/// its surroundings and is smaller than the brush goes to a neighbour.
pub(crate) fn kept_under_hand(mut mended: ZoneMap, before: &ZoneMap, hand: &ZoneMap, cells: &Cells, least: u32) -> ZoneMap {
    let parts = Parts::of(before);
    let mut free: Vec<bool> = parts.all.iter().map(|p| p.cells < least).collect();
    for (stretch, part) in parts.stretches() {
        free[part as usize] &= hand.labels[stretch].iter().all(|h| *h == 0);
    }
    let mut marked = vec![false; mended.labels.len()];
    for (stretch, part) in parts.stretches().filter(|(_, part)| free[*part as usize]) {
        marked[stretch.clone()].fill(true);
        mended.labels[stretch].fill(parts.all[part as usize].zone);
    }
    let after = Parts::of(&mended);
    let mut needed = vec![least; after.all.len()];
    for (stretch, part) in after.stretches() {
        if marked[stretch].contains(&true) {
            needed[part as usize] = tip_cells(least);
        }
    }
    tidy::small_parts_given_away(mended, &after, cells, needed)
}

/// Cells of the smallest mark of the tip of a brush whose own smallest place has so many.
fn tip_cells(least: u32) -> u32 {
    (TIP * TIP * f64::from(least)).ceil() as u32
}

fn strength(m: &Mark, all: &[Mark], scale: f32) -> f32 {
    let width = m.cells.sqrt();
    let (mut many, mut pair) = (0.0, false);
    for o in all.iter().filter(|o| o.part != m.part) {
        let (across, down) = ((o.middle.0 - m.middle.0).abs(), (o.middle.1 - m.middle.1).abs());
        if across.max(down) < AROUND * width && o.off > 0.6 * m.off {
            many += 1.0;
        }
        let alike = o.cells.max(m.cells) < 3.0 * o.cells.min(m.cells) && apart2(o.look, m.look).sqrt() < ALIKE * scale;
        pair |= alike && (1.5..8.0).contains(&(across / width)) && down < 0.4 * across;
    }
    m.off * if pair { PAIR } else { 1.0 } / (1.0 + many / MANY)
}

/// Lost marks that a tip can make, with how far each lies from the colour that would cover it.
fn marks(map: &ZoneMap, parts: &Parts, cells: &Cells, least: u32) -> Vec<Mark> {
    let is_mark = islands(map, parts, least);
    let zones = looks(map, cells);
    let w = map.width as usize;
    let mut sums: BTreeMap<u32, ([f64; 3], [f64; 2], f64)> = BTreeMap::new();
    for (stretch, part) in parts.stretches().filter(|(_, part)| is_mark[*part as usize]) {
        let sum = sums.entry(part).or_default();
        for i in stretch {
            (0..3).for_each(|c| sum.0[c] += f64::from(cells.looks[i][c]));
            sum.1 = [sum.1[0] + (i % w) as f64, sum.1[1] + (i / w) as f64];
            sum.2 += f64::from(apart2(cells.looks[i], zones[&map.labels[i]]).sqrt());
        }
    }
    sums.into_iter()
        .map(|(part, (look, middle, off))| {
            let n = f64::from(parts.all[part as usize].cells);
            Mark {
                part,
                zone: parts.all[part as usize].zone,
                off: (off / n) as f32,
                look: look.map(|v| (v / n) as f32),
                cells: n as f32,
                middle: ((middle[0] / n) as f32, (middle[1] / n) as f32),
            }
        })
        .collect()
}

/// Which lost parts are islands, large enough and round enough, in one zone of the map: not edges that moved, and not cut by the picture's own
/// edge.
fn islands(map: &ZoneMap, parts: &Parts, least: u32) -> Vec<bool> {
    let (w, h) = (map.width as usize, map.height as usize);
    let of_cell = parts.of_cells();
    let mut around: Vec<BTreeMap<u16, u32>> = vec![BTreeMap::new(); parts.all.len()];
    let mut cut = vec![false; parts.all.len()];
    for i in 0..of_cell.len() {
        let p = of_cell[i] as usize;
        if parts.all[p].zone == 0 || parts.all[p].cells < least {
            continue;
        }
        let (x, y) = (i % w, i / w);
        if x == 0 || y == 0 || x + 1 == w || y + 1 == h {
            cut[p] = true;
            continue;
        }
        for beside in [i - 1, i + 1, i - w, i + w].into_iter().filter(|b| of_cell[*b] as usize != p) {
            *around[p].entry(map.labels[beside]).or_default() += 1;
        }
    }
    (0..parts.all.len())
        .map(|p| {
            let border: u32 = around[p].values().sum();
            let most = around[p].values().max().copied().unwrap_or(0);
            // A border counted in steps of the grid is 4/pi times as long as a round one is.
            let disc = std::f32::consts::PI * (border as f32 / 8.0).powi(2);
            border > 0 && !cut[p] && most as f32 >= INSIDE * border as f32 && parts.all[p].cells as f32 >= ROUND * disc
        })
        .collect()
}

/// Mean look of every zone.
fn looks(map: &ZoneMap, cells: &Cells) -> BTreeMap<u16, EvenColour> {
    let mut sums = vec![([0.0f64; 3], 0.0f64); usize::from(u16::MAX) + 1];
    for (label, look) in map.labels.iter().zip(&cells.looks) {
        let sum = &mut sums[usize::from(*label)];
        (0..3).for_each(|c| sum.0[c] += f64::from(look[c]));
        sum.1 += 1.0;
    }
    sums.into_iter().enumerate().filter(|(_, s)| s.1 > 0.0).map(|(z, s)| (z as u16, s.0.map(|v| (v / s.1) as f32))).collect()
}
