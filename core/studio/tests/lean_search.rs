//! The lean search against a solved instance, against an independent brute force, and under a painter's constraints.

use lean_colour::difference::ciede2000;
use lean_colour::{Lab, Reflectance};
use lean_media::{Paint, Parts, Pigment, PigmentId, Provenance, library, opaque::OIL};
use lean_studio::lean::search::NoAnswer;
use lean_studio::lean::{Choice, Cost, Target, search};
use lean_studio::progress::{Progress, Unwatched};
use proptest::prelude::*;
use std::sync::atomic::{AtomicUsize, Ordering};

fn pigment(id: &str, k: Vec<f64>, s: Vec<f64>, white: bool) -> Pigment {
    Pigment {
        id: id.into(),
        name: id.into(),
        colour_index: vec![],
        k,
        s,
        white,
        lightfastness: String::new(),
        hazard: String::new(),
        staining: false,
        granulating: false,
        provenance: Provenance::Given,
    }
}

#[test]
fn the_solved_instance_is_solved_to_the_exact_sets_and_costs() {
    let file: serde_json::Value = serde_json::from_str(include_str!("data/solved_search.json")).unwrap();
    let numbers = |v: &serde_json::Value| -> Vec<f64> { v.as_array().unwrap().iter().map(|x| x.as_f64().unwrap()).collect() };
    for case in file["cases"].as_array().unwrap() {
        let read = |p: &serde_json::Value, white| pigment(p["id"].as_str().unwrap(), numbers(&p["K"]), numbers(&p["S"]), white);
        let mut owned: Vec<Pigment> = case["pigments"].as_array().unwrap().iter().map(|p| read(p, false)).collect();
        owned.push(read(&case["white"], true));
        let targets: Vec<Target> = case["targets_lab_D65"]
            .as_array()
            .unwrap()
            .iter()
            .zip(numbers(&case["weights"]))
            .map(|(l, weight)| {
                let l = numbers(l);
                Target { lab: Lab::new(l[0], l[1], l[2]), weight }
            })
            .collect();
        for expected in case["expected"].as_array().unwrap() {
            let k = expected["k"].as_u64().unwrap() as usize;
            let got = search(&owned, &targets, &Choice::default(), k..=k, Cost::default(), &Unwatched, &|_| {}).unwrap();
            let got = &got[0];
            assert!((got.cost - expected["cost"].as_f64().unwrap()).abs() < 1e-5, "k={k}: {} is not {}", got.cost, expected["cost"]);
            assert!((got.runner_up_cost.unwrap() - expected["runner_up_cost"].as_f64().unwrap()).abs() < 1e-5);
            let ids: Vec<&str> = expected["ids"].as_array().unwrap().iter().map(|i| i.as_str().unwrap()).collect();
            let mut mine: Vec<&str> = got.pigments.iter().map(|p| p.0.as_str()).collect();
            let mut theirs = ids.clone();
            mine.sort_unstable();
            theirs.sort_unstable();
            assert_eq!(mine, theirs);
            assert!(got.proved_optimal);
        }
    }
}

/// Least cost of a set for one target, straight from the definition.
fn naive_best(set: &[&Pigment], white: &Pigment, target: Lab) -> f64 {
    let mut best = f64::INFINITY;
    let mut parts = vec![0u32; set.len() + 1];
    loop {
        let total: u32 = parts.iter().sum();
        if (1..=8).contains(&total) && parts[..set.len()].iter().filter(|p| **p > 0).count() <= 3 {
            let mut of: Vec<(&Pigment, Parts)> = set.iter().zip(&parts).map(|(p, n)| (*p, Parts(f64::from(*n)))).collect();
            of.push((white, Parts(f64::from(parts[set.len()]))));
            let r: Reflectance = Paint::mixed(&of).unwrap().opaque(OIL);
            let lab = r.xyz().lab();
            best = best.min(20.0 * (lab.value().0 - target.value().0).abs() + ciede2000(lab, target));
        }
        let Some(i) = parts.iter().position(|p| *p < 8) else { return best };
        parts[i] += 1;
        parts[..i].fill(0);
    }
}

fn sets(n: usize, k: usize) -> Vec<Vec<usize>> {
    if k == 0 {
        return vec![vec![]];
    }
    (0..n)
        .flat_map(|last| {
            sets(last, k - 1).into_iter().map(move |mut s| {
                s.push(last);
                s
            })
        })
        .collect()
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(24))]
    #[test]
    fn agrees_with_plain_enumeration(
        from in 2usize..50, n in 4usize..6, k in 1usize..4, lock in any::<bool>(), exclude in any::<bool>(),
        colours in prop::collection::vec((5.0..95.0f64, 0.0..50.0f64, 0.0..360.0f64, 0.1..3.0f64), 1..4),
    ) {
        let lib: Vec<Pigment> = library::modelled().iter().filter(|p| !p.white).skip(from).step_by(2).take(n).cloned().collect();
        prop_assume!(lib.len() == n);
        let white = library::find("PW6").unwrap();
        let targets: Vec<Target> = colours.iter().map(|(l, c, h, weight)| Target { lab: Lab::from_lch(*l, *c, *h), weight: *weight }).collect();
        let choice = Choice {
            locked: if lock { vec![lib[0].id.clone()] } else { vec![] },
            excluded: if exclude { vec![lib[n - 1].id.clone()] } else { vec![] },
        };
        let mut owned = lib.clone();
        owned.push(white.clone());
        let got = search(&owned, &targets, &choice, k..=k, Cost::default(), &Unwatched, &|_| {}).unwrap().remove(0);

        let total: f64 = targets.iter().map(|t| t.weight).sum();
        let cost = |set: &[usize]| {
            let of: Vec<&Pigment> = set.iter().map(|i| &lib[*i]).collect();
            targets.iter().map(|t| t.weight * naive_best(&of, white, t.lab)).sum::<f64>() / total
        };
        let usable = n - usize::from(exclude);
        let best = sets(usable, k).into_iter().filter(|s| !lock || s.contains(&0)).map(|s| cost(&s)).fold(f64::INFINITY, f64::min);
        prop_assert!((got.cost - best).abs() < 1e-6, "{} is not {best}", got.cost);
        for (p, price) in got.pigments.iter().zip(&got.price_of_dropping) {
            let rest: Vec<usize> = got.pigments.iter().filter(|q| *q != p).map(|q| lib.iter().position(|l| l.id == *q).unwrap()).collect();
            prop_assert!((cost(&rest) - best - price).abs() < 1e-6);
        }
        prop_assert_eq!(got.recipes.len(), targets.len());
    }
}

fn some_targets() -> Vec<Target> {
    (0..9)
        .map(|i| Target { lab: Lab::from_lch(20.0 + 8.0 * f64::from(i), 6.0 + 4.0 * f64::from(i), 47.0 * f64::from(i)), weight: 1.0 })
        .collect()
}

#[test]
fn more_pigments_never_cost_more_and_the_answer_is_the_same_on_any_number_of_threads() {
    let owned: Vec<Pigment> = library::modelled().iter().take(30).cloned().collect();
    let run = |threads: usize| {
        let pool = rayon::ThreadPoolBuilder::new().num_threads(threads).build().unwrap();
        pool.install(|| search(&owned, &some_targets(), &Choice::default(), 2..=5, Cost::default(), &Unwatched, &|_| {}).unwrap())
    };
    let (one, two) = (run(1), run(2));
    assert_eq!(one, two);
    assert!(one.windows(2).all(|w| w[1].cost <= w[0].cost + 1e-12));
    assert!(one.iter().all(|s| s.runner_up_cost.unwrap() >= s.cost && s.price_of_dropping.iter().all(|p| *p >= -1e-12)));
}

#[test]
fn requests_that_cannot_be_met_say_which() {
    let owned: Vec<Pigment> = ["PB29", "PY43", "PW6"].iter().map(|i| library::find(i).unwrap().clone()).collect();
    let ids = |v: &[&str]| v.iter().map(|i| PigmentId::from(*i)).collect::<Vec<_>>();
    let ask =
        |choice: Choice, targets: &[Target]| search(&owned, targets, &choice, 2..=6, Cost::default(), &Unwatched, &|_| {}).unwrap_err();
    let t = some_targets();
    assert_eq!(ask(Choice { locked: ids(&["PB29"]), excluded: ids(&["PB29"]) }, &t), NoAnswer::Contradiction("PB29".into()));
    assert_eq!(ask(Choice { locked: ids(&["PX1"]), ..Choice::default() }, &t), NoAnswer::NotInBox("PX1".into()));
    assert!(matches!(ask(Choice { excluded: ids(&["PB29"]), ..Choice::default() }, &t), NoAnswer::TooFew(_)));
    assert_eq!(ask(Choice::default(), &[]), NoAnswer::NoTargets);
    let weightless: Vec<Target> = t.iter().map(|t| Target { weight: 0.0, ..*t }).collect();
    assert_eq!(ask(Choice::default(), &weightless), NoAnswer::NoTargets);
}

#[test]
fn a_cancelled_search_stops_and_says_so() {
    struct After(AtomicUsize);
    impl Progress for After {
        fn report(&self, share: f64) {
            assert!((0.0..=1.0 + 1e-9).contains(&share));
            self.0.fetch_add(1, Ordering::Relaxed);
        }
        fn is_cancelled(&self) -> bool {
            self.0.load(Ordering::Relaxed) > 5
        }
    }
    let owned: Vec<Pigment> = library::modelled().to_vec();
    let got = search(&owned, &some_targets(), &Choice::default(), 2..=6, Cost::default(), &After(AtomicUsize::new(0)), &|_| {});
    assert_eq!(got, Err(NoAnswer::Cancelled));
}
