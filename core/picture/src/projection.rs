//! From one plane to another, seen from anywhere (Hartley & Zisserman, Multiple View Geometry, 2004, section 2.3).

use lean_linear::solve;

/// A projection of one plane onto another.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Projection([[f64; 3]; 3]);

impl Projection {
    /// The projection that leaves every place where it is.
    pub const IDENTITY: Self = Self::scaling(1.0);

    /// The projection that multiplies lengths by `s`.
    pub const fn scaling(s: f64) -> Self {
        Self([[s, 0.0, 0.0], [0.0, s, 0.0], [0.0, 0.0, 1.0]])
    }

    /// The place a place is taken to. What lies on the horizon of the plane is taken to infinity, and what lies beyond it to the other side.
    pub fn at(&self, x: f64, y: f64) -> (f64, f64) {
        let [u, v, depth] = self.through(x, y);
        (u / depth, v / depth)
    }

    /// The same, `None` on the horizon and beyond.
    pub fn before_horizon(&self, x: f64, y: f64) -> Option<(f64, f64)> {
        let [u, v, depth] = self.through(x, y);
        (depth > 1e-9).then(|| (u / depth, v / depth))
    }

    fn through(&self, x: f64, y: f64) -> [f64; 3] {
        self.0.map(|row| row[0] * x + row[1] * y + row[2])
    }

    /// The projection back; `None` where this one takes the plane to a line.
    pub fn inverse(&self) -> Option<Self> {
        let column = |n: usize| solve(self.0, std::array::from_fn(|i| f64::from(u8::from(i == n))));
        let columns = [column(0)?, column(1)?, column(2)?];
        Some(Self(std::array::from_fn(|i| std::array::from_fn(|j| columns[j][i]))))
    }

    /// This projection after another.
    #[must_use]
    pub fn after(&self, first: &Self) -> Self {
        Self(std::array::from_fn(|i| std::array::from_fn(|j| (0..3).map(|k| self.0[i][k] * first.0[k][j]).sum())))
    }
}

/// The projection that takes four places to four others, its last entry 1: eight linear equations.
///
/// # Errors
/// When the places do not span a shape.
pub fn projection(from: &[(f64, f64); 4], to: &[(f64, f64)]) -> Result<Projection, String> {
    let mut equations = [[0.0; 8]; 8];
    let mut wanted = [0.0; 8];
    for (i, ((x, y), (u, v))) in from.iter().zip(to).enumerate() {
        equations[2 * i] = [*x, *y, 1.0, 0.0, 0.0, 0.0, -u * x, -u * y];
        equations[2 * i + 1] = [0.0, 0.0, 0.0, *x, *y, 1.0, -v * x, -v * y];
        (wanted[2 * i], wanted[2 * i + 1]) = (*u, *v);
    }
    let h = solve(equations, wanted).ok_or("The four corners lie on one line: set them at the corners of a rectangle.")?;
    Ok(Projection([[h[0], h[1], h[2]], [h[3], h[4], h[5]], [h[6], h[7], 1.0]]))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_corners_are_taken_to_each_other_and_back() {
        let (from, to) = ([(0.0, 0.0), (4.0, 0.0), (4.0, 3.0), (0.0, 3.0)], [(10.0, 12.0), (90.0, 20.0), (80.0, 70.0), (15.0, 60.0)]);
        let there = projection(&from, &to).unwrap();
        let back = there.inverse().unwrap();
        let near = |a: (f64, f64), b: (f64, f64)| (a.0 - b.0).hypot(a.1 - b.1) < 1e-9;
        for (a, b) in from.into_iter().zip(to) {
            assert!(near(there.at(a.0, a.1), b) && near(back.at(b.0, b.1), a));
            assert!(near(back.after(&there).at(a.0, a.1), a));
        }
        assert!(projection(&[(0.0, 0.0), (1.0, 0.0), (2.0, 0.0), (3.0, 0.0)], &to).is_err(), "a line spans no shape");
    }
}
