//! Zones made fit for a brush: edges settled on the picture's own, what is thinner or smaller than the mark given to what is round it.

mod edges;
mod small;
mod thin;

use super::cells::Cells;
use crate::zone_map::ZoneMap;

pub(super) use small::{given_away as small_given_away, parts_given_away as small_parts_given_away};

/// What zones lie on.
pub(super) struct Ground<'a> {
    /// The picture.
    pub cells: &'a Cells,
    /// What was laid by hand (0 where free); the picture does not move it.
    pub hand: Option<&'a [u16]>,
}

/// Share of a square that a round mark covers.
const ROUND: f64 = std::f64::consts::FRAC_PI_4;

/// Cells of the smallest place a brush of so many cells leaves.
pub(crate) fn least_cells(brush: f64) -> u32 {
    (brush * brush * ROUND).ceil().max(1.0) as u32
}

/// Makes the labels fit for a brush of so many cells.
pub(crate) fn fit_for(map: ZoneMap, ground: &Ground, brush: f64) -> ZoneMap {
    let least = least_cells(brush);
    let map = small::given_away(map, ground.cells, least);
    let map = edges::settled(map, ground, edges::reach(brush));
    let map = thin::given_away(map, ground.cells, brush);
    let map = edges::settled(map, ground, 1);
    small::given_away(map, ground.cells, least)
}

/// Makes labels fit again over which something was laid by hand.
pub(crate) fn fit_again(map: ZoneMap, ground: &Ground, brush: f64) -> ZoneMap {
    let least = least_cells(brush);
    let map = small::given_away(map, ground.cells, least);
    let map = thin::given_away(map, ground.cells, brush);
    small::given_away(map, ground.cells, least)
}

/// Gives the smallest places away until at most so many are left.
pub(super) fn at_most(map: ZoneMap, ground: &Ground, most: usize) -> ZoneMap {
    let mut sizes: Vec<u32> = crate::zone_map::parts::Parts::of(&map).all.iter().map(|p| p.cells).collect();
    sizes.sort_unstable_by(|a, b| b.cmp(a));
    match sizes.get(most) {
        Some(first_too_many) => small::given_away(map, ground.cells, first_too_many + 1),
        None => map,
    }
}
