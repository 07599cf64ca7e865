//! Lights and shadows take opposite temperatures.

use crate::findings::plan::{Plan, PlannedZone, made_warmer, plainly, warmer};
use crate::findings::{Finding, capital};
use crate::wording::grammar::verb;
use lean_colour::Temperature;
use lean_piece::intent::schools::{Question, School};
use lean_piece::light::{Role, Tint};

/// Units of temperature a mended shadow lies beyond the light, on the side it belongs to. A choice.
const CLEAR: f64 = 4.0;
/// Units of temperature by which a shadow leans at least where shadows always do. A choice.
const LEANS: f64 = 1.0;

/// Shadows on the lamp's own side of the light, each against the lit side of its own thing at like chroma. Silent for a neutral lamp and
/// for zones of which no lit side is found; where two things touch, what little light there is has another way to go.
pub(crate) fn of_light_and_shadow(plan: &Plan) -> Vec<Finding> {
    let shadows = plan.zones.iter().filter(|z| z.is(Role::Shadow));
    shadows.filter_map(|shadow| one(plan, shadow, plan.lit_side(shadow)?)).collect()
}

fn one(plan: &Plan, shadow: &PlannedZone, lit: &PlannedZone) -> Option<Finding> {
    let always_cool = plan.school(Question::Shadows) == School::AlwaysBlueViolet;
    let lamp = plan.lighting.lamp(shadow.facts.light)?;
    let sign = if always_cool { 1.0 } else { lamp.tint.sign() };
    let rich = plan.school(Question::ShadowChroma) == School::RichShadows;
    let against = warmer(shadow, lit, rich) * sign;
    // Where shadows are to lean to blue in any light, leaning nowhere is not enough.
    let most = if always_cool { -LEANS } else { plainly(shadow.lab, lit.lab) };
    if sign == 0.0 || against < most {
        return None;
    }
    let turned = if sign > 0.0 { "warmer" } else { "cooler" };
    let wanted = if sign > 0.0 { "cooler" } else { "warmer" };
    let why = match (always_cool, lamp.tint) {
        (true, _) => "In this school shadows lean to blue or violet under any light.",
        (_, Tint::Warm) => "Under warm light shadows look cool.",
        _ => "Under cool light shadows look warm.",
    };
    let school = if always_cool { "shadows always a little blue or violet" } else { "shadows opposite of the light" };
    let named = plan.spoken(&[shadow]).0;
    let found = Finding::remark(
        "opposition",
        format!("opposition-{}", shadow.id.0),
        vec![shadow.id, lit.id],
        format!("{} {} on the side of the light", capital(&named), verb(&named, 1)),
        match against {
            a if a >= 1.0 => format!("{why} Beyond what dimming brings it is {a:.0} {turned} than {}.", lit.label),
            _ => format!("{why} It leans no more that way than {}.", lit.label),
        },
        school,
    );
    let mended = made_warmer(shadow, lit, Temperature(-sign * CLEAR), rich);
    Some(found.mended(format!("Make it {wanted} than the light"), vec![(shadow.id, mended)]))
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::staged::{Staged, lit_by, lit_by_two, staged};
    use lean_colour::Lab;
    use lean_piece::Piece;

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
        let mended = crate::findings::tests::taken(&piece, &found[0]);
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
