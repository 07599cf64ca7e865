//! From one plane to another, seen from anywhere.

use nalgebra::{Matrix3, SMatrix, SVector};

/// The projection that takes four places to four others, its last entry 1: eight linear equations.
///
/// # Errors
/// When the places do not span a shape.
pub fn projection(from: &[(f64, f64); 4], to: &[(f64, f64)]) -> Result<Matrix3<f64>, String> {
    let mut a = SMatrix::<f64, 8, 8>::zeros();
    let mut b = SVector::<f64, 8>::zeros();
    for (i, ((x, y), (u, v))) in from.iter().zip(to).enumerate() {
        a.row_mut(2 * i).copy_from_slice(&[*x, *y, 1.0, 0.0, 0.0, 0.0, -u * x, -u * y]);
        a.row_mut(2 * i + 1).copy_from_slice(&[0.0, 0.0, 0.0, *x, *y, 1.0, -v * x, -v * y]);
        b[2 * i] = *u;
        b[2 * i + 1] = *v;
    }
    let h = a.lu().solve(&b).ok_or("The four corners lie on one line: set them at the corners of a rectangle.")?;
    Ok(Matrix3::new(h[0], h[1], h[2], h[3], h[4], h[5], h[6], h[7], 1.0))
}
