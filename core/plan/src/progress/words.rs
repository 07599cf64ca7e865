//! What a photo says in sentences: relations that moved, and what to do next.

use super::ZoneSeen;
use crate::stages::StageLook;
use crate::stages::tasks::Task;
use crate::wording::grammar::{is_plural, verb};
use crate::wording::{capital, lowered, steps};
use lean_colour::Steps;
use lean_piece::{Piece, ZoneId};

/// Steps by which neighbours must differ in the plan to be a relation, and what must be left of it. Choices.
const RELATION: f64 = 0.5;
const LEFT: f64 = 0.2;
/// Most that is told of each.
const MOST: usize = 4;

/// Neighbours whose order of value was planned and is gone or turned round, the plainest first.
pub(super) fn relations(piece: &Piece, zones: &[ZoneSeen]) -> Vec<String> {
    let of = |id: u16| zones.iter().find(|z| z.zone == ZoneId(id));
    let mut moved: Vec<(f64, String)> = Vec::new();
    for (a, b, _) in &piece.geometry().borders {
        let (Some(a), Some(b)) = (of(*a), of(*b)) else { continue };
        let (dark, light) = if a.wanted.value.0 < b.wanted.value.0 { (a, b) } else { (b, a) };
        let (planned, seen) = (light.wanted.value.0 - dark.wanted.value.0, light.read.value.0 - dark.read.value.0);
        if planned >= RELATION && seen < LEFT * planned && (a.off || b.off) {
            let (d, l) = (piece.zone_label(dark.zone), piece.zone_label(light.zone));
            let how = if seen < -0.1 { "lighter than" } else { "no longer darker than" };
            moved.push((planned - seen, format!("{} {} {how} {l}.", capital(&d), verb(&d, 1))));
        }
    }
    moved.sort_by(|a, b| b.0.total_cmp(&a.0));
    moved.into_iter().take(MOST).map(|m| m.1).collect()
}

/// What to do next: the zones that are off most, then the next task of the stage after it.
pub(super) fn next(piece: &Piece, zones: &[ZoneSeen], tasks: &[Task], look: &StageLook) -> Vec<String> {
    let weight = |z: &ZoneSeen| {
        let zone = piece.zone(z.zone);
        let matters = zone.map_or(1.0, |o| o.reading.area.sqrt() * o.importance.factor());
        lean_recipes::cost::apart(z.read.lab, z.wanted.lab) * matters
    };
    let mut off: Vec<&ZoneSeen> = zones.iter().filter(|z| z.off).collect();
    off.sort_by(|a, b| weight(b).total_cmp(&weight(a)));
    let mut lines: Vec<String> = off.iter().take(MOST).map(|z| advice(piece, z)).collect();
    let later = tasks.iter().find(|t| !t.later && !piece.easel.is_done(t.id) && look.stage.is_none_or(|s| t.id.stage > s));
    if let Some(t) = later {
        let then = if lines.is_empty() { "Go on with" } else { "Then go on with" };
        lines.push(format!("{then} {}.", lowered(&t.title)));
    }
    lines
}

fn advice(piece: &Piece, z: &ZoneSeen) -> String {
    let label = piece.zone_label(z.zone);
    let dv = z.read.value.0 - z.wanted.value.0;
    let come = look_back(z);
    if z.sentence.starts_with("It is still bare") {
        return format!(
            "{} {} still bare ground: lay {} in.",
            capital(&label),
            verb(&label, 1),
            if is_plural(&label) { "them" } else { "it" }
        );
    }
    match dv.abs() >= super::OFF_VALUE {
        true => format!("{} {label} by {}{come}.", if dv < 0.0 { "Lighten" } else { "Darken" }, steps(Steps(dv.abs()))),
        false => format!("Bring {label} back to its colour: {}", lowered(&z.sentence)),
    }
}

fn look_back(z: &ZoneSeen) -> &'static str {
    if (z.read.temperature.0 - z.wanted.temperature.0).abs() < 8.0 {
        ""
    } else if z.read.temperature.0 > z.wanted.temperature.0 {
        ", and cool it"
    } else {
        ", and warm it"
    }
}
