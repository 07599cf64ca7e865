//! A picture of nearly one hue, and ways out of it.

use crate::findings::Finding;
use crate::findings::plan::{Plan, PlannedZone};
use lean_colour::{HueAngle, Temperature};
use lean_piece::intent::schools::{Question, School};

/// Width of the stretch of the circle that counts as one hue, in degrees, the share of the picture that must lie in it, and the chroma from
/// which a zone has a hue. Choices.
const STRETCH: f64 = 35.0;
const NEARLY: f64 = 0.70;
const COLOURED: f64 = 18.0;
/// Units of temperature by which lights and shadows are parted when mended. A choice.
const PARTED: f64 = 10.0;

/// Most of the picture in one stretch of hue. Silent where the reference is used for its values only: then hues are chosen anyway.
pub(crate) fn nearly(plan: &Plan) -> Vec<Finding> {
    if plan.zones.len() < 3 || plan.school(Question::Reference) == School::ValuesOnly {
        return Vec::new();
    }
    let all: f64 = plan.zones.iter().map(|z| z.area).sum();
    let coloured: Vec<&PlannedZone> = plan.zones.iter().filter(|z| z.lab.chroma() >= COLOURED).collect();
    let within =
        |start: f64| coloured.iter().filter(move |z| (z.lab.hue().0 - start).rem_euclid(360.0) <= STRETCH).map(|z| z.area).sum::<f64>();
    let Some((start, share)) = coloured
        .iter()
        .map(|z| (z.lab.hue().0, within(z.lab.hue().0) / all))
        .max_by(|a, b| a.1.total_cmp(&b.1))
        .filter(|(_, s)| *s >= NEARLY)
    else {
        return Vec::new();
    };
    let hue = crate::wording::hue::hue_word(HueAngle(start + STRETCH / 2.0));
    let found = Finding::remark(
        "one-hue",
        "one-hue",
        Vec::new(),
        format!("{:.0} % of the picture is {hue}", share * 100.0),
        "One hue over most of the surface tires unless it is the subject. Ways out: split it warm and cool, bring in its relatives, set the shadows elsewhere on the circle, or keep only its values and choose a scheme.".into(),
        "variety in unity",
    );
    let middle = plan.zones.iter().map(|z| z.area * z.value).sum::<f64>() / all;
    let targets = coloured.iter().map(|z| (z.id, z.warmer(Temperature(if z.value >= middle { PARTED } else { -PARTED })))).collect();
    vec![found.mended("Split it: lights warmer, darks cooler".into(), targets)]
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::staged::{Staged, staged};
    use lean_piece::Piece;

    fn of(piece: &Piece) -> Vec<Finding> {
        nearly(&Plan::of(piece, &[], None))
    }

    fn greens() -> Piece {
        staged(&[
            Staged::read(70.0, -20.0, 25.0),
            Staged::read(50.0, -22.0, 22.0),
            Staged::read(30.0, -15.0, 18.0),
            Staged::read(80.0, 0.0, -3.0),
        ])
    }

    #[test]
    fn a_green_picture_is_said_with_ways_out() {
        let found = of(&greens());
        assert!(found[0].title.contains("75 %") && found[0].why.contains("Ways out"), "{found:?}");
        assert!(found[0].suggestion.is_some());
    }

    #[test]
    fn greys_many_hues_and_the_school_of_values_are_left_alone() {
        assert!(of(&staged(&[Staged::vt(7.0, 4.0), Staged::vt(5.0, 3.0), Staged::vt(2.0, 5.0)])).is_empty());
        assert!(of(&staged(&[Staged::read(70.0, -20.0, 25.0), Staged::read(50.0, 30.0, 10.0), Staged::read(30.0, 5.0, -30.0)])).is_empty());
        let mut piece = greens();
        piece.intent.schools.insert(Question::Reference, School::ValuesOnly);
        assert!(of(&piece).is_empty());
    }
}
