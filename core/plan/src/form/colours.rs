//! The colours of the parts of a form: the local colour moved by the rules of the light, or what the picture shows; of skin, leaves and fruit by rules of
//! their own.

use super::{formed, whole_name};
use crate::light::key::Reach;
use crate::light::rules::in_role;
use lean_colour::moves::with_value;
use lean_colour::real::toward_real;
use lean_colour::{Lab, Value};
use lean_picture::form::FormPart;
use lean_piece::light::{Facts, Kind, Role};
use lean_piece::{Piece, Zone, ZoneId};
use std::collections::BTreeMap;

/// Steps of value between the light of a form and bare ground from which its highlight is left open. A choice.
const OPEN: f64 = 0.8;
/// Steps by which a highlight that is laid is lighter than the light. A choice.
const LIGHTER: f64 = 1.6;
/// Factor on the rules of the light inside one shape: neighbours that are parts of one thing stand nearer each other than lit and shaded things do. A choice.
const WITHIN: f64 = 0.85;

/// Facts that colours are made from.
pub(super) struct Turned<'a> {
    pub piece: &'a Piece,
    pub reach: Reach,
    /// By the rules of the light; else by what the picture shows.
    pub by_rules: bool,
    pub holds_mean: bool,
}

fn role(part: FormPart) -> Role {
    match part {
        FormPart::Base => Role::Shadow,
        FormPart::Middle => Role::Halftone,
        FormPart::Light => Role::Lit,
        FormPart::Rim => Role::Reflected,
        FormPart::Highlight => Role::Highlight,
    }
}

/// Gives the parts of one whole their names, facts and colours.
pub(super) fn coloured(by: &Turned, zones: &mut [Zone], whole: ZoneId, numbers: &BTreeMap<(ZoneId, FormPart), ZoneId>) {
    let Some(before) = by.piece.zone(whole) else { return };
    let local = before.form.map_or(before.target, |f| f.local);
    let name = whole_name(by.piece, whole);
    let name = if name.is_empty() { format!("zone {}", whole.0) } else { name };
    let parts: Vec<(FormPart, usize)> = numbers
        .iter()
        .filter(|((of, _), _)| *of == whole)
        .filter_map(|((_, part), id)| Some((*part, zones.iter().position(|z| z.id == *id)?)))
        .collect();
    let area: f64 = parts.iter().map(|(_, i)| zones[*i].reading.area).sum::<f64>().max(1e-9);
    // The reading of the whole is the mean of its parts.
    let read = mean(parts.iter().map(|(_, i)| (zones[*i].reading.lab, zones[*i].reading.area / area)));
    for (part, i) in &parts {
        let facts = Facts { role: Some(role(*part)), local: Some(local), by_hand: true, ..before.facts };
        let seen = zones[*i].reading.lab;
        let target = if by.by_rules {
            of_kind(before.facts.kind, *part, in_role(by.piece, facts, local, WITHIN, by.reach))
        } else {
            toward_real(Lab::new((local.l + seen.l - read.l).clamp(0.0, 100.0), local.a + seen.a - read.a, local.b + seen.b - read.b))
        };
        let zone = &mut zones[*i];
        (zone.name, zone.importance, zone.kept, zone.open) = (format!("{name}, {}", part.word()), before.importance, false, false);
        (zone.target, zone.graded, zone.facts, zone.form) = (target, None, facts, formed(whole, *part, local));
    }
    lighten(by, zones, &parts);
    if by.holds_mean {
        hold_mean(zones, &parts, area, local);
    }
}

/// The highlight is open ground where that is lighter than the light, else the lightest that can be laid.
fn lighten(by: &Turned, zones: &mut [Zone], parts: &[(FormPart, usize)]) {
    let at = |wanted: FormPart| parts.iter().find(|(part, _)| *part == wanted).map(|(_, i)| *i);
    let (Some(highlight), Some(light)) = (at(FormPart::Highlight), at(FormPart::Light)) else { return };
    if !by.by_rules {
        return;
    }
    let (light, ground) = (zones[light].target, by.piece.ground().lab);
    zones[highlight].target = if ground.value().0 >= light.value().0 + OPEN {
        ground
    } else {
        let value = (light.value().0 + LIGHTER).min(by.reach.lightest);
        with_value(Lab::new(light.l, light.a * 0.5, light.b * 0.5), Value(value))
    };
}

/// Moves the parts together until their mean is the local colour; what is left open stays.
fn hold_mean(zones: &mut [Zone], parts: &[(FormPart, usize)], area: f64, local: Lab) {
    for _ in 0..6 {
        let now = mean(parts.iter().map(|(_, i)| (zones[*i].target, zones[*i].reading.area / area)));
        let moved: Vec<usize> = parts.iter().filter(|(part, _)| *part != FormPart::Highlight).map(|(_, i)| *i).collect();
        let share = moved.iter().map(|i| zones[*i].reading.area / area).sum::<f64>().max(1e-9);
        for i in moved {
            let t = zones[i].target;
            let by = |off: f64| off / share;
            zones[i].target =
                toward_real(Lab::new((t.l + by(local.l - now.l)).clamp(0.0, 100.0), t.a + by(local.a - now.a), t.b + by(local.b - now.b)));
        }
    }
}

fn mean(of: impl Iterator<Item = (Lab, f64)>) -> Lab {
    let sum = of.fold([0.0; 3], |s, (lab, w)| [s[0] + w * lab.l, s[1] + w * lab.a, s[2] + w * lab.b]);
    Lab::new(sum[0], sum[1], sum[2])
}

/// Hues towards which a part turns, by how many degrees, and what becomes of its chroma. Choices: the blood under skin, light through leaves, a fruit that is
/// riper on one side.
fn of_kind(kind: Option<Kind>, part: FormPart, lab: Lab) -> Lab {
    const RED: f64 = 25.0;
    const YELLOW: f64 = 90.0;
    const BLUE: f64 = 265.0;
    let (towards, degrees, chroma) = match (kind, part) {
        (Some(Kind::Skin), FormPart::Base) => (RED, 14.0, 1.05),
        (Some(Kind::Skin), FormPart::Middle) => (RED, 9.0, 1.2),
        (Some(Kind::Skin), FormPart::Light) => (YELLOW, 8.0, 0.9),
        (Some(Kind::Skin), FormPart::Rim) => (RED, 16.0, 1.15),
        (Some(Kind::Foliage), FormPart::Base) => (BLUE, 14.0, 0.85),
        (Some(Kind::Foliage), FormPart::Light) => (YELLOW, 10.0, 1.05),
        (Some(Kind::Fruit), FormPart::Base) => (RED, 10.0, 1.05),
        (Some(Kind::Fruit), FormPart::Light) => (YELLOW, 6.0, 1.0),
        _ => return lab,
    };
    let way = (towards - lab.hue().0 + 540.0).rem_euclid(360.0) - 180.0;
    let hue = (lab.hue().0 + way.clamp(-degrees, degrees)).rem_euclid(360.0);
    toward_real(Lab::from_lch(lab.l, lab.chroma() * chroma, hue))
}
