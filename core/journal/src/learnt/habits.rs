//! Pigments a painter takes every time.

use crate::entry::{EntryKind, JournalEntry, PigmentUse};
use lean_media::Medium;
use serde::Serialize;
use std::collections::BTreeMap;

/// Share of the sets of a medium a pigment must be in to be a habit. A choice.
const USUALLY: f64 = 0.6;
/// Sets there must be before anything is called a habit. A choice.
const LEAST: usize = 4;

/// What is nearly always taken in a medium.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Habit {
    /// The medium.
    pub medium: Medium,
    /// Sets it was seen in.
    pub sets: usize,
    /// The pigments, those most taken first.
    pub usual: Vec<PigmentUse>,
    /// The same in a sentence.
    pub says: String,
}

/// The habits in every medium of which there are sets enough.
pub fn habits(entries: &[JournalEntry]) -> Vec<Habit> {
    let sets = |m: Medium| entries.iter().filter(|e| e.kind == EntryKind::Set && e.medium == Some(m)).collect::<Vec<_>>();
    Medium::ALL.into_iter().map(|m| (m, sets(m))).filter(|(_, sets)| sets.len() >= LEAST).map(|(m, sets)| of_medium(m, &sets)).collect()
}

fn of_medium(medium: Medium, sets: &[&JournalEntry]) -> Habit {
    let mut times: BTreeMap<&str, (usize, &PigmentUse)> = BTreeMap::new();
    for u in sets.iter().flat_map(|e| &e.pigments) {
        times.entry(u.pigment.0.as_str()).or_insert((0, u)).0 += 1;
    }
    let mut usual: Vec<(usize, &PigmentUse)> = times.into_values().filter(|(n, _)| *n as f64 >= USUALLY * sets.len() as f64).collect();
    usual.sort_by(|a, b| b.0.cmp(&a.0).then(a.1.name.cmp(&b.1.name)));
    let names: Vec<String> = usual.iter().map(|(n, u)| format!("{} ({n} of {})", u.name, sets.len())).collect();
    let says = match names.len() {
        0 => format!("No pigment is in most of your {} sets in {}: nothing is taken by habit.", sets.len(), medium.name()),
        _ => format!("In {} you nearly always take {}.", medium.name(), listed(&names)),
    };
    let usual = usual.into_iter().map(|(_, u)| PigmentUse { share: None, price: None, ..u.clone() }).collect();
    Habit { medium, sets: sets.len(), usual, says }
}

fn listed(names: &[String]) -> String {
    match names {
        [] => String::new(),
        [one] => one.clone(),
        [first @ .., last] => format!("{} and {last}", first.join(", ")),
    }
}
