//! Recipes kept from one question to the next: a mark that is dragged asks for the same ones many times a second.

use super::exact::Recipes;
use lean_media::{Ground, Medium, Pigment};
use lean_recipes::{Grain, Limits, Technique, technique};
use lru::LruCache;
use self_cell::self_cell;
use sha2::{Digest, Sha256};
use std::num::NonZeroUsize;
use std::sync::{Arc, Mutex};

/// How many lists are kept. A list of six pigments has some ten thousand recipes and takes a few megabytes.
const LISTS: NonZeroUsize = NonZeroUsize::new(12).expect("not zero");

/// What decides which recipes there are.
#[derive(Clone, Debug, PartialEq)]
pub struct Palette {
    /// How they are laid.
    pub medium: Medium,
    /// On what.
    pub ground: Ground,
    /// The pigments, numbered by their order.
    pub pigments: Vec<Pigment>,
    /// White that is at hand, where the medium has it.
    pub white: Option<Pigment>,
    /// What a mix may be.
    pub limits: Limits,
    /// In which parts.
    pub grain: Grain,
}

impl Palette {
    /// The recipes a hand can make of it.
    pub fn technique(&self) -> Box<dyn Technique + Send> {
        let pigments: Vec<&Pigment> = self.pigments.iter().collect();
        technique(self.medium, &self.ground, &pigments, self.white.as_ref(), self.limits, self.grain)
    }

    /// Tells it apart from every other by all that goes into a colour.
    fn digest(&self) -> [u8; 32] {
        let Limits { most_pigments, most_layers, mother, unusual } = self.limits;
        let of = (self.medium, &self.ground, &self.pigments, &self.white, (most_pigments, most_layers, mother, unusual), self.grain);
        // Numbers and names always have a form; what had none would be told apart by its error.
        Sha256::digest(serde_json::to_vec(&of).unwrap_or_else(|e| e.to_string().into_bytes())).into()
    }
}

type Owner = Box<dyn Technique + Send>;

self_cell! {
    /// A technique with all its recipes.
    pub struct Listing {
        owner: Owner,

        #[covariant]
        dependent: Recipes,
    }
}

impl Listing {
    /// Lists every recipe of a palette.
    pub fn all(palette: &Palette) -> Self {
        Self::new(palette.technique(), |technique| Recipes::of(technique.as_ref()))
    }

    /// Its recipes.
    pub fn recipes(&self) -> &Recipes<'_> {
        self.borrow_dependent()
    }
}

/// The lists asked for last, a dozen at most, for any number of painters at once.
///
/// ```
/// use lean_media::{Medium, ground, library};
/// use lean_recipes::{Grain, Limits};
/// use lean_search::{Palette, RecipeLists};
///
/// let blue = library::find("PB29").unwrap().clone();
/// let of = Palette { medium: Medium::Watercolour, ground: ground::usual(Medium::Watercolour), pigments: vec![blue], white: None,
///     limits: Limits::default(), grain: Grain::default() };
/// let lists = RecipeLists::default();
/// assert_eq!(lists.of(&of).recipes().colours().count(), lists.of(&of).recipes().colours().count());
/// ```
pub struct RecipeLists(Mutex<LruCache<[u8; 32], Arc<Listing>>>);

impl Default for RecipeLists {
    fn default() -> Self {
        Self(Mutex::new(LruCache::new(LISTS)))
    }
}

impl RecipeLists {
    /// The recipes of a palette, listed now or before.
    pub fn of(&self, palette: &Palette) -> Arc<Listing> {
        let digest = palette.digest();
        if let Some(known) = self.lock().get(&digest) {
            return known.clone();
        }
        // Not under the lock: another painter's list must not wait for this one. Two who ask for the same at once both list it.
        let listed = Arc::new(Listing::all(palette));
        self.lock().put(digest, listed.clone());
        listed
    }

    fn lock(&self) -> std::sync::MutexGuard<'_, LruCache<[u8; 32], Arc<Listing>>> {
        self.0.lock().unwrap_or_else(|poisoned| poisoned.into_inner())
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use lean_colour::Lab;
    use lean_media::{ground, library};
    use lean_recipes::Cost;

    fn palette(ids: &[&str]) -> Palette {
        Palette {
            medium: Medium::Oil,
            ground: ground::usual(Medium::Oil),
            pigments: ids.iter().map(|id| library::find(id).unwrap().clone()).collect(),
            white: library::find("PW6").cloned(),
            limits: Limits::default(),
            grain: Grain::Parts,
        }
    }

    #[test]
    fn what_was_listed_is_not_listed_again_until_something_changes() {
        let lists = RecipeLists::default();
        let of = palette(&["PB29", "PY43"]);
        let first = lists.of(&of);
        assert!(Arc::ptr_eq(&first, &lists.of(&of)));
        let mut stronger = of.clone();
        stronger.pigments[0].k[7] *= 1.01;
        let mut fewer = of.clone();
        fewer.limits.most_pigments = 1;
        let others = [palette(&["PY43", "PB29"]), stronger, fewer, Palette { white: None, ..of.clone() }];
        assert!(others.iter().all(|o| !Arc::ptr_eq(&first, &lists.of(o))));
    }

    #[test]
    fn an_answer_does_not_depend_on_what_was_asked_before() {
        let lists = RecipeLists::default();
        let of = palette(&["PB29", "PY43", "PR101"]);
        let wishes = [Lab::new(45.0, 20.0, 15.0), Lab::new(60.0, -5.0, -20.0), Lab::new(45.0, 20.0, 15.0)];
        for cost in [Cost::default(), Cost { hold: None, ..Cost::default() }, Cost::default()] {
            for lab in wishes {
                let fresh = Listing::all(&of);
                assert_eq!(lists.of(&of).recipes().best(lab, cost), fresh.recipes().best(lab, cost));
            }
        }
    }

    #[test]
    fn no_more_than_a_dozen_are_kept() {
        let lists = RecipeLists::default();
        let mut of = palette(&["PB29"]);
        let first = lists.of(&of);
        for n in 0..LISTS.get() {
            of.pigments[0].k[0] = 1.0 + n as f64;
            lists.of(&of);
        }
        assert!(Arc::strong_count(&first) == 1, "the list asked for longest ago is let go");
    }
}
