//! Several thousand small patches of like colour whose edges are the picture's own: what everything larger is built from.
//!
//! Simple linear iterative clustering (Achanta et al. 2012) on a grid of seeds; each cell looks at the nine seeds around it.

use super::cells::{Cells, EvenColour};
use rayon::prelude::*;

/// Cells between seeds: about the smallest brush. A choice.
const SPACING: usize = 6;
/// Rounds of giving cells to seeds and moving seeds to their cells.
const ROUNDS: usize = 4;
/// Units of an even colour a cell may differ for being one spacing nearer. A choice: small, so that edges win over round shapes.
const COMPACT: f32 = 5.0;

/// Patches over a grid of cells.
pub(crate) struct Patches {
    /// Patch of every cell.
    pub of_cell: Vec<u32>,
    /// Cells, mean look and mean place of every patch.
    pub all: Vec<Patch>,
    /// Borders: `(one, other, cells)` with `one < other`, ascending.
    pub borders: Vec<(u32, u32, u32)>,
}

/// A patch.
#[derive(Clone, Copy, Default)]
pub(super) struct Patch {
    /// Number of cells; 0 when its seed won none.
    pub cells: f32,
    /// Mean look.
    pub look: EvenColour,
    /// Mean column and row.
    pub middle: (f32, f32),
}

/// Grows the patches.
pub(super) fn grow(cells: &Cells) -> Patches {
    let (w, h) = (cells.width, cells.height);
    let (across, down) = (w.div_ceil(SPACING), h.div_ceil(SPACING));
    let mut seeds: Vec<Patch> = (0..across * down)
        .map(|s| {
            let (x, y) = ((s % across * SPACING + SPACING / 2).min(w - 1), (s / across * SPACING + SPACING / 2).min(h - 1));
            Patch { cells: 1.0, look: cells.looks[y * w + x], middle: (x as f32, y as f32) }
        })
        .collect();
    let mut of_cell = vec![0u32; w * h];
    let near = (COMPACT / SPACING as f32).powi(2);
    for _ in 0..ROUNDS {
        of_cell.par_chunks_exact_mut(w).enumerate().for_each(|(y, row)| {
            let sy = y / SPACING;
            for (x, own) in row.iter_mut().enumerate() {
                let sx = x / SPACING;
                let look = cells.looks[y * w + x];
                let mut best = (f32::INFINITY, 0);
                for ty in sy.saturating_sub(1)..(sy + 2).min(down) {
                    for tx in sx.saturating_sub(1)..(sx + 2).min(across) {
                        let seed = &seeds[ty * across + tx];
                        let (dx, dy) = (seed.middle.0 - x as f32, seed.middle.1 - y as f32);
                        let d = super::cells::apart2(look, seed.look) + near * (dx * dx + dy * dy);
                        if d < best.0 {
                            best = (d, (ty * across + tx) as u32);
                        }
                    }
                }
                *own = best.1;
            }
        });
        seeds = means(cells, &of_cell, across, down);
    }
    let borders = borders(&of_cell, w);
    Patches { of_cell, all: seeds, borders }
}

/// Mean of what each seed won; a cell never belongs to a seed farther than one place off in the grid of seeds.
fn means(cells: &Cells, of_cell: &[u32], across: usize, down: usize) -> Vec<Patch> {
    let w = cells.width;
    (0..across * down)
        .into_par_iter()
        .map(|s| {
            let span = |i: usize, n: usize| (i.saturating_sub(1) * SPACING, ((i + 2) * SPACING).min(n));
            let ((x0, x1), (y0, y1)) = (span(s % across, w), span(s / across, cells.height));
            let mut sum = Patch::default();
            for y in y0..y1 {
                for x in x0..x1 {
                    let i = y * w + x;
                    if of_cell[i] == s as u32 {
                        sum.cells += 1.0;
                        (0..3).for_each(|c| sum.look[c] += cells.looks[i][c]);
                        sum.middle = (sum.middle.0 + x as f32, sum.middle.1 + y as f32);
                    }
                }
            }
            let n = sum.cells.max(1.0);
            Patch { cells: sum.cells, look: sum.look.map(|v| v / n), middle: (sum.middle.0 / n, sum.middle.1 / n) }
        })
        .collect()
}

fn borders(of_cell: &[u32], w: usize) -> Vec<(u32, u32, u32)> {
    let mut pairs: Vec<(u32, u32)> = of_cell
        .par_iter()
        .enumerate()
        .flat_map_iter(|(i, a)| {
            let right = (i % w + 1 < w).then(|| of_cell[i + 1]);
            let below = of_cell.get(i + w).copied();
            [right, below].into_iter().flatten().filter(|b| *b != *a).map(|b| (*a.min(&b), *a.max(&b)))
        })
        .collect();
    pairs.par_sort_unstable();
    pairs.chunk_by(|p, q| p == q).map(|run| (run[0].0, run[0].1, run.len() as u32)).collect()
}
