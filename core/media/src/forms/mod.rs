//! Recipes a hand can repeat in layered media: which pigments of up to three, in what order and how much.
//!
//! **The three nouns.** A [`Form`] is a recipe with places instead of pigments; [`list`] gives all forms of a medium that a ground takes;
//! [`Prepared`] knows pigments and ground and gives the colour of any form of any of them, in single or double precision, by the models of
//! [`crate::layering`].

mod ink;
mod lists;
mod pastel;
mod pencil;
mod prepared;
mod wash;

pub use prepared::{Memory, Prepared};
pub use wash::{THICKEST_WASH, deepest_wash};

use crate::amount::{Dose, Mass, Pressure, Rubbing, Thickness};
use crate::choices::Choices;
use crate::ground::Ground;
use crate::layering::Layer;
use crate::medium::Medium;
use crate::pigment::{Parts, Pigment};
use serde::{Deserialize, Serialize};

/// Thickness of a faint, thin, middle, strong and deep wash relative to the [deepest](deepest_wash) of its pigment: each three times the one
/// before, so that washes of one strength look about equally strong whatever the pigment. A choice.
pub const WASHES: [f64; 5] = [1.0 / 81.0, 1.0 / 27.0, 1.0 / 9.0, 1.0 / 3.0, 1.0];
/// Dose left by one coat of a pen of usual strength. A choice.
pub const COAT: f64 = 0.05;
/// Light, middle and firm pressure of a pencil. A choice.
pub const PRESSURES: [f64; 3] = [0.3, 0.7, 1.0];
/// Mass of a light, a full and a heavy stroke of pastel: 39, 78 and 95 % cover. A choice.
pub const MASSES: [f64; 3] = [0.5, 1.5, 3.0];

/// Absorption one coat of the strongest pen has at most. A choice: two coats then pass one part in a hundred where the dye is strongest.
const DEEPEST_COAT: f64 = 1.6;

/// How far the dye of the library is thinned before it serves as a pen, 0..=1: it is far stronger than one coat may be.
pub fn thinned_for_a_pen(pigment: &Pigment) -> f64 {
    (DEEPEST_COAT / (COAT * pigment.peak())).min(1.0)
}

/// Most pigments in one recipe besides white or bare ground.
pub const MOST_PIGMENTS: usize = 3;
/// Most layers in one recipe, each coat, stroke or lifting counted.
pub const MOST_LAYERS: usize = 5;

/// What a hand does in one step of a form.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "kebab-case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Act {
    /// Lays a wash, coats, a pencil, a crisp stroke.
    #[default]
    Lay,
    /// Lays a stroke of pastel and rubs it into what lies beneath.
    Rub,
    /// Lifts what lies beneath: washes with a clean wet brush, ink with a colourless blender.
    Lift,
    /// Burnishes all pencil beneath.
    Burnish,
}

/// One step of a form.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub struct Laying {
    /// Parts of the pigments in each place; of washes of equal strength. None where nothing is added.
    pub parts: [u8; MOST_PIGMENTS],
    /// How much, from 1: strength of a wash, pressure of a pencil, mass of a stroke; 1 for a pen.
    pub amount: u8,
    /// How often one after the other: coats, layers of one pencil, strokes of one stick.
    pub times: u8,
    /// What is done.
    pub act: Act,
    /// The place of the pigment the hand laid too little of, for the sake of what that moves.
    pub slip: Option<u8>,
}

impl Laying {
    /// Whether something is put down.
    pub fn adds(&self) -> bool {
        matches!(self.act, Act::Lay | Act::Rub)
    }

    /// How much of what was meant the hand lays of the pigment in this place.
    fn hand(&self, place: usize) -> f64 {
        if self.slip.is_some_and(|s| usize::from(s) == place) { ERRING } else { 1.0 }
    }
}

/// What a hand makes of an amount when it errs by a fifth. Too much moves a layer about as far the other way, or less: tooth, dye and deep washes
/// saturate, and no point bears more than firm.
pub const ERRING: f64 = 0.8;
/// Ways an amount may turn out: as meant, or too little.
const OUTCOMES: usize = 2;

/// Every amount of a list as it may turn out: all as meant, all too little.
fn outcomes<const N: usize, const M: usize>(amounts: [f64; N]) -> [f64; M] {
    const { assert!(M == N * OUTCOMES) };
    std::array::from_fn(|i| amounts[i % N] * [1.0, ERRING][i / N])
}

/// The number of an amount among its [`outcomes`], for a step of one pigment.
fn outcome<const STEPS: usize>(l: &Laying) -> usize {
    usize::from(l.amount) - 1 + if l.slip.is_some() { STEPS } else { 0 }
}

/// A recipe with places for up to three pigments.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Form {
    layings: [Laying; MOST_LAYERS],
    count: u8,
    /// How much a crisp stroke picks up when that is not what is usually believed.
    pick_up: PickUp,
}

/// What is believed of the dust that a crisp stroke of pastel picks up: the number the models know least.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub enum PickUp {
    /// The usual share.
    #[default]
    Usual,
    /// None at all.
    None,
    /// The most that is believed.
    Most,
}

impl PickUp {
    /// Share of the dust beneath that joins a crisp stroke.
    fn share(self, choices: &Choices) -> f64 {
        match self {
            Self::Usual => choices.pastel.crisp,
            Self::None => 0.0,
            Self::Most => choices.pastel.crisp_at_most,
        }
    }
}

impl Form {
    fn of(layings: &[Laying]) -> Self {
        let mut all = [Laying::default(); MOST_LAYERS];
        all[..layings.len()].copy_from_slice(layings);
        Self { layings: all, count: layings.len() as u8, pick_up: PickUp::Usual }
    }

    /// The steps, first done first.
    pub fn layings(&self) -> &[Laying] {
        &self.layings[..usize::from(self.count)]
    }

    /// How many layers it takes, every coat, stroke and lifting counted.
    pub fn layers(&self) -> usize {
        self.layings().iter().map(|l| usize::from(l.times)).sum()
    }

    /// Whether every step lays, one pigment alone, and the last pigment is laid last and never before: one thing over another.
    pub fn lays_in_turn(&self) -> bool {
        let places: Vec<Option<usize>> = self.layings().iter().map(|l| l.adds().then(|| place_of(l))).collect();
        let alone = self.layings().iter().all(|l| l.adds() && l.parts.iter().filter(|n| **n > 0).count() == 1);
        alone && places.windows(2).all(|w| w[0] <= w[1])
    }

    /// How many slips a hand can make: one for every amount it measures.
    pub fn slips(&self) -> usize {
        self.layings().iter().flat_map(|l| l.parts).filter(|n| *n > 0).count()
    }

    /// The same recipe with one of its [`slips`](Self::slips), by number, that of the last step first.
    pub fn erring(&self, nth: usize) -> Self {
        let mut measured =
            self.layings().iter().enumerate().rev().flat_map(|(n, l)| {
                (0..MOST_PIGMENTS as u8).filter(move |place| l.parts[usize::from(*place)] > 0).map(move |place| (n, place))
            });
        let mut erred = *self;
        if let Some((n, place)) = measured.nth(nth) {
            erred.layings[n].slip = Some(place);
        }
        erred
    }

    /// Whether it leans on how little a crisp stroke picks up.
    pub fn asks_pick_up(&self, medium: Medium) -> bool {
        medium == Medium::SoftPastel && self.layings().iter().skip(1).any(|l| l.act == Act::Lay)
    }

    /// What is believed of what its crisp strokes pick up.
    pub fn pick_up(&self) -> PickUp {
        self.pick_up
    }

    /// The same recipe when a crisp stroke picks up more or less than is usually believed.
    pub fn picking_up(&self, pick_up: PickUp) -> Self {
        Self { pick_up, ..*self }
    }

    /// Share of the pigment in one place in all that is laid, by parts times amount.
    pub fn share(&self, place: usize) -> f64 {
        self.much(place) / (0..MOST_PIGMENTS).map(|p| self.much(p)).sum::<f64>()
    }

    /// How much of the pigment in one place is laid: parts of a layer times its amount, added up.
    pub fn much(&self, place: usize) -> f64 {
        let of = |l: &Laying| f64::from(l.amount) * f64::from(l.times) * f64::from(l.parts[place]) / f64::from(l.parts.iter().sum::<u8>());
        self.layings().iter().filter(|l| l.adds()).map(of).sum()
    }

    /// The same recipe as layers of the general model.
    pub fn layering<'a>(&self, medium: Medium, ground: &Ground, of: &[&'a Pigment]) -> Vec<Layer<'a>> {
        let choices = Choices::default();
        let mut tooth = pastel::Tooth::of(ground, &choices);
        self.layings().iter().flat_map(|l| self.layers_of(l, medium, &choices, of, &mut tooth)).collect()
    }

    fn layers_of<'a>(
        &self,
        l: &Laying,
        medium: Medium,
        choices: &Choices,
        of: &[&'a Pigment],
        tooth: &mut pastel::Tooth,
    ) -> Vec<Layer<'a>> {
        let step = usize::from(l.amount.max(1)) - 1;
        match (medium, l.act) {
            (Medium::Watercolour, Act::Lift) => vec![Layer::Lifting],
            (Medium::Marker, Act::Lift) => vec![Layer::Blender],
            (Medium::Pencil, Act::Burnish) => vec![Layer::Burnishing],
            (Medium::Oil, _) | (_, Act::Lift | Act::Burnish) => vec![],
            (Medium::Watercolour, _) => {
                let total: f64 = l.parts.iter().map(|n| f64::from(*n)).sum();
                let thickness = |p: &Pigment, n: f64| Thickness(deepest_wash(p) * WASHES[step] * n / total);
                let parts = of.iter().enumerate().map(|(i, p)| (p, f64::from(l.parts[i]) * l.hand(i))).filter(|(_, n)| *n > 0.0);
                vec![Layer::Wash { of: parts.map(|(p, n)| (*p, thickness(p, n))).collect() }]
            }
            (Medium::Marker, _) => {
                let pen = of[place_of(l)];
                let dose = Dose(COAT * l.hand(place_of(l)) * thinned_for_a_pen(pen));
                vec![Layer::Ink { of: vec![(pen, dose)], into_wet: false }; usize::from(l.times)]
            }
            (Medium::Pencil, _) => {
                let pressure = Pressure((PRESSURES[step] * l.hand(place_of(l))).min(1.0));
                vec![Layer::Pencil { of: of[place_of(l)], pressure }; usize::from(l.times)]
            }
            (Medium::SoftPastel, act) => {
                let rubbing = Rubbing(if act == Act::Rub { choices.pastel.rubbed } else { self.pick_up.share(choices) });
                let stroke = |mass| Layer::Pastel { of: vec![(of[place_of(l)], Parts(1.0))], mass: Mass(mass), rubbing };
                (0..l.times).map(|_| stroke(tooth.takes(place_of(l), MASSES[step] * l.hand(place_of(l))))).collect()
            }
        }
    }
}

/// The place of the one pigment of a step that is not mixed.
fn place_of(l: &Laying) -> usize {
    l.parts.iter().position(|n| *n > 0).unwrap_or(0)
}

/// Every form with exactly `pigments` (1..=3) pigments that `ground` takes, at most `most_layers` layers deep. Oil has none: it is mixed wet.
pub fn list(medium: Medium, ground: &Ground, pigments: usize, most_layers: usize) -> Vec<Form> {
    let all = match medium {
        Medium::Oil => Vec::new(),
        Medium::Watercolour => lists::washes(pigments),
        Medium::Marker => lists::pens(pigments),
        Medium::Pencil => lists::pencils(pigments),
        Medium::SoftPastel => lists::sticks(pigments),
    };
    all.into_iter().filter(|f| f.layers() <= most_layers && taken(medium, ground, f)).collect()
}

/// How a pigment alone is usually tried: a middle wash, one coat, firm pressure, a heavy stroke. Oil has none.
pub fn swatch(medium: Medium) -> Option<Form> {
    let amount = match medium {
        Medium::Oil => return None,
        Medium::Marker => 1,
        Medium::Watercolour | Medium::Pencil | Medium::SoftPastel => 3,
    };
    Some(Form::of(&[Laying { parts: [1, 0, 0], amount, times: 1, ..Laying::default() }]))
}

/// Whether a ground takes it.
fn taken(medium: Medium, ground: &Ground, form: &Form) -> bool {
    let added: usize = form.layings().iter().filter(|l| l.adds()).map(|l| usize::from(l.times)).sum();
    let sum = |of: &[f64]| {
        let adding = form.layings().iter().filter(|l| l.adds());
        adding.map(|l| f64::from(l.times) * of[usize::from(l.amount) - 1]).sum::<f64>()
    };
    const ROUNDING: f64 = 1e-9;
    match medium {
        Medium::Oil => false,
        Medium::Watercolour => added <= ground.takes.wash.into(),
        Medium::Marker => added <= ground.takes.ink.into() && added as f64 * COAT <= ground.ink_dose + ROUNDING,
        Medium::Pencil => {
            let choices = Choices::default().pencil;
            added <= ground.takes.pencil.into() && choices.film * sum(&PRESSURES) <= choices.most_film.min(ground.pencil_film) + ROUNDING
        }
        Medium::SoftPastel => added <= ground.takes.pastel.into() && pastel::fits(ground, form),
    }
}

#[cfg(test)]
mod tests;
