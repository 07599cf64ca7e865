//! Wet opaque mixes: oil.

pub mod parts;

use crate::craft::Craft;
use crate::mix::{Mix, Part};
use crate::{Limits, PLACES, at_place};
use lean_colour::{BANDS, Lab, Reflectance};
use lean_media::lanes::{Colours, LANES, Lane, Spectrum, colours_of_all};
use lean_media::opaque::{OIL, masstone};
use lean_media::{Pigment, PigmentId};
use parts::Pattern;

/// How finely parts are measured.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub enum Grain {
    /// Whole parts, eight at most.
    #[default]
    Usual,
    /// Whole parts, sixteen at most, or eight and a touch of one more.
    Finer,
}

/// Recipes of one number of pigments.
#[derive(Default)]
struct List {
    patterns: Vec<Pattern>,
    lanes: Vec<[Lane; 4]>,
}

/// Wet mixes of up to three pigments and white, laid opaque.
pub struct Wet {
    ids: Vec<PigmentId>,
    white: Option<PigmentId>,
    /// Absorption and scattering of each pigment, white last, in both precisions.
    wide: Vec<(Vec<f64>, Vec<f64>)>,
    narrow: Vec<Spectrum>,
    /// `[pigments][place of the mother colour]`.
    lists: [[List; PLACES]; 4],
    limits: Limits,
}

impl Wet {
    /// Recipes of `pigments` and `white`. Without white, patterns that call for it are left out.
    pub fn of(pigments: &[&Pigment], white: Option<&Pigment>, limits: Limits, grain: Grain) -> Self {
        let all: Vec<&Pigment> = pigments.iter().copied().chain(white).collect();
        let list = |n: usize, mother: usize| {
            let from = if grain == Grain::Finer { parts::finer(n) } else { parts::usual(n) };
            let holds = |p: &Pattern| match (limits.mother, mother) {
                (Some((_, share)), place @ 1..) if place <= n => p.amounts()[place - 1] / p.amounts().iter().sum::<f64>() >= share - 1e-12,
                (Some(_), _) => false,
                (None, _) => true,
            };
            let keep = |p: &&Pattern| n <= limits.most_pigments && (white.is_some() || p.parts[3] == 0) && holds(p);
            let patterns: Vec<Pattern> = from.iter().filter(keep).copied().collect();
            let lanes = patterns
                .chunks(LANES)
                .map(|c| std::array::from_fn(|p| std::array::from_fn(|lane| c.get(lane).unwrap_or(&c[0]).amounts()[p] as f32)))
                .collect();
            List { patterns, lanes }
        };
        Self {
            ids: pigments.iter().map(|p| p.id.clone()).collect(),
            white: white.map(|w| w.id.clone()),
            wide: all.iter().map(|p| (p.k.clone(), p.s.clone())).collect(),
            narrow: all.iter().map(|p| Spectrum::of(p)).collect(),
            lists: std::array::from_fn(|n| std::array::from_fn(|mother| list(n, mother))),
            limits,
        }
    }

    fn list(&self, group: &[usize]) -> Option<&List> {
        let mother = self.limits.mother_in(group).ok()?;
        let list = &self.lists[group.len()][at_place(mother)];
        (!list.patterns.is_empty()).then_some(list)
    }

    /// Numbers of the four things in a mix; places without a pigment hold any other, with no parts of it.
    fn places(&self, group: &[usize]) -> [usize; 4] {
        let white = self.wide.len() - 1;
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
            *out = OIL.outside(masstone(k, s));
        }
        Reflectance(r).xyz().lab()
    }
}

impl Craft for Wet {
    fn pigments(&self) -> usize {
        self.ids.len()
    }

    fn recipes(&self, pigments: usize) -> usize {
        self.lists[pigments].iter().map(|l| l.patterns.len()).max().unwrap_or(0)
    }

    fn quick(&self, group: &[usize], out: &mut Vec<Colours>) {
        let Some(list) = self.list(group) else { return };
        let of = self.places(group).map(|p| &self.narrow[p]);
        let from = out.len();
        out.resize(from + list.lanes.len(), Colours::NONE);
        colours_of_all(of, &list.lanes, &mut out[from..]);
    }

    fn exact(&self, group: &[usize]) -> Vec<Lab> {
        let places = self.places(group);
        self.list(group).map_or(Vec::new(), |l| l.patterns.iter().map(|p| self.colour(places, p.amounts())).collect())
    }

    fn mix(&self, group: &[usize], nth: usize, lab: Lab) -> Mix {
        let Some(pattern) = self.list(group).map(|l| l.patterns[nth]) else { return Mix { parts: Vec::new(), layers: Vec::new(), lab } };
        let mut parts: Vec<Part> = Vec::new();
        for (place, pigment) in group.iter().enumerate() {
            let touch = pattern.touch == Some(place);
            parts.push(Part { pigment: self.ids[*pigment].clone(), parts: if touch { 1 } else { pattern.parts[place] }, touch });
        }
        parts.extend(self.white.iter().filter(|_| pattern.parts[3] > 0).map(|w| Part {
            pigment: w.clone(),
            parts: pattern.parts[3],
            touch: false,
        }));
        parts.sort_by_key(|p| (p.touch, std::cmp::Reverse(p.parts)));
        Mix { parts, layers: Vec::new(), lab }
    }
}
