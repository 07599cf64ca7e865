//! Judges whole sets against what is asked of them.

use crate::progress::{Cancelled, Progress};
use crate::question::demands::{Alone, Demands, HueFamily, WARM_FROM_COOL};
use crate::question::families::{Planned, half_step};
use lean_colour::{Lab, Value};
use lean_recipes::technique::{Quick, Technique};
use rayon::prelude::*;
use std::collections::HashMap;
use std::sync::RwLock;

/// A string spans this many half steps of value in all: two steps.
const STRING_SPAN: u32 = 4;

/// What a group's own recipes can do.
#[derive(Clone, Copy, Debug, PartialEq)]
struct Reach {
    darkest: f64,
    lightest: f64,
    /// Half steps of value reached, one bit each, by hue family.
    steps: [u32; HueFamily::ALL.len()],
}

impl Reach {
    const NONE: Self = Self { darkest: f64::INFINITY, lightest: f64::NEG_INFINITY, steps: [0; HueFamily::ALL.len()] };

    fn of(colours: &[Lab]) -> Self {
        let mut reach = Self::NONE;
        for lab in colours {
            let Value(v) = lab.value();
            reach.darkest = reach.darkest.min(v);
            reach.lightest = reach.lightest.max(v);
            if let Some(family) = HueFamily::of(*lab) {
                reach.steps[family as usize] |= 1 << half_step(Value(v));
            }
        }
        reach
    }

    fn and(mut self, other: &Self) -> Self {
        self.darkest = self.darkest.min(other.darkest);
        self.lightest = self.lightest.max(other.lightest);
        self.steps.iter_mut().zip(other.steps).for_each(|(a, b)| *a |= b);
        self
    }

    fn reaches(&self, planned: &Planned) -> bool {
        self.steps[planned.family as usize] & planned.near != 0
    }

    fn string(&self) -> bool {
        self.steps.iter().any(|bits| {
            if *bits == 0 {
                return false;
            }
            let (dark, light) = (bits.trailing_zeros(), 31 - bits.leading_zeros());
            let between = bits & !(1 << dark) & !(1 << light);
            light - dark >= STRING_SPAN && between != 0
        })
    }
}

/// Judges whole sets against what is asked of them. What groups can do is worked out in double precision when it is first asked for.
pub(crate) struct Judgement<'a> {
    demands: &'a Demands,
    technique: &'a dyn Technique,
    /// What each pigment is; by number.
    alone: &'a [Option<Alone>],
    known: RwLock<HashMap<[u16; 3], Reach>>,
}

/// No pigment.
const NONE: u16 = u16::MAX;

impl<'a> Judgement<'a> {
    /// A judgement of sets of a technique's pigments.
    pub(crate) fn of(demands: &'a Demands, technique: &'a dyn Technique, alone: &'a [Option<Alone>]) -> Self {
        Self { demands, technique, alone, known: RwLock::default() }
    }

    /// Families of the plan that a set (ascending numbers) reaches with none of its recipes.
    pub(crate) fn not_reached(&self, set: &[u16], planned: &[Planned]) -> Vec<HueFamily> {
        let mut missing: Vec<Planned> = planned.to_vec();
        self.visit(set, &mut |r| {
            missing.retain(|p| !r.reaches(p));
            missing.is_empty()
        });
        missing.iter().map(|p| p.family).collect()
    }

    /// How many demands a set (ascending numbers) leaves unmet; a family without any pigment counts twice.
    pub(crate) fn unmet(&self, set: &[u16]) -> u32 {
        let d = self.demands;
        let families: u32 = d.warm_and_cool.iter().map(|f| self.missing(*f, set)).sum();
        if !d.string && d.darkest.is_none() && d.lightest.is_none() {
            return families;
        }
        let mut reach = Reach::NONE;
        self.visit(set, &mut |r| {
            reach = reach.and(r);
            self.short(&reach) == 0
        });
        families + self.short(&reach)
    }

    /// How many demands on what is reached are unmet.
    fn short(&self, reach: &Reach) -> u32 {
        let d = self.demands;
        u32::from(d.string && !reach.string())
            + u32::from(d.darkest.is_some_and(|v| reach.darkest > v))
            + u32::from(d.lightest.is_some_and(|v| reach.lightest < v))
    }

    /// How many pigments are missing for a warm and a cool of a family.
    fn missing(&self, family: HueFamily, set: &[u16]) -> u32 {
        let members = set.iter().filter_map(|i| self.alone[usize::from(*i)].as_ref()).filter(|a| a.family() == Some(family));
        let (least, most) = members.map(Alone::off_warm).fold((f64::INFINITY, f64::NEG_INFINITY), |(l, m), x| (l.min(x), m.max(x)));
        if most < least { 2 } else { u32::from(most - least < WARM_FROM_COOL) }
    }

    /// Shows the reach of every group of a set, small groups first, until `enough` says so.
    fn visit(&self, set: &[u16], enough: &mut dyn FnMut(&Reach) -> bool) -> bool {
        if enough(&self.reach([NONE; 3])) {
            return true;
        }
        for i in set {
            if enough(&self.reach([*i, NONE, NONE])) {
                return true;
            }
        }
        for (a, i) in set.iter().enumerate() {
            for j in &set[a + 1..] {
                if enough(&self.reach([*i, *j, NONE])) {
                    return true;
                }
            }
        }
        for (a, i) in set.iter().enumerate() {
            for (b, j) in set.iter().enumerate().skip(a + 1) {
                for k in &set[b + 1..] {
                    if enough(&self.reach([*i, *j, *k])) {
                        return true;
                    }
                }
            }
        }
        false
    }

    fn reach(&self, group: [u16; 3]) -> Reach {
        if let Some(r) = self.known.read().unwrap_or_else(|p| p.into_inner()).get(&group) {
            return *r;
        }
        let of: Vec<usize> = group.iter().filter(|i| **i != NONE).map(|i| usize::from(*i)).collect();
        let r = Reach::of(&self.technique.exact(&of));
        self.known.write().unwrap_or_else(|p| p.into_inner()).insert(group, r);
        r
    }

    /// The first demand that not even all of `pigments` together fulfil, in a sentence. Goes through everything in single precision; what is
    /// within its rounding counts as reached.
    ///
    /// # Errors
    /// [`Cancelled`] when the watcher asks for it.
    pub(crate) fn out_of_reach(&self, pigments: &[u16], progress: &dyn Progress) -> Result<Option<String>, Cancelled> {
        let d = self.demands;
        if let Some(f) = d.warm_and_cool.iter().find(|f| self.missing(**f, pigments) > 0) {
            return Ok(Some(format!("There are no two pigments to choose from that are a warm and a cool {}.", f.name())));
        }
        if !d.string && d.darkest.is_none() && d.lightest.is_none() {
            return Ok(None);
        }
        let mut reach = self.quick(&[]);
        for (at, i) in pigments.iter().enumerate() {
            if self.short(&reach) == 0 {
                return Ok(None);
            }
            if progress.is_cancelled() {
                return Err(Cancelled);
            }
            let later = &pigments[at + 1..];
            let with = |b: usize| {
                let pair = self.quick(&[*i, later[b]]);
                later[b + 1..].iter().fold(pair, |r, k| r.and(&self.quick(&[*i, later[b], *k])))
            };
            let found = (0..later.len()).into_par_iter().map(with).reduce(|| Reach::NONE, |a, b| a.and(&b));
            reach = reach.and(&self.quick(&[*i])).and(&found);
        }
        Ok(if let Some(v) = d.darkest.filter(|v| reach.darkest > *v) {
            Some(format!("Nothing to choose from mixes as dark as value {v:.1}; the darkest reaches {:.1}.", reach.darkest))
        } else if let Some(v) = d.lightest.filter(|v| reach.lightest < *v) {
            Some(format!("Nothing to choose from is as light as value {v:.1}; the lightest reaches {:.1}.", reach.lightest))
        } else if d.string && !reach.string() {
            Some("No string can be made: no hue family reaches a light, a middle and a dark two steps apart.".into())
        } else {
            None
        })
    }

    fn quick(&self, group: &[u16]) -> Reach {
        let of: Vec<usize> = group.iter().map(|i| usize::from(*i)).collect();
        let mut mixed = Quick::default();
        self.technique.quick(&of, &mut mixed);
        let lanes = mixed.colours.iter().flat_map(|c| (0..c.l.len()).map(|i| Lab::new(c.l[i].into(), c.a[i].into(), c.b[i].into())));
        let mut reach = Reach::of(&lanes.collect::<Vec<_>>());
        reach.darkest -= ROUNDING;
        reach.lightest += ROUNDING;
        reach
    }
}

/// How far the value of a recipe in single precision may be off.
const ROUNDING: f64 = 2e-3;

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_string_needs_a_light_a_middle_and_a_dark_of_one_family() {
        let blue = |v: f64| lean_colour::moves::with_value(Lab::new(50.0, 5.0, -30.0), Value(v));
        let red = |v: f64| lean_colour::moves::with_value(Lab::new(50.0, 35.0, 18.0), Value(v));
        assert!(Reach::of(&[blue(3.0), blue(4.0), blue(5.0)]).string());
        assert!(!Reach::of(&[blue(3.0), blue(5.0)]).string(), "no middle");
        assert!(!Reach::of(&[blue(3.5), blue(4.0), blue(5.0)]).string(), "too close together");
        assert!(!Reach::of(&[blue(3.0), red(4.0), blue(5.0)]).string(), "the middle is another hue");
    }
}
