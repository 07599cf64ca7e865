//! Twenty-four everyday colours from Boxes of sticks, pens and pencils: what sets of each size miss them by, and in how many layers.
//!
//! Run `cargo bench --bench everyday_colours`; with `-- 0.1` a second layer costs a tenth of a step of value.

use lean_colour::difference::ciede2000;
use lean_colour::{Lab, Steps};
use lean_media::{Medium, PigmentId, ground};
use lean_piece::paint_box::PaintBox;
use lean_plan::paints::starter::starter;
use lean_recipes::cost::{Ranking, Within};
use lean_recipes::telling::spoken;
use lean_recipes::{Cost, Mix, Target};
use lean_search::progress::Unwatched;
use lean_search::{Ask, Choice, Demands, Need, Tables, search};

/// L*, a*, b* of things met in any week.
const COLOURS: [(&str, [f64; 3]); 24] = [
    ("brick", [46.0, 26.0, 24.0]),
    ("red door", [42.0, 48.0, 30.0]),
    ("rose petal", [68.0, 32.0, 6.0]),
    ("orange peel", [66.0, 38.0, 60.0]),
    ("light skin", [76.0, 13.0, 17.0]),
    ("dark skin", [40.0, 14.0, 19.0]),
    ("straw", [80.0, 3.0, 34.0]),
    ("lemon", [86.0, -3.0, 62.0]),
    ("ochre wall", [64.0, 10.0, 38.0]),
    ("wet bark", [26.0, 5.0, 8.0]),
    ("dry earth", [52.0, 9.0, 20.0]),
    ("grass in sun", [60.0, -24.0, 42.0]),
    ("pine", [32.0, -13.0, 12.0]),
    ("sage", [64.0, -9.0, 14.0]),
    ("moss", [42.0, -12.0, 26.0]),
    ("sea", [48.0, -18.0, -16.0]),
    ("noon sky", [68.0, -6.0, -26.0]),
    ("evening sky", [52.0, 4.0, -34.0]),
    ("blue jeans", [36.0, 0.0, -22.0]),
    ("plum", [30.0, 20.0, -10.0]),
    ("lilac", [70.0, 14.0, -18.0]),
    ("slate", [44.0, -1.0, -7.0]),
    ("fog", [82.0, -1.0, -3.0]),
    ("shadow", [18.0, 1.0, -3.0]),
];

fn main() {
    let steps = std::env::args().find_map(|a| a.parse::<f64>().ok());
    println!("| Box | size | miss | CIEDE2000 | steps | layers | one | two | three | seconds |");
    for (medium, size) in [(Medium::SoftPastel, 60), (Medium::Marker, 24), (Medium::Marker, 60), (Medium::Pencil, 24), (Medium::Pencil, 60)]
    {
        report(&starter(medium, size), steps);
    }
}

fn report(owned: &PaintBox, steps: Option<f64>) {
    let medium = owned.medium;
    let targets: Vec<Target> = COLOURS.iter().map(|(_, [l, a, b])| Target { lab: Lab::new(*l, *a, *b), weight: 1.0 }).collect();
    let ranking = steps.map_or_else(|| Ranking::usual(medium), |n| Ranking::layered(Steps(n)));
    let cost = Cost { ranking, within: Some(Within::LADDER), ..Cost::default() };
    let needs = [Need { ground: ground::usual(medium), targets: targets.clone(), cost, weight: 1.0 }];
    let most_in_mix = (ranking.third > 0.0).then_some(2);
    let choice = Choice { demands: Demands { most_in_mix, families_may_go: true, ..Demands::default() }, ..Choice::default() };
    for size in [4, 6, 8, 12, 16] {
        let start = std::time::Instant::now();
        let ask = Ask { pigments: &owned.pigments, medium, needs: &needs, choice: &choice, sizes: size..=size };
        let Ok(found) = search(&ask, &Tables::default(), &Unwatched, &|_| {}) else { continue };
        let set = &found[0];
        // One thing over another: coats of the same stick are one layer.
        let layers = |m: &Mix| m.layers.len().max(1);
        let share = |n: std::ops::RangeInclusive<usize>| {
            100.0 * set.recipes.iter().filter(|m| n.contains(&layers(m))).count() as f64 / set.recipes.len() as f64
        };
        let mean =
            |of: &dyn Fn(&Mix, Lab) -> f64| set.recipes.iter().zip(&targets).map(|(m, t)| of(m, t.lab)).sum::<f64>() / targets.len() as f64;
        println!(
            "| {} {} | {size} | {:.2} | {:.2} | {:.2} | {:.2} | {:.0} % | {:.0} % | {:.0} % | {:.2} |",
            owned.pigments.len(),
            medium.name(),
            set.misses.iter().sum::<f64>() / set.misses.len() as f64,
            mean(&|m, wanted| ciede2000(m.lab, wanted)),
            mean(&|m, wanted| (m.lab.value().0 - wanted.value().0).abs()),
            mean(&|m, _| layers(m) as f64),
            share(0..=1),
            share(2..=2),
            share(3..=9),
            start.elapsed().as_secs_f64()
        );
        if std::env::args().any(|a| a == "--told") && size == 12 {
            for (mix, (name, _)) in set.recipes.iter().zip(COLOURS) {
                let called = |id: &PigmentId| owned.pigments.iter().find(|p| p.id == *id).map_or_else(String::new, |p| p.name.clone());
                println!("  {name}: {}", spoken(mix, &called));
            }
        }
    }
}
