//! A shadow stays darker than the light on the same thing.

use crate::findings::Finding;
use crate::findings::plan::{Plan, PlannedZone};
use crate::wording::grammar::subject;
use lean_colour::Value;
use lean_piece::light::{Kind, Role};

/// Steps a mended shadow lies below the light. A choice.
const CLEAR: f64 = 0.5;

/// Shadows as light as the lit side of what they lie on, each judged by its own: a white wall in shadow may well be lighter than a lit
/// hedge, and never lighter than the white in the light. Dark things in the light may cross. Light left inside the shadow is another
/// rule's. Silent for zones of which no lit side is found.
pub(crate) fn lit_and_shadow(plan: &Plan) -> Vec<Finding> {
    if !plan.is_lit() {
        return Vec::new();
    }
    let shadows = plan.zones.iter().filter(|z| z.is(Role::Shadow) || z.is(Role::Contact));
    shadows.filter_map(|s| one(s, plan.lit_side(s)?)).collect()
}

fn one(shadow: &PlannedZone, lit: &PlannedZone) -> Option<Finding> {
    if shadow.value < lit.value || (lit.kind(Kind::Dark) && !shadow.kind(Kind::Dark)) {
        return None;
    }
    let found = Finding::remark(
        "overlap",
        format!("overlap-{}-{}", lit.id.0, shadow.id.0),
        vec![shadow.id, lit.id],
        format!("{} as light as {} in the light", subject(&shadow.label), lit.label),
        format!("Shadow at {:.1}, light at {:.1}: where the two families cross, the light falls apart.", shadow.value, lit.value),
        "value plan",
    );
    let below = lit.value - CLEAR;
    Some(found.mended(format!("Lower {} to {below:.1}", shadow.label), vec![(shadow.id, shadow.at_value(Value(below)))]))
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::findings::tests::taken;
    use crate::staged::{Staged, lit_by, lit_by_two, staged};
    use lean_piece::Piece;
    use lean_piece::light::Tint;

    fn of(piece: &Piece) -> Vec<Finding> {
        lit_and_shadow(&Plan::of(piece, &[], None))
    }

    fn lit_of(zones: &[Staged]) -> Piece {
        Piece { lighting: lit_by(Tint::Warm), ..staged(zones) }
    }

    #[test]
    fn families_that_cross_are_said_and_parted() {
        let piece = lit_of(&[Staged::vt(5.0, 5.0).role(Role::Lit), Staged::vt(5.6, -5.0).role(Role::Shadow)]);
        let found = of(&piece);
        assert_eq!(found.len(), 1);
        assert!(of(&taken(&piece, &found[0])).is_empty());
    }

    #[test]
    fn families_apart_are_left_alone() {
        assert!(of(&lit_of(&[Staged::vt(6.0, 5.0).role(Role::Lit), Staged::vt(4.0, -5.0).role(Role::Shadow)])).is_empty());
    }

    #[test]
    fn a_white_thing_in_shadow_may_be_lighter_than_a_dark_thing_in_light() {
        let white = Staged::vt(6.5, -3.0).role(Role::Shadow).kind(Kind::White);
        assert!(of(&lit_of(&[Staged::vt(6.0, 5.0).role(Role::Lit), white])).is_empty());
        let dark = Staged::vt(3.0, 5.0).role(Role::Lit).kind(Kind::Dark);
        assert!(of(&lit_of(&[dark, Staged::vt(4.0, -3.0).role(Role::Shadow)])).is_empty());
    }

    #[test]
    fn what_stands_in_another_light_is_not_compared() {
        let mut piece = staged(&[Staged::vt(4.5, 5.0).role(Role::Lit), Staged::vt(5.0, -5.0).role(Role::Shadow).second()]);
        piece.lighting = lit_by_two(Tint::Warm, Tint::Cool);
        assert!(of(&piece).is_empty());
        piece.lighting = lean_piece::light::Lighting::default();
        assert!(of(&piece).is_empty(), "without light there are no families");
    }
}
