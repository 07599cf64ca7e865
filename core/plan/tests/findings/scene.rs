//! Plans and faults written as short tables.
//!
//! A plan: `# title | medium | light | schools`, then its zones: `name | L a b | area | facts | neighbours`. A fault: `title | changes |
//! rule | zone`, where a change is `zone = L a b facts` (facts left out stay as they were) or `zone borders zone`.

use lean_media::Medium;
use lean_piece::Importance;
use lean_piece::light::{LampFrom, Tint, Which};
use lean_plan::findings::plan::written::{WrittenFacts, WrittenLamp, WrittenLight, WrittenPlan, WrittenZone};
use serde::de::DeserializeOwned;
use std::collections::BTreeMap;

/// A sound plan with something made wrong.
pub(crate) struct Fault {
    title: String,
    changes: String,
    /// The rule that must notice it.
    pub rule: String,
    /// The zone it must speak of.
    pub zone: String,
}

pub(crate) fn sound() -> Vec<WrittenPlan> {
    include_str!("sound.txt").split("# ").filter(|t| !t.trim().is_empty()).map(plan).collect()
}

pub(crate) fn faults() -> Vec<Fault> {
    let lines = include_str!("faults.txt").lines().filter(|l| !l.starts_with('#') && !l.trim().is_empty());
    lines
        .map(|line| {
            let [title, changes, rule, zone] = cells(line);
            Fault { title, changes, rule, zone }
        })
        .collect()
}

impl Fault {
    pub(crate) fn planted(&self, plans: &[WrittenPlan]) -> WrittenPlan {
        let mut plan = plans.iter().find(|p| p.title == self.title).unwrap_or_else(|| panic!("no plan {}", self.title)).clone();
        for change in self.changes.split(';') {
            if let Some((one, other)) = change.split_once(" borders ") {
                zone(&mut plan, one.trim()).neighbours.insert(other.trim().into(), 10.0);
                continue;
            }
            let (name, to) = change.split_once('=').unwrap_or_else(|| panic!("{change}"));
            let words: Vec<&str> = to.split_whitespace().collect();
            let zone = zone(&mut plan, name.trim());
            zone.lab = lab(&words[..3]);
            if let Some(area) = words.get(3).and_then(|w| w.parse::<f64>().ok()) {
                zone.area = area;
            }
            if words.len() > 3 {
                say(zone, &words[3..]);
            }
        }
        plan
    }
}

fn zone<'p>(plan: &'p mut WrittenPlan, name: &str) -> &'p mut WrittenZone {
    plan.zones.iter_mut().find(|z| z.name == name).unwrap_or_else(|| panic!("no zone {name}"))
}

fn cells<const N: usize>(line: &str) -> [String; N] {
    let cells: Vec<String> = line.split('|').map(|c| c.trim().to_owned()).collect();
    cells.try_into().unwrap_or_else(|_| panic!("{line} has not {N} cells"))
}

/// A word of the product, as its JSON has it.
fn word<T: DeserializeOwned>(w: &str) -> Option<T> {
    serde_json::from_value(serde_json::Value::String(w.into())).ok()
}

fn plan(text: &str) -> WrittenPlan {
    let mut lines = text.lines().filter(|l| !l.trim().is_empty());
    let [title, medium, light, schools] = cells(lines.next().expect("a head"));
    let schools = schools.split_whitespace().map(|s| {
        let (q, a) = s.split_once('=').unwrap_or_else(|| panic!("{s}"));
        (word(q).unwrap_or_else(|| panic!("no question {q}")), word(a).unwrap_or_else(|| panic!("no school {a}")))
    });
    let plan = WrittenPlan {
        title,
        medium: word::<Medium>(&medium).unwrap_or_else(|| panic!("no medium {medium}")),
        ground: None,
        light: lighting(&light),
        schools: schools.collect(),
        zones: lines.map(read_zone).collect(),
    };
    plan.check().unwrap_or_else(|e| panic!("{}: {e}", plan.title));
    plan
}

fn read_zone(line: &str) -> WrittenZone {
    let [name, colour, area, facts, neighbours] = cells(line);
    let neighbours: BTreeMap<String, f64> =
        neighbours.split(',').map(str::trim).filter(|n| !n.is_empty()).map(|n| (n.to_owned(), 10.0)).collect();
    let area = area.parse().unwrap_or_else(|_| panic!("{line}"));
    let lab = lab(&colour.split_whitespace().collect::<Vec<_>>());
    let mut zone = WrittenZone { name, lab, area, facts: WrittenFacts::default(), importance: Importance::default(), neighbours };
    say(&mut zone, &facts.split_whitespace().collect::<Vec<_>>());
    zone
}

fn lab(numbers: &[&str]) -> [f64; 3] {
    let numbers: Vec<f64> = numbers.iter().map(|n| n.parse().unwrap_or_else(|_| panic!("{n} is no number"))).collect();
    numbers.try_into().expect("three numbers")
}

fn say(zone: &mut WrittenZone, words: &[&str]) {
    for w in words.iter().filter(|w| w.parse::<f64>().is_err()) {
        let facts = &mut zone.facts;
        match *w {
            "second" => facts.light = Which::Second,
            "luminous" => facts.role = word("self-luminous"),
            "focal" | "usual" | "quiet" => zone.importance = word(w).expect("an importance"),
            w => {
                facts.plane = word(w).or(facts.plane);
                facts.distance = word(w).or(facts.distance);
                facts.role = word(w).or(facts.role);
                facts.kind = word(w).or(facts.kind);
            }
        }
    }
}

fn lighting(text: &str) -> WrittenLight {
    let words: Vec<&str> = text.split_whitespace().collect();
    let lamp = |tint| WrittenLamp { tint, from: LampFrom::Left, hard: words.contains(&"hard") };
    WrittenLight {
        lamps: words.iter().filter_map(|w| word::<Tint>(w)).map(lamp).collect(),
        flat: words.contains(&"flat"),
        outdoors: words.contains(&"outdoors"),
        exceptions: words.iter().filter_map(|w| word(w)).collect(),
    }
}
