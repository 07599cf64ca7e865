//! Too much of one strong hue in one area.

use crate::findings::Finding;
use crate::findings::plan::{Plan, PlannedZone};
use crate::wording::grammar::subject;
use lean_colour::Lab;
use lean_piece::intent::schools::{Question, School};

/// Chroma from which a hue is strong, and what it may fill of the picture; the stronger, the less. Choices.
const STRONG: f64 = 45.0;
const FILLS: f64 = 0.27;
/// What a large strong area is calmed to. A choice.
const CALM: f64 = 0.55;

/// Large zones of strong colour. Proposed: calm it, or let a small quiet zone carry the strong hue instead.
pub(crate) fn of_one_hue(plan: &Plan) -> Vec<Finding> {
    plan.zones.iter().filter_map(|z| one(plan, z)).collect()
}

fn one(plan: &Plan, zone: &PlannedZone) -> Option<Finding> {
    let has = zone.lab.chroma();
    if has < STRONG || zone.area * (has / STRONG) < FILLS || zone.shines() {
        return None;
    }
    let school = if plan.school(Question::Emphasis) == School::WholeAlive { "whole surface alive" } else { "one strong hue at a time" };
    let found = Finding::remark(
        "too-much",
        format!("too-much-{}", zone.id.0),
        vec![zone.id],
        format!("{} too much of one strong hue", subject(&zone.label)),
        format!(
            "{:.0} % of the picture at chroma {has:.0}: so large, it leaves nothing for the rest to be measured by. {}",
            100.0 * zone.area,
            plan.calming()
        ),
        school,
    );
    let found = found.mended("Calm it".into(), vec![(zone.id, Lab::new(zone.lab.l, zone.lab.a * CALM, zone.lab.b * CALM))]);
    Some(match quiet_and_small(plan, zone) {
        Some(other) => {
            let (a, b) = swapped(zone, other);
            found.or(format!("Swap its hue with {}", other.label), vec![(zone.id, a), (other.id, b)])
        }
        None => found,
    })
}

/// The quietest small zone beside it, of a value that can carry a hue.
fn quiet_and_small<'p>(plan: &'p Plan, zone: &PlannedZone) -> Option<&'p PlannedZone> {
    let fit = |z: &&PlannedZone| {
        z.area <= 0.4 * zone.area && !z.shines() && (2.0..=8.5).contains(&z.value) && z.lab.chroma() < 0.6 * zone.lab.chroma()
    };
    plan.beside(zone).into_iter().filter(fit).min_by(|a, b| a.lab.chroma().total_cmp(&b.lab.chroma()))
}

/// Two zones with their hues and chromas exchanged, each at its own value.
pub(crate) fn swapped(one: &PlannedZone, other: &PlannedZone) -> (Lab, Lab) {
    let given = |to: &PlannedZone, from: &PlannedZone| lean_colour::real::toward_real(Lab::new(to.lab.l, from.lab.a, from.lab.b));
    (given(one, other), given(other, one))
}
