//! The lightest shadow stays darker than the darkest light.

use super::Finding;
use super::plan::{Plan, Seen};
use crate::light::{Kind, Role};
use crate::wording::grammar::subject;

/// Steps a mended shadow lies below the light. A choice.
const CLEAR: f64 = 0.5;
/// Local colours this many steps apart are not compared. A choice.
const OTHER_THINGS: f64 = 1.5;

/// Under each lamp: a shadow as light as something lit. White things in shadow and dark things in light may cross; so may things whose own
/// colours lie far apart. Light left inside the shadow is another rule's.
pub fn lit_and_shadow(plan: &Plan) -> Vec<Finding> {
    plan.lamps().into_iter().filter_map(|(which, _)| worst(&plan.under(which))).collect()
}

fn worst(under: &[&Seen]) -> Option<Finding> {
    let lit = under.iter().filter(|z| z.is(Role::Lit) && !z.kind(Kind::Dark));
    let pairs = lit.flat_map(|l| under.iter().filter(|z| dark(z)).map(move |s| (*l, *s)));
    let (lit, shadow) = pairs
        .filter(|(l, s)| s.value >= l.value && comparable(l, s))
        .max_by(|a, b| (a.1.value - a.0.value).total_cmp(&(b.1.value - b.0.value)))?;
    let found = Finding::remark(
        format!("overlap-{}-{}", lit.id.0, shadow.id.0),
        vec![shadow.id, lit.id],
        format!("{} as light as {} in the light", subject(&shadow.label), lit.label),
        format!("Shadow at {:.1}, light at {:.1}: where the two families cross, the light falls apart.", shadow.value, lit.value),
        "value plan",
    );
    let below = lit.value - CLEAR;
    Some(found.mended(format!("Lower {} to {below:.1}", shadow.label), vec![(shadow.id, shadow.at_value(below))]))
}

fn dark(z: &Seen) -> bool {
    (z.is(Role::Shadow) || z.is(Role::Contact)) && !z.kind(Kind::White)
}

fn comparable(lit: &Seen, shadow: &Seen) -> bool {
    match (lit.facts.local, shadow.facts.local) {
        (Some(a), Some(b)) => (a.value().0 - b.value().0).abs() < OTHER_THINGS,
        _ => true,
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::findings::staged::{Staged, lit_by, lit_by_two, staged};
    use crate::findings::tests::taken;
    use crate::light::Tint;
    use crate::piece::Piece;

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
        piece.lighting = crate::light::Lighting::default();
        assert!(of(&piece).is_empty(), "without light there are no families");
    }
}
