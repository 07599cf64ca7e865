//! A dark with a colour is richer than black.

use crate::findings::Finding;
use crate::findings::plan::{Plan, PlannedZone};
use crate::wording::grammar::subject;
use lean_colour::Temperature;
use lean_piece::intent::schools::{Question, School};
use lean_piece::light::Role;

/// Value below which a zone is a dark, and chroma below which it is a dead one. Choices.
const DARK: f64 = 2.6;
const DEAD: f64 = 1.5;
/// Units of temperature a dead dark is given. A choice.
const GIVEN: f64 = 5.0;

/// Darks without a colour, in the school that mixes them. Silent in the other schools of black and for tiny accents.
pub(crate) fn coloured(plan: &Plan) -> Vec<Finding> {
    if plan.school(Question::Black) != School::NeverBlack {
        return Vec::new();
    }
    let dead = |z: &&PlannedZone| z.value < DARK && z.lab.chroma() < DEAD && z.area > 0.01;
    plan.zones
        .iter()
        .filter(dead)
        .map(|z| {
            let found = Finding::remark(
                "dark",
                format!("dark-{}", z.id.0),
                vec![z.id],
                format!("{} dark without a colour", subject(&z.label)),
                "A dark mixed from two complementaries leans somewhere and stays alive; a neutral one reads as a hole.".into(),
                "black: never, mix darks from opposites",
            );
            let lamp = plan.lighting.lamp(z.facts.light).map_or(1.0, |l| l.tint.sign());
            let side = if z.is(Role::Lit) { lamp } else { -lamp };
            let by = if side >= 0.0 && lamp != 0.0 { GIVEN } else { -GIVEN };
            found.mended(format!("Let it lean {}", if by > 0.0 { "warm" } else { "cool" }), vec![(z.id, z.warmer(Temperature(by)))])
        })
        .collect()
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::findings::tests::taken;
    use crate::staged::{Staged, staged};
    use lean_piece::Piece;

    fn of(piece: &Piece) -> Vec<Finding> {
        coloured(&Plan::of(piece, &[], None))
    }

    #[test]
    fn a_dead_dark_is_said_and_mended_a_coloured_one_and_a_grey_are_not() {
        let piece = staged(&[Staged::read(14.0, 0.2, 0.1), Staged::read(14.0, 3.0, -6.0), Staged::read(50.0, 0.0, 0.0)]);
        let found = of(&piece);
        assert_eq!((found.len(), found[0].zones[0].0), (1, 1));
        assert!(of(&taken(&piece, &found[0])).is_empty());
    }

    #[test]
    fn where_black_is_allowed_nothing_is_said() {
        let mut piece = staged(&[Staged::read(14.0, 0.2, 0.1), Staged::read(50.0, 0.0, 0.0)]);
        for school in [School::BlackAllowed, School::NeutralsOver] {
            piece.intent.schools.insert(Question::Black, school);
            assert!(of(&piece).is_empty());
        }
    }
}
