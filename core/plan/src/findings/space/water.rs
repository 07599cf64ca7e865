//! Water carries the value of what it mirrors, the sky or a dark bank, a little changed.

use crate::findings::Finding;
use crate::findings::plan::{Plan, PlannedZone, mean};
use crate::wording::grammar::subject;
use lean_colour::Value;
use lean_piece::light::{Exception, Falling, Kind, Plane};

/// Steps water usually lies below the sky, and the most it may before it stops mirroring. Choices.
const BELOW: f64 = 0.5;
const DEEP: f64 = 3.5;

/// Steps and CIELAB units across the hues within which water goes with a thing it mirrors. Choices.
const WITH: f64 = 1.2;
const OF_ITS_HUE: f64 = 14.0;

/// Water lighter than the sky it mirrors, or so dark that it mirrors none. What mirrors a
/// thing that stands by it is judged against that. Silent at night and against the light, where glitter is lighter than anything, and in a flat design.
pub(crate) fn carries_the_sky(plan: &Plan) -> Vec<Finding> {
    if plan.excepted(&[Exception::Night, Exception::Backlight]) || plan.lighting.falling == Falling::Flat {
        return Vec::new();
    }
    let sky: Vec<&PlannedZone> = plan.zones.iter().filter(|z| z.facts.plane == Some(Plane::Sky)).collect();
    let Some(sky) = mean(&sky, |z| z.value) else { return Vec::new() };
    plan.zones.iter().filter(|z| z.kind(Kind::Water) && !z.shines() && !z.in_shadow()).filter_map(|z| one(plan, z, sky)).collect()
}

fn one(plan: &Plan, water: &PlannedZone, sky: f64) -> Option<Finding> {
    let below = sky - water.value;
    let (what, why) = match below {
        b if b < -0.1 => ("lighter than the sky", "A mirror gives back less than it gets."),
        b if b > DEEP && mirrored(plan, water).is_none() => {
            ("far darker than the sky", "Still water carries the sky; so dark it reads as a hole, unless it mirrors something dark.")
        }
        _ => return None,
    };
    let found = Finding::remark(
        "water",
        format!("water-{}", water.id.0),
        vec![water.id],
        format!("{} {what}", subject(&water.label)),
        format!("{why} Sky {sky:.1}, water {:.1}.", water.value),
        "water carries the sky",
    );
    let aim = sky - BELOW;
    Some(found.mended(format!("Put it at {aim:.1}"), vec![(water.id, water.at_value(Value(aim)))]))
}

/// An upright thing that the water goes with: a bank, a hull, a post. Its mirror is near it in value and of its hue.
fn mirrored<'p>(plan: &'p Plan, water: &PlannedZone) -> Option<&'p PlannedZone> {
    let goes_with = |z: &&PlannedZone| {
        let upright = !z.kind(Kind::Water) && z.facts.plane != Some(Plane::Sky) && z.facts.plane != Some(Plane::Flat);
        upright && (z.value - water.value).abs() <= WITH && (z.lab.a - water.lab.a).hypot(z.lab.b - water.lab.b) <= OF_ITS_HUE
    };
    plan.zones.iter().find(goes_with)
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::findings::tests::taken;
    use crate::staged::{Staged, staged};
    use lean_piece::Piece;

    fn of(piece: &Piece) -> Vec<Finding> {
        carries_the_sky(&Plan::of(piece, &[], None))
    }

    fn river(water: f64) -> Piece {
        staged(&[Staged::vt(7.5, -5.0).plane(Plane::Sky), Staged::vt(water, -6.0).kind(Kind::Water).plane(Plane::Flat)])
    }

    #[test]
    fn only_water_off_the_sky_is_said_and_mended() {
        assert!(of(&river(7.0)).is_empty() && of(&river(5.0)).is_empty());
        for v in [8.2, 3.0] {
            let piece = river(v);
            let found = of(&piece);
            assert_eq!(found.len(), 1, "{v}");
            assert!(of(&taken(&piece, &found[0])).is_empty());
        }
    }

    #[test]
    fn a_dark_bank_in_the_water_is_judged_against_the_bank() {
        let sky = Staged::vt(7.5, -5.0).plane(Plane::Sky);
        let water = Staged::vt(3.0, 4.0).kind(Kind::Water).plane(Plane::Flat);
        let bank = |value: f64| staged(&[sky.clone(), water.clone(), Staged::vt(value, 5.0).plane(Plane::Upright)]);
        assert!(of(&bank(2.4)).is_empty());
        assert_eq!(of(&bank(6.0)).len(), 1, "a light bank is no reason for dark water");
    }

    #[test]
    fn night_and_light_from_behind_and_no_sky_silence_it() {
        for e in [Exception::Night, Exception::Backlight] {
            let mut piece = river(8.5);
            piece.lighting.exceptions = vec![e];
            assert!(of(&piece).is_empty());
        }
        assert!(of(&staged(&[Staged::vt(9.0, 0.0).kind(Kind::Water)])).is_empty());
    }
}
