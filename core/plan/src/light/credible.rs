//! How strong a colour the subject itself can have: what skin, leaves, sky and white things are made of, and what any surface is.

use lean_colour::Lab;
use lean_colour::surfaces::greatest_chroma;
use lean_piece::light::{Exception, Facts, Falling, Kind, Lighting, Plane};

/// Greatest chroma of each by what colours them, in plain daylight: blood and melanin, chlorophyll, scattered sky, water over sand; what a
/// tinted light lays on white, outdoors, by a lamp, and in shadow; what is left of a colour in black things. Choices, after colours measured in
/// photographs and charts; a low sun, a glow or a lamp at night allow `GLOW` times as much.
const SKIN: f64 = 42.0;
const FOLIAGE: f64 = 62.0;
const BLUE_SKY: f64 = 48.0;
const PALE_SKY: f64 = 26.0;
const WATER: f64 = 48.0;
const WHITE_LIT: f64 = 18.0;
const WHITE_BY_LAMP: f64 = 50.0;
const WHITE_SHADED: f64 = 24.0;
const DARK: f64 = 24.0;
const FUR: f64 = 55.0;
const METAL: f64 = 70.0;
const GLOW: f64 = 2.0;
/// Chroma by which a thing in the light may pass its own local colour, as a share and as units. Choices.
const LIGHTENED: f64 = 1.3;
const UNITS: f64 = 8.0;
/// Hues of the blue of the sky, in degrees.
const BLUE: std::ops::Range<f64> = 195.0..310.0;

/// The most chroma a zone can have for what it is, in its light; what any surface of its lightness and hue can have where nobody said.
/// What shines by itself has no limit.
pub(crate) fn most_chroma(lab: Lab, facts: &Facts, lighting: &Lighting) -> f64 {
    if matches!(facts.role, Some(lean_piece::light::Role::Highlight | lean_piece::light::Role::SelfLuminous))
        || lighting.falling == Falling::Flat
    {
        return f64::INFINITY;
    }
    let surface = greatest_in_any_light(lab);
    let glows = lighting.has(&[Exception::LowSun, Exception::FarGlow, Exception::Night]);
    let light = |most: f64| if glows { most * GLOW } else { most };
    let shaded = facts.role.is_some_and(lean_piece::light::Role::is_shadow);
    let of_kind = match (facts.kind, facts.plane) {
        (Some(Kind::Skin), _) => light(SKIN),
        (Some(Kind::Foliage), _) => light(FOLIAGE),
        (Some(Kind::Water), _) => light(WATER),
        (Some(Kind::White), _) if shaded => light(WHITE_SHADED),
        (Some(Kind::White), _) => light(if lighting.outdoors { WHITE_LIT } else { WHITE_BY_LAMP }),
        (Some(Kind::Dark), _) => light(DARK),
        (Some(Kind::Fur), _) => light(FUR),
        (Some(Kind::Metal), _) => light(METAL),
        (Some(Kind::Cloth | Kind::Fruit), _) => f64::INFINITY,
        (None, Some(Plane::Sky)) => light(if BLUE.contains(&lab.hue().0) { BLUE_SKY } else { PALE_SKY }),
        (None, _) => f64::INFINITY,
    };
    // A sky is no surface: at dusk it passes every one.
    let surface = if facts.plane == Some(Plane::Sky) { f64::INFINITY } else { surface };
    let own = facts.local.map_or(f64::INFINITY, |l| light(LIGHTENED * l.chroma() + UNITS));
    of_kind.min(surface).min(own)
}

/// The most chroma a surface seen at this lightness and hue can have, however little light falls on it: dimmed, a lighter surface loses
/// chroma only as L* + 16.
fn greatest_in_any_light(lab: Lab) -> f64 {
    let dimmed = |l: f64| greatest_chroma(l, lab.hue()) * (lab.l + 16.0) / (l + 16.0);
    (0..=20).map(|i| dimmed(lab.l + (100.0 - lab.l) * f64::from(i) / 20.0)).fold(0.0, f64::max)
}

/// The same value and hue with no more chroma than the zone can have.
pub(crate) fn credible(lab: Lab, facts: &Facts, lighting: &Lighting) -> Lab {
    let most = most_chroma(lab, facts, lighting);
    let has = lab.chroma();
    if has <= most { lab } else { Lab::new(lab.l, lab.a * most / has, lab.b * most / has) }
}

#[cfg(test)]
mod tests {
    use super::*;
    use lean_piece::light::Role;

    fn of(kind: Option<Kind>, plane: Option<Plane>) -> Facts {
        Facts { kind, plane, ..Facts::default() }
    }

    #[test]
    fn skin_and_sky_keep_within_what_they_are() {
        let plain = Lighting::default();
        let skin = credible(Lab::new(65.0, 55.0, 50.0), &of(Some(Kind::Skin), None), &plain);
        assert!((skin.chroma() - SKIN).abs() < 1e-9 && skin.l == 65.0);
        assert!(credible(Lab::new(85.0, -5.0, 80.0), &of(None, Some(Plane::Sky)), &plain).chroma() < 27.0);
        let dusk = Lighting { exceptions: vec![Exception::FarGlow], ..Lighting::default() };
        assert!(credible(Lab::new(75.0, 25.0, 40.0), &of(None, Some(Plane::Sky)), &dusk).chroma() > 45.0);
    }

    #[test]
    fn what_shines_is_left_alone_and_cloth_is_bound_by_surfaces_only() {
        let strong = Lab::new(60.0, 80.0, 60.0);
        let lamp = Facts { role: Some(Role::SelfLuminous), ..Facts::default() };
        assert_eq!(credible(strong, &lamp, &Lighting::default()), strong);
        let red = Lab::new(42.0, 60.0, 40.0);
        assert_eq!(credible(red, &of(Some(Kind::Cloth), None), &Lighting::default()), red);
        assert!(credible(Lab::new(60.0, -95.0, 60.0), &of(None, None), &Lighting::default()).chroma() < 100.0);
    }
}
