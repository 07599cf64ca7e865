//! Families: pigments of one hue in several values, made to work together. Greys are families, too.

use crate::mixes::{pigments_of, swatch};
use lean_colour::Lab;
use lean_media::PigmentId;
use lean_piece::Piece;
use lean_piece::paint_box::PaintBox;
use lean_search::SetFound;
use lean_search::demands::HueFamily;
use serde::Serialize;

/// Pigments of one hue.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Family {
    /// Its name: "green", "warm grey".
    pub name: String,
    /// Its members, the lightest first.
    pub members: Vec<Member>,
    /// True where it has a light, a middle and a dark.
    pub complete: bool,
}

/// A pigment of a family.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Member {
    /// The pigment.
    pub pigment: PigmentId,
    /// Light, middle or dark.
    pub tone: Tone,
}

/// The tone of a pigment as it is usually laid.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Serialize)]
#[serde(rename_all = "kebab-case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Tone {
    /// Values from 6.5.
    Light,
    /// In between.
    Middle,
    /// Values below 4.
    Dark,
}

impl Tone {
    /// The tone of a colour. The values where one ends are a choice: thirds of the ladder, a little lighter, as boxes are sold.
    pub fn of(lab: Lab) -> Self {
        match lab.value().0 {
            v if v >= 6.5 => Self::Light,
            v if v >= 4.0 => Self::Middle,
            _ => Self::Dark,
        }
    }

    /// Its name.
    pub fn name(self) -> &'static str {
        match self {
            Self::Light => "light",
            Self::Middle => "middle",
            Self::Dark => "dark",
        }
    }
}

/// The name of the family of this colour. Greys, of chroma below [`HUELESS`](lean_search::demands::HUELESS), are told apart by what they lean to.
pub fn family_name(lab: Lab) -> &'static str {
    if let Some(hue) = HueFamily::of(lab) {
        return hue.name();
    }
    if lab.chroma() < NEUTRAL {
        return "grey";
    }
    match lab.hue().0.rem_euclid(360.0) {
        h if (20.0..105.0).contains(&h) => "warm grey",
        h if (105.0..200.0).contains(&h) => "green grey",
        h if (200.0..300.0).contains(&h) => "blue grey",
        _ => "cool grey",
    }
}

/// Chroma below which a grey leans to nothing. A choice.
const NEUTRAL: f64 = 1.5;

/// The families of some pigments by how they look, the largest first.
pub fn families(of: &[(PigmentId, Lab)]) -> Vec<Family> {
    let mut sorted: Vec<&(PigmentId, Lab)> = of.iter().collect();
    sorted.sort_by(|a, b| b.1.l.total_cmp(&a.1.l));
    let mut all: Vec<Family> = Vec::new();
    for (id, lab) in sorted {
        let member = Member { pigment: id.clone(), tone: Tone::of(*lab) };
        match all.iter_mut().find(|f| f.name == family_name(*lab)) {
            Some(known) => known.members.push(member),
            None => all.push(Family { name: family_name(*lab).into(), members: vec![member], complete: false }),
        }
    }
    for family in &mut all {
        let has = |tone| family.members.iter().any(|m| m.tone == tone);
        family.complete = has(Tone::Light) && has(Tone::Middle) && has(Tone::Dark);
    }
    all.sort_by(|a, b| b.members.len().cmp(&a.members.len()).then_with(|| a.name.cmp(&b.name)));
    all
}

/// A set that was found, by its families.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct SetInFamilies {
    /// Number of its pigments, white not counted.
    pub size: usize,
    /// Its families, the largest first.
    pub families: Vec<Family>,
    /// Its gain over the set before: "+ a middle green; completes the greens".
    pub step: String,
}

/// The sets of a curve by their families, in their order.
pub fn sets_in_families(piece: &Piece, paint_box: &PaintBox, sizes: &[SetFound]) -> Vec<SetInFamilies> {
    let ground = piece.ground();
    let looks = |ids: &[PigmentId]| -> Vec<(PigmentId, Lab)> {
        pigments_of(paint_box, ids).into_iter().map(|p| (p.id.clone(), swatch(piece.brief.medium, &ground, p))).collect()
    };
    let all: Vec<Vec<(PigmentId, Lab)>> = sizes.iter().map(|s| looks(&s.pigments)).collect();
    let before = |i: usize| if i > 0 { all[i - 1].as_slice() } else { &[] };
    all.iter().enumerate().map(|(i, set)| SetInFamilies { size: set.len(), families: families(set), step: step(before(i), set) }).collect()
}

/// The gain of a set over the one before, in words; empty for the first.
fn step(before: &[(PigmentId, Lab)], set: &[(PigmentId, Lab)]) -> String {
    if before.is_empty() {
        return String::new();
    }
    let missing = |of: &[(PigmentId, Lab)], from: &[(PigmentId, Lab)]| -> Vec<Lab> {
        of.iter().filter(|(id, _)| from.iter().all(|(other, _)| other != id)).map(|(_, lab)| *lab).collect()
    };
    let (new, gone) = (missing(set, before), missing(before, set));
    let complete = |of: &[(PigmentId, Lab)]| -> Vec<String> { families(of).into_iter().filter(|f| f.complete).map(|f| f.name).collect() };
    let known = complete(before);
    let completed: Vec<String> = complete(set).into_iter().filter(|f| !known.contains(f)).map(|f| format!("{f}s")).collect();
    let mut words = format!("+ {}", listed(&new));
    if !gone.is_empty() {
        words += &format!(", instead of {}", listed(&gone));
    }
    if !completed.is_empty() {
        words += &format!("; completes the {}", completed.join(" and the "));
    }
    words
}

fn listed(of: &[Lab]) -> String {
    let one = |lab: &Lab| format!("a {} {}", Tone::of(*lab).name(), family_name(*lab));
    of.iter().map(one).collect::<Vec<_>>().join(", ")
}

#[cfg(test)]
mod tests {
    use super::*;

    fn stick(id: &str, l: f64, c: f64, h: f64) -> (PigmentId, Lab) {
        (id.into(), Lab::from_lch(l, c, h))
    }

    #[test]
    fn greys_are_families_by_what_they_lean_to() {
        assert_eq!(family_name(Lab::new(60.0, 0.5, 0.5)), "grey");
        assert_eq!(family_name(Lab::from_lch(60.0, 5.0, 60.0)), "warm grey");
        assert_eq!(family_name(Lab::from_lch(60.0, 5.0, 150.0)), "green grey");
        assert_eq!(family_name(Lab::from_lch(60.0, 5.0, 250.0)), "blue grey");
        assert_eq!(family_name(Lab::from_lch(60.0, 20.0, 150.0)), "green");
    }

    #[test]
    fn a_family_with_a_light_a_middle_and_a_dark_is_complete() {
        let all = families(&[
            stick("a", 80.0, 30.0, 150.0),
            stick("b", 50.0, 30.0, 140.0),
            stick("c", 25.0, 20.0, 150.0),
            stick("d", 50.0, 5.0, 60.0),
        ]);
        assert_eq!(
            all.iter().map(|f| (f.name.as_str(), f.members.len(), f.complete)).collect::<Vec<_>>(),
            [("green", 3, true), ("warm grey", 1, false)]
        );
        assert_eq!(all[0].members[0].pigment.0, "a", "the lightest first");
    }

    #[test]
    fn a_step_says_which_family_it_completes_and_what_it_replaces() {
        let (light, middle, dark) = (stick("a", 80.0, 30.0, 150.0), stick("b", 50.0, 30.0, 140.0), stick("c", 25.0, 20.0, 150.0));
        let blue = stick("d", 50.0, 30.0, 260.0);
        assert_eq!(
            step(&[light.clone(), dark.clone()], &[light.clone(), middle.clone(), dark.clone()]),
            "+ a middle green; completes the greens"
        );
        assert_eq!(
            step(&[light.clone(), blue], &[light, middle, dark]),
            "+ a middle green, a dark green, instead of a middle blue; completes the greens"
        );
    }
}
