//! The order in which zones catch the eye, and where it stays.

use crate::findings::plan::{Plan, PlannedZone};
use crate::findings::{Finding, capital};
use lean_piece::intent::schools::{Question, School};
use lean_piece::{Importance, ZoneId};

/// How far ahead of the next the first may be before the eye stays there. A choice.
const STUCK: f64 = 1.8;
/// Share of the picture below which a zone is a spot. A choice.
const SPOT: f64 = 0.04;

/// How strongly a zone pulls: contrast with what is beside it, by chroma, more when it is small and alone of its sort.
pub(crate) fn pull(plan: &Plan, zone: &PlannedZone) -> f64 {
    pull_beside(plan, zone, |_| true)
}

/// How strongly a zone pulls by its contrast with some of what is beside it.
pub(crate) fn pull_beside(plan: &Plan, zone: &PlannedZone, counts: impl Fn(&PlannedZone) -> bool) -> f64 {
    let around: Vec<(&PlannedZone, f64)> = plan.around(zone).into_iter().filter(|(z, _)| counts(z)).collect();
    let whole: f64 = around.iter().map(|(_, n)| n).sum();
    if whole <= 0.0 {
        return 0.0;
    }
    let mean = |of: &dyn Fn(&PlannedZone) -> f64| around.iter().map(|(z, n)| n * of(z)).sum::<f64>() / whole;
    let contrast = mean(&|z| (z.value - zone.value).abs());
    let colour = mean(&|z| (z.lab.a - zone.lab.a).hypot(z.lab.b - zone.lab.b));
    let alike = plan
        .zones
        .iter()
        .filter(|z| z.id != zone.id && (z.value - zone.value).abs() < 0.7 && (z.lab.a - zone.lab.a).hypot(z.lab.b - zone.lab.b) < 10.0);
    let echoed: f64 = alike.map(|z| z.area).sum();
    let isolation = 1.0 / (1.0 + 8.0 * echoed) / (0.5 + 2.0 * zone.area);
    (contrast + colour / 12.0) * (1.0 + zone.lab.chroma() / 40.0) * isolation
}

/// Zones by their pull, strongest first, with the pull.
pub fn order_of_pull(plan: &Plan) -> Vec<(ZoneId, f64)> {
    let mut all: Vec<(ZoneId, f64)> = plan.zones.iter().map(|z| (z.id, pull(plan, z))).collect();
    all.sort_by(|a, b| b.1.total_cmp(&a.1));
    all
}

/// A spot that pulls so much more than everything else that the eye stays there, unless it is meant to.
pub(crate) fn gets_stuck(plan: &Plan) -> Vec<Finding> {
    let order = order_of_pull(plan);
    let [(first, strongest), (_, next), _, ..] = order[..] else { return Vec::new() };
    let Some(zone) = plan.zones.iter().find(|z| z.id == first) else { return Vec::new() };
    let meant = zone.importance == Importance::Focal && plan.school(Question::Emphasis) == School::OneFocalPoint;
    if meant || zone.shines() || zone.area > SPOT || strongest < STUCK * next {
        return Vec::new();
    }
    let found = Finding::remark(
        "stuck",
        format!("stuck-{}", first.0),
        vec![first],
        format!("The eye stays at {}", zone.label),
        format!(
            "It pulls {:.1} times as much as the next. Mark it as focal if that is meant, or let an echo of it appear elsewhere. {}",
            strongest / next.max(1e-9),
            plan.calming()
        ),
        if plan.school(Question::Emphasis) == School::WholeAlive { "whole surface alive" } else { "one focal point" },
    );
    let around = plan.around(zone);
    let whole: f64 = around.iter().map(|(_, n)| n).sum();
    let beside = around.iter().map(|(z, n)| z.value * n).sum::<f64>() / whole.max(1.0);
    let calmer = lean_colour::Lab::new(zone.lab.l, zone.lab.a * 0.6, zone.lab.b * 0.6);
    let calmer = lean_colour::moves::with_value(calmer, lean_colour::Value(zone.value + (beside - zone.value) * 0.45));
    vec![found.mended(format!("{} it", capital("calm")), vec![(first, calmer)])]
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::staged::{Staged, staged};
    use lean_piece::Piece;

    /// Quiet greys with one spot of red, small.
    fn spotted(spot: Staged) -> Piece {
        let mut piece = staged(&[Staged::vt(6.0, 0.0), Staged::vt(6.3, -2.0), spot, Staged::vt(6.1, 1.0), Staged::vt(5.8, -1.0)]);
        piece.zones[2].reading.area = 0.02;
        piece
    }

    fn of(piece: &Piece) -> Vec<Finding> {
        gets_stuck(&Plan::of(piece, &[], None))
    }

    #[test]
    fn the_red_spot_catches_the_eye_first_and_holds_it() {
        let piece = spotted(Staged::read(40.0, 45.0, 30.0));
        assert_eq!(order_of_pull(&Plan::of(&piece, &[], None))[0].0, ZoneId(3));
        let found = of(&piece);
        assert_eq!((found.len(), found[0].zones[0].0), (1, 3));
    }

    #[test]
    fn a_focal_spot_is_meant_and_a_quiet_one_holds_nothing() {
        assert!(of(&spotted(Staged::read(40.0, 45.0, 30.0).focal())).is_empty());
        assert!(of(&spotted(Staged::vt(5.6, 2.0))).is_empty());
    }

    #[test]
    fn where_the_whole_surface_is_alive_even_a_focal_spot_holds_the_eye() {
        let mut piece = spotted(Staged::read(40.0, 45.0, 30.0).focal());
        piece.intent.schools.insert(Question::Emphasis, School::WholeAlive);
        assert_eq!(of(&piece).len(), 1);
    }
}
