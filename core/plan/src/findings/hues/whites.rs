//! White things keep to one tint in each light.

use crate::findings::plan::{Plan, PlannedZone, listed, mean, turn};
use crate::findings::{Finding, capital};
use lean_colour::Lab;
use lean_piece::light::{Kind, Plane, Which};

/// CIELAB units the undertones of one light and family may lie apart, and how far where both lean the same way and one only more
/// strongly. Choices.
const APART: f64 = 8.0;
const SAME_WAY: f64 = 14.0;
/// Degrees within which two undertones lean the same way. A choice.
const ONE_WAY: f64 = 30.0;

/// White things under one lamp, lit ones and shaded ones apart, whose undertones pull in different ways. Each is judged against its own
/// colour where that is known: cream cloth and china differ by themselves. White ground outdoors, sand or snow, is no thing among them.
/// Silent without named light: nothing says then what they share.
pub(crate) fn one_undertone(plan: &Plan) -> Vec<Finding> {
    let lamps = plan.lamps();
    lamps.iter().flat_map(|(which, _)| [false, true].into_iter().filter_map(|shaded| family(plan, *which, shaded))).collect()
}

fn family(plan: &Plan, which: Which, shaded: bool) -> Option<Finding> {
    let whites: Vec<&PlannedZone> = plan
        .under(which)
        .into_iter()
        .filter(|z| z.kind(Kind::White) && !z.shines() && z.in_shadow() == shaded && !is_ground(plan, z))
        .collect();
    let own_tint = |z: &PlannedZone| {
        let local = z.facts.local.unwrap_or(Lab::new(z.lab.l, 0.0, 0.0));
        Lab::new(z.lab.l, z.lab.a - local.a, z.lab.b - local.b)
    };
    let pairs =
        whites.iter().enumerate().flat_map(|(i, a)| whites[i + 1..].iter().map(move |b| undertones_apart(own_tint(a), own_tint(b))));
    let apart = pairs.fold(0.0, f64::max);
    if apart <= 0.0 {
        return None;
    }
    let aim = (mean(&whites, |z| own_tint(z).a)?, mean(&whites, |z| own_tint(z).b)?);
    let place = if shaded { "in shadow" } else { "in the light" };
    let found = Finding::remark(
        "whites",
        format!("whites-{}-{}", if which == Which::Second { 2 } else { 1 }, if shaded { "shadow" } else { "light" }),
        whites.iter().map(|z| z.id).collect(),
        format!("{}: white things {place} with different undertones", capital(&listed(&whites))),
        format!("Whites in one light lean the same way; the undertones of these lie {apart:.0} apart."),
        "whites lean one way",
    );
    let local = |z: &PlannedZone| z.facts.local.map_or((0.0, 0.0), |l| (l.a, l.b));
    let targets = whites.iter().map(|z| (z.id, Lab::new(z.lab.l, aim.0 + local(z).0, aim.1 + local(z).1))).collect();
    Some(found.mended("Let them lean one way".into(), targets))
}

fn is_ground(plan: &Plan, zone: &PlannedZone) -> bool {
    plan.lighting.outdoors && zone.facts.plane == Some(Plane::Flat)
}

/// How far two undertones lie apart, beyond what is let pass; 0 where they go together.
fn undertones_apart(a: Lab, b: Lab) -> f64 {
    let apart = (a.a - b.a).hypot(a.b - b.b);
    let one_way = a.chroma().min(b.chroma()) >= 1.5 && turn(a.hue(), b.hue()) <= ONE_WAY;
    if apart > if one_way { SAME_WAY } else { APART } { apart } else { 0.0 }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::findings::tests::taken;
    use crate::staged::{Staged, lit_by, lit_by_two, staged};
    use lean_piece::Piece;
    use lean_piece::light::{Role, Tint};

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
    fn whites_of_different_things_and_white_sand_are_left_alone() {
        let cream = Staged::read(86.0, 3.0, 14.0).kind(Kind::White).role(Role::Lit).local(Lab::new(90.0, 2.0, 13.0));
        let china = Staged::read(88.0, 0.5, 2.0).kind(Kind::White).role(Role::Lit).local(Lab::new(93.0, 0.0, 0.0));
        assert!(of(&Piece { lighting: lit_by(Tint::Warm), ..staged(&[cream, china]) }).is_empty());
        let mut beach = Piece {
            lighting: lit_by(Tint::Warm),
            ..staged(&[white(8.5, 10.0, Role::Lit).plane(Plane::Flat), white(8.0, -6.0, Role::Lit)])
        };
        assert_eq!(of(&beach).len(), 1);
        beach.lighting.outdoors = true;
        assert!(of(&beach).is_empty());
    }

    #[test]
    fn without_light_nothing_is_known() {
        assert!(of(&staged(&[white(8.5, 8.0, Role::Lit), white(8.0, -6.0, Role::Lit)])).is_empty());
    }
}
