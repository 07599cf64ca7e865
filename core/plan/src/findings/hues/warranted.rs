//! A colour stronger than the subject can have.

use crate::findings::Finding;
use crate::findings::plan::{Plan, PlannedZone};
use crate::light::credible::most_chroma;
use crate::wording::grammar::subject;
use lean_colour::Lab;
use lean_piece::intent::schools::{Question, School};
use lean_piece::light::{Facts, Plane};

/// Chroma by which a limit must be passed to be worth a word. A choice.
const OVER: f64 = 3.0;

/// Zones stronger than what they are made of can be in this light, and stronger than their reference shows them. Where hues are chosen rather than matched, only what no surface at all
/// could be.
pub(crate) fn by_the_subject(plan: &Plan) -> Vec<Finding> {
    let chosen = plan.school(Question::Reference) == School::ValuesOnly || plan.school(Question::Begin) == School::HuesFirst;
    plan.zones.iter().filter_map(|z| one(plan, z, chosen)).collect()
}

fn one(plan: &Plan, zone: &PlannedZone, chosen: bool) -> Option<Finding> {
    let unnamed = Facts { kind: None, local: None, plane: zone.facts.plane.filter(|p| *p == Plane::Sky && !chosen), ..zone.facts };
    let facts = if chosen { unnamed } else { zone.facts };
    let (has, most) = (zone.lab.chroma(), most_chroma(zone.lab, &facts, &plan.lighting).max(zone.read_chroma));
    if has <= most + OVER {
        return None;
    }
    let found = Finding::remark(
        "warranted",
        format!("warranted-{}", zone.id.0),
        vec![zone.id],
        format!("{} stronger than it can be", subject(&zone.label)),
        format!("Chroma {has:.0}, where what it is made of gives about {most:.0} in this light. {}", plan.calming()),
        "match the reference",
    );
    let keep = 0.95 * most / has;
    Some(found.mended("Calm it to what it can be".into(), vec![(zone.id, Lab::new(zone.lab.l, zone.lab.a * keep, zone.lab.b * keep))]))
}
