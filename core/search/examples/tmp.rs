use lean_colour::Lab;
use lean_media::{Medium, ground, library};
use lean_recipes::{Cost, Craft, Grain, Limits, Target, cost::Ranking, craft, craft::Quick};
use lean_search::{progress::Unwatched, *};
use std::time::Instant;
fn main() {
    let all: Vec<_> = library::modelled().iter().cloned().collect();
    let coloured: Vec<_> = all.iter().filter(|p| !p.white).take(59).collect();
    let w = library::find("PW6");
    let t = Instant::now();
    let c = craft(Medium::Oil, &ground::usual(Medium::Oil), &coloured, w, Limits::default(), Grain::LetDowns);
    println!("craft {:?}", t.elapsed());
    let mut n = 0usize;
    let t = Instant::now();
    let mut q = Quick::default();
    let mut g = 0;
    for i in (0..59).step_by(7) {
        for j in (i + 1..59).step_by(5) {
            for k in (j + 1..59).step_by(3) {
                q.clear();
                c.quick(&[i, j, k], &mut q);
                n += q.colours.len() * 8;
                g += 1;
            }
        }
    }
    println!("{} recipes a triple, {:?} a triple of {}", n / g, t.elapsed() / g as u32, g);
    let t = Instant::now();
    let mut h = 0;
    for i in (0..59).step_by(17) {
        for j in (i + 1..59).step_by(15) {
            for k in (j + 1..59).step_by(13) {
                q.clear();
                c.quick(&[i, j, k], &mut q);
                for e in 0..q.colours.len() {
                    std::hint::black_box(c.quick_slips(&[i, j, k], &q, &std::array::from_fn(|x| e * 8 + x)));
                    h += 1;
                }
            }
        }
    }
    println!("hands {:?} per eight ({})", t.elapsed() / h, h);
    let targets: Vec<Target> = (0..24)
        .map(|i| Target { lab: Lab::from_lch(15.0 + 3.2 * i as f64, (5.0 + (i * 7 % 40) as f64), 47.0 * i as f64), weight: 1.0 })
        .collect();
    for (name, grain, ranking) in [
        ("parts miss", Grain::Parts, Ranking::MISS),
        ("parts sure", Grain::Parts, Ranking::SURE),
        ("tints miss", Grain::LetDowns, Ranking::MISS),
        ("tints sure", Grain::LetDowns, Ranking::SURE),
    ] {
        let c = craft(Medium::Oil, &ground::usual(Medium::Oil), &coloured, w, Limits::default(), grain);
        let cost = Cost { ranking, ..Cost::default() };
        let e = [Errand { craft: c.as_ref(), targets: targets.clone(), cost, weight: 1.0 }];
        let t = Instant::now();
        let tab = Table::of(&e, &Unwatched).unwrap();
        let tt = t.elapsed();
        drop(tab);
        let needs = [Need { ground: ground::usual(Medium::Oil), targets: targets.clone(), cost, weight: 1.0 }];
        let mut own: Vec<_> = coloured.iter().map(|p| (*p).clone()).collect();
        own.extend(w.cloned());
        let choice = Choice { grain, ..Choice::default() };
        let t = Instant::now();
        let first = std::sync::OnceLock::new();
        let f = search(
            &Ask { pigments: &own, medium: Medium::Oil, needs: &needs, choice: &choice, sizes: 2..=6 },
            &Tables::default(),
            &Unwatched,
            &|_| {
                first.get_or_init(|| t.elapsed());
            },
        )
        .unwrap();
        println!(
            "{name}: table {tt:?} search {:?} first {:?} {:?}",
            t.elapsed(),
            first.get(),
            f.iter().map(|s| (s.cost, s.proved_optimal)).collect::<Vec<_>>()
        );
    }
}
