//! A second medium over the first: pencil over marker, opaque white over a wash. One touch of one thing over what is dry.

use crate::Limits;
use crate::cost::apart;
use crate::hand::Hand;
use crate::layered::{Layered, mix_layers};
use crate::mix::{Mix, MixLayer, Part};
use crate::technique::{Listed, Quick, Technique};
use lean_colour::Lab;
use lean_media::forms::{Act, ERRING, Form};
use lean_media::lanes::{Colours, LANES};
use lean_media::{Beneath, Ground, Layering, Medium, Pigment, Second};
use std::collections::HashMap;
use std::sync::{Arc, Mutex};

/// Layers of the first medium that a touch of the second is laid over, at most: whoever changes the medium keeps what lies beneath simple. A
/// choice.
const MOST_BENEATH: usize = 2;

/// Recipes of two media: those of the first alone, and each of its simple ones with one touch of one pigment of the second over it.
pub struct Over {
    medium: Medium,
    ground: Ground,
    pigments: Vec<Pigment>,
    base: Layered,
    /// The number in `base` of every pigment of the first medium.
    in_base: Vec<Option<usize>>,
    limits: Limits,
    /// What lies beneath, for groups of the first medium, once it was asked for.
    known: Mutex<HashMap<Vec<usize>, Arc<Vec<Lower>>>>,
}

/// What a touch is laid over.
struct Lower {
    /// The form beneath; `None` is bare ground.
    form: Option<Form>,
    /// What lies there when all of it is laid as meant; `None` where the ground refuses it.
    beneath: Option<Beneath>,
}

/// The layers beneath a touch, as they are charged.
fn charged(lower: &Lower) -> f64 {
    lower.form.map_or(0.0, |f| f.charged_layers())
}

/// What is asked of a group: which of the first medium, and which one of the second.
enum Parted {
    First(Vec<usize>),
    Both(Vec<usize>, usize),
    /// Two things of the second: nobody lays that here.
    None,
}

impl Over {
    /// Recipes of `pigments` on `ground`; `None` for a first medium that is mixed wet.
    pub fn of(medium: Medium, ground: &Ground, pigments: &[&Pigment], limits: Limits) -> Option<Self> {
        let first = |p: &&Pigment| p.second.is_none();
        let base: Vec<&Pigment> = pigments.iter().copied().filter(first).collect();
        let mut next = 0..;
        let in_base: Vec<Option<usize>> = pigments.iter().map(|p| if first(p) { next.next() } else { None }).collect();
        let mother = limits.mother.and_then(|(of, share)| in_base.get(of).copied().flatten().map(|of| (of, share)));
        Some(Self {
            medium,
            ground: ground.clone(),
            pigments: pigments.iter().map(|p| (*p).clone()).collect(),
            base: Layered::of(medium, ground, &base, Limits { mother, ..limits })?,
            in_base,
            limits,
            known: Mutex::default(),
        })
    }

    fn parted(&self, group: &[usize]) -> Parted {
        let first: Vec<usize> = group.iter().filter_map(|p| self.in_base[*p]).collect();
        let mut second = group.iter().copied().filter(|p| self.in_base[*p].is_none());
        match (second.next(), second.next()) {
            (None, _) => Parted::First(first),
            // A mother colour is to be in every mix by its share, which a touch over it would take away.
            (Some(touch), None) if self.limits.mother.is_none() && group.len() <= self.limits.most_pigments => Parted::Both(first, touch),
            _ => Parted::None,
        }
    }

    /// Touches of a pigment of the second medium that the ground takes.
    fn touches(&self, pigment: usize) -> (Second, usize) {
        let second = self.pigments[pigment].second.unwrap_or(Second::Pencil);
        (second, second.taken_by(&self.ground))
    }

    /// What a touch may be laid over: simple recipes of these pigments of the first medium, or bare ground.
    fn lower(&self, first: &[usize]) -> Arc<Vec<Lower>> {
        let known = || self.known.lock().unwrap_or_else(|p| p.into_inner());
        if let Some(found) = known().get(first) {
            return found.clone();
        }
        let most = MOST_BENEATH.min(self.limits.most_layers.saturating_sub(1));
        let lower = |form: Option<Form>| Lower { form, beneath: self.beneath(first, form.as_ref()) };
        let made = Arc::new(if first.is_empty() {
            vec![lower(None)]
        } else {
            self.base.list(first).iter().filter(|f| f.layers() <= most).map(|f| lower(Some(*f))).collect()
        });
        known().insert(first.to_vec(), made.clone());
        made
    }

    /// The pigments of the first medium with these numbers in `base`.
    fn first_pigments(&self, first: &[usize]) -> Vec<&Pigment> {
        first.iter().filter_map(|n| self.in_base.iter().position(|b| b == &Some(*n))).map(|i| &self.pigments[i]).collect()
    }

    fn beneath(&self, first: &[usize], form: Option<&Form>) -> Option<Beneath> {
        let layers = form.map_or_else(Vec::new, |f| f.layering(self.medium, &self.ground, &self.first_pigments(first)));
        Layering { ground: &self.ground, layers }.beneath().ok()
    }

    /// The colour of one touch over something, when the hand lays `hand` times what was meant; bare ground where it cannot be laid.
    fn touched(&self, beneath: Option<&Beneath>, touch: usize, amount: usize, hand: f64) -> Lab {
        let second = self.touches(touch).0;
        let layer = second.layer(&self.pigments[touch], second.amount(amount, hand));
        beneath.and_then(|b| b.under(&self.ground, &layer).ok()).map_or(self.ground.lab, |r| r.xyz().lab())
    }

    fn both(&self, first: Vec<usize>, touch: usize) -> Both<'_> {
        let lower = self.lower(&first);
        let touches = self.touches(touch).1;
        Both { over: self, first, touch, touches, lower }
    }
}

impl Technique for Over {
    fn pigments(&self) -> usize {
        self.pigments.len()
    }

    fn quick(&self, group: &[usize], out: &mut Quick) {
        match self.parted(group) {
            Parted::First(first) => self.base.quick(&first, out),
            Parted::Both(first, touch) => {
                let both = self.both(first, touch);
                let (colours, count) = (both.colours(), both.count());
                for eight in (0..count).step_by(LANES) {
                    let mut lanes = Colours::NONE;
                    for i in 0..LANES {
                        lanes.set(i, &Colours::all(colours[(eight + i).min(count - 1)]));
                    }
                    out.colours.push(lanes);
                    out.more_layers.push(std::array::from_fn(|i| both.more_layers((eight + i).min(count - 1)) as f32));
                }
            }
            Parted::None => {}
        }
    }

    fn quick_slips(&self, group: &[usize], of: &mut Quick, which: &[usize], matters: &[f32]) -> Vec<f32> {
        match self.parted(group) {
            Parted::First(first) => self.base.quick_slips(&first, of, which, matters),
            Parted::Both(first, touch) => {
                let both = self.both(first, touch);
                let slip = |n: &usize| both.hand((*n).min(both.count().saturating_sub(1))).slip as f32;
                which.iter().map(slip).collect()
            }
            Parted::None => vec![0.0; which.len()],
        }
    }

    fn listed<'a>(&'a self, group: &[usize]) -> Box<dyn Listed + 'a> {
        match self.parted(group) {
            Parted::First(first) => self.base.listed(&first),
            Parted::Both(first, touch) => Box::new(self.both(first, touch)),
            Parted::None => Box::new(Both { over: self, first: Vec::new(), touch: 0, touches: 0, lower: Arc::default() }),
        }
    }
}

/// The recipes of some pigments of the first medium under one of the second: every touch over the first thing beneath, then over the next.
struct Both<'a> {
    over: &'a Over,
    first: Vec<usize>,
    touch: usize,
    touches: usize,
    lower: Arc<Vec<Lower>>,
}

impl Both<'_> {
    fn at(&self, nth: usize) -> (&Lower, usize) {
        (&self.lower[nth / self.touches], nth % self.touches)
    }
}

impl Listed for Both<'_> {
    fn count(&self) -> usize {
        self.lower.len() * self.touches
    }

    fn colours(&self) -> Vec<Lab> {
        (0..self.count()).map(|nth| self.colour(nth)).collect()
    }

    fn colour(&self, nth: usize) -> Lab {
        let (lower, touch) = self.at(nth);
        self.over.touched(lower.beneath.as_ref(), self.touch, touch, 1.0)
    }

    fn hand(&self, nth: usize) -> Hand {
        let (lower, touch) = self.at(nth);
        let own = self.colour(nth);
        let slipped = |f: Form| self.over.touched(self.over.beneath(&self.first, Some(&f)).as_ref(), self.touch, touch, 1.0);
        let erred = lower.form.iter().flat_map(|f| (0..f.slips()).map(|n| f.erring(n))).map(slipped);
        let of_touch = self.over.touched(lower.beneath.as_ref(), self.touch, touch, ERRING);
        let moved: f64 = erred.chain([of_touch]).map(|c| apart(c, own).powi(2)).sum();
        Hand { slip: moved.sqrt(), more_layers: charged(lower) }
    }

    fn more_layers(&self, nth: usize) -> f64 {
        charged(self.at(nth).0)
    }

    fn work(&self, nth: usize) -> usize {
        let lower = self.at(nth).0;
        let beneath = lower
            .form
            .map_or(0, |f| f.layings().iter().map(|l| usize::from(l.times) * l.parts.iter().filter(|n| **n > 0).count().max(1)).sum());
        beneath + 1
    }

    fn mix(&self, nth: usize, lab: Lab) -> Mix {
        let (over, (lower, touch)) = (self.over, self.at(nth));
        let pigments = over.first_pigments(&self.first);
        let pigment = &over.pigments[self.touch];
        let second = over.touches(self.touch).0;
        let touched = Part { pigment: pigment.id.clone(), parts: touch as u16 + 1, touch: false };
        let mut layers = lower.form.map_or_else(Vec::new, |f| mix_layers(over.medium, &over.ground, &f, &pigments));
        layers.push(MixLayer {
            of: vec![touched.clone()],
            how: second.touches()[touch].into(),
            second: Some(second),
            times: 1,
            act: Act::Lay,
            amounts: vec![second.amount(touch, 1.0)],
        });
        let much = |place: usize| lower.form.map_or(1, |f| (f.much(place).round() as u16).max(1));
        let beneath = pigments.iter().enumerate().map(|(place, p)| Part { pigment: p.id.clone(), parts: much(place), touch: false });
        let mut parts: Vec<Part> = beneath.chain([touched]).collect();
        parts.sort_by_key(|p| std::cmp::Reverse(p.parts));
        Mix { parts, heaps: Vec::new(), layers, lab, slip: self.hand(nth).slip }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use lean_media::{State, ground, library};

    fn pigment(id: &str, second: Option<Second>) -> Pigment {
        Pigment {
            id: format!("{}{id}", if second.is_some() { "over-" } else { "" }).as_str().into(),
            second,
            white: false,
            ..library::find(id).unwrap().clone()
        }
    }

    fn over(medium: Medium, of: &[(&str, Option<Second>)]) -> (Over, Vec<Pigment>) {
        let pigments: Vec<Pigment> = of.iter().map(|(id, second)| pigment(id, *second)).collect();
        let by_ref: Vec<&Pigment> = pigments.iter().collect();
        (Over::of(medium, &ground::usual(medium), &by_ref, Limits::default()).unwrap(), pigments)
    }

    const PENS: [(&str, Option<Second>); 4] =
        [("PB29", None), ("PR101", Some(Second::Pencil)), ("PY43", None), ("PBk7", Some(Second::Pencil))];

    #[test]
    fn recipes_of_the_first_medium_are_its_own() {
        let (over, pigments) = over(Medium::Marker, &PENS);
        let alone = Layered::of(Medium::Marker, &ground::usual(Medium::Marker), &[&pigments[0], &pigments[2]], Limits::default()).unwrap();
        assert_eq!(over.exact(&[0, 2]), alone.exact(&[0, 1]));
        assert_eq!(over.exact(&[]), alone.exact(&[]));
    }

    #[test]
    fn what_is_told_of_a_recipe_gives_its_colour_in_the_general_model() {
        for (medium, of) in [
            (Medium::Marker, PENS.to_vec()),
            (Medium::Watercolour, vec![("PB29", None), ("PW6", Some(Second::BodyColour)), ("PY43", None)]),
        ] {
            let (over, pigments) = over(medium, &of);
            let paper = ground::usual(medium);
            for group in [vec![1], vec![0, 1], vec![0, 1, 2]] {
                let listed = over.listed(&group);
                assert!(listed.count() > 1, "{medium:?} {group:?}");
                for (n, lab) in listed.colours().into_iter().enumerate().step_by(7) {
                    assert_eq!(listed.colour(n), lab);
                    let mix = listed.mix(n, lab);
                    assert_eq!(mix.parts.len(), group.len());
                    let layers = mix.general(medium, &|id| pigments.iter().find(|p| p.id == *id)).unwrap();
                    let laid = Layering { ground: &paper, layers }.lay(State::Dry).unwrap().reflectance.xyz().lab();
                    assert!(lean_colour::difference::ciede2000(laid, lab) < 1e-9, "{medium:?} {group:?} {n}: {laid:?} {lab:?}");
                }
            }
        }
    }

    #[test]
    fn both_precisions_list_the_same() {
        let (over, _) = over(Medium::Marker, &PENS);
        for group in [vec![], vec![1], vec![0, 1], vec![0, 2], vec![0, 1, 2]] {
            let (exact, mut quick) = (over.exact(&group), Quick::default());
            over.quick(&group, &mut quick);
            let got = |n: usize| quick.colours[n / LANES].l[n % LANES];
            assert_eq!(quick.colours.len(), exact.len().div_ceil(LANES));
            assert!(exact.iter().enumerate().all(|(n, lab)| (f64::from(got(n)) - lab.l).abs() < 5e-3), "{group:?}");
            let which: Vec<usize> = (0..exact.len()).step_by(5).collect();
            let slips = over.quick_slips(&group, &mut quick, &which, &vec![f32::INFINITY; which.len()]);
            let listed = over.listed(&group);
            assert!(which.iter().zip(slips).all(|(n, s)| (f64::from(s) - listed.hand(*n).slip).abs() < 0.02), "{group:?}");
        }
    }

    #[test]
    fn nobody_lays_two_things_of_the_second_medium() {
        let (over, _) = over(Medium::Marker, &PENS);
        assert!(over.exact(&[1, 3]).is_empty() && over.exact(&[0, 1, 3]).is_empty());
        let mut quick = Quick::default();
        over.quick(&[1, 3], &mut quick);
        assert!(quick.colours.is_empty());
    }
}
