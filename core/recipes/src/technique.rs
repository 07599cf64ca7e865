//! What the search knows of a medium: recipes of a few pigments and their colours. No optics.

use crate::cost::Ranking;
use crate::hand::Hand;
use crate::mix::Mix;
use lean_colour::Lab;
use lean_media::forms::Memory;
use lean_media::lanes::{Colours, LANES, Lane};

/// Most pigments one recipe holds, white not counted.
pub const MOST_IN_RECIPE: usize = 3;

/// Colours of a group's recipes in single precision, eight at a time; the last eight are filled up with one of their own.
#[derive(Default)]
pub struct Quick {
    /// Colours.
    pub colours: Vec<Colours>,
    /// Layers or heaps beyond the first of each; empty where no recipe has any.
    pub more_layers: Vec<Lane>,
    /// Amounts of what is in each, where recipes are mixed wet.
    pub amounts: Vec<[Lane; 4]>,
    /// The number of each recipe in the technique's own list, where it lists fewer for some groups.
    pub which: Vec<u32>,
    /// What is remembered of the group where recipes are laid in layers.
    pub memory: Option<Box<Memory<f32>>>,
}

impl Quick {
    /// Empties it.
    pub fn clear(&mut self) {
        self.colours.clear();
        self.more_layers.clear();
        self.amounts.clear();
        self.which.clear();
        if let Some(memory) = &mut self.memory {
            memory.forget();
        }
    }

    /// The colours of eight recipes by their numbers, counted through all eights.
    pub fn gathered(&self, of: &[usize; LANES]) -> Colours {
        let mut out = Colours::NONE;
        for (i, n) in of.iter().enumerate() {
            let (c, lane) = (&self.colours[n / LANES], n % LANES);
            (out.l[i], out.a[i], out.b[i], out.v[i]) = (c.l[lane], c.a[lane], c.b[lane], c.v[lane]);
        }
        out
    }
}

/// Recipes of a medium on a ground, with the painter's limits on what a mix may be.
///
/// A *group* is up to three pigments by ascending number. Its recipes hold every pigment of the group and no other; those of the empty group
/// are what is free: white alone, or bare ground. Both precisions list the same recipes in the same order.
pub trait Technique: Sync {
    /// How many pigments there are to make groups of.
    fn pigments(&self) -> usize;

    /// Most pigments a group with recipes of its own holds, 1..=3.
    fn largest_group(&self) -> usize {
        MOST_IN_RECIPE
    }

    /// The colours of a group's recipes in single precision, into an empty `out`.
    fn quick(&self, group: &[usize], out: &mut Quick);

    /// How far a slip of the hand moves some of the recipes that [`quick`](Self::quick) gave for the group, by their numbers there. Where it is farther
    /// than what `matters` for a recipe, any number above that may be given.
    fn quick_slips(&self, group: &[usize], of: &mut Quick, which: &[usize], matters: &[f32]) -> Vec<f32>;

    /// The recipes of a group in double precision.
    fn listed<'a>(&'a self, group: &[usize]) -> Box<dyn Listed + 'a>;

    /// The colours of a group's recipes in double precision.
    fn exact(&self, group: &[usize]) -> Vec<Lab> {
        self.listed(group).colours()
    }
}

/// The recipes of one group.
pub trait Listed: Send + Sync {
    /// How many there are.
    fn count(&self) -> usize;

    /// Their colours.
    fn colours(&self) -> Vec<Lab>;

    /// The colour of one.
    fn colour(&self, nth: usize) -> Lab;

    /// How sure a hand is of one.
    fn hand(&self, nth: usize) -> Hand;

    /// Layers or heaps beyond the first of one.
    fn more_layers(&self, nth: usize) -> f64;

    /// How many things are measured, laid, lifted or pressed for one.
    fn work(&self, nth: usize) -> usize;

    /// What a ranking charges for the hand that makes one.
    fn charge(&self, nth: usize, ranking: Ranking) -> f64 {
        let hand = if ranking.slip > 0.0 { self.hand(nth) } else { Hand { slip: 0.0, more_layers: self.more_layers(nth) } };
        ranking.of_hand(hand)
    }

    /// One of them, of the colour `lab`.
    fn mix(&self, nth: usize, lab: Lab) -> Mix;
}
