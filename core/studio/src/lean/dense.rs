//! The part of a table that is still in play, laid out for adding up sets.

use super::table::Table;

/// Costs of the pigments still in play, by their position in `ids`, with triples in every order so that rows lie beside each other.
pub struct Dense {
    /// Numbers of the pigments in the table, ascending.
    pub ids: Vec<usize>,
    /// Targets, padded.
    pub width: usize,
    /// Cost of what is free.
    pub free: Vec<f32>,
    /// `pairs[(i·n + j)·width ..]`; `i == j` is the single pigment.
    pub pairs: Vec<f32>,
    /// `triples[((i·n + j)·n + k)·width ..]` where all three differ. Empty when the table is only begun.
    pub triples: Vec<f32>,
}

impl Dense {
    /// Takes the rows of `ids` (ascending) out of the table.
    pub fn of(table: &Table, ids: Vec<usize>) -> Self {
        let (n, m) = (ids.len(), table.width);
        let mut pairs = vec![0.0; n * n * m];
        let complete = n < 3 || table.triple(ids[0], ids[1], ids[2]).is_some();
        let mut triples = vec![0.0; if complete { n * n * n * m } else { 0 }];
        for i in 0..n {
            pairs[(i * n + i) * m..][..m].copy_from_slice(table.single(ids[i]));
            for j in i + 1..n {
                let row = table.pair(ids[i], ids[j]);
                pairs[(i * n + j) * m..][..m].copy_from_slice(row);
                pairs[(j * n + i) * m..][..m].copy_from_slice(row);
                for k in j + 1..n {
                    let Some(row) = table.triple(ids[i], ids[j], ids[k]) else { break };
                    for [a, b, c] in [[i, j, k], [i, k, j], [j, i, k], [j, k, i], [k, i, j], [k, j, i]] {
                        triples[((a * n + b) * n + c) * m..][..m].copy_from_slice(row);
                    }
                }
            }
        }
        Self { ids, width: m, free: table.free().to_vec(), pairs, triples }
    }

    /// The same without one position.
    pub fn without(&self, out: usize) -> Self {
        let kept: Vec<usize> = (0..self.len()).filter(|i| *i != out).collect();
        let row = |data: &[f32], at: usize| data[at * self.width..][..self.width].to_vec();
        let n = self.len();
        let pairs = kept.iter().flat_map(|i| kept.iter().flat_map(move |j| row(&self.pairs, i * n + j))).collect();
        let beside = |i: usize, j: usize| kept.iter().flat_map(move |k| row(&self.triples, (i * n + j) * n + k));
        let triples = if self.triples.is_empty() {
            Vec::new()
        } else {
            kept.iter().flat_map(|i| kept.iter().flat_map(move |j| beside(*i, *j))).collect()
        };
        Self { ids: kept.iter().map(|i| self.ids[*i]).collect(), width: self.width, free: self.free.clone(), pairs, triples }
    }

    /// How many pigments are in play.
    pub fn len(&self) -> usize {
        self.ids.len()
    }

    /// Row of two (or, when equal, of one).
    pub fn pair(&self, i: usize, j: usize) -> &[f32] {
        &self.pairs[(i * self.len() + j) * self.width..][..self.width]
    }

    /// Row of three different pigments.
    pub fn triple(&self, i: usize, j: usize, k: usize) -> &[f32] {
        &self.triples[((i * self.len() + j) * self.len() + k) * self.width..][..self.width]
    }

    /// Cost of a whole set by positions.
    pub fn cost(&self, set: &[usize]) -> f32 {
        let mut now = self.free.clone();
        for (a, i) in set.iter().enumerate() {
            lower(&mut now, self.pair(*i, *i));
            for (b, j) in set.iter().enumerate().skip(a + 1) {
                lower(&mut now, self.pair(*i, *j));
                if !self.triples.is_empty() {
                    set[b + 1..].iter().for_each(|k| lower(&mut now, self.triple(*i, *j, *k)));
                }
            }
        }
        now.iter().sum()
    }
}

/// The lesser of two numbers, neither of them NaN: one instruction for eight, where `f32::min` takes three.
#[inline(always)]
pub fn less(a: f32, b: f32) -> f32 {
    if b < a { b } else { a }
}

/// Lowers each number to the other's where that is less.
#[inline(always)]
pub fn lower(row: &mut [f32], other: &[f32]) {
    for (a, b) in row.iter_mut().zip(other) {
        *a = less(*a, *b);
    }
}
