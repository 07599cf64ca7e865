//! What may be mixed is the same for all pigments, so it is listed once and kept.

use super::{Grain, Way, let_downs, parts};
use crate::{Limits, PLACES};
use lru::LruCache;
use std::num::NonZeroUsize;
use std::sync::{Arc, LazyLock, Mutex, OnceLock};

/// How many kinds of lists are kept: pieces worked on side by side differ in their mother colour and in whether they have white.
const KEPT: NonZeroUsize = NonZeroUsize::new(8).unwrap();

/// Recipes of one number of pigments, by how much white is in them: neighbours are about as light.
#[derive(Default)]
pub(super) struct List {
    pub ways: Vec<Way>,
    /// Amounts of the same, each place a row.
    pub amounts: [Vec<f32>; 4],
    /// What slips add to the amounts, of the same.
    pub slips: Vec<Vec<[f32; 4]>>,
}

impl List {
    fn of(mut ways: Vec<Way>) -> Self {
        ways.sort_by(|a, b| a.share(3).total_cmp(&b.share(3)).then(a.share(0).total_cmp(&b.share(0))));
        let single = |a: [f64; 4]| a.map(|x| x as f32);
        Self {
            amounts: std::array::from_fn(|p| ways.iter().map(|w| w.amounts[p] as f32).collect()),
            slips: ways.iter().map(|w| w.slips.iter().map(|e| single(*e)).collect()).collect(),
            ways,
        }
    }

    /// The number of every recipe.
    pub(super) fn all(&self) -> Vec<u32> {
        (0..self.ways.len() as u32).collect()
    }
}

/// What recipes depend on beside their pigments.
#[derive(Clone, Copy, PartialEq, Eq, Hash)]
struct Kind {
    white: bool,
    most_pigments: usize,
    /// The bits of the least share of the mother colour.
    mother: Option<u64>,
    grain: Grain,
}

/// Lists by number of pigments and place of the mother colour, each made when it is first asked for.
pub(super) struct Lists {
    kind: Kind,
    made: [[OnceLock<List>; PLACES]; 4],
}

impl Lists {
    /// Those of some limits, with or without white; the same ones for whoever asks for the same.
    pub(super) fn of(white: bool, limits: Limits, grain: Grain) -> Arc<Self> {
        static ALL: LazyLock<Mutex<LruCache<Kind, Arc<Lists>>>> = LazyLock::new(|| Mutex::new(LruCache::new(KEPT)));
        let kind = Kind { white, most_pigments: limits.most_pigments, mother: limits.mother.map(|(_, share)| share.to_bits()), grain };
        let mut all = ALL.lock().unwrap_or_else(|p| p.into_inner());
        all.get_or_insert(kind, || Arc::new(Self { kind, made: Default::default() })).clone()
    }

    /// The recipes of `pigments` pigments with the mother colour at a place, 0 where there is none.
    pub(super) fn list(&self, pigments: usize, mother: usize) -> &List {
        self.made[pigments][mother].get_or_init(|| self.kind.list(pigments, mother))
    }
}

impl Kind {
    fn list(self, pigments: usize, mother: usize) -> List {
        if pigments > self.most_pigments {
            return List::default();
        }
        let ways: Vec<Way> = match self.grain {
            Grain::LetDowns => let_downs::chains(pigments).iter().map(Way::of_heaps).collect(),
            Grain::Parts => parts::usual(pigments).iter().copied().map(Way::of_parts).collect(),
            Grain::Finer => parts::finer(pigments).iter().copied().map(Way::of_parts).collect(),
        };
        let holds = |w: &Way| match (self.mother, mother) {
            (Some(share), place @ 1..) if place <= pigments => w.share(place - 1) >= f64::from_bits(share) - 1e-12,
            (Some(_), _) => false,
            (None, _) => mother == 0,
        };
        List::of(ways.into_iter().filter(|w| (self.white || w.amounts[3] == 0.0) && holds(w)).collect())
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn who_asks_for_the_same_gets_the_same_lists() {
        let usual = Limits::default();
        let mothered = Limits { mother: Some((0, 0.25)), ..usual };
        let all = [Lists::of(true, usual, Grain::Parts), Lists::of(false, usual, Grain::Parts), Lists::of(true, mothered, Grain::Parts)];
        assert!(Arc::ptr_eq(&all[0], &Lists::of(true, usual, Grain::Parts)));
        let other_place = Limits { mother: Some((2, 0.25)), ..usual };
        assert!(Arc::ptr_eq(&all[2], &Lists::of(true, other_place, Grain::Parts)), "which pigment it is does not matter here");
        let [full, bare, mother] = all.map(|l| (l.list(2, 0).ways.len(), l.list(2, 1).ways.len()));
        assert!(bare.0 > 0 && bare.0 < full.0, "without white there are fewer: {bare:?} of {full:?}");
        assert_eq!((full.1, mother.0), (0, 0), "a mother colour stands at a place, and only where there is one");
        assert!(mother.1 > 0 && mother.1 < full.0);
    }
}
