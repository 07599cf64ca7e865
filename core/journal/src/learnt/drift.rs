//! Where values drift: always too light in the shadows, too dark in the lights.

use super::measured::{Came, Measured};
use super::plot::{Plot, of_cases};
use crate::entry::{EntryKind, JournalEntry};

/// Bands of value, lightest first: their lower limits and what they are called.
const BANDS: [(f64, &str); 5] =
    [(8.0, "lights, 8 to 10"), (6.0, "6 to 8"), (4.0, "middle, 4 to 6"), (2.0, "2 to 4"), (f64::NEG_INFINITY, "darks, 0 to 2")];
/// Steps of value below which a drift is not spoken of. A choice: the least that is plainly seen.
const SPOKEN: f64 = 0.15;

/// How far what was painted lies from what was planned in value, by how light it was planned: from trials and from photos of finished pieces.
pub fn drift(entries: &[JournalEntry], measured: &[Measured]) -> Plot {
    let trial = |e: &JournalEntry| Some(Came { planned: e.colours.first()?.lab.value(), came: e.read?.value() });
    let trials = entries.iter().filter(|e| e.kind == EntryKind::Trial).filter_map(trial);
    let all: Vec<Came> = trials.chain(measured.iter().flat_map(|m| m.values.iter().copied())).collect();
    let band = |v: f64| BANDS.iter().position(|(low, _)| v >= *low).unwrap_or(BANDS.len() - 1);
    let marks: Vec<_> = BANDS
        .iter()
        .enumerate()
        .filter_map(|(i, (_, name))| {
            let cases: Vec<f64> = all.iter().filter(|c| band(c.planned.0) == i).map(|c| c.came.0 - c.planned.0).collect();
            of_cases((*name).into(), &cases)
        })
        .collect();
    // Only what stands clear of its own doubt is said.
    let plain = marks.iter().filter(|m| m.doubt.is_some_and(|d| m.y.abs() > SPOKEN.max(2.0 * d)));
    let said: Vec<String> =
        plain.map(|m| format!("{} come out {:.1} too {}", m.label, m.y.abs(), if m.y > 0.0 { "light" } else { "dark" })).collect();
    let says = match (marks.is_empty(), said.is_empty()) {
        (true, _) => "Nothing painted was read yet.".to_owned(),
        (_, true) => "No band of values drifts further than its doubt.".to_owned(),
        _ => format!("Planned as {}.", said.join("; planned as ")),
    };
    Plot {
        key: "drift".into(),
        title: "Where values drift".into(),
        says,
        measures: "value steps (+ too light, − too dark)".into(),
        beside: String::new(),
        marks,
    }
}
