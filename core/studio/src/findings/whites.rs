//! White things keep to one tint in each light.

use super::plan::{Plan, Seen, listed, mean};
use super::{Finding, capital};
use crate::light::{Kind, Which};

/// Units of temperature the whites of one light and family may lie apart. A choice.
const APART: f64 = 8.0;

/// White things under one lamp, lit ones and shaded ones apart, whose undertones pull in different ways. Silent without named light: nothing says then what they share.
pub fn one_undertone(plan: &Plan) -> Vec<Finding> {
    let lamps = plan.lamps();
    lamps.iter().flat_map(|(which, _)| [false, true].into_iter().filter_map(|shaded| family(plan, *which, shaded))).collect()
}

fn family(plan: &Plan, which: Which, shaded: bool) -> Option<Finding> {
    let whites: Vec<&Seen> =
        plan.under(which).into_iter().filter(|z| z.kind(Kind::White) && !z.shines() && z.in_shadow() == shaded).collect();
    let t = |z: &&Seen| z.temperature;
    let (cool, warm) = (whites.iter().map(t).fold(f64::INFINITY, f64::min), whites.iter().map(t).fold(f64::NEG_INFINITY, f64::max));
    if whites.len() < 2 || warm - cool <= APART {
        return None;
    }
    let aim = mean(&whites, |z| z.temperature)?;
    let place = if shaded { "in shadow" } else { "in the light" };
    let found = Finding::remark(
        format!("whites-{}-{}", if which == Which::Second { 2 } else { 1 }, if shaded { "shadow" } else { "light" }),
        whites.iter().map(|z| z.id).collect(),
        format!("{}: white things {place} with different undertones", capital(&listed(&whites))),
        format!("Whites in one light lean the same way; these lie {:.0} apart in temperature.", warm - cool),
        "whites lean one way",
    );
    let targets = whites.iter().map(|z| (z.id, z.warmer(aim - z.temperature))).collect();
    Some(found.mended("Let them lean one way".into(), targets))
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::findings::staged::{Staged, lit_by, lit_by_two, staged};
    use crate::findings::tests::taken;
    use crate::light::{Role, Tint};
    use crate::piece::Piece;

    fn of(piece: &Piece) -> Vec<Finding> {
        one_undertone(&Plan::of(piece, &[], None))
    }

    fn white(v: f64, t: f64, role: Role) -> Staged {
        Staged::vt(v, t).kind(Kind::White).role(role)
    }

    #[test]
    fn whites_that_pull_apart_are_said_and_tied() {
        let piece = Piece { lighting: lit_by(Tint::Warm), ..staged(&[white(8.5, 8.0, Role::Lit), white(8.0, -6.0, Role::Lit)]) };
        let found = of(&piece);
        assert_eq!(found.len(), 1);
        assert!(of(&taken(&piece, &found[0])).is_empty());
    }

    #[test]
    fn light_and_shadow_and_two_lights_have_their_own_undertones() {
        let one = Piece { lighting: lit_by(Tint::Warm), ..staged(&[white(8.5, 8.0, Role::Lit), white(6.0, -6.0, Role::Shadow)]) };
        assert!(of(&one).is_empty());
        let two = Piece {
            lighting: lit_by_two(Tint::Warm, Tint::Cool),
            ..staged(&[white(7.5, 14.0, Role::Lit), white(8.0, -6.0, Role::Lit).second()])
        };
        assert!(of(&two).is_empty());
    }

    #[test]
    fn without_light_nothing_is_known() {
        assert!(of(&staged(&[white(8.5, 8.0, Role::Lit), white(8.0, -6.0, Role::Lit)])).is_empty());
    }
}
