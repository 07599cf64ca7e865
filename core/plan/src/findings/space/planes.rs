//! Outdoors planes take their value from how they face the sky.

use crate::findings::plan::{Plan, PlannedZone, mean};
use crate::findings::{Finding, capital};
use crate::wording::grammar::verb;
use lean_colour::Value;
use lean_piece::light::{Exception, Falling, Kind, Plane};

/// Steps by which the order must be broken to be worth a word. A choice.
const BROKEN: f64 = 0.3;
/// Steps a mended plane lies below the one above it. A choice.
const CLEAR: f64 = 0.3;
const ORDER: [(Plane, &str); 4] =
    [(Plane::Sky, "the sky"), (Plane::Flat, "flat ground"), (Plane::Slanted, "slanted planes"), (Plane::Upright, "uprights")];

/// Sky lightest, then flat ground, slanted planes, uprights: each lit zone against the lit planes above it that it touches, or where it
/// touches none, those at its distance. Snow, a low sun, night and light from behind break this, and so does a flat design; then nothing
/// is said. What lies in shadow, what shines, water, and things of a colour of their own (white, dark, skin, fur, cloth, fruit, metal)
/// do not count.
pub(crate) fn in_order(plan: &Plan) -> Vec<Finding> {
    let silent = [Exception::Snow, Exception::LowSun, Exception::Night, Exception::Backlight];
    if !plan.lighting.outdoors || plan.excepted(&silent) || plan.lighting.falling == Falling::Flat {
        return Vec::new();
    }
    ORDER.windows(2).filter_map(|pair| broken(plan, pair[1])).collect()
}

/// Zones of a plane that are lighter than what lies above it in the order.
fn broken(plan: &Plan, (plane, name): (Plane, &str)) -> Option<Finding> {
    let at = ORDER.iter().position(|(p, _)| *p == plane)?;
    let (first, over) = ORDER[..at].iter().rev().map(|(p, first)| (*first, open_planes(plan, *p))).find(|(_, zones)| !zones.is_empty())?;
    let is_sky = first == ORDER[0].1;
    let lighter: Vec<(&PlannedZone, f64)> = open_planes(plan, plane)
        .into_iter()
        .filter_map(|z| {
            let excess = z.value - limit(plan, z, &over, is_sky)?;
            (excess >= BROKEN).then_some((z, excess))
        })
        .collect();
    let most = lighter.iter().map(|(_, e)| *e).max_by(f64::total_cmp)?;
    let zones: Vec<&PlannedZone> = lighter.iter().map(|(z, _)| *z).collect();
    let (named, count) = plan.spoken(&zones);
    let found = Finding::remark(
        "planes",
        format!("planes-{}", name.replace(' ', "-")),
        zones.iter().map(|z| z.id).collect(),
        format!("{} {} lighter than {first}", capital(&named), verb(&named, count)),
        format!(
            "Under an open sky {name} face it less than {first} and stay darker; here {} {most:.1} steps lighter. Snow, a low sun, night or light from behind would explain it: name it in the light. So would a colour of its own, as of a white wall: name its kind.",
            if count == 1 { "it is" } else { "up to" }
        ),
        "planes by their angle to the sky",
    );
    let targets = lighter.iter().map(|(z, excess)| (z.id, z.at_value(Value(z.value - excess - CLEAR)))).collect();
    Some(found.mended(format!("Lower {} by {:.1}", if count == 1 { "it" } else { "them" }, most + CLEAR), targets))
}

/// Lit zones of a plane that take their value from it.
fn open_planes<'p>(plan: &'p Plan, plane: Plane) -> Vec<&'p PlannedZone> {
    let open =
        |z: &&PlannedZone| z.facts.plane == Some(plane) && !z.shines() && !z.in_shadow() && z.facts.kind.is_none_or(|k| k == Kind::Foliage);
    plan.zones.iter().filter(open).collect()
}

/// The value a zone should stay below: the lightest part of the sky; else what it touches of the planes above that lie no nearer, or those
/// at its distance, or all of them. Where both local colours are known, a lighter one explains as much.
fn limit(plan: &Plan, zone: &PlannedZone, over: &[&PlannedZone], is_sky: bool) -> Option<f64> {
    if is_sky {
        return over.iter().map(|z| z.value).max_by(f64::total_cmp);
    }
    // Air lifts what is farther off, so it is not measured by what is nearer.
    let farther = |z: &PlannedZone| zone.facts.distance.zip(z.facts.distance).is_some_and(|(own, its)| own > its);
    let over: Vec<&PlannedZone> = over.iter().copied().filter(|z| !farther(z)).collect();
    let touching: Vec<&PlannedZone> = over.iter().copied().filter(|z| plan.touch(zone, z)).collect();
    let at_distance: Vec<&PlannedZone> = over.iter().copied().filter(|z| z.facts.distance == zone.facts.distance).collect();
    let by = [touching, at_distance, over].into_iter().find(|g| !g.is_empty())?;
    let explained = |z: &PlannedZone| match (zone.facts.local, z.facts.local) {
        (Some(own), Some(its)) => (own.value().0 - its.value().0).max(0.0),
        _ => 0.0,
    };
    mean(&by, |z| z.value + explained(z))
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::findings::tests::taken;
    use crate::staged::{Staged, lit_by, staged};
    use lean_picture::ZoneMap;
    use lean_piece::light::Tint;
    use lean_piece::{Mass, MassId, Piece};

    fn of(piece: &Piece) -> Vec<Finding> {
        in_order(&Plan::of(piece, &[], None))
    }

    fn land(values: [f64; 4]) -> Piece {
        let planes = [Plane::Sky, Plane::Flat, Plane::Slanted, Plane::Upright];
        let zones: Vec<Staged> = values.iter().zip(planes).map(|(v, p)| Staged::vt(*v, 0.0).plane(p)).collect();
        let mut piece = staged(&zones);
        piece.lighting = lit_by(Tint::Warm);
        piece.lighting.outdoors = true;
        piece
    }

    #[test]
    fn the_usual_order_is_left_alone() {
        assert!(of(&land([8.0, 6.0, 5.0, 4.0])).is_empty());
    }

    #[test]
    fn ground_lighter_than_the_sky_is_said_and_mended() {
        let piece = land([6.0, 7.5, 4.5, 3.0]);
        let found = of(&piece);
        assert_eq!(found.len(), 1);
        assert!(of(&taken(&piece, &found[0])).is_empty());
    }

    #[test]
    fn a_named_mass_stands_for_its_zones() {
        let mut piece = staged(&[6.0, 7.5, 7.2].map(|v| Staged::vt(v, 0.0).plane(Plane::Flat)));
        piece.zones[0].facts.plane = Some(Plane::Sky);
        piece.lighting.outdoors = true;
        assert_eq!(of(&piece)[0].title, "Zone 2 and zone 3 are lighter than the sky");
        let zones = piece.map().unwrap();
        let labels = zones.labels.iter().map(|z| if *z == 1 { 1 } else { 2 }).collect();
        let field = Mass { id: MassId(2), name: "stubble field".into(), plane: None, distance: None, light: None };
        piece.mass_map = Some(ZoneMap { labels, ..zones.clone() }.into());
        piece.masses = vec![Mass { id: MassId(1), name: String::new(), ..field.clone() }, field];
        assert_eq!(of(&piece)[0].title, "Stubble field is lighter than the sky");
        assert_eq!(of(&piece)[0].zones.len(), 2, "and its zones are still told");
    }

    #[test]
    fn exceptions_and_rooms_silence_it() {
        for e in [Exception::Snow, Exception::LowSun, Exception::Night, Exception::Backlight] {
            let mut piece = land([6.0, 7.5, 4.5, 3.0]);
            piece.lighting.exceptions = vec![e];
            assert!(of(&piece).is_empty(), "{e:?}");
        }
        let mut indoors = land([6.0, 7.5, 4.5, 3.0]);
        indoors.lighting.outdoors = false;
        assert!(of(&indoors).is_empty());
    }

    #[test]
    fn a_white_wall_and_a_lamp_do_not_count() {
        let mut piece = land([7.0, 6.0, 5.0, 8.0]);
        piece.zones[3].facts.kind = Some(Kind::White);
        assert!(of(&piece).is_empty());
        piece.zones[3].facts.kind = None;
        piece.zones[3].facts.role = Some(lean_piece::light::Role::SelfLuminous);
        assert!(of(&piece).is_empty());
    }
}
