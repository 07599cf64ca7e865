//! What the set in use cannot do, and what it does only once.

use crate::findings::plan::Plan;
use crate::findings::{Finding, capital};
use crate::mixes::{Well, ZoneMix};
use crate::requests::Request;
use lean_piece::Piece;
use lean_piece::intent::schools::{Question, School};

/// A value the set cannot reach: half a step or more off.
pub fn beyond_the_set(piece: &Piece, mix: &ZoneMix) -> Option<Finding> {
    const FAR: f64 = 0.5;
    if mix.delta_value.abs() < FAR {
        return None;
    }
    let (side, limit) = if mix.delta_value > 0.0 { ("dark", "darkest") } else { ("light", "lightest") };
    let near = mix.given.value.0;
    Some(Finding {
        rule: "beyond",
        also: Vec::new(),
        key: format!("beyond-{}", mix.zone.0),
        zones: vec![mix.zone],
        title: format!("{} cannot go this {side}", capital(&piece.zone_label(mix.zone))),
        why: format!("Of what this set can mix near that colour, the {limit} is {near:.1}; {:.1} is wanted.", mix.wanted.value.0),
        school: "value plan".into(),
        help: format!("Plan it at {near:.1}"),
        suggestion: Some(Request::SetTarget { zone: mix.zone, target: mix.given.lab }),
    })
}

/// Two neighbours planned so alike that they will read as one shape. Silent where a drawn contour lies between them, and within the
/// shadows of one light, where edges are lost on purpose.
pub fn read_as_one(plan: &Plan) -> Vec<Finding> {
    const ALIKE: f64 = 0.2;
    if plan.school(Question::Outline) == School::DrawnContours {
        return Vec::new();
    }
    let pairs = plan.borders.iter().map(|b| (&plan.zones[b.one], &plan.zones[b.other]));
    pairs
        .filter(|(a, b)| {
            let colour = (a.lab.a - b.lab.a).hypot(a.lab.b - b.lab.b);
            (a.value - b.value).abs() < ALIKE && colour < lean_colour::temperature::SAME && !(a.in_shadow() && b.in_shadow())
        })
        .map(|(a, b)| {
            let found = Finding::remark(
                "as-one",
                format!("as-one-{}-{}", a.id.0, b.id.0),
                vec![a.id, b.id],
                format!("{} and {} will read as one", capital(&a.label), b.label),
                "Neighbours of equal value and colour lose the edge between them.".into(),
                "value plan",
            );
            found.helped("Join them on the picture, or move one in the field.")
        })
        .collect()
}

/// A strong colour used in one zone only.
pub fn appears_once(piece: &Piece, well: &Well, mixes: &[ZoneMix]) -> Option<Finding> {
    const STRONG: f64 = 28.0;
    if well.zones != 1 || piece.zones.len() < 4 {
        return None;
    }
    let zone = mixes.iter().find(|m| m.mix.parts.iter().any(|p| p.pigment == well.pigment))?;
    if zone.given.lab.chroma() < STRONG {
        return None;
    }
    Some(Finding {
        rule: "once",
        also: Vec::new(),
        key: format!("once-{}", well.pigment),
        zones: vec![zone.zone],
        title: format!("{} appears once", capital(&well.name)),
        why: "An accent alone can look dropped in. Most painters let a little of it into one or two other zones.".into(),
        school: "no hue on its own".into(),
        help: "Let a touch of it into a neighbour or into a far zone.".into(),
        suggestion: None,
    })
}
