//! Shapes made simple: edges smoothed, stray bits given away, zones numbered in reading order.

use super::edges;
use super::features::Features;
use crate::zone_map::ZoneMap;
use rayon::prelude::*;
use std::collections::BTreeMap;

/// Radius of the vote that smooths edges, as a share of the longer side.
const SMOOTH: f64 = 0.010;
/// The same once edges lie where the picture has them: only what is ragged.
const RAGGED: f64 = 0.004;

/// Makes shapes simple by majority vote, lays their edges back on the picture's, gives stray bits to the neighbour they touch
/// most, and numbers zones from 1 from the top left. No zone is lost.
pub fn simple_shapes(map: ZoneMap, features: &Features) -> ZoneMap {
    let reach = |share: f64| (f64::from(map.width.max(map.height)) * share).round() as usize;
    let zones = map.zones();
    let simple = majority(&majority(&map, reach(SMOOTH)), reach(SMOOTH));
    let settled = majority(&edges::settled(&simple, &features.close), reach(RAGGED));
    let kept = [settled, simple].into_iter().map(whole).find(|m| m.zones() == zones);
    numbered(&kept.unwrap_or_else(|| whole(map)))
}

/// Each cell takes the zone most cells around it have; its own zone wins a tie.
fn majority(map: &ZoneMap, r: usize) -> ZoneMap {
    let (w, h) = (map.width as usize, map.height as usize);
    let top = map.labels.iter().max().map_or(0, |m| *m as usize + 1);
    let mut labels = map.labels.clone();
    labels.par_chunks_exact_mut(w).enumerate().for_each(|(y, line)| {
        let mut votes = vec![0u32; top];
        let rows = y.saturating_sub(r)..(y + r + 1).min(h);
        for x in 0..(r + 1).min(w) {
            rows.clone().for_each(|yy| votes[map.labels[yy * w + x] as usize] += 1);
        }
        for (x, label) in line.iter_mut().enumerate() {
            if x > 0 {
                if x + r < w {
                    rows.clone().for_each(|yy| votes[map.labels[yy * w + x + r] as usize] += 1);
                }
                if x > r {
                    rows.clone().for_each(|yy| votes[map.labels[yy * w + x - r - 1] as usize] -= 1);
                }
            }
            let own = usize::from(*label);
            let all = (rows.len() * ((x + r + 1).min(w) - x.saturating_sub(r))) as u32;
            if votes[own] * 2 < all {
                *label = (0..top).fold(own, |best, z| if votes[z] > votes[best] { z } else { best }) as u16;
            }
        }
    });
    ZoneMap { labels, ..*map }
}

/// Leaves every zone in one piece: its largest; the others go to the zone they share most border with.
pub fn whole(mut map: ZoneMap) -> ZoneMap {
    loop {
        let (piece_of, pieces) = pieces(&map);
        let mut largest: BTreeMap<u16, usize> = BTreeMap::new();
        for (i, p) in pieces.iter().enumerate() {
            let best = largest.entry(p.zone).or_insert(i);
            if p.cells > pieces[*best].cells {
                *best = i;
            }
        }
        let stray: Vec<bool> = pieces.iter().enumerate().map(|(i, p)| largest[&p.zone] != i).collect();
        if !stray.contains(&true) {
            return map;
        }
        let w = map.width as usize;
        let mut touches: Vec<BTreeMap<u16, u32>> = vec![BTreeMap::new(); pieces.len()];
        for i in 0..map.labels.len() {
            let right = (i % w + 1 < w).then_some(i + 1);
            let below = (i + w < map.labels.len()).then_some(i + w);
            for j in [right, below].into_iter().flatten() {
                let (a, b) = (piece_of[i], piece_of[j]);
                if a != b {
                    for (x, y) in [(a, b), (b, a)] {
                        if stray[x] && !stray[y] {
                            *touches[x].entry(pieces[y].zone).or_default() += 1;
                        }
                    }
                }
            }
        }
        for (label, p) in map.labels.iter_mut().zip(&piece_of) {
            if let Some((z, _)) = touches[*p].iter().max_by_key(|(z, n)| (**n, u16::MAX - **z)) {
                *label = *z;
            }
        }
    }
}

struct Piece {
    zone: u16,
    cells: usize,
}

fn pieces(map: &ZoneMap) -> (Vec<usize>, Vec<Piece>) {
    let w = map.width as usize;
    let mut piece_of = vec![usize::MAX; map.labels.len()];
    let mut found = Vec::new();
    for start in 0..map.labels.len() {
        if piece_of[start] != usize::MAX {
            continue;
        }
        let zone = map.labels[start];
        let name = found.len();
        let mut ahead = vec![start];
        piece_of[start] = name;
        let mut cells = 0;
        while let Some(i) = ahead.pop() {
            cells += 1;
            let x = i % w;
            let around =
                [(x > 0).then(|| i - 1), (x + 1 < w).then(|| i + 1), i.checked_sub(w), Some(i + w).filter(|j| *j < map.labels.len())];
            for j in around.into_iter().flatten() {
                if piece_of[j] == usize::MAX && map.labels[j] == zone {
                    piece_of[j] = name;
                    ahead.push(j);
                }
            }
        }
        found.push(Piece { zone, cells });
    }
    (piece_of, found)
}

pub fn numbered(map: &ZoneMap) -> ZoneMap {
    let mut hearts: Vec<(u32, u32, u16)> = map.zones().into_iter().filter_map(|z| map.heart(z).map(|(x, y)| (y, x, z))).collect();
    hearts.sort_unstable();
    let names: BTreeMap<u16, u16> = hearts.iter().enumerate().map(|(i, (_, _, z))| (*z, i as u16 + 1)).collect();
    ZoneMap { labels: map.labels.iter().map(|l| names[l]).collect(), ..*map }
}
