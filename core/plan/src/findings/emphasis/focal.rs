//! Strongest contrast and purest colour where the eye is meant to go.

use super::eye::{pull, pull_beside};
use crate::findings::plan::{Plan, PlannedZone};
use crate::findings::{Finding, capital};
use lean_colour::{Lab, Value, moves::with_value};
use lean_piece::Importance;
use lean_piece::intent::schools::{Question, School};
use lean_piece::light::Role;

/// How much more than the focal zone another may pull before it competes. A choice.
const COMPETES: f64 = 2.2;
/// And what touches it, and so stands with it. A choice.
const BESIDE: f64 = 3.0;

/// A zone that pulls plainly more than every focal one. Silent while nothing is focal, and where the whole surface is to be alive.
pub(crate) fn strongest_where_meant(plan: &Plan) -> Vec<Finding> {
    if plan.school(Question::Emphasis) != School::OneFocalPoint {
        return Vec::new();
    }
    let focal = plan.zones.iter().filter(|z| z.importance == Importance::Focal);
    let Some((focal, strongest)) = focal.map(|z| (z, pull(plan, z))).max_by(|a, b| a.1.total_cmp(&b.1)) else { return Vec::new() };
    // Contrast along the focal point's own edge is the focal point's; the accents of light belong to what they lie on.
    let others = plan.zones.iter().filter(|z| z.importance != Importance::Focal && !z.shines() && !z.is(Role::Contact));
    let rival = others
        .map(|z| (z, pull_beside(plan, z, |n| n.importance != Importance::Focal)))
        .max_by(|a, b| a.1.total_cmp(&b.1))
        .filter(|(z, p)| *p > strongest * if plan.touch(z, focal) { BESIDE } else { COMPETES });
    rival.map(|(z, p)| competing(plan, z, p, focal, strongest)).into_iter().collect()
}

fn competing(plan: &Plan, rival: &PlannedZone, pulls: f64, focal: &PlannedZone, strongest: f64) -> Finding {
    let found = Finding::remark(
        "focal",
        format!("focal-{}", rival.id.0),
        vec![rival.id, focal.id],
        format!("{} competes with {}", capital(&rival.label), focal.label),
        format!(
            "It catches the eye {:.1} times as strongly: by contrast with its neighbours and by its colour. {}",
            pulls / strongest.max(1e-9),
            plan.calming()
        ),
        "one focal point",
    );
    let around = plan.around(rival);
    let whole: f64 = around.iter().map(|(_, n)| n).sum();
    let beside = around.iter().map(|(z, n)| z.value * n).sum::<f64>() / whole.max(1.0);
    let keep = (strongest / pulls).clamp(0.2, 0.9);
    let value = beside + (rival.value - beside) * keep;
    let calmer = with_value(Lab::new(rival.lab.l, rival.lab.a * keep, rival.lab.b * keep), Value(value));
    found.mended("Quieten it below the focal point".into(), vec![(rival.id, calmer)])
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::findings::tests::taken;
    use crate::staged::{Staged, staged};
    use lean_piece::Piece;

    fn of(piece: &Piece) -> Vec<Finding> {
        strongest_where_meant(&Plan::of(piece, &[], None))
    }

    fn yard(focal: Staged, other: Staged) -> Piece {
        staged(&[Staged::vt(7.0, -3.0), focal.focal(), Staged::vt(6.0, 0.0), other, Staged::vt(6.5, 1.0)])
    }

    #[test]
    fn a_louder_neighbour_is_said_and_quietened() {
        let piece = yard(Staged::vt(5.0, 6.0), Staged::read(25.0, 40.0, 20.0));
        let found = of(&piece);
        assert_eq!((found.len(), found[0].zones[0].0), (1, 4));
        assert!(of(&taken(&piece, &found[0])).is_empty());
    }

    #[test]
    fn a_strong_focal_point_is_left_alone() {
        assert!(of(&yard(Staged::read(30.0, 45.0, 30.0), Staged::vt(5.0, 3.0))).is_empty());
    }

    #[test]
    fn without_a_focal_point_or_in_the_other_school_nothing_is_said() {
        let none = staged(&[Staged::vt(7.0, 0.0), Staged::read(25.0, 40.0, 20.0), Staged::vt(6.0, 0.0)]);
        assert!(of(&none).is_empty());
        let mut alive = yard(Staged::vt(5.0, 6.0), Staged::read(25.0, 40.0, 20.0));
        alive.intent.schools.insert(Question::Emphasis, School::WholeAlive);
        assert!(of(&alive).is_empty());
    }
}
