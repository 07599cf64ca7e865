//! How mixes are made and ranked, and how a recipe is printed: the same for every command.

use clap::{Args, ValueEnum};
use lean_colour::{Lab, Steps};
use lean_media::forms::Act;
use lean_media::{Choices, Medium};
use lean_piece::Mixing;
use lean_piece::paint_box::PaintBox;
use lean_recipes::cost::Ranking;
use lean_recipes::{Grain, Heap, Mix, MixLayer, Part};
use serde::Serialize;
use std::collections::BTreeMap;

#[derive(Args)]
pub(super) struct Made {
    /// How wet mixes are measured: `tints` lets what is strong down first, in octaves to 1:256; `parts` are whole parts alone, eight at most.
    #[arg(long, default_value = "tints")]
    mixes: Mixes,
    /// What recipes and sets are ranked by: `sure` also charges what a slip of the hand moves, further layers, and zones that are far off; `miss`
    /// the miss alone, which is usual with `--mixes parts`.
    #[arg(long)]
    rank: Option<Rank>,
    /// Steps of value a second layer is charged as where sticks, pens and pencils are chosen: 0 for few in many layers, 0.5 for more laid once. What is
    /// usual in the medium when left out.
    #[arg(long)]
    layer_cost: Option<f64>,
}

#[derive(Clone, Copy, PartialEq, ValueEnum)]
enum Mixes {
    Parts,
    Tints,
}

#[derive(Clone, Copy, PartialEq, ValueEnum)]
enum Rank {
    Sure,
    Miss,
}

impl Made {
    pub(super) fn grain(&self) -> Grain {
        if self.mixes == Mixes::Parts { Grain::Parts } else { Grain::LetDowns }
    }

    /// The same for a piece.
    pub(super) fn mixing(&self) -> Mixing {
        Mixing { parts: self.mixes == Mixes::Parts, by_miss: self.ranks() == Rank::Miss, ..Mixing::default() }
    }

    fn ranks(&self) -> Rank {
        self.rank.unwrap_or(if self.mixes == Mixes::Parts { Rank::Miss } else { Rank::Sure })
    }

    /// Whether hue families of the plan may be lost: whole parts are searched as they always were.
    pub(super) fn families_may_go(&self) -> bool {
        self.mixes == Mixes::Parts
    }

    pub(super) fn ranking(&self, medium: Medium) -> Result<Ranking, String> {
        if let Some(steps) = self.layer_cost.filter(|s| !(0.0..=2.0).contains(s)) {
            return Err(format!("--layer-cost {steps}: it may be 0 to 2 steps of value"));
        }
        if self.ranks() == Rank::Miss {
            return Ok(Ranking::MISS);
        }
        Ok(self.layer_cost().filter(|_| medium.is_chosen()).map_or_else(|| Ranking::usual(medium), |steps| Ranking::layered(Steps(steps))))
    }

    /// Charge for a second layer in steps of value, if it was given.
    pub(super) fn layer_cost(&self) -> Option<f64> {
        self.layer_cost
    }

    /// Pigments in one recipe where a third layer has to gain something.
    pub(super) fn most_in_mix(&self, medium: Medium) -> Option<u8> {
        self.ranking(medium).ok().filter(|r| medium.is_chosen() && r.third > 0.0).map(|_| 2)
    }
}

/// What goes into a mix.
#[derive(Serialize)]
pub(crate) struct RecipePrinted {
    /// Whole parts; of a mix made in heaps the nearest whole ratios.
    parts: BTreeMap<String, u16>,
    /// How much of each pigment: of mixed paint by volume, only ratios mean something; in layers all that is laid of it, in the units of the layers.
    #[serde(skip_serializing_if = "BTreeMap::is_empty")]
    amounts: BTreeMap<String, f64>,
    /// Heaps made one after the other where something is let down.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    heaps: Vec<HeapPrinted>,
    /// Layers, first laid first.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    layers: Vec<Layer>,
    /// How far a slip of the hand moves it, in steps of value.
    slip: f64,
}

#[derive(Serialize)]
struct HeapPrinted {
    of_last: u16,
    with: BTreeMap<String, u16>,
}

#[derive(Serialize)]
struct Layer {
    of: BTreeMap<String, u16>,
    how: String,
    act: Act,
    /// Thickness of each pigment of a wash in the order of `of`; else dose, pressure or mass of each coat, layer or stroke.
    amounts: Vec<f64>,
    /// Share of the pastel beneath that joins each stroke.
    #[serde(skip_serializing_if = "Option::is_none")]
    rubbing: Option<f64>,
}

impl Layer {
    fn of(l: &MixLayer, pastel: bool) -> Self {
        // By id, as `of` is printed.
        let by_id = |once: &[f64]| {
            let mut of: Vec<(&Part, f64)> = l.of.iter().zip(once.iter().copied()).collect();
            of.sort_by(|a, b| a.0.pigment.cmp(&b.0.pigment));
            of.into_iter().map(|(_, x)| x).collect::<Vec<f64>>()
        };
        let amounts = if l.of.len() > 1 { l.amounts.chunks(l.of.len()).flat_map(by_id).collect() } else { l.amounts.clone() };
        let choices = Choices::default().pastel;
        let rubbing = pastel.then_some(if l.act == Act::Rub { choices.rubbed } else { choices.crisp });
        Self { of: l.of.iter().map(|p| (p.pigment.0.clone(), p.parts)).collect(), how: l.how.clone(), act: l.act, amounts, rubbing }
    }
}

impl RecipePrinted {
    pub(super) fn of(mix: &Mix, medium: Medium) -> Self {
        let parts = |of: &[Part]| -> BTreeMap<String, u16> { of.iter().map(|p| (p.pigment.0.clone(), p.parts)).collect() };
        let amounts = if mix.layers.is_empty() { mix.amounts() } else { mix.laid() };
        let heap = |h: &Heap| HeapPrinted { of_last: h.of_last, with: parts(&h.with) };
        Self {
            parts: parts(&mix.parts),
            amounts: amounts.into_iter().map(|(id, n)| (id.0.clone(), n)).collect(),
            heaps: mix.heaps.iter().map(heap).collect(),
            layers: mix.layers.iter().map(|l| Layer::of(l, medium == Medium::SoftPastel)).collect(),
            slip: mix.slip / lean_recipes::cost::STEP,
        }
    }
}

/// A colour as it is printed.
#[derive(Serialize)]
pub(super) struct Colour {
    lab: [f64; 3],
}

impl Colour {
    pub(super) fn of(lab: Lab) -> Self {
        Self { lab: [lab.l, lab.a, lab.b] }
    }
}

/// A recipe in words and in amounts.
#[derive(Serialize)]
pub(super) struct Recipe {
    text: String,
    #[serde(flatten)]
    made: RecipePrinted,
}

/// A mix of a Box as a recipe.
pub(super) fn recipe(paint_box: &PaintBox, mix: &Mix) -> Recipe {
    Recipe { text: lean_plan::studies::sheet::recipe_text(paint_box, mix), made: RecipePrinted::of(mix, paint_box.medium) }
}
