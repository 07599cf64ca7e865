//! What each zone of a picture reads.

use crate::picture::{Picture, centivalue};
use crate::values::quantile;
use crate::zone_map::ZoneMap;
use lean_colour::screen::{self, LINEAR};
use lean_colour::{Lab, Value};
use rayon::prelude::*;
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;

/// What a zone reads in the reference.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Reading {
    /// Share of the picture, 0..=1.
    pub area: f64,
    /// Median value of its pixels.
    #[cfg_attr(feature = "schema", schema(value_type = f64))]
    pub value: Value,
    /// Its mean light as a colour, at the median value.
    pub lab: Lab,
}

#[derive(Clone)]
struct Sum {
    light: [f64; 3],
    fine: Vec<u64>,
}

impl Sum {
    fn new() -> Self {
        Self { light: [0.0; 3], fine: vec![0; 1001] }
    }

    fn add(&mut self, other: &Self) {
        self.light.iter_mut().zip(other.light).for_each(|(a, b)| *a += b);
        self.fine.iter_mut().zip(&other.fine).for_each(|(a, b)| *a += b);
    }
}

/// Reads every zone of `map` off the pixels of `picture`; the map is stretched over the picture.
pub fn read(picture: &Picture, map: &ZoneMap) -> BTreeMap<u16, Reading> {
    let top = map.labels.iter().max().map_or(0, |m| *m as usize + 1);
    let rows: Vec<u32> = (0..picture.height).collect();
    // Fixed blocks of rows summed in order: the same answer on any number of threads.
    let blocks: Vec<Vec<Option<Sum>>> = rows.par_chunks(64).map(|block| sum_rows(picture, map, block, top)).collect();
    let mut sums: Vec<Option<Sum>> = vec![None; top];
    for block in blocks {
        for (total, part) in sums.iter_mut().zip(block) {
            if let Some(part) = part {
                total.get_or_insert_with(Sum::new).add(&part);
            }
        }
    }
    let pixels = picture.len() as f64;
    let found = sums.into_iter().enumerate().filter_map(|(z, s)| s.map(|s| (z as u16, reading(&s, pixels)))).collect::<BTreeMap<_, _>>();
    debug_assert!(found.values().map(|r| r.area).sum::<f64>() < 1.0 + 1e-9);
    found
}

fn sum_rows(picture: &Picture, map: &ZoneMap, rows: &[u32], top: usize) -> Vec<Option<Sum>> {
    let mut sums: Vec<Option<Sum>> = vec![None; top];
    for &y in rows {
        let my = (u64::from(y) * u64::from(map.height) / u64::from(picture.height)) as u32;
        for x in 0..picture.width {
            let mx = (u64::from(x) * u64::from(map.width) / u64::from(picture.width)) as u32;
            let sum = sums[map.at(mx, my) as usize].get_or_insert_with(Sum::new);
            let px = picture.at(x, y);
            for (s, b) in sum.light.iter_mut().zip(px) {
                *s += LINEAR[b as usize];
            }
            sum.fine[centivalue(&px) as usize] += 1;
        }
    }
    sums
}

fn reading(sum: &Sum, pixels: f64) -> Reading {
    let n = sum.fine.iter().sum::<u64>() as f64;
    let value = Value(quantile(&sum.fine, 0.5));
    let mean = screen::xyz_of_linear(sum.light.map(|s| s / n)).lab();
    let l = value.lightness();
    // A zone whose median is much darker than its mean light would else get more chroma than its value can have.
    let ease = if mean.l > 0.0 { (l / mean.l).min(1.0) } else { 0.0 };
    let lab = lean_colour::real::toward_real(Lab::new(l, mean.a * ease, mean.b * ease));
    Reading { area: n / pixels, value, lab }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn two_halves_read_as_themselves() {
        let rgb: Vec<u8> = (0..20 * 10).flat_map(|i| if i % 20 < 5 { [200, 60, 40] } else { [40, 90, 160] }).collect();
        let picture = Picture { width: 20, height: 10, rgb };
        let map = ZoneMap { width: 4, height: 2, labels: vec![1, 2, 2, 2, 1, 2, 2, 2] };
        let got = read(&picture, &map);
        assert!((got[&1].area - 0.25).abs() < 1e-12 && (got[&2].area - 0.75).abs() < 1e-12);
        let want = screen::lab_of_srgb([200, 60, 40]);
        assert!((got[&1].lab.a - want.a).abs() < 0.3 && (got[&1].lab.l - want.l).abs() < 0.1);
        assert!((got[&1].value.0 - want.value().0).abs() < 0.01);
        assert!((got[&1].lab.value().0 - got[&1].value.0).abs() < 1e-6, "the mark lies where the median is");
    }
}
