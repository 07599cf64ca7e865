//! Light that travels: what a neighbour throws back into a shadow, and where one local colour turns its hue because blood, bone, a thin edge
//! or the sky shows. Proposals with their reasons, never applied unasked.

use crate::findings::plan::{Plan, PlannedZone};
use crate::mark::Mark;
use crate::requests::{Request, ZoneTarget};
use crate::wording::capital;
use lean_colour::difference::ciede2000;
use lean_colour::lab::{WHITE_D65, Xyz};
use lean_colour::real::toward_real;
use lean_colour::{Lab, Temperature, Value};
use lean_piece::ZoneId;
use lean_piece::light::{Falling, Kind, LampFrom, Plane, Role};
use serde::Serialize;

/// CIEDE2000 by which a proposal must differ from the plan to be made. A choice.
const WORTH: f64 = 2.0;
/// Steps that light thrown back stays below the lit side. A choice.
const BELOW: f64 = 0.3;
/// Share of the light in the open that reaches a shadow where neither its lit side nor its local colour is known. A choice.
const IN_SHADOW: f64 = 0.25;

/// A colour that travelling light would give a zone.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Travels {
    /// Which zone.
    pub zone: ZoneId,
    /// What would be done.
    pub help: String,
    /// Why.
    pub why: String,
    /// The colour.
    pub mark: Mark,
    /// The change.
    pub request: Request,
}

/// All proposals, zone by zone.
pub(crate) fn travels(plan: &Plan, neutral: Temperature) -> Vec<Travels> {
    if plan.lighting.falling == Falling::Flat {
        return Vec::new();
    }
    plan.zones.iter().filter_map(|z| thrown_back(plan, z).or_else(|| turned(plan, z))).map(|p| p.told(neutral)).collect()
}

/// A proposal in the making.
struct Proposed<'p> {
    zone: &'p PlannedZone,
    target: Lab,
    help: String,
    why: String,
}

impl Proposed<'_> {
    fn told(self, neutral: Temperature) -> Travels {
        let what: String = format!("light that travels: {}", self.zone.label).chars().take(80).collect();
        let request = Request::SetTargets { targets: vec![ZoneTarget { zone: self.zone.id, target: self.target }], what };
        Travels { zone: self.zone.id, help: self.help, why: self.why, mark: Mark::of(self.target, neutral), request }
    }
}

/// `None` where the plan is there already.
fn proposed(zone: &PlannedZone, target: Lab, help: String, why: String) -> Option<Proposed<'_>> {
    let target = toward_real(target);
    (ciede2000(zone.lab, target) >= WORTH).then_some(Proposed { zone, target, help, why })
}

/// Share of the light from one plane that meets another, beside it: planes at an angle see each other, one plane does not see itself. Half
/// of what leaves a floor meets a wall that stands on it (form factor of two infinite planes at a right angle, 0.5 where they meet). The
/// rest are choices.
fn faces(one: Option<Plane>, other: Option<Plane>) -> f64 {
    use Plane::{Flat, Sky, Slanted, Upright};
    match (one, other) {
        (Some(Sky), _) | (_, Some(Sky)) => 0.0,
        (Some(Flat), Some(Upright)) | (Some(Upright), Some(Flat)) => 0.5,
        (Some(Slanted), Some(Flat | Upright)) | (Some(Flat | Upright), Some(Slanted)) => 0.35,
        (Some(a), Some(b)) if a == b => 0.15,
        _ => 0.35,
    }
}

/// A zone in reflected light with what its lit neighbours give it: their colour, by the share of its border they hold and how they face it,
/// added to the light it has as a shadow.
fn thrown_back<'p>(plan: &Plan, zone: &'p PlannedZone) -> Option<Proposed<'p>> {
    if !zone.is(Role::Reflected) {
        return None;
    }
    let around = plan.around(zone);
    let whole: f64 = around.iter().map(|(_, n)| n).sum();
    let gives = |z: &PlannedZone| z.in_light() || z.is(Role::SelfLuminous);
    let shares: Vec<(&PlannedZone, f64)> =
        around.iter().filter(|(z, _)| gives(z)).map(|(z, n)| (*z, n / whole * faces(zone.facts.plane, z.facts.plane))).collect();
    let (from, _) = shares.iter().filter(|(_, s)| *s > 0.0).max_by(|a, b| (a.1 * a.0.lab.xyz().y).total_cmp(&(b.1 * b.0.lab.xyz().y)))?;
    let base = plan.shadow_side(zone).map_or(zone.lab, |s| s.lab);
    let lit = plan.lit_side(zone);
    let open = zone.facts.local.or(lit.map(|l| l.lab)).map(|l| l.xyz().y);
    let in_shadow = open.map_or(IN_SHADOW, |y| (base.xyz().y / y.max(1e-6)).clamp(0.05, 1.0));
    let thrown = |of: fn(Xyz) -> f64| 1.0 + shares.iter().map(|(z, s)| s * of(z.lab.xyz()) / of(WHITE_D65)).sum::<f64>() / in_shadow;
    let xyz = base.xyz();
    let lifted = Xyz { x: xyz.x * thrown(|c| c.x), y: xyz.y * thrown(|c| c.y), z: xyz.z * thrown(|c| c.z) }.lab();
    let most = lit.map_or(9.5, |l| l.value - BELOW);
    let target = lean_colour::moves::with_value(lifted, Value(lifted.value().0.min(most).max(0.3)));
    let border: f64 = around.iter().filter(|(z, _)| z.id == from.id).map(|(_, n)| n / whole).sum();
    proposed(
        zone,
        target,
        format!("Let {} throw its colour into it", from.label),
        format!(
            "{} takes {:.0} % of its border and lies in the light: what it throws back has its colour, and lifts the shadow a little.",
            capital(&from.label),
            100.0 * border
        ),
    )
}

/// A turn of hue inside one local colour.
struct Turn {
    /// Hue it turns towards, in degrees, and by how many at most.
    towards: f64,
    by: f64,
    /// What becomes of the chroma.
    chroma: f64,
    help: &'static str,
    why: &'static str,
}

/// Where one local colour shows something else: by what it is and how it stands in the light. How far it turns is a choice.
fn turn_of(kind: Kind, role: Role, behind: bool) -> Option<Turn> {
    let turn = |towards, by, chroma, help, why| Some(Turn { towards, by, chroma, help, why });
    match (kind, role) {
        (Kind::Skin, Role::Halftone | Role::Reflected) if behind => turn(
            35.0,
            14.0,
            1.35,
            "Let the thin edge glow",
            "Light from behind passes through ears, fingers and rims: they turn red and strong.",
        ),
        (Kind::Skin, Role::Halftone) => turn(
            32.0,
            10.0,
            1.15,
            "Let blood show where it turns",
            "Where skin turns out of the light the blood under it shows: redder, a little stronger, the value kept.",
        ),
        (Kind::Skin, Role::Lit) => {
            turn(78.0, 8.0, 0.85, "Pale it over bone", "Where skin lies thin over bone, in full light, it pales and turns a little yellow.")
        }
        (Kind::Foliage, Role::Halftone | Role::Shadow | Role::Reflected) if behind => turn(
            108.0,
            14.0,
            1.3,
            "Let the light through the leaves",
            "Leaves lit from behind are yellower and stronger than leaves lit from the front.",
        ),
        (Kind::Foliage, Role::Shadow) => turn(
            190.0,
            12.0,
            0.85,
            "Let the sky into the shade",
            "What leaves in shade have of light comes from the sky: bluer and duller.",
        ),
        (Kind::Fruit, Role::Halftone) if behind => {
            turn(60.0, 12.0, 1.3, "Let the flesh glow", "Thin flesh lets light through: warmer and stronger along the edge.")
        }
        (Kind::Fruit, Role::Halftone) => turn(
            50.0,
            6.0,
            1.2,
            "Make it richest where it turns",
            "Neither bleached by the light nor dulled by the shadow, the turning shows the colour of the fruit most.",
        ),
        (Kind::Fur, Role::Halftone | Role::Reflected) if behind => {
            turn(65.0, 12.0, 1.3, "Let the rim of the fur glow", "Light from behind catches the tips of hair: a warm, stronger rim.")
        }
        (Kind::Fur, Role::Halftone) => {
            turn(60.0, 8.0, 1.1, "Warm it where it parts", "Where fur turns, the under-wool shows between the tips: warmer.")
        }
        _ => None,
    }
}

/// The turn a zone takes, while it still has the hue of the rest of its thing.
fn turned<'p>(plan: &Plan, zone: &'p PlannedZone) -> Option<Proposed<'p>> {
    const AS_THE_REST: f64 = 6.0;
    let (kind, role) = (zone.facts.kind?, zone.facts.role?);
    let behind = plan.lighting.lamp(zone.facts.light).is_some_and(|l| l.from == LampFrom::Behind);
    let turn = turn_of(kind, role, behind)?;
    let kin: Vec<&PlannedZone> = plan.zones.iter().filter(|z| z.id != zone.id && z.facts.kind == Some(kind)).collect();
    let hue = zone.lab.hue().0;
    let off = |h: f64| (h - hue + 180.0).rem_euclid(360.0) - 180.0;
    // A thing of one zone has nothing to turn against; one that has turned already is left alone.
    if kin.is_empty() || !kin.iter().any(|z| off(z.lab.hue().0).abs() <= AS_THE_REST) {
        return None;
    }
    let by = off(turn.towards).clamp(-turn.by, turn.by);
    let target = Lab::from_lch(zone.lab.l, zone.lab.chroma() * turn.chroma, hue + by);
    proposed(zone, target, turn.help.into(), turn.why.into())
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::staged::{Staged, lit_by, staged};
    use lean_piece::Piece;
    use lean_piece::light::{Lamp, Lighting, Tint};

    fn of(zones: &[Staged], lighting: Lighting) -> Vec<Travels> {
        let piece = Piece { lighting, ..staged(zones) };
        travels(&Plan::of(&piece, &[], None), Temperature(0.0))
    }

    /// A grey jug's shadow, its reflected light, and an orange cloth that lies in the sun beside it.
    fn jug(cloth: Lab, plane: Plane) -> Vec<Travels> {
        let zones = [
            Staged::vt(3.5, -3.0).role(Role::Shadow).plane(Plane::Upright),
            Staged::vt(4.0, -3.0).role(Role::Reflected).plane(Plane::Upright),
            Staged::read(cloth.l, cloth.a, cloth.b).role(Role::Lit).plane(plane),
        ];
        of(&zones, lit_by(Tint::Warm))
    }

    #[test]
    fn a_lit_cloth_throws_its_colour_into_the_shadow_beside_it() {
        let found = jug(Lab::new(65.0, 35.0, 50.0), Plane::Flat);
        assert_eq!((found.len(), found[0].zone), (1, ZoneId(2)));
        let (target, shadow) = (found[0].mark.lab, Staged::vt(3.5, -3.0).zone_target());
        assert!(target.temperature().0 > shadow.temperature().0 + 3.0, "warmer: {target:?}");
        assert!(target.value().0 > 3.5 && target.value().0 < Lab::new(65.0, 0.0, 0.0).value().0 - 0.29, "lifted, below the light");
    }

    #[test]
    fn a_darker_cloth_and_one_that_lies_in_the_same_plane_throw_less() {
        let warmth = |found: Vec<Travels>| found.first().map_or(f64::NEG_INFINITY, |t| t.mark.lab.b);
        let light = warmth(jug(Lab::new(65.0, 35.0, 50.0), Plane::Flat));
        assert!(light > warmth(jug(Lab::new(35.0, 25.0, 35.0), Plane::Flat)));
        assert!(light > warmth(jug(Lab::new(65.0, 35.0, 50.0), Plane::Upright)));
        assert!(jug(Lab::new(65.0, 35.0, 50.0), Plane::Sky).is_empty(), "the sky is no wall");
    }

    #[test]
    fn skin_turns_red_where_it_turns_keeps_its_value_and_is_asked_once() {
        let skin = |role, hue| {
            let lab: Lab = Lab::from_lch(62.0, 22.0, hue);
            Staged::read(lab.l, lab.a, lab.b).kind(Kind::Skin).role(role)
        };
        let lit = Staged::read(74.0, 10.0, 18.0).kind(Kind::Skin).role(Role::Lit);
        let found = of(&[lit.clone(), skin(Role::Halftone, 60.0)], lit_by(Tint::Cool));
        let turned = found.iter().find(|t| t.zone == ZoneId(2)).expect("the halftone is offered a turn");
        assert!(turned.mark.lab.hue().0 < 52.0 && (turned.mark.lab.l - 62.0).abs() < 1e-9);
        let after = of(&[lit, skin(Role::Halftone, turned.mark.lab.hue().0)], lit_by(Tint::Cool));
        assert!(after.iter().all(|t| t.zone != ZoneId(2)), "once taken it is not asked again");
    }

    #[test]
    fn leaves_lit_from_behind_turn_yellow_and_others_take_the_sky() {
        let leaf = |role| Staged::read(45.0, -20.0, 26.0).kind(Kind::Foliage).role(role);
        let zones = [leaf(Role::Lit), leaf(Role::Shadow)];
        let behind = Lighting {
            falling: Falling::One { first: Lamp { tint: Tint::Warm, from: LampFrom::Behind, hard: true } },
            ..Lighting::default()
        };
        let hue = |lighting| of(&zones, lighting).iter().find(|t| t.zone == ZoneId(2)).map(|t| t.mark.lab.hue().0).unwrap();
        let own = Lab::<lean_colour::D65>::new(45.0, -20.0, 26.0).hue().0;
        assert!(hue(behind) < own - 5.0 && hue(lit_by(Tint::Warm)) > own + 5.0);
    }

    #[test]
    fn nothing_travels_in_a_flat_design() {
        let leaf = |role| Staged::read(45.0, -20.0, 26.0).kind(Kind::Foliage).role(role);
        let flat = Lighting { falling: Falling::Flat, ..Lighting::default() };
        assert!(of(&[leaf(Role::Lit), leaf(Role::Shadow)], flat).is_empty());
    }
}
