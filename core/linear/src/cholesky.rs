//! The square root of a symmetric positive definite matrix (Golub & Van Loan, Matrix Computations, section 4.2).

use crate::Matrix;
use crate::matrix::{add_scaled, dot};

/// A lower triangle whose product with its transposed is the matrix it was made of.
#[derive(Clone, Debug)]
pub struct Cholesky {
    lower: Matrix,
}

impl Cholesky {
    pub(crate) fn of(matrix: &Matrix) -> Option<Self> {
        let size = matrix.rows();
        if matrix.columns() != size {
            return None;
        }
        let mut lower = Matrix::zeros(size, size);
        for i in 0..size {
            for j in 0..=i {
                let left = matrix[(i, j)] - dot(&lower.row(i)[..j], &lower.row(j)[..j]);
                if i == j && (left <= 0.0 || !left.is_finite()) {
                    return None;
                }
                lower[(i, j)] = if i == j { left.sqrt() } else { left / lower[(j, j)] };
            }
        }
        Some(Self { lower })
    }

    /// The columns that the matrix takes to these.
    ///
    /// # Panics
    /// When these have not as many rows as the matrix.
    pub fn solve(&self, to: &Matrix) -> Matrix {
        let size = self.lower.rows();
        assert_eq!(size, to.rows(), "sizes of a system");
        let mut x = to.clone();
        for i in 0..size {
            for k in 0..i {
                let (known, row) = x.two_rows(k, i);
                add_scaled(row, -self.lower[(i, k)], known);
            }
            x.row_mut(i).iter_mut().for_each(|v| *v /= self.lower[(i, i)]);
        }
        for i in (0..size).rev() {
            x.row_mut(i).iter_mut().for_each(|v| *v /= self.lower[(i, i)]);
            for k in 0..i {
                let (known, row) = x.two_rows(i, k);
                add_scaled(row, -self.lower[(i, k)], known);
            }
        }
        x
    }

    /// The same of one column.
    ///
    /// # Panics
    /// When it has not as many entries as the matrix has rows.
    pub fn solve_column(&self, to: &[f64]) -> Vec<f64> {
        let column = self.solve(&Matrix::from_fn(to.len(), 1, |i, _| to[i]));
        (0..to.len()).map(|i| column[(i, 0)]).collect()
    }

    /// The inverse of the matrix.
    pub fn inverse(&self) -> Matrix {
        self.solve(&Matrix::identity(self.lower.rows()))
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    proptest! {
        #[test]
        fn what_is_solved_leads_back(seed in prop::collection::vec(-2.0f64..2.0, 3..60), n in 1usize..24) {
            let root = Matrix::from_fn(n, n, |i, j| seed[(i * n + j) % seed.len()]);
            let square = root.times(&root.transposed()) + &Matrix::identity(n);
            let factor = square.cholesky().expect("it is positive definite");
            let to: Vec<f64> = (0..n).map(|i| seed[i % seed.len()]).collect();
            let back = square.times_column(&factor.solve_column(&to));
            prop_assert!(back.iter().zip(&to).all(|(a, b)| (a - b).abs() < 1e-8));
            let one = square.times(&factor.inverse()) - &Matrix::identity(n);
            prop_assert!((0..n).all(|i| one.row(i).iter().all(|x| x.abs() < 1e-8)));
        }
    }

    #[test]
    fn what_is_not_positive_definite_has_none() {
        assert!(Matrix::from_fn(2, 2, |i, j| if i == j { 1.0 } else { 2.0 }).cholesky().is_none());
        assert!(Matrix::zeros(3, 3).cholesky().is_none());
        assert!(Matrix::from_fn(1, 1, |_, _| f64::NAN).cholesky().is_none());
        assert!(Matrix::zeros(2, 3).cholesky().is_none());
    }
}
