//! Recipes a hand can repeat in layered media: which pigments of up to three, in what order and how much.
//!
//! **The three nouns.** A [`Form`] is a recipe with places instead of pigments; [`list`] gives all forms of a medium that a ground takes;
//! [`Prepared`] knows pigments and ground and gives the colour of any form of any of them, in single or double precision, by the models of
//! [`crate::layering`].

mod ink;
mod pastel;
mod pencil;
mod prepared;
mod wash;

pub use prepared::Prepared;

use crate::amount::{Dose, Mass, Pressure, Rubbing, Thickness};
use crate::choices::Choices;
use crate::ground::Ground;
use crate::layering::Layer;
use crate::medium::Medium;
use crate::pigment::{Parts, Pigment};

/// Thickness of a thin, a middle and a strong wash of a pigment of usual strength. A choice, within what painters' washes are.
pub const WASHES: [f64; 3] = [0.05, 0.15, 0.45];
/// Dose left by one coat of a pen of usual strength. A choice.
pub const COAT: f64 = 0.05;
/// Light, middle and firm pressure of a pencil. A choice.
pub const PRESSURES: [f64; 3] = [0.3, 0.7, 1.0];
/// Mass of a light, a full and a heavy stroke of pastel: 39, 78 and 95 % cover. A choice.
pub const MASSES: [f64; 3] = [0.5, 1.5, 3.0];

/// Absorption K·X a strong wash has at most: beyond it the model comes out more colourful than paper is, see
/// [`deep`](crate::choices::WashChoices::deep). A painter thins a strong pigment until its wash looks as strong as others.
const DEEPEST_WASH: f64 = 2.0;
/// Absorption one coat of the strongest pen has at most. A choice: two coats then pass one part in a hundred where the dye is strongest.
const DEEPEST_COAT: f64 = 1.6;

/// How far a pigment is thinned before it serves as a pan or a pen, 0..=1: paint of the library is far stronger than a wash may be.
pub fn thinned(medium: Medium, pigment: &Pigment) -> f64 {
    let peak = pigment.k.iter().copied().fold(f64::MIN_POSITIVE, f64::max);
    match medium {
        Medium::Watercolour => (DEEPEST_WASH / (WASHES[WASHES.len() - 1] * peak)).min(1.0),
        Medium::Marker => (DEEPEST_COAT / (COAT * peak)).min(1.0),
        _ => 1.0,
    }
}

/// Most pigments in one recipe besides white or bare ground.
pub const MOST_PIGMENTS: usize = 3;
/// Most layers in one recipe.
pub const MOST_LAYERS: usize = 3;

/// One layer of a form.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub struct Laying {
    /// Parts of the pigments in each place.
    pub parts: [u8; MOST_PIGMENTS],
    /// How much, from 1: strength of a wash, coats of a pen, pressure of a pencil, mass of a stroke.
    pub amount: u8,
    /// Rubbed into what lies beneath (pastel).
    pub rubbed: bool,
    /// What the hand got wrong, for the sake of what that moves.
    pub slip: Option<Slip>,
}

/// A slip of the hand: too little or too much of the pigment in one place.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Slip {
    /// Place of the pigment.
    pub place: u8,
    /// Too much, else too little.
    pub more: bool,
}

impl Slip {
    /// What becomes of the amount: a fifth too little or too much.
    pub fn factor(self) -> f64 {
        ERRING[usize::from(self.more)]
    }
}

/// What a hand makes of an amount when it errs by a fifth.
pub const ERRING: [f64; 2] = [0.8, 1.25];
/// Ways an amount may turn out: as meant, too little, too much.
const OUTCOMES: usize = 3;

/// Every amount of a list as it may turn out: all as meant, all too little, all too much.
fn outcomes<const N: usize, const M: usize>(amounts: [f64; N]) -> [f64; M] {
    const { assert!(M == N * OUTCOMES) };
    std::array::from_fn(|i| amounts[i % N] * [1.0, ERRING[0], ERRING[1]][i / N])
}

/// A recipe with places for up to three pigments.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Form {
    layers: [Laying; MOST_LAYERS],
    count: u8,
}

impl Form {
    fn of(layers: &[Laying]) -> Self {
        let mut all = [Laying::default(); MOST_LAYERS];
        all[..layers.len()].copy_from_slice(layers);
        Self { layers: all, count: layers.len() as u8 }
    }

    /// The layers, first laid first.
    pub fn layers(&self) -> &[Laying] {
        &self.layers[..usize::from(self.count)]
    }

    /// The same recipe with every slip the hand can make, one at a time.
    pub fn erring(&self) -> impl Iterator<Item = Self> + '_ {
        let slips = |l: &Laying| {
            let places = (0..MOST_PIGMENTS as u8).filter(|p| l.parts[usize::from(*p)] > 0).collect::<Vec<_>>();
            places.into_iter().flat_map(|place| [false, true].map(|more| Slip { place, more }))
        };
        self.layers().iter().enumerate().flat_map(move |(n, l)| {
            slips(l).map(move |slip| {
                let mut erred = *self;
                erred.layers[n].slip = Some(slip);
                erred
            })
        })
    }

    /// Share of the pigment in one place in all that is laid, by parts times amount.
    pub fn share(&self, place: usize) -> f64 {
        let of = |l: &Laying, parts: u8| f64::from(l.amount) * f64::from(parts) / f64::from(l.parts.iter().sum::<u8>());
        let all: f64 = self.layers().iter().map(|l| f64::from(l.amount)).sum();
        self.layers().iter().map(|l| of(l, l.parts[place])).sum::<f64>() / all
    }

    /// The same recipe as layers of the general model.
    pub fn layering<'a>(&self, medium: Medium, of: &[&'a Pigment]) -> Vec<Layer<'a>> {
        let single = |l: &Laying| of[place_of(l)];
        let step = |l: &Laying| usize::from(l.amount) - 1;
        let hand = |l: &Laying, place: usize| l.slip.filter(|s| usize::from(s.place) == place).map_or(1.0, Slip::factor);
        let erred = |l: &Laying| hand(l, place_of(l));
        self.layers()
            .iter()
            .flat_map(|l| match medium {
                Medium::Oil => vec![],
                Medium::Watercolour => {
                    let total: f64 = l.parts.iter().map(|n| f64::from(*n)).sum();
                    let thickness = |p: &Pigment, n: f64| Thickness(thinned(medium, p) * WASHES[step(l)] * n / total);
                    let parts = of.iter().enumerate().map(|(i, p)| (p, f64::from(l.parts[i]) * hand(l, i))).filter(|(_, n)| *n > 0.0);
                    vec![Layer::Wash { of: parts.map(|(p, n)| (*p, thickness(p, n))).collect() }]
                }
                Medium::Marker => {
                    let dose = Dose(COAT * erred(l) * thinned(medium, single(l)));
                    vec![Layer::Ink { of: vec![(single(l), dose)], into_wet: false }; usize::from(l.amount)]
                }
                Medium::Pencil => vec![Layer::Pencil { of: single(l), pressure: Pressure((PRESSURES[step(l)] * erred(l)).min(1.0)) }],
                Medium::SoftPastel => {
                    let rubbing = Rubbing(if l.rubbed { Choices::default().pastel.rubbed } else { 0.0 });
                    vec![Layer::Pastel { of: vec![(single(l), Parts(1.0))], mass: Mass(MASSES[step(l)] * erred(l)), rubbing }]
                }
            })
            .collect()
    }
}

/// The number of an amount among its [`outcomes`], for a layer of one pigment.
fn outcome<const STEPS: usize>(l: &Laying) -> usize {
    usize::from(l.amount) - 1 + STEPS * l.slip.map_or(0, |s| 1 + usize::from(s.more))
}

/// The place of the one pigment of a layer that is not mixed.
fn place_of(l: &Laying) -> usize {
    l.parts.iter().position(|n| *n > 0).unwrap_or(0)
}

/// Every form with exactly `pigments` (1..=3) pigments that `ground` takes, at most `most_layers` layers deep. Oil has none: it is mixed wet.
pub fn list(medium: Medium, ground: &Ground, pigments: usize, most_layers: usize) -> Vec<Form> {
    let all = match medium {
        Medium::Oil => Vec::new(),
        Medium::Watercolour => wash::forms(pigments),
        Medium::Marker => ink::forms(pigments),
        Medium::Pencil => pencil::forms(pigments),
        Medium::SoftPastel => pastel::forms(pigments),
    };
    all.into_iter().filter(|f| f.layers().len() <= most_layers && taken(medium, ground, f)).collect()
}

/// How a pigment alone is usually tried: a middle wash, one coat, firm pressure, a heavy stroke. Oil has none.
pub fn swatch(medium: Medium) -> Option<Form> {
    let amount = match medium {
        Medium::Oil => return None,
        Medium::Watercolour => 2,
        Medium::Marker => 1,
        Medium::Pencil | Medium::SoftPastel => 3,
    };
    Some(Form::of(&[Laying { parts: [1, 0, 0], amount, ..Laying::default() }]))
}

fn taken(medium: Medium, ground: &Ground, form: &Form) -> bool {
    let layers = form.layers().len();
    let steps = |of: &[f64]| form.layers().iter().map(|l| of[usize::from(l.amount) - 1]).sum::<f64>();
    const ROUNDING: f64 = 1e-9;
    match medium {
        Medium::Oil => false,
        Medium::Watercolour => layers <= ground.takes.wash.into(),
        Medium::Marker => {
            let coats: u8 = form.layers().iter().map(|l| l.amount).sum();
            coats <= ground.takes.ink && f64::from(coats) * COAT <= ground.ink_dose + ROUNDING
        }
        Medium::Pencil => {
            let choices = Choices::default().pencil;
            layers <= ground.takes.pencil.into() && choices.film * steps(&PRESSURES) <= choices.most_film.min(ground.pencil_film) + ROUNDING
        }
        Medium::SoftPastel => layers <= ground.takes.pastel.into() && steps(&MASSES) <= ground.pastel_mass + ROUNDING,
    }
}

/// Orders in which `n` places can follow each other.
fn orders(n: usize) -> &'static [&'static [usize]] {
    match n {
        1 => &[&[0]],
        2 => &[&[0, 1], &[1, 0]],
        _ => &[&[0, 1, 2], &[0, 2, 1], &[1, 0, 2], &[1, 2, 0], &[2, 0, 1], &[2, 1, 0]],
    }
}

/// One pigment a layer, in every order, with every combination of amounts `1..=most` that `keep` keeps.
fn layered(pigments: usize, most: u8, rubbed: &[bool], keep: impl Fn(&[Laying]) -> bool) -> Vec<Form> {
    let mut found: Vec<Vec<Laying>> = vec![Vec::new()];
    let mut all = Vec::new();
    for order in orders(pigments) {
        found.truncate(0);
        found.push(Vec::new());
        for place in *order {
            found = found
                .iter()
                .flat_map(|before| {
                    let ways = if before.is_empty() { &rubbed[..1] } else { rubbed };
                    (1..=most).flat_map(move |amount| {
                        ways.iter().map(move |rubbed| {
                            let mut parts = [0; MOST_PIGMENTS];
                            parts[*place] = 1;
                            before.iter().copied().chain([Laying { parts, amount, rubbed: *rubbed, slip: None }]).collect::<Vec<_>>()
                        })
                    })
                })
                .collect();
        }
        all.extend(found.iter().filter(|f| keep(f)).map(|f| Form::of(f)));
    }
    all
}

#[cfg(test)]
mod tests;
