use lean_colour::Lab;
use lean_media::{Medium, Pigment, ground, library};
use lean_studio::lean::{Ask, Choice, Cost, Need, Tables, Target, search};
use lean_studio::progress::Unwatched;
use std::time::Instant;
fn targets(n: usize) -> Vec<Target> {
    (0..n).map(|i| Target { lab: Lab::from_lch(18.0 + 70.0 * i as f64 / n as f64, 8.0 + 3.0 * (i % 5) as f64, 137.0 * i as f64), weight: 1.0 + (i % 3) as f64 }).collect()
}
fn main() {
    let owned: Vec<Pigment> = library::modelled().iter().filter(|p| p.id.0 != "PW4").cloned().collect();
    for m in [9, 24] {
        let needs = [Need { ground: ground::usual(Medium::Oil), targets: targets(m), cost: Cost::default(), weight: 1.0 }];
        let mut choice = Choice::default();
        let tables = Tables::default();
        for round in 0..3 {
            let start = Instant::now();
            let found = search(&Ask { pigments: &owned, medium: Medium::Oil, needs: &needs, choice: &choice, sizes: 2..=8 }, &tables, &Unwatched, &|s| {
                println!("  k={} {:.2?} cost {:.3} proved {} within {:?} near {} ({})", s.pigments.len(), start.elapsed(), s.cost, s.proved_optimal, s.within, s.near_tie_count, s.more_near_ties);
            }).unwrap();
            println!("{} pigments {m} targets round {round}: {:.2?}", owned.len() - 1, start.elapsed());
            choice.locked = vec![owned[5 + round].id.clone()];
            let _ = found;
        }
    }
}
