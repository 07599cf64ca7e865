//! The part of a table that is still in play, laid out for adding up sets.

use crate::table::Table;
use lean_recipes::cost::quick::less;

/// Costs of the pigments still in play, by their position in `ids`, so that the rows of all later pigments lie beside each other.
pub(crate) struct InPlay {
    /// Numbers of the pigments in the table, in any order.
    pub ids: Vec<usize>,
    /// Targets, padded.
    pub width: usize,
    /// Cost of what is free.
    pub free: Vec<f32>,
    /// `pairs[(i·n + j)·width ..]` for `i ≤ j`; `i == j` is the single pigment.
    pub pairs: Vec<f32>,
    /// `triples[((i·n + j)·n + k)·width ..]` for `i < j < k`. Empty when they are not asked for.
    pub triples: Vec<f32>,
}

impl InPlay {
    /// Takes the rows of `ids` out of the table, with triples only when sets are large enough to need them.
    pub(crate) fn of(table: &Table, ids: Vec<usize>, with_triples: bool) -> Self {
        let (n, m) = (ids.len(), table.width);
        let mut pairs = vec![0.0; n * n * m];
        let mut triples = vec![0.0; if with_triples { n * n * n * m } else { 0 }];
        for i in 0..n {
            for j in i..n {
                let row = table.pair_of(ids[i], ids[j]);
                pairs[(i * n + j) * m..][..m].copy_from_slice(row);
                for k in if with_triples && i < j { j + 1..n } else { 0..0 } {
                    triples[((i * n + j) * n + k) * m..][..m].copy_from_slice(table.triple_of(ids[i], ids[j], ids[k]));
                }
            }
        }
        Self { ids, width: m, free: table.free().to_vec(), pairs, triples }
    }

    /// How many pigments are in play.
    pub(crate) fn len(&self) -> usize {
        self.ids.len()
    }
}

/// Lowers each number to the other's where that is less.
#[inline(always)]
pub(crate) fn lower(row: &mut [f32], other: &[f32]) {
    for (a, b) in row.iter_mut().zip(other) {
        *a = less(*a, *b);
    }
}
