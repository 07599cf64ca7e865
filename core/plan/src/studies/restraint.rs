//! What a study may not do to a zone, whatever its scheme: grey things stay quiet, white things keep one undertone, skin and sky stay
//! what they can be.

use crate::light::credible::credible;
use crate::wall::loudness;
use lean_colour::Lab;
use lean_piece::light::{Kind, Plane, Which};
use lean_piece::wall::Heard;
use lean_piece::{Piece, Zone};

/// Most chroma of a zone that is planned grey, and how it grows with what is planned; less for what is nearly white, where a tint shows
/// at once. Choices.
const GREY: f64 = 8.0;
const GROWS: f64 = 1.8;
const NEARLY_WHITE: f64 = 8.0;
const PALE_GREY: f64 = 5.0;
const PALE_GROWS: f64 = 1.2;
/// Most chroma of white things and of dark things in a study. Choices.
const WHITE: f64 = 9.0;
const DARK: f64 = 14.0;
/// Hues skin may take, degrees: from rose to olive; in shadow it follows the scheme. A choice.
const SKIN: std::ops::RangeInclusive<f64> = 15.0..=85.0;

/// Wanted colours of a scheme with each zone's limits put on them. Where a mood asks for just this scheme (`asked`) it may turn skin and sky, nothing
/// else. On a wall where the piece is meant to be quiet its chroma is held down as a whole.
pub(crate) fn restrained(piece: &Piece, mut colours: Vec<Lab>, asked: bool) -> Vec<Lab> {
    for (zone, colour) in piece.zones.iter().zip(&mut colours) {
        *colour = at_most(*colour, ceiling(zone));
        if !asked {
            *colour = believable(piece, zone, *colour);
        }
        *colour = piece.within_rules(*colour);
    }
    one_undertone(piece, &mut colours);
    quiet(piece, colours)
}

/// The least share of its chroma that a study meant to be quiet keeps: below it there is no scheme left to choose. A choice.
const QUIETEST: f64 = 0.25;

/// Chroma held down so that the picture is quiet on its wall, where that is wished and values alone do not speak up.
fn quiet(piece: &Piece, colours: Vec<Lab>) -> Vec<Lab> {
    let Some(wall) = piece.wall.as_ref().filter(|w| w.heard == Some(Heard::Quiet)) else { return colours };
    let has = mean_chroma(piece, &colours);
    let may = loudness::most_chroma(piece, &colours, &wall.reading);
    if has <= may {
        return colours;
    }
    // A hair below the limit, so that rounding does not cross it.
    let share = (0.999 * may / has).max(QUIETEST);
    colours.into_iter().map(|c| Lab::new(c.l, c.a * share, c.b * share)).collect()
}

fn mean_chroma(piece: &Piece, colours: &[Lab]) -> f64 {
    let area: f64 = piece.zones.iter().map(|z| z.reading.area).sum();
    piece.zones.iter().zip(colours).map(|(z, c)| z.reading.area * c.chroma()).sum::<f64>() / area.max(f64::MIN_POSITIVE)
}

/// Zones that must lean the same way: white things of one light, lit ones and shaded ones apart.
pub fn families(piece: &Piece) -> Vec<Vec<usize>> {
    let of = |light: Which, shaded: bool| -> Vec<usize> {
        let is = |z: &Zone| {
            let lit_by_one = !matches!(piece.lighting.falling, lean_piece::light::Falling::Two { .. });
            z.facts.kind == Some(Kind::White)
                && (lit_by_one && light == Which::First || !lit_by_one && z.facts.light == light)
                && z.facts.role.is_some_and(lean_piece::light::Role::is_shadow) == shaded
        };
        piece.zones.iter().enumerate().filter(|(_, z)| is(z)).map(|(i, _)| i).collect()
    };
    let all = [(Which::First, false), (Which::First, true), (Which::Second, false), (Which::Second, true)];
    all.into_iter().map(|(light, shaded)| of(light, shaded)).filter(|f| f.len() > 1).collect()
}

/// The most chroma a study may give a zone.
pub(crate) fn ceiling(zone: &Zone) -> f64 {
    let planned = zone.target.chroma();
    let by_plan = if zone.target.value().0 >= NEARLY_WHITE { PALE_GREY + PALE_GROWS * planned } else { GREY + GROWS * planned };
    match zone.facts.kind {
        Some(Kind::White) => by_plan.min(WHITE),
        Some(Kind::Dark) => by_plan.min(DARK),
        _ => by_plan,
    }
}

fn believable(piece: &Piece, zone: &Zone, colour: Lab) -> Lab {
    let lit_skin = zone.facts.kind == Some(Kind::Skin) && !zone.facts.role.is_some_and(lean_piece::light::Role::is_shadow);
    let colour = if lit_skin { within_hues(colour) } else { colour };
    let limited = zone.facts.kind == Some(Kind::Skin) || zone.facts.kind.is_none() && zone.facts.plane == Some(Plane::Sky);
    if limited { credible(colour, &zone.facts, &piece.lighting) } else { colour }
}

/// The hue turned to the nearest that skin can have.
fn within_hues(colour: Lab) -> Lab {
    let hue = colour.hue().0;
    if SKIN.contains(&hue) {
        return colour;
    }
    let off = |h: f64| ((hue - h + 180.0).rem_euclid(360.0) - 180.0).abs();
    let nearest = if off(*SKIN.start()) < off(*SKIN.end()) { *SKIN.start() } else { *SKIN.end() };
    Lab::from_lch(colour.l, colour.chroma(), nearest)
}

/// The mean undertone for every family of whites, by area.
fn one_undertone(piece: &Piece, colours: &mut [Lab]) {
    for family in families(piece) {
        let area = |i: &usize| piece.zones[*i].reading.area;
        let whole: f64 = family.iter().map(area).sum();
        let mean = |of: &dyn Fn(&Lab) -> f64| family.iter().map(|i| area(i) * of(&colours[*i])).sum::<f64>() / whole.max(f64::MIN_POSITIVE);
        let (a, b) = (mean(&|l| l.a), mean(&|l| l.b));
        for i in family {
            colours[i] = at_most(Lab::new(colours[i].l, a, b), WHITE);
        }
    }
}

fn at_most(lab: Lab, most: f64) -> Lab {
    let has = lab.chroma();
    if has <= most { lab } else { Lab::new(lab.l, lab.a * most / has, lab.b * most / has) }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::staged::{Staged, lit_by, staged};
    use lean_piece::light::{Role, Tint};

    #[test]
    fn a_white_shirt_does_not_turn_into_a_lemon_and_both_its_folds_lean_one_way() {
        let zones = [
            Staged::read(90.0, 1.0, 4.0).kind(Kind::White).role(Role::Lit),
            Staged::read(84.0, 0.0, 3.0).kind(Kind::White).role(Role::Lit),
            Staged::read(50.0, 30.0, 20.0),
        ];
        let piece = Piece { lighting: lit_by(Tint::Warm), ..staged(&zones) };
        let lemon = vec![Lab::new(90.0, -4.0, 60.0), Lab::new(84.0, 30.0, -30.0), Lab::new(50.0, 40.0, 30.0)];
        let kept = restrained(&piece, lemon, false);
        assert!(kept[0].chroma() <= WHITE && kept[1].chroma() <= WHITE);
        assert!((kept[0].a - kept[1].a).hypot(kept[0].b - kept[1].b) < 1e-9);
        assert_eq!(kept[2], Lab::new(50.0, 40.0, 30.0));
    }

    #[test]
    fn skin_stays_skin_and_a_noon_sky_is_not_pure_yellow_unless_the_mood_asks() {
        let zones = [Staged::read(68.0, 14.0, 18.0).kind(Kind::Skin).role(Role::Lit), Staged::read(82.0, -4.0, -22.0).plane(Plane::Sky)];
        let piece = staged(&zones);
        let wild = vec![Lab::from_lch(68.0, 40.0, 140.0), Lab::from_lch(82.0, 44.0, 95.0)];
        let kept = restrained(&piece, wild.clone(), false);
        assert!((kept[0].hue().0 - 85.0).abs() < 1e-6 && kept[1].chroma() < 27.0);
        assert!((restrained(&piece, wild, true)[0].hue().0 - 140.0).abs() < 1e-6);
    }
}
