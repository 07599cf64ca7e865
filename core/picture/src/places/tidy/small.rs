//! Places smaller than the mark given to a neighbour.

use crate::places::cells::{Cells, EvenColour, apart2};
use crate::zone_map::ZoneMap;
use crate::zone_map::parts::Parts;
use std::collections::{BTreeMap, BTreeSet};

/// A border all the way round speaks for a neighbour as much as being this much more alike, in look units. A choice.
const BORDER: f32 = 20.0;

/// Gives every place of fewer than `least` cells to a neighbour, the smallest first: one like it, or the one it borders most. Unless the
/// whole picture is smaller, none is left.
pub(crate) fn given_away(map: ZoneMap, cells: &Cells, least: u32) -> ZoneMap {
    let parts = Parts::of(&map);
    let least = vec![least; parts.all.len()];
    parts_given_away(map, &parts, cells, least)
}

/// The same with a number of cells of its own for every part of the map.
pub(crate) fn parts_given_away(mut map: ZoneMap, parts: &Parts, cells: &Cells, least: Vec<u32>) -> ZoneMap {
    if parts.all.iter().zip(&least).all(|(p, least)| p.cells >= *least) {
        return map;
    }
    let mut shapes = Shapes::of(parts, cells, least);
    while let Some((_, part)) = shapes.small.pop_first() {
        if let Some(into) = shapes.best_neighbour(part) {
            shapes.zone[part as usize] = shapes.zone[into as usize];
            shapes.meld(part, into);
            // Places of the same zone that now touch are one.
            let zone = shapes.zone[into as usize];
            let same: Vec<u32> = shapes.next_to[into as usize].keys().copied().filter(|r| shapes.zone[*r as usize] == zone).collect();
            same.into_iter().for_each(|r| shapes.meld(r, into));
        }
    }
    let zones: Vec<u16> = (0..parts.all.len() as u32).map(|p| shapes.zone[shapes.root(p) as usize]).collect();
    parts.stretches().for_each(|(run, part)| map.labels[run].fill(zones[part as usize]));
    map
}

struct Shapes {
    zone: Vec<u16>,
    cells: Vec<u32>,
    /// Sums of looks.
    looks: Vec<[f64; 3]>,
    next_to: Vec<BTreeMap<u32, u32>>,
    into: Vec<u32>,
    /// Those that are too small, smallest first.
    small: BTreeSet<(u32, u32)>,
    /// Cells a part must have to stay.
    least: Vec<u32>,
}

impl Shapes {
    fn of(parts: &Parts, cells: &Cells, least: Vec<u32>) -> Self {
        let n = parts.all.len();
        let mut looks = vec![[0.0f64; 3]; n];
        for (run, part) in parts.stretches() {
            let sum = &mut looks[part as usize];
            cells.looks[run].iter().for_each(|look| (0..3).for_each(|c| sum[c] += f64::from(look[c])));
        }
        let mut next_to = vec![BTreeMap::new(); n];
        for (a, b, border) in parts.borders() {
            next_to[a as usize].insert(b, border);
            next_to[b as usize].insert(a, border);
        }
        let small = (0..n as u32).map(|p| (parts.all[p as usize].cells, p)).filter(|(cells, p)| *cells < least[*p as usize]).collect();
        Self {
            zone: parts.all.iter().map(|p| p.zone).collect(),
            cells: parts.all.iter().map(|p| p.cells).collect(),
            looks,
            next_to,
            into: (0..n as u32).collect(),
            small,
            least,
        }
    }

    fn mean(&self, part: u32) -> EvenColour {
        self.looks[part as usize].map(|v| (v / f64::from(self.cells[part as usize].max(1))) as f32)
    }

    fn best_neighbour(&self, part: u32) -> Option<u32> {
        let next_to = &self.next_to[part as usize];
        let around = next_to.values().sum::<u32>() as f32;
        let score = |q: u32, border: u32| apart2(self.mean(part), self.mean(q)).sqrt() - BORDER * border as f32 / around;
        next_to.iter().map(|(q, b)| (score(*q, *b), *q)).min_by(|a, b| a.0.total_cmp(&b.0).then(a.1.cmp(&b.1))).map(|(_, q)| q)
    }

    /// Makes `gone` part of `kept`.
    fn meld(&mut self, gone: u32, kept: u32) {
        for (beside, border) in std::mem::take(&mut self.next_to[gone as usize]) {
            self.next_to[beside as usize].remove(&gone);
            if beside != kept {
                *self.next_to[kept as usize].entry(beside).or_default() += border;
                *self.next_to[beside as usize].entry(kept).or_default() += border;
            }
        }
        let (g, k) = (gone as usize, kept as usize);
        self.small.remove(&(self.cells[g], gone));
        self.small.remove(&(self.cells[k], kept));
        self.cells[k] += self.cells[g];
        (0..3).for_each(|c| self.looks[k][c] += self.looks[g][c]);
        self.into[g] = kept;
        self.least[k] = self.least[k].min(self.least[g]);
        if self.cells[k] < self.least[k] {
            self.small.insert((self.cells[k], kept));
        }
    }

    fn root(&self, mut part: u32) -> u32 {
        while self.into[part as usize] != part {
            part = self.into[part as usize];
        }
        part
    }
}
