//! What a painter asks of a set besides matching its targets.

use crate::progress::{Cancelled, Progress};
use lean_colour::temperature::WARM_POLE;
use lean_colour::{Lab, Value};
use lean_media::{Pigment, PigmentId};
use lean_recipes::craft::{Craft, Quick};
use rayon::prelude::*;
use serde::{Deserialize, Serialize};
use std::collections::HashMap;
use std::sync::RwLock;

/// Stretches of the hue circle, in painters' words.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum HueFamily {
    /// Pinks and crimsons.
    Rose,
    /// Reds.
    Red,
    /// Oranges and burnt earths.
    Orange,
    /// Ochres and yellows.
    Yellow,
    /// Greens.
    Green,
    /// Blue greens.
    SeaGreen,
    /// Blues.
    Blue,
    /// Violets and purples.
    Violet,
}

/// Chroma below which a colour belongs to no hue family. A choice.
pub const HUELESS: f64 = 8.0;

impl HueFamily {
    /// All of them, round the circle.
    pub const ALL: [Self; 8] = [Self::Rose, Self::Red, Self::Orange, Self::Yellow, Self::Green, Self::SeaGreen, Self::Blue, Self::Violet];

    /// The family of a colour by its CIELAB hue angle; `None` for greys. Where one ends is a choice.
    pub fn of(lab: Lab) -> Option<Self> {
        if lab.chroma() < HUELESS {
            return None;
        }
        Some(match lab.hue().rem_euclid(360.0) {
            h if h < 20.0 => Self::Rose,
            h if h < 48.0 => Self::Red,
            h if h < 74.0 => Self::Orange,
            h if h < 108.0 => Self::Yellow,
            h if h < 170.0 => Self::Green,
            h if h < 220.0 => Self::SeaGreen,
            h if h < 303.0 => Self::Blue,
            h if h < 345.0 => Self::Violet,
            _ => Self::Rose,
        })
    }

    /// Its name.
    pub fn name(self) -> &'static str {
        match self {
            Self::Rose => "rose",
            Self::Red => "red",
            Self::Orange => "orange",
            Self::Yellow => "yellow",
            Self::Green => "green",
            Self::SeaGreen => "sea green",
            Self::Blue => "blue",
            Self::Violet => "violet",
        }
    }
}

/// A pigment in every mix.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Mother {
    /// Which.
    pub pigment: PigmentId,
    /// Its least share in each mix, above 0 and below 1. White alone in oil is a mix; bare ground is none.
    #[cfg_attr(feature = "schema", schema(minimum = 0.01, maximum = 0.9))]
    pub share: f64,
}

/// Everything a painter may ask of a set. The default asks nothing.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize)]
#[serde(default)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Demands {
    /// No black pigment: darks are mixed.
    pub no_black: bool,
    /// Only pigments of these families, and greys; empty for all.
    pub only_hues: Vec<HueFamily>,
    /// No pigment that fades sooner than this class, 1 (lasting) to 4; an unknown class does not pass.
    #[cfg_attr(feature = "schema", schema(minimum = 1, maximum = 4))]
    pub least_lasting: Option<u8>,
    /// No pigment that calls for a caution.
    pub no_hazard: bool,
    /// Most pigments in one mix, 1 to 3; 1 for colours used as they come.
    #[cfg_attr(feature = "schema", schema(minimum = 1, maximum = 3))]
    pub most_in_mix: Option<u8>,
    /// Most layers over each other in one place, 1 to 3.
    #[cfg_attr(feature = "schema", schema(minimum = 1, maximum = 3))]
    pub most_layers: Option<u8>,
    /// A little of one pigment in every mix.
    pub mother: Option<Mother>,
    /// At least one string: a light, a middle and a dark of one hue family.
    pub string: bool,
    /// A value some mix must be as dark as.
    #[cfg_attr(feature = "schema", schema(minimum = 0, maximum = 10))]
    pub darkest: Option<f64>,
    /// A value some mix, or what is free, must be as light as.
    #[cfg_attr(feature = "schema", schema(minimum = 0, maximum = 10))]
    pub lightest: Option<f64>,
    /// Families of which the set must hold a warm and a cool pigment.
    pub warm_and_cool: Vec<HueFamily>,
}

/// How much of the way to the warm pole two pigments of a family must differ by, in degrees of hue, to be its warm and its cool. A choice.
pub const WARM_FROM_COOL: f64 = 10.0;
/// A string spans this many half steps of value in all: two steps.
const STRING_SPAN: u32 = 4;
/// Value below which a grey pigment is a black. A choice.
const BLACK_BELOW: f64 = 3.2;

impl Demands {
    /// Whether anything hangs on a set as a whole, not on its pigments or mixes alone.
    pub fn ask_of_sets(&self) -> bool {
        self.string || self.darkest.is_some() || self.lightest.is_some() || !self.warm_and_cool.is_empty()
    }

    /// Says what is out of range or contradicts itself.
    ///
    /// # Errors
    /// Names the demand, what is wrong with it, and what to do.
    pub fn check(&self) -> Result<(), String> {
        let within = |what: &str, n: Option<u8>, most: u8| match n {
            Some(n) if !(1..=most).contains(&n) => Err(format!("{what} is {n}; it may be 1 to {most}.")),
            _ => Ok(()),
        };
        within("The most pigments in a mix", self.most_in_mix, 3)?;
        within("The most layers", self.most_layers, 3)?;
        within("The least light-fastness", self.least_lasting, 4)?;
        for (what, v) in [("The darkest dark", self.darkest), ("The lightest light", self.lightest)] {
            if v.is_some_and(|v| !(0.0..=10.0).contains(&v)) {
                return Err(format!("{what} is off the ladder; values run from 0 to 10."));
            }
        }
        if let Some((d, l)) = self.darkest.zip(self.lightest).filter(|(d, l)| d > l) {
            return Err(format!("The darkest dark asked for ({d}) is lighter than the lightest light ({l}). Exchange the two."));
        }
        if let Some(m) = self.mother.as_ref().filter(|m| !(0.01..=0.9).contains(&m.share)) {
            return Err(format!("A share of {} of \"{}\" in every mix is out of range; it may be 0.01 to 0.9.", m.share, m.pigment));
        }
        if let Some(f) = self.warm_and_cool.iter().find(|f| !self.only_hues.is_empty() && !self.only_hues.contains(f)) {
            return Err(format!(
                "A warm and a cool {0} are asked for, but {0} is not among the only hues. Add it or take the other back.",
                f.name()
            ));
        }
        Ok(())
    }
}

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
                reach.steps[family as usize] |= 1 << half_step(v);
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

/// The nearest half step of value.
pub fn half_step(value: f64) -> u32 {
    (2.0 * value).round().clamp(0.0, 20.0) as u32
}

/// What each pigment alone is, as far as demands ask.
#[derive(Clone, Debug)]
pub struct Alone {
    /// Its most colourful recipe.
    vivid: Lab,
    /// Value of its darkest recipe.
    darkest: f64,
}

impl Alone {
    /// What pigment `i` of a craft is. A craft in which it has no recipe of its own gives nothing.
    pub fn of(craft: &dyn Craft, i: usize) -> Option<Self> {
        let colours = craft.exact(&[i]);
        let vivid = *colours.iter().max_by(|a, b| a.chroma().total_cmp(&b.chroma()))?;
        let darkest = colours.iter().map(|c| c.value().0).fold(f64::INFINITY, f64::min);
        Some(Self { vivid, darkest })
    }

    /// Its family; `None` for greys.
    pub fn family(&self) -> Option<HueFamily> {
        HueFamily::of(self.vivid)
    }

    /// Degrees of hue from the warm pole, 0..=180.
    fn off_warm(&self) -> f64 {
        let off = (self.vivid.hue() - WARM_POLE).rem_euclid(360.0);
        off.min(360.0 - off)
    }
}

/// Why a pigment is left out.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize)]
#[serde(rename_all = "kebab-case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Forbidden {
    /// It is a black.
    Black,
    /// Its hue is not among those allowed.
    OtherHue,
    /// It fades too soon, or nobody knows.
    Fades,
    /// It calls for a caution.
    Hazard,
}

impl Forbidden {
    /// The demand, in the painter's words.
    pub fn words(self) -> &'static str {
        match self {
            Self::Black => "no black",
            Self::OtherHue => "only these hues",
            Self::Fades => "least light-fastness",
            Self::Hazard => "no hazardous pigments",
        }
    }
}

/// The demand that forbids a pigment, if one does.
pub fn forbidden(demands: &Demands, pigment: &Pigment, alone: Option<&Alone>) -> Option<Forbidden> {
    let black = || {
        let named = !pigment.colour_index.is_empty() && pigment.colour_index.iter().all(|c| c.starts_with("PBk"));
        alone.is_some_and(|a| a.family().is_none() && a.darkest < BLACK_BELOW && (named || a.vivid.value().0 < 2.0 * BLACK_BELOW))
    };
    let family = alone.and_then(Alone::family);
    if demands.no_black && black() {
        return Some(Forbidden::Black);
    }
    if !demands.only_hues.is_empty() && family.is_some_and(|f| !demands.only_hues.contains(&f)) {
        return Some(Forbidden::OtherHue);
    }
    if demands.least_lasting.is_some_and(|least| lasting(&pigment.lightfastness).is_none_or(|class| class > least)) {
        return Some(Forbidden::Fades);
    }
    (demands.no_hazard && !pigment.hazard.is_empty()).then_some(Forbidden::Hazard)
}

/// The worst light-fastness class a text names, 1 to 5; `None` when it names none. `II-III` is 3.
pub fn lasting(text: &str) -> Option<u8> {
    let numerals = text.split(|c: char| !"IV".contains(c)).filter(|t| !t.is_empty());
    numerals
        .filter_map(|n| match n {
            "I" => Some(1),
            "II" => Some(2),
            "III" => Some(3),
            "IV" => Some(4),
            "V" => Some(5),
            _ => None,
        })
        .max()
}

/// Judges whole sets against what is asked of them. What groups can do is worked out in double precision when it is first asked for.
pub struct Judgement<'a> {
    demands: &'a Demands,
    craft: &'a dyn Craft,
    /// What each pigment is; by number.
    alone: &'a [Option<Alone>],
    known: RwLock<HashMap<[u16; 3], Reach>>,
}

/// No pigment.
const NONE: u16 = u16::MAX;

impl<'a> Judgement<'a> {
    /// A judgement of sets of a craft's pigments.
    pub fn of(demands: &'a Demands, craft: &'a dyn Craft, alone: &'a [Option<Alone>]) -> Self {
        Self { demands, craft, alone, known: RwLock::default() }
    }

    /// How many demands a set (ascending numbers) leaves unmet; a family without any pigment counts twice.
    pub fn unmet(&self, set: &[u16]) -> u32 {
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
        let r = Reach::of(&self.craft.exact(&of));
        self.known.write().unwrap_or_else(|p| p.into_inner()).insert(group, r);
        r
    }

    /// The first demand that not even all of `pigments` together fulfil, in a sentence. Goes through everything in single precision; what is
    /// within its rounding counts as reached.
    ///
    /// # Errors
    /// [`Cancelled`] when the watcher asks for it.
    pub fn out_of_reach(&self, pigments: &[u16], progress: &dyn Progress) -> Result<Option<String>, Cancelled> {
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
        self.craft.quick(&of, &mut mixed);
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

    #[test]
    fn light_fastness_is_read_from_what_makers_print() {
        assert_eq!(lasting("I"), Some(1));
        assert_eq!(lasting("II-III"), Some(3));
        assert_eq!(lasting("II (watercolour: III, darkens)"), Some(3));
        assert_eq!(lasting(""), None);
    }

    #[test]
    fn contradictions_are_named() {
        let asked = Demands { darkest: Some(6.0), lightest: Some(4.0), ..Demands::default() };
        assert!(asked.check().unwrap_err().contains("darkest"));
        let asked = Demands { only_hues: vec![HueFamily::Blue], warm_and_cool: vec![HueFamily::Red], ..Demands::default() };
        assert!(asked.check().unwrap_err().contains("red"));
        assert!(Demands { most_in_mix: Some(4), ..Demands::default() }.check().is_err());
    }
}
