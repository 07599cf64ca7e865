//! What squinting loses: things too thin to be a mass.

use rayon::prelude::*;

/// Steps the range of a plane is cut into; finer than any eye.
const LEVELS: usize = 256;

/// Each cell takes the median of the square of `2·radius + 1` cells around it (Tukey 1977; running histogram after Huang, Yang &
/// Tang 1979). A pole or wire narrower than half the square disappears; a mass keeps its edges where they are.
pub fn median(plane: &[f32], width: usize, height: usize, radius: usize) -> Vec<f32> {
    let (low, high) = plane.iter().fold((f32::INFINITY, f32::NEG_INFINITY), |(l, h), v| (l.min(*v), h.max(*v)));
    if high - low < 1e-6 {
        return plane.to_vec();
    }
    let rung = (high - low) / (LEVELS - 1) as f32;
    let levels: Vec<u8> = plane.iter().map(|v| ((v - low) / rung).round() as u8).collect();
    let mut out = vec![0.0; plane.len()];
    out.par_chunks_exact_mut(width).enumerate().for_each(|(y, row)| {
        let rows = y.saturating_sub(radius)..(y + radius + 1).min(height);
        let mut window = Window { counts: [0; LEVELS], size: 0 };
        for x in 0..(radius + 1).min(width) {
            rows.clone().for_each(|r| window.add(levels[r * width + x]));
        }
        for (x, cell) in row.iter_mut().enumerate() {
            if x > 0 && x + radius < width {
                rows.clone().for_each(|r| window.add(levels[r * width + x + radius]));
            }
            if x > radius {
                rows.clone().for_each(|r| window.take(levels[r * width + x - radius - 1]));
            }
            *cell = low + window.middle() as f32 * rung;
        }
    });
    out
}

struct Window {
    counts: [u32; LEVELS],
    size: u32,
}

impl Window {
    fn add(&mut self, level: u8) {
        self.counts[level as usize] += 1;
        self.size += 1;
    }

    fn take(&mut self, level: u8) {
        self.counts[level as usize] -= 1;
        self.size -= 1;
    }

    fn middle(&self) -> usize {
        let mut passed = 0;
        self.counts
            .iter()
            .position(|n| {
                passed += n;
                2 * passed > self.size
            })
            .unwrap_or(LEVELS - 1)
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_pole_disappears_and_a_wall_stays() {
        let (w, h) = (60, 40);
        let scene = |x: usize| match x {
            10..=13 => 1.0,
            30.. => 4.0,
            _ => 8.0,
        };
        let plane: Vec<f32> = (0..w * h).map(|i| scene(i % w)).collect();
        let seen = median(&plane, w, h, 5);
        for (i, v) in seen.iter().enumerate() {
            let wanted = if i % w >= 30 { 4.0 } else { 8.0 };
            assert!((v - wanted).abs() < 0.05, "column {}: {v}", i % w);
        }
    }

    #[test]
    fn one_value_stays_itself() {
        assert_eq!(median(&[3.25; 12], 4, 3, 2), [3.25; 12]);
    }
}
