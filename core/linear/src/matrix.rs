//! A table of numbers.

use crate::Cholesky;
use std::ops::{Add, Index, IndexMut, Sub};

/// A dense matrix of any size.
#[derive(Clone, Debug, PartialEq)]
pub struct Matrix {
    rows: usize,
    columns: usize,
    /// Row by row.
    entries: Vec<f64>,
}

impl Matrix {
    /// A matrix of noughts.
    pub fn zeros(rows: usize, columns: usize) -> Self {
        Self { rows, columns, entries: vec![0.0; rows * columns] }
    }

    /// The identity.
    pub fn identity(size: usize) -> Self {
        Self::from_fn(size, size, |i, j| f64::from(u8::from(i == j)))
    }

    /// The matrix of a function of row and column.
    pub fn from_fn(rows: usize, columns: usize, entry: impl Fn(usize, usize) -> f64) -> Self {
        Self { rows, columns, entries: (0..rows * columns).map(|i| entry(i / columns, i % columns)).collect() }
    }

    /// Number of rows.
    pub fn rows(&self) -> usize {
        self.rows
    }

    /// Number of columns.
    pub fn columns(&self) -> usize {
        self.columns
    }

    /// One row.
    ///
    /// # Panics
    /// When there is no such row.
    pub fn row(&self, row: usize) -> &[f64] {
        &self.entries[row * self.columns..(row + 1) * self.columns]
    }

    pub(crate) fn row_mut(&mut self, row: usize) -> &mut [f64] {
        &mut self.entries[row * self.columns..(row + 1) * self.columns]
    }

    /// Two different rows, the second to be changed.
    pub(crate) fn two_rows(&mut self, read: usize, changed: usize) -> (&[f64], &mut [f64]) {
        let columns = self.columns;
        let (before, after) = self.entries.split_at_mut(read.max(changed) * columns);
        let lower = &mut before[read.min(changed) * columns..][..columns];
        let upper = &mut after[..columns];
        if read < changed { (lower, upper) } else { (upper, lower) }
    }

    /// Rows and columns exchanged.
    pub fn transposed(&self) -> Self {
        Self::from_fn(self.columns, self.rows, |i, j| self[(j, i)])
    }

    /// The matrix product.
    ///
    /// # Panics
    /// When the other has not as many rows as this one has columns.
    pub fn times(&self, other: &Self) -> Self {
        assert_eq!(self.columns, other.rows, "sizes of a product");
        let mut product = Self::zeros(self.rows, other.columns);
        for i in 0..self.rows {
            for (share, row) in self.row(i).iter().zip(other.entries.chunks_exact(other.columns.max(1))) {
                add_scaled(product.row_mut(i), *share, row);
            }
        }
        product
    }

    /// The product with a column.
    ///
    /// # Panics
    /// When the column has not as many entries as this one has columns.
    pub fn times_column(&self, column: &[f64]) -> Vec<f64> {
        assert_eq!(self.columns, column.len(), "sizes of a product");
        (0..self.rows).map(|i| dot(self.row(i), column)).collect()
    }

    /// Every entry times a number.
    #[must_use]
    pub fn scaled(mut self, by: f64) -> Self {
        self.entries.iter_mut().for_each(|x| *x *= by);
        self
    }

    /// Sum of the diagonal.
    pub fn trace(&self) -> f64 {
        (0..self.rows.min(self.columns)).map(|i| self[(i, i)]).sum()
    }

    /// The square root of a symmetric positive definite matrix; `None` of any other. Only the lower half is looked at.
    pub fn cholesky(&self) -> Option<Cholesky> {
        Cholesky::of(self)
    }
}

impl Index<(usize, usize)> for Matrix {
    type Output = f64;

    fn index(&self, (row, column): (usize, usize)) -> &f64 {
        debug_assert!(column < self.columns);
        &self.entries[row * self.columns + column]
    }
}

impl IndexMut<(usize, usize)> for Matrix {
    fn index_mut(&mut self, (row, column): (usize, usize)) -> &mut f64 {
        debug_assert!(column < self.columns);
        &mut self.entries[row * self.columns + column]
    }
}

impl Add<&Matrix> for Matrix {
    type Output = Matrix;

    fn add(mut self, other: &Matrix) -> Matrix {
        assert_eq!((self.rows, self.columns), (other.rows, other.columns), "sizes of a sum");
        add_scaled(&mut self.entries, 1.0, &other.entries);
        self
    }
}

impl Sub<&Matrix> for Matrix {
    type Output = Matrix;

    fn sub(mut self, other: &Matrix) -> Matrix {
        assert_eq!((self.rows, self.columns), (other.rows, other.columns), "sizes of a difference");
        add_scaled(&mut self.entries, -1.0, &other.entries);
        self
    }
}

/// Adds a multiple of one row to another of the same length.
pub(crate) fn add_scaled(to: &mut [f64], share: f64, row: &[f64]) {
    to.iter_mut().zip(row).for_each(|(t, r)| *t += share * r);
}

/// The inner product of two rows of the same length.
pub fn dot(a: &[f64], b: &[f64]) -> f64 {
    // Eight sums side by side: one sum waits for each addition before the next.
    const LANES: usize = 8;
    let (whole_a, rest_a) = a.as_chunks::<LANES>();
    let (whole_b, rest_b) = b.as_chunks::<LANES>();
    let mut sums = [0.0; LANES];
    for (x, y) in whole_a.iter().zip(whole_b) {
        (0..LANES).for_each(|lane| sums[lane] += x[lane] * y[lane]);
    }
    sums.iter().sum::<f64>() + rest_a.iter().zip(rest_b).map(|(x, y)| x * y).sum::<f64>()
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    fn matrix(rows: usize, columns: usize, seed: &[f64]) -> Matrix {
        Matrix::from_fn(rows, columns, |i, j| seed[(i * columns + j) % seed.len()] + (i + 2 * j) as f64)
    }

    proptest! {
        #[test]
        fn a_product_transposed_is_the_product_of_the_transposed_in_reverse(seed in prop::collection::vec(-3.0f64..3.0, 1..40), n in 1usize..9, m in 1usize..20, k in 1usize..9) {
            let (a, b) = (matrix(n, m, &seed), matrix(m, k, &seed));
            let (one, other) = (a.times(&b).transposed(), b.transposed().times(&a.transposed()));
            prop_assert!((one.clone() - &other).entries.iter().all(|x| x.abs() < 1e-9));
            let column: Vec<f64> = (0..m).map(|i| b[(i, 0)]).collect();
            prop_assert!(a.times_column(&column).iter().enumerate().all(|(i, x)| (x - one[(0, i)]).abs() < 1e-9));
        }
    }

    #[test]
    fn the_identity_changes_nothing() {
        let a = matrix(3, 3, &[0.5, -1.0]);
        assert_eq!(a.times(&Matrix::identity(3)), a);
        assert_eq!(a.clone() + &a, a.clone().scaled(2.0));
        assert_eq!(Matrix::identity(4).trace(), 4.0);
    }
}
