//! The light and dark that are really inside a shape, smoothed to the brush.

use super::Shape;
use crate::picture::{Picture, centivalue};
use crate::zone_map::ZoneMap;

/// Steps of value from which there is light and dark in a shape at all. A choice.
pub(super) const FLAT: f32 = 0.35;

/// Value of every cell of the shape in a picture, averaged over half a brush inside the shape; all of them from −1, its darkest, to 1.
pub(super) fn light(shape: &Shape, map: &ZoneMap, picture: &Picture, brush: f64) -> Vec<f32> {
    let pixel = |share: f64, n: u32| ((share * f64::from(n)) as u32).min(n - 1);
    let values: Vec<f32> = shape
        .at
        .iter()
        .map(|(x, y)| {
            let (across, down) = ((x + shape.left) as f64 + 0.5, (y + shape.top) as f64 + 0.5);
            let p = picture.at(pixel(across / f64::from(map.width), picture.width), pixel(down / f64::from(map.height), picture.height));
            f32::from(centivalue(&p)) / 100.0
        })
        .collect();
    let even = averaged(shape, &values, (brush / 2.0).round().max(1.0) as usize);
    let (least, most) = even.iter().fold((f32::INFINITY, f32::NEG_INFINITY), |(a, b), v| (a.min(*v), b.max(*v)));
    let half = ((most - least) / 2.0).max(FLAT);
    let middle = (most + least) / 2.0;
    even.iter().map(|v| (v - middle) / half).collect()
}

/// Means over squares, of cells of the shape alone; twice, which is nearly round.
fn averaged(shape: &Shape, values: &[f32], radius: usize) -> Vec<f32> {
    let once = |values: &[f32]| {
        let w = shape.wide + 1;
        let mut sums = vec![(0.0f64, 0.0f64); w * (shape.high + 1)];
        for y in 0..shape.high {
            let mut row = (0.0, 0.0);
            for x in 0..shape.wide {
                if let Some(n) = shape.inside[y * shape.wide + x] {
                    row = (row.0 + f64::from(values[n as usize]), row.1 + 1.0);
                }
                let above = sums[y * w + x + 1];
                sums[(y + 1) * w + x + 1] = (above.0 + row.0, above.1 + row.1);
            }
        }
        let mean = |(x, y): &(usize, usize)| {
            let (x0, x1) = (x.saturating_sub(radius), (x + radius + 1).min(shape.wide));
            let (y0, y1) = (y.saturating_sub(radius), (y + radius + 1).min(shape.high));
            let [a, b, c, d] = [sums[y1 * w + x1], sums[y0 * w + x1], sums[y1 * w + x0], sums[y0 * w + x0]];
            ((a.0 - b.0 - c.0 + d.0) / (a.1 - b.1 - c.1 + d.1).max(1.0)) as f32
        };
        shape.at.iter().map(mean).collect::<Vec<f32>>()
    };
    once(&once(values))
}
