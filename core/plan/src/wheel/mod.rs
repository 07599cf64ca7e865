//! What lies opposite a hue, and so far round from it: on three wheels, and in this Box.

pub mod greying;

use lean_colour::{HueAngle, Lab};
use lean_media::Pigment;
use lean_piece::Piece;
use lean_piece::intent::schools::{Question, School};
use lean_piece::paint_box::PaintBox;
use rayon::prelude::*;
use serde::Serialize;

/// A wheel as pairs of CIELAB hue angle and place on the wheel, both ascending, in degrees.
type Marks = &'static [(f64, f64)];

/// Red, yellow and blue a third apart, their mixes between: the twelve-part circle taught to painters. Where each lies in CIELAB is a choice.
const PAINTERS: Marks = &[
    (30.0, 0.0),
    (45.0, 30.0),
    (62.0, 60.0),
    (78.0, 90.0),
    (95.0, 120.0),
    (118.0, 150.0),
    (150.0, 180.0),
    (205.0, 210.0),
    (265.0, 240.0),
    (290.0, 270.0),
    (315.0, 300.0),
    (350.0, 330.0),
];

/// Magenta, yellow and cyan a third apart, red, green and blue between. Where each lies in CIELAB is a choice.
const PRINTERS: Marks = &[(35.0, 60.0), (98.0, 120.0), (145.0, 180.0), (220.0, 240.0), (290.0, 300.0), (350.0, 360.0)];

/// Least chroma of a pigment that has a hue to speak of. A choice.
const COLOURED: f64 = 12.0;
/// How much lighter than both pigments a mix may be before it is a tint of them, in L*. A choice.
const TINT: f64 = 5.0;

/// The wheel as the school of a piece has it.
pub struct Wheel<'a> {
    piece: &'a Piece,
    paint_box: &'a PaintBox,
    school: School,
}

impl<'a> Wheel<'a> {
    /// That of the school chosen for `piece`.
    pub fn of(piece: &'a Piece, paint_box: &'a PaintBox) -> Self {
        Self { piece, paint_box, school: piece.intent.school(Question::Wheel, piece.brief.medium) }
    }

    /// The hue (CIELAB, degrees) so many degrees further round the wheel; 180 is the opposite. In a Box of one's own the opposite is the pigment that
    /// greys, and what lies between is evenly spaced on either side of it; where the Box has nothing that greys, the perceptual wheel answers.
    pub fn turned(&self, from: HueAngle, by: HueAngle) -> HueAngle {
        let (HueAngle(hue), HueAngle(by)) = (from, by);
        let by = by.rem_euclid(360.0);
        HueAngle(match self.school {
            School::PaintersWheel => turned_on(PAINTERS, hue, by),
            School::PrintersWheel => turned_on(PRINTERS, hue, by),
            School::OwnWheel => match self.own(hue) {
                None => (hue + by).rem_euclid(360.0),
                Some(across) => {
                    let there = (across - hue).rem_euclid(360.0);
                    let ahead = if by <= 180.0 { there * by / 180.0 } else { there + (360.0 - there) * (by - 180.0) / 180.0 };
                    (hue + ahead).rem_euclid(360.0)
                }
            },
            _ => (hue + by).rem_euclid(360.0),
        })
    }

    /// The hue opposite another.
    pub fn opposite(&self, hue: HueAngle) -> HueAngle {
        self.turned(hue, HueAngle(180.0))
    }

    /// The hue of the pigment that really greys the one nearest to `hue`: of all mixes of two, no lighter than their tints begin, the greyest.
    fn own(&self, hue: f64) -> Option<f64> {
        let coloured: Vec<(&Pigment, Lab)> =
            self.paint_box.own().iter().filter(|p| !p.white).filter_map(|p| Some((p, self.vivid(p)?))).collect();
        let asked = *coloured.iter().min_by(|a, b| off(a.1.hue().0, hue).total_cmp(&off(b.1.hue().0, hue)))?;
        let greyest = coloured.iter().filter(|(p, _)| p.id != asked.0.id).filter_map(|other| {
            let (grey, _) = greying::greyest(self.piece, self.paint_box, asked, *other)?;
            Some((grey.chroma(), other.1.hue().0))
        });
        greyest.min_by(|a, b| a.0.total_cmp(&b.0)).map(|(_, hue)| hue)
    }

    fn vivid(&self, pigment: &Pigment) -> Option<Lab> {
        greying::vivid(self.piece, self.paint_box, pigment)
    }

    /// The opposites of hues all round, every [`EVERY`] degrees.
    pub fn opposites(&self) -> Vec<Opposite> {
        let hues: Vec<f64> = (0..360 / EVERY).map(|i| f64::from(i * EVERY)).collect();
        hues.into_par_iter().map(|hue| Opposite { hue, opposite: self.opposite(HueAngle(hue)).0 }).collect()
    }
}

/// Degrees from one hue to the next whose opposite is told.
const EVERY: u32 = 15;

/// A hue and what lies opposite.
#[derive(Clone, Copy, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Opposite {
    /// Hue angle in CIELAB, degrees.
    pub hue: f64,
    /// Hue angle of its opposite.
    pub opposite: f64,
}

/// Degrees between two hues, 0..=180.
fn off(a: f64, b: f64) -> f64 {
    ((a - b + 180.0).rem_euclid(360.0) - 180.0).abs()
}

fn turned_on(wheel: Marks, hue: f64, by: f64) -> f64 {
    let place = between(wheel.iter().copied(), hue);
    between(wheel.iter().map(|(h, p)| (*p, *h)), (place + by).rem_euclid(360.0))
}

/// Reads a wheel evenly between its marks, across the turn too.
fn between(marks: impl Iterator<Item = (f64, f64)>, at: f64) -> f64 {
    let marks: Vec<(f64, f64)> = marks.collect();
    let ahead = |from: f64, to: f64| (to - from).rem_euclid(360.0);
    let Some(i) = (0..marks.len()).min_by(|a, b| ahead(marks[*a].0, at).total_cmp(&ahead(marks[*b].0, at))) else { return at };
    let (low, high) = (marks[i], marks[(i + 1) % marks.len()]);
    let share = ahead(low.0, at) / ahead(low.0, high.0).max(1e-9);
    (low.1 + ahead(low.1, high.1) * share).rem_euclid(360.0)
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::staged::{Staged, staged};
    use crate::wording::hue::hue_word;

    fn oils() -> PaintBox {
        let oils = lean_demo::oils();
        PaintBox { name: oils.name, medium: oils.medium, pigments: oils.pigments }
    }

    fn opposite(school: School, hue: f64) -> f64 {
        let mut piece = staged(&[Staged::vt(6.0, 4.0), Staged::vt(3.0, -4.0)]);
        piece.intent.schools.insert(Question::Wheel, school);
        Wheel::of(&piece, &oils()).opposite(HueAngle(hue)).0
    }

    #[test]
    fn each_wheel_has_its_own_opposites() {
        let words = |school| [30.0, 95.0, 265.0].map(|h| hue_word(HueAngle(opposite(school, h))));
        assert_eq!(words(School::PaintersWheel), ["green", "violet", "orange"]);
        assert_eq!(words(School::PrintersWheel)[..2], ["sea green", "blue"]);
        assert_eq!(words(School::PerceptualWheel), ["sea green", "blue", "yellow"]);
    }

    #[test]
    fn the_opposite_of_the_opposite_is_the_hue_itself() {
        for school in [School::PaintersWheel, School::PrintersWheel, School::PerceptualWheel] {
            for hue in (0..360).step_by(7) {
                let back = opposite(school, opposite(school, f64::from(hue)));
                assert!(off(back, f64::from(hue)) < 1e-6, "{school:?} {hue}: {back}");
            }
        }
    }

    #[test]
    fn in_a_box_the_opposite_is_the_pigment_that_greys() {
        let hue = 30.0;
        let other = opposite(School::OwnWheel, hue);
        assert!(off(hue, other) > 90.0, "a red is not greyed by {other}");
        let paint_box = oils();
        let piece = staged(&[Staged::vt(6.0, 4.0), Staged::vt(3.0, -4.0)]);
        let own = Wheel { piece: &piece, paint_box: &paint_box, school: School::OwnWheel };
        let hues: Vec<f64> = paint_box.pigments.iter().filter(|p| !p.white).filter_map(|p| own.vivid(p)).map(|lab| lab.hue().0).collect();
        assert!(hues.iter().any(|h| off(*h, other) < 1e-9), "it is a hue of the Box");
    }
}
