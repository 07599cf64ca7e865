//! What gives light is lighter than what it lights.

use crate::findings::Finding;
use crate::findings::plan::{Plan, PlannedZone, listed};
use crate::wording::grammar::subject;
use lean_colour::Value;
use lean_piece::light::Role;

/// Steps a mended lamp lies above what is around it. A choice.
const CLEAR: f64 = 1.0;
/// Share of its border along which something must be lighter to be worth a word. A choice.
const ALONG: f64 = 0.15;

/// Lamps, flames and screens darker than what lies around them.
pub(crate) fn outshines(plan: &Plan) -> Vec<Finding> {
    plan.zones.iter().filter(|z| z.is(Role::SelfLuminous)).filter_map(|z| one(plan, z)).collect()
}

fn one(plan: &Plan, lamp: &PlannedZone) -> Option<Finding> {
    let around = plan.around(lamp);
    let whole: f64 = around.iter().map(|(_, n)| n).sum();
    let plain = around.into_iter().filter(|(z, n)| !z.shines() && *n >= ALONG * whole).map(|(z, _)| z);
    let lighter: Vec<&PlannedZone> = plain.filter(|z| z.value >= lamp.value).collect();
    let wall = lighter.iter().max_by(|a, b| a.value.total_cmp(&b.value))?;
    let found = Finding::remark(
        "luminous",
        format!("luminous-{}", lamp.id.0),
        vec![lamp.id, wall.id],
        format!("{} no lighter than {}", subject(&lamp.label), wall.label),
        format!("What gives light has to outshine what it falls on, or it reads as paint: {:.1} against {:.1}.", lamp.value, wall.value),
        "value plan",
    );
    let lifted = (wall.value + CLEAR).min(9.7);
    let lowered = (lamp.value - CLEAR).max(0.5);
    let found = found.mended(format!("Lift it to {lifted:.1}"), vec![(lamp.id, lamp.at_value(Value(lifted)))]);
    Some(
        found.or(
            format!("Lower {} to {lowered:.1}", listed(&lighter)),
            lighter.iter().map(|z| (z.id, z.at_value(Value(lowered)))).collect(),
        ),
    )
}
