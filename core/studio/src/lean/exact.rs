//! The best recipe of a given set for a target, judged in double precision.

use super::cost::{Cost, Target};
use super::patterns;
use lean_colour::{BANDS, Lab, Reflectance};
use lean_media::opaque::{OIL, masstone};
use lean_media::{Pigment, PigmentId};
use serde::{Deserialize, Serialize};

/// Some whole parts of one pigment.
#[derive(Clone, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Part {
    /// Which pigment.
    pub pigment: PigmentId,
    /// Whole parts, 1..=8.
    pub parts: u8,
}

/// A recipe and the colour it gives laid opaque.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Mix {
    /// What goes in, most parts first.
    pub parts: Vec<Part>,
    /// Its colour under daylight.
    pub lab: Lab,
}

/// All recipes of a few pigments with their colours, made once and asked many times.
pub struct Recipes<'a> {
    pigments: Vec<&'a Pigment>,
    all: Vec<Candidate>,
}

struct Candidate {
    /// Index into `pigments` and parts; unused slots have no parts.
    of: [(u8, u8); 4],
    lab: Lab,
    value: f64,
}

impl<'a> Recipes<'a> {
    /// Lists every recipe of at most three of `pigments` and `white`. Without white, patterns that call for it are left out.
    pub fn of(pigments: &[&'a Pigment], white: Option<&'a Pigment>) -> Self {
        let mut list: Vec<&Pigment> = pigments.to_vec();
        let w = list.len();
        list.extend(white);
        let mut all = Vec::new();
        let mut add = |chosen: &[usize]| {
            for pattern in patterns::of(chosen.len()).iter().filter(|p| white.is_some() || p[3] == 0) {
                let mut of = [(0u8, 0u8); 4];
                for (slot, i) in chosen.iter().enumerate() {
                    of[slot] = (*i as u8, pattern[slot]);
                }
                of[3] = (w as u8, pattern[3]);
                let lab = colour(&list, &of);
                all.push(Candidate { of, lab, value: lab.value().0 });
            }
        };
        if white.is_some() {
            add(&[]);
        }
        for i in 0..w {
            add(&[i]);
            for j in i + 1..w {
                add(&[i, j]);
                for k in j + 1..w {
                    add(&[i, j, k]);
                }
            }
        }
        Self { pigments: list, all }
    }

    /// Every colour the recipes give.
    pub fn colours(&self) -> impl Iterator<Item = Lab> + '_ {
        self.all.iter().map(|c| c.lab)
    }

    /// The recipe of least cost for a colour, and that cost. `None` when there are no recipes at all.
    pub fn best(&self, wanted: Lab, cost: Cost) -> Option<(f64, Mix)> {
        self.ranked(wanted, cost, 1).into_iter().next()
    }

    /// The `count` cheapest recipes, cheapest first.
    pub fn ranked(&self, wanted: Lab, cost: Cost, count: usize) -> Vec<(f64, Mix)> {
        let value = wanted.value().0;
        let mut found: Vec<(f64, usize)> = Vec::with_capacity(count + 1);
        for (i, c) in self.all.iter().enumerate() {
            let worst = if found.len() < count { f64::INFINITY } else { found[found.len() - 1].0 };
            let by_value = cost.of_value(c.value - value);
            if by_value >= worst {
                continue;
            }
            let total = by_value + lean_colour::difference::ciede2000(c.lab, wanted);
            if total < worst {
                let at = found.partition_point(|f| f.0 <= total);
                found.insert(at, (total, i));
                found.truncate(count);
            }
        }
        found.into_iter().map(|(cost, i)| (cost, self.mix(i))).collect()
    }

    fn mix(&self, i: usize) -> Mix {
        let c = &self.all[i];
        let mut parts: Vec<Part> =
            c.of.iter().filter(|(_, n)| *n > 0).map(|(p, n)| Part { pigment: self.pigments[*p as usize].id.clone(), parts: *n }).collect();
        parts.sort_by_key(|p| std::cmp::Reverse(p.parts));
        Mix { parts, lab: c.lab }
    }

    /// Weighted mean over the targets of the least cost of each.
    pub fn cost_of(&self, targets: &[Target], cost: Cost) -> f64 {
        let total: f64 = targets.iter().map(|t| t.weight).sum();
        let sum: f64 = targets.iter().map(|t| t.weight * self.best(t.lab, cost).map_or(f64::INFINITY, |b| b.0)).sum();
        sum / total
    }
}

fn colour(pigments: &[&Pigment], of: &[(u8, u8); 4]) -> Lab {
    let total: f64 = of.iter().map(|(_, n)| f64::from(*n)).sum();
    let mut r = [0.0; BANDS];
    for (band, out) in r.iter_mut().enumerate() {
        let (mut k, mut s) = (0.0, 0.0);
        for (p, n) in of.iter().filter(|(_, n)| *n > 0) {
            let c = f64::from(*n) / total;
            k += c * pigments[*p as usize].k[band];
            s += c * pigments[*p as usize].s[band];
        }
        *out = OIL.outside(masstone(k, s));
    }
    Reflectance(r).xyz().lab()
}

#[cfg(test)]
mod tests {
    use super::*;
    use lean_media::library;

    #[test]
    fn a_colour_that_is_a_recipe_is_found_at_no_cost() {
        let set: Vec<&Pigment> = ["PB29", "PY43", "PR101"].iter().map(|id| library::find(id).unwrap()).collect();
        let recipes = Recipes::of(&set, library::find("PW6"));
        assert_eq!(recipes.all.len(), 1 + 3 * 22 + 3 * 73 + 121);
        let lab = recipes.all[200].lab;
        let (cost, mix) = recipes.best(lab, Cost::default()).unwrap();
        assert!(cost < 1e-9 && mix.lab == lab);
        let three = recipes.ranked(Lab::new(50.0, 5.0, 5.0), Cost::default(), 3);
        assert!(three.windows(2).all(|w| w[0].0 <= w[1].0));
    }

    #[test]
    fn without_white_no_recipe_calls_for_it() {
        let set = [library::find("PB29").unwrap()];
        let recipes = Recipes::of(&set, None);
        assert_eq!(recipes.all.len(), 1);
    }
}
