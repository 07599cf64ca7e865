//! The distinct colours of a picture, by what the eye tells apart.

use crate::picture::Picture;
use crate::spot::Spot;
use crate::zone_map::ZoneMap;
use crate::zone_map::parts::Parts;
use lean_colour::{Lab, screen};
use std::collections::BTreeMap;

/// Longer side of the copy that is counted, in pixels.
const SIDE: u32 = 240;
/// Side of a first cell in OKLab, where a step of 0.02 is about what is just seen. A choice.
const FIRST: f64 = 0.022;
/// Distance in OKLab below which two colours are not distinct. A choice.
const DISTINCT: f64 = 0.055;
/// Most cells of a chart.
pub const MOST: usize = 36;
/// Most cells when the count is left open.
const USUAL_MOST: usize = 20;
/// Share of the picture below which a colour is a speck. A choice.
const SPECK: f64 = 0.0006;

/// One distinct colour.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Distinct {
    /// The colour: the mean light of its pixels.
    pub lab: Lab,
    /// Share of the picture, 0..=1.
    pub area: f64,
    /// The middle of the largest place it fills.
    pub place: Spot,
}

/// A chart with the map of where each colour occurs (zones numbered from 1 in the chart's order).
pub struct Charted {
    /// Colours, by area, largest first.
    pub colours: Vec<Distinct>,
    /// Where each is.
    pub map: ZoneMap,
}

#[derive(Clone, Copy)]
struct Cluster {
    sum: [f64; 3],
    n: f64,
}

impl Cluster {
    fn mean(&self) -> [f64; 3] {
        self.sum.map(|s| s / self.n)
    }

    /// What joining two costs: their distance, the root of their joint weight. Weighing by less than area lets a small strong accent stand. A choice.
    fn cost(&self, other: &Self, total: f64) -> f64 {
        let (a, b) = (self.mean(), other.mean());
        let d2: f64 = a.iter().zip(b).map(|(x, y)| (x - y).powi(2)).sum();
        d2 * (self.n * other.n / (self.n + other.n) / total).sqrt()
    }
}

/// Clusters the colours of a picture. `count` cells (1..=36), or, left open, as many as are distinct.
pub fn distinct(picture: &Picture, count: Option<usize>) -> Charted {
    let small = picture.reduced(SIDE);
    let colours: Vec<[f64; 3]> = small
        .rgb
        .chunks_exact(3)
        .map(|p| {
            let ok = screen::xyz_of_srgb([p[0], p[1], p[2]]).oklab();
            [ok.l, ok.a, ok.b]
        })
        .collect();
    let total = colours.len() as f64;
    let mut bins: BTreeMap<[i32; 3], Cluster> = BTreeMap::new();
    for c in &colours {
        let bin = bins.entry(c.map(|v| (v / FIRST).floor() as i32)).or_insert(Cluster { sum: [0.0; 3], n: 0.0 });
        bin.sum.iter_mut().zip(c).for_each(|(s, v)| *s += v);
        bin.n += 1.0;
    }
    let clusters = joined(bins.into_values().collect(), count, total);
    let means: Vec<[f64; 3]> = clusters.iter().map(Cluster::mean).collect();
    let nearest = |c: &[f64; 3]| {
        let d = |m: &[f64; 3]| m.iter().zip(c).map(|(x, y)| (x - y).powi(2)).sum::<f64>();
        means.iter().enumerate().min_by(|a, b| d(a.1).total_cmp(&d(b.1))).map_or(0, |(i, _)| i)
    };
    let owner: Vec<usize> = colours.iter().map(nearest).collect();
    let mut order: Vec<usize> = (0..means.len()).collect();
    let size = |i: usize| owner.iter().filter(|o| **o == i).count();
    order.retain(|i| size(*i) > 0);
    order.sort_by_key(|i| std::cmp::Reverse(size(*i)));
    let rank: BTreeMap<usize, u16> = order.iter().enumerate().map(|(r, i)| (*i, r as u16 + 1)).collect();
    let map = ZoneMap { width: small.width, height: small.height, labels: owner.iter().map(|o| rank[o]).collect() };
    // A colour is pointed at where its largest place is.
    let parts = Parts::of(&map);
    let mut middles: BTreeMap<u16, (u32, (u32, u32))> = BTreeMap::new();
    for (part, at) in parts.all.iter().zip(parts.middles(&parts.of_cells())) {
        let best = middles.entry(part.zone).or_default();
        if part.cells > best.0 {
            *best = (part.cells, at);
        }
    }
    let colours = order
        .iter()
        .map(|i| {
            let zone = rank[i];
            let (x, y) = middles.get(&zone).map_or((0, 0), |(_, at)| *at);
            let mut light = [0.0; 3];
            let mut n = 0.0;
            for (p, _) in small.rgb.chunks_exact(3).zip(&map.labels).filter(|(_, l)| **l == zone) {
                light.iter_mut().zip(p).for_each(|(s, b)| *s += screen::LINEAR[*b as usize]);
                n += 1.0;
            }
            Distinct {
                lab: screen::xyz_of_linear(light.map(|s| s / n)).lab(),
                area: n / total,
                place: Spot { x: (f64::from(x) + 0.5) / f64::from(map.width), y: (f64::from(y) + 0.5) / f64::from(map.height) },
            }
        })
        .collect();
    Charted { colours, map }
}

fn joined(mut all: Vec<Cluster>, count: Option<usize>, total: f64) -> Vec<Cluster> {
    let most = count.unwrap_or(USUAL_MOST).clamp(1, MOST);
    let apart = |a: &Cluster, b: &Cluster| a.mean().iter().zip(b.mean()).map(|(x, y)| (x - y).powi(2)).sum::<f64>().sqrt();
    let partner = |all: &[Cluster], i: usize| {
        let others = (0..all.len()).filter(|j| *j != i).map(|j| (all[i].cost(&all[j], total), j));
        others.min_by(|a, b| a.0.total_cmp(&b.0))
    };
    let mut best: Vec<Option<(f64, usize)>> = (0..all.len()).map(|i| partner(&all, i)).collect();
    while all.len() > 1 {
        let Some((i, (_, j))) = best.iter().enumerate().filter_map(|(i, b)| b.map(|b| (i, b))).min_by(|a, b| a.1.0.total_cmp(&b.1.0))
        else {
            break;
        };
        let speck = all[i].n.min(all[j].n) < SPECK * total;
        let few_enough = all.len() <= most;
        if few_enough && !speck && (count.is_some() || apart(&all[i], &all[j]) > DISTINCT) {
            break;
        }
        if few_enough && count.is_some() && !speck {
            break;
        }
        let (keep, gone) = (i.min(j), i.max(j));
        let from = all[gone];
        all[keep].sum.iter_mut().zip(from.sum).for_each(|(a, b)| *a += b);
        all[keep].n += from.n;
        let last = all.len() - 1;
        all.swap_remove(gone);
        best.swap_remove(gone);
        for (k, b) in best.iter_mut().enumerate() {
            match b {
                Some((_, p)) if k == keep || *p == keep || *p == gone => *b = None,
                Some((_, p)) if *p == last => *p = gone,
                _ => {}
            }
        }
        for k in 0..all.len() {
            if best[k].is_none() {
                best[k] = partner(&all, k);
            } else if k != keep {
                let cost = all[k].cost(&all[keep], total);
                if best[k].is_some_and(|(c, _)| cost < c) {
                    best[k] = Some((cost, keep));
                }
            }
        }
    }
    all
}

#[cfg(test)]
mod tests {
    use super::*;

    /// Blocks of colour, `(colour, columns)` of 100.
    fn striped(stripes: &[([u8; 3], u32)]) -> Picture {
        let row: Vec<u8> = stripes.iter().flat_map(|(c, n)| c.repeat(*n as usize)).collect();
        Picture { width: 100, height: 60, rgb: row.repeat(60) }
    }

    #[test]
    fn each_block_is_a_cell_with_its_share() {
        let got = distinct(&striped(&[([200, 60, 40], 50), ([40, 90, 160], 30), ([230, 225, 210], 17), ([20, 20, 30], 3)]), None);
        assert_eq!(got.colours.len(), 4);
        for (c, share) in got.colours.iter().zip([0.5, 0.3, 0.17, 0.03]) {
            assert!((c.area - share).abs() < 1e-9, "{c:?}");
        }
        let want = screen::lab_of_srgb([200, 60, 40]);
        assert!((got.colours[0].lab.a - want.a).abs() < 0.2);
        assert!(got.colours[0].place.x < 0.5 && got.colours[3].place.x > 0.97);
    }

    #[test]
    fn close_shades_are_one_and_a_count_is_obeyed() {
        let greens: Vec<([u8; 3], u32)> = (0..10).map(|i| ([80 + i * 2, 120 + i * 2, 60 + i], 10)).collect();
        assert!(distinct(&striped(&greens), None).colours.len() <= 2);
        let leaves: Vec<([u8; 3], u32)> = (0..10).map(|i| ([40 + i * 12, 90 + i * 12, 30 + i * 7], 10)).collect();
        assert_eq!(distinct(&striped(&leaves), Some(5)).colours.len(), 5);
        assert_eq!(distinct(&striped(&[([90, 90, 90], 100)]), Some(5)).colours.len(), 1);
    }

    #[test]
    fn one_odd_pixel_is_a_speck() {
        let mut p = striped(&[([235, 233, 228], 100)]);
        p.rgb[..3].copy_from_slice(&[220, 10, 10]);
        let got = distinct(&p, None);
        assert_eq!(got.colours.len(), 1);
        assert!((got.colours[0].area - 1.0).abs() < 1e-9);
    }

    #[test]
    fn the_map_says_where() {
        let got = distinct(&striped(&[([200, 60, 40], 60), ([40, 90, 160], 40)]), None);
        assert_eq!((got.map.at(10, 10), got.map.at(90, 10)), (1, 2));
    }
}
