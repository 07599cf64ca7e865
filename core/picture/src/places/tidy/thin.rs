//! What the brush cannot set: parts of places where no mark of its width fits go to what is round them. A thin thing that stands off both
//! sides (a pole, a wire) may be thinner than a soft rim that lies between the two colours it parts: that is no mark at all.

use crate::places::cells::{Cells, EvenColour, apart2};
use crate::zone_map::ZoneMap;
use crate::zone_map::parts::Parts;
use rayon::prelude::*;

/// Share of the brush that a part standing off both sides must be wide to stay; half a mark may lie over its neighbour. A choice.
const WIDE: f64 = 0.36;
/// The same for a part whose colour lies between those beside it. A choice.
const RIM: f64 = 0.6;
/// Share of the width needed that is enough beside a part that has it: a bar is not cut into beads.
const JOINED: f64 = 0.6;
/// How far a corner may reach from where the whole mark fits, in half-widths: 1.41 for a right angle, 2 for one of 60 degrees.
const CORNER: f64 = 1.65;
/// A colour lies between two others when the way through it is at most so much longer than the straight one. A choice.
const BETWEEN: f32 = 1.3;

/// Gives thin parts to the zone whose mark is nearest.
pub(crate) fn given_away(map: ZoneMap, cells: &Cells, brush: f64) -> ZoneMap {
    if brush * RIM / 2.0 < 1.0 {
        return map;
    }
    // A wide mark is measured well enough on every other cell, or fewer.
    let step = ((brush * WIDE / 4.0) as usize).clamp(1, 4);
    let stays = if step == 1 { staying(&map, cells, brush) } else { staying_coarsely(&map, cells, brush, step) };
    if stays.contains(&true) { grown_over(map, stays) } else { map }
}

/// Which cells are wide enough to stay.
fn staying(map: &ZoneMap, cells: &Cells, brush: f64) -> Vec<bool> {
    let (need, need_of_rim) = (brush * WIDE / 2.0, brush * RIM / 2.0);
    let depth = depth(map, (need_of_rim.ceil() as u8).saturating_add(1));
    let wide = widths(map, &depth, need_of_rim);
    let rims = rims(map, cells, &wide);
    let mut stays = widths(map, &depth, need);
    stays.par_iter_mut().zip(rims).for_each(|(stays, rim)| *stays &= !rim);
    stays
}

/// The same, found on every `step`-th cell across and down.
fn staying_coarsely(map: &ZoneMap, cells: &Cells, brush: f64, step: usize) -> Vec<bool> {
    let (w, h) = (map.width as usize, map.height as usize);
    let (cw, ch) = (w.div_ceil(step), h.div_ceil(step));
    let from = |i: usize| (i / cw * step) * w + i % cw * step;
    let coarse = ZoneMap { width: cw as u32, height: ch as u32, labels: (0..cw * ch).map(|i| map.labels[from(i)]).collect() };
    let seen = Cells { width: cw, height: ch, looks: (0..cw * ch).map(|i| cells.looks[from(i)]).collect(), scale: cells.scale };
    let stays = staying(&coarse, &seen, brush / step as f64);
    (0..w * h)
        .into_par_iter()
        .map(|i| {
            let (x, y) = (i % w / step, i / w / step);
            let own = |j: usize| coarse.labels[j] == map.labels[i];
            if own(y * cw + x) {
                return stays[y * cw + x];
            }
            // Beside an edge the cell that was looked at may lie across it.
            (y.saturating_sub(1)..(y + 2).min(ch))
                .any(|cy| (x.saturating_sub(1)..(x + 2).min(cw)).any(|cx| own(cy * cw + cx) && stays[cy * cw + cx]))
        })
        .collect()
}

/// Lets what is known grow over the rest, evenly from all sides.
fn grown_over(mut map: ZoneMap, mut known: Vec<bool>) -> ZoneMap {
    let w = map.width as usize;
    let mut front: Vec<usize> = rim_of(&known, w);
    let mut round = 0;
    while !front.is_empty() {
        let mut next = Vec::new();
        for i in front {
            around(i, w, known.len(), round % 2 == 1, |j| {
                if !known[j] {
                    known[j] = true;
                    map.labels[j] = map.labels[i];
                    next.push(j);
                }
            });
        }
        front = next;
        round += 1;
    }
    map
}

/// Known cells beside unknown ones.
fn rim_of(known: &[bool], w: usize) -> Vec<usize> {
    let beside = |i: usize| {
        let mut beside = false;
        around(i, w, known.len(), true, |j| beside |= !known[j]);
        beside
    };
    (0..known.len()).into_par_iter().filter(|i| known[*i] && beside(*i)).collect()
}

/// Cells where a mark of half-width `need` fits, what runs on from there almost as wide, and corners within reach of it.
fn widths(map: &ZoneMap, depth: &[u8], need: f64) -> Vec<bool> {
    let (w, n) = (map.width as usize, depth.len());
    let enough = need.round().max(1.0) as u8;
    let nearly = (need * JOINED).round().max(1.0) as u8;
    let mut inside: Vec<bool> = depth.iter().map(|d| *d >= enough).collect();
    let mut ahead: Vec<usize> = (0..n).into_par_iter().filter(|i| depth[*i] == enough).collect();
    while let Some(i) = ahead.pop() {
        around(i, w, n, false, |j| {
            if !inside[j] && map.labels[j] == map.labels[i] && depth[j] >= nearly {
                inside[j] = true;
                ahead.push(j);
            }
        });
    }
    let mut front: Vec<usize> = rim_of(&inside, w);
    for round in 0..(need * CORNER).round() as usize {
        let mut next = Vec::new();
        for i in front {
            around(i, w, n, round % 2 == 1, |j| {
                if !inside[j] && map.labels[j] == map.labels[i] {
                    inside[j] = true;
                    next.push(j);
                }
            });
        }
        front = next;
    }
    inside
}

/// Which thin cells lie in rims: thin parts whose look lies between those of the two zones they border most.
fn rims(map: &ZoneMap, cells: &Cells, wide: &[bool]) -> Vec<bool> {
    // Thin cells of a zone are parts of their own.
    let split = ZoneMap { labels: map.labels.iter().zip(wide).map(|(l, w)| l * 2 + u16::from(*w)).collect(), ..*map };
    let parts = Parts::of(&split);
    let mut looks = vec![[0.0f64; 3]; parts.all.len()];
    for (run, part) in parts.stretches() {
        let sum = &mut looks[part as usize];
        cells.looks[run].iter().for_each(|look| (0..3).for_each(|c| sum[c] += f64::from(look[c])));
    }
    let mean = |p: u32| -> EvenColour { looks[p as usize].map(|v| (v / f64::from(parts.all[p as usize].cells)) as f32) };
    let mut beside: Vec<Vec<(u32, u32)>> = vec![Vec::new(); parts.all.len()];
    for (a, b, n) in parts.borders() {
        beside[a as usize].push((n, b));
        beside[b as usize].push((n, a));
    }
    let rim: Vec<bool> = (0..parts.all.len() as u32)
        .map(|p| {
            if parts.all[p as usize].zone % 2 == 1 {
                return false;
            }
            // The same zone where it is wide is no side of it.
            let mut sides: Vec<(u32, u32)> = beside[p as usize]
                .iter()
                .copied()
                .filter(|(_, q)| parts.all[*q as usize].zone / 2 != parts.all[p as usize].zone / 2)
                .collect();
            sides.sort_unstable_by(|a, b| b.cmp(a));
            let [(_, one), (_, other), ..] = sides.as_slice() else { return false };
            let (p, a, b) = (mean(p), mean(*one), mean(*other));
            apart2(p, a).sqrt() + apart2(p, b).sqrt() < BETWEEN * apart2(a, b).sqrt()
        })
        .collect();
    let mut out = vec![false; map.labels.len()];
    parts.stretches().filter(|(_, part)| rim[*part as usize]).for_each(|(run, _)| out[run].fill(true));
    out
}

/// Distance of every cell from the nearest cell of another zone, up to `most`: 1 at the edge. Alternating four and eight neighbours, which is
/// nearly round; the frame of the picture is no edge.
fn depth(map: &ZoneMap, most: u8) -> Vec<u8> {
    let (w, n) = (map.width as usize, map.labels.len());
    let mut depth = vec![most; n];
    let edge = |i: usize| {
        let mut edge = false;
        around(i, w, n, false, |j| edge |= map.labels[j] != map.labels[i]);
        edge
    };
    let mut front: Vec<usize> = (0..n).into_par_iter().filter(|i| edge(*i)).collect();
    front.iter().for_each(|i| depth[*i] = 1);
    for d in 2..most {
        let mut next = Vec::new();
        for i in front {
            around(i, w, n, d % 2 == 1, |j| {
                if depth[j] == most {
                    depth[j] = d;
                    next.push(j);
                }
            });
        }
        front = next;
    }
    depth
}

/// Visits the neighbours of a cell: four, or eight.
fn around(i: usize, w: usize, n: usize, eight: bool, mut visit: impl FnMut(usize)) {
    let x = i % w;
    let (left, right, up, down) = (x > 0, x + 1 < w, i >= w, i + w < n);
    if left {
        visit(i - 1);
    }
    if right {
        visit(i + 1);
    }
    if up {
        visit(i - w);
    }
    if down {
        visit(i + w);
    }
    if eight {
        if up && left {
            visit(i - w - 1);
        }
        if up && right {
            visit(i - w + 1);
        }
        if down && left {
            visit(i + w - 1);
        }
        if down && right {
            visit(i + w + 1);
        }
    }
}
