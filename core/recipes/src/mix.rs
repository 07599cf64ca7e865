//! A recipe with the colour it gives.

use crate::hand::Hand;
use lean_colour::Lab;
use lean_media::amount::{Dose, Mass, Pressure, Rubbing, Thickness};
use lean_media::forms::{Act, charged_layers};
use lean_media::layering::Binder;
use lean_media::{Choices, Layer, Medium, Parts, Pigment, PigmentId, Second};
use serde::{Deserialize, Serialize};

/// A touch is one part to this many of all the rest. A choice.
pub(crate) const TOUCH: f64 = 24.0;

/// Some of one pigment.
#[derive(Clone, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Part {
    /// Which pigment.
    pub pigment: PigmentId,
    /// Whole parts in a wet mix. In layers how much in all: coats; pressure or mass from 1 light to 3, as often as it is laid; the share of a wash
    /// times its strength, from 1 faint to 5.
    pub parts: u16,
    /// Only a touch: one part to twenty-four of all the rest.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub touch: bool,
}

/// One heap of a mix that is let down step by step.
#[derive(Clone, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Heap {
    /// Parts of the heap made before it; none in the first.
    pub of_last: u16,
    /// Whole parts of pigments that join.
    pub with: Vec<Part>,
}

/// One layer of a mix that is laid in layers.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct MixLayer {
    /// What it is of; several only where a wash is mixed, by parts of washes of equal strength; nothing where something is lifted or pressed.
    pub of: Vec<Part>,
    /// How it is laid, in a few words: `middle wash`, `two coats`, `firm, twice`, `full, rubbed in`, `burnished`.
    pub how: String,
    /// The second medium it is of; nothing where it is of the piece's own.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub second: Option<Second>,
    /// How many coats, layers or strokes it is.
    #[serde(default = "once")]
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub times: u8,
    /// What is done.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub act: Act,
    /// How much, as the general model takes it ([`lean_media::amount`]): the thickness of each pigment of a wash, as often as it is laid; else the
    /// dose, the pressure or the mass of each coat, layer or stroke. Empty in what was kept before it was told.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub amounts: Vec<f64>,
}

fn once() -> u8 {
    1
}

impl MixLayer {
    /// The same as layers of the general model; `find` knows the pigments. `None` when it does not know one, or no amounts were kept.
    pub fn general<'a>(&self, medium: Medium, find: &dyn Fn(&PigmentId) -> Option<&'a Pigment>) -> Option<Vec<Layer<'a>>> {
        let of: Vec<&'a Pigment> = self.of.iter().map(|p| find(&p.pigment)).collect::<Option<_>>()?;
        let adds = matches!(self.act, Act::Lay | Act::Rub);
        if adds && (of.is_empty() || self.amounts.is_empty()) {
            return None;
        }
        if let Some(second) = self.second {
            return Some(self.amounts.iter().map(|n| second.layer(of[0], *n)).collect());
        }
        let choices = Choices::default().pastel;
        let rubbing = Rubbing(if self.act == Act::Rub { choices.rubbed } else { choices.crisp });
        let each = |layer: &dyn Fn(f64) -> Layer<'a>| self.amounts.iter().map(|n| layer(*n)).collect();
        Some(match (medium, self.act) {
            (_, Act::Burnish) => vec![Layer::Burnishing],
            (Medium::Marker, Act::Lift) => vec![Layer::Blender],
            (_, Act::Lift) => vec![Layer::Lifting],
            (Medium::Watercolour, _) => {
                let wash = |amounts: &[f64]| Layer::Wash { of: of.iter().copied().zip(amounts.iter().map(|x| Thickness(*x))).collect() };
                self.amounts.chunks(of.len()).map(wash).collect()
            }
            (Medium::Marker, _) => each(&|n| Layer::Ink { of: vec![(of[0], Dose(n))], into_wet: false }),
            (Medium::Pencil, _) => each(&|n| Layer::Pencil { of: of[0], pressure: Pressure(n) }),
            (Medium::SoftPastel, _) => each(&|n| Layer::Pastel { of: vec![(of[0], Parts(1.0))], mass: Mass(n), rubbing }),
            (Medium::Oil, _) => return None,
        })
    }
}

/// A recipe and the colour it gives on its ground.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Mix {
    /// What goes in, most first. Of a mix made in heaps the whole number nearest to each ratio.
    pub parts: Vec<Part>,
    /// The heaps it is made in, first made first, where something strong is let down before it is mixed; empty otherwise.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub heaps: Vec<Heap>,
    /// Layers, first laid first; empty for a wet mix laid opaque and for bare ground.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub layers: Vec<MixLayer>,
    /// Its colour under daylight.
    pub lab: Lab,
    /// How far it is expected to move when the hand errs by a fifth, in units of cost: twenty a step of value.
    #[serde(default)]
    pub slip: f64,
}

impl Mix {
    /// Nothing laid: the ground, of this colour.
    pub fn bare(lab: Lab) -> Self {
        Self { parts: Vec::new(), heaps: Vec::new(), layers: Vec::new(), lab, slip: 0.0 }
    }

    /// The same as layers of the general model; `find` knows the pigments. `None` when it does not know one, when nothing is laid, or when no amounts were
    /// kept.
    pub fn general<'a>(&self, medium: Medium, find: &dyn Fn(&PigmentId) -> Option<&'a Pigment>) -> Option<Vec<Layer<'a>>> {
        if !self.layers.is_empty() {
            return Some(self.layers.iter().map(|l| l.general(medium, find)).collect::<Option<Vec<_>>>()?.concat());
        }
        let of = self.amounts().into_iter().map(|(id, n)| Some((find(id)?, Parts(n)))).collect::<Option<Vec<_>>>()?;
        let acrylic = of.iter().all(|(p, _)| p.second == Some(Second::Acrylic));
        let binder = if acrylic { Binder::Acrylic } else { Binder::Oil };
        (medium.is_wet_opaque() && !of.is_empty()).then(|| vec![Layer::Paint { binder, of, film: None }])
    }

    /// How much of each pigment is in it, as in `parts`; only the ratios mean something.
    pub fn amounts(&self) -> Vec<(&PigmentId, f64)> {
        if self.heaps.is_empty() {
            let whole: f64 = self.parts.iter().filter(|p| !p.touch).map(|p| f64::from(p.parts)).sum();
            let amount = |p: &Part| if p.touch { whole / TOUCH } else { f64::from(p.parts) };
            return self.parts.iter().map(|p| (&p.pigment, amount(p))).collect();
        }
        let mut last: Vec<(&PigmentId, f64)> = self.parts.iter().map(|p| (&p.pigment, 0.0)).collect();
        for heap in &self.heaps {
            let before: f64 = last.iter().map(|(_, n)| n).sum();
            let taken = if before > 0.0 { f64::from(heap.of_last) / before } else { 0.0 };
            for (id, n) in &mut last {
                let joins: f64 = heap.with.iter().filter(|p| p.pigment == **id).map(|p| f64::from(p.parts)).sum();
                *n = *n * taken + joins;
            }
        }
        last
    }

    /// How much of each pigment is laid in layers, all coats and strokes added up, in the units of [`MixLayer::amounts`]; nothing of a wet mix.
    pub fn laid(&self) -> Vec<(&PigmentId, f64)> {
        let of = |id: &PigmentId| -> f64 {
            let own = |l: &MixLayer| match l.of.as_slice() {
                [only] if only.pigment == *id => l.amounts.iter().sum(),
                of => of.iter().cycle().zip(&l.amounts).filter(|(p, _)| of.len() > 1 && p.pigment == *id).map(|(_, x)| x).sum::<f64>(),
            };
            self.layers.iter().map(own).sum()
        };
        if self.layers.is_empty() { Vec::new() } else { self.parts.iter().map(|p| (&p.pigment, of(&p.pigment))).collect() }
    }

    /// Share of one pigment in all that goes in, 0..=1.
    pub fn share_of(&self, pigment: &PigmentId) -> f64 {
        let amounts = self.amounts();
        let all: f64 = amounts.iter().map(|(_, n)| n).sum();
        amounts.iter().find(|(id, _)| *id == pigment).map_or(0.0, |(_, n)| n / all)
    }

    /// How much of the whole is taken of its first heap, 0..=1; all of a mix made in one.
    pub fn share_of_first_heap(&self) -> f64 {
        let total = |h: &Heap| f64::from(h.of_last) + h.with.iter().map(|p| f64::from(p.parts)).sum::<f64>();
        self.heaps.iter().skip(1).map(|h| f64::from(h.of_last) / total(h)).product()
    }

    /// How sure a hand is of it.
    pub fn hand(&self) -> Hand {
        Hand { slip: self.slip, more_layers: self.charged_layers().max(self.heaps.len() as f64 - 1.0).max(0.0) }
    }

    /// Layers beyond the first as they are charged.
    fn charged_layers(&self) -> f64 {
        self.layers.iter().map(|l| charged_layers(l.times)).sum::<f64>() - 1.0
    }

    /// How many layers are laid, every coat, stroke and lifting counted; none in a wet mix.
    pub fn layers(&self) -> usize {
        self.layers.iter().map(|l| usize::from(l.times)).sum()
    }

    /// Whether nothing is laid: the ground stays bare.
    pub fn is_bare_ground(&self) -> bool {
        self.parts.is_empty()
    }
}
