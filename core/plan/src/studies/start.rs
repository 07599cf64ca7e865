//! A new piece begun from a study.

use lean_piece::easel::Easel;
use lean_piece::{ChosenSet, MOST_NAME, Piece, Refusal, StudyNumber};

/// A piece that begins where a study of another stands: the same picture, zones and light, the study's colours for targets and its set in use.
/// What was painted of the other stays with it.
///
/// # Errors
/// When there is no such study.
pub fn started(piece: &Piece, number: StudyNumber) -> Result<Piece, Refusal> {
    let study = piece.studies.iter().find(|s| s.number == number);
    let study = study.ok_or_else(|| Refusal::Unknown(format!("Study {number} is not there any more. Choose another.")))?;
    let wanted = |z: &lean_piece::Zone| study.mixes.iter().find(|m| m.zone == z.id).map_or(z.target, |m| m.wanted);
    let title: String = format!("After study {number} of {}", piece.brief.title).chars().take(MOST_NAME).collect();
    let mut next = Piece {
        zones: piece.zones.iter().map(|z| z.retargeted(wanted(z))).collect(),
        chosen: ChosenSet { pigments: study.pigments.clone() },
        scheme: Some(study.scheme.clone()),
        search: None,
        studies: Vec::new(),
        chosen_study: None,
        sessions: Vec::new(),
        easel: Easel {
            drawing: piece.easel.drawing,
            air: piece.easel.air,
            hours: piece.easel.hours,
            left_handed: piece.easel.left_handed,
            ..Easel::default()
        },
        dismissed: Vec::new(),
        ..piece.clone()
    };
    next.brief.title = title;
    (next.intent.due, next.intent.for_whom) = (None, String::new());
    Ok(next)
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::staged::{Staged, staged};
    use lean_colour::Lab;
    use lean_piece::{Scheme, Session, Study, StudyMix};
    use lean_recipes::Mix;

    #[test]
    fn a_piece_begins_with_the_colours_and_the_set_of_the_study_and_nothing_painted() {
        let mut piece = staged(&[Staged::vt(6.0, 0.0), Staged::vt(3.0, 8.0)]);
        let wanted = Lab::new(40.0, 12.0, -9.0);
        let study = Study {
            number: StudyNumber(4),
            scheme: Scheme::OneHue { hue: 30.0 },
            pigments: vec!["ochre".into()],
            cost: 0.0,
            mixes: vec![StudyMix { zone: piece.zones[0].id, wanted, mix: Mix::bare(wanted), then: Vec::new() }],
            basis: String::new(),
            reason: String::new(),
            minutes: 0,
            made: None,
            running_since: None,
        };
        piece.studies = vec![study];
        piece.sessions = vec![Session { on: "2025-01-14".into(), minutes: 60, did: "lay-in".into(), zones: Vec::new() }];
        let next = started(&piece, StudyNumber(4)).unwrap();
        assert_eq!((next.zones[0].target, next.zones[1].target), (wanted, piece.zones[1].target));
        assert_eq!((next.chosen.pigments.len(), next.studies.len(), next.sessions.len()), (1, 0, 0));
        assert_eq!(piece.sessions.len(), 1, "the other keeps what was painted of it");
        assert!(started(&piece, StudyNumber(1)).is_err());
    }
}
