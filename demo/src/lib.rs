//! The demo studio: one invented workshop, *Sluice Yard*, so that every screen has something true to show.
//!
//! Nothing in it comes from anyone's photographs, products or work. The sticks and tubes are blends of the shipped *modelled*
//! pigments under plain names of our own; the photo-like pictures are ray-traced from the `scene.pov` beside each, and the kite
//! is drawn in `kite/drawing.svg`.

use lean_colour::{D65, Lab};
use lean_media::pens::inked_to;
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
    /// Of a pen: the lightness L* that one coat reads on marker paper.
    coat: Option<f64>,
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
    match entry.coat {
        None => laid,
        Some(lightness) => ink(laid, lightness),
    }
}

/// A dye that absorbs like a pigment, one coat of which reads this light. What dye it is, and how it lasts, nobody said.
fn ink(like: Pigment, lightness: f64) -> Pigment {
    let dye = Pigment { colour_index: Vec::new(), lightfastness: String::new(), staining: false, granulating: false, ..like };
    inked_to(dye, Lab::<D65>::new(lightness, 0.0, 0.0).value())
}

#[cfg(test)]
mod tests {
    use super::*;
    use lean_media::forms::{Prepared, swatch};
    use lean_media::ground;

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

    /// Lightness and chroma of one thing of a Box as it is usually tried.
    fn reads(of: DemoBox, id: &str) -> (f64, f64) {
        let pigment = of.pigments.iter().find(|p| p.id.0 == id).unwrap();
        let ground = ground::usual(of.medium);
        let lab = Prepared::<f64>::of(of.medium, &[pigment], &ground).unwrap().colour(&[0], &swatch(of.medium).unwrap());
        (lab.l, lab.chroma())
    }

    #[test]
    fn deep_sticks_and_pens_are_as_deep_as_their_names_say() {
        for (of, id, from, to) in [
            (pastels as fn() -> DemoBox, "cocoa", 25.0, 33.0),
            (pastels, "dark-brick", 25.0, 34.0),
            (pastels, "bottle-green", 25.0, 33.0),
            (pastels, "lamp-soot", 18.0, 29.0),
            (pastels, "night-slate", 22.0, 34.0),
            (pens, "moss", 42.0, 48.0),
            (pens, "bottle-green", 30.0, 36.0),
            (pens, "harbour-blue", 29.0, 35.0),
            (pens, "signal-red", 44.0, 52.0),
            (pencils, "black", 38.0, 53.0),
            (pans, "deep-indigo-mix", 40.0, 72.0),
        ] {
            let (l, chroma) = reads(of(), id);
            assert!((from..=to).contains(&l), "{id}: L* {l:.1}, chroma {chroma:.1}");
        }
        for (id, least) in [("signal-red", 50.0), ("ultramarine", 48.0), ("kite-orange", 60.0), ("egg-yolk", 75.0), ("harbour-blue", 15.0)]
        {
            assert!(reads(pens(), id).1 > least, "{id}: {:?}", reads(pens(), id));
        }
        assert!(reads(pens(), "moss").1 < 45.0, "moss is dull: {:?}", reads(pens(), "moss"));
    }

    #[test]
    fn no_stick_makes_hazardous_dust() {
        assert!(pastels().pigments.iter().chain(&pencils().pigments).all(|p| p.hazard.is_empty()));
    }
}
