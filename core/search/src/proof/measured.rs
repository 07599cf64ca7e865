//! The two inner loops of the proof by themselves, for the benchmark.

use crate::progress::Unwatched;
use crate::proof::bound::{Relaxation, Scope};
use crate::proof::subsets::{Walk, count};
use crate::proof::top::Top;
use crate::table::Table;
use crate::table::in_play::InPlay;

/// Goes through every set of `places` pigments. Returns how many there are, how many bytes of rows are read for them, and the best cost.
pub fn walked(table: &Table, places: usize) -> (f64, f64, f32) {
    let in_play = InPlay::of(table, (0..table.pigments).collect(), table.has_triples() && places > 2);
    let mut top = Top::below(f32::INFINITY);
    let walk = Walk { in_play: &in_play, locked: 0, places, unmet: &|_| 0 };
    // Unwatched work is never cancelled.
    let _ = walk.all(&mut top, &Unwatched);
    let sets = count(table.pigments, places);
    // For each set the rows of its last pigment: one carried, and one for each pigment but the last two.
    let rows = (places - 1) as f64;
    (sets, sets * rows * (table.width * size_of::<f32>()) as f64, top.sets().first().map_or(f32::INFINITY, |r| r.cost))
}

/// Looks at every group `steps` times with its charges. Returns how many bytes of rows are read, and the bound.
pub fn relaxed(table: &Table, places: usize, steps: usize) -> (f64, f64) {
    let ids: Vec<usize> = (0..table.pigments).collect();
    let fixed = vec![false; ids.len()];
    let scope = Scope { table, ids: &ids, fixed: &fixed, places };
    let bound = Relaxation::of(scope, vec![0.0; ids.len() * table.width]).raise(f64::INFINITY, steps, &Unwatched);
    (count(table.pigments, 3) * (table.width * size_of::<f32>()) as f64 * steps as f64, bound.least)
}
