//! Values used against values that could be.

use crate::findings::Finding;
use crate::findings::plan::Plan;
use crate::requests::Request;
use lean_piece::light::Key;
use lean_piece::light::{Exception, Falling};

/// Share of the reachable range below which a plan is narrow. A choice.
const NARROW: f64 = 0.5;

/// A plan that uses less than half of the values that can be reached. Silent where a high or low key or a soft contrast is wished for, at night, in a flat design, and while the reach is not known.
pub(crate) fn used(plan: &Plan) -> Vec<Finding> {
    let wished = plan.intent.key() != Key::AsRead && plan.intent.key() != Key::Full || plan.intent.contrast() < 0.0;
    let Some(reach) = plan.reach.filter(|_| !wished && plan.lighting.falling != Falling::Flat && !plan.excepted(&[Exception::Night]))
    else {
        return Vec::new();
    };
    if plan.zones.len() < 3 {
        return Vec::new();
    }
    let values = plan.zones.iter().map(|z| z.value);
    let (dark, light) = (values.clone().fold(10.0, f64::min), values.fold(0.0, f64::max));
    let (used, whole) = (light - dark, reach.lightest - reach.darkest);
    if whole <= 0.0 || used >= NARROW * whole {
        return Vec::new();
    }
    let mut found = Finding::remark(
        "range",
        "range",
        Vec::new(),
        format!("The plan uses {used:.1} of {whole:.1} steps"),
        format!(
            "From {dark:.1} to {light:.1}, where {:.1} to {:.1} could be reached. A high or low key or a soft mood would be a reason.",
            reach.darkest, reach.lightest
        ),
        "value plan",
    );
    found.help = "Spread the values as read over the whole range".into();
    found.suggestion = Some(Request::MapValues { key: Key::Full, differences: None });
    vec![found]
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::light::key::Reach;
    use crate::staged::{Staged, staged};
    use lean_piece::Piece;
    use lean_piece::intent::moods::Mood;

    const REACH: Reach = Reach { darkest: 1.5, lightest: 9.5, lightest_layer: 9.0 };

    fn of(piece: &Piece) -> Vec<Finding> {
        used(&Plan::of(piece, &[], Some(REACH)))
    }

    fn greys(values: [f64; 3]) -> Piece {
        staged(&values.map(|v| Staged::vt(v, 0.0)))
    }

    #[test]
    fn a_narrow_plan_is_said_and_a_wide_one_is_not() {
        assert_eq!(of(&greys([5.0, 6.0, 6.5])).len(), 1);
        assert!(of(&greys([2.0, 6.0, 8.5])).is_empty());
    }

    #[test]
    fn a_wished_key_a_soft_mood_and_night_are_reasons() {
        let mood = |key, contrast| Mood { word: "still".into(), scheme: None, key, contrast };
        for m in [mood(Some(Key::High), 0.0), mood(Some(Key::Low), 0.0), mood(None, -0.5)] {
            let mut piece = greys([5.0, 6.0, 6.5]);
            piece.intent.moods = vec![m];
            assert!(of(&piece).is_empty());
        }
        let mut night = greys([2.0, 2.5, 4.0]);
        night.lighting.exceptions = vec![Exception::Night];
        assert!(of(&night).is_empty());
        assert!(used(&Plan::of(&greys([5.0, 6.0, 6.5]), &[], None)).is_empty());
    }
}
