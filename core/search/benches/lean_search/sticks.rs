//! Boxes of sticks, pens and pencils in families, and sets of them up to the largest.

use crate::questions::{need, targets};
use lean_colour::Value;
use lean_media::pens::inked_to;
use lean_media::{Medium, Parts, Pigment, PigmentId, library};
use lean_recipes::cost::Ranking;
use lean_search::progress::Unwatched;
use lean_search::{Ask, Choice, Demands, Need, SetFound, Tables, search};
use std::time::Instant;

/// Hues, round the circle.
const HUES: [&str; 15] = [
    "PB29",
    "PY43",
    "PR101",
    "PG7",
    "PY154",
    "PR122",
    "PBr7-burnt-umber",
    "PO73",
    "PV23",
    "PG17",
    "PB15:3",
    "PR254",
    "PBr7-raw-umber",
    "PG36",
    "PBk9",
];

/// So many sticks, pens or pencils: families of one hue in several values, as boxes are sold.
pub(crate) fn owned(medium: Medium, n: usize) -> Vec<Pigment> {
    let white = library::find("PW6").expect("shipped");
    let black = library::find("PBk9").expect("shipped");
    let steps = n.div_ceil(HUES.len());
    let one = |i: usize| {
        let (hue, step) = (i % HUES.len(), i / HUES.len());
        let base = library::find(HUES[hue]).expect("shipped");
        let id = format!("{}-{step}", HUES[hue]);
        let at = if steps > 1 { step as f64 / (steps - 1) as f64 } else { 0.0 };
        if medium == Medium::Marker {
            let reads = Value(3.0 + 6.0 * at);
            let pen = Pigment::blended(PigmentId(id.clone()), id, &[(base, Parts(1.0))]);
            return inked_to(pen, reads);
        }
        let (pale, dark) = (12.0 * at * at, 0.6 * (1.0 - at));
        Pigment::blended(PigmentId(id.clone()), id, &[(base, Parts(1.0)), (white, Parts(pale)), (black, Parts(dark))])
    };
    let whites = if medium.has_white() { vec![white.clone()] } else { Vec::new() };
    (0..n).map(one).chain(whites).collect()
}

/// The sets of these sizes, cold; seconds until the first and until the last.
pub(crate) fn sets(
    medium: Medium,
    n: usize,
    m: usize,
    sizes: std::ops::RangeInclusive<usize>,
    ranking: Ranking,
) -> (Vec<SetFound>, f64, f64) {
    let pigments = owned(medium, n);
    let own = need(medium, m);
    let needs = [Need { cost: lean_recipes::Cost { ranking, ..own.cost }, targets: targets(m), ..own }];
    let start = Instant::now();
    let first = std::sync::OnceLock::new();
    let most_in_mix = medium.is_chosen().then_some(2);
    let choice = Choice { demands: Demands { most_in_mix, ..Demands::default() }, ..Choice::default() };
    let ask = Ask { pigments: &pigments, medium, needs: &needs, choice: &choice, sizes };
    let found = search(&ask, &Tables::default(), &Unwatched, &|s| {
        first.get_or_init(|| start.elapsed());
        if std::env::var("EACH").is_ok() {
            println!("   {} {:.2} s cost {:.3} within {:?}", s.pigments.len(), start.elapsed().as_secs_f64(), s.cost, s.within);
        }
    });
    let whole = start.elapsed().as_secs_f64();
    (found.expect("there is an answer"), first.get().map_or(0.0, std::time::Duration::as_secs_f64), whole)
}

/// Prints how long sets of sticks take, and how near they are to the best possible.
pub(crate) fn report() {
    for (medium, n, m, sizes) in [
        (Medium::SoftPastel, 60, 14, 2..=16),
        (Medium::Marker, 60, 14, 2..=16),
        (Medium::Pencil, 60, 14, 2..=16),
        (Medium::Pencil, 120, 24, 2..=24),
    ] {
        let (found, first, whole) = sets(medium, n, m, sizes.clone(), Ranking::usual(medium));
        let within = found.iter().filter_map(|s| s.within).fold(0.0, f64::max);
        let proved = found.iter().filter(|s| s.proved_optimal).count();
        println!(
            "{}, {n} of them, {m} targets, sizes {} to {}: first after {first:.2} s, all after {whole:.2} s; {proved} of {} proved, the others at most {:.2} % above the best possible",
            medium.name(),
            sizes.start(),
            sizes.end(),
            found.len(),
            100.0 * within
        );
    }
}
