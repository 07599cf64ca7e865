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
mod usual;
mod wash;

pub use prepared::{Memory, Prepared};
pub use usual::{Class, Nature, most_pigments};
pub use wash::{THICKEST_WASH, deepest_wash, washes};

use crate::amount::{Dose, Mass, Pressure, Rubbing, Thickness};
use crate::choices::{Choices, InkChoices};
use crate::ground::Ground;
use crate::layering::Layer;
use crate::medium::Medium;
use crate::pens::{COAT, strength_in_a_pen};
use crate::pigment::{Parts, Pigment};
use serde::{Deserialize, Serialize};

/// Number of strengths of a wash: faint, thin, middle, strong and deep, see [`washes`].
pub const STRENGTHS: usize = 5;
/// Light, middle and firm pressure of a pencil. A choice.
pub(crate) const PRESSURES: [f64; 3] = [0.3, 0.7, 1.0];
/// Mass of a light, a full and a heavy stroke of pastel: 39, 78 and 95 % cover. A choice.
pub const MASSES: [f64; 3] = [0.5, 1.5, 3.0];

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
    /// Number of washes, coats, layers of one pencil or strokes of one stick, one after the other.
    pub times: u8,
    /// What is done.
    pub act: Act,
    /// Place of the pigment that the hand lays too little of by a fifth, or [everything](EVERYTHING) by a tenth; the slip is measured so.
    pub slip: Option<u8>,
}

/// The slip of a hand that lays a tenth less of all there is: more water, a harder point, a drier pen than was meant.
const EVERYTHING: u8 = MOST_PIGMENTS as u8;

impl Laying {
    /// Whether something is put down.
    pub fn adds(&self) -> bool {
        matches!(self.act, Act::Lay | Act::Rub)
    }

    /// How much of what was meant the hand lays of the pigment in this place.
    fn hand(&self, place: usize) -> f64 {
        match self.slip {
            Some(EVERYTHING) => ERRING_IN_ALL,
            Some(slip) if usize::from(slip) == place => ERRING,
            _ => 1.0,
        }
    }
}

/// What a hand makes of an amount when it errs by a fifth. Too much moves a layer about as far the other way, or less: tooth, dye and deep washes
/// saturate, and no point bears more than firm.
pub const ERRING: f64 = 0.8;
/// Factor on every amount where a whole recipe is laid too thin, too dry or with a light hand.
pub(crate) const ERRING_IN_ALL: f64 = 0.9;
/// Ways an amount may turn out: as meant, too little, a tenth less with everything else.
const OUTCOMES: usize = 3;

/// Every amount of a list as it may turn out: all as meant, all too little, all a tenth less.
fn outcomes<const N: usize, const M: usize>(amounts: [f64; N]) -> [f64; M] {
    const { assert!(M == N * OUTCOMES) };
    std::array::from_fn(|i| amounts[i % N] * [1.0, ERRING, ERRING_IN_ALL][i / N])
}

/// The number of an amount among its [`outcomes`], for a step of one pigment.
fn outcome<const STEPS: usize>(l: &Laying) -> usize {
    let turned_out = match l.slip {
        None => 0,
        Some(EVERYTHING) => 2,
        Some(_) => 1,
    };
    usize::from(l.amount) - 1 + turned_out * STEPS
}

/// A recipe with places for up to three pigments.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Form {
    layings: [Laying; MOST_LAYERS],
    count: u8,
    /// Share that a layer takes of what lies beneath: the usual, least or most one.
    taking: Taking,
}

/// Share that a layer takes of what lies beneath: of the dust under a crisp stroke of pastel, of the ink under a later pen. The models know no
/// number less well, so recipes are also judged at the least and the most that is likely.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub enum Taking {
    /// The usual share.
    #[default]
    Usual,
    /// The least that is believed.
    Least,
    /// The most that is believed.
    Most,
}

impl Taking {
    /// Share of the dust beneath that joins a crisp stroke.
    fn dust(self, choices: &Choices) -> f64 {
        match self {
            Self::Usual => choices.pastel.crisp,
            Self::Least => 0.0,
            Self::Most => choices.pastel.crisp_at_most,
        }
    }

    /// Share of the ink beneath that a later pen carries off.
    fn ink(self, choices: &InkChoices) -> f64 {
        match self {
            Self::Usual => choices.redissolved,
            Self::Least => choices.redissolved_at_least,
            Self::Most => choices.redissolved_at_most,
        }
    }
}

/// Layers that a further coat of the same thing is charged as. A choice: it is the same stick in the same hand.
const AGAIN: f64 = 0.35;

/// Layers that so many coats of one thing are charged as, 1 and more.
pub fn charged_layers(times: u8) -> f64 {
    1.0 + AGAIN * f64::from(times.saturating_sub(1))
}

impl Form {
    fn of(layings: &[Laying]) -> Self {
        let mut all = [Laying::default(); MOST_LAYERS];
        all[..layings.len()].copy_from_slice(layings);
        Self { layings: all, count: layings.len() as u8, taking: Taking::Usual }
    }

    /// A form that a hand laid, first laid first; `None` for nothing, or for more than [`MOST_LAYERS`] steps.
    pub fn laid(steps: &[Laying]) -> Option<Self> {
        (1..=MOST_LAYERS).contains(&steps.len()).then(|| Self::of(steps))
    }

    /// The steps, first done first.
    pub fn layings(&self) -> &[Laying] {
        &self.layings[..usize::from(self.count)]
    }

    /// How many layers it takes, every coat, stroke and lifting counted.
    pub fn layers(&self) -> usize {
        self.layings().iter().map(|l| usize::from(l.times)).sum()
    }

    /// Layers it is charged as, 1 and more: a further coat of the same thing is less than another thing over it.
    pub fn charged_layers(&self) -> f64 {
        self.layings().iter().map(|l| charged_layers(l.times)).sum()
    }

    /// Whether every step lays, one pigment alone, and the last pigment is laid last and never before: one thing over another.
    pub fn lays_in_turn(&self) -> bool {
        let places: Vec<Option<usize>> = self.layings().iter().map(|l| l.adds().then(|| place_of(l))).collect();
        let alone = self.layings().iter().all(|l| l.adds() && l.parts.iter().filter(|n| **n > 0).count() == 1);
        alone && places.windows(2).all(|w| w[0] <= w[1])
    }

    /// How many slips a hand can make: one for every amount it measures, and one of [everything](ERRING_IN_ALL) where there are several layers.
    pub fn slips(&self) -> usize {
        self.measured() + usize::from(self.layings().iter().filter(|l| l.adds()).count() > 1)
    }

    /// How many amounts a hand measures.
    fn measured(&self) -> usize {
        self.layings().iter().flat_map(|l| l.parts).filter(|n| *n > 0).count()
    }

    /// The same recipe with one of its [`slips`](Self::slips), by number, that of the last step first.
    pub fn erring(&self, nth: usize) -> Self {
        let mut erred = *self;
        if nth >= self.measured() {
            erred.layings.iter_mut().for_each(|l| l.slip = Some(EVERYTHING));
            return erred;
        }
        let mut measured =
            self.layings().iter().enumerate().rev().flat_map(|(n, l)| {
                (0..MOST_PIGMENTS as u8).filter(move |place| l.parts[usize::from(*place)] > 0).map(move |place| (n, place))
            });
        if let Some((n, place)) = measured.nth(nth) {
            erred.layings[n].slip = Some(place);
        }
        erred
    }

    /// Whether it leans on how much a layer takes from what lies beneath.
    pub fn leans_on_taking(&self, medium: Medium) -> bool {
        let later = self.layings().iter().skip(1);
        match medium {
            Medium::SoftPastel => later.into_iter().any(|l| l.act == Act::Lay),
            Medium::Marker => later.into_iter().any(|l| l.adds() && place_of(l) != place_of(&self.layings[0])),
            Medium::Oil | Medium::Watercolour | Medium::Pencil => false,
        }
    }

    /// Share that its layers take of what lies beneath: the usual, least or most one.
    pub fn taking(&self) -> Taking {
        self.taking
    }

    /// The same recipe when layers take more or less from what lies beneath than is usually believed.
    pub fn with_taking(&self, taking: Taking) -> Self {
        Self { taking, ..*self }
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
                let thickness = |p: &Pigment, n: f64| Thickness(washes(p)[step] * n / total);
                let parts = of.iter().enumerate().map(|(i, p)| (p, f64::from(l.parts[i]) * l.hand(i))).filter(|(_, n)| *n > 0.0);
                vec![Layer::Wash { of: parts.map(|(p, n)| (*p, thickness(p, n))).collect() }; usize::from(l.times)]
            }
            (Medium::Marker, _) => {
                let pen = of[place_of(l)];
                let dose = Dose(COAT * l.hand(place_of(l)) * strength_in_a_pen(pen));
                vec![Layer::Ink { of: vec![(pen, dose)], into_wet: false }; usize::from(l.times)]
            }
            (Medium::Pencil, _) => {
                let pressure = Pressure((PRESSURES[step] * l.hand(place_of(l))).min(1.0));
                vec![Layer::Pencil { of: of[place_of(l)], pressure }; usize::from(l.times)]
            }
            (Medium::SoftPastel, act) => {
                let rubbing = Rubbing(if act == Act::Rub { choices.pastel.rubbed } else { self.taking.dust(choices) });
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
