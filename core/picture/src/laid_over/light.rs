//! The light a painting was photographed in, and what its zones read once that is taken out.

use super::contrast::{Patch, contrast};
use super::{Expected, LaidOver};
use crate::Picture;
use crate::zone_map::ZoneMap;
use lean_colour::Lab;
use lean_colour::screen::{LINEAR, linear_of_xyz, xyz_of_linear};
use lean_linear::solve;
use std::collections::BTreeMap;

/// Samples across the longer side of the plan.
const SAMPLES: u32 = 150;
/// Share of the picture that must be bare ground for the light to be read off it. A choice.
const ENOUGH: f64 = 0.06;
/// Patches across and down, and fewest places of one zone in a patch.
const PATCHES: f64 = 12.0;
const LEAST: f64 = 10.0;
/// Reflectance of a grey card.
const GREY_CARD: f64 = 0.18;

/// What a zone reads.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct ZoneRead {
    /// Its colour under daylight.
    pub lab: Lab,
    /// How roughly it is handled: the spread of lightness from place to place within it, L*.
    pub rough: f64,
    /// Share of its places that read as bare ground.
    pub bare: f64,
    /// How many places well inside it were read; what rests on few of them is mostly edge.
    pub places: usize,
}

/// What the light was read off.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum LightFrom {
    /// A grey card.
    Card,
    /// Bare ground.
    Ground,
    /// The painting as a whole, most of which is taken to be as planned.
    Whole,
}

/// Light on a painting: a plane of its logarithm for each channel.
#[derive(Clone, Debug)]
pub struct LightOn {
    plane: [[f64; 3]; 3],
    /// The power the camera raised the light to; 1 where no curve shows.
    pub contrast: f64,
    /// What it was read off.
    pub from: LightFrom,
}

struct Place {
    x: f64,
    y: f64,
    zone: u16,
    light: [f64; 3],
}

/// Sums over the places of one zone in a patch.
#[derive(Default)]
struct PatchSum {
    n: f64,
    x: f64,
    y: f64,
    light: [f64; 3],
}

fn places(photo: &Picture, map: &ZoneMap, laid: &LaidOver) -> Vec<Place> {
    let step = (map.width.max(map.height) / SAMPLES).max(1);
    let mut all = Vec::new();
    for y in (step / 2..map.height).step_by(step as usize) {
        for x in (step / 2..map.width).step_by(step as usize) {
            let (sx, sy) = ((f64::from(x) + 0.5) / f64::from(map.width), (f64::from(y) + 0.5) / f64::from(map.height));
            if let Some(light) = laid.light_at(photo, sx, sy) {
                all.push(Place { x: sx, y: sy, zone: map.at(x, y), light });
            }
        }
    }
    all
}

/// Paint is texture about its mix: the light is told by the mean of a patch of one zone, never by single places.
fn patches<'p>(places: impl Iterator<Item = &'p Place>, linear: &BTreeMap<u16, [f64; 3]>) -> Vec<Patch> {
    let mut sums: BTreeMap<(u16, u8, u8), PatchSum> = BTreeMap::new();
    for p in places {
        let sum = sums.entry((p.zone, (p.x * PATCHES) as u8, (p.y * PATCHES) as u8)).or_default();
        sum.n += 1.0;
        sum.x += p.x;
        sum.y += p.y;
        (0..3).for_each(|c| sum.light[c] += p.light[c]);
    }
    let log = |light: [f64; 3]| light.map(|l| l.max(2e-3).ln());
    sums.iter()
        .filter(|(_, sum)| sum.n >= LEAST)
        .filter_map(|((zone, ..), PatchSum { n, x, y, light })| {
            let (expected, seen) = (log(*linear.get(zone)?), log(light.map(|l| l / n)));
            Some(Patch { x: x / n - 0.5, y: y / n - 0.5, expected, seen })
        })
        .collect()
}

impl LightOn {
    /// Reads the light off a grey card at a place of the photo, off bare ground where there is enough of it, or off the whole painting: what differs from
    /// the plan in one zone counts little there.
    pub fn of(photo: &Picture, map: &ZoneMap, laid: &LaidOver, expected: &Expected, card: Option<(f64, f64)>) -> Self {
        let all = places(photo, map, laid);
        let linear: BTreeMap<u16, [f64; 3]> = expected.zones.iter().map(|(z, lab)| (*z, linear_of_xyz(lab.xyz()))).collect();
        let bare = all.iter().filter(|p| expected.bare.contains(&p.zone)).count();
        let from_ground = bare as f64 >= ENOUGH * all.len() as f64 && bare > 30;
        let whole = patches(all.iter(), &linear);
        let contrast = contrast(&whole);
        let used = if from_ground { patches(all.iter().filter(|p| expected.bare.contains(&p.zone)), &linear) } else { whole };
        let rows: Vec<(f64, f64, [f64; 3])> =
            used.iter().map(|p| (p.x, p.y, std::array::from_fn(|c| p.seen[c] - contrast * p.expected[c]))).collect();
        let mut plane: [[f64; 3]; 3] = std::array::from_fn(|c| robust(&rows, c));
        if let Some(card) = card.and_then(|(x, y)| on_card(photo, x, y)) {
            // The slope of the light comes from the picture, its strength and colour from the card.
            (0..3).for_each(|c| plane[c][0] = card[c].max(1e-3).ln() - contrast * GREY_CARD.ln());
            return Self { plane, contrast, from: LightFrom::Card };
        }
        Self { plane, contrast, from: if from_ground { LightFrom::Ground } else { LightFrom::Whole } }
    }

    fn corrected(&self, p: &Place) -> [f64; 3] {
        let light = |c: usize| self.plane[c][0] + self.plane[c][1] * (p.x - 0.5) + self.plane[c][2] * (p.y - 0.5);
        std::array::from_fn(|c| (p.light[c] / light(c).exp()).max(0.0).powf(1.0 / self.contrast))
    }

    /// Reading of every zone by its number, the light taken out. Places near a zone's edge are left out where it has others; a zone with fewer
    /// than fourteen inner places is sampled at every second cell, the innermost first.
    pub fn read(&self, photo: &Picture, map: &ZoneMap, laid: &LaidOver, ground: Lab) -> BTreeMap<u16, ZoneRead> {
        let mut of_zone: BTreeMap<u16, Vec<Place>> = BTreeMap::new();
        places(photo, map, laid).into_iter().for_each(|p| of_zone.entry(p.zone).or_default().push(p));
        let light = |of: &[&Place]| of.iter().map(|p| self.corrected(p)).collect::<Vec<_>>();
        let mut read = BTreeMap::new();
        let mut small = Vec::new();
        for (zone, all) in &of_zone {
            let inner: Vec<&Place> = all.iter().filter(|p| is_inside(map, p, EDGE)).collect();
            if inner.len() < FEW {
                small.push(*zone);
            }
            let used = if inner.len() >= 6 { light(&inner) } else { light(&all.iter().collect::<Vec<_>>()) };
            read.insert(*zone, ZoneRead { places: inner.len(), ..zone_read(&used, ground) });
        }
        for (zone, all) in closely(photo, map, laid, &small) {
            let depth = |reach: i64| all.iter().filter(|p| is_inside(map, p, reach)).collect::<Vec<_>>();
            if let Some(inner) = CLOSER.iter().map(|r| depth(*r)).find(|inner| inner.len() >= FEW) {
                read.insert(zone, ZoneRead { places: inner.len(), ..zone_read(&light(&inner), ground) });
            }
        }
        read
    }
}

/// Places within a zone below which it is looked at more closely.
const FEW: usize = 14;
/// Distances from a zone's edge at which a place lies inside it, as divisors of the longer side in cells: of any zone, and of a small one, the
/// farthest first.
const EDGE: i64 = 90;
const CLOSER: [i64; 3] = [EDGE, 130, 180];

/// Every second cell of some zones.
fn closely(photo: &Picture, map: &ZoneMap, laid: &LaidOver, zones: &[u16]) -> BTreeMap<u16, Vec<Place>> {
    let mut found: BTreeMap<u16, Vec<Place>> = BTreeMap::new();
    for y in (0..map.height).step_by(2) {
        for x in (0..map.width).step_by(2) {
            let zone = map.at(x, y);
            if !zones.contains(&zone) {
                continue;
            }
            let (sx, sy) = ((f64::from(x) + 0.5) / f64::from(map.width), (f64::from(y) + 0.5) / f64::from(map.height));
            if let Some(light) = laid.light_at(photo, sx, sy) {
                found.entry(zone).or_default().push(Place { x: sx, y: sy, zone, light });
            }
        }
    }
    found
}

/// True when the four cells left, right, above and below a place, the longer side divided by `part` away, belong to its zone.
fn is_inside(map: &ZoneMap, p: &Place, part: i64) -> bool {
    let reach = (i64::from(map.width.max(map.height)) / part).max(1);
    let (x, y) = ((p.x * f64::from(map.width)) as i64, (p.y * f64::from(map.height)) as i64);
    let at = |dx: i64, dy: i64| {
        let (cx, cy) = ((x + dx).clamp(0, i64::from(map.width) - 1), (y + dy).clamp(0, i64::from(map.height) - 1));
        map.at(cx as u32, cy as u32)
    };
    [(-reach, 0), (reach, 0), (0, -reach), (0, reach)].iter().all(|(dx, dy)| at(*dx, *dy) == p.zone)
}

fn zone_read(of: &[[f64; 3]], ground: Lab) -> ZoneRead {
    let lab = |l: &[f64; 3]| xyz_of_linear(l.map(|c| c.max(0.0))).lab();
    let mean: [f64; 3] = std::array::from_fn(|c| {
        // The mean of all but a few: paint is texture about its mix, and a glint or a hair is neither.
        let mut sorted: Vec<f64> = of.iter().map(|l| l[c]).collect();
        sorted.sort_by(f64::total_cmp);
        let cut = sorted.len() / 50;
        let kept = &sorted[cut..sorted.len() - cut];
        kept.iter().sum::<f64>() / kept.len().max(1) as f64
    });
    let lightness: Vec<f64> = of.iter().map(|l| lab(l).l).collect();
    let middle = lightness.iter().sum::<f64>() / lightness.len().max(1) as f64;
    let rough = (lightness.iter().map(|l| (l - middle).powi(2)).sum::<f64>() / lightness.len().max(1) as f64).sqrt();
    let bare = of.iter().filter(|l| lean_colour::difference::ciede2000(lab(l), ground) < 5.0).count() as f64 / of.len().max(1) as f64;
    ZoneRead { lab: lab(&mean), rough, bare, places: of.len() }
}

/// The mean light of a small patch about a place of the photo.
fn on_card(photo: &Picture, x: f64, y: f64) -> Option<[f64; 3]> {
    let r = (photo.width.max(photo.height) / 200).max(1);
    let (cx, cy) = ((x * f64::from(photo.width)) as u32, (y * f64::from(photo.height)) as u32);
    let mut sum = [0.0; 3];
    let mut n = 0.0;
    for py in cy.saturating_sub(r)..=(cy + r).min(photo.height.checked_sub(1)?) {
        for px in cx.saturating_sub(r)..=(cx + r).min(photo.width.checked_sub(1)?) {
            let p = photo.at(px, py);
            (0..3).for_each(|c| sum[c] += LINEAR[usize::from(p[c])]);
            n += 1.0;
        }
    }
    (n > 0.0).then(|| sum.map(|s| s / n))
}

/// A plane through one channel that outliers bend little: least squares, again and again, each place weighed by how near it lay (Cauchy weights; Holland
/// & Welsch 1977).
fn robust(rows: &[(f64, f64, [f64; 3])], channel: usize) -> [f64; 3] {
    let mut middle: Vec<f64> = rows.iter().map(|r| r.2[channel]).collect();
    middle.sort_by(f64::total_cmp);
    let mut plane = [middle.get(middle.len() / 2).copied().unwrap_or(0.0), 0.0, 0.0];
    for _ in 0..12 {
        let mut off: Vec<f64> = rows.iter().map(|r| (r.2[channel] - plane[0] - plane[1] * r.0 - plane[2] * r.1).abs()).collect();
        let mut sorted = off.clone();
        sorted.sort_by(f64::total_cmp);
        let scale = (1.48 * sorted.get(sorted.len() / 2).copied().unwrap_or(0.0)).max(0.02);
        off.iter_mut().for_each(|o| *o = 1.0 / (1.0 + (*o / scale).powi(2)));
        // A little pull to an even light keeps few places from tilting it.
        let even = 1e-2 * rows.len() as f64;
        let mut normal = [[1e-9, 0.0, 0.0], [0.0, even, 0.0], [0.0, 0.0, even]];
        let mut to = [0.0; 3];
        for (r, w) in rows.iter().zip(&off) {
            let v = [1.0, r.0, r.1];
            for i in 0..3 {
                (0..3).for_each(|k| normal[i][k] += w * v[i] * v[k]);
                to[i] += w * r.2[channel] * v[i];
            }
        }
        match solve(normal, to) {
            Some(found) => plane = found,
            None => break,
        }
    }
    plane
}
