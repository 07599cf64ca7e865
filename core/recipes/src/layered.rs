//! Recipes laid in layers over a ground that shows: watercolour, marker, pencil, pastel.

use crate::cost::{STEP, apart, quick};
use crate::hand::Hand;
use crate::mix::{Mix, MixLayer, Part};
use crate::technique::{Listed, MOST_IN_RECIPE, Quick, Technique};
use crate::{Limits, amounts, at_place};
use lean_colour::Lab;
use lean_media::forms::{self, Act, Class, Form, Laying, Memory, Nature, Prepared, Taking};
use lean_media::lanes::{Colours, LANES};
use lean_media::{Ground, Medium, Pigment};
use std::collections::HashMap;
use std::sync::{Arc, PoisonError, RwLock};

/// Layers of up to three pigments over a ground.
pub struct Layered {
    medium: Medium,
    ground: Ground,
    pigments: Vec<Pigment>,
    wide: Prepared<f64>,
    narrow: Prepared<f32>,
    natures: Vec<Nature>,
    /// Made when first asked for: what one pigment reaches asks for few.
    lists: Lists,
    limits: Limits,
    bare: Colours,
}

/// Lists of recipes by how many pigments a group has, the place of the mother colour, and the class of the group.
type Lists = RwLock<HashMap<(usize, usize, Class), Arc<[Form]>>>;

impl Layered {
    /// Recipes of `pigments` on `ground`; `None` for a medium that is mixed wet.
    pub fn of(medium: Medium, ground: &Ground, pigments: &[&Pigment], limits: Limits) -> Option<Self> {
        let wide = Prepared::<f64>::of(medium, pigments, ground)?;
        let swatch = forms::swatch(medium)?;
        let natures = pigments.iter().enumerate().map(|(i, p)| Nature::of(p, wide.colour(&[i], &swatch))).collect();
        Some(Self {
            natures,
            medium,
            ground: ground.clone(),
            pigments: pigments.iter().map(|p| (*p).clone()).collect(),
            bare: Colours::all(wide.bare()),
            narrow: Prepared::<f32>::of(medium, pigments, ground)?,
            lists: Default::default(),
            wide,
            limits,
        })
    }

    pub(crate) fn list(&self, group: &[usize]) -> Arc<[Form]> {
        let Ok(mother) = self.limits.mother_in(group) else { return Arc::default() };
        let natures: Vec<Nature> = group.iter().map(|p| self.natures[*p]).collect();
        let class = if self.limits.unusual { Class::default() } else { Class::of(self.medium, &natures, self.ground.lab.value().0) };
        let key = (group.len(), at_place(mother), class);
        if let Some(known) = self.lists.read().unwrap_or_else(PoisonError::into_inner).get(&key) {
            return known.clone();
        }
        let listed: Arc<[Form]> = self.forms(group.len(), mother, &class).into();
        self.lists.write().unwrap_or_else(PoisonError::into_inner).entry(key).or_insert(listed).clone()
    }

    /// The recipes of `n` pigments of a class, with the mother colour at a place.
    fn forms(&self, n: usize, mother: Option<(usize, f64)>, class: &Class) -> Vec<Form> {
        if n > self.limits.most_pigments {
            return Vec::new();
        }
        let holds = |f: &Form| mother.is_none_or(|(place, share)| f.share(place) >= share - 1e-12);
        let usual = |f: &Form| self.limits.unusual || class.allows(self.medium, f);
        forms::list(self.medium, &self.ground, n, self.limits.most_layers).into_iter().filter(|f| holds(f) && usual(f)).collect()
    }

    fn hand(&self, group: &[usize], form: &Form) -> Hand {
        let own = self.wide.colour(group, form);
        let others = self.others(form);
        let colours = self.wide.colours_of(group, &others);
        let (slips, doubts) = colours.split_at(form.slips());
        let moved: f64 = slips.iter().map(|c| apart(*c, own).powi(2)).sum();
        let leans = if let [least, most] = doubts { leaning(self.medium, apart(*least, *most)).powi(2) } else { 0.0 };
        Hand { slip: (moved + leans).sqrt(), more_layers: form.charged_layers() - 1.0 }
    }

    /// Adds to summed squares what is charged where a recipe leans on how much a layer takes from what lies beneath.
    fn quick_leaning<'f>(
        &self,
        group: &[usize],
        form: &impl Fn(usize) -> &'f Form,
        matters: &[f32],
        memory: &mut Memory<f32>,
        squares: &mut [f32],
    ) {
        let leans = |n: &usize| form(*n).leans_on_taking(self.medium) && squares[*n] <= matters[*n] * matters[*n];
        let open: Vec<usize> = (0..squares.len()).filter(leans).collect();
        let [mut none, mut most] = [Vec::new(), Vec::new()];
        for (with, out) in [(Taking::Least, &mut none), (Taking::Most, &mut most)] {
            let laid: Vec<Form> = open.iter().map(|n| form(*n).with_taking(with)).collect();
            self.narrow.colours(group, laid.iter(), memory, out);
        }
        for (eight, (a, b)) in none.iter().zip(&most).enumerate() {
            let mut moved = [0.0; LANES];
            quick::add_squares(&mut moved, a, b);
            for (n, far) in open[eight * LANES..].iter().zip(moved) {
                squares[*n] += leaning(self.medium, f64::from(far.sqrt())).powi(2) as f32;
            }
        }
    }

    /// What becomes of a form with every slip of the hand, and where it leans on what a layer takes from beneath, with the least and the most.
    fn others(&self, form: &Form) -> Vec<Form> {
        let mut all: Vec<Form> = (0..form.slips()).map(|n| form.erring(n)).collect();
        if form.leans_on_taking(self.medium) {
            all.extend([Taking::Least, Taking::Most].map(|p| form.with_taking(p)));
        }
        all
    }

    fn part(&self, pigment: usize, parts: u16) -> Part {
        Part { pigment: self.pigments[pigment].id.clone(), parts, touch: false }
    }
}

/// What a recipe is charged that moves so far between the least and the most a layer may take from what lies beneath. A pen: half of it, as far as
/// either may be off. Pastel: more than in proportion, for nothing is known less well, and one that moves by a whole step of value is no recipe.
fn leaning(medium: Medium, moved: f64) -> f64 {
    if medium == Medium::SoftPastel { moved * (1.0 + moved / STEP) } else { 0.5 * moved }
}

/// How a layer is laid, in a few words.
fn how(medium: Medium, l: &Laying, first: bool) -> String {
    let step = usize::from(l.amount.max(1)) - 1;
    let times = ["", ", twice", ", three times"][usize::from(l.times.clamp(1, 3)) - 1];
    match (medium, l.act) {
        (Medium::Watercolour, Act::Lift) => "lifted with a clean wet brush".into(),
        (_, Act::Lift) => "colourless blender over all".into(),
        (_, Act::Burnish) => "burnished".into(),
        (Medium::Watercolour, _) => format!("{}{times}", amounts(medium)[step]),
        (Medium::Marker, _) => ["one coat", "two coats", "three coats"][usize::from(l.times.clamp(1, 3)) - 1].into(),
        (Medium::Pencil, _) => format!("{}{times}", amounts(medium)[step]),
        (Medium::SoftPastel, act) => {
            let mass = amounts(medium)[step];
            let laid = if act == Act::Rub { ", rubbed in" } else { ", crisp" };
            format!("{mass}{times}{}", if first { "" } else { laid })
        }
        (Medium::Oil, _) => "mixed".into(),
    }
}

impl Technique for Layered {
    fn pigments(&self) -> usize {
        self.pigments.len()
    }

    fn largest_group(&self) -> usize {
        let usual = if self.limits.unusual { MOST_IN_RECIPE } else { forms::most_pigments(self.medium) };
        self.limits.most_pigments.min(usual)
    }

    fn quick(&self, group: &[usize], out: &mut Quick) {
        if group.is_empty() {
            out.colours.push(self.bare);
        } else {
            let list = self.list(group);
            let memory = out.memory.get_or_insert_default();
            self.narrow.colours(group, list.iter(), memory, &mut out.colours);
            let more = |n: usize| (list[n.min(list.len() - 1)].charged_layers() - 1.0) as f32;
            out.more_layers.extend((0..out.colours.len()).map(|eight| std::array::from_fn(|i| more(eight * LANES + i))));
        }
    }

    fn quick_slips(&self, group: &[usize], of: &mut Quick, which: &[usize], matters: &[f32]) -> Vec<f32> {
        let mut squares = vec![0.0f32; which.len()];
        if group.is_empty() {
            return squares;
        }
        let list = self.list(group);
        let form = |n: usize| &list[which[n].min(list.len() - 1)];
        // One slip of all of them after the other: most recipes move farther than matters with the first or second already.
        let mut open: Vec<usize> = (0..which.len()).collect();
        let (mut laid, mut there) = (Vec::with_capacity(open.len()), Vec::new());
        let mut memory = of.memory.take().unwrap_or_default();
        for nth in 0.. {
            open.retain(|n| squares[*n] <= matters[*n] * matters[*n] && nth < form(*n).slips());
            if open.is_empty() {
                break;
            }
            laid.clear();
            laid.extend(open.iter().map(|n| form(*n).erring(nth)));
            there.clear();
            self.narrow.colours(group, laid.iter(), &mut memory, &mut there);
            for eight in (0..open.len()).step_by(LANES) {
                let lane = |i: usize| (eight + i).min(open.len() - 1);
                let own = of.gathered(&std::array::from_fn(|i| which[open[lane(i)]]));
                let mut moved = [0.0; LANES];
                quick::add_squares(&mut moved, &there[eight / LANES], &own);
                open[eight..].iter().zip(moved).for_each(|(n, far)| squares[*n] += far);
            }
        }
        self.quick_leaning(group, &form, matters, &mut memory, &mut squares);
        of.memory = Some(memory);
        squares.iter().map(|s| s.sqrt()).collect()
    }

    fn listed<'a>(&'a self, group: &[usize]) -> Box<dyn Listed + 'a> {
        Box::new(Group { layered: self, group: group.to_vec(), forms: if group.is_empty() { Arc::default() } else { self.list(group) } })
    }
}

/// The recipes of some pigments; of none, the bare ground.
struct Group<'a> {
    layered: &'a Layered,
    group: Vec<usize>,
    forms: Arc<[Form]>,
}

impl Listed for Group<'_> {
    fn count(&self) -> usize {
        if self.group.is_empty() { 1 } else { self.forms.len() }
    }

    fn colours(&self) -> Vec<Lab> {
        if self.group.is_empty() {
            return vec![self.layered.wide.bare()];
        }
        self.layered.wide.colours_of(&self.group, &self.forms)
    }

    fn colour(&self, nth: usize) -> Lab {
        self.forms.get(nth).map_or_else(|| self.layered.wide.bare(), |f| self.layered.wide.colour(&self.group, f))
    }

    fn hand(&self, nth: usize) -> Hand {
        self.forms.get(nth).map_or(Hand::default(), |f| self.layered.hand(&self.group, f))
    }

    fn more_layers(&self, nth: usize) -> f64 {
        self.forms.get(nth).map_or(0.0, |f| f.charged_layers() - 1.0)
    }

    fn work(&self, nth: usize) -> usize {
        let of = |l: &Laying| usize::from(l.times) * l.parts.iter().filter(|n| **n > 0).count().max(1);
        self.forms.get(nth).map_or(0, |f| f.layings().iter().map(of).sum())
    }

    fn mix(&self, nth: usize, lab: Lab) -> Mix {
        let Some(form) = self.forms.get(nth) else { return Mix::bare(lab) };
        let (layered, group) = (self.layered, &self.group);
        let much = |place: usize| (form.much(place).round() as u16).max(1);
        let mut parts: Vec<Part> = group.iter().enumerate().map(|(place, pigment)| layered.part(*pigment, much(place))).collect();
        parts.sort_by_key(|p| std::cmp::Reverse(p.parts));
        let pigments: Vec<&Pigment> = group.iter().map(|p| &layered.pigments[*p]).collect();
        let layers = mix_layers(layered.medium, &layered.ground, form, &pigments);
        Mix { parts, heaps: Vec::new(), layers, lab, slip: self.hand(nth).slip }
    }
}

/// A form of these pigments as the layers a painter is told, with how much of each is laid on `ground`.
pub fn mix_layers(medium: Medium, ground: &Ground, form: &Form, pigments: &[&Pigment]) -> Vec<MixLayer> {
    let mut general = form.layering(medium, ground, pigments).into_iter();
    let part = |(p, n): (&&Pigment, u8)| Part { pigment: p.id.clone(), parts: n.into(), touch: false };
    let layer = |(n, l): (usize, &Laying)| MixLayer {
        of: pigments.iter().zip(l.parts).filter(|(_, n)| *n > 0).map(part).collect(),
        how: how(medium, l, n == 0),
        second: None,
        times: l.times,
        act: l.act,
        amounts: general.by_ref().take(l.times.into()).flat_map(|laid| laid.amounts()).collect(),
    };
    form.layings().iter().enumerate().map(layer).collect()
}

#[cfg(test)]
mod tests {
    use super::*;
    use lean_media::{GroundId, ground, library};

    #[test]
    fn a_mother_colour_is_in_every_mix_with_its_share() {
        let g = ground::find(&GroundId("hot-pressed".into())).unwrap();
        let pigments: Vec<&Pigment> = ["PB29", "PY43", "PR101"].iter().map(|id| library::find(id).unwrap()).collect();
        let limits = Limits { mother: Some((1, 0.5)), ..Limits::default() };
        let technique = Layered::of(Medium::Watercolour, &g, &pigments, limits).unwrap();
        assert!(technique.exact(&[0, 2]).is_empty() && technique.exact(&[0]).is_empty());
        assert_eq!(technique.exact(&[]).len(), 1, "bare paper is no mix and stays free");
        let forms = technique.list(&[0, 1]);
        assert!(!forms.is_empty() && forms.iter().all(|f| f.share(1) >= 0.5));
    }

    #[test]
    fn layers_are_told_in_words_first_laid_first() {
        let g = ground::find(&GroundId("sanded-warm-grey".into())).unwrap();
        let pigments: Vec<&Pigment> = ["PB29", "PY43"].iter().map(|id| library::find(id).unwrap()).collect();
        let technique = Layered::of(Medium::SoftPastel, &g, &pigments, Limits { unusual: true, ..Limits::default() }).unwrap();
        let colours = technique.exact(&[0, 1]);
        let rubbed =
            (0..colours.len()).map(|n| technique.listed(&[0, 1]).mix(n, colours[n])).find(|m| m.layers[1].how.contains("rubbed")).unwrap();
        assert_eq!(rubbed.layers.len(), 2);
        assert!(!rubbed.layers[0].how.contains("rubbed") && rubbed.parts.len() == 2);
    }
}
