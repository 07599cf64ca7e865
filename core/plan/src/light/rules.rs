//! Targets from the rules alone, when there is no reference to read or the painter wants none of its values.

use super::key::Reach;
use lean_colour::moves::{with_temperature, with_value};
use lean_colour::{Lab, Temperature, Value};
use lean_piece::intent::schools::{Question, School};
use lean_piece::light::{Distance, Facts, Kind, Plane, Role};
use lean_piece::{Piece, Zone, ZoneId};

/// Values of planes under an open sky, before light and shadow: sky lightest, flat ground next, slanted next, uprights darkest. Choices.
fn plane_value(plane: Option<Plane>, outdoors: bool) -> f64 {
    match plane {
        Some(Plane::Sky) => 8.0,
        Some(Plane::Flat) if outdoors => 6.4,
        Some(Plane::Slanted) if outdoors => 5.2,
        Some(Plane::Upright) if outdoors => 4.2,
        _ => 5.5,
    }
}

/// Steps a light role lifts or lowers a zone. Choices.
fn role_steps(role: Option<Role>) -> f64 {
    match role {
        Some(Role::Lit) => 1.2,
        Some(Role::Halftone) | None => 0.0,
        Some(Role::Reflected) => -1.0,
        Some(Role::Shadow) => -1.7,
        Some(Role::Contact) => -2.8,
        Some(Role::Highlight | Role::SelfLuminous) => 3.0,
    }
}

/// Units of temperature a light gives to what it falls on, and takes from the shadow. A choice.
const TINGE: f64 = 9.0;
/// Share of the way to the sky's value that far things go, and what is left of their chroma. Choices.
const HAZE: f64 = 0.35;
const FAR_CHROMA: f64 = 0.55;
/// What is left of the chroma of a shadow where shadows are greyed, and what it becomes where they are the richest place. Choices.
const GREYED: f64 = 0.7;
const RICH: f64 = 1.3;
/// Units of temperature far things lose and near things gain. A choice.
const AIR: f64 = 5.0;

/// Targets of all zones from planes, distance, light role and kind of thing, on each zone's local colour, fitted into reach.
pub fn targets(piece: &Piece, reach: Reach) -> Vec<(ZoneId, Lab)> {
    let sky = sky_value(piece);
    piece.zones.iter().map(|z| (z.id, target(piece, z, sky, reach))).collect()
}

fn sky_value(piece: &Piece) -> f64 {
    let any = piece.zones.iter().any(|z| z.facts.plane == Some(Plane::Sky));
    if any { plane_value(Some(Plane::Sky), true) } else { 7.0 }
}

fn target(piece: &Piece, zone: &Zone, sky: f64, reach: Reach) -> Lab {
    let facts = zone.facts;
    let local = facts.local.unwrap_or(zone.reading.lab);
    let is_sky = facts.plane == Some(Plane::Sky);
    let mut value = plane_value(facts.plane, piece.lighting.outdoors);
    if !is_sky {
        value = of_kind(facts, value, sky) + role_steps(facts.role);
    }
    let far = facts.distance == Some(Distance::Far) && !is_sky;
    if far {
        value += (sky - value) * HAZE;
    }
    let value = value.clamp(reach.darkest, reach.lightest);
    let chroma = if far { FAR_CHROMA } else { 1.0 } * of_shadow(piece, facts);
    let lab = with_value(Lab::new(local.l, local.a * chroma, local.b * chroma), Value(value));
    with_temperature(lab, Temperature(lab.temperature().0 + tinge(piece, facts) + air(facts, is_sky)))
}

/// Colour of a part of a thing in a light role, from its local colour: lifted or lowered by `strength` of what the role does, its chroma and
/// temperature moved as the school and the light have it.
pub(crate) fn in_role(piece: &Piece, facts: Facts, local: Lab, strength: f64, reach: Reach) -> Lab {
    let value = (local.value().0 + strength * role_steps(facts.role)).clamp(reach.darkest, reach.lightest);
    let chroma = of_shadow(piece, facts);
    let lab = with_value(Lab::new(local.l, local.a * chroma, local.b * chroma), Value(value));
    with_temperature(lab, Temperature(lab.temperature().0 + strength.min(1.0) * tinge(piece, facts)))
}

/// What a shadow's chroma is multiplied with.
fn of_shadow(piece: &Piece, facts: Facts) -> f64 {
    match piece.intent.school(Question::ShadowChroma, piece.brief.medium) {
        _ if !facts.role.is_some_and(Role::is_shadow) => 1.0,
        School::RichShadows => RICH,
        _ => GREYED,
    }
}

fn of_kind(facts: Facts, value: f64, sky: f64) -> f64 {
    match facts.kind {
        Some(Kind::Water) => sky - 0.5,
        Some(Kind::White) => value.max(6.6),
        Some(Kind::Dark) => value.min(3.4),
        Some(Kind::Foliage) => value - 0.4,
        Some(Kind::Skin | Kind::Fur | Kind::Metal | Kind::Cloth | Kind::Fruit) | None => value,
    }
}

fn tinge(piece: &Piece, facts: Facts) -> f64 {
    let Some(lamp) = piece.lighting.lamp(facts.light) else { return 0.0 };
    let always_cool = piece.intent.school(Question::Shadows, piece.brief.medium) == School::AlwaysBlueViolet;
    match facts.role {
        Some(r) if r.is_shadow() && always_cool => -TINGE,
        Some(r) if r.is_shadow() => -TINGE * lamp.tint.sign(),
        Some(Role::Halftone) => TINGE * 0.4 * lamp.tint.sign(),
        Some(_) => TINGE * lamp.tint.sign(),
        None => 0.0,
    }
}

fn air(facts: Facts, is_sky: bool) -> f64 {
    match facts.distance {
        Some(Distance::Far) if !is_sky => -AIR,
        Some(Distance::Near) => AIR,
        _ => 0.0,
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::staged::{Staged, lit_by, staged};
    use lean_piece::light::Tint;

    const REACH: Reach = Reach { darkest: 1.0, lightest: 9.5, lightest_layer: 9.5 };

    #[test]
    fn planes_stand_in_their_order_and_light_is_opposed_by_shadow() {
        let grey = || Staged::read(55.0, 0.0, 0.0);
        let mut piece = staged(&[
            grey().plane(Plane::Sky),
            grey().plane(Plane::Flat).role(Role::Halftone),
            grey().plane(Plane::Slanted).role(Role::Halftone),
            grey().plane(Plane::Upright).role(Role::Lit),
            grey().plane(Plane::Upright).role(Role::Shadow),
            grey().plane(Plane::Upright).role(Role::Contact),
        ]);
        piece.lighting = lit_by(Tint::Warm);
        piece.lighting.outdoors = true;
        let t = targets(&piece, REACH);
        let v = |i: usize| t[i].1.value().0;
        assert!(v(0) > v(1) && v(1) > v(2) && v(2) > v(4) && v(4) > v(5));
        assert!(t[3].1.temperature().0 > 4.0 && t[4].1.temperature().0 < -4.0);
        assert!(t.iter().all(|(_, lab)| (REACH.darkest..=REACH.lightest).contains(&lab.value().0)));
    }

    #[test]
    fn shadows_are_greyed_or_the_richest_place_as_the_school_has_it() {
        let red = |role| Staged::read(50.0, 30.0, 15.0).plane(Plane::Upright).role(role);
        let mut piece = staged(&[red(Role::Lit), red(Role::Shadow)]);
        let chroma = |piece: &Piece| targets(piece, REACH).iter().map(|(_, lab)| lab.chroma()).collect::<Vec<_>>();
        let greyed = chroma(&piece);
        assert!(greyed[1] < 0.8 * greyed[0], "{greyed:?}");
        piece.intent.schools.insert(Question::ShadowChroma, School::RichShadows);
        let rich = chroma(&piece);
        assert!(rich[1] > rich[0], "{rich:?}");
    }

    #[test]
    fn far_things_are_nearer_the_sky_and_duller() {
        let green = |d| Staged::read(45.0, -20.0, 25.0).plane(Plane::Upright).role(Role::Halftone).distance(d);
        let mut piece = staged(&[Staged::read(80.0, 0.0, -5.0).plane(Plane::Sky), green(Distance::Far), green(Distance::Near)]);
        piece.lighting.outdoors = true;
        let t = targets(&piece, REACH);
        assert!(t[1].1.value().0 > t[2].1.value().0 + 0.5);
        assert!(t[1].1.chroma() < 0.8 * t[2].1.chroma());
        assert!(t[1].1.temperature().0 < t[2].1.temperature().0);
    }
}
