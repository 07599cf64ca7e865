//! Simulated eyes: the staircase finds their thresholds, drills ask what they say they ask, and come back where the eye is weak.

use jiff::civil::Date;
use lean_drills::{Answered, Drill, Given, Material, Threshold, ask, judge, next, standing};
use lean_piece::paint_box::PaintBox;
use std::collections::BTreeSet;

/// Numbers by chance, the same every time.
struct Chance(u64);

impl Chance {
    fn share(&mut self) -> f64 {
        self.0 = self.0.wrapping_mul(6364136223846793005).wrapping_add(1442695040888963407);
        (self.0 >> 33) as f64 / f64::from(u32::MAX >> 1)
    }
}

fn oils() -> PaintBox {
    let b = lean_demo::oils();
    PaintBox { name: b.name, medium: b.medium, pigments: b.pigments }
}

/// An eye that answers by its threshold, as eyes do: more rightly the larger the difference, by guess when it is small.
fn answers(drill: Drill, size: f64, threshold: f64, chance: &mut Chance) -> bool {
    let guess = drill.by_guess();
    let p = guess + (1.0 - guess - 0.02) * (1.0 - (-(size / threshold).powf(3.5) * 5f64.ln()).exp());
    chance.share() < p
}

#[test]
fn the_staircase_finds_known_thresholds_in_forty_answers() {
    let mut chance = Chance(3);
    for drill in Drill::ALL {
        let mut off: Vec<f64> = Vec::new();
        for eye in 0..200 {
            let threshold = drill.usual() * 2f64.powf(f64::from(eye % 5) / 2.0 - 1.2);
            let mut known = Threshold::before(drill);
            for _ in 0..40 {
                let size = known.next_size();
                known = known.after(size, answers(drill, size, threshold, &mut chance));
            }
            off.push((known.size() / threshold - 1.0).abs());
        }
        off.sort_by(f64::total_cmp);
        assert!(off[100] <= 0.10, "{drill:?}: the middle eye is {:.0} % off", off[100] * 100.0);
    }
}

#[test]
fn every_drill_can_be_asked_of_a_box_and_answered() {
    let b = oils();
    let material = Material { paint_box: &b, pieces: &[] };
    for drill in Drill::ALL.into_iter().filter(|d| *d != Drill::PictureLight) {
        let mut seen = BTreeSet::new();
        for seed in 0..20 {
            let q = ask(drill, &material, drill.usual(), seed).unwrap_or_else(|| panic!("{drill:?} {seed}"));
            seen.insert(format!("{:?}{:?}", q.shown, q.choices));
            assert_eq!(ask(drill, &material, drill.usual(), seed), Some(q.clone()), "the same seed asks the same");
            let all: Vec<Given> = match drill {
                Drill::Value => (0..=10).map(|v| Given::Value { value: f64::from(v) }).collect(),
                Drill::Order => vec![Given::Order { order: (0..q.choices.len()).collect() }],
                Drill::Match => vec![Given::Parts { trials: vec![vec![1, 1, 1]] }],
                _ => (0..q.choices.len()).map(|at| Given::Choice { at }).collect(),
            };
            let verdicts: Vec<_> = all.iter().map(|g| judge(drill, &material, q.size, seed, g).unwrap()).collect();
            if !matches!(drill, Drill::Order | Drill::Match | Drill::Value) {
                assert_eq!(verdicts.iter().filter(|v| v.right).count(), 1, "one choice is right");
                assert!(verdicts.iter().filter(|v| !v.right).all(|v| v.off > 0.0));
            }
        }
        assert!(seen.len() > 15, "{drill:?} asks {} different questions", seen.len());
        assert!(judge(drill, &material, drill.usual(), 1, &Given::Choice { at: 99 }).is_err());
    }
    assert_eq!(ask(Drill::PictureLight, &material, 1.0, 1), None, "without a piece there is no picture");
    assert_eq!(ask(Drill::Value, &material, f64::NAN, 1), None);
}

#[test]
fn every_medium_mixes_enough_to_be_asked_about() {
    for b in [lean_demo::pastels(), lean_demo::pens(), lean_demo::pencils(), lean_demo::pans()] {
        let b = PaintBox { name: b.name, medium: b.medium, pigments: b.pigments };
        let material = Material { paint_box: &b, pieces: &[] };
        for drill in Drill::ALL.into_iter().filter(|d| *d != Drill::PictureLight) {
            assert!(ask(drill, &material, drill.usual(), 4).is_some(), "{drill:?} in {:?}", b.medium);
        }
    }
}

#[test]
fn a_box_of_one_pigment_has_material_for_greys_alone() {
    let mut b = oils();
    b.pigments.truncate(1);
    let material = Material { paint_box: &b, pieces: &[] };
    let can: Vec<Drill> = Drill::ALL.into_iter().filter(|d| ask(*d, &material, d.usual(), 1).is_some()).collect();
    assert_eq!(can, [Drill::Value, Drill::Surround, Drill::Order]);
}

#[test]
fn value_drills_carry_no_hue() {
    let b = oils();
    let material = Material { paint_box: &b, pieces: &[] };
    for drill in Drill::ALL.into_iter().filter(|d| d.without_hue()) {
        for seed in 0..10 {
            let q = ask(drill, &material, drill.usual(), seed).unwrap();
            for p in q.shown.iter().chain(&q.choices) {
                let colours = [Some(p.colour), p.surround];
                assert!(colours.iter().flatten().all(|c| c.r.abs_diff(c.g) <= 1 && c.g.abs_diff(c.b) <= 1), "{drill:?}: {p:?}");
            }
        }
    }
}

#[test]
fn a_match_ends_when_it_is_near_and_when_trials_are_used_up() {
    let b = oils();
    let material = Material { paint_box: &b, pieces: &[] };
    let q = ask(Drill::Match, &material, 8.0, 7).unwrap();
    let wrong = vec![vec![20, 0, 1]; 4];
    let trials = |n: usize| Given::Parts { trials: wrong[..n].to_vec() };
    let first = judge(Drill::Match, &material, q.size, 7, &trials(1)).unwrap();
    let last = judge(Drill::Match, &material, q.size, 7, &trials(4)).unwrap();
    assert!(first.goes_on && !last.goes_on && last.trials.len() == 4);
    assert!(judge(Drill::Match, &material, q.size, 7, &Given::Parts { trials: vec![vec![0, 0, 0]] }).is_err());
    // All parts tried one by one: some match it.
    let mut found = false;
    for a in 1..5 {
        for b in 1..5 {
            for c in 1..5 {
                let v = judge(Drill::Match, &material, q.size, 7, &Given::Parts { trials: vec![vec![a, b, c]] }).unwrap();
                found |= v.right && v.off < 0.5;
            }
        }
    }
    assert!(found, "the parts it was made of match it");
}

#[test]
fn drills_come_back_where_the_eye_is_weak_and_progress_says_its_doubt() {
    let today: Date = "2025-03-01".parse().unwrap();
    let some = |drill: Drill, on: &str, size: f64, right: bool, n: usize| vec![Answered { drill, on: on.into(), size, right, off: 0.0 }; n];
    let mut all = Vec::new();
    for drill in Drill::ALL {
        let weak = drill == Drill::Warmer;
        all.extend(some(drill, "2025-02-20", drill.usual(), !weak, 14));
    }
    let standings: Vec<_> = Drill::ALL.into_iter().map(|d| standing(d, &all, today)).collect();
    assert_eq!(next(&standings), Some(Drill::Warmer));
    assert!(standings[0].words.contains("between"), "{}", standings[0].words);
    // Done well today it comes again later, and another is next.
    all.extend(some(Drill::Warmer, "2025-03-01", 3.0, true, 20));
    let standings: Vec<_> = Drill::ALL.into_iter().map(|d| standing(d, &all, today)).collect();
    let warmer = standings.iter().find(|s| s.drill == Drill::Warmer).unwrap();
    assert!(warmer.due_in > 0 && next(&standings) != Some(Drill::Warmer));
    assert!(warmer.words.contains("Finer than before"), "{}", warmer.words);
    assert!(standing(Drill::Value, &[], today).words.contains("Not tried"));
}
