//! An instance solved elsewhere.

use crate::asking::{in_oil, pigment};
use lean_colour::Lab;
use lean_media::Pigment;
use lean_recipes::{Grain, Target};
use lean_search::{Choice, Demands};
use serde_json::Value;

#[test]
fn the_solved_instance_is_solved_to_the_exact_sets_and_costs() {
    let file: Value = serde_json::from_str(include_str!("../data/solved_search.json")).unwrap();
    let numbers = |v: &Value| -> Vec<f64> { v.as_array().unwrap().iter().map(|x| x.as_f64().unwrap()).collect() };
    for case in file["cases"].as_array().unwrap() {
        let read = |p: &Value, white| pigment(p["id"].as_str().unwrap(), numbers(&p["K"]), numbers(&p["S"]), white);
        let mut owned: Vec<Pigment> = case["pigments"].as_array().unwrap().iter().map(|p| read(p, false)).collect();
        owned.push(read(&case["white"], true));
        let labs = case["targets_lab_D65"].as_array().unwrap().iter().map(numbers);
        let targets: Vec<Target> =
            labs.zip(numbers(&case["weights"])).map(|(l, weight)| Target { lab: Lab::new(l[0], l[1], l[2]), weight }).collect();
        for expected in case["expected"].as_array().unwrap() {
            let k = expected["k"].as_u64().unwrap() as usize;
            let demands = Demands { families_may_go: true, ..Demands::default() };
            let choice = Choice { grain: Grain::Parts, demands, ..Choice::default() };
            let got = in_oil(&owned, &targets, &choice, k..=k).unwrap().remove(0);
            assert!((got.cost - expected["cost"].as_f64().unwrap()).abs() < 1e-5, "k={k}: {} is not {}", got.cost, expected["cost"]);
            assert!((got.runner_up_cost.unwrap() - expected["runner_up_cost"].as_f64().unwrap()).abs() < 1e-5);
            let sorted = |mut names: Vec<String>| {
                names.sort_unstable();
                names
            };
            let theirs = expected["ids"].as_array().unwrap().iter().map(|i| i.as_str().unwrap().to_owned()).collect();
            assert_eq!(sorted(got.pigments.iter().map(|p| p.0.clone()).collect()), sorted(theirs));
            assert!(got.proved_optimal);
        }
    }
}
