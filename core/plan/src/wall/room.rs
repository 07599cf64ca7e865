//! What else is in the room: the balance of warm and cool in the photo of the wall.

use lean_colour::difference::ciede2000;
use lean_colour::screen::lab_of_srgb;
use lean_colour::{Lab, Temperature};
use lean_picture::Picture;
use lean_piece::wall::RoomReading;

/// CIEDE2000 within which a spot of the photo is the wall itself, its shading left out. A choice.
const WALL: f64 = 9.0;
/// Least chroma that says warm or cool, or wood or plant. A choice.
const COLOURED: f64 = 9.0;
/// Hues of wood and of leaves in CIELAB, degrees, and the values wood has. Choices.
const WOOD: std::ops::Range<f64> = 40.0..85.0;
const WOOD_VALUES: std::ops::Range<f64> = 1.5..7.5;
const LEAVES: std::ops::Range<f64> = 98.0..170.0;
/// Values leaves have indoors: what is lighter is a wall in greenish light. A choice.
const LEAF_VALUES: std::ops::Range<f64> = 1.0..6.8;

/// Shares of wall, wood and plants, and of warm and cool, in a small photo whose bare wall reads `wall`.
pub fn read(photo: &Picture, wall: Lab) -> RoomReading {
    let labs: Vec<Lab> = photo.rgb.chunks_exact(3).map(|p| lab_of_srgb([p[0], p[1], p[2]])).collect();
    let share = |is: &dyn Fn(&Lab) -> bool| labs.iter().filter(|l| is(l)).count() as f64 / labs.len().max(1) as f64;
    // A wall in shade is the same wall: only half of a difference in lightness counts.
    let on_wall = |l: &Lab| ciede2000(Lab::new((l.l + wall.l) / 2.0, l.a, l.b), wall) < WALL;
    let coloured = |l: &Lab| !on_wall(l) && l.chroma() >= COLOURED;
    RoomReading {
        wall: share(&on_wall),
        wood: share(&|l| coloured(l) && WOOD.contains(&l.hue().0) && WOOD_VALUES.contains(&l.value().0)),
        plants: share(&|l| coloured(l) && LEAVES.contains(&l.hue().0) && LEAF_VALUES.contains(&l.value().0)),
        warm: share(&|l| l.chroma() >= COLOURED && l.temperature().0 > 0.0),
        cool: share(&|l| l.chroma() >= COLOURED && l.temperature().0 < 0.0),
    }
}

/// The balance of a room in a sentence.
pub fn sentence(room: &RoomReading) -> String {
    let percent = |share: f64| format!("{:.0} %", share * 100.0);
    let mut seen = vec![format!("{} wall", percent(room.wall))];
    seen.extend(
        [("brown as wood", room.wood), ("green as leaves", room.plants)]
            .iter()
            .filter(|(_, s)| *s >= 0.02)
            .map(|(n, s)| format!("{} {n}", percent(*s))),
    );
    format!("The photo is {}; {} of it plainly warm, {} plainly cool.", seen.join(", "), percent(room.warm), percent(room.cool))
}

/// How a picture so warm (mean temperature relative to neutral) stands in a room: `None` where the room leans neither way.
pub fn stands(room: &RoomReading, temperature: Temperature) -> Option<&'static str> {
    const LEANS: f64 = 0.12;
    const SAME: f64 = 3.0;
    let leans = room.warm - room.cool;
    (leans.abs() >= LEANS && temperature.0.abs() >= SAME).then_some(match (leans > 0.0, temperature.0 > 0.0) {
        (true, true) => "It joins the warmth of the room.",
        (true, false) => "It is the cool in a warm room.",
        (false, true) => "It is the warmth in a cool room.",
        (false, false) => "It joins the coolness of the room.",
    })
}

#[cfg(test)]
mod tests {
    use super::*;

    /// A room of bands: plaster above, a wooden floor, leaves at the side.
    fn room() -> Picture {
        let pixel = |x: u32, y: u32| -> [u8; 3] {
            match (x, y) {
                (0..=11, 0..=29) => [70, 120, 60],
                (_, 30..) => [140, 96, 60],
                _ => [206, 202, 194],
            }
        };
        let rgb = (0..40).flat_map(|y| (0..60).flat_map(move |x| pixel(x, y))).collect();
        Picture { width: 60, height: 40, rgb }
    }

    #[test]
    fn wood_leaves_and_wall_are_told_apart() {
        let seen = read(&room(), lab_of_srgb([206, 202, 194]));
        assert!((seen.wood - 0.25).abs() < 0.01 && (seen.plants - 0.15).abs() < 0.01 && (seen.wall - 0.6).abs() < 0.01, "{seen:?}");
        let pale = Picture { width: 4, height: 4, rgb: [222, 226, 190].repeat(16) };
        assert_eq!(read(&pale, lab_of_srgb([240, 222, 186])).plants, 0.0, "a wall in greenish light is no plant");
        assert_eq!(stands(&seen, Temperature(-8.0)), Some("It is the cool in a warm room."));
        assert_eq!(stands(&RoomReading { warm: 0.2, cool: 0.2, ..seen }, Temperature(8.0)), None);
    }
}
