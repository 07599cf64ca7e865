//! Sixteen everyday colours from twelve oils: the sets found against an enumeration of ratios, and what a hand makes of their recipes.

use lean_colour::difference::ciede2000;
use lean_colour::{Lab, Steps};
use lean_media::opaque::OIL;
use lean_media::{Medium, Paint, Parts, Pigment, ground, library};
use lean_recipes::cost::{Cost, Ranking, apart};
use lean_recipes::{Mix, Target};
use lean_search::demands::HueFamily;
use lean_search::progress::Unwatched;
use lean_search::{Ask, Choice, Need, SetFound, Tables, search};

const OILS: [&str; 12] =
    ["PY35", "PY3", "PY43", "PO20", "PR108", "PR83", "PBr7-burnt-sienna", "PBr7-burnt-umber", "PB29", "PB15:3", "PG18", "PBk9"];

/// Skin in light and shade, leaves, noon sky, distance, cloth, brick, brass, slate, straw, plum.
const EVERYDAY: [(f64, f64, f64); 16] = [
    (72.0, 14.0, 18.0),
    (52.0, 18.0, 20.0),
    (46.0, -22.0, 30.0),
    (33.0, -12.0, 16.0),
    (66.0, -6.0, -28.0),
    (78.0, -3.0, -14.0),
    (70.0, -2.0, -10.0),
    (76.0, 1.0, -5.0),
    (93.0, 0.0, 4.0),
    (45.0, 32.0, 28.0),
    (60.0, 10.0, 45.0),
    (40.0, -2.0, -8.0),
    (80.0, 3.0, 35.0),
    (28.0, 18.0, -12.0),
    (22.0, 2.0, 3.0),
    (58.0, 3.0, 12.0),
];

fn owned() -> Vec<Pigment> {
    OILS.iter().chain(&["PW6"]).map(|id| library::find(id).unwrap_or_else(|| panic!("{id} is not shipped")).clone()).collect()
}

fn colours() -> Vec<Lab> {
    EVERYDAY.iter().map(|(l, a, b)| Lab::new(*l, *a, *b)).collect()
}

fn five(pigments: &[Pigment], ranking: Ranking) -> SetFound {
    let targets = colours().into_iter().map(|lab| Target { lab, weight: 1.0 }).collect();
    let needs = [Need { ground: ground::usual(Medium::Oil), targets, cost: Cost { ranking, ..Cost::default() }, weight: 1.0 }];
    let ask = Ask { pigments, medium: Medium::Oil, needs: &needs, choice: &Choice::default(), sizes: 5..=5 };
    search(&ask, &Tables::default(), &Unwatched, &|_| {}).unwrap().remove(0)
}

fn mixed(pigments: &[Pigment], amounts: &[(usize, f64)]) -> Lab {
    let of: Vec<(&Pigment, Parts)> = amounts.iter().map(|(i, n)| (&pigments[*i], Parts(*n))).collect();
    Paint::mixed(&of).unwrap().opaque(OIL).xyz().lab()
}

/// The best set of five when every three pigments and white are mixed in all ratios of octaves to 1:256.
fn enumerated(pigments: &[Pigment]) -> f64 {
    let (n, white, wanted) = (pigments.len() - 1, pigments.len() - 1, colours());
    let octaves: Vec<f64> = (0..=8).map(|e| f64::from(1 << e)).collect();
    let cost = Cost::default();
    let mut least = std::collections::HashMap::new();
    let mut of_group = |group: &[usize]| {
        let mut best = vec![f64::INFINITY; wanted.len()];
        let things: Vec<usize> = group.iter().copied().chain([white]).collect();
        let mut counts = vec![0usize; things.len()];
        loop {
            // Place 0 of the white is none of it.
            let amounts: Vec<(usize, f64)> = things
                .iter()
                .zip(&counts)
                .filter_map(|(i, c)| if *i == white { c.checked_sub(1).map(|c| (*i, octaves[c])) } else { Some((*i, octaves[*c])) })
                .collect();
            let smallest = amounts.iter().map(|a| a.1).fold(f64::INFINITY, f64::min);
            if !amounts.is_empty() && smallest == 1.0 {
                let lab = mixed(pigments, &amounts);
                let v = lab.value().0;
                for (b, w) in best.iter_mut().zip(&wanted) {
                    let by_value = cost.of_value(Steps(v - w.value().0));
                    if by_value < *b {
                        *b = b.min(by_value + ciede2000(lab, *w));
                    }
                }
            }
            let most = |at: usize| if things[at] == white { 9 } else { 8 };
            let Some(at) = (0..things.len()).find(|at| counts[*at] < most(*at)) else { break };
            counts[at] += 1;
            counts[..at].fill(0);
        }
        least.insert(group.to_vec(), best);
    };
    of_group(&[]);
    for i in 0..n {
        of_group(&[i]);
        for j in i + 1..n {
            of_group(&[i, j]);
            (j + 1..n).for_each(|k| of_group(&[i, j, k]));
        }
    }
    let sets = (0u32..1 << n).filter(|bits| bits.count_ones() == 5);
    let mean = |bits: u32| {
        let within: Vec<&Vec<f64>> = least.iter().filter(|(g, _)| g.iter().all(|i| bits >> i & 1 == 1)).map(|(_, b)| b).collect();
        (0..wanted.len()).map(|t| within.iter().map(|b| b[t]).fold(f64::INFINITY, f64::min)).sum::<f64>() / wanted.len() as f64
    };
    sets.map(mean).fold(f64::INFINITY, f64::min)
}

#[test]
fn sets_of_five_come_as_near_as_ratios_to_one_in_256_and_hold_a_blue_for_the_sky() {
    let pigments = owned();
    let (miss, sure, plain) = (five(&pigments, Ranking::MISS), five(&pigments, Ranking::SURE), enumerated(&pigments));
    let mean = |s: &SetFound| s.misses.iter().sum::<f64>() / s.misses.len() as f64;
    println!("by the miss {:.3}, surely {:.3}, enumerated {plain:.3}: {:?} {:?}", mean(&miss), mean(&sure), miss.pigments, sure.pigments);
    assert!(mean(&miss) <= 1.05 * plain, "{} against {plain}", mean(&miss));
    assert!(mean(&sure) <= 1.25 * plain, "{} against {plain}", mean(&sure));
    for set in [&miss, &sure] {
        let blue = |id: &lean_media::PigmentId| {
            let i = pigments.iter().position(|p| p.id == *id).unwrap();
            HueFamily::of(mixed(&pigments, &[(i, 1.0), (pigments.len() - 1, 8.0)])) == Some(HueFamily::Blue)
        };
        assert!(set.pigments.iter().any(blue), "{:?}", set.pigments);
    }
}

#[test]
fn the_amounts_of_a_recipe_give_its_colour() {
    let pigments = owned();
    for mix in five(&pigments, Ranking::SURE).recipes {
        let index = |id: &lean_media::PigmentId| pigments.iter().position(|p| p.id == *id).unwrap();
        let amounts: Vec<(usize, f64)> = mix.amounts().into_iter().map(|(id, n)| (index(id), n)).collect();
        assert!(apart(mixed(&pigments, &amounts), mix.lab) < 0.01, "{mix:?}");
    }
}

/// A number in −1..1 for each step: the same every time.
fn noise(state: &mut u64) -> f64 {
    *state = state.wrapping_mul(6_364_136_223_846_793_005).wrapping_add(1_442_695_040_888_963_407);
    (*state >> 11) as f64 / (1u64 << 52) as f64 - 1.0
}

/// The mix when every measure of every heap is a fifth off at most.
fn by_hand(pigments: &[Pigment], mix: &Mix, state: &mut u64) -> Lab {
    let mut slip = |n: f64| n * (noise(state) * 1.25f64.ln()).exp();
    let heaps = if mix.heaps.is_empty() { vec![lean_recipes::Heap { of_last: 0, with: mix.parts.clone() }] } else { mix.heaps.clone() };
    let mut last = vec![0.0; pigments.len()];
    for heap in heaps {
        let before: f64 = last.iter().sum();
        let taken = if before > 0.0 { slip(heap.of_last.into()) / before } else { 0.0 };
        last.iter_mut().for_each(|n| *n *= taken);
        for part in &heap.with {
            last[pigments.iter().position(|p| p.id == part.pigment).unwrap()] += slip(part.parts.into());
        }
    }
    let amounts: Vec<(usize, f64)> = last.into_iter().enumerate().filter(|(_, n)| *n > 0.0).collect();
    mixed(pigments, &amounts)
}

#[test]
fn a_hand_that_errs_by_a_fifth_seldom_moves_a_mix_by_half_a_step_and_slips_as_far_as_is_said() {
    let pigments = owned();
    let mut state = 7;
    let (mut far, mut tries) = (0, 0);
    for mix in five(&pigments, Ranking::SURE).recipes {
        let mut moved: Vec<f64> = (0..400).map(|_| apart(by_hand(&pigments, &mix, &mut state), mix.lab)).collect();
        far += moved.iter().filter(|m| **m > 10.0).count();
        tries += moved.len();
        moved.sort_by(f64::total_cmp);
        let ninth = moved[360];
        assert!(ninth <= 1.4 * mix.slip + 0.5, "nine in ten stay within {ninth}, the slip is {}", mix.slip);
    }
    assert!(far * 20 <= tries, "{far} of {tries} move by more than half a step");
}
