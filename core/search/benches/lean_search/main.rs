//! The lean search at the size a painter asks for, against plain ways of doing the same, against what the machine allows, and how it grows.
//!
//! Run `cargo bench --bench lean_search`; with `-- --write` the growth is written to `docs/lean-growth.md` and `docs/lean-growth.svg`. All figures are of
//! one run; compare their ratios, not the seconds.

mod counting;
mod growth;
#[path = "../../../media/benches/limits/mod.rs"]
mod limits;
mod plain;
mod plot;
mod questions;
mod sticks;

use lean_colour::BANDS;
use lean_media::Medium;
use lean_media::lanes::LANES;
use lean_search::measured::{relaxed, walked};
use lean_search::progress::Unwatched;
use lean_search::{Ask, Choice, Tables, search};
use rayon::prelude::*;
use std::time::Instant;

#[global_allocator]
static MEMORY: counting::Counting = counting::Counting::new();

const N: usize = 60;
const M: usize = 24;

fn main() {
    let cores = rayon::current_num_threads();
    if std::env::args().any(|a| a == "--sticks") {
        return sticks::report();
    }
    println!("{N} pigments, {M} targets, {cores} threads");
    let only = std::env::args().find(|a| a == "--media");
    let whole = searches(Medium::Oil);
    for medium in [Medium::Watercolour, Medium::Marker, Medium::Pencil, Medium::SoftPastel] {
        searches(medium);
    }
    if only.is_some() {
        return;
    }
    let table = against_plain(whole, cores);
    against_the_machine(&table, cores);
    let (markdown, svg) = growth::report();
    println!("{markdown}");
    if std::env::args().any(|a| a == "--write") {
        let docs = concat!(env!("CARGO_MANIFEST_DIR"), "/../../docs");
        let head = "How the lean search grows: seconds of one cold search of sizes 2 to k, written by `cargo bench --bench lean_search -- --write`. The usual case is oil, 60 pigments, 24 targets, sizes 2 to 6, two threads; the pigments above 59 are blends.\n\n![Seconds against pigments, targets, largest size and threads](lean-growth.svg)\n\n";
        std::fs::write(format!("{docs}/lean-growth.md"), format!("# Growth\n\n{head}{markdown}")).expect("docs can be written");
        std::fs::write(format!("{docs}/lean-growth.svg"), svg).expect("docs can be written");
    }
}

/// The question cold, and again when only a lock changes. Returns the seconds of the cold one.
fn searches(medium: Medium) -> f64 {
    let pigments = questions::owned(N);
    let needs = [questions::need(medium, M)];
    let tables = Tables::default();
    let ask = |choice: &Choice, tables: &Tables| {
        let start = Instant::now();
        let ask = Ask { pigments: &pigments, medium, needs: &needs, choice, sizes: 2..=6 };
        let first = std::sync::OnceLock::new();
        let found = search(&ask, tables, &Unwatched, &|_| {
            first.get_or_init(|| start.elapsed());
        });
        let found = found.expect("there is an answer");
        assert!(found.iter().all(|s| s.proved_optimal), "every size is proved");
        (start.elapsed().as_secs_f64(), first.get().map_or(0.0, std::time::Duration::as_secs_f64))
    };
    let cold: Vec<(f64, f64)> = (0..3).map(|_| ask(&Choice::default(), &Tables::default())).collect();
    let (whole, first) = cold.into_iter().fold((f64::INFINITY, f64::INFINITY), |a, b| if b.0 < a.0 { b } else { a });
    ask(&Choice::default(), &tables);
    let locked: Vec<f64> =
        [5, 20, 40].iter().map(|i| ask(&Choice { locked: vec![pigments[*i].id.clone()], ..Choice::default() }, &tables).0).collect();
    let slowest = locked.iter().copied().fold(0.0, f64::max);
    println!(
        "{}, sizes 2..6, cold: {whole:.2} s, the first size after {first:.3} s; when only a lock changes, at most {slowest:.2} s ({:.1} times faster)",
        medium.name(),
        whole / slowest
    );
    whole
}

fn against_plain(whole: f64, cores: usize) -> lean_search::Table {
    let start = Instant::now();
    let table = questions::table(N, M);
    let evaluating = start.elapsed().as_secs_f64();
    let triples = (N * (N - 1) * (N - 2) / 6) as f64;
    let ours = evaluating / (triples * 121.0);
    let scalar = plain::recipe(M);
    println!(
        "recipe table: {evaluating:.2} s, {:.3} us a recipe on {cores} threads; a scalar table {:.2} us on one: {:.0} times slower",
        ours * 1e6,
        scalar * 1e6,
        scalar / ours
    );
    let (five, best) = plain::enumeration(&table, 5);
    let start = Instant::now();
    let (sets, _, walked_best) = walked(&table, 5);
    let ours = start.elapsed().as_secs_f64();
    assert!((best - walked_best).abs() < 1e-4, "{best} is not {walked_best}");
    // A set of six has 41 groups, a set of five 25; there are 50,063,860 against 5,461,512.
    let six = five * 41.0 / 25.0 * 50_063_860.0 / sets;
    println!(
        "plain enumeration of size 5: {five:.2} s on one thread, going through them ours {ours:.3} s: {:.0} times faster",
        five / ours
    );
    let recipes = questions::let_downs(N);
    let by_themselves = recipes as f64 * scalar;
    println!(
        "plain enumeration of size 6 would take {six:.0} s, and before it {recipes} let-downs by themselves {by_themselves:.0} s; ours takes {whole:.2} s for all sizes: {:.0} times faster",
        (six + by_themselves) / whole
    );
    table
}

fn against_the_machine(table: &lean_search::Table, cores: usize) {
    let start = Instant::now();
    questions::table(N, M);
    let evaluating = start.elapsed().as_secs_f64();
    let recipes = (N * (N - 1) * (N - 2) / 6) as f64 * 121.0;
    // Mixing needs a square root and a division, and 16 multiply-adds, for every eight mixes and band; the slower of the two is the limit.
    let (divider, units) = (1.0 / limits::pairs_a_second(), 16.0 / limits::operations_a_second());
    let limit = LANES as f64 / (BANDS as f64 * divider.max(units)) * cores as f64;
    println!(
        "recipe table: {:.1} million recipes a second with {M} targets each; the arithmetic limit of mixing alone is {:.1} million: {:.0} % of it",
        recipes / evaluating / 1e6,
        limit / 1e6,
        100.0 * recipes / evaluating / limit
    );
    let bandwidth = bandwidth();
    let size = table.bytes() as f64;
    let near = read_rate(size as usize);
    for (what, (bytes, seconds)) in
        [("going through sets of 5", timed(|| walked(table, 5).1)), ("looks of the relaxation", timed(|| relaxed(table, 6, 100).0))]
    {
        let rate = bytes / seconds;
        println!(
            "{what}: {:.1} GB/s of rows; memory gives {:.1} GB/s ({:.0} %), a block as large as the table ({:.1} MB) {:.1} GB/s ({:.0} %)",
            rate / 1e9,
            bandwidth / 1e9,
            100.0 * rate / bandwidth,
            size / 1e6,
            near / 1e9,
            100.0 * rate / near
        );
    }
}

fn timed(work: impl Fn() -> f64) -> (f64, f64) {
    let start = Instant::now();
    let bytes = work();
    (bytes, start.elapsed().as_secs_f64())
}

/// Bytes a second read from memory on all threads.
fn bandwidth() -> f64 {
    read_rate(512 << 20)
}

/// Bytes a second read again and again from a block of so many, on all threads, keeping the least of each lane as the search does.
fn read_rate(bytes: usize) -> f64 {
    let block = vec![1.0f32; bytes / size_of::<f32>()];
    let share = block.len().div_ceil(rayon::current_num_threads());
    let rounds = ((1usize << 30) / bytes).max(1);
    let start = Instant::now();
    let least: f32 = block
        .par_chunks(share)
        .map(|c| (0..rounds).map(|_| least_of(std::hint::black_box(c))).fold(f32::INFINITY, f32::min))
        .reduce(|| f32::INFINITY, f32::min);
    std::hint::black_box(least);
    (bytes * rounds) as f64 / start.elapsed().as_secs_f64()
}

fn least_of(numbers: &[f32]) -> f32 {
    let mut least = [f32::INFINITY; 64];
    for c in numbers.chunks_exact(64) {
        for (l, x) in least.iter_mut().zip(c) {
            *l = if *x < *l { *x } else { *l };
        }
    }
    least.into_iter().fold(f32::INFINITY, f32::min)
}
