//! A shape blown up: its height solves Poisson's equation with nothing at its edge, as a membrane under pressure does, and the root of it makes a disc a ball.

use super::{Bulge, Shape};

/// Columns or rows of the coarse grid the height is solved on.
const GRID: usize = 80;
/// Sweeps of successive over-relaxation, and its factor (Young 1954).
const SWEEPS: usize = 120;
const OVER: f32 = 1.88;
/// Share of the slope along a tube that is left, and the slope of a roof. Choices.
const ALONG: f64 = 0.12;
const ROOF: f64 = 0.9;

/// Light on every cell of the shape, −1 away from the light to 1 towards it.
pub(super) fn lit(shape: &Shape, bulge: Bulge, from: [f64; 3]) -> Vec<f32> {
    if bulge == Bulge::Flat {
        return across(shape, from);
    }
    let scale = (shape.wide.max(shape.high) as f64 / GRID as f64).max(1.0);
    let grid = Membrane::of(shape, scale);
    let axis = if bulge == Bulge::Tube { Some(long_axis(shape)) } else { None };
    shape
        .at
        .iter()
        .map(|(x, y)| {
            let (mut gx, mut gy) = grid.slope(*x as f64 / scale, *y as f64 / scale);
            if let Some((ax, ay)) = axis {
                let along = (gx * ax + gy * ay) * (1.0 - ALONG);
                (gx, gy) = (gx - along * ax, gy - along * ay);
            }
            if bulge == Bulge::Ridge {
                let steep = gx.hypot(gy).max(1e-9);
                (gx, gy) = (gx / steep * ROOF, gy / steep * ROOF);
            }
            let long = (gx * gx + gy * gy + 1.0).sqrt();
            ((-gx * from[0] - gy * from[1] + from[2]) / long) as f32
        })
        .collect()
}

/// Light that runs evenly over a flat shape, from the side it comes from.
fn across(shape: &Shape, from: [f64; 3]) -> Vec<f32> {
    let long = from[0].hypot(from[1]).max(1e-9);
    let way = |(x, y): &(usize, usize)| (*x as f64 * from[0] + *y as f64 * from[1]) / long;
    let all: Vec<f64> = shape.at.iter().map(way).collect();
    let (least, most) = all.iter().fold((f64::INFINITY, f64::NEG_INFINITY), |(a, b), v| (a.min(*v), b.max(*v)));
    all.into_iter().map(|v| (2.0 * (v - least) / (most - least).max(1.0) - 1.0) as f32).collect()
}

/// Direction in which a shape is longest: the first principal axis of its cells.
fn long_axis(shape: &Shape) -> (f64, f64) {
    let n = shape.at.len() as f64;
    let (mx, my) = shape.at.iter().fold((0.0, 0.0), |(a, b), (x, y)| (a + *x as f64 / n, b + *y as f64 / n));
    let (mut xx, mut xy, mut yy) = (0.0, 0.0, 0.0);
    for (x, y) in &shape.at {
        let (dx, dy) = (*x as f64 - mx, *y as f64 - my);
        (xx, xy, yy) = (xx + dx * dx, xy + dx * dy, yy + dy * dy);
    }
    let angle = 0.5 * (2.0 * xy).atan2(xx - yy);
    (angle.cos(), angle.sin())
}

/// Heights on a coarse grid with an empty frame round it.
struct Membrane {
    wide: usize,
    high: usize,
    height: Vec<f32>,
}

impl Membrane {
    fn of(shape: &Shape, scale: f64) -> Self {
        let (wide, high) = ((shape.wide as f64 / scale).ceil() as usize + 2, (shape.high as f64 / scale).ceil() as usize + 2);
        let mut inside = vec![false; wide * high];
        for (x, y) in &shape.at {
            inside[((*y as f64 / scale) as usize + 1) * wide + (*x as f64 / scale) as usize + 1] = true;
        }
        let cells: Vec<usize> = (0..inside.len()).filter(|i| inside[*i]).collect();
        let mut load = vec![0.0f32; wide * high];
        for _ in 0..SWEEPS {
            for i in &cells {
                let around = load[i - 1] + load[i + 1] + load[i - wide] + load[i + wide];
                load[*i] += OVER * ((around + 1.0) / 4.0 - load[*i]);
            }
        }
        // A disc of radius r comes to (r² − x²)/4: twice its root is half a ball.
        let height = load.iter().map(|h| 2.0 * h.max(0.0).sqrt()).collect();
        Self { wide, high, height }
    }

    fn at(&self, x: f64, y: f64) -> f64 {
        let (x, y) = ((x + 0.5).clamp(0.0, self.wide as f64 - 1.001), (y + 0.5).clamp(0.0, self.high as f64 - 1.001));
        let (x0, y0) = (x as usize, y as usize);
        let (fx, fy) = (x - x0 as f64, y - y0 as f64);
        let h = |x: usize, y: usize| f64::from(self.height[y * self.wide + x]);
        h(x0, y0) * (1.0 - fx) * (1.0 - fy)
            + h(x0 + 1, y0) * fx * (1.0 - fy)
            + h(x0, y0 + 1) * (1.0 - fx) * fy
            + h(x0 + 1, y0 + 1) * fx * fy
    }

    fn slope(&self, x: f64, y: f64) -> (f64, f64) {
        ((self.at(x + 1.0, y) - self.at(x - 1.0, y)) / 2.0, (self.at(x, y + 1.0) - self.at(x, y - 1.0)) / 2.0)
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    /// A disc, or a bar along x, on a grid of 200.
    fn shape(inside: impl Fn(f64, f64) -> bool) -> Shape {
        let cells: Vec<usize> = (0..200 * 200).filter(|i| inside((i % 200) as f64 - 100.0, (i / 200) as f64 - 100.0)).collect();
        Shape::of(&cells, 200)
    }

    const ABOVE_LEFT: [f64; 3] = [-0.55, -0.62, 0.56];

    #[test]
    fn a_disc_is_lit_like_a_ball() {
        let disc = shape(|x, y| x.hypot(y) < 90.0);
        let light = lit(&disc, Bulge::Round, ABOVE_LEFT);
        for (n, (x, y)) in disc.at.iter().enumerate().step_by(37) {
            let (x, y) = ((*x as f64 + disc.left as f64 - 100.0) / 90.0, (*y as f64 + disc.top as f64 - 100.0) / 90.0);
            // Near its edge a ball falls away faster than any grid tells.
            if x.hypot(y) < 0.8 {
                let z = (1.0 - x * x - y * y).sqrt();
                let wanted = x * ABOVE_LEFT[0] + y * ABOVE_LEFT[1] + z * ABOVE_LEFT[2];
                assert!((f64::from(light[n]) - wanted).abs() < 0.08, "at {x:.2}, {y:.2}: {} is not {wanted:.2}", light[n]);
            }
        }
    }

    #[test]
    fn a_tube_changes_across_and_a_roof_has_two_sides() {
        let bar = shape(|x, y| x.abs() < 95.0 && y.abs() < 20.0);
        let at = |light: &[f32], x: usize, y: usize| {
            let n = bar.at.iter().position(|p| *p == (x, y)).unwrap();
            f64::from(light[n])
        };
        let tube = lit(&bar, Bulge::Tube, [0.0, -0.8, 0.6]);
        assert!((at(&tube, 20, 10) - at(&tube, 160, 10)).abs() < 0.05, "the same along it");
        assert!(at(&tube, 90, 4) > at(&tube, 90, 35) + 0.5, "light above, dark below");
        let roof = lit(&bar, Bulge::Ridge, [0.0, -0.8, 0.6]);
        assert!((at(&roof, 90, 6) - at(&roof, 90, 14)).abs() < 0.05, "one side of a roof is evenly lit");
        assert!(at(&roof, 90, 10) > at(&roof, 90, 30) + 0.5);
        let flat = lit(&bar, Bulge::Flat, [-1.0, 0.0, 0.2]);
        assert!(at(&flat, 5, 20) > 0.9 && at(&flat, 184, 20) < -0.9);
    }
}
