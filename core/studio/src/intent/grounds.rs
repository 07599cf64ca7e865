//! Which ground the school of the brief would take for this piece.

use super::schools::{Question, School};
use crate::piece::Piece;
use lean_colour::Lab;
use lean_colour::difference::ciede2000;
use lean_media::{Ground, GroundId, ground};
use serde::Serialize;

/// A ground that suits.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Suits {
    /// Which.
    pub ground: GroundId,
    /// Why, in a sentence.
    pub sentence: String,
}

/// The ground of the medium that suits the school best; `None` where the main colour decides and there are no zones yet.
pub fn suits(piece: &Piece) -> Option<Suits> {
    let medium = piece.brief.medium;
    let grounds: Vec<&Ground> = ground::shipped().iter().filter(|g| g.suits.contains(&medium)).collect();
    let nearest = |to: Lab| grounds.iter().min_by(|a, b| ciede2000(a.lab, to).total_cmp(&ciede2000(b.lab, to)));
    let (best, why) = match piece.intent.school(Question::Ground, medium) {
        School::TonedRelative => {
            (nearest(main_colour(piece)?), "lies nearest to the main colour of the piece; left showing, it belongs to it")
        }
        School::TonedOpposite => {
            let main = main_colour(piece)?;
            (nearest(Lab::new(main.l, -main.a, -main.b)), "lies across from the main colour of the piece; left showing, it makes that glow")
        }
        _ => (grounds.iter().max_by(|a, b| a.lab.l.total_cmp(&b.lab.l)), "is the lightest for this medium; left bare, it is the light"),
    };
    best.map(|g| Suits { ground: g.id.clone(), sentence: format!("Of the grounds here, {} {why}.", g.name) })
}

/// Mean colour of the plan by area.
fn main_colour(piece: &Piece) -> Option<Lab> {
    let whole: f64 = piece.zones.iter().map(|z| z.reading.area).sum();
    let mean = |f: &dyn Fn(Lab) -> f64| piece.zones.iter().map(|z| z.reading.area * f(piece.wanted(z))).sum::<f64>() / whole;
    (whole > 0.0).then(|| Lab::new(mean(&|c| c.l), mean(&|c| c.a), mean(&|c| c.b)))
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::findings::staged::{Staged, staged_in};
    use lean_media::Medium;

    fn under(school: School, stages: &[Staged]) -> Option<Ground> {
        let mut piece = staged_in(Medium::SoftPastel, "sanded-warm-grey", stages);
        piece.intent.schools.insert(Question::Ground, school);
        suits(&piece).map(|s| ground::find(&s.ground).unwrap())
    }

    #[test]
    fn relatives_and_opposites_lie_on_either_side() {
        let cool = [Staged::read(65.0, -2.0, -14.0), Staged::read(55.0, 0.0, -10.0)];
        let relative = under(School::TonedRelative, &cool).unwrap();
        let opposite = under(School::TonedOpposite, &cool).unwrap();
        assert!(relative.lab.b < opposite.lab.b, "{} and {}", relative.name, opposite.name);
    }

    #[test]
    fn white_left_as_light_takes_the_lightest() {
        let lightest = under(School::WhiteGround, &[]).unwrap();
        let all = ground::shipped().iter().filter(|g| g.suits.contains(&Medium::SoftPastel));
        assert!(all.clone().count() > 1 && all.clone().all(|g| g.lab.l <= lightest.lab.l));
        assert_eq!(under(School::TonedRelative, &[]), None, "without zones nothing is its relative");
    }
}
