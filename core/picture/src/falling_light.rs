//! Light over a sheet as a surface of the second degree.

use lean_linear::solve;

/// Terms of the surface at a place, shares of the sheet from its middle.
pub(crate) fn terms(x: f64, y: f64) -> [f64; 6] {
    [1.0, x, y, x * x, x * y, y * y]
}

/// The surface nearest to `y` in the rows that are kept.
pub(crate) fn least_squares(rows: &[[f64; 6]], y: &[f64], kept: &[usize]) -> [f64; 6] {
    // A little pull to an even light keeps few places from bending it.
    const EVEN: [f64; 6] = [1e-9, 1e-3, 1e-3, 3e-2, 3e-2, 3e-2];
    let sum = |of: &dyn Fn(usize) -> f64| kept.iter().map(|n| of(*n)).sum::<f64>();
    let pull = |i: usize, k: usize| if i == k { EVEN[i] } else { 0.0 };
    let normal = std::array::from_fn(|i| std::array::from_fn(|k| sum(&|n| rows[n][i] * rows[n][k]) + pull(i, k)));
    solve(normal, std::array::from_fn(|i| sum(&|n| rows[n][i] * y[n]))).unwrap_or([0.0; 6])
}
