//! Going on with a study: it becomes the plan, and the plan it takes the place of stays as a study.

use crate::basis::basis;
use crate::mixes::ZoneMix;
use lean_colour::Lab;
use lean_piece::change::GoOn;
use lean_piece::paint_box::PaintBox;
use lean_piece::{ChosenSet, Piece, Refusal, Scheme, Study, StudyMix, StudyNumber, Zone, ZoneId};

/// The command that goes on with a study. `mixes` are those of the plan as it is, kept as a study unless it is one already.
///
/// # Errors
/// When there is no such study.
pub fn go_on(
    piece: &Piece,
    paint_box: Option<&PaintBox>,
    mixes: &[ZoneMix],
    number: StudyNumber,
    more: Option<u8>,
) -> Result<GoOn, Refusal> {
    let study = piece
        .studies
        .iter()
        .find(|s| s.number == number)
        .ok_or_else(|| Refusal::Unknown(format!("Study {number} has not been made yet. Make the studies first.")))?;
    let targets: Vec<(ZoneId, Lab)> = study.mixes.iter().filter(|m| piece.zone(m.zone).is_some()).map(|m| (m.zone, m.wanted)).collect();
    let zone = |z: &Zone| z.retargeted(targets.iter().find(|(id, _)| *id == z.id).map_or(z.target, |(_, lab)| *lab));
    let next = Piece {
        zones: piece.zones.iter().map(zone).collect(),
        chosen: ChosenSet { pigments: piece.set_with(study) },
        scheme: Some(study.scheme.clone()),
        ..piece.clone()
    };
    let basis = basis(&next, paint_box);
    Ok(GoOn { number, former: former(piece, mixes, &basis).map(Box::new), targets, basis, more })
}

/// The plan in its mixes as a study; `None` without a set, or where a study is the same already.
fn former(piece: &Piece, mixes: &[ZoneMix], basis: &str) -> Option<Study> {
    let wanted = |s: &Study| s.mixes.iter().map(|m| m.wanted).collect::<Vec<_>>();
    let own: Vec<Lab> = piece.zones.iter().map(|z| piece.wanted(z)).collect();
    let kept = piece.studies.iter().any(|s| wanted(s) == own && s.pigments == piece.chosen.pigments);
    let mix = |z: &Zone| {
        let m = mixes.iter().find(|m| m.zone == z.id)?;
        Some(StudyMix { zone: z.id, wanted: piece.wanted(z), mix: m.mix.clone(), then: m.then.iter().map(|t| t.mix.clone()).collect() })
    };
    let mixed: Vec<StudyMix> = piece.zones.iter().map(mix).collect::<Option<_>>()?;
    (!kept && !mixed.is_empty()).then(|| Study {
        number: StudyNumber(piece.studies.iter().map(|s| s.number.0).max().unwrap_or(0) + 1),
        scheme: Scheme::Former,
        pigments: piece.chosen.pigments.clone(),
        cost: crate::mixes::cost_of(piece, mixes, piece.cost()),
        mixes: mixed,
        basis: basis.to_owned(),
        reason: String::new(),
        minutes: 0,
        made: None,
        running_since: None,
    })
}
