//! A cure stays within the hue of the surface: skin in shade is cooled to a duller skin, not to olive green.

use super::plan::Plan;
use super::{Finding, Request};
use lean_colour::temperature::WARM_POLE;
use lean_colour::{HueAngle, Lab};
use lean_search::demands::{HUELESS, HueFamily};

/// Degrees a cure may turn a hue beyond its family, for what lies at the family's end. A choice.
const TURN: f64 = 15.0;
/// Chroma of a grey that has no hue family.
const GREY: f64 = 0.95 * HUELESS;

/// Rules whose cure is another hue: a neighbour's light, an echo, another scheme.
const OF_HUE: [&str; 7] = ["reflected-hue", "lone", "one-hue", "shares", "one-sided", "shimmer", "whites"];

/// The finding with every colour it proposes within the hue family of the zone it is for, unless another hue is its point.
pub(super) fn kept(plan: &Plan, mut finding: Finding) -> Finding {
    if OF_HUE.contains(&finding.rule) {
        return finding;
    }
    let all = finding.suggestion.iter_mut().chain(finding.also.iter_mut().map(|p| &mut p.request));
    for request in all {
        if let Request::SetTargets { targets, .. } = request {
            for t in targets {
                if let Some(zone) = plan.zones.iter().find(|z| z.id == t.zone) {
                    t.target = within(zone.lab, t.target);
                }
            }
        }
    }
    finding
}

/// The nearest colour to `to` that a surface of the colour `from` can be called without another name: of its hue family, duller where that gives
/// the same warmth. Greys may go anywhere.
fn within(from: Lab, to: Lab) -> Lab {
    let Some(family) = HueFamily::of(from) else { return to };
    let turned = off(from.hue().0, to.hue().0);
    if to.chroma() < HUELESS || HueFamily::at(to.hue()) == family || turned.abs() <= TURN {
        return to;
    }
    let warmth = to.temperature().0;
    if warmth * from.temperature().0 < 0.0 {
        // No dull colour of the family is as warm or cool as that: a grey is.
        return Lab::from_lch(to.l, to.chroma().min(GREY), to.hue().0);
    }
    // As far that way as the family goes.
    let last = (1..=180).map(f64::from).take_while(|d| HueFamily::at(HueAngle(from.hue().0 + d * turned.signum())) == family).last();
    let hue = from.hue().0 + last.unwrap_or(0.0).max(TURN) * turned.signum();
    let of_one = (hue - WARM_POLE).to_radians().cos();
    let chroma = if of_one.abs() > 0.1 { warmth / of_one } else { 0.0 };
    Lab::from_lch(to.l, chroma.clamp(0.0, to.chroma()), hue)
}

/// Degrees from one hue to another the shorter way, positive from red towards yellow.
fn off(from: f64, to: f64) -> f64 {
    (to - from + 540.0).rem_euclid(360.0) - 180.0
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    #[test]
    fn skin_in_shade_is_cooled_to_a_duller_skin() {
        let skin = Lab::from_lch(50.0, 26.0, 68.0);
        let asked = lean_colour::moves::with_temperature(skin, lean_colour::Temperature(2.0));
        assert_eq!(HueFamily::of(asked), Some(HueFamily::Green), "as it would be without: {asked:?}");
        let cooled = within(skin, asked);
        assert!((cooled.temperature().0 - 2.0).abs() < 1e-6 && off(68.0, cooled.hue().0).abs() <= TURN + 1e-6, "{cooled:?}");
        let turned = within(skin, Lab::from_lch(50.0, 20.0, 200.0));
        assert!(turned.chroma() < HUELESS, "cooler than any skin is a grey: {turned:?}");
        let little = Lab::from_lch(50.0, 16.0, 78.0);
        assert_eq!(within(skin, little), little);
        let grey = Lab::new(50.0, 2.0, 3.0);
        assert_eq!(within(grey, Lab::from_lch(50.0, 9.0, 150.0)), Lab::from_lch(50.0, 9.0, 150.0));
    }

    proptest! {
        #[test]
        fn no_cure_leaves_the_family(c in 9.0..60.0f64, h in 0.0..360.0f64, to_c in 0.0..60.0f64, to_h in 0.0..360.0f64) {
            let (from, to) = (Lab::from_lch(50.0, c, h), Lab::from_lch(55.0, to_c, to_h));
            let kept = within(from, to);
            let same = HueFamily::at(kept.hue()) == HueFamily::at(from.hue());
            prop_assert!(kept.chroma() < HUELESS || same || off(h, kept.hue().0).abs() <= TURN + 1e-6, "{:?}", kept);
            prop_assert_eq!(kept.l, to.l);
        }
    }
}
