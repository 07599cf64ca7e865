//! The lean search at the size a painter asks for: 60 pigments, 9 zones, sizes 2..6, cold.
//!
//! Run `cargo bench --bench lean_search`. The last line is the ratio to a plain table of the same recipes without bounds or lanes.

use lean_colour::Lab;
use lean_media::{Paint, Parts, Pigment, library, opaque::OIL};
use lean_studio::lean::{Choice, Cost, Target, patterns, search};
use lean_studio::progress::Unwatched;
use std::time::Instant;

fn targets(n: usize) -> Vec<Target> {
    (0..n)
        .map(|i| Target {
            lab: Lab::from_lch(18.0 + 70.0 * i as f64 / n as f64, 8.0 + 3.0 * (i % 5) as f64, 137.0 * i as f64),
            weight: 1.0 + (i % 3) as f64,
        })
        .collect()
}

fn main() {
    let owned: Vec<Pigment> = library::modelled().iter().filter(|p| p.id.0 != "PW4").cloned().collect();
    for m in [9, 24] {
        let start = Instant::now();
        let first = std::sync::Mutex::new(None);
        let sizes = search(&owned, &targets(m), &Choice::default(), 2..=6, Cost::default(), &Unwatched, &|_| {
            first.lock().unwrap().get_or_insert_with(|| start.elapsed());
        })
        .unwrap();
        println!(
            "{} pigments, {m} zones, sizes 2..6: first size after {:.2?}, all after {:.2?}; size 6 costs {:.3}",
            owned.len() - 1,
            first.lock().unwrap().unwrap(),
            start.elapsed(),
            sizes.last().unwrap().cost
        );
    }
    ratio(&owned);
}

/// Plain double-precision evaluation of every triple recipe of 12 pigments for 9 zones, scaled to 59.
fn ratio(owned: &[Pigment]) {
    let few: Vec<&Pigment> = owned.iter().filter(|p| !p.white).take(12).collect();
    let white = library::find("PW6").unwrap();
    let wanted = targets(9);
    let start = Instant::now();
    let mut least = vec![f64::INFINITY; wanted.len()];
    let mut recipes = 0u32;
    for i in 0..few.len() {
        for j in i + 1..few.len() {
            for k in j + 1..few.len() {
                for p in patterns::of(3) {
                    let of = [(few[i], p[0]), (few[j], p[1]), (few[k], p[2]), (white, p[3])].map(|(g, n)| (g, Parts(f64::from(n))));
                    let lab = Paint::mixed(&of).unwrap().opaque(OIL).xyz().lab();
                    for (l, t) in least.iter_mut().zip(&wanted) {
                        *l = l.min(Cost::default().of(lab, t.lab));
                    }
                    recipes += 1;
                }
            }
        }
    }
    let plain = start.elapsed().as_secs_f64() / f64::from(recipes);
    let start = Instant::now();
    let all: Vec<&Pigment> = owned.iter().filter(|p| !p.white).collect();
    lean_studio::lean::Table::of(&all, Some(white), &wanted, Cost::default(), &Unwatched).unwrap();
    let n = all.len() as f64;
    let ours = start.elapsed().as_secs_f64() / (n * (n - 1.0) * (n - 2.0) / 6.0 * 121.0);
    println!(
        "plain table {:.2} us a recipe, ours {:.3} us on all cores ({least:.1?}): {:.0} times as fast",
        plain * 1e6,
        ours * 1e6,
        plain / ours
    );
}
