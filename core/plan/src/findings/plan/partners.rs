//! Which zones belong to one thing: the lit side of a shadow, the shadow of a lit side, the thing a highlight lies on.

use super::{Plan, PlannedZone};
use lean_colour::temperature::SAME;
use lean_colour::{HueAngle, Lab, Temperature};
use lean_piece::light::{Kind, Role};

/// How surely two zones must be parts of one thing for one to be judged by the other. A choice.
const SURE: f64 = 0.5;
/// Share of the surest from which another counts as much, so that of several lit sides the lightest is asked. A choice.
const AS_SURE: f64 = 0.6;
/// How much more surely they are when they touch, when they are called alike, and when both are said to be of one kind. Choices.
const TOUCHING: f64 = 2.5;
const CALLED_ALIKE: f64 = 3.0;
const OF_A_KIND: f64 = 1.5;
/// And how much less when they have names of other things, when they are said to be of two kinds, when one is white, when they face another way, or to lie at another distance. Choices.
const OTHER_NAME: f64 = 0.2;
const OTHER_KIND: f64 = 0.3;
const UNSAID_KIND: f64 = 0.6;
const WHITE_OR_NOT: f64 = 0.15;
const OTHER_PLANE: f64 = 0.7;
const OTHER_DISTANCE: f64 = 0.6;
/// How well a halftone serves as the lit side, and how sure things of one kind, or of one name, are at least whatever their colours. Choices.
const TURNED: f64 = 0.5;
const KIN: f64 = 0.5;
const NAMESAKE: f64 = 0.15;
/// How much richer than the dimmed light a shadow may be before its colour counts as the lamp's, not its own. A choice.
const RICHER: f64 = 1.0;
/// Units of temperature that are plain in a colour, as a share of its chroma and at least. Choices.
const OF_CHROMA: f64 = 0.10;
const LEAST: f64 = 2.0;
/// Chroma below which a colour says nothing of what it is, and from which it says all. Choices.
const GREY: f64 = 8.0;
const COLOURED: f64 = 20.0;
/// Words that say how a thing stands, not what it is.
#[rustfmt::skip]
const OF_LIGHT: [&str; 50] = [
    "lit", "light", "lights", "sunlit", "sun", "sunny", "shadow", "shadows", "shade", "shaded", "dark", "darks", "halftone", "turning",
    "contact", "reflected", "highlight", "side", "cast", "in", "the", "of", "on", "under", "at", "by", "with", "its", "and", "a", "left",
    "right", "far", "near", "upper", "lower", "warm", "cool", "back", "front", "top", "middle", "deep", "bright", "pale", "soft", "edge",
    "lamp", "glow", "other",
];
/// Words that name a colour.
#[rustfmt::skip]
const COLOURS: [&str; 19] = [
    "red", "orange", "yellow", "green", "blue", "violet", "purple", "pink", "brown", "grey", "gray", "white", "black", "cream", "gold",
    "golden", "ochre", "rust", "turquoise",
];

impl Plan<'_> {
    /// The lit side of the thing a zone is part of; a halftone where that is plainly the nearer relative.
    pub(crate) fn lit_side(&self, zone: &PlannedZone) -> Option<&PlannedZone> {
        let serves = |z: &PlannedZone| match z.facts.role {
            Some(Role::Lit) => 1.0,
            Some(Role::Halftone) if !zone.is(Role::Halftone) => TURNED,
            _ => 0.0,
        };
        self.parts(zone, serves).into_iter().max_by(|a, b| a.value.total_cmp(&b.value))
    }

    /// The shadow side of the thing a zone is part of.
    pub(crate) fn shadow_side(&self, zone: &PlannedZone) -> Option<&PlannedZone> {
        self.parts(zone, |z| if z.is(Role::Shadow) { 1.0 } else { 0.0 }).into_iter().min_by(|a, b| a.value.total_cmp(&b.value))
    }

    /// The other zones under the same lamp that are most surely parts of the same thing, each counted by how well it serves, 0..=1.
    fn parts(&self, zone: &PlannedZone, serves: impl Fn(&PlannedZone) -> f64) -> Vec<&PlannedZone> {
        let others = self.under(zone.facts.light).into_iter().filter(|z| z.id != zone.id);
        let sure: Vec<(&PlannedZone, f64)> =
            others.map(|z| (z, serves(z) * self.one_thing(zone, z))).filter(|(_, sure)| *sure >= SURE).collect();
        let surest = sure.iter().map(|(_, sure)| *sure).fold(0.0, f64::max);
        sure.into_iter().filter(|(_, sure)| *sure >= AS_SURE * surest).map(|(z, _)| z).collect()
    }

    /// How surely two zones are parts of one thing: by local colour or hue, name, kind, plane, distance and a shared border.
    fn one_thing(&self, one: &PlannedZone, other: &PlannedZone) -> f64 {
        let factor = |holds: bool, by: f64| if holds { by } else { 1.0 };
        let (called_alike, called_otherwise) = (called_alike(&one.label, &other.label), called_otherwise(&one.label, &other.label));
        let differ = |both: Option<bool>| both == Some(false);
        let kinds = one.facts.kind.zip(other.facts.kind).map(|(a, b)| a == b);
        let unsaid = one.facts.kind.is_some() != other.facts.kind.is_some();
        let white = one.kind(Kind::White) != other.kind(Kind::White);
        let planes = one.facts.plane.zip(other.facts.plane).map(|(a, b)| a == b);
        let distances = one.facts.distance.zip(other.facts.distance).map(|(a, b)| a == b);
        let least = if kinds == Some(true) {
            KIN
        } else if called_alike {
            NAMESAKE
        } else {
            0.0
        };
        like_in_colour(one, other).max(least)
            * factor(self.touch(one, other), TOUCHING)
            * factor(called_alike, CALLED_ALIKE)
            // A brow, a cheek and a hand are one skin.
            * factor(called_otherwise && !(kinds == Some(true) && one.kind(Kind::Skin)), OTHER_NAME)
            * factor(kinds == Some(true), OF_A_KIND)
            * factor(differ(kinds), OTHER_KIND)
            * factor(unsaid && !called_alike, UNSAID_KIND)
            * factor(white && !(unsaid && called_alike), WHITE_OR_NOT)
            * factor(differ(planes), OTHER_PLANE)
            * factor(differ(distances), OTHER_DISTANCE)
    }

    /// Whether two zones share a border.
    pub fn touch(&self, one: &PlannedZone, other: &PlannedZone) -> bool {
        self.beside(one).iter().any(|z| z.id == other.id)
    }

    /// What a highlight or a mark lies on: of the zones around it that do not shine, the one with most of its border, more when it is
    /// called alike.
    pub(crate) fn lies_on(&self, zone: &PlannedZone) -> Option<&PlannedZone> {
        let around = self.around(zone).into_iter().filter(|(z, _)| !z.shines());
        let much = |z: &PlannedZone, n: f64| n * if called_alike(&zone.label, &z.label) { CALLED_ALIKE } else { 1.0 };
        around.map(|(z, n)| (z, much(z, n))).max_by(|a, b| a.1.total_cmp(&b.1)).map(|(z, _)| z)
    }
}

/// Whether two names share a word that says what the thing is, and do not name two colours of it: the red of a tram is not its cream.
fn called_alike(one: &str, other: &str) -> bool {
    let others = things(other);
    let (colours, other_colours) = (colours(one), colours(other));
    let two_colours = !colours.is_empty() && !other_colours.is_empty() && colours.iter().all(|c| !other_colours.contains(c));
    !two_colours && things(one).iter().any(|w| others.contains(w))
}

/// Whether two names say of what they are, and it is not the same.
fn called_otherwise(one: &str, other: &str) -> bool {
    !things(one).is_empty() && !things(other).is_empty() && !called_alike(one, other)
}

/// Words of a name that name a colour.
fn colours(name: &str) -> Vec<String> {
    let low = name.to_lowercase();
    low.split(|c: char| !c.is_alphabetic()).filter(|w| COLOURS.contains(w)).map(str::to_owned).collect()
}

/// Words of a name that say what the thing is; none for a zone nobody named.
fn things(name: &str) -> Vec<String> {
    let low = name.to_lowercase();
    let words =
        low.split(|c: char| !c.is_alphabetic()).filter(|w| !w.is_empty() && *w != "zone" && !OF_LIGHT.contains(w) && !COLOURS.contains(w));
    words.map(|w| w.trim_end_matches('s').to_owned()).collect()
}

/// 0..=1 by local colour where both are known, else by hue: greys may belong to much, two plain hues only to each other.
fn like_in_colour(one: &PlannedZone, other: &PlannedZone) -> f64 {
    if let (Some(a), Some(b)) = (one.facts.local, other.facts.local) {
        let off = (a.l - b.l).hypot((a.a - b.a).hypot(a.b - b.b));
        return (-(off / 18.0).powi(2)).exp();
    }
    let (less, more) = (one.lab.chroma().min(other.lab.chroma()), one.lab.chroma().max(other.lab.chroma()));
    match (less < 10.0, more > 30.0) {
        (true, true) => 0.25,
        (true, false) => 0.6,
        // Light turns the hue of a dull thing farther than that of a strong one.
        _ => (-(turn(one.lab.hue(), other.lab.hue()) / (40.0 - 15.0 * ((less - 15.0) / 20.0).clamp(0.0, 1.0))).powi(2)).exp(),
    }
}

/// Degrees between two hues, 0..=180.
pub fn turn(one: HueAngle, other: HueAngle) -> f64 {
    one.apart(other)
}

/// How much warmer (+) or cooler (−) a colour is than another, at like chroma where the other has a hue, plainly where it is grey. Units
/// of [`lean_colour::temperature`].
pub fn warmer_at_like_chroma(colour: Lab, than: Lab) -> f64 {
    beyond(colour, than, f64::INFINITY)
}

/// How much warmer (+) or cooler (−) a colour is than the light on the same thing, beyond what dimming brings by itself (in CIELAB a and b
/// go with L* + 16): a duller colour is judged at like chroma, a richer one by what it has more than the light dimmed, unless shadows are
/// meant to be rich.
pub(crate) fn warmer_in_kind(colour: Lab, than: Lab, rich: bool) -> f64 {
    let dimmed = (colour.l + 16.0) / (than.l + 16.0);
    beyond(colour, than, if rich { f64::INFINITY } else { RICHER * dimmed })
}

/// Temperature of what a colour has beyond so much of another, at most `keeps`, as explains it best.
fn beyond(colour: Lab, than: Lab, keeps: f64) -> f64 {
    let dimmed = (colour.l + 16.0) / (than.l + 16.0);
    let alike = colour.chroma() / than.chroma().max(1e-9);
    let share = has_hue(than) * alike.min(keeps) + (1.0 - has_hue(than)) * dimmed.min(1.2);
    Lab::new(50.0, colour.a - share * than.a, colour.b - share * than.b).temperature().0
}

/// How far a colour says what hue it is, 0..=1.
fn has_hue(lab: Lab) -> f64 {
    ((lab.chroma() - GREY) / (COLOURED - GREY)).clamp(0.0, 1.0)
}

/// Units of temperature by which a colour must be warmer than another to be plainly so: where there is a hue, more for stronger colours.
pub fn plainly(colour: Lab, than: Lab) -> f64 {
    let of_hue = (OF_CHROMA * colour.chroma()).max(LEAST);
    has_hue(than) * of_hue + (1.0 - has_hue(than)) * SAME
}

/// How much warmer a zone is than another of the same thing, each against its own local colour where that is known.
pub fn warmer(zone: &PlannedZone, than: &PlannedZone, rich: bool) -> f64 {
    match (zone.facts.local, than.facts.local) {
        (Some(own), Some(its)) => warmer_in_kind(zone.lab, own, rich) - warmer_in_kind(than.lab, its, rich),
        _ => warmer_in_kind(zone.lab, than.lab, rich),
    }
}

/// The colour nearest to a zone's own, of the same value, that is at least `by` warmer (below 0: cooler) than `than`: along the
/// warm–cool axis, or by turning its hue where it lies near a pole.
pub fn made_warmer(zone: &PlannedZone, than: &PlannedZone, by: Temperature, rich: bool) -> Lab {
    let Temperature(by) = by;
    let shifted = (1..=40).map(|i| {
        let shift = f64::from(i) * by.signum();
        lean_colour::moves::with_temperature(zone.lab, Temperature(zone.temperature + shift))
    });
    let turned = (1..=60)
        .flat_map(|i| [-1.0, 1.0].map(|side| Lab::from_lch(zone.lab.l, zone.lab.chroma(), zone.lab.hue().0 + side * f64::from(2 * i))));
    let dulled = (1..=10).map(|i| Lab::from_lch(zone.lab.l, zone.lab.chroma() * (1.0 - f64::from(i) / 10.0), zone.lab.hue().0));
    let enough = |lab: &Lab| {
        let moved = PlannedZone { lab: *lab, temperature: lab.temperature().0, label: String::new(), ..*zone };
        by.signum() * warmer(&moved, than, rich) >= by.abs()
    };
    let near = |lab: &Lab| lean_colour::difference::ciede2000(zone.lab, *lab);
    let all = shifted.chain(turned).chain(dulled);
    all.filter(enough).min_by(|a, b| near(a).total_cmp(&near(b))).unwrap_or_else(|| zone.warmer(Temperature(by)))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_duller_red_is_no_cooler_for_being_duller() {
        let lit = Lab::from_lch(55.0, 60.0, 38.0);
        assert!(warmer_in_kind(Lab::from_lch(30.0, 30.0, 38.0), lit, false).abs() < 0.1);
        assert!(warmer_in_kind(Lab::from_lch(30.0, 30.0, 15.0), lit, false) < -2.5);
        assert!(warmer_in_kind(Lab::from_lch(30.0, 30.0, 48.0), Lab::from_lch(55.0, 60.0, 15.0), false) > 3.0);
    }

    #[test]
    fn a_shadow_richer_than_its_light_is_on_the_lights_side_unless_shadows_are_rich() {
        let (lit, shadow) = (Lab::new(80.0, 4.0, 26.0), Lab::new(50.0, 5.0, 30.0));
        assert!(warmer_in_kind(shadow, lit, false) > plainly(shadow, lit));
        assert!(warmer_in_kind(shadow, lit, true) < plainly(shadow, lit));
    }

    #[test]
    fn a_grey_thing_is_judged_by_what_the_light_adds() {
        let lit = Lab::new(92.0, 1.0, 5.0);
        assert!(warmer_in_kind(Lab::new(62.0, 2.0, 12.0), lit, false) > 3.0);
        assert!(warmer_in_kind(Lab::new(62.0, 0.0, -8.0), lit, false) < -3.0);
        assert!(warmer_in_kind(Lab::new(62.0, 0.8, 3.5), lit, false).abs() < 1.0);
    }

    #[test]
    fn names_tell_things_not_lights() {
        assert!(called_alike("wall, lit", "wall in shadow") && called_alike("Stones in the sun", "stone, shaded"));
        assert!(!called_alike("wall in shadow", "ground in shadow") && !called_alike("zone 3", "zone 4"));
        assert!(
            called_otherwise("wall in shadow", "ground") && !called_otherwise("blue shadow", "snow") && !called_otherwise("zone 3", "snow")
        );
    }
}
