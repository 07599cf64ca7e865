//! How the piece speaks on its wall, against how it is meant to.

use crate::findings::Finding;
use crate::findings::plan::Plan;
use crate::wall::loudness;
use lean_colour::{Lab, Value, moves::with_value};
use lean_piece::wall::Heard;

/// A piece meant to be quiet that speaks up on its wall, or the other way round. Silent until somebody said how it is meant.
pub(crate) fn heard(plan: &Plan) -> Vec<Finding> {
    let Some((wall, voice)) = &plan.wall else { return Vec::new() };
    let Some(meant) = wall.heard else { return Vec::new() };
    let numbers = format!(
        "The wall reads {:.1} and is {}; the plan lies {:.1} steps {} it and is {}.",
        wall.reading.value,
        loudness::word(wall.reading.loudness),
        voice.steps.abs(),
        if voice.steps < 0.0 { "below" } else { "above" },
        loudness::word(voice.loudness)
    );
    match (meant, voice.speaks_up) {
        (Heard::Quiet, true) => {
            let found = Finding::remark(
                "wall",
                "wall",
                Vec::new(),
                "High contrast with the wall".into(),
                format!("You want low contrast there. {numbers} {}", plan.calming()),
                "for the place",
            );
            let mean = plan.zones.iter().map(|z| z.area * z.value).sum::<f64>() / plan.zones.iter().map(|z| z.area).sum::<f64>().max(1e-9);
            let toward = |v: f64| mean + (v - mean) * 0.7 + (wall.reading.value - mean) * 0.4;
            let calmed = plan.zones.iter().map(|z| {
                let dull = Lab::new(z.lab.l, z.lab.a * 0.65, z.lab.b * 0.65);
                (z.id, with_value(dull, Value(toward(z.value).clamp(0.5, 9.8))))
            });
            vec![found.mended("Calm the plan towards the wall".into(), calmed.collect())]
        }
        (Heard::SpeaksUp, false) => {
            let found = Finding::remark(
                "wall",
                "wall",
                Vec::new(),
                "Low contrast with the wall".into(),
                format!("You want high contrast there. {numbers}"),
                "for the place",
            );
            vec![found.helped("More contrast, purer colour, or a key the wall does not have.")]
        }
        _ => Vec::new(),
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::staged::{Staged, staged};
    use lean_piece::Piece;
    use lean_piece::wall::{Wall, WallReading};

    fn on_plaster(zones: &[Staged], heard: Option<Heard>) -> Piece {
        let reading = WallReading { lab: Lab::new(76.0, 0.0, 5.0), value: 7.4, temperature: 3.0, loudness: 0.1, room: None };
        let wall = Wall { heard, reading, ..Wall::of("d".into(), "stair.jpg".into(), (100, 100), reading) };
        Piece { wall: Some(wall), ..staged(zones) }
    }

    fn of(piece: &Piece) -> usize {
        super::heard(&Plan::of(piece, &[], None)).len()
    }

    #[test]
    fn only_what_is_not_as_meant_is_said() {
        let loud = [Staged::read(25.0, 40.0, 20.0), Staged::read(40.0, 45.0, 40.0)];
        let quiet = [Staged::vt(7.2, 2.0), Staged::vt(6.8, 1.0)];
        assert_eq!(of(&on_plaster(&loud, Some(Heard::Quiet))), 1);
        assert_eq!(of(&on_plaster(&quiet, Some(Heard::SpeaksUp))), 1);
        assert_eq!(of(&on_plaster(&loud, Some(Heard::SpeaksUp))), 0);
        assert_eq!(of(&on_plaster(&quiet, Some(Heard::Quiet))), 0);
        assert_eq!(of(&on_plaster(&loud, None)), 0);
    }
}
