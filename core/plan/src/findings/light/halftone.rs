//! What turns away lies between the light and the shadow of its thing.

use crate::findings::Finding;
use crate::findings::plan::{Plan, PlannedZone};
use crate::wording::grammar::subject;
use lean_colour::Value;
use lean_piece::light::Role;

/// Steps outside the two from which it is worth a word. A choice.
const OUTSIDE: f64 = 0.1;

/// Halftones lighter than the lit side or darker than the shadow of their own thing.
pub(crate) fn between(plan: &Plan) -> Vec<Finding> {
    if !plan.is_lit() {
        return Vec::new();
    }
    plan.zones.iter().filter(|z| z.is(Role::Halftone)).filter_map(|z| one(plan, z)).collect()
}

fn one(plan: &Plan, half: &PlannedZone) -> Option<Finding> {
    let lit = plan.lit_side(half).filter(|z| z.is(Role::Lit));
    let shadow = plan.shadow_side(half);
    let (beyond, what, mended) = match (lit, shadow) {
        (Some(l), s) if half.value > l.value + OUTSIDE => (l, "lighter than", s.map_or(l.value - 0.7, |s| (l.value + s.value) / 2.0)),
        (l, Some(s)) if half.value < s.value - OUTSIDE => (s, "darker than", l.map_or(s.value + 0.7, |l| (l.value + s.value) / 2.0)),
        _ => return None,
    };
    let found = Finding::remark(
        "halftone",
        format!("halftone-{}", half.id.0),
        vec![half.id, beyond.id],
        format!("{} {what} {}", subject(&half.label), beyond.label),
        format!(
            "What turns away from the light lies between light and shadow: it is at {:.1}, {} at {:.1}.",
            half.value, beyond.label, beyond.value
        ),
        "value plan",
    );
    Some(found.mended(format!("Put it at {mended:.1}"), vec![(half.id, half.at_value(Value(mended)))]))
}
