//! How misses shrank: from trial to trial, and over the years.

use super::plot::{Plot, of_cases};
use crate::entry::{EntryKind, JournalEntry};
use std::collections::BTreeMap;

/// Tries shown one by one; later ones are taken together.
const SHOWN: u32 = 5;

/// How far trials missed, by which try it was.
pub fn by_attempt(entries: &[JournalEntry]) -> Plot {
    let mut by: BTreeMap<u32, Vec<f64>> = BTreeMap::new();
    for (e, attempt) in entries.iter().filter(|e| e.kind == EntryKind::Trial).filter_map(|e| Some((e, e.attempt?))) {
        by.entry(attempt.min(SHOWN)).or_default().extend(e.miss);
    }
    let label = |n: u32| if n == SHOWN { format!("try {n} and later") } else { format!("try {n}") };
    let marks: Vec<_> = by.into_iter().filter_map(|(n, cases)| of_cases(label(n), &cases)).collect();
    let says = match (marks.first(), marks.get(1)) {
        (None, _) => "No trial was read yet: mix for a zone at Mixes, and read it.".to_owned(),
        (Some(first), None) => format!("First tries miss by {:.1}. Nothing was tried twice yet.", first.y),
        (Some(first), Some(second)) if second.y < first.y => {
            format!("A first try misses by {:.1}, a second by {:.1}: the second is worth its paint.", first.y, second.y)
        }
        (Some(first), Some(second)) => format!("A second try misses by {:.1}, no less than a first with {:.1}.", second.y, first.y),
    };
    Plot {
        key: "tries".into(),
        title: "How far a mix misses, try by try".into(),
        says,
        measures: "miss, CIEDE2000".into(),
        beside: String::new(),
        marks,
    }
}

/// How far first trials missed, by half-year.
pub fn by_half_year(entries: &[JournalEntry]) -> Plot {
    let mut by: BTreeMap<String, Vec<f64>> = BTreeMap::new();
    for e in entries.iter().filter(|e| e.kind == EntryKind::Trial && e.attempt == Some(1)) {
        let half = e.on.get(5..7).and_then(|m| m.parse::<u8>().ok()).map(|m| if m <= 6 { "first half" } else { "second half" });
        if let (Some(year), Some(half), Some(miss)) = (e.on.get(..4), half, e.miss) {
            by.entry(format!("{year}, {half}")).or_default().push(miss);
        }
    }
    let marks: Vec<_> = by.into_iter().filter_map(|(label, cases)| of_cases(label, &cases)).collect();
    let says = match (marks.first(), marks.last()) {
        (Some(first), Some(last)) if marks.len() > 1 => {
            let doubt = first.doubt.unwrap_or(f64::INFINITY).hypot(last.doubt.unwrap_or(f64::INFINITY));
            if first.y - last.y > 2.0 * doubt {
                format!("First tries missed by {:.1} in the beginning and by {:.1} of late: you and the tool learnt.", first.y, last.y)
            } else if last.y - first.y > 2.0 * doubt {
                format!("First tries miss by more of late: {:.1}, against {:.1} in the beginning.", last.y, first.y)
            } else {
                format!("First tries miss by about as much as ever: {:.1} and {:.1}. There are too few to say more.", first.y, last.y)
            }
        }
        _ => "There are too few trials to see them change.".to_owned(),
    };
    Plot {
        key: "years".into(),
        title: "How far a first try misses, over the years".into(),
        says,
        measures: "miss, CIEDE2000".into(),
        beside: String::new(),
        marks,
    }
}
