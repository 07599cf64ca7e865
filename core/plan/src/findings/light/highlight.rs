//! A highlight is the lamp mirrored: lighter than what it lies on.

use crate::findings::Finding;
use crate::findings::plan::{Plan, PlannedZone};
use crate::wording::grammar::subject;
use lean_colour::Value;
use lean_piece::light::Role;

/// Steps a mended highlight lies above its thing. A choice.
const CLEAR: f64 = 1.0;

/// Highlights no lighter than what they lie on.
pub(crate) fn above_its_thing(plan: &Plan) -> Vec<Finding> {
    plan.zones.iter().filter(|z| z.is(Role::Highlight)).filter_map(|z| one(z, plan.lies_on(z).or_else(|| plan.lit_side(z))?)).collect()
}

fn one(highlight: &PlannedZone, thing: &PlannedZone) -> Option<Finding> {
    if highlight.value > thing.value {
        return None;
    }
    let found = Finding::remark(
        "highlight",
        format!("highlight-{}", highlight.id.0),
        vec![highlight.id, thing.id],
        format!("{} no lighter than {}", subject(&highlight.label), thing.label),
        format!(
            "A highlight mirrors the lamp and outshines what it lies on: it is at {:.1}, {} at {:.1}.",
            highlight.value, thing.label, thing.value
        ),
        "value plan",
    );
    let above = (thing.value + CLEAR).min(9.8);
    Some(found.mended(format!("Lift it to {above:.1}"), vec![(highlight.id, highlight.at_value(Value(above)))]))
}
