use lean_colour::Lab;
use lean_media::{Medium, Pigment, ground, library};
use lean_studio::lean::{Ask, Choice, Cost, Need, Tables, Target, search};
use lean_studio::progress::Unwatched;
use std::time::Instant;
fn targets(n: usize) -> Vec<Target> {
    (0..n).map(|i| Target { lab: Lab::from_lch(18.0 + 70.0 * i as f64 / n as f64, 8.0 + 3.0 * (i % 5) as f64, 137.0 * i as f64), weight: 1.0 + (i % 3) as f64 }).collect()
}
fn plain(table: &lean_studio::lean::Table, n: usize, k: usize) -> Vec<(f32, Vec<usize>)> {
    let mut all = Vec::new();
    let mut set: Vec<usize> = (0..k).collect();
    loop {
        let mut row = table.free().to_vec();
        for a in 0..k { for (o, x) in row.iter_mut().zip(table.single(set[a])) { *o = o.min(*x); }
            for b in a+1..k { for (o, x) in row.iter_mut().zip(table.pair(set[a], set[b])) { *o = o.min(*x); }
                for c in b+1..k { for (o, x) in row.iter_mut().zip(table.triple(set[a], set[b], set[c]).unwrap()) { *o = o.min(*x); } } } }
        all.push((row.iter().sum::<f32>(), set.clone()));
        let Some(i) = (0..k).rev().find(|i| set[*i] < n - k + i) else { break };
        set[i] += 1;
        for j in i + 1..k { set[j] = set[j - 1] + 1; }
    }
    all.sort_by(|a, b| a.0.total_cmp(&b.0));
    all
}
fn check(owned: &[Pigment]) {
    use lean_studio::crafts::*;
    let p: Vec<&Pigment> = owned.iter().filter(|p| !p.white).collect();
    let craft = craft(Medium::Oil, &ground::usual(Medium::Oil), &p, library::find("PW6"), Limits::default(), Grain::Usual);
    let e = [lean_studio::lean::Errand { craft: craft.as_ref(), targets: targets(24), cost: Cost::default(), weight: 1.0 }];
    let table = lean_studio::lean::Table::of(&e, &Unwatched).unwrap();
    for k in [4, 5] {
        let all = plain(&table, p.len(), k);
        let near = all.iter().filter(|a| a.0 <= all[0].0 * 1.02).count() - 1;
        println!("plain k={k} best {:?} near {near}", all[0]);
        for x in all.iter().take(near+3) { println!("   {} {:?} {:.5}", x.0, x.1, x.0/all[0].0); }
    }
}
fn main() {
    let owned: Vec<Pigment> = library::modelled().iter().filter(|p| p.id.0 != "PW4").cloned().collect();
    if std::env::args().any(|a| a == "check") { check(&owned); }
    for m in [24] {
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
