//! The demo studio: one invented workshop, *Sluice Yard*, so that every screen has something true to show.
//!
//! Nothing in it comes from anyone's photographs, products or work. The sticks and tubes are blends of the shipped *modelled*
//! pigments under plain names of our own; the photo-like pictures are ray-traced from the `scene.pov` beside each, and the kite
//! is drawn in `kite/drawing.svg`.

use lean_media::{Medium, Parts, Pigment, PigmentId, library};
use serde::Deserialize;
use std::collections::BTreeMap;

/// The ray-traced reference of "Tram shed, first frost", a 1600 × 1200 JPEG.
pub const TRAM_SHED: &[u8] = include_bytes!("../tram-shed/reference.jpg");

/// Name the reference is shown under.
pub const TRAM_SHED_FILE: &str = "tram-shed-first-frost.jpg";

/// The ray-traced reference of "Hen on the stove stool", a 1200 × 1600 JPEG.
pub const HEN: &[u8] = include_bytes!("../hen/reference.jpg");

/// Name it is shown under.
pub const HEN_FILE: &str = "hen-on-the-stove-stool.jpg";

/// The ray-traced reference of "Bench by the north window", a 1280 × 1600 JPEG.
pub const BENCH: &[u8] = include_bytes!("../bench/reference.jpg");

/// Name it is shown under.
pub const BENCH_FILE: &str = "bench-by-the-north-window.jpg";

/// The ray-traced reference of "Depot bell", a 1200 × 1600 JPEG.
pub const BELL: &[u8] = include_bytes!("../bell/reference.jpg");

/// Name it is shown under.
pub const BELL_FILE: &str = "depot-bell.jpg";

/// The ray-traced photo of the stair wall the bench is to hang over, a 1600 × 1200 JPEG with a folding rule one metre long in it.
pub const STAIR: &[u8] = include_bytes!("../stair/reference.jpg");

/// Name it is shown under.
pub const STAIR_FILE: &str = "stair-wall.jpg";

/// The scanned line drawing of "Beetle kite".
pub const KITE: &[u8] = include_bytes!("../kite/drawing.jpg");

/// Name it is shown under.
pub const KITE_FILE: &str = "beetle-kite.jpg";

/// Small ray-traced pictures of two years at Sluice Yard, 560 × 420 JPEGs by name: the lane, the weir and the sill in all seasons.
pub const YEARS: [(&str, &[u8]); 16] = [
    ("lane-autumn-late", include_bytes!("../years/lane-autumn-late.jpg")),
    ("lane-autumn-overcast", include_bytes!("../years/lane-autumn-overcast.jpg")),
    ("lane-spring-early", include_bytes!("../years/lane-spring-early.jpg")),
    ("lane-summer-noon", include_bytes!("../years/lane-summer-noon.jpg")),
    ("lane-winter-dusk", include_bytes!("../years/lane-winter-dusk.jpg")),
    ("lane-winter-early", include_bytes!("../years/lane-winter-early.jpg")),
    ("sill-both-green", include_bytes!("../years/sill-both-green.jpg")),
    ("sill-lamp-red", include_bytes!("../years/sill-lamp-red.jpg")),
    ("sill-lamp-white", include_bytes!("../years/sill-lamp-white.jpg")),
    ("sill-window-white", include_bytes!("../years/sill-window-white.jpg")),
    ("weir-autumn-mist", include_bytes!("../years/weir-autumn-mist.jpg")),
    ("weir-spring-noon", include_bytes!("../years/weir-spring-noon.jpg")),
    ("weir-spring-overcast", include_bytes!("../years/weir-spring-overcast.jpg")),
    ("weir-summer-dusk", include_bytes!("../years/weir-summer-dusk.jpg")),
    ("weir-summer-late", include_bytes!("../years/weir-summer-late.jpg")),
    ("weir-winter-mist", include_bytes!("../years/weir-winter-mist.jpg")),
];

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
    /// Of a pen: how strong its ink is against the strongest there is.
    strength: Option<f64>,
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

/// Thirty-six alcohol pens.
pub fn pens() -> DemoBox {
    read(include_str!("../boxes/marker.json"))
}

/// Twenty-four coloured pencils.
pub fn pencils() -> DemoBox {
    read(include_str!("../boxes/pencil.json"))
}

/// Twelve of the pans, in a box for the pocket.
pub fn field_pans() -> DemoBox {
    let left_at_home = ["orange", "deep-indigo-mix"];
    let all = pans();
    let pigments = all.pigments.into_iter().filter(|p| !left_at_home.contains(&p.id.0.as_str())).collect();
    DemoBox { name: "Pocket pans".into(), medium: all.medium, pigments }
}

/// Fourteen pans of watercolour. White is the paper.
pub fn pans() -> DemoBox {
    read(include_str!("../boxes/watercolour.json"))
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
    let laid = Pigment { white: entry.white, ..Pigment::blended(PigmentId(entry.id), entry.name, &of) };
    match entry.strength {
        None => laid,
        Some(strength) => ink(laid, strength),
    }
}

/// Absorption of the strongest ink where it absorbs most.
const STRONGEST_INK: f64 = 32.0;

/// A dye that absorbs like a pigment, so strong. What dye it is, and how it lasts, nobody said.
fn ink(like: Pigment, strength: f64) -> Pigment {
    let peak = like.k.iter().copied().fold(f64::MIN_POSITIVE, f64::max);
    let k = like.k.iter().map(|k| k / peak * strength * STRONGEST_INK).collect();
    Pigment { k, colour_index: Vec::new(), lightfastness: String::new(), staining: false, granulating: false, ..like }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_boxes_are_sound_and_of_the_stated_size() {
        let boxes = [pastels(), pens(), pencils(), pans(), oils()];
        assert_eq!(boxes.each_ref().map(|b| b.pigments.len()), [61, 36, 24, 14, 12]);
        assert_eq!(boxes.each_ref().map(|b| b.medium), Medium::ALL);
        for b in boxes {
            b.pigments.iter().for_each(|p| p.check().unwrap());
            assert_eq!(b.pigments.iter().filter(|p| p.white).count(), usize::from(b.medium.has_white()));
        }
    }

    #[test]
    fn no_stick_makes_hazardous_dust() {
        assert!(pastels().pigments.iter().chain(&pencils().pigments).all(|p| p.hazard.is_empty()));
    }
}
