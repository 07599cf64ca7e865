//! Big shapes found by the machine: masses of light and dark, not objects.
//!
//! Stages, one file each: the picture in value-first coordinates ([`features`]) with thin things lost ([`squint`]) and texture
//! calmed; several hundred small connected patches ([`patches`]); patches joined pair by pair, cheapest first ([`joining`]); edges
//! laid back where the picture has them ([`edges`]); and the shapes made simple ([`tidy`]).

mod edges;
mod features;
mod joining;
mod patches;
mod squint;
mod tidy;

pub(crate) use tidy::numbered;

use crate::picture::Picture;
use crate::zone_map::ZoneMap;
use std::cmp::Ordering;

/// Longer side of the grid zones live on, in cells.
pub const GRID_SIDE: u32 = 400;
/// Fewest and most zones that can be asked for.
pub const ZONES: std::ops::RangeInclusive<usize> = 1..=24;
/// What "a handful" means when the count is left open.
const HANDFUL: std::ops::RangeInclusive<usize> = 5..=9;

/// How zones of a picture nest: made once, cut at any count.
pub struct Proposal {
    features: features::Features,
    patch_of: Vec<u32>,
    joins: Vec<joining::Join>,
    patches: usize,
    handful: usize,
}

impl Proposal {
    /// Studies a picture of any size.
    pub fn of(picture: &Picture) -> Self {
        let small = picture.reduced(GRID_SIDE);
        let features = features::Features::of(&small);
        let patch_of = patches::grow(&features);
        let (patches, joins) = joining::join_all(&features, &patch_of);
        let handful = natural_count(&joins, patches);
        Self { features, patch_of, joins, patches, handful }
    }

    /// The number of zones, five to nine, after which the next join would cost most compared with the one before. A picture
    /// of one flat colour has one zone.
    pub fn natural_count(&self) -> usize {
        self.handful
    }

    /// Cuts the picture into `count` zones (clamped to what there is), numbered from 1 in reading order of their hearts.
    pub fn zones(&self, count: usize) -> ZoneMap {
        let count = count.clamp(*ZONES.start(), *ZONES.end()).min(self.patches);
        let labels = joining::cut(&self.joins, self.patches, count);
        let map = ZoneMap {
            width: self.features.width as u32,
            height: self.features.height as u32,
            labels: self.patch_of.iter().map(|p| labels[*p as usize]).collect(),
        };
        tidy::simple_shapes(map, &self.features)
    }
}

impl Proposal {
    /// Cuts the picture anew while the zones in `kept` of `old` stay as they are: `count` zones in all, the kept ones with their numbers, new ones
    /// numbered after them. Fewer when the kept zones leave no room for more.
    pub fn zones_around(&self, old: &ZoneMap, kept: &[u16], count: usize) -> ZoneMap {
        if kept.is_empty() || (old.width, old.height) != (self.features.width as u32, self.features.height as u32) {
            return self.zones(count);
        }
        let count = count.clamp(1, *ZONES.end());
        // Some of what is cut lies under the kept zones, or is parted by them: the cut that leaves most zones, but not more than asked for.
        let wished = count.saturating_sub(kept.len()).max(1);
        let free = self.free_cells(old, kept);
        let likely = ZONES.into_iter().find(|cut| self.roomy(&free, *cut) >= wished).unwrap_or(*ZONES.end());
        let mut best: Option<ZoneMap> = None;
        let mut cut = likely;
        for _ in 0..TRIES {
            let map = self.beside(old, kept, cut);
            let n = map.zones().len();
            if n <= count && best.as_ref().is_none_or(|b| b.zones().len() < n) {
                best = Some(map);
            }
            match n.cmp(&count) {
                Ordering::Less if best.is_some() && cut < *ZONES.end() => cut += 1,
                Ordering::Greater if best.is_none() && cut > 1 => cut -= 1,
                _ => break,
            }
        }
        best.unwrap_or_else(|| self.beside(old, kept, 1))
    }

    /// How many cells of each patch no kept zone covers.
    fn free_cells(&self, old: &ZoneMap, kept: &[u16]) -> Vec<usize> {
        let mut free = vec![0; self.patches];
        for (patch, was) in self.patch_of.iter().zip(&old.labels) {
            free[*patch as usize] += usize::from(!kept.contains(was));
        }
        free
    }

    /// How many zones of a cut have room beside the kept ones.
    fn roomy(&self, free: &[usize], count: usize) -> usize {
        let labels = joining::cut(&self.joins, self.patches, count.min(self.patches));
        let mut cells = [0usize; *ZONES.end() + 1];
        labels.iter().zip(free).for_each(|(zone, n)| cells[usize::from(*zone)] += n);
        cells.iter().filter(|n| **n >= self.least()).count()
    }

    /// Cells below which a rest beside a kept zone is a sliver.
    fn least(&self) -> usize {
        ((self.features.len() as f64 * SLIVER) as usize).max(1)
    }

    fn beside(&self, old: &ZoneMap, kept: &[u16], count: usize) -> ZoneMap {
        let cut = self.zones(count.clamp(1, *ZONES.end()));
        let after = kept.iter().copied().max().unwrap_or(0);
        let labels = cut.labels.iter().zip(&old.labels).map(|(new, was)| if kept.contains(was) { *was } else { after + new }).collect();
        let mut map = ZoneMap { labels, ..cut };
        // What a kept zone leaves of another may be a sliver or in several bits.
        while let Some((sliver, _)) = map.areas().into_iter().filter(|(z, _)| !kept.contains(z)).find(|(_, n)| *n < self.least() as u64) {
            let borders = map.borders();
            let other = |a: u16, b: u16| if a == sliver { b } else { a };
            let around = borders.iter().filter(|(a, b, _)| *a == sliver || *b == sliver).map(|(a, b, n)| (other(*a, *b), *n));
            let free = around.clone().filter(|(z, _)| !kept.contains(z)).max_by_key(|(_, n)| *n);
            let Some((into, _)) = free.or_else(|| around.max_by_key(|(_, n)| *n)) else { break };
            map = map.merged(sliver, into);
        }
        let free: Vec<u16> = map.zones().into_iter().filter(|z| !kept.contains(z)).collect();
        let mut next = (1..).filter(|n: &u16| !kept.contains(n));
        let names: std::collections::BTreeMap<u16, u16> = free.into_iter().map(|z| (z, next.next().unwrap_or(u16::MAX))).collect();
        let labels = map.labels.iter().map(|l| names.get(l).copied().unwrap_or(*l)).collect();
        ZoneMap { labels, ..map }
    }
}

/// Share of the picture below which what a kept zone leaves of another goes to a neighbour. A choice.
const SLIVER: f64 = 0.004;
/// How many cuts are looked at beside kept zones until the count is met.
const TRIES: usize = 4;

/// Cost below which two patches are the same colour to the eye; relative to the features' units squared.
const INVISIBLE: f64 = 1e-5;
/// A zone must cost at least this share of the greatest join to be kept apart: less is the soft rim of an edge.
const FAINT: f64 = 0.004;

fn natural_count(joins: &[joining::Join], patches: usize) -> usize {
    // joins[n] leaves patches - n - 1 zones; the join that would leave k - 1 zones is what k zones are kept for.
    let kept_for = |k: usize| joins.get(patches.wrapping_sub(k)).map_or(0.0, |j| j.cost);
    let faint = INVISIBLE.max(FAINT * kept_for(2));
    let visible = (2..=*HANDFUL.end()).rev().find(|k| *k <= patches && kept_for(*k) > faint).unwrap_or(1);
    if visible <= *HANDFUL.start() {
        return visible;
    }
    (*HANDFUL.start()..=visible)
        .max_by(|a, b| {
            let gain = |k: usize| kept_for(k) / kept_for(k + 1).max(INVISIBLE);
            gain(*a).total_cmp(&gain(*b))
        })
        .unwrap_or(visible)
}

#[cfg(test)]
mod tests {
    use super::*;

    /// A sky over ground with a lit and a shaded wall, every mass speckled by up to `noise` bytes.
    fn barn(noise: u32) -> (Picture, Vec<u8>) {
        let (w, h) = (480u32, 360u32);
        let mut seed = 12345u32;
        let (mut rgb, mut truth) = (Vec::new(), Vec::new());
        for y in 0..h {
            for x in 0..w {
                let (mass, c): (u8, [i32; 3]) = if (150..260).contains(&x) && (120..290).contains(&y) {
                    (2, [214, 150, 104])
                } else if (260..390).contains(&x) && (120..290).contains(&y) {
                    (3, [92, 70, 78])
                } else if y < 210 {
                    (0, [196 + (y / 12) as i32, 204 + (y / 16) as i32, 220])
                } else {
                    (1, [150, 144, 132])
                };
                truth.push(mass);
                for ch in c {
                    seed = seed.wrapping_mul(1_664_525).wrapping_add(1_013_904_223);
                    let n = if noise == 0 { 0 } else { ((seed >> 16) % (2 * noise + 1)) as i32 - noise as i32 };
                    rgb.push((ch + n).clamp(0, 255) as u8);
                }
            }
        }
        (Picture { width: w, height: h, rgb }, truth)
    }

    /// Share of cells whose zone's majority mass is their own mass.
    fn agreement(map: &ZoneMap, truth: &[u8], w: u32, h: u32) -> f64 {
        let mass = |i: usize| {
            let (x, y) = (i as u32 % map.width, i as u32 / map.width);
            truth[((y * h / map.height) * w + x * w / map.width) as usize] as usize
        };
        map.zones()
            .iter()
            .map(|z| {
                let mut n = [0usize; 4];
                map.labels.iter().enumerate().filter(|(_, l)| *l == z).for_each(|(i, _)| n[mass(i)] += 1);
                *n.iter().max().unwrap()
            })
            .sum::<usize>() as f64
            / map.labels.len() as f64
    }

    fn components(map: &ZoneMap, zone: u16) -> usize {
        let w = map.width as usize;
        let mut seen = vec![false; map.labels.len()];
        let mut n = 0;
        for start in 0..map.labels.len() {
            if seen[start] || map.labels[start] != zone {
                continue;
            }
            n += 1;
            let mut ahead = vec![start];
            seen[start] = true;
            while let Some(i) = ahead.pop() {
                let (x, y) = (i % w, i / w);
                let near =
                    [(x > 0).then(|| i - 1), (x + 1 < w).then(|| i + 1), (y > 0).then(|| i - w), (i + w < map.labels.len()).then(|| i + w)];
                for j in near.into_iter().flatten() {
                    if !seen[j] && map.labels[j] == zone {
                        seen[j] = true;
                        ahead.push(j);
                    }
                }
            }
        }
        n
    }

    #[test]
    fn the_four_masses_are_found_even_when_speckled() {
        for noise in [0, 40] {
            let (picture, truth) = barn(noise);
            let map = Proposal::of(&picture).zones(4);
            assert_eq!(map.zones().len(), 4);
            let got = agreement(&map, &truth, 480, 360);
            assert!(got > 0.97, "noise {noise}: {got}");
            assert!((4..=9).contains(&Proposal::of(&picture).natural_count()));
        }
    }

    #[test]
    fn every_count_is_met_with_connected_zones_of_some_size() {
        let (picture, _) = barn(25);
        let p = Proposal::of(&picture);
        for k in [1, 2, 5, 9, 14] {
            let map = p.zones(k);
            assert_eq!(map.zones(), (1..=k as u16).collect::<Vec<_>>());
            for (z, area) in map.areas() {
                assert_eq!(components(&map, z), 1, "zone {z} of {k}");
                assert!(area as f64 > 0.003 * map.labels.len() as f64, "zone {z} of {k} has {area} cells");
            }
        }
    }

    #[test]
    fn kept_zones_stay_while_the_rest_is_cut_anew() {
        let (picture, _) = barn(25);
        let p = Proposal::of(&picture);
        let old = p.zones(5);
        let kept = [old.at(old.width * 200 / 480, old.height / 2)];
        for count in [2, 4, 8] {
            let new = p.zones_around(&old, &kept, count);
            for (was, now) in old.labels.iter().zip(&new.labels) {
                assert_eq!(*was == kept[0], *now == kept[0]);
            }
            assert_eq!(new.zones().len(), count, "{:?}", new.zones());
        }
    }

    #[test]
    fn one_flat_colour_is_one_zone() {
        let flat = Picture { width: 300, height: 200, rgb: vec![127; 300 * 200 * 3] };
        let p = Proposal::of(&flat);
        assert_eq!(p.natural_count(), 1);
        assert_eq!(p.zones(p.natural_count()).zones(), [1]);
    }

    #[test]
    fn two_flat_halves_are_two_zones() {
        let rgb = (0..320 * 200).flat_map(|i| if i % 320 < 160 { [200, 150, 110] } else { [50, 60, 90] }).collect();
        let p = Proposal::of(&Picture { width: 320, height: 200, rgb });
        assert_eq!(p.natural_count(), 2);
    }

    #[test]
    fn tiny_pictures_do_not_break_it() {
        for (w, h) in [(1, 1), (2, 1), (1, 9), (5, 4)] {
            let p = Picture { width: w, height: h, rgb: (0..w * h * 3).map(|i| (i * 37) as u8).collect() };
            let map = Proposal::of(&p).zones(6);
            assert!(!map.zones().is_empty());
        }
    }
}
