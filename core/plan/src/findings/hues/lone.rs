//! A hue that appears once and sticks out.

use crate::findings::plan::{Plan, PlannedZone, turn};
use crate::findings::{Finding, capital};
use lean_colour::Lab;
use lean_colour::difference::ciede2000;
use lean_piece::Importance;
use lean_piece::light::{Kind, Role};

/// Chroma from which a hue sticks out, how much stronger than every other it is then, and the least of it and of the degrees around it
/// that count as an echo. Choices.
const STRONG: f64 = 32.0;
const STRONGER: f64 = 1.5;
const ECHO: f64 = 10.0;
const NEAR: f64 = 50.0;
/// Share of the picture above which it is no spot. A choice.
const SPOT: f64 = 0.12;
/// How many echoes are proposed. A choice.
const PROPOSED: usize = 2;

/// Strong spots whose hue nothing else in the picture carries. Silent where the spot is meant to be the focal point, and for what gives
/// light. Proposed: the zones that can echo it with the least change.
pub(crate) fn sticks_out(plan: &Plan) -> Vec<Finding> {
    if plan.zones.len() < 4 {
        return Vec::new();
    }
    plan.zones.iter().filter_map(|z| one(plan, z)).collect()
}

fn one(plan: &Plan, zone: &PlannedZone) -> Option<Finding> {
    let has = zone.lab.chroma();
    if has < STRONG || zone.area > SPOT || zone.importance == Importance::Focal || zone.is(Role::SelfLuminous) {
        return None;
    }
    let others = || plan.zones.iter().filter(|z| z.id != zone.id);
    let echoed = others().any(|z| echoes(z.lab, zone.lab));
    let next = others().map(|z| z.lab.chroma()).fold(0.0, f64::max);
    if echoed || has < STRONGER * next {
        return None;
    }
    let cheapest = cheapest_echoes(plan, zone);
    let found = Finding::remark(
        "lone",
        format!("lone-{}", zone.id.0),
        vec![zone.id],
        format!("{} alone in its hue", crate::wording::grammar::subject(&zone.label)),
        format!(
            "A hue that appears once looks dropped in. {} can take a little of it with the least change.",
            capital(&cheapest.iter().map(|(z, _)| z.label.as_str()).collect::<Vec<_>>().join(" and "))
        ),
        "no hue on its own",
    );
    let proposals = cheapest.iter().map(|(z, lab)| (format!("Echo it in {}", z.label), vec![(z.id, *lab)]));
    Some(proposals.fold(
        found,
        |found, (help, targets)| if found.suggestion.is_none() { found.mended(help, targets) } else { found.or(help, targets) },
    ))
}

/// Whether a colour carries the hue of another.
fn echoes(lab: Lab, of: Lab) -> bool {
    lab.chroma() >= ECHO && turn(lab.hue(), of.hue()) < NEAR
}

/// A colour with just enough of another let into it to carry its hue.
fn least_echo(lab: Lab, of: Lab) -> Option<Lab> {
    let with = |share: f64| Lab::new(lab.l, lab.a + share * (of.a - lab.a), lab.b + share * (of.b - lab.b));
    (1..=16).map(|i| with(f64::from(i) * 0.05)).find(|l| echoes(*l, of))
}

/// Zones and what they become with an echo, cheapest first: none of the whites, skies and lamps, where an echo would show as dirt.
pub(crate) fn cheapest_echoes<'p>(plan: &'p Plan, zone: &PlannedZone) -> Vec<(&'p PlannedZone, Lab)> {
    let takes = |z: &&PlannedZone| {
        z.id != zone.id
            && !z.shines()
            && !z.kind(Kind::White)
            && z.facts.plane != Some(lean_piece::light::Plane::Sky)
            && (1.5..=8.8).contains(&z.value)
    };
    let mut all: Vec<(&PlannedZone, Lab, f64)> = plan
        .zones
        .iter()
        .filter(takes)
        .filter_map(|z| {
            let echo = least_echo(z.lab, zone.lab)?;
            Some((z, echo, z.area.sqrt() * ciede2000(z.lab, echo)))
        })
        .collect();
    all.sort_by(|a, b| a.2.total_cmp(&b.2));
    all.into_iter().take(PROPOSED).map(|(z, lab, _)| (z, lab)).collect()
}
