//! Sets of a dozen and more, of sticks, pens and pencils that are laid once or one over another.

use crate::asking::need;
use lean_colour::Lab;
use lean_media::{Medium, Parts, Pigment, PigmentId, library};
use lean_recipes::cost::Ranking;
use lean_recipes::{Cost, Target};
use lean_search::progress::{Progress, Unwatched};
use lean_search::{Ask, Choice, Demands, Need, NoAnswer, SetFound, Tables, search};
use std::ops::RangeInclusive;

const HUES: [&str; 10] = ["PB29", "PY43", "PR101", "PG7", "PY154", "PR122", "PBr7-burnt-umber", "PV23", "PG17", "PBk9"];

/// Sticks: ten hues in so many values, and white.
fn sticks(values: usize) -> Vec<Pigment> {
    let (white, black) = (library::find("PW6").unwrap(), library::find("PBk9").unwrap());
    let one = |(id, step): (&str, usize)| {
        let parts = [(library::find(id).unwrap(), Parts(1.0)), (white, Parts(step as f64 * 2.5)), (black, Parts(0.1))];
        Pigment::blended(PigmentId(format!("{id}-{step}")), format!("{id} {step}"), &parts)
    };
    let all = HUES.iter().flat_map(|id| (0..values).map(move |step| (*id, step)));
    all.map(one).chain([white.clone()]).collect()
}

fn wanted(n: usize) -> Vec<Target> {
    let one = |i: usize| Target {
        lab: Lab::from_lch(20.0 + 65.0 * i as f64 / n as f64, 8.0 + 4.0 * (i % 6) as f64, 137.5 * i as f64),
        weight: 1.0,
    };
    (0..n).map(one).collect()
}

fn pastel(pigments: &[Pigment], targets: usize, locked: &[&str], sizes: RangeInclusive<usize>) -> Result<Vec<SetFound>, NoAnswer> {
    let cost = Cost { ranking: Ranking::usual(Medium::SoftPastel), ..Cost::default() };
    let needs = [Need { cost, ..need(Medium::SoftPastel, wanted(targets)) }];
    let demands = Demands { families_may_go: true, ..Demands::default() };
    let choice = Choice { locked: locked.iter().map(|id| PigmentId::from(*id)).collect(), demands, ..Choice::default() };
    let ask = Ask { pigments, medium: Medium::SoftPastel, needs: &needs, choice: &choice, sizes };
    search(&ask, &Tables::default(), &Unwatched, &|_| {})
}

/// The least cost of any set of `k`, each tried as the only one that may be had.
fn tried(pigments: &[Pigment], targets: usize, k: usize) -> f64 {
    let coloured: Vec<&Pigment> = pigments.iter().filter(|p| !p.white).collect();
    let cost = |bits: u32| {
        let of: Vec<Pigment> = coloured.iter().enumerate().filter(|(i, _)| bits >> i & 1 == 1).map(|(_, p)| (*p).clone()).collect();
        let with_white: Vec<Pigment> = of.into_iter().chain(pigments.iter().filter(|p| p.white).cloned()).collect();
        pastel(&with_white, targets, &[], k..=k).unwrap()[0].cost
    };
    (0..1u32 << coloured.len()).filter(|bits| bits.count_ones() as usize == k).map(cost).fold(f64::INFINITY, f64::min)
}

#[test]
fn sets_beyond_eight_of_a_small_box_are_those_of_trying_all() {
    let owned: Vec<Pigment> = sticks(2)
        .into_iter()
        .filter(|p| !["PY154-0", "PR122-0", "PG7-1", "PV23-1", "PY43-1", "PG17-1", "PR101-1", "PBk9-0"].contains(&p.id.0.as_str()))
        .collect();
    let coloured = owned.iter().filter(|p| !p.white).count();
    assert_eq!(coloured, 12);
    for found in pastel(&owned, 10, &[], 9..=11).unwrap() {
        let best = tried(&owned, 10, found.pigments.len());
        assert!((found.cost - best).abs() < 1e-6, "{} is not {best}", found.cost);
    }
}

#[test]
fn a_bound_is_told_and_never_above_what_a_larger_search_finds() {
    let owned = sticks(6);
    let found = pastel(&owned, 14, &[], 2..=16).unwrap();
    assert_eq!(found.iter().map(|s| s.pigments.len()).collect::<Vec<_>>(), (2..=16).collect::<Vec<_>>());
    for pair in found.windows(2) {
        assert!(pair[1].cost <= pair[0].cost + 1e-9, "one more stick never makes it worse");
    }
    for set in &found {
        let k = set.pigments.len();
        assert!(k > 8 || set.proved_optimal, "size {k}");
        assert!(set.proved_optimal || set.within.is_some_and(|w| w <= 0.01), "size {k} is within {:?}", set.within);
    }
}

#[test]
fn what_is_locked_is_in_every_large_set_and_whites_are_not_counted() {
    let owned = sticks(4);
    for set in pastel(&owned, 12, &["PG17-0", "PV23-3"], 9..=12).unwrap() {
        let has = |id: &str| set.pigments.iter().any(|p| p.0 == id);
        assert!(has("PG17-0") && has("PV23-3") && !has("PW6"));
        assert_eq!(set.recipes.len(), 12);
        assert!(set.recipes.iter().all(|m| m.layers.len() <= 2), "one stick, or one over another");
    }
}

#[test]
fn oil_has_eight_watercolour_twelve_and_sticks_twenty_four() {
    for (medium, most) in
        [(Medium::Oil, 8), (Medium::Watercolour, 12), (Medium::SoftPastel, 24), (Medium::Marker, 24), (Medium::Pencil, 24)]
    {
        assert_eq!(lean_search::most_in_set(medium), most);
        let needs = [need(medium, wanted(2))];
        let ask = Ask { pigments: &sticks(1), medium, needs: &needs, choice: &Choice::default(), sizes: 1..=most + 1 };
        assert_eq!(search(&ask, &Tables::default(), &Unwatched, &|_| {}), Err(NoAnswer::Sizes(1, most + 1, most)));
    }
}

/// Nobody wants it any more once the first large set is asked for.
struct Leaves(std::sync::atomic::AtomicUsize);

impl Progress for Leaves {
    fn report(&self, _: f64) {}
    fn is_cancelled(&self) -> bool {
        self.0.load(std::sync::atomic::Ordering::Relaxed) >= 8
    }
}

#[test]
fn a_search_for_large_sets_can_be_cancelled() {
    let owned = sticks(6);
    let needs = [need(Medium::SoftPastel, wanted(14))];
    let ask = Ask { pigments: &owned, medium: Medium::SoftPastel, needs: &needs, choice: &Choice::default(), sizes: 8..=24 };
    let leaves = Leaves(0.into());
    let seen = |set: &SetFound| leaves.0.store(set.pigments.len(), std::sync::atomic::Ordering::Relaxed);
    assert_eq!(search(&ask, &Tables::default(), &leaves, &seen), Err(NoAnswer::Cancelled));
}
