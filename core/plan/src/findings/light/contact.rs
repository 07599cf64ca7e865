//! Where two things touch, the shadow is darkest.

use crate::findings::Finding;
use crate::findings::plan::{Plan, PlannedZone};
use crate::wording::grammar::{it, subject};
use lean_colour::Value;
use lean_piece::light::{Kind, Role};

/// Steps a mended contact lies below the shadow around it. A choice.
const CLEAR: f64 = 0.5;

/// A contact shadow lighter than the shadow beside it; with none beside it, than any under the same lamp. Dark things do not count.
pub(crate) fn darkest(plan: &Plan) -> Vec<Finding> {
    if !plan.is_lit() {
        return Vec::new();
    }
    plan.zones.iter().filter(|z| z.is(Role::Contact)).filter_map(|z| one(plan, z)).collect()
}

fn one(plan: &Plan, contact: &PlannedZone) -> Option<Finding> {
    let usual = |z: &&PlannedZone| z.is(Role::Shadow) && !z.kind(Kind::Dark);
    let mut around: Vec<&PlannedZone> = plan.beside(contact).into_iter().filter(usual).collect();
    if around.is_empty() {
        around = plan.under(contact.facts.light).into_iter().filter(usual).collect();
    }
    let darker = around.into_iter().min_by(|a, b| a.value.total_cmp(&b.value))?;
    if contact.value <= darker.value {
        return None;
    }
    let found = Finding::remark(
        "contact",
        format!("contact-{}", contact.id.0),
        vec![contact.id, darker.id],
        format!("{} lighter than the shadow around {}", subject(&contact.label), it(&contact.label)),
        format!(
            "Where things touch no light gets in: it wants to be darker than {} at {:.1}; it is {:.1}.",
            darker.label, darker.value, contact.value
        ),
        "value plan",
    );
    let below = darker.value - CLEAR;
    Some(found.mended(format!("Lower it to {below:.1}"), vec![(contact.id, contact.at_value(Value(below)))]))
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::findings::tests::taken;
    use crate::staged::{Staged, lit_by, staged};
    use lean_piece::Piece;
    use lean_piece::light::Tint;

    fn of(piece: &Piece) -> Vec<Finding> {
        darkest(&Plan::of(piece, &[], None))
    }

    fn cup(shadow: f64, contact: f64) -> Piece {
        let zones = [
            Staged::vt(7.0, 0.0).role(Role::Lit),
            Staged::vt(shadow, 4.0).role(Role::Shadow),
            Staged::vt(contact, 4.0).role(Role::Contact),
        ];
        Piece { lighting: lit_by(Tint::Cool), ..staged(&zones) }
    }

    #[test]
    fn a_light_contact_is_said_and_mended_and_a_dark_one_is_not() {
        let piece = cup(3.5, 4.0);
        let found = of(&piece);
        assert_eq!(found.len(), 1);
        assert!(of(&taken(&piece, &found[0])).is_empty());
        assert!(of(&cup(3.5, 2.5)).is_empty());
    }

    #[test]
    fn a_black_pot_is_no_measure_for_a_contact() {
        let mut piece = cup(1.2, 2.5);
        piece.zones[1].facts.kind = Some(Kind::Dark);
        assert!(of(&piece).is_empty());
    }
}
