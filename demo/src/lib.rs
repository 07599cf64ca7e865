//! The demo studio: one invented workshop, *Sluice Yard*, so that every screen has something true to show.
//!
//! Nothing in it comes from anyone's photographs, products or work. The sticks and tubes are blends of the shipped *modelled*
//! pigments under plain names of our own; the reference is ray-traced from `tram-shed/scene.pov`.

use lean_media::{Medium, Parts, Pigment, PigmentId, library};
use serde::Deserialize;
use std::collections::BTreeMap;

/// The ray-traced reference of "Tram shed, first frost", a 1600 × 1200 JPEG.
pub const TRAM_SHED: &[u8] = include_bytes!("../tram-shed/reference.jpg");

/// Name the reference is shown under.
pub const TRAM_SHED_FILE: &str = "tram-shed-first-frost.jpg";

/// A Box of the demo studio.
#[derive(Clone, Debug, PartialEq)]
pub struct DemoBox {
    /// Its name.
    pub name: String,
    /// Sticks or tubes.
    pub medium: Medium,
    /// What is in it.
    pub pigments: Vec<Pigment>,
}

#[derive(Deserialize)]
struct BoxFile {
    name: String,
    medium: Medium,
    pigments: Vec<Entry>,
}

#[derive(Deserialize)]
struct Entry {
    id: String,
    name: String,
    made_of: BTreeMap<String, f64>,
    white: bool,
}

/// About sixty sticks of soft pastel.
pub fn pastels() -> DemoBox {
    read(include_str!("../boxes/pastel.json"))
}

/// Twelve tubes of oil.
pub fn oils() -> DemoBox {
    read(include_str!("../boxes/oil.json"))
}

fn read(text: &str) -> DemoBox {
    let file: BoxFile = serde_json::from_str(text).expect("the demo Boxes are readable");
    DemoBox { name: file.name, medium: file.medium, pigments: file.pigments.into_iter().map(blend).collect() }
}

fn blend(entry: Entry) -> Pigment {
    let of: Vec<(&Pigment, Parts)> = entry
        .made_of
        .iter()
        .map(|(id, parts)| (library::find(id).expect("demo sticks are blends of shipped pigments"), Parts(*parts)))
        .collect();
    Pigment { white: entry.white, ..Pigment::blended(PigmentId(entry.id), entry.name, &of) }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_boxes_are_sound_and_of_the_stated_size() {
        assert_eq!((pastels().pigments.len(), oils().pigments.len()), (61, 12));
        for b in [pastels(), oils()] {
            b.pigments.iter().for_each(|p| p.check().unwrap());
            assert_eq!(b.pigments.iter().filter(|p| p.white).count(), 1);
        }
    }

    #[test]
    fn no_stick_makes_hazardous_dust() {
        assert!(pastels().pigments.iter().all(|p| p.hazard.is_empty()));
    }
}
