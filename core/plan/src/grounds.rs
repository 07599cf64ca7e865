//! Which ground the school of the brief would take for this piece.

use lean_colour::Lab;
use lean_colour::difference::ciede2000;
use lean_media::{Ground, GroundId, ground};
use lean_piece::Piece;
use lean_piece::intent::schools::{Question, School};
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

/// How much nearer, in CIEDE2000, another ground must be before it is offered in place of the one in use. A choice.
const PLAINLY: f64 = 2.0;

/// The ground of the medium that suits the school best, the one in use where no other is plainly better; `None` where the main colour decides and there are no zones yet.
pub(crate) fn suits(piece: &Piece) -> Option<Suits> {
    let medium = piece.brief.medium;
    let grounds: Vec<&Ground> = ground::shipped().iter().filter(|g| g.suits.contains(&medium)).collect();
    let (aim, why) = match piece.intent.school(Question::Ground, medium) {
        School::TonedRelative => (main_colour(piece)?, "lies nearest to the main colour of the piece; left showing, it belongs to it"),
        School::TonedOpposite => {
            let main = main_colour(piece)?;
            (Lab::new(main.l, -main.a, -main.b), "lies across from the main colour of the piece; left showing, it makes that glow")
        }
        _ => (Lab::new(100.0, 0.0, 0.0), "is the lightest for this medium; left bare, it is the light"),
    };
    let off = |g: &Ground| ciede2000(g.lab, aim);
    let best = grounds.iter().min_by(|a, b| off(a).total_cmp(&off(b)))?;
    let used = grounds.iter().find(|g| g.id == piece.brief.ground && off(g) <= off(best) + PLAINLY);
    let g = used.unwrap_or(best);
    Some(Suits { ground: g.id.clone(), sentence: format!("Of the grounds here, {} {why}.", g.name) })
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
    use crate::staged::{Staged, staged_in};
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
        assert!(all.clone().count() > 1 && all.clone().all(|g| g.lab.l <= lightest.lab.l + PLAINLY));
        assert_eq!(under(School::TonedRelative, &[]), None, "without zones nothing is its relative");
    }
}
