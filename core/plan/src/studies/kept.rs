//! What becomes of the studies a piece has when new ones are made.

use lean_piece::change::KeepStudies;
use lean_piece::{MOST_STUDIES, Piece, Scheme, Study, StudyNumber};

/// Studies made anew in place of those there are. Plans left behind and colours taken from elsewhere stay, behind the new ones. A choice, a reason
/// and a clock belong to a scheme, not to a number: they go to the new study of the same scheme, and a choice whose scheme is gone is taken back.
pub fn made_anew(piece: &Piece, made: &[Study]) -> KeepStudies {
    let stays = |s: &&Study| matches!(s.scheme, Scheme::Former | Scheme::Borrowed { .. });
    let noted = |s: &Study| match piece.studies.iter().find(|old| old.scheme == s.scheme) {
        Some(old) => Study { reason: old.reason.clone(), minutes: old.minutes, running_since: old.running_since, ..s.clone() },
        None => s.clone(),
    };
    let all = made.iter().map(noted).chain(piece.studies.iter().filter(stays).cloned()).take(MOST_STUDIES);
    let studies: Vec<Study> = all.zip(1..).map(|(s, n)| Study { number: StudyNumber(n), ..s }).collect();
    let was = piece.studies.iter().find(|s| Some(s.number) == piece.chosen_study);
    let chosen = was.and_then(|old| studies.iter().find(|s| s.scheme == old.scheme));
    KeepStudies { chosen: chosen.map(|s| s.number), studies }
}

/// One study made: in the place of the one it was made from, or as the last.
pub fn with_one(piece: &Piece, made: &Study, in_place_of: Option<StudyNumber>) -> KeepStudies {
    let mut studies = piece.studies.clone();
    match studies.iter_mut().find(|s| Some(s.number) == in_place_of) {
        Some(old) => {
            let (reason, number) = (old.reason.clone(), old.number);
            *old = Study { number, reason, minutes: old.minutes, running_since: old.running_since, ..made.clone() };
        }
        None => {
            let number = StudyNumber(studies.iter().map(|s| s.number.0).max().unwrap_or(0) + 1);
            studies.push(Study { number, ..made.clone() });
        }
    }
    KeepStudies { studies, chosen: piece.chosen_study }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::staged::{Staged, staged};

    fn study(number: u8, scheme: Scheme) -> Study {
        Study {
            number: StudyNumber(number),
            scheme,
            pigments: Vec::new(),
            cost: 0.0,
            mixes: Vec::new(),
            basis: String::new(),
            reason: format!("reason {number}"),
            minutes: 0,
            made: None,
            running_since: None,
        }
    }

    #[test]
    fn a_choice_follows_its_scheme_and_not_its_number() {
        let mut piece = staged(&[Staged::vt(6.0, 0.0)]);
        let hue = |hue| Scheme::OneHue { hue };
        piece.studies = vec![study(1, Scheme::AsRead), study(2, hue(30.0)), study(3, Scheme::Former)];
        piece.chosen_study = Some(StudyNumber(2));
        let kept = made_anew(&piece, &[study(1, hue(200.0)), study(2, Scheme::AsRead), study(3, hue(30.0))]);
        assert_eq!(kept.chosen, Some(StudyNumber(3)));
        assert_eq!((kept.studies[2].reason.as_str(), kept.studies[3].scheme.clone()), ("reason 2", Scheme::Former));
        assert_eq!(made_anew(&piece, &[study(1, Scheme::AsRead)]).chosen, None, "its scheme is gone");
    }

    #[test]
    fn one_more_study_takes_no_number_that_was_given_meanwhile() {
        let mut piece = staged(&[Staged::vt(6.0, 0.0)]);
        piece.studies = vec![study(1, Scheme::AsRead), study(2, Scheme::Former)];
        let lent = study(2, Scheme::Borrowed { from: "a card".into() });
        let kept = with_one(&piece, &lent, None);
        assert_eq!(kept.studies.iter().map(|s| s.number.0).collect::<Vec<_>>(), [1, 2, 3]);
        assert_eq!(kept.studies[1].scheme, Scheme::Former);
        assert_eq!(with_one(&piece, &lent, Some(StudyNumber(1))).studies[0].reason, "reason 1");
    }
}
