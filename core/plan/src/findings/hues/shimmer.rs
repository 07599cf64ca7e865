//! Strong opposites of equal value side by side shimmer.

use crate::findings::plan::{Plan, turn};
use crate::findings::{Finding, capital};
use lean_colour::Value;

/// Chroma of both, degrees between them, and steps within which their values are equal. Choices.
const STRONG: f64 = 30.0;
const OPPOSITE: f64 = 140.0;
const EQUAL: f64 = 0.5;
/// Share of either's border that the two must share. A choice.
const ALONG: f64 = 0.1;
/// Steps by which one is moved away from the other. A choice.
const CLEAR: f64 = 1.0;

/// Neighbours that will shimmer: asked, not forbidden.
pub(crate) fn opposites_of_equal_value(plan: &Plan) -> Vec<Finding> {
    plan.borders
        .iter()
        .filter_map(|b| {
            let (one, other) = (&plan.zones[b.one], &plan.zones[b.other]);
            let whole = |z| plan.around(z).iter().map(|(_, n)| n).sum::<f64>();
            let strong = one.lab.chroma() >= STRONG && other.lab.chroma() >= STRONG;
            let opposite = turn(one.lab.hue(), other.lab.hue()) >= OPPOSITE;
            let equal = (one.value - other.value).abs() <= EQUAL;
            if !(strong && opposite && equal) || b.length < ALONG * whole(one).min(whole(other)) {
                return None;
            }
            let (small, large) = if one.area <= other.area { (one, other) } else { (other, one) };
            let found = Finding::remark(
                "shimmer",
                format!("shimmer-{}-{}", one.id.0, other.id.0),
                vec![one.id, other.id],
                format!("{} and {} will shimmer", capital(&one.label), other.label),
                "Strong opposites of equal value tremble along their edge. Is it meant? If so, dismiss this.".into(),
                "value plan",
            );
            let to = if small.value >= large.value && small.value < 8.5 || small.value < 1.5 {
                large.value + CLEAR
            } else {
                large.value - CLEAR
            };
            let keep = 0.45;
            let calmed = lean_colour::Lab::new(small.lab.l, small.lab.a * keep, small.lab.b * keep);
            let found = found.mended(format!("Put {} at {to:.1}", small.label), vec![(small.id, small.at_value(Value(to)))]);
            Some(found.or(format!("Or calm {}", small.label), vec![(small.id, calmed)]))
        })
        .collect()
}
