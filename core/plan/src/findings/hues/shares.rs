//! Shares of the hues against the scheme, and a little of the other side in each.

use crate::findings::Finding;
use crate::findings::plan::{Plan, PlannedZone, listed, turn};
use crate::wording::capital;
use lean_colour::temperature::SAME;
use lean_colour::{HueAngle, Temperature};
use lean_piece::intent::moods::MoodScheme;
use lean_piece::intent::schools::{Question, School};
use lean_piece::light::Role;

/// Chroma from which a zone takes part in a scheme. A choice.
const COLOURED: f64 = 12.0;
/// Of two opposites: the least the one that rules should have of all that is coloured. A choice.
const RULES: f64 = 0.58;
/// Degrees to either side of a hue that belong to it. A choice.
const BELONGS: f64 = 60.0;
/// Shares of the picture that make a warm and a cool part, how far each lies from the middle, and within which a part is all the same. Choices.
const PART: f64 = 0.3;
const ASIDE: f64 = 5.0;
const ALL_THE_SAME: f64 = 5.0;

/// With opposites asked for: two hues of which neither rules.
pub(crate) fn of_the_scheme(plan: &Plan) -> Vec<Finding> {
    if plan.intent.scheme() != Some(MoodScheme::Opposites) {
        return Vec::new();
    }
    let coloured: Vec<&PlannedZone> = plan.zones.iter().filter(|z| z.lab.chroma() >= COLOURED).collect();
    let whole: f64 = coloured.iter().map(|z| z.area).sum();
    let share =
        |hue: f64| coloured.iter().filter(|z| turn(z.lab.hue(), HueAngle(hue)) <= BELONGS).map(|z| z.area).sum::<f64>() / whole.max(1e-9);
    let Some(rules) = coloured.iter().map(|z| z.lab.hue().0).max_by(|a, b| share(*a).total_cmp(&share(*b))) else { return Vec::new() };
    let (first, second) = (share(rules), share(rules + 180.0));
    if first >= RULES || second < 0.3 {
        return Vec::new();
    }
    let hue = crate::wording::hue::hue_word(HueAngle(rules));
    let other = crate::wording::hue::hue_word(HueAngle(rules + 180.0));
    let found = Finding::remark(
        "shares",
        "shares",
        coloured.iter().map(|z| z.id).collect(),
        format!("Neither {hue} nor {other} rules"),
        format!(
            "{:.0} % against {:.0} % of what is coloured: of two complementaries one should plainly rule, the other accents.",
            100.0 * first,
            100.0 * second
        ),
        "complementaries: one rules",
    );
    let calmed = coloured.iter().filter(|z| turn(z.lab.hue(), HueAngle(rules)) > BELONGS);
    let targets = calmed.map(|z| (z.id, lean_colour::Lab::new(z.lab.l, z.lab.a * 0.5, z.lab.b * 0.5))).collect();
    vec![found.mended(format!("Calm the {other}"), targets)]
}

/// A warm part without anything cool in it, or a cool part without anything warm: only where hues are chosen rather than matched, and the
/// part is all of one temperature.
pub(crate) fn some_of_the_other(plan: &Plan) -> Vec<Finding> {
    let values_only = plan.school(Question::Reference) == School::ValuesOnly;
    let chosen = values_only || plan.school(Question::Begin) == School::HuesFirst || plan.intent.scheme().is_some();
    if !chosen {
        return Vec::new();
    }
    let area: f64 = plan.zones.iter().map(|z| z.area).sum();
    let middle = plan.zones.iter().map(|z| z.area * z.temperature).sum::<f64>() / area.max(1e-9);
    [1.0, -1.0].into_iter().filter_map(|side| one_side(plan, side, middle)).collect()
}

fn one_side(plan: &Plan, side: f64, middle: f64) -> Option<Finding> {
    let of = |side: f64| -> Vec<&PlannedZone> {
        plan.zones.iter().filter(|z| side * (z.temperature - middle) >= ASIDE && !z.is(Role::SelfLuminous)).collect()
    };
    let (part, other) = (of(side), of(-side));
    let share = |zones: &[&PlannedZone]| zones.iter().map(|z| z.area).sum::<f64>();
    if part.len() < 3 || share(&part) < PART || share(&other) < PART {
        return None;
    }
    let temperatures = part.iter().map(|z| z.temperature);
    let spread = temperatures.clone().fold(f64::MIN, f64::max) - temperatures.fold(f64::MAX, f64::min);
    let reached = plan.zones.iter().filter(|z| side * (z.temperature - middle) < ASIDE - SAME);
    let within = reached.filter(|z| {
        let around = plan.around(z);
        let whole: f64 = around.iter().map(|(_, n)| n).sum();
        let inside: f64 = around.iter().filter(|(n, _)| part.iter().any(|p| p.id == n.id)).map(|(_, n)| n).sum();
        whole > 0.0 && inside >= 0.5 * whole
    });
    if spread > ALL_THE_SAME || within.count() > 0 {
        return None;
    }
    let (this, that) = if side > 0.0 { ("warm", "cool") } else { ("cool", "warm") };
    let takes = part.iter().min_by(|a, b| a.area.total_cmp(&b.area))?;
    let found = Finding::remark(
        "one-sided",
        format!("one-sided-{this}"),
        part.iter().map(|z| z.id).collect(),
        format!("Nothing {that} lies in the {this} part"),
        format!("{} are {this} all alike. A little of the other side in each part ties the two together.", capital(&listed(&part))),
        "some of each in the other",
    );
    Some(found.mended(format!("Let {} lean {that}", takes.label), vec![(takes.id, takes.warmer(Temperature(-side * 2.0 * ASIDE)))]))
}
