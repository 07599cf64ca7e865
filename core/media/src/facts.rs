//! Facts painters know, written as brackets: the knowledge the modelled pigments are fitted to and tested by.
//!
//! A fact names a mix, a film, washes over each other, or a written recipe laid in a medium, and what must be true of its colour, alone or
//! against another. Opaque mixes and films over black are seen through the surface of [`OIL`]; washes and films over paper lie on paper seen at a
//! reflectance of 0.9; a recipe is laid by [`Layering`] on the medium's usual ground.

use crate::amount::Rubbing;
use crate::choices::{Choices, Dulling};
use crate::ground::Ground;
use crate::layering::{Layering, State};
use crate::medium::Medium;
use crate::opaque::{OIL, masstone};
use crate::pigment::Pigment;
use crate::recipe_text::{self, Written};
use crate::{film, ground, library};
use lean_colour::{BANDS, Lab, Reflectance};
use serde::Deserialize;
use serde::de::{Deserializer, MapAccess, Visitor};

/// A file of facts.
#[derive(Clone, Debug, Deserialize)]
pub struct Facts {
    /// The facts.
    pub facts: Vec<Fact>,
}

/// One fact.
#[derive(Clone, Debug, Deserialize)]
pub struct Fact {
    /// Short name.
    pub id: String,
    /// What a painter would say.
    pub claim: String,
    /// What it is about.
    #[serde(flatten)]
    pub subject: Subject,
    /// Brackets its colour must lie in.
    pub expect: Expect,
    /// What must hold against another colour.
    pub compare: Vec<Compare>,
    /// Ratios to look through, in the order of the mix, for the least chroma.
    #[serde(default)]
    pub ratios: Vec<Vec<f64>>,
    /// Kept out of the fit, so that the fit can be judged by it.
    #[serde(default)]
    pub held_out: bool,
}

/// A mix, a film of it, or washes.
#[derive(Clone, Debug, Default, Deserialize)]
pub struct Subject {
    /// Pigments by parts, in the order written.
    #[serde(default, deserialize_with = "in_order")]
    pub mix: Vec<(String, f64)>,
    /// A film of the mix rather than the mix laid opaque.
    #[serde(default)]
    pub film: Option<Film>,
    /// Washes, first laid first, with their thickness.
    #[serde(default)]
    pub layers: Vec<(String, f64)>,
    /// A recipe laid in a medium.
    #[serde(default)]
    pub laid: Option<LaidOn>,
}

/// A written recipe (see [`recipe_text`](crate::recipe_text)) on the usual ground of its medium.
#[derive(Clone, Debug, Deserialize)]
pub struct LaidOn {
    /// The medium; pastel is laid crisp.
    pub medium: Medium,
    /// The recipe.
    pub recipe: String,
}

/// A film.
#[derive(Clone, Debug, Deserialize)]
pub struct Film {
    /// Its thickness.
    #[serde(rename = "X")]
    pub thickness: f64,
    /// `black` or `paper`.
    pub ground: String,
}

/// Brackets, each `[from, to]`.
#[derive(Clone, Debug, Default, Deserialize)]
pub struct Expect {
    /// Lightness.
    #[serde(rename = "L")]
    pub lightness: Option<[f64; 2]>,
    /// Chroma.
    #[serde(rename = "C")]
    pub chroma: Option<[f64; 2]>,
    /// Hue angle.
    #[serde(rename = "h")]
    pub hue: Option<[f64; 2]>,
    /// Green to red.
    pub a: Option<[f64; 2]>,
    /// Blue to yellow.
    pub b: Option<[f64; 2]>,
    /// Least chroma over the ratios.
    #[serde(rename = "Cmin_over_ratios")]
    pub least_chroma: Option<[f64; 2]>,
}

/// `metric(fact) op metric(other) by`.
#[derive(Clone, Debug, Deserialize)]
pub struct Compare {
    /// `L`, `C`, `h`, `a`, `b`, or `dE` for the plain distance between the two.
    pub metric: String,
    /// `>` or `<`.
    pub op: String,
    /// Pigments by parts of the other.
    #[serde(default, deserialize_with = "in_order")]
    pub other: Vec<(String, f64)>,
    /// A film of the other.
    #[serde(default)]
    pub film: Option<Film>,
    /// Washes of the other.
    #[serde(default)]
    pub layers: Vec<(String, f64)>,
    /// A recipe of the other.
    #[serde(default)]
    pub laid: Option<LaidOn>,
    /// By how much.
    pub by: f64,
}

/// Reads `{"A": 1, "B": 2}` in the order written; `null` is empty.
fn in_order<'de, D: Deserializer<'de>>(d: D) -> Result<Vec<(String, f64)>, D::Error> {
    struct Pairs;
    impl<'de> Visitor<'de> for Pairs {
        type Value = Vec<(String, f64)>;
        fn expecting(&self, f: &mut std::fmt::Formatter) -> std::fmt::Result {
            f.write_str("pigments and their parts")
        }
        fn visit_unit<E>(self) -> Result<Self::Value, E> {
            Ok(Vec::new())
        }
        fn visit_map<M: MapAccess<'de>>(self, mut map: M) -> Result<Self::Value, M::Error> {
            let mut pairs = Vec::new();
            while let Some(pair) = map.next_entry()? {
                pairs.push(pair);
            }
            Ok(pairs)
        }
    }
    d.deserialize_any(Pairs)
}

/// How far a bracket is missed, and in what.
#[derive(Clone, Debug, PartialEq)]
pub struct Miss {
    /// The metric, as written in the fact.
    pub metric: &'static str,
    /// How far outside, > 0, or how near the edge inside when asked with a margin.
    pub by: f64,
}

/// Finds pigments by id.
pub trait Find {
    /// K and S of a pigment.
    fn find(&self, id: &str) -> Option<(&[f64], &[f64])>;
}

impl Find for &[Pigment] {
    fn find(&self, id: &str) -> Option<(&[f64], &[f64])> {
        self.iter().find(|p| p.id.0 == id).map(|p| (p.k.as_slice(), p.s.as_slice()))
    }
}

impl Fact {
    /// Every pigment it speaks of.
    pub fn pigments(&self) -> impl Iterator<Item = &str> {
        let own = self.subject.mix.iter().chain(&self.subject.layers);
        let others = self.compare.iter().flat_map(|c| c.other.iter().chain(&c.layers));
        let laid = self.compare.iter().map(|c| &c.laid).chain([&self.subject.laid]).flatten();
        own.chain(others).map(|(id, _)| id.as_str()).chain(laid.flat_map(LaidOn::pigments))
    }

    /// What it misses, if anything; brackets are taken tighter by `margin` times a just visible amount.
    ///
    /// # Errors
    /// When it names a pigment that is not there, or a metric or ground that is not known.
    pub fn misses(&self, pigments: &impl Find, margin: f64) -> Result<Vec<Miss>, String> {
        let told = |e: String| format!("{}: {e}", self.id);
        let own = colour(&self.subject, pigments).map_err(told)?;
        let mut misses = Vec::new();
        let brackets =
            [("L", self.expect.lightness), ("C", self.expect.chroma), ("h", self.expect.hue), ("a", self.expect.a), ("b", self.expect.b)];
        for (name, bracket) in brackets {
            if let Some(bracket) = bracket {
                outside(name, metric(&own, name).map_err(told)?, bracket, margin, &mut misses);
            }
        }
        if let Some(bracket) = self.expect.least_chroma {
            let mut least = f64::INFINITY;
            for ratio in &self.ratios {
                let mix = self.subject.mix.iter().zip(ratio).map(|((id, _), n)| (id.clone(), *n)).collect();
                least = least.min(colour(&Subject { mix, ..Subject::default() }, pigments).map_err(told)?.chroma());
            }
            outside("Cmin", least, bracket, margin, &mut misses);
        }
        for c in &self.compare {
            let other = Subject { mix: c.other.clone(), film: c.film.clone(), layers: c.layers.clone(), laid: c.laid.clone() };
            let other = colour(&other, pigments).map_err(told)?;
            let (name, apart) = match c.metric.as_str() {
                "dE" => ("dE", (own.l - other.l).hypot(own.a - other.a).hypot(own.b - other.b)),
                name => {
                    let gap = metric(&own, name).map_err(told)? - metric(&other, name).map_err(told)?;
                    (known(name).map_err(told)?, if name == "h" { (gap + 180.0).rem_euclid(360.0) - 180.0 } else { gap })
                }
            };
            let edge = c.by + margin * just_visible(name);
            let by = match (c.op.as_str(), name) {
                (">", _) => edge - apart,
                ("<", "dE") => apart - c.by + margin * just_visible(name),
                ("<", _) => apart + edge,
                (op, _) => return Err(told(format!("no such comparison as {op}"))),
            };
            if by > 0.0 {
                misses.push(Miss { metric: name, by });
            }
        }
        Ok(misses)
    }
}

fn outside(name: &'static str, x: f64, [from, to]: [f64; 2], margin: f64, misses: &mut Vec<Miss>) {
    let edge = margin * just_visible(name);
    // A bracket that begins at nothing has no lower edge to keep away from.
    let low = if from <= 0.0 && name != "b" && name != "a" { from } else { from + edge };
    let by = (low - x).max(x - to + edge);
    if by > 0.0 {
        misses.push(Miss { metric: name, by });
    }
}

fn known(name: &str) -> Result<&'static str, String> {
    ["L", "C", "h", "a", "b"].into_iter().find(|n| *n == name).ok_or_else(|| format!("no metric {name}"))
}

/// About one just visible difference of each metric.
fn just_visible(name: &str) -> f64 {
    if name == "h" { 2.0 } else { 1.0 }
}

fn metric(lab: &Lab, name: &str) -> Result<f64, String> {
    Ok(match known(name)? {
        "L" => lab.l,
        "C" => lab.chroma(),
        "h" => lab.hue().0,
        "a" => lab.a,
        _ => lab.b,
    })
}

impl LaidOn {
    fn pigments(&self) -> impl Iterator<Item = &str> {
        let written = self.recipe.split(['>', '+']).map(|piece| piece.split('*').next().unwrap_or_default().trim());
        written.filter(|id| !["lift", "blender", "burnish"].contains(id))
    }

    fn colour(&self, pigments: &impl Find) -> Result<Lab, String> {
        let mut named: Vec<&str> = self.pigments().collect();
        named.sort_unstable();
        named.dedup();
        let with = |id: &str| {
            let known = library::find(id).ok_or_else(|| format!("no pigment {id}"))?;
            let (k, s) = pigments.find(id).ok_or_else(|| format!("no pigment {id}"))?;
            Ok(Pigment { k: k.to_vec(), s: s.to_vec(), ..known.clone() })
        };
        let owned = named.into_iter().map(with).collect::<Result<Vec<Pigment>, String>>()?;
        let written = match self.medium {
            Medium::Oil => Written::Oil { film: None },
            Medium::Watercolour => Written::Watercolour,
            Medium::Marker => Written::Marker { into_wet: false },
            Medium::Pencil => Written::Pencil,
            Medium::SoftPastel => Written::Pastel { rubbing: Rubbing(Choices::default().pastel.crisp) },
        };
        // Facts speak of colours, doses in them of dye: how much ink the paper drinks is not asked.
        let ground = Ground { ink_dose: f64::INFINITY, ..ground::usual(self.medium) };
        let layering = Layering { ground: &ground, layers: recipe_text::layers(&self.recipe, written, &owned)? };
        Ok(layering.lay(State::Dry).map_err(|e| e.to_string())?.reflectance.xyz().lab())
    }
}

/// Reflectance of the paper of facts, as it is seen.
const PAPER: f64 = 0.9;

/// An even wash of thickness `x` over what lies inside the paper.
fn washed(k: &[f64], s: &[f64], x: f64, inside: &[f64; BANDS], choices: &Choices) -> [f64; BANDS] {
    let grey = choices.dulling.grey(x * Dulling::depth(k));
    std::array::from_fn(|i| film::over(k[i] * x + grey, s[i] * x, 1.0, inside[i]))
}

fn colour(subject: &Subject, pigments: &impl Find) -> Result<Lab, String> {
    if let Some(laid) = &subject.laid {
        return laid.colour(pigments);
    }
    let choices = Choices::default();
    let paper = choices.paper.inside(PAPER);
    let found = |id: &str| pigments.find(id).ok_or_else(|| format!("no pigment {id}"));
    let seen = |f: &dyn Fn(usize) -> f64| Reflectance(std::array::from_fn(f)).xyz().lab();
    if !subject.layers.is_empty() {
        let mut inside = [paper; BANDS];
        for (id, x) in &subject.layers {
            let (k, s) = found(id)?;
            inside = washed(k, s, *x, &inside, &choices);
        }
        return Ok(seen(&|i| choices.paper.outside(inside[i])));
    }
    let total: f64 = subject.mix.iter().map(|(_, n)| n).sum();
    let (mut k, mut s) = ([0.0; BANDS], [0.0; BANDS]);
    for (id, n) in &subject.mix {
        let (pk, ps) = found(id)?;
        for i in 0..BANDS {
            k[i] += n / total * pk[i];
            s[i] += n / total * ps[i];
        }
    }
    match &subject.film {
        None => Ok(seen(&|i| OIL.outside(masstone(k[i], s[i])))),
        Some(f) if f.ground == "black" => Ok(seen(&|i| OIL.outside(film::over(k[i], s[i], f.thickness, 0.0)))),
        Some(f) if f.ground == "paper" => {
            let inside = washed(&k, &s, f.thickness, &[paper; BANDS], &choices);
            Ok(seen(&|i| choices.paper.outside(inside[i])))
        }
        Some(f) => Err(format!("no ground {}", f.ground)),
    }
}
