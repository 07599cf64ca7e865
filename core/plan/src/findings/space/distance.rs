//! What is far gives way to the air: it nears the sky's value and loses chroma, warmth and contrast.

use crate::findings::plan::{Plan, PlannedZone, mean, warmer_at_like_chroma};
use crate::findings::{Finding, capital};
use crate::wording::grammar::verb;
use lean_colour::temperature::SAME;
use lean_colour::{Lab, Temperature, Value};
use lean_piece::Importance;
use lean_piece::light::{Distance, Exception, Falling, Kind, Plane};

/// How much each must be turned round to be worth a word: steps, chroma, steps of spread; and the steps that another plane explains.
/// Choices.
const STEPS: f64 = 0.3;
const CHROMA: f64 = 5.0;
const SPREAD: f64 = 0.6;
const OTHER_PLANE: f64 = 1.5;
/// Share of the picture below which a strong near spot is an accent, no measure for what is far. A choice.
const SPOT: f64 = 0.03;
const SCHOOL: &str = "distance by air";

/// Outdoors, between what is near and what is far: lit planes against lit planes, where there are any. A far glow, snow, night and light from behind silence the parts they break.
pub(crate) fn in_order(plan: &Plan) -> Vec<Finding> {
    if !plan.lighting.outdoors || plan.lighting.falling == Falling::Flat {
        return Vec::new();
    }
    let at = |d: Distance| -> Vec<&PlannedZone> {
        let counts = |z: &&PlannedZone| z.facts.distance == Some(d) && z.facts.plane != Some(Plane::Sky) && !z.shines();
        plan.zones.iter().filter(counts).collect()
    };
    let (far, near) = (at(Distance::Far), at(Distance::Near));
    if far.is_empty() || near.is_empty() {
        return Vec::new();
    }
    let sky: Vec<&PlannedZone> = plan.zones.iter().filter(|z| z.facts.plane == Some(Plane::Sky)).collect();
    let (lit_far, lit_near) = alike(&far, &near);
    [
        value(plan, &lit_far, &lit_near, &sky),
        chroma(plan, &lit_far, &near),
        temperature(plan, &lit_far, &lit_near),
        contrast(plan, &far, &near),
    ]
    .into_iter()
    .flatten()
    .collect()
}

/// What can be compared: what is lit on both sides, else what is in shadow on both, else all.
fn alike<'z>(far: &[&'z PlannedZone], near: &[&'z PlannedZone]) -> (Vec<&'z PlannedZone>, Vec<&'z PlannedZone>) {
    let of = |zones: &[&'z PlannedZone], shadow: bool| -> Vec<&'z PlannedZone> {
        zones.iter().copied().filter(|z| z.in_shadow() == shadow).collect()
    };
    [false, true]
        .into_iter()
        .map(|shadow| (of(far, shadow), of(near, shadow)))
        .find(|(f, n)| !f.is_empty() && !n.is_empty())
        .unwrap_or_else(|| (far.to_vec(), near.to_vec()))
}

fn remark(plan: &Plan, rule: &'static str, far: &[&PlannedZone], what: &str, why: String) -> Finding {
    let (named, count) = plan.spoken(far);
    let title = format!("{} {} {what}", capital(&named), verb(&named, count));
    Finding::remark(rule, rule, far.iter().map(|z| z.id).collect(), title, why, SCHOOL)
}

fn value(plan: &Plan, far: &[&PlannedZone], near: &[&PlannedZone], sky: &[&PlannedZone]) -> Option<Finding> {
    if plan.excepted(&[Exception::FarGlow, Exception::Snow, Exception::Night, Exception::Backlight]) {
        return None;
    }
    // Towards the sky's value; without a sky, towards the light.
    let sky = mean(sky, |z| z.value).unwrap_or(9.0);
    let (off, of_near, of_far) = comparisons(far, near)
        .into_iter()
        .map(|(f, n, allowed)| ((sky - f).abs() - (sky - n).abs() - allowed, n, f))
        .max_by(|a, b| a.0.total_cmp(&b.0))?;
    if off < STEPS {
        return None;
    }
    let aim = of_near + (sky - of_near) * 0.35;
    let found = remark(
        plan,
        "distance-value",
        far,
        "no nearer to the sky's value than what is near",
        format!("Air between draws far things towards the sky at {sky:.1}. They are at {of_far:.1}, near things at {of_near:.1}."),
    );
    Some(found.mended(
        format!("Bring the far to about {aim:.1}"),
        far.iter().map(|z| (z.id, z.at_value(Value(z.value + aim - of_far)))).collect(),
    ))
}

/// Mean values of far and near, plane against the same plane and leaves against leaves; where nothing of the sort is shared, all against
/// all, with what another plane may explain.
fn comparisons(far: &[&PlannedZone], near: &[&PlannedZone]) -> Vec<(f64, f64, f64)> {
    let of = |zones: &[&PlannedZone], (plane, kind): (Plane, Option<Kind>)| {
        let zones: Vec<&PlannedZone> = zones.iter().copied().filter(|z| z.facts.plane == Some(plane) && z.facts.kind == kind).collect();
        mean(&zones, |z| z.value)
    };
    let sorts = [Plane::Flat, Plane::Slanted, Plane::Upright].into_iter().flat_map(|p| [(p, None), (p, Some(Kind::Foliage))]);
    let shared: Vec<(f64, f64, f64)> = sorts.filter_map(|s| Some((of(far, s)?, of(near, s)?, 0.0))).collect();
    if !shared.is_empty() {
        return shared;
    }
    let planes = |zones: &[&PlannedZone]| zones.iter().any(|z| z.facts.plane.is_some());
    let allowed = if planes(far) && planes(near) { OTHER_PLANE } else { 0.0 };
    mean(far, |z| z.value).zip(mean(near, |z| z.value)).map(|(f, n)| (f, n, allowed)).into_iter().collect()
}

/// Far zones stronger than anything near that is more than a spot, or than everything near of their own kind. Water has its colour from the
/// sky: a far sea may be stronger than near rocks, though not than near water.
fn chroma(plan: &Plan, far: &[&PlannedZone], near: &[&PlannedZone]) -> Option<Finding> {
    if plan.excepted(&[Exception::FarGlow, Exception::Night]) {
        return None;
    }
    let strongest = |of: &mut dyn Iterator<Item = &&PlannedZone>| of.map(|z| z.lab.chroma()).max_by(f64::total_cmp);
    let limit = |z: &PlannedZone| {
        let water = z.kind(Kind::Water) && !near.iter().any(|n| n.kind(Kind::Water));
        let kin = strongest(&mut near.iter().filter(|n| n.facts.kind.is_some() && n.facts.kind == z.facts.kind));
        kin.or_else(|| strongest(&mut near.iter().filter(|n| n.area >= SPOT && n.importance != Importance::Focal)))
            .or_else(|| strongest(&mut near.iter()))
            .filter(|_| !water)
    };
    let over: Vec<(&PlannedZone, f64)> =
        far.iter().filter_map(|z| limit(z).filter(|most| z.lab.chroma() >= most + CHROMA).map(|most| (*z, most))).collect();
    let (worst, most) = over.iter().max_by(|a, b| a.0.lab.chroma().total_cmp(&b.0.lab.chroma()))?;
    let zones: Vec<&PlannedZone> = over.iter().map(|(z, _)| *z).collect();
    let found = remark(
        plan,
        "distance-chroma",
        &zones,
        "stronger in colour than what is near",
        format!("Air dulls what is far. Chroma {:.0} there, {most:.0} near. {}", worst.lab.chroma(), plan.calming()),
    );
    let dulled = over.iter().map(|(z, most)| {
        let keep = (most * 0.8 / z.lab.chroma()).clamp(0.1, 1.0);
        (z.id, Lab::new(z.lab.l, z.lab.a * keep, z.lab.b * keep))
    });
    Some(found.mended("Dull the far below the near".into(), dulled.collect()))
}

/// Far zones warmer at like chroma than what is near, taken together.
fn temperature(plan: &Plan, far: &[&PlannedZone], near: &[&PlannedZone]) -> Option<Finding> {
    if plan.excepted(&[Exception::FarGlow, Exception::Night, Exception::Backlight, Exception::LowSun]) {
        return None;
    }
    let (of_far, of_near) = (together(far, 0.0)?, together(near, 0.0)?);
    let warmer = warmer_at_like_chroma(of_far, of_near);
    if warmer < 2.0 * SAME {
        return None;
    }
    let found = remark(
        plan,
        "distance-temperature",
        far,
        "warmer than what is near",
        format!(
            "Air cools what is far. Here, at like chroma, it is {warmer:.0} warmer than the foreground. A glow far off would explain it: name it in the light."
        ),
    );
    let enough = |by: &f64| together(far, -by).is_some_and(|f| warmer_at_like_chroma(f, of_near) < SAME);
    let by = (1..=60).map(f64::from).find(enough).unwrap_or(warmer + SAME);
    Some(found.mended("Cool the far".into(), far.iter().map(|z| (z.id, z.warmer(Temperature(-by)))).collect()))
}

/// The mean colour of zones by area, all made warmer (+) or cooler (−).
fn together(zones: &[&PlannedZone], by: f64) -> Option<Lab> {
    Some(Lab::new(mean(zones, |z| z.lab.l)?, mean(zones, |z| z.warmer(Temperature(by)).a)?, mean(zones, |z| z.warmer(Temperature(by)).b)?))
}

fn contrast(plan: &Plan, far: &[&PlannedZone], near: &[&PlannedZone]) -> Option<Finding> {
    if far.len() < 2 || near.len() < 2 || plan.excepted(&[Exception::FarGlow, Exception::Night, Exception::Backlight]) {
        return None;
    }
    let spread = |zones: &[&PlannedZone]| {
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
        "distance-contrast",
        far,
        "higher in contrast than what is near",
        format!("Far values lie {of_far:.1} steps apart, near ones {of_near:.1}."),
    );
    let calmed = |z: &&PlannedZone| (z.id, z.at_value(Value(middle + (z.value - middle) * keep)));
    Some(found.mended("Bring the far values together".into(), far.iter().map(calmed).collect()))
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::findings::tests::taken;
    use crate::staged::{Staged, lit_by, staged};
    use lean_piece::Piece;
    use lean_piece::light::Tint;

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
    fn a_far_sea_may_be_stronger_than_near_rocks_but_not_than_near_water() {
        let sea = || Staged::read(50.0, -8.0, -30.0).kind(Kind::Water);
        let rocks = land([sea(), sea()], [Staged::vt(5.0, 3.0), Staged::vt(2.5, 3.0)]);
        assert!(!keys(&rocks).contains(&"distance-chroma".to_owned()));
        let water = land([sea(), sea()], [Staged::read(45.0, -4.0, -12.0).kind(Kind::Water), Staged::vt(2.5, 3.0)]);
        assert!(keys(&water).contains(&"distance-chroma".to_owned()));
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
