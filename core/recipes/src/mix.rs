//! A recipe with the colour it gives.

use crate::craft::Hand;
use lean_colour::Lab;
use lean_media::PigmentId;
use serde::{Deserialize, Serialize};

/// Some of one pigment.
#[derive(Clone, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Part {
    /// Which pigment.
    pub pigment: PigmentId,
    /// Whole parts in a wet mix. In layers how much in all: coats, pressure or mass from 1 light to 3, parts of a wash times its strength.
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
#[derive(Clone, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct MixLayer {
    /// What it is of; several only where a wash is mixed.
    pub of: Vec<Part>,
    /// How it is laid, in a few words: `middle wash`, `two coats`, `firm`, `full, rubbed in`.
    pub how: String,
}

/// A recipe and the colour it gives on its ground.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Mix {
    /// What goes in, most first. Of a mix made in heaps the whole number nearest to each ratio.
    pub parts: Vec<Part>,
    /// The heaps it is made in, first made first, where something strong is let down before it is mixed; empty otherwise.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    #[cfg_attr(feature = "schema", schema(required = true))]
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

    /// How much of each pigment is in it, as in `parts`; only the ratios mean something.
    pub fn amounts(&self) -> Vec<(&PigmentId, f64)> {
        if self.heaps.is_empty() {
            let whole: f64 = self.parts.iter().filter(|p| !p.touch).map(|p| f64::from(p.parts)).sum();
            let amount = |p: &Part| if p.touch { whole / crate::wet::parts::TOUCH } else { f64::from(p.parts) };
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
        Hand { slip: self.slip, more_layers: self.layers.len().max(self.heaps.len()).saturating_sub(1) as u8 }
    }

    /// Whether nothing is laid: the ground stays bare.
    pub fn is_bare_ground(&self) -> bool {
        self.parts.is_empty()
    }
}
