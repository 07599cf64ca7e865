//! Outdoors planes take their value from how they face the sky.

use super::plan::{Plan, Seen, mean};
use super::{Finding, capital};
use crate::light::{Exception, Falling, Kind, Plane};
use crate::wording::grammar::verb;

/// Steps by which the order must be broken to be worth a word. A choice.
const BROKEN: f64 = 0.4;
/// Steps a mended plane lies below the one above it. A choice.
const CLEAR: f64 = 0.3;

/// Sky lightest, then flat ground, slanted planes, uprights. Snow, a low sun, night and light from behind break this, and so does a flat
/// design; then nothing is said. What shines, water, white and dark things do not count.
pub fn in_order(plan: &Plan) -> Vec<Finding> {
    let silent = [Exception::Snow, Exception::LowSun, Exception::Night, Exception::Backlight];
    if !plan.piece.lighting.outdoors || plan.excepted(&silent) || plan.piece.lighting.falling == Falling::Flat {
        return Vec::new();
    }
    let of = |plane: Plane| -> Vec<&Seen> {
        plan.zones
            .iter()
            .filter(|z| z.facts.plane == Some(plane) && !z.shines() && z.facts.kind.is_none_or(|k| k == Kind::Foliage))
            .collect()
    };
    let order = [(Plane::Sky, "the sky"), (Plane::Flat, "flat ground"), (Plane::Slanted, "slanted planes"), (Plane::Upright, "uprights")];
    let there: Vec<_> = order.iter().map(|(p, name)| (of(*p), *name)).filter(|(z, _)| !z.is_empty()).collect();
    there
        .windows(2)
        .filter_map(|pair| {
            let ((above, first), (below, second)) = (&pair[0], &pair[1]);
            let excess = mean(below, |z| z.value)? - mean(above, |z| z.value)?;
            if excess < BROKEN {
                return None;
            }
            let (named, count) = plan.spoken(below);
            let found = Finding::remark(
                format!("planes-{}", second.replace(' ', "-")),
                below.iter().map(|z| z.id).collect(),
                format!("{} {} lighter than {first}", capital(&named), verb(&named, count)),
                format!("Under an open sky {second} face it less than {first} and stay darker; here by {excess:.1} lighter. Snow, a low sun, night or light from behind would explain it: name it in the light."),
                "planes by their angle to the sky",
            );
            let targets = below.iter().map(|z| (z.id, z.at_value(z.value - excess - CLEAR))).collect();
            Some(found.mended(format!("Lower {} by {:.1}", if below.len() == 1 { "it" } else { "them" }, excess + CLEAR), targets))
        })
        .collect()
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::findings::staged::{Staged, lit_by, staged};
    use crate::findings::tests::taken;
    use crate::light::Tint;
    use crate::piece::{Mass, MassId, Piece};
    use lean_picture::ZoneMap;

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
        piece.zones[3].facts.role = Some(crate::light::Role::SelfLuminous);
        assert!(of(&piece).is_empty());
    }
}
