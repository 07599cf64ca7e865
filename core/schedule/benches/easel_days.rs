//! Thirty zones in six layers, against taking what can be done next.
//!
//! Run `cargo bench --bench easel_days`.

use lean_schedule::{Apart, Effort, Job, Lag, Minutes, Plan, Sittings, best, greedy};
use std::time::Instant;

/// A sheet of zones on a grid, each beside those around it, in layers: a wash of `work` minutes that stays wet for `wet`.
fn sheet(across: usize, down: usize, layers: usize, sittings: Sittings, (wet, dry): (u32, u32)) -> Plan {
    let zones = across * down;
    let at = |z: usize, l: usize| l * zones + z;
    let work = |z: usize, l: usize| Minutes(4 + (z as u32 * 7 + l as u32 * 3) % 9);
    let beside: Vec<(usize, usize)> = (0..zones)
        .flat_map(|z| {
            let (x, y) = (z % across, z / across);
            let to = |ok: bool, other: usize| ok.then_some((z, other));
            [to(x + 1 < across, z + 1), to(y + 1 < down, z + across), to(x + 1 < across && y + 1 < down, z + across + 1)]
        })
        .flatten()
        .collect();
    let apart = beside.iter().flat_map(|(a, b)| {
        (0..layers).flat_map(move |l| (0..layers).map(move |m| (at(*a, l), at(*b, m)))).map(|(one, other)| Apart {
            one,
            one_wet: Minutes(wet),
            other,
            other_wet: Minutes(wet),
        })
    });
    Plan {
        jobs: (0..layers).flat_map(|l| (0..zones).map(move |z| Job::of(work(z, l)))).collect(),
        lags: (1..layers)
            .flat_map(|l| (0..zones).map(move |z| Lag { before: at(z, l - 1), after: at(z, l), wait: Minutes(dry) }))
            .collect(),
        apart: if wet > 0 { apart.collect() } else { Vec::new() },
        sittings,
    }
}

fn main() {
    let evenings = Sittings { long: Minutes(120), every: Minutes(1440) };
    let plans = [
        ("a sheet of 30 washes in 6 layers, one long day", sheet(6, 5, 6, Sittings::endless(), (25, 25))),
        ("the same on evenings of two hours", sheet(6, 5, 6, evenings, (25, 25))),
        ("8 zones in 3 washes", sheet(4, 2, 3, Sittings::endless(), (25, 25))),
        ("30 zones of oil in 6 coats, two days between", sheet(6, 5, 6, evenings, (0, 2880))),
        ("12 zones of oil in 3 coats", sheet(4, 3, 3, evenings, (0, 2880))),
    ];
    for (name, plan) in plans {
        let start = Instant::now();
        let table = best(&plan, Effort::default()).expect("it can be timed");
        let took = start.elapsed();
        let plain = greedy(&plan).expect("it can be timed");
        let share = f64::from(table.last.0) / f64::from(plain.last.0);
        let far = f64::from(table.last.0) / f64::from(table.least.0) - 1.0;
        println!(
            "{name}: {} of {} min greedy ({share:.2}), {}, {:.0} ms",
            table.last.0,
            plain.last.0,
            if table.proved { "proved".to_owned() } else { format!("at most {:.1} % above the least", far * 100.0) },
            took.as_secs_f64() * 1000.0
        );
    }
}
