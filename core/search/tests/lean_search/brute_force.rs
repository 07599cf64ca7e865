//! Hundreds of small random questions in all media, answered by trying everything.

use crate::naive::{Price, Recipe, recipes, sets};
use lean_colour::Lab;
use lean_media::{Ground, Medium, Pigment, ground, library};
use lean_recipes::{Grain, Target};
use lean_search::demands::{Demands, HueFamily, Mother};
use lean_search::progress::Unwatched;
use lean_search::{Ask, Choice, Need, NoAnswer, SetFound, Tables, search};
use proptest::prelude::*;

/// L*, chroma, hue and weight of a target.
type Wanted = (f64, f64, f64, f64);

/// Pigments, demands and what they are for, drawn at random.
#[derive(Clone, Debug)]
struct Question {
    from: usize,
    owned: usize,
    k: usize,
    lock: bool,
    exclude: bool,
    pieces: Vec<(Vec<Wanted>, f64)>,
    price: (f64, bool, Option<f64>, bool, Option<f64>),
    grain: Grain,
    unusual: bool,
    most_in_mix: Option<u8>,
    most_layers: Option<u8>,
    mother: Option<f64>,
    string: bool,
    families_may_go: bool,
    darkest: Option<f64>,
    lightest: Option<f64>,
    ground: usize,
}

fn question() -> impl Strategy<Value = Question> {
    let colours = prop::collection::vec((8.0..92.0f64, 0.0..45.0f64, 0.0..360.0f64, 0.0..3.0f64), 1..4);
    let pieces = prop::collection::vec((colours, 0.2..2.0f64), 1..3);
    let weight = prop_oneof![Just(20.0), Just(0.0), 5.0..40.0f64];
    let laid = prop::option::weighted(0.5, 0.05..0.6f64);
    let price = (weight, any::<bool>(), prop::option::weighted(0.2, -5.0..10.0f64), any::<bool>(), laid);
    let grain = prop_oneof![Just(Grain::LetDowns), Just(Grain::Parts)];
    let up_to = |most| prop::option::weighted(0.2, 1u8..=most);
    let mixes = (up_to(3), up_to(5), prop::option::weighted(0.15, 0.1..0.6f64));
    let wholes =
        ((prop::bool::weighted(0.15), any::<bool>()), prop::option::weighted(0.15, 1.5..6.0f64), prop::option::weighted(0.15, 4.0..9.5f64));
    ((2usize..50, 4usize..6, 1usize..4, any::<bool>(), any::<bool>()), pieces, price, mixes, wholes, (0usize..50, grain, any::<bool>()))
        .prop_map(
            |(
                (from, owned, k, lock, exclude),
                pieces,
                price,
                (most_in_mix, most_layers, mother),
                ((string, families_may_go), darkest, lightest),
                (ground, grain, unusual),
            )| {
                Question {
                    from,
                    owned,
                    k,
                    lock,
                    exclude,
                    pieces,
                    price,
                    grain,
                    unusual,
                    most_in_mix,
                    most_layers,
                    mother,
                    string,
                    families_may_go,
                    darkest,
                    lightest,
                    ground,
                }
            },
        )
}

impl Question {
    fn pigments(&self) -> Vec<Pigment> {
        let coloured = library::modelled().iter().filter(|p| !p.white).skip(self.from).step_by(2).take(self.owned);
        coloured.chain(library::find("PW6")).cloned().collect()
    }

    fn grounds(&self, medium: Medium) -> Vec<Ground> {
        let fit: Vec<&Ground> = ground::shipped().iter().filter(|g| !medium.is_wet_opaque() && g.takes.wash > 0).collect();
        let pick = |i: usize| if medium.is_wet_opaque() { ground::usual(medium) } else { fit[(self.ground + 3 * i) % fit.len()].clone() };
        (0..self.pieces.len()).map(pick).collect()
    }

    fn price(&self) -> Price {
        let (value_weight, tolerant, neutral, sure, laid) = self.price;
        let (value_free, colour_free) = if tolerant { (0.25, 2.0) } else { (0.0, 0.0) };
        Price { value_weight, value_free, colour_free, neutral, sure, laid }
    }

    fn needs(&self, medium: Medium) -> Vec<Need> {
        let target = |(l, c, h, weight): &Wanted| Target { lab: Lab::from_lch(*l, *c, *h), weight: *weight };
        self.grounds(medium)
            .into_iter()
            .zip(&self.pieces)
            .map(|(ground, (colours, weight))| Need {
                ground,
                targets: colours.iter().map(target).collect(),
                cost: self.price().as_cost(),
                weight: *weight,
            })
            .collect()
    }

    fn choice(&self, pigments: &[Pigment]) -> Choice {
        let demands = Demands {
            most_in_mix: self.most_in_mix,
            most_layers: self.most_layers,
            unusual_layers: self.unusual,
            mother: self.mother.map(|share| Mother { pigment: pigments[1].id.clone(), share }),
            string: self.string,
            families_may_go: self.families_may_go,
            darkest: self.darkest,
            lightest: self.lightest.map(|l| l.max(self.darkest.unwrap_or(0.0))),
            ..Demands::default()
        };
        Choice {
            locked: if self.lock { vec![pigments[0].id.clone()] } else { vec![] },
            excluded: if self.exclude { vec![pigments[self.owned - 1].id.clone()] } else { vec![] },
            demands,
            grain: self.grain,
        }
    }
}

/// The best sets by trying all, cheapest first.
struct Tried<'a> {
    question: &'a Question,
    /// For each piece its recipes that the demands allow.
    recipes: Vec<Vec<Recipe<'a>>>,
    needs: &'a [Need],
    /// Number of a white that is laid as a stick of its own.
    white: Option<usize>,
}

impl<'a> Tried<'a> {
    fn of(question: &'a Question, medium: Medium, pigments: &'a [Pigment], needs: &'a [Need]) -> Self {
        let white = pigments.len() - 1;
        let owned = if medium.has_white() { pigments } else { &pigments[..white] };
        let allowed = |r: &Recipe| {
            let pigments_in = r.of.len();
            let bare = pigments_in == 0 && r.layers == 0;
            pigments_in <= question.most_in_mix.map_or(3, usize::from)
                && (medium.is_wet_opaque() || r.layers <= question.most_layers.map_or(5, usize::from))
                && (bare || question.mother.is_none_or(|share| r.share(1) >= share - 1e-12))
        };
        let recipes = needs
            .iter()
            .map(|n| recipes(medium, &n.ground, owned, question.grain, question.unusual).into_iter().filter(allowed).collect())
            .collect();
        Self { question, recipes, needs, white: (!medium.is_wet_opaque() && medium.has_white()).then_some(white) }
    }

    fn within<'b>(&self, set: &'b [usize], recipe: &Recipe) -> bool
    where
        'a: 'b,
    {
        recipe.of.iter().all(|i| set.contains(i) || self.white == Some(*i))
    }

    /// The best recipe of every target of every piece: what it is ranked by, and what it misses by.
    fn ranks(&self, set: &[usize]) -> Vec<Vec<(f64, f64)>> {
        let price = self.question.price();
        let best = |need: usize, wanted: Lab| {
            let open = self.recipes[need].iter().filter(|r| self.within(set, r));
            open.fold((f64::INFINITY, f64::INFINITY), |best, r| {
                let rank = price.rank(r, wanted, best.0);
                if rank < best.0 { (rank, price.of(r.lab, wanted)) } else { best }
            })
        };
        self.needs.iter().enumerate().map(|(n, need)| need.targets.iter().map(|t| best(n, t.lab)).collect()).collect()
    }

    fn cost(&self, set: &[usize]) -> f64 {
        let price = self.question.price();
        let mean = |n: &Need, ranks: Vec<(f64, f64)>| {
            let total: f64 = n.targets.iter().map(|t| t.weight).sum();
            n.targets.iter().zip(ranks).filter(|(t, _)| t.weight > 0.0).map(|(t, m)| t.weight * price.charge(m.0)).sum::<f64>() / total
        };
        let weights: f64 = self.needs.iter().map(|n| n.weight).sum();
        self.needs.iter().zip(self.ranks(set)).map(|(n, m)| n.weight * mean(n, m)).sum::<f64>() / weights
    }

    fn fulfils(&self, set: &[usize], families: &[Family]) -> bool {
        let q = self.question;
        let colours: Vec<Lab> = self.recipes[0].iter().filter(|r| self.within(set, r)).map(|r| r.lab).collect();
        let lightest = q.lightest.map(|l| l.max(q.darkest.unwrap_or(0.0)));
        let values = || colours.iter().map(|c| c.value().0);
        q.darkest.is_none_or(|d| values().any(|v| v <= d))
            && lightest.is_none_or(|l| values().any(|v| v >= l))
            && (!q.string || string(&colours))
            && families.iter().all(|f| colours.iter().any(|c| f.holds(*c)))
    }

    /// Families of the first piece that two things to choose from reach, most weight first.
    fn families(&self) -> Vec<Family> {
        let q = self.question;
        if q.families_may_go {
            return Vec::new();
        }
        let mut all = Family::of_plan(&self.needs[0].targets);
        let open = |r: &&Recipe| r.of.len() <= 2 && !(q.exclude && r.of.contains(&(q.owned - 1)));
        all.retain(|f| self.recipes[0].iter().filter(open).any(|r| f.holds(r.lab)));
        all
    }

    fn ranked(&self) -> Vec<(f64, Vec<usize>)> {
        let wanted = self.families();
        let all = self.ranked_with(&wanted);
        if !all.is_empty() || wanted.is_empty() {
            return all;
        }
        let (mut kept, mut best): (Vec<Family>, Vec<_>) = (Vec::new(), self.ranked_with(&[]));
        for family in wanted {
            let more: Vec<Family> = kept.iter().cloned().chain([family]).collect();
            let with = self.ranked_with(&more);
            if !with.is_empty() {
                (kept, best) = (more, with);
            }
        }
        best
    }

    fn ranked_with(&self, families: &[Family]) -> Vec<(f64, Vec<usize>)> {
        let q = self.question;
        let mother = q.mother.is_some();
        let mut all: Vec<(f64, Vec<usize>)> = sets(q.owned, q.k)
            .into_iter()
            .filter(|s| (!q.lock || s.contains(&0)) && (!q.exclude || !s.contains(&(q.owned - 1))) && (!mother || s.contains(&1)))
            .filter(|s| self.fulfils(s, families))
            .map(|s| (self.cost(&s), s))
            .collect();
        all.sort_by(|a, b| a.0.total_cmp(&b.0));
        all
    }
}

/// A hue family of a plan, with the values of its zones to the nearest half step and what they weigh.
#[derive(Clone)]
struct Family {
    family: HueFamily,
    at: Vec<i64>,
    weight: f64,
}

impl Family {
    fn of_plan(targets: &[Target]) -> Vec<Self> {
        let mut all: Vec<Self> = Vec::new();
        for family in HueFamily::ALL {
            let own: Vec<&Target> = targets.iter().filter(|t| t.weight > 0.0 && HueFamily::of(t.lab) == Some(family)).collect();
            if !own.is_empty() {
                let at = own.iter().map(|t| (2.0 * t.lab.value().0).round() as i64).collect();
                all.push(Self { family, at, weight: own.iter().map(|t| t.weight).sum() });
            }
        }
        all.sort_by(|a, b| b.weight.total_cmp(&a.weight));
        all
    }

    /// Whether a mix is of the family, no more than a step from one of its zones.
    fn holds(&self, mix: Lab) -> bool {
        let step = (2.0 * mix.value().0).round() as i64;
        HueFamily::of(mix) == Some(self.family) && self.at.iter().any(|at| (at - step).abs() <= 2)
    }
}

/// Three colours of one family, to the nearest half step, two steps apart in all.
fn string(colours: &[Lab]) -> bool {
    HueFamily::ALL.iter().any(|family| {
        let mut steps: Vec<i64> =
            colours.iter().filter(|c| HueFamily::of(**c) == Some(*family)).map(|c| (2.0 * c.value().0).round() as i64).collect();
        steps.sort_unstable();
        steps.dedup();
        steps.len() >= 3 && steps[steps.len() - 1] - steps[0] >= 4
    })
}

fn names(pigments: &[Pigment], set: &[usize]) -> Vec<String> {
    set.iter().map(|i| pigments[*i].id.0.clone()).collect()
}

fn agrees(medium: Medium, q: &Question) -> Result<(), TestCaseError> {
    let pigments = q.pigments();
    prop_assume!(pigments.len() == q.owned + 1);
    let needs = q.needs(medium);
    prop_assume!(needs.iter().all(|n| n.targets.iter().any(|t| t.weight > 1e-3)));
    let choice = q.choice(&pigments);
    let ask = Ask { pigments: &pigments, medium, needs: &needs, choice: &choice, sizes: q.k..=q.k };
    let got = search(&ask, &Tables::default(), &Unwatched, &|_| {});
    let tried = Tried::of(q, medium, &pigments, &needs);
    let ranked = tried.ranked();
    let locked = usize::from(q.lock) + usize::from(q.mother.is_some());
    match got {
        Ok(found) => compare(q, &tried, &ranked, &found[0], &pigments),
        Err(NoAnswer::TooManyLocked(..)) => {
            prop_assert!(locked > q.k);
            Ok(())
        }
        Err(NoAnswer::Demanding(..) | NoAnswer::Demand(_)) => {
            prop_assert!(ranked.is_empty(), "{:?} would do", ranked[0]);
            Ok(())
        }
        Err(other) => Err(TestCaseError::fail(format!("{other}"))),
    }
}

fn compare(q: &Question, tried: &Tried, ranked: &[(f64, Vec<usize>)], got: &SetFound, pigments: &[Pigment]) -> Result<(), TestCaseError> {
    prop_assert!(!ranked.is_empty(), "{:?} was found where nothing fulfils all demands", got.pigments);
    let same = |a: f64, b: f64| (a - b).abs() < 1e-5 || a == b;
    let best = ranked[0].0;
    prop_assert!(same(got.cost, best), "{} with {:?}, not {best} with {:?}", got.cost, got.pigments, names(pigments, &ranked[0].1));
    prop_assert!(got.proved_optimal);
    let reached = |f: &Family| {
        let set: Vec<usize> = got.pigments.iter().map(|p| pigments.iter().position(|q| q.id == *p).unwrap()).collect();
        tried.recipes[0].iter().any(|r| tried.within(&set, r) && f.holds(r.lab))
    };
    let mut missing: Vec<HueFamily> = Family::of_plan(&tried.needs[0].targets).iter().filter(|f| !reached(f)).map(|f| f.family).collect();
    let mut told = got.missing.clone();
    missing.sort();
    told.sort();
    prop_assert_eq!(missing, told);
    let own: Vec<usize> = got.pigments.iter().map(|p| pigments.iter().position(|q| q.id == *p).unwrap()).collect();
    prop_assert!(same(tried.cost(&own), best));
    let second = ranked.get(1).map(|r| r.0);
    prop_assert_eq!(got.runner_up_cost.is_some(), second.is_some());
    prop_assert!(got.runner_up_cost.zip(second).is_none_or(|(a, b)| same(a, b)), "{:?} is not {second:?}", got.runner_up_cost);
    // Sets on the very edge of the margin may fall to either side.
    let near = |margin: f64| ranked[1..].iter().filter(|r| r.0 <= best * 1.02 + margin).count();
    prop_assert!((near(-1e-4)..=near(1e-4)).contains(&got.near_tie_count), "{} near-ties", got.near_tie_count);
    for (dropped, price) in own.iter().zip(&got.price_of_dropping) {
        let rest: Vec<usize> = own.iter().copied().filter(|i| i != dropped).collect();
        let without = tried.cost(&rest);
        let right = if without.is_finite() { same(without - best, *price) } else { *price >= 0.0 };
        prop_assert!(right, "dropping {dropped} costs {price}, not {}", without - best);
    }
    let ranks = &tried.ranks(&own)[0];
    for (t, ((_, miss), recipe)) in ranks.iter().zip(&got.recipes).enumerate() {
        prop_assert!(same(*miss, got.misses[t]));
        let held: Vec<usize> = recipe.parts.iter().map(|p| pigments.iter().position(|q| q.id == p.pigment).unwrap()).collect();
        prop_assert!(held.iter().all(|i| own.contains(i) || *i == q.owned), "a pigment of the recipe is not in the set");
        let equal = |r: &Recipe| {
            let alike = (r.lab.l - recipe.lab.l).abs() + (r.lab.a - recipe.lab.a).abs() + (r.lab.b - recipe.lab.b).abs() < 1e-4;
            let of = r.of.iter().all(|i| held.contains(i)) && held.iter().all(|i| r.amounts[*i] > 0.0);
            alike && of
        };
        prop_assert!(tried.recipes[0].iter().any(equal), "{recipe:?} is no recipe of this medium");
    }
    for (p, serves) in own.iter().zip(&got.serves) {
        let id = &pigments[*p].id;
        let really: Vec<usize> = (0..got.recipes.len()).filter(|t| got.recipes[*t].parts.iter().any(|x| x.pigment == *id)).collect();
        prop_assert_eq!(&really, serves);
    }
    Ok(())
}

macro_rules! agreement {
    ($name:ident, $medium:expr) => {
        proptest! {
            #![proptest_config(ProptestConfig { cases: 64, max_global_rejects: 4096, ..ProptestConfig::default() })]
            #[test]
            fn $name(q in question()) {
                agrees($medium, &q)?;
            }
        }
    };
}

agreement!(oil_agrees_with_trying_everything, Medium::Oil);
agreement!(watercolour_agrees_with_trying_everything, Medium::Watercolour);
agreement!(marker_agrees_with_trying_everything, Medium::Marker);
agreement!(pencil_agrees_with_trying_everything, Medium::Pencil);
agreement!(pastel_agrees_with_trying_everything, Medium::SoftPastel);
