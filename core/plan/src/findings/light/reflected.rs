//! Reflected light stays inside the shadow, and carries the colour of the neighbour it comes from.

use crate::findings::plan::{Plan, PlannedZone};
use crate::findings::{Finding, capital};
use lean_colour::{Lab, Value};
use lean_piece::light::{Kind, Role};

/// Steps mended reflected light lies below the darkest light. A choice.
const CLEAR: f64 = 0.3;
/// Chroma from which a neighbour gives its colour on. A choice.
const GIVES: f64 = 15.0;
/// Share of the neighbour's colour that is given on, when mended. A choice.
const GIVEN: f64 = 0.3;

/// Reflected light as light as something lit under its lamp, or leaning away from its lit neighbour. What shines and dark things in the light are no measure.
pub(crate) fn inside_the_shadow(plan: &Plan) -> Vec<Finding> {
    if !plan.is_lit() {
        return Vec::new();
    }
    plan.zones.iter().filter(|z| z.is(Role::Reflected)).flat_map(|z| [too_light(plan, z), other_hue(plan, z)]).flatten().collect()
}

fn too_light(plan: &Plan, reflected: &PlannedZone) -> Option<Finding> {
    let others = plan.under(reflected.facts.light).into_iter().filter(|z| z.is(Role::Lit) && !z.kind(Kind::Dark));
    // The light on its own thing; where none is found, the darkest passage in the light.
    let lit = plan.lit_side(reflected).or_else(|| others.min_by(|a, b| a.value.total_cmp(&b.value)))?;
    if reflected.value < lit.value {
        return None;
    }
    let found = Finding::remark(
        "reflected-value",
        format!("reflected-value-{}", reflected.id.0),
        vec![reflected.id, lit.id],
        format!("{} leaves the shadow", capital(&reflected.label)),
        format!(
            "Reflected light is weaker than the light itself: {:.1} against {:.1} at {}. A light rim left on purpose is a choice.",
            reflected.value, lit.value, lit.label
        ),
        "value plan",
    );
    let below = lit.value - CLEAR;
    Some(found.mended(format!("Lower it to {below:.1}"), vec![(reflected.id, reflected.at_value(Value(below)))]))
}

fn other_hue(plan: &Plan, reflected: &PlannedZone) -> Option<Finding> {
    let beside = plan.beside(reflected);
    let neighbour =
        beside.iter().filter(|z| z.in_light() && z.lab.chroma() >= GIVES).max_by(|a, b| a.lab.chroma().total_cmp(&b.lab.chroma()))?;
    let shadow = beside.iter().find(|z| z.is(Role::Shadow))?;
    let lean = (reflected.lab.a - shadow.lab.a, reflected.lab.b - shadow.lab.b);
    let toward = lean.0 * neighbour.lab.a + lean.1 * neighbour.lab.b;
    // Leaning plainly away: half the smallest step of temperature that is seen, along the neighbour's colour.
    if toward / neighbour.lab.chroma() > -1.5 {
        return None;
    }
    let found = Finding::remark(
        "reflected-hue",
        format!("reflected-hue-{}", reflected.id.0),
        vec![reflected.id, neighbour.id],
        format!("{} does not carry the colour of {}", capital(&reflected.label), neighbour.label),
        "Reflected light takes the colour of its source; here it leans the other way.".into(),
        "reflected light carries its neighbour",
    );
    let given = Lab::new(reflected.lab.l, shadow.lab.a + GIVEN * neighbour.lab.a, shadow.lab.b + GIVEN * neighbour.lab.b);
    Some(found.mended(format!("Let some of {} into it", neighbour.label), vec![(reflected.id, given)]))
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::findings::tests::taken;
    use crate::staged::{Staged, lit_by, staged};
    use lean_piece::Piece;
    use lean_piece::light::Tint;

    fn keys(piece: &Piece) -> Vec<String> {
        inside_the_shadow(&Plan::of(piece, &[], None)).into_iter().map(|f| f.key).collect()
    }

    /// A shadow, light thrown back into it, and the orange cloth it comes from, in this order.
    fn jug(reflected: Staged) -> Piece {
        let zones =
            [Staged::vt(3.0, -6.0).role(Role::Shadow), reflected.role(Role::Reflected), Staged::read(62.0, 30.0, 40.0).role(Role::Lit)];
        Piece { lighting: lit_by(Tint::Warm), ..staged(&zones) }
    }

    #[test]
    fn light_thrown_back_as_it_should_be_is_left_alone() {
        assert!(keys(&jug(Staged::vt(4.0, 4.0))).is_empty());
    }

    #[test]
    fn too_light_and_the_wrong_colour_are_said_and_mended() {
        for (key, stage) in [("reflected-value-2", Staged::vt(6.6, 4.0)), ("reflected-hue-2", Staged::vt(4.0, -16.0))] {
            let piece = jug(stage);
            assert_eq!(keys(&piece), [key]);
            let found = inside_the_shadow(&Plan::of(&piece, &[], None)).remove(0);
            assert!(keys(&taken(&piece, &found)).is_empty(), "{key}");
        }
    }

    #[test]
    fn a_grey_neighbour_gives_nothing_on() {
        let zones =
            [Staged::vt(3.0, -6.0).role(Role::Shadow), Staged::vt(4.0, -16.0).role(Role::Reflected), Staged::vt(6.5, 3.0).role(Role::Lit)];
        assert!(keys(&Piece { lighting: lit_by(Tint::Warm), ..staged(&zones) }).is_empty());
    }
}
