//! A hue in the painter's hand: colours given to zones, their values kept.

use crate::requests::Colouring;
use lean_colour::real::toward_real;
use lean_colour::{Lab, typed};
use lean_piece::change::ChangeZones;
use lean_piece::paint_box::PaintBox;
use lean_piece::{Piece, Refusal, Zone, ZoneId};

/// Chroma a grey zone starts from when its hue is turned: enough to see the hue. A choice.
const SEEN: f64 = 16.0;

/// The command that colours some zones. Values stay, and only hue and chroma change; shapes of a drawing take all of a colour.
///
/// # Errors
/// When a zone or pigment is not there, a text is no colour, or a number is out of range.
pub(crate) fn coloured(
    piece: &Piece,
    paint_box: Option<&PaintBox>,
    zones: &[ZoneId],
    how: &Colouring,
    local: bool,
) -> Result<ChangeZones, Refusal> {
    if zones.is_empty() {
        return Err(Refusal::Text("No zone is chosen. Choose one on the plan.".into()));
    }
    let from = taken_from(piece, paint_box, how)?;
    // A shape of a drawing has no value of its own: it takes all of a colour.
    let whole = piece.reference.as_ref().is_some_and(|r| r.lines);
    let zone = |id: &ZoneId| {
        let zone = piece.zone(*id).ok_or(Refusal::NoSuchZone(id.0))?;
        Ok(changed(zone, how, from, local, whole))
    };
    let named: Vec<String> = zones.iter().map(|z| piece.zone_label(*z)).collect();
    let what = if local { "the local colour of" } else { "the colour of" };
    Ok(ChangeZones { zones: zones.iter().map(zone).collect::<Result<_, Refusal>>()?, what: format!("{what} {}", named.join(", ")) })
}

/// The colour that is to be taken, where one is named.
fn taken_from(piece: &Piece, paint_box: Option<&PaintBox>, how: &Colouring) -> Result<Option<Lab>, Refusal> {
    let in_range = |what: &str, n: f64, most: f64| {
        if n.is_finite() && n.abs() <= most {
            Ok(None)
        } else {
            Err(Refusal::Range(format!("A {what} of {n} is out of range; it may be up to {most}.")))
        }
    };
    match how {
        Colouring::Of { lab } => Ok(Some(*lab)),
        Colouring::Typed { text } => typed::parse(text).map(Some).map_err(Refusal::Text),
        Colouring::Pigment { pigment } => {
            let found =
                paint_box.and_then(|b| b.find(pigment)).ok_or_else(|| Refusal::Unknown(format!("\"{pigment}\" is not in the Box.")))?;
            Ok(Some(crate::mixes::swatch(piece.brief.medium, &piece.ground(), found)))
        }
        Colouring::Turn { hue, chroma } => in_range("turn", *hue, 360.0).and(in_range("change of chroma", *chroma, 200.0)),
        Colouring::Set { hue, chroma } => in_range("hue", *hue, 360.0).and(in_range("chroma", *chroma, 200.0)),
        Colouring::AsRead => Ok(None),
    }
}

fn changed(zone: &Zone, how: &Colouring, from: Option<Lab>, local: bool, whole: bool) -> Zone {
    let old = if local { zone.facts.local.unwrap_or(zone.reading.lab) } else { zone.target };
    let with = |lab: Lab| match local {
        true => Zone { facts: lean_piece::light::Facts { local: Some(lab), ..zone.facts }, ..zone.clone() },
        // A run from colour to colour has no one hue to turn: its far end keeps its distance in value.
        false => Zone {
            target: lab,
            graded: zone.graded.map(|g| lean_piece::light::Graded { to: coloured_end(g.to, lab), ..g }),
            ..zone.clone()
        },
    };
    let polar = |chroma: f64, hue: f64| toward_real(Lab::from_lch(old.l, chroma.max(0.0), hue.rem_euclid(360.0)));
    match (how, from) {
        (_, Some(lab)) => with(toward_real(if whole { lab } else { Lab::new(old.l, lab.a, lab.b) })),
        (Colouring::Set { hue, chroma }, _) => with(polar(*chroma, *hue)),
        (Colouring::Turn { hue, chroma }, _) => {
            let start = if *hue != 0.0 && old.chroma() < 1.0 { SEEN } else { old.chroma() };
            with(polar(start + chroma, old.hue().0 + hue))
        }
        _ if local => Zone { facts: lean_piece::light::Facts { local: None, ..zone.facts }, ..zone.clone() },
        _ => Zone { target: zone.reading.lab, ..zone.clone() },
    }
}

/// The far end of a run in the new hue, its value and strength kept.
fn coloured_end(end: Lab, lab: Lab) -> Lab {
    toward_real(Lab::from_lch(end.l, end.chroma(), lab.hue().0))
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::staged::{Staged, staged};

    fn done(how: &Colouring, local: bool) -> Result<Vec<Zone>, Refusal> {
        let piece = staged(&[Staged::vt(6.0, 8.0), Staged::read(40.0, 0.0, 0.0)]);
        coloured(&piece, None, &[ZoneId(1), ZoneId(2)], how, local).map(|c| c.zones)
    }

    #[test]
    fn a_hue_is_set_and_turned_and_the_value_stays() {
        let before = staged(&[Staged::vt(6.0, 8.0), Staged::read(40.0, 0.0, 0.0)]);
        for how in [
            Colouring::Set { hue: 250.0, chroma: 20.0 },
            Colouring::Turn { hue: 30.0, chroma: 4.0 },
            Colouring::Of { lab: Lab::new(90.0, 10.0, -10.0) },
            Colouring::Typed { text: "#3060a0".into() },
        ] {
            for (z, old) in done(&how, false).unwrap().iter().zip(&before.zones) {
                assert!((z.target.l - old.target.l).abs() < 1e-9, "{how:?}");
                assert!(z.target.chroma() > 5.0, "{how:?}: even a grey shows it");
            }
        }
        let turned = done(&Colouring::Turn { hue: 30.0, chroma: 0.0 }, false).unwrap();
        let by = (turned[0].target.hue().0 - before.zones[0].target.hue().0).rem_euclid(360.0);
        assert!((by - 30.0).abs() < 0.5, "{by}");
        assert_eq!(done(&Colouring::AsRead, false).unwrap()[0].target, before.zones[0].reading.lab);
    }

    #[test]
    fn a_local_colour_leaves_the_target_alone() {
        let before = staged(&[Staged::vt(6.0, 8.0), Staged::read(40.0, 0.0, 0.0)]);
        let z = &done(&Colouring::Set { hue: 20.0, chroma: 30.0 }, true).unwrap()[0];
        assert_eq!(z.target, before.zones[0].target);
        assert!((z.facts.local.unwrap().hue().0 - 20.0).abs() < 0.5);
        assert_eq!(done(&Colouring::AsRead, true).unwrap()[0].facts.local, None);
    }

    #[test]
    fn what_is_no_colour_is_refused() {
        assert!(matches!(done(&Colouring::Typed { text: "sort of thing".into() }, false), Err(Refusal::Text(_))));
        assert!(matches!(done(&Colouring::Set { hue: f64::NAN, chroma: 10.0 }, false), Err(Refusal::Range(_))));
        assert!(matches!(done(&Colouring::Pigment { pigment: lean_media::PigmentId("velvet".into()) }, false), Err(Refusal::Unknown(_))));
    }
}
