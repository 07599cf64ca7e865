//! How loud a wall is, and a piece on it.

use lean_colour::{Lab, Value};
use lean_picture::Picture;
use lean_piece::Piece;
use lean_piece::wall::WallReading;

/// Reads the wall off its photo: the half of the pixels nearest to the median value, so that furniture and windows do not count.
pub fn read(photo: &Picture) -> WallReading {
    let small = photo.reduced(240);
    let mut labs: Vec<Lab> = small.rgb.chunks_exact(3).map(|p| lean_colour::screen::lab_of_srgb([p[0], p[1], p[2]])).collect();
    let middle = median(labs.iter().map(|l| l.l).collect());
    labs.sort_by(|a, b| (a.l - middle).abs().total_cmp(&(b.l - middle).abs()));
    labs.truncate((labs.len() / 2).max(1));
    let n = labs.len() as f64;
    let mean = |f: fn(&Lab) -> f64| labs.iter().map(f).sum::<f64>() / n;
    let lab = Lab::new(middle, mean(|l| l.a), mean(|l| l.b));
    let spread = (labs.iter().map(|l| (l.value().0 - lab.value().0).powi(2)).sum::<f64>() / n).sqrt();
    let chroma = mean(Lab::chroma);
    WallReading {
        lab,
        value: lab.value().0,
        temperature: lab.temperature().0,
        loudness: loudness(chroma, spread),
        room: Some(super::room::read(&small, lab)),
    }
}

/// Chroma of 40, or a spread of two steps, is loud. A choice.
fn loudness(chroma: f64, spread: f64) -> f64 {
    (chroma / 40.0 + spread / 2.0).min(1.5) / 1.5
}

/// What a piece says on a wall.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Voice {
    /// Steps between the piece's mean value and the wall's.
    pub steps: f64,
    /// The piece's own loudness, 0..=1.
    pub loudness: f64,
    /// True when it speaks up: plainly louder or plainly another value than the wall.
    pub speaks_up: bool,
}

/// Steps from the wall, and loudness above it, from which a piece speaks up. Choices.
const STEPS: f64 = 2.2;
const LOUDER: f64 = 0.22;

/// How a piece's plan speaks on a wall; `None` without zones.
pub(crate) fn voice(piece: &Piece, wall: &WallReading) -> Option<Voice> {
    let plan: Vec<Lab> = piece.zones.iter().map(|z| piece.wanted(z)).collect();
    voice_of(piece, &plan, wall)
}

/// How a version of the piece speaks on a wall: a colour for every zone, in the order of `piece.zones`; `None` without zones.
pub fn voice_of(piece: &Piece, colours: &[Lab], wall: &WallReading) -> Option<Voice> {
    let (value, spread) = values_of(piece, colours)?;
    let own = loudness(mean(piece, colours, &|l| l.chroma())?, spread);
    let steps = Value(value).steps_above(Value(wall.value));
    Some(Voice { steps, loudness: own, speaks_up: steps.abs() > STEPS || own > wall.loudness + LOUDER })
}

/// The mean chroma up to which a version of the piece is no louder than its wall lets something quiet be; 0 where its values alone speak up.
pub(crate) fn most_chroma(piece: &Piece, colours: &[Lab], wall: &WallReading) -> f64 {
    let spread = values_of(piece, colours).map_or(0.0, |v| v.1);
    (40.0 * ((wall.loudness + LOUDER) * 1.5 - spread / 2.0)).max(0.0)
}

/// Mean by area over the zones; `None` without zones.
fn mean(piece: &Piece, colours: &[Lab], f: &dyn Fn(Lab) -> f64) -> Option<f64> {
    let area: f64 = piece.zones.iter().map(|z| z.reading.area).sum();
    (area > 0.0).then(|| piece.zones.iter().zip(colours).map(|(z, c)| z.reading.area * f(*c)).sum::<f64>() / area)
}

/// Mean value and how far values spread about it, in steps.
fn values_of(piece: &Piece, colours: &[Lab]) -> Option<(f64, f64)> {
    let value = mean(piece, colours, &|l| l.value().0)?;
    Some((value, mean(piece, colours, &|l| (l.value().0 - value).powi(2))?.sqrt()))
}

/// A loudness in words.
pub fn word(loudness: f64) -> &'static str {
    match loudness {
        l if l < 0.25 => "quiet",
        l if l < 0.5 => "neither quiet nor loud",
        _ => "loud",
    }
}

/// How a piece speaks on its wall, in a sentence.
pub fn sentence(v: &Voice) -> String {
    let steps = format!("{:.1} steps {} the wall", v.steps.abs(), if v.steps < 0.0 { "below" } else { "above" });
    format!("Contrast with the wall: {}, {steps}.", if v.speaks_up { "high" } else { "low" })
}

fn median(mut of: Vec<f64>) -> f64 {
    of.sort_by(f64::total_cmp);
    of.get(of.len() / 2).copied().unwrap_or(50.0)
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::staged::{Staged, staged};

    fn flat(rgb: [u8; 3]) -> Picture {
        Picture { width: 60, height: 40, rgb: rgb.repeat(2400) }
    }

    #[test]
    fn a_plastered_wall_is_quiet_and_a_red_one_is_loud() {
        let plaster = read(&flat([200, 196, 186]));
        let red = read(&flat([190, 40, 40]));
        assert!(plaster.loudness < 0.2 && red.loudness > 0.6, "{} {}", plaster.loudness, red.loudness);
        assert!(red.temperature > plaster.temperature && plaster.value > 7.0);
    }

    #[test]
    fn a_dark_door_in_the_photo_does_not_change_the_wall() {
        let mut rgb = [200u8, 196, 186].repeat(2400);
        rgb[..3 * 700].fill(20);
        let seen = read(&Picture { width: 60, height: 40, rgb });
        assert!((seen.value - read(&flat([200, 196, 186])).value).abs() < 0.05);
    }

    #[test]
    fn near_greys_are_quiet_and_strong_darks_speak_up() {
        let wall = read(&flat([200, 196, 186]));
        let quiet = staged(&[Staged::read(76.0, 1.0, 6.0), Staged::read(68.0, 0.0, 4.0)]);
        let loud = staged(&[Staged::read(25.0, 30.0, 10.0), Staged::read(40.0, 40.0, 40.0)]);
        assert!(!voice(&quiet, &wall).unwrap().speaks_up);
        assert!(voice(&loud, &wall).unwrap().speaks_up);
    }
}
