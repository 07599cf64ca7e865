//! Lights and shadows take opposite temperatures.

use super::plan::{Plan, Seen, mean};
use super::{Finding, capital};
use crate::intent::schools::{Question, School};
use crate::light::{Role, Tint, Which};
use crate::wording::grammar::verb;
use lean_colour::temperature::SAME;

/// Units of temperature a mended shadow lies beyond the light. A choice.
const CLEAR: f64 = 8.0;

/// Under each lamp: shadows that are on the lamp's own side of its light. Silent for a neutral lamp, without both families, and while the
/// difference could be one of local colour alone.
pub fn of_light_and_shadow(plan: &Plan) -> Vec<Finding> {
    let always_cool = plan.school(Question::Shadows) == School::AlwaysBlueViolet;
    plan.lamps()
        .into_iter()
        .filter_map(|(which, lamp)| {
            let tint = if always_cool { Tint::Warm } else { lamp.tint };
            one_lamp(plan, which, tint, always_cool)
        })
        .collect()
}

fn one_lamp(plan: &Plan, which: Which, tint: Tint, always_cool: bool) -> Option<Finding> {
    let sign = tint.sign();
    let under = plan.under(which);
    let lit: Vec<&Seen> = under.iter().copied().filter(|z| z.is(Role::Lit)).collect();
    let shadow: Vec<&Seen> = under.iter().copied().filter(|z| z.is(Role::Shadow) || z.is(Role::Contact)).collect();
    let (warm, cool) = (mean(&lit, relative)?, mean(&shadow, relative)?);
    let apart = sign * (warm - cool);
    if sign == 0.0 || apart > -SAME {
        return None;
    }
    let (light, dark) = if sign > 0.0 { ("warm", "cool") } else { ("cool", "warm") };
    let shift = -sign * (CLEAR - apart);
    let which_light = if which == Which::Second { "the second light" } else { "the light" };
    let school = if always_cool { "shadows always a little blue or violet" } else { "shadows opposite of the light" };
    let why = if always_cool {
        format!("They are {:.0} warmer than what is lit; in this school shadows lean to blue or violet under any light.", cool - warm)
    } else {
        format!(
            "Under {light} light shadows look {dark}. Here they are {:.0} {} than what is lit.",
            -apart,
            if sign > 0.0 { "warmer" } else { "cooler" }
        )
    };
    let key = format!("opposition-{}", if which == Which::Second { 2 } else { 1 });
    let (named, count) = plan.spoken(&shadow);
    let found = Finding::remark(
        key,
        shadow.iter().map(|z| z.id).collect(),
        format!("{} {} on the side of {which_light}", capital(&named), verb(&named, count)),
        why,
        school,
    );
    let targets = shadow.iter().map(|z| (z.id, z.warmer(shift))).collect();
    Some(found.mended(format!("Make {} {dark}er than the light", if shadow.len() == 1 { "it" } else { "them" }), targets))
}

/// Temperature against the zone's own local colour, where one was given: a red wall in shadow is still a red wall.
fn relative(z: &Seen) -> f64 {
    z.temperature - z.facts.local.map_or(0.0, |l| l.temperature().0)
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::findings::staged::{Staged, lit_by, lit_by_two, staged};
    use crate::piece::Piece;
    use lean_colour::Lab;

    fn of(piece: &Piece) -> Vec<Finding> {
        of_light_and_shadow(&Plan::of(piece, &[], None))
    }

    fn pair(lit: f64, shadow: f64, tint: Tint) -> Piece {
        let mut piece = staged(&[Staged::vt(7.0, lit).role(Role::Lit), Staged::vt(4.0, shadow).role(Role::Shadow)]);
        piece.lighting = lit_by(tint);
        piece
    }

    #[test]
    fn warm_light_with_warmer_shadow_is_said_and_mended() {
        let piece = pair(6.0, 14.0, Tint::Warm);
        let found = of(&piece);
        assert_eq!(found.len(), 1);
        let mended = super::super::tests::taken(&piece, &found[0]);
        assert!(of(&mended).is_empty());
        assert!(mended.zones[1].target.temperature().0 < mended.zones[0].target.temperature().0);
    }

    #[test]
    fn a_sound_plan_is_left_alone_under_warm_and_cool_light() {
        assert!(of(&pair(10.0, -6.0, Tint::Warm)).is_empty());
        assert!(of(&pair(-8.0, 6.0, Tint::Cool)).is_empty());
        assert!(of(&pair(6.0, 14.0, Tint::Neutral)).is_empty());
        assert_eq!(of(&pair(10.0, -6.0, Tint::Cool)).len(), 1);
    }

    #[test]
    fn local_colours_that_were_given_do_not_count() {
        let brick = Lab::new(45.0, 30.0, 25.0);
        let snow = Lab::new(90.0, 0.0, -2.0);
        let mut piece = staged(&[Staged::vt(8.5, 3.0).role(Role::Lit).local(snow), Staged::vt(3.5, 20.0).role(Role::Shadow).local(brick)]);
        piece.lighting = lit_by(Tint::Warm);
        assert!(of(&piece).is_empty());
    }

    #[test]
    fn two_lights_are_judged_apart() {
        let mut piece = staged(&[
            Staged::vt(6.5, 18.0).role(Role::Lit),
            Staged::vt(3.0, -4.0).role(Role::Shadow),
            Staged::vt(7.5, -8.0).role(Role::Lit).second(),
            Staged::vt(4.0, 6.0).role(Role::Shadow).second(),
        ]);
        piece.lighting = lit_by_two(Tint::Warm, Tint::Cool);
        assert!(of(&piece).is_empty());
        piece.zones[3].target = Staged::vt(4.0, -18.0).zone_target();
        let found = of(&piece);
        assert_eq!((found.len(), found[0].zones[0].0), (1, 4));
    }

    #[test]
    fn the_school_of_blue_shadows_sees_it_its_own_way() {
        let mut piece = pair(-8.0, 6.0, Tint::Cool);
        piece.intent.schools.insert(Question::Shadows, School::AlwaysBlueViolet);
        let found = of(&piece);
        assert!(found[0].why.contains("blue or violet"));
        piece.zones[1].target = Staged::vt(4.0, -14.0).zone_target();
        assert!(of(&piece).is_empty());
    }
}
