//! Wet opaque mixes: oil.

pub mod let_downs;
pub mod parts;

mod lists;
mod visible;

use crate::cost::{STEP, quick};
use crate::hand::Hand;
use crate::mix::{Heap, Mix, Part};
use crate::technique::{Listed, Quick, Technique};
use crate::{Limits, at_place};
use lean_colour::difference::Nearby;
use lean_colour::{BANDS, Lab, Light, Reflectance};
use lean_media::lanes::{Colours, Front, LANES, Lane, Spectrum, colours_of_all, growth};
use lean_media::opaque::{SurfaceOptics, masstone};
use lean_media::touch::surface_of;
use lean_media::{Pigment, PigmentId};
use let_downs::amounts_of;
use lists::{List, Lists};
use parts::Pattern;
use serde::{Deserialize, Serialize};
use std::sync::Arc;
use visible::Visible;

/// How parts are measured.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Grain {
    /// Whole parts, and what is strong let down first: ratios in octaves to 1:256.
    #[default]
    LetDowns,
    /// Whole parts alone, eight at most.
    Parts,
    /// Whole parts, sixteen at most, or eight and a touch of one more.
    Finer,
}

/// Most measures in one mix.
const MOST_MEASURES: usize = 12;
/// How much a measure slips, as a share of itself: a fifth too little and a quarter too much are both so far in their logarithm.
const SLIP: f64 = 0.223_143_551_314_209_76;

/// How a recipe is told.
#[derive(Clone, Debug, PartialEq)]
enum Told {
    Parts(Pattern),
    Heaps(Vec<let_downs::Heap>),
}

/// A recipe with places for three pigments and white.
#[derive(Clone, Debug, PartialEq)]
struct Way {
    amounts: [f64; 4],
    told: Told,
    /// What a slip of the hand in each of its measures adds to the amounts, to first order.
    slips: Vec<[f64; 4]>,
}

impl Way {
    fn of_parts(pattern: Pattern) -> Self {
        let amounts = pattern.amounts();
        let slip = |i: usize| std::array::from_fn(|p| if p == i { SLIP * amounts[p] } else { 0.0 });
        Self { amounts, told: Told::Parts(pattern), slips: (0..4).filter(|i| amounts[*i] > 0.0).map(slip).collect() }
    }

    fn of_heaps(chain: &let_downs::Chain) -> Self {
        let heaps = &chain.heaps;
        let measures = (0..heaps.len()).flat_map(|at| (0..5).map(move |part| (at, part)));
        let taken = measures.filter(|(at, part)| if *part == 4 { heaps[*at].of_last > 0 } else { heaps[*at].with[*part] > 0 });
        let scale = chain.amounts.iter().sum::<f64>() / amounts_of(heaps).iter().sum::<f64>();
        // The amounts run smoothly with each measure: a small step to either side tells their slope.
        const SIDE: f64 = 1e-5;
        let slip = |(at, part): (usize, usize)| {
            let (more, less) = (erred_heaps(heaps, at, part, 1.0 + SIDE), erred_heaps(heaps, at, part, 1.0 - SIDE));
            std::array::from_fn(|p| SLIP * scale * (more[p] - less[p]) / (2.0 * SIDE))
        };
        Self { amounts: chain.amounts, told: Told::Heaps(heaps.clone()), slips: taken.map(slip).collect() }
    }

    /// Heaps beyond the first.
    fn more_heaps(&self) -> u8 {
        if let Told::Heaps(heaps) = &self.told { heaps.len() as u8 - 1 } else { 0 }
    }

    fn share(&self, place: usize) -> f64 {
        self.amounts[place] / self.amounts.iter().sum::<f64>()
    }
}

/// Amounts of a chain when one part of one heap is measured wrong; part 4 is what is taken of the heap before.
fn erred_heaps(heaps: &[let_downs::Heap], at: usize, part: usize, by: f64) -> [f64; 4] {
    let before = amounts_of(&heaps[..at]);
    let of_last = f64::from(heaps[at].of_last) * if part == 4 { by } else { 1.0 };
    let taken = of_last / before.iter().sum::<f64>().max(f64::MIN_POSITIVE);
    let with = |i: usize| f64::from(heaps[at].with[i]) * if part == i { by } else { 1.0 };
    let mut last: [f64; 4] = std::array::from_fn(|i| before[i] * taken + with(i));
    for heap in &heaps[at + 1..] {
        let taken = f64::from(heap.of_last) / last.iter().sum::<f64>();
        last = std::array::from_fn(|i| last[i] * taken + f64::from(heap.with[i]));
    }
    last
}

/// Wet mixes of up to three pigments and white, laid opaque.
pub struct Wet {
    ids: Vec<PigmentId>,
    white: Option<PigmentId>,
    /// Absorption and scattering of each pigment, white last, in both precisions.
    wide: Vec<(Vec<f64>, Vec<f64>)>,
    narrow: Vec<Spectrum>,
    lists: Arc<Lists>,
    /// How its surface reflects: as oil, or as acrylic.
    surface: SurfaceOptics,
    /// Which amounts can be seen; `None` where every recipe is listed, seen or not.
    visible: Option<Visible>,
    limits: Limits,
}

impl Wet {
    /// Recipes of `pigments` and `white`. Without white, recipes that call for it are left out.
    pub fn of(pigments: &[&Pigment], white: Option<&Pigment>, limits: Limits, grain: Grain) -> Self {
        let all: Vec<&Pigment> = pigments.iter().copied().chain(white).collect();
        let mut wet = Self {
            ids: pigments.iter().map(|p| p.id.clone()).collect(),
            white: white.map(|w| w.id.clone()),
            wide: all.iter().map(|p| (p.k.clone(), p.s.clone())).collect(),
            narrow: all.iter().map(|p| Spectrum::of(p)).collect(),
            lists: Lists::of(white.is_some(), limits, grain),
            surface: surface_of(all.iter().copied()),
            visible: None,
            limits,
        };
        if grain == Grain::LetDowns {
            wet.visible = Some(Visible::of(all.len(), |i, j, amounts| wet.colour([i, j, i, j], [amounts.0, amounts.1, 0.0, 0.0])));
        }
        wet
    }

    fn list(&self, group: &[usize]) -> Option<&List> {
        let mother = self.limits.mother_in(group).ok()?;
        Some(self.lists.list(group.len(), at_place(mother)))
    }

    /// The recipes of a group, by their numbers in its list: those of which every amount can be seen.
    fn kept(&self, group: &[usize]) -> Vec<u32> {
        let Some(list) = self.list(group) else { return Vec::new() };
        self.visible.as_ref().map_or_else(|| list.all(), |v| v.among(self.places(group)).seen(&list.amounts))
    }

    /// Numbers of the four things in a mix; places without a pigment hold any other, with no parts of it.
    fn places(&self, group: &[usize]) -> [usize; 4] {
        let white = self.wide.len().saturating_sub(1);
        std::array::from_fn(|place| if place == 3 { white } else { *group.get(place).unwrap_or(&white) })
    }

    fn colour(&self, places: [usize; 4], amounts: [f64; 4]) -> Lab {
        let total: f64 = amounts.iter().sum();
        let mut r = [0.0; BANDS];
        for (band, out) in r.iter_mut().enumerate() {
            let (mut k, mut s) = (0.0, 0.0);
            for (p, n) in places.iter().zip(amounts).filter(|(_, n)| *n > 0.0) {
                k += n / total * self.wide[*p].0[band];
                s += n / total * self.wide[*p].1[band];
            }
            *out = self.surface.outside(masstone(k, s));
        }
        Reflectance(r).xyz().lab()
    }

    fn hand(&self, places: [usize; 4], way: &Way) -> Hand {
        let growth = self.growth(places, way.amounts);
        let own = self.colour(places, way.amounts);
        let near = Nearby::of(own);
        let steps = own.value().slope();
        let white = Light::Daylight.white();
        let slope = |t: f64| if t > 216.0 / 24389.0 { t.powf(-2.0 / 3.0) / 3.0 } else { 841.0 / 108.0 };
        let xyz = own.xyz();
        let slopes = [slope(xyz.x / white.x) / white.x, slope(xyz.y / white.y) / white.y, slope(xyz.z / white.z) / white.z];
        let far = |slip: &[f64; 4]| {
            let [x, y, z]: [f64; 3] = std::array::from_fn(|c| (0..4).map(|p| slip[p] * growth[p][c]).sum());
            let (fx, fy, fz) = (x * slopes[0], y * slopes[1], z * slopes[2]);
            STEP * (steps * y).abs() + near.length(116.0 * fy, 500.0 * (fx - fy), 200.0 * (fy - fz))
        };
        Hand { slip: way.slips.iter().map(|s| far(s).powi(2)).sum::<f64>().sqrt(), more_layers: way.more_heaps().into() }
    }

    /// How the tristimulus values of a mix grow with each amount, see [`lean_media::lanes::growth`].
    fn growth(&self, places: [usize; 4], amounts: [f64; 4]) -> [[f64; 3]; 4] {
        let turned = 1.0 - self.surface.k2;
        let gain = (1.0 - self.surface.k1) * turned;
        let mut sums = [[0.0; 3]; 4];
        for (band, w) in Light::Daylight.weights().iter().enumerate() {
            let of = places.map(|p| (self.wide[p].0[band], self.wide[p].1[band]));
            let (k, s) = (0..4).fold((0.0, 0.0), |(k, s), p| (k + amounts[p] * of[p].0, s + amounts[p] * of[p].1));
            let root = (k * (k + 2.0 * s)).max(1e-12).sqrt();
            let d = turned * s + k + root;
            let by_k = -gain * s * (1.0 + (k + s) / root) / (d * d);
            let by_s = gain * (k + root - k * s / root) / (d * d);
            for p in 0..4 {
                (0..3).for_each(|c| sums[p][c] += w[c] * (by_k * of[p].0 + by_s * of[p].1));
            }
        }
        sums
    }
}

impl Wet {
    fn eight_slips(&self, group: &[usize], of: &Quick, which: &[usize; LANES]) -> Lane {
        let Some(list) = self.list(group) else { return [0.0; LANES] };
        let numbers = which.map(|n| of.which[n] as usize);
        let slips: [&[[f32; 4]]; LANES] = numbers.map(|n| list.slips[n].as_slice());
        let most = slips.iter().map(|e| e.len()).max().unwrap_or(0);
        let mut by = [[[0.0f32; LANES]; 4]; MOST_MEASURES];
        for (i, own) in slips.iter().enumerate() {
            for (n, slip) in own.iter().enumerate() {
                (0..4).for_each(|p| by[n][p][i] = slip[p]);
            }
        }
        let amounts: [Lane; 4] = std::array::from_fn(|p| numbers.map(|n| list.amounts[p][n]));
        let growth = growth(self.places(group).map(|p| &self.narrow[p]), &amounts);
        quick::slipped(&of.gathered(which), &growth, &by[..most])
    }
}

impl Technique for Wet {
    fn pigments(&self) -> usize {
        self.ids.len()
    }

    fn quick(&self, group: &[usize], out: &mut Quick) {
        let Some(list) = self.list(group) else { return };
        out.which = self.kept(group);
        let Some(last) = out.which.last().copied() else { return };
        out.which.resize(out.which.len().next_multiple_of(LANES), last);
        let eights = out.which.chunks_exact(LANES);
        out.more_layers.extend(eights.clone().map(|e| -> Lane { std::array::from_fn(|i| list.ways[e[i] as usize].more_heaps().into()) }));
        out.amounts
            .extend(eights.map(|e| -> [Lane; 4] { std::array::from_fn(|p| std::array::from_fn(|i| list.amounts[p][e[i] as usize])) }));
        out.colours.resize(out.amounts.len(), Colours::NONE);
        colours_of_all(self.places(group).map(|p| &self.narrow[p]), &out.amounts, Front::of(self.surface), &mut out.colours);
    }

    fn quick_slips(&self, group: &[usize], of: &mut Quick, which: &[usize], _matters: &[f32]) -> Vec<f32> {
        let eights = which.chunks(LANES);
        let lanes = eights.flat_map(|eight| self.eight_slips(group, of, &std::array::from_fn(|i| eight[i.min(eight.len() - 1)])));
        // The last eight are filled up with their last.
        lanes.take(which.len()).collect()
    }

    fn listed<'a>(&'a self, group: &[usize]) -> Box<dyn Listed + 'a> {
        let ways = self.list(group).map_or_else(Vec::new, |l| self.kept(group).into_iter().map(|n| &l.ways[n as usize]).collect());
        Box::new(Group { wet: self, group: group.to_vec(), places: self.places(group), ways })
    }
}

/// The recipes of some pigments and white.
struct Group<'a> {
    wet: &'a Wet,
    group: Vec<usize>,
    places: [usize; 4],
    ways: Vec<&'a Way>,
}

impl Listed for Group<'_> {
    fn count(&self) -> usize {
        self.ways.len()
    }

    fn colours(&self) -> Vec<Lab> {
        self.ways.iter().map(|w| self.wet.colour(self.places, w.amounts)).collect()
    }

    fn colour(&self, nth: usize) -> Lab {
        self.wet.colour(self.places, self.ways[nth].amounts)
    }

    fn hand(&self, nth: usize) -> Hand {
        self.wet.hand(self.places, self.ways[nth])
    }

    fn more_layers(&self, nth: usize) -> f64 {
        self.ways[nth].more_heaps().into()
    }

    fn work(&self, nth: usize) -> usize {
        self.ways[nth].slips.len()
    }

    fn mix(&self, nth: usize, lab: Lab) -> Mix {
        let (way, wet) = (self.ways[nth], self.wet);
        let id = |place: usize| if place == 3 { wet.white.clone() } else { self.group.get(place).map(|p| wet.ids[*p].clone()) };
        let least = way.amounts.iter().copied().filter(|a| *a > 0.0).fold(f64::INFINITY, f64::min);
        let part = |place: usize| {
            let (parts, touch) = match &way.told {
                Told::Parts(p) if p.touch == Some(place) => (1, true),
                Told::Parts(p) => (u16::from(p.parts[place]), false),
                Told::Heaps(heaps) if heaps.len() == 1 => (heaps[0].with[place], false),
                Told::Heaps(_) => ((way.amounts[place] / least).round() as u16, false),
            };
            Some(Part { pigment: id(place).filter(|_| parts > 0)?, parts, touch })
        };
        let mut parts: Vec<Part> = (0..4).filter_map(part).collect();
        parts.sort_by_key(|p| (p.touch, std::cmp::Reverse(p.parts)));
        let heap = |h: &let_downs::Heap| Heap {
            of_last: h.of_last,
            with: (0..4)
                .filter(|i| h.with[*i] > 0)
                .filter_map(|i| Some(Part { pigment: id(i)?, parts: h.with[i], touch: false }))
                .collect(),
        };
        let heaps = match &way.told {
            Told::Heaps(heaps) if heaps.len() > 1 => heaps.iter().map(heap).collect(),
            _ => Vec::new(),
        };
        Mix { parts, heaps, layers: Vec::new(), lab, slip: self.hand(nth).slip }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use lean_media::library;

    #[test]
    fn no_mix_takes_more_measures_than_there_is_room_for_and_most_of_what_cannot_be_seen_is_left_out() {
        let all: Vec<&Pigment> = library::modelled().iter().filter(|p| !p.white).collect();
        let wet = Wet::of(&all, library::find("PW6"), Limits::default(), Grain::LetDowns);
        let most = (0..4).flat_map(|n| &wet.lists.list(n, 0).ways).map(|w| w.slips.len()).max().unwrap();
        assert!(most <= MOST_MEASURES, "{most}");
        let groups: Vec<[usize; 3]> = (0..12).map(|n| [n, n + 17, n + 35]).collect();
        let kept = groups.iter().map(|g| wet.kept(g).len()).sum::<usize>() / groups.len();
        let listed = let_downs::chains(3).len();
        println!("{kept} of {listed} in the mean, {most} measures at most");
        assert!(kept > 100 && kept < listed / 2, "{kept} of {listed}");
    }

    #[test]
    fn slips_in_single_precision_are_those_in_double() {
        let all: Vec<&Pigment> = library::modelled().iter().filter(|p| !p.white).collect();
        for grain in [Grain::LetDowns, Grain::Parts, Grain::Finer] {
            let wet = Wet::of(&all, library::find("PW6"), Limits::default(), grain);
            for group in [vec![], vec![3], vec![17], vec![36], vec![5, 40], vec![17, 21], vec![2, 19, 33], vec![10, 20, 50]] {
                let mut quick = Quick::default();
                wet.quick(&group, &mut quick);
                let listed = wet.listed(&group);
                for eight in 0..quick.colours.len() {
                    let which: [usize; LANES] = std::array::from_fn(|i| (eight * LANES + i).min(listed.count() - 1));
                    let slips = wet.eight_slips(&group, &quick, &which);
                    for (n, slip) in which.iter().zip(slips) {
                        let own = listed.hand(*n).slip;
                        assert!((f64::from(slip) - own).abs() < 2e-2 + 1e-3 * own, "{slip} is not {own}: {group:?} {n} {grain:?}");
                    }
                }
            }
        }
    }
}
