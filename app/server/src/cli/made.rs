//! How mixes are made and ranked, and how a recipe is printed: the same for every command.

use clap::{Args, ValueEnum};
use lean_media::Medium;
use lean_recipes::cost::Ranking;
use lean_recipes::{Grain, Heap, Mix, Part};
use lean_studio::piece::Mixing;
use serde::Serialize;
use std::collections::BTreeMap;

#[derive(Args)]
pub struct Made {
    /// How wet mixes are measured: `tints` lets what is strong down first, in octaves to 1:256; `parts` are whole parts alone, eight at most.
    #[arg(long, default_value = "tints")]
    mixes: Mixes,
    /// What recipes and sets are ranked by: `sure` also charges what a slip of the hand moves, further layers, and zones that are far off; `miss`
    /// the miss alone, which is usual with `--mixes parts`.
    #[arg(long)]
    rank: Option<Rank>,
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
    pub fn grain(&self) -> Grain {
        if self.mixes == Mixes::Parts { Grain::Parts } else { Grain::LetDowns }
    }

    /// The same for a piece.
    pub fn mixing(&self) -> Mixing {
        Mixing { parts: self.mixes == Mixes::Parts, by_miss: self.ranks() == Rank::Miss, ..Mixing::default() }
    }

    fn ranks(&self) -> Rank {
        self.rank.unwrap_or(if self.mixes == Mixes::Parts { Rank::Miss } else { Rank::Sure })
    }

    pub fn ranking(&self, medium: Medium) -> Ranking {
        if self.ranks() == Rank::Miss { Ranking::MISS } else { Ranking::usual(medium) }
    }
}

/// What goes into a mix.
#[derive(Serialize)]
pub struct RecipePrinted {
    /// Whole parts; of a mix made in heaps the nearest whole ratios.
    parts: BTreeMap<String, u16>,
    /// How much of each pigment, by volume, of mixed paint; only ratios mean something.
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
}

impl RecipePrinted {
    pub fn of(mix: &Mix) -> Self {
        let parts = |of: &[Part]| -> BTreeMap<String, u16> { of.iter().map(|p| (p.pigment.0.clone(), p.parts)).collect() };
        let amounts = mix.amounts().into_iter().map(|(id, n)| (id.0.clone(), n));
        let heap = |h: &Heap| HeapPrinted { of_last: h.of_last, with: parts(&h.with) };
        Self {
            parts: parts(&mix.parts),
            amounts: if mix.layers.is_empty() { amounts.collect() } else { BTreeMap::new() },
            heaps: mix.heaps.iter().map(heap).collect(),
            layers: mix.layers.iter().map(|l| Layer { of: parts(&l.of), how: l.how.clone() }).collect(),
            slip: mix.slip / lean_recipes::cost::STEP,
        }
    }
}
