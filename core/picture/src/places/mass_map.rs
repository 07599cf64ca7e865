//! The masses of a picture as a map.

use super::masses::MASSES;
use super::survey::Survey;
use super::tidy::{self, Ground};
use crate::zone_map::ZoneMap;
use std::collections::BTreeMap;

/// The brush masses are drawn with, as a share of the longer side. A choice.
const BRUSH: f64 = 0.06;

impl Survey {
    /// The masses of the picture, numbered from 1 by their size.
    pub fn masses(&self) -> ZoneMap {
        let mut number: BTreeMap<u32, u16> = BTreeMap::new();
        let labels: Vec<u16> = self
            .patches
            .of_cell
            .iter()
            .map(|patch| {
                let next = number.len() as u16 + 1;
                *number.entry(self.depth.owner(*patch)).or_insert(next)
            })
            .collect();
        let (width, height) = self.size();
        let ground = Ground { cells: &self.cells, hand: None };
        let map = tidy::fit_for(ZoneMap { width, height, labels }, &ground, BRUSH * self.cells.longer() as f64);
        by_size(tidy::at_most(map, &ground, *MASSES.end()))
    }
}

/// Connected shapes numbered from 1 by their size.
fn by_size(map: ZoneMap) -> ZoneMap {
    let parts = crate::zone_map::parts::Parts::of(&map);
    let mut order: Vec<u32> = (0..parts.all.len() as u32).collect();
    order.sort_by_key(|p| std::cmp::Reverse(parts.all[*p as usize].cells));
    let mut number = vec![0u16; order.len()];
    order.iter().enumerate().for_each(|(n, p)| number[*p as usize] = n as u16 + 1);
    ZoneMap { labels: parts.of_cells().into_iter().map(|p| number[p as usize]).collect(), ..map }
}
