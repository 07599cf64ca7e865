//! Recipes laid in layers over a ground that shows: watercolour, marker, pencil, pastel.

use crate::cost::apart;
use crate::cost::quick;
use crate::craft::{Craft, Hand, Listed, Quick};
use crate::mix::{Mix, MixLayer, Part};
use crate::{Limits, PLACES, at_place};
use lean_colour::Lab;
use lean_media::forms::{self, Form, Laying, Prepared};
use lean_media::lanes::{Colours, LANES, Lane};
use lean_media::{Ground, Medium, Pigment, PigmentId};

/// Layers of up to three pigments over a ground.
pub struct Layered {
    medium: Medium,
    ids: Vec<PigmentId>,
    wide: Prepared<f64>,
    narrow: Prepared<f32>,
    /// `[pigments − 1][place of the mother colour]`.
    lists: [[Vec<Form>; PLACES]; 3],
    limits: Limits,
    bare: Colours,
}

impl Layered {
    /// Recipes of `pigments` on `ground`; `None` for a medium that is mixed wet.
    pub fn of(medium: Medium, ground: &Ground, pigments: &[&Pigment], limits: Limits) -> Option<Self> {
        let list = |n: usize, mother: usize| {
            let holds = |f: &Form| match (limits.mother, mother) {
                (Some((_, share)), place @ 1..) if place <= n => f.share(place - 1) >= share - 1e-12,
                (Some(_), _) => false,
                (None, _) => true,
            };
            let all = if n <= limits.most_pigments { forms::list(medium, ground, n, limits.most_layers) } else { Vec::new() };
            all.into_iter().filter(holds).collect()
        };
        let wide = Prepared::<f64>::of(medium, pigments, ground)?;
        Some(Self {
            medium,
            ids: pigments.iter().map(|p| p.id.clone()).collect(),
            bare: Colours::all(wide.bare()),
            narrow: Prepared::<f32>::of(medium, pigments, ground)?,
            lists: std::array::from_fn(|n| std::array::from_fn(|mother| list(n + 1, mother))),
            wide,
            limits,
        })
    }

    fn list(&self, group: &[usize]) -> &[Form] {
        self.limits.mother_in(group).map_or(&[], |mother| &self.lists[group.len() - 1][at_place(mother)])
    }

    fn hand(&self, group: &[usize], form: &Form) -> Hand {
        let own = self.wide.colour(group, form);
        let moved: f64 = form.erring().map(|e| apart(self.wide.colour(group, &e), own).powi(2)).sum();
        Hand { slip: (moved / 2.0).sqrt(), more_layers: (form.layers().len() - 1) as u8 }
    }

    fn part(&self, pigment: usize, parts: u16) -> Part {
        Part { pigment: self.ids[pigment].clone(), parts, touch: false }
    }
}

/// How a layer is laid, in a few words.
fn how(medium: Medium, layer: &Laying, first: bool) -> String {
    let step = usize::from(layer.amount.max(1)) - 1;
    match medium {
        Medium::Watercolour => ["thin wash", "middle wash", "strong wash"][step].into(),
        Medium::Marker => ["one coat", "two coats"][step.min(1)].into(),
        Medium::Pencil => ["light", "middle", "firm"][step].into(),
        Medium::SoftPastel => {
            let mass = ["light", "full", "heavy"][step];
            if first { mass.into() } else { format!("{mass}, {}", if layer.rubbed { "rubbed in" } else { "crisp" }) }
        }
        Medium::Oil => "mixed".into(),
    }
}

impl Craft for Layered {
    fn pigments(&self) -> usize {
        self.ids.len()
    }

    fn quick(&self, group: &[usize], out: &mut Quick) {
        if group.is_empty() {
            out.colours.push(self.bare);
        } else {
            let list = self.list(group);
            self.narrow.colours(group, list, &mut out.colours);
            let more = |n: usize| (list[n.min(list.len() - 1)].layers().len() - 1) as f32;
            out.more_layers.extend((0..out.colours.len()).map(|eight| std::array::from_fn(|i| more(eight * LANES + i))));
        }
    }

    fn quick_slips(&self, group: &[usize], of: &Quick, which: &[usize; LANES]) -> Lane {
        if group.is_empty() {
            return [0.0; LANES];
        }
        let list = self.list(group);
        let forms: [Form; LANES] = which.map(|n| list[n.min(list.len() - 1)]);
        let own = of.gathered(which);
        let erred = forms.map(|f| f.erring().collect::<Vec<Form>>());
        let mut squares = [0.0f32; LANES];
        let mut colours = Vec::with_capacity(1);
        for n in 0..erred.iter().map(Vec::len).max().unwrap_or(0) {
            let each: [Form; LANES] = std::array::from_fn(|i| erred[i].get(n).copied().unwrap_or(forms[i]));
            colours.clear();
            self.narrow.colours(group, &each, &mut colours);
            let before = squares;
            quick::add_squares(&mut squares, &colours[0], &own);
            // Where there is no further slip nothing moves but by rounding.
            (0..LANES).filter(|i| n >= erred[*i].len()).for_each(|i| squares[i] = before[i]);
        }
        squares.map(|s| (0.5 * s).sqrt())
    }

    fn listed<'a>(&'a self, group: &[usize]) -> Box<dyn Listed + 'a> {
        Box::new(Group { layered: self, group: group.to_vec(), forms: if group.is_empty() { &[] } else { self.list(group) } })
    }
}

/// The recipes of some pigments; of none, the bare ground.
struct Group<'a> {
    layered: &'a Layered,
    group: Vec<usize>,
    forms: &'a [Form],
}

impl Listed for Group<'_> {
    fn count(&self) -> usize {
        if self.group.is_empty() { 1 } else { self.forms.len() }
    }

    fn colours(&self) -> Vec<Lab> {
        if self.group.is_empty() {
            return vec![self.layered.wide.bare()];
        }
        self.layered.wide.colours_of(&self.group, self.forms)
    }

    fn colour(&self, nth: usize) -> Lab {
        self.forms.get(nth).map_or_else(|| self.layered.wide.bare(), |f| self.layered.wide.colour(&self.group, f))
    }

    fn hand(&self, nth: usize) -> Hand {
        self.forms.get(nth).map_or(Hand::default(), |f| self.layered.hand(&self.group, f))
    }

    fn more_layers(&self, nth: usize) -> u8 {
        self.forms.get(nth).map_or(0, |f| f.layers().len() as u8 - 1)
    }

    fn mix(&self, nth: usize, lab: Lab) -> Mix {
        let Some(form) = self.forms.get(nth) else { return Mix::bare(lab) };
        let (layered, group) = (self.layered, &self.group);
        let mut parts: Vec<Part> = Vec::new();
        for (place, pigment) in group.iter().enumerate() {
            let amount: u32 = form.layers().iter().map(|l| u32::from(l.parts[place]) * u32::from(l.amount)).sum();
            parts.push(layered.part(*pigment, amount as u16));
        }
        parts.sort_by_key(|p| std::cmp::Reverse(p.parts));
        let layers = form.layers().iter().enumerate().map(|(n, l)| MixLayer {
            of: group.iter().zip(l.parts).filter(|(_, n)| *n > 0).map(|(p, n)| layered.part(*p, n.into())).collect(),
            how: how(layered.medium, l, n == 0),
        });
        Mix { parts, heaps: Vec::new(), layers: layers.collect(), lab, slip: self.hand(nth).slip }
    }
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
        let craft = Layered::of(Medium::Watercolour, &g, &pigments, limits).unwrap();
        assert!(craft.exact(&[0, 2]).is_empty() && craft.exact(&[0]).is_empty());
        assert_eq!(craft.exact(&[]).len(), 1, "bare paper is no mix and stays free");
        let forms = craft.list(&[0, 1]);
        assert!(!forms.is_empty() && forms.iter().all(|f| f.share(1) >= 0.5));
    }

    #[test]
    fn layers_are_told_in_words_first_laid_first() {
        let g = ground::find(&GroundId("sanded-warm-grey".into())).unwrap();
        let pigments: Vec<&Pigment> = ["PB29", "PY43"].iter().map(|id| library::find(id).unwrap()).collect();
        let craft = Layered::of(Medium::SoftPastel, &g, &pigments, Limits::default()).unwrap();
        let colours = craft.exact(&[0, 1]);
        let rubbed =
            (0..colours.len()).map(|n| craft.listed(&[0, 1]).mix(n, colours[n])).find(|m| m.layers[1].how.contains("rubbed")).unwrap();
        assert_eq!(rubbed.layers.len(), 2);
        assert!(!rubbed.layers[0].how.contains("rubbed") && rubbed.parts.len() == 2);
    }
}
