//! How much colour a shadow keeps, by the school of the brief.

use crate::findings::Finding;
use crate::findings::plan::{Plan, PlannedZone};
use crate::wording::grammar::subject;
use lean_colour::Lab;
use lean_piece::intent::schools::{Question, School};
use lean_piece::light::Role;

/// Chroma by which a greyed shadow may pass its light, as a share and as units, and what the shadow of a grey thing may carry of the sky.
/// Choices.
const SHARE: f64 = 1.25;
const UNITS: f64 = 4.0;
const SKY_IN_GREY: f64 = 15.0;
/// Chroma of a light whose shadow can be dead, and share of it below which a rich shadow is. Choices.
const COLOURED: f64 = 20.0;
const DEAD: f64 = 0.4;

/// Under "greyed", shadows richer than the light on the same thing; under "the richest place", shadows that lost nearly all of its colour.
pub(crate) fn by_school(plan: &Plan) -> Vec<Finding> {
    if !plan.is_lit() {
        return Vec::new();
    }
    let school = plan.school(Question::ShadowChroma);
    let shadows = plan.zones.iter().filter(|z| z.is(Role::Shadow));
    shadows
        .filter_map(|shadow| {
            let lit = plan.lit_side(shadow)?;
            if school == School::RichShadows { too_grey(shadow, lit) } else { too_rich(plan, shadow, lit) }
        })
        .collect()
}

fn too_rich(plan: &Plan, shadow: &PlannedZone, lit: &PlannedZone) -> Option<Finding> {
    let (has, light) = (shadow.lab.chroma(), lit.lab.chroma());
    if has <= (SHARE * light + UNITS).max(SKY_IN_GREY) {
        return None;
    }
    let found = Finding::remark(
        "shadow-chroma",
        format!("shadow-chroma-{}", shadow.id.0),
        vec![shadow.id, lit.id],
        format!("{} richer than {} in the light", subject(&shadow.label), lit.label),
        format!("Quiet shadows let the light speak: chroma {has:.0} in shadow, {light:.0} in the light. {}", plan.calming()),
        "colour in shadows: greyed",
    );
    Some(found.mended("Grey the shadow".into(), vec![(shadow.id, with_chroma(shadow.lab, (0.8 * light).max(0.6 * SKY_IN_GREY)))]))
}

fn too_grey(shadow: &PlannedZone, lit: &PlannedZone) -> Option<Finding> {
    let (has, light) = (shadow.lab.chroma(), lit.lab.chroma());
    if light < COLOURED || has >= DEAD * light {
        return None;
    }
    let found = Finding::remark(
        "shadow-chroma",
        format!("shadow-chroma-{}", shadow.id.0),
        vec![shadow.id, lit.id],
        format!("{} nearly without a colour", subject(&shadow.label)),
        format!("In this school the shadow is the richest place: chroma {has:.0} in shadow, {light:.0} in the light."),
        "colour in shadows: the richest place",
    );
    // Its own hue, or the light's where it has none.
    let hue = if has < 3.0 { lit.lab } else { shadow.lab };
    let coloured = with_chroma(Lab::new(shadow.lab.l, hue.a, hue.b), 0.9 * light);
    Some(found.mended("Let the shadow keep its colour".into(), vec![(shadow.id, coloured)]))
}

fn with_chroma(lab: Lab, chroma: f64) -> Lab {
    let keep = chroma / lab.chroma().max(1e-9);
    Lab::new(lab.l, lab.a * keep, lab.b * keep)
}
