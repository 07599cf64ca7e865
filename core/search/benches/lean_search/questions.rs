//! Questions of any size.

use lean_colour::Lab;
use lean_media::{Medium, Parts, Pigment, PigmentId, ground, library};
use lean_recipes::cost::Ranking;
use lean_recipes::technique::Quick;
use lean_recipes::{Cost, Target};
use lean_recipes::{Grain, Limits, technique};
use lean_search::progress::Unwatched;
use lean_search::{Need, Served, Table};

/// So many coloured pigments and white: the shipped ones, then blends of two of them.
pub(crate) fn owned(n: usize) -> Vec<Pigment> {
    let shipped: Vec<&Pigment> = library::modelled().iter().filter(|p| !p.white).collect();
    let blend = |i: usize| {
        let (a, b) = (shipped[i * 7 % shipped.len()], shipped[(i * 11 + 3) % shipped.len()]);
        Pigment::blended(PigmentId(format!("blend-{i}")), format!("blend {i}"), &[(a, Parts(1.0)), (b, Parts(1.0))])
    };
    let mut all: Vec<Pigment> = shipped.iter().take(n).map(|p| (*p).clone()).collect();
    all.extend((0..n.saturating_sub(shipped.len())).map(blend));
    all.extend(library::find("PW6").cloned());
    all
}

/// Targets all round the hue circle, dark to light.
pub(crate) fn targets(m: usize) -> Vec<Target> {
    let one = |i: usize| Target {
        lab: Lab::from_lch(18.0 + 70.0 * i as f64 / m as f64, 8.0 + 3.0 * (i % 5) as f64, 137.0 * i as f64),
        weight: 1.0 + (i % 3) as f64,
    };
    (0..m).map(one).collect()
}

/// What a painter asks: what a hand can be sure of, and no zone given up.
pub(crate) fn need(medium: Medium, m: usize) -> Need {
    let cost = Cost { ranking: Ranking::SURE, ..Cost::default() };
    Need { ground: ground::usual(medium), targets: targets(m), cost, weight: 1.0 }
}

/// How many let-downs there are of three of so many pigments and white.
pub(crate) fn let_downs(n: usize) -> usize {
    let pigments = owned(n);
    let coloured: Vec<&Pigment> = pigments.iter().filter(|p| !p.white).collect();
    let technique =
        technique(Medium::Oil, &ground::usual(Medium::Oil), &coloured, library::find("PW6"), Limits::default(), Grain::LetDowns);
    let mut mixed = Quick::default();
    let mut of = |group: &[usize]| {
        mixed.clear();
        technique.quick(group, &mut mixed);
        mixed.which.len()
    };
    (0..n).map(|i| (i + 1..n).map(|j| (j + 1..n).map(|k| of(&[i, j, k])).sum::<usize>()).sum::<usize>()).sum()
}

/// The table of a question in oil.
pub(crate) fn table(n: usize, m: usize) -> Table {
    let pigments = owned(n);
    let coloured: Vec<&Pigment> = pigments.iter().filter(|p| !p.white).collect();
    let technique = technique(Medium::Oil, &ground::usual(Medium::Oil), &coloured, library::find("PW6"), Limits::default(), Grain::Parts);
    let served_piece = Served { technique: technique.as_ref(), targets: targets(m), cost: Cost::default(), weight: 1.0 };
    Table::of(&[served_piece], &Unwatched).unwrap_or_else(|_| unreachable!("nobody cancels"))
}
