//! Farther is lighter, duller, cooler and lower in contrast; nearer the other way.

use super::plan::{Plan, Seen, mean};
use super::{Finding, capital};
use crate::light::{Distance, Exception, Falling, Plane};
use crate::wording::grammar::verb;
use lean_colour::temperature::SAME;

/// How much each must be turned round to be worth a word: steps, chroma, units of temperature, steps of spread. Choices.
const STEPS: f64 = 0.3;
const CHROMA: f64 = 6.0;
const SPREAD: f64 = 0.6;
const SCHOOL: &str = "distance by air";

/// Outdoors, between what is near and what is far. A far glow, snow, night and light from behind silence the parts they break.
pub fn in_order(plan: &Plan) -> Vec<Finding> {
    if !plan.piece.lighting.outdoors || plan.piece.lighting.falling == Falling::Flat {
        return Vec::new();
    }
    let at = |d: Distance| -> Vec<&Seen> {
        plan.zones.iter().filter(|z| z.facts.distance == Some(d) && z.facts.plane != Some(Plane::Sky) && !z.shines()).collect()
    };
    let (far, near) = (at(Distance::Far), at(Distance::Near));
    if far.is_empty() || near.is_empty() {
        return Vec::new();
    }
    let sky: Vec<&Seen> = plan.zones.iter().filter(|z| z.facts.plane == Some(Plane::Sky)).collect();
    [value(plan, &far, &near, &sky), chroma(plan, &far, &near), temperature(plan, &far, &near), contrast(plan, &far, &near)]
        .into_iter()
        .flatten()
        .collect()
}

fn remark(plan: &Plan, key: &str, far: &[&Seen], what: &str, why: String) -> Finding {
    let (named, count) = plan.spoken(far);
    let title = format!("{} {} {what}", capital(&named), verb(&named, count));
    Finding::remark(format!("distance-{key}"), far.iter().map(|z| z.id).collect(), title, why, SCHOOL)
}

fn value(plan: &Plan, far: &[&Seen], near: &[&Seen], sky: &[&Seen]) -> Option<Finding> {
    if plan.excepted(&[Exception::FarGlow, Exception::Snow, Exception::Night, Exception::Backlight]) {
        return None;
    }
    let (of_far, of_near) = (mean(far, |z| z.value)?, mean(near, |z| z.value)?);
    // Towards the sky's value; without a sky, towards the light.
    let sky = mean(sky, |z| z.value).unwrap_or(9.0);
    let farther_off = (sky - of_far).abs() - (sky - of_near).abs();
    if farther_off < STEPS {
        return None;
    }
    let aim = of_near + (sky - of_near) * 0.35;
    let found = remark(
        plan,
        "value",
        far,
        "no nearer to the sky's value than what is near",
        format!("Air between draws far things towards the sky at {sky:.1}. They are at {of_far:.1}, near things at {of_near:.1}."),
    );
    Some(found.mended(format!("Bring the far to about {aim:.1}"), far.iter().map(|z| (z.id, z.at_value(z.value + aim - of_far))).collect()))
}

fn chroma(plan: &Plan, far: &[&Seen], near: &[&Seen]) -> Option<Finding> {
    if plan.excepted(&[Exception::FarGlow, Exception::Night]) {
        return None;
    }
    let (of_far, of_near) = (mean(far, |z| z.lab.chroma())?, mean(near, |z| z.lab.chroma())?);
    if of_far < of_near + CHROMA {
        return None;
    }
    let keep = (of_near * 0.8 / of_far).clamp(0.2, 1.0);
    let found = remark(
        plan,
        "chroma",
        far,
        "stronger in colour than what is near",
        format!("Air dulls what is far. Chroma {of_far:.0} there, {of_near:.0} near. {}", plan.calming()),
    );
    let dulled = |z: &&Seen| (z.id, lean_colour::Lab::new(z.lab.l, z.lab.a * keep, z.lab.b * keep));
    Some(found.mended("Dull the far below the near".into(), far.iter().map(dulled).collect()))
}

fn temperature(plan: &Plan, far: &[&Seen], near: &[&Seen]) -> Option<Finding> {
    if plan.excepted(&[Exception::FarGlow, Exception::Night, Exception::Backlight]) {
        return None;
    }
    let (of_far, of_near) = (mean(far, |z| z.temperature)?, mean(near, |z| z.temperature)?);
    let warmer = of_far - of_near;
    if warmer < 2.0 * SAME {
        return None;
    }
    let found = remark(
        plan,
        "temperature",
        far,
        "warmer than what is near",
        format!(
            "Air cools what is far. Here it is {warmer:.0} warmer than the foreground. A glow far off would explain it: name it in the light."
        ),
    );
    Some(found.mended("Cool the far".into(), far.iter().map(|z| (z.id, z.warmer(-warmer - SAME))).collect()))
}

fn contrast(plan: &Plan, far: &[&Seen], near: &[&Seen]) -> Option<Finding> {
    if far.len() < 2 || near.len() < 2 || plan.excepted(&[Exception::FarGlow, Exception::Night, Exception::Backlight]) {
        return None;
    }
    let spread = |zones: &[&Seen]| {
        let values = zones.iter().map(|z| z.value);
        values.clone().fold(0.0, f64::max) - values.fold(10.0, f64::min)
    };
    let (of_far, of_near) = (spread(far), spread(near));
    if of_far < of_near + SPREAD {
        return None;
    }
    let middle = mean(far, |z| z.value)?;
    let keep = of_near * 0.8 / of_far;
    let found = remark(
        plan,
        "contrast",
        far,
        "higher in contrast than what is near",
        format!("Far values lie {of_far:.1} steps apart, near ones {of_near:.1}."),
    );
    let calmed = |z: &&Seen| (z.id, z.at_value(middle + (z.value - middle) * keep));
    Some(found.mended("Bring the far values together".into(), far.iter().map(calmed).collect()))
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::findings::staged::{Staged, lit_by, staged};
    use crate::findings::tests::taken;
    use crate::light::Tint;
    use crate::piece::Piece;

    fn keys(piece: &Piece) -> Vec<String> {
        in_order(&Plan::of(piece, &[], None)).into_iter().map(|f| f.key).collect()
    }

    fn land(far: [Staged; 2], near: [Staged; 2]) -> Piece {
        let [a, b] = far.map(|s| s.distance(Distance::Far).plane(Plane::Upright));
        let [c, d] = near.map(|s| s.distance(Distance::Near).plane(Plane::Upright));
        let mut piece = staged(&[Staged::vt(8.0, -6.0).plane(Plane::Sky).distance(Distance::Far), a, b, c, d]);
        piece.lighting = lit_by(Tint::Warm);
        piece.lighting.outdoors = true;
        piece
    }

    fn sound() -> Piece {
        land([Staged::vt(6.4, -4.0), Staged::vt(6.0, -3.0)], [Staged::vt(5.0, 8.0), Staged::vt(2.5, 10.0)])
    }

    #[test]
    fn a_sound_distance_is_left_alone() {
        assert!(keys(&sound()).is_empty());
    }

    #[test]
    fn each_part_speaks_alone_and_is_mended() {
        let turned = [
            ("distance-value", land([Staged::vt(3.0, -4.0), Staged::vt(2.8, -3.0)], [Staged::vt(6.0, 8.0), Staged::vt(5.0, 10.0)])),
            (
                "distance-chroma",
                land([Staged::read(62.0, -30.0, 10.0), Staged::read(60.0, -30.0, 10.0)], [Staged::vt(5.0, 3.0), Staged::vt(2.5, 3.0)]),
            ),
            ("distance-temperature", land([Staged::vt(6.4, 10.0), Staged::vt(6.0, 12.0)], [Staged::vt(5.0, -9.0), Staged::vt(2.5, -9.0)])),
            ("distance-contrast", land([Staged::vt(8.4, -4.0), Staged::vt(5.2, -3.0)], [Staged::vt(5.0, 8.0), Staged::vt(4.5, 10.0)])),
        ];
        for (key, piece) in turned {
            assert_eq!(keys(&piece), [key]);
            let found = in_order(&Plan::of(&piece, &[], None)).remove(0);
            assert!(keys(&taken(&piece, &found)).is_empty(), "{key} is mended");
        }
    }

    #[test]
    fn a_far_glow_is_an_exception() {
        let mut piece = land([Staged::vt(6.4, 40.0), Staged::vt(6.0, 42.0)], [Staged::vt(5.0, 3.0), Staged::vt(2.5, 3.0)]);
        assert!(!keys(&piece).is_empty());
        piece.lighting.exceptions = vec![Exception::FarGlow];
        assert!(keys(&piece).is_empty());
    }

    #[test]
    fn indoors_nothing_is_said_of_air() {
        let mut piece = land([Staged::vt(3.0, 20.0), Staged::vt(2.8, 20.0)], [Staged::vt(6.0, 0.0), Staged::vt(5.0, 0.0)]);
        piece.lighting.outdoors = false;
        assert!(keys(&piece).is_empty());
    }
}
