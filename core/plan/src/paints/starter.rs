//! Boxes to start from: small choices of our own for each medium, from the shipped modelled pigments.

use lean_media::pens::inked;
use lean_media::{Medium, Parts, Pigment, PigmentId, library};
use lean_piece::paint_box::PaintBox;

/// Sizes a starter Box comes in.
pub const SIZES: [usize; 4] = [6, 12, 24, 60];

/// Tubes and pans in the order in which they are worth owning: each size is the first so many, white first where there is white.
const WET: [&str; 59] = [
    "PB29",
    "PY154",
    "PR254",
    "PY43",
    "PBr7-burnt-umber",
    "PB15:3",
    "PR122",
    "PG7",
    "PBr7-burnt-sienna",
    "PY3",
    "PR101",
    "PV19-rose",
    "PB27",
    "PG23",
    "PY42",
    "PBk9",
    "PO73",
    "PV23",
    "PBr7-raw-umber",
    "PG18",
    "PB35",
    "PBr7-raw-sienna",
    "PY110",
    "PR179",
    "PB28",
    "PY35",
    "PR108",
    "PG36",
    "PY150",
    "PR83",
    "PB16",
    "PB60",
    "PV15",
    "PG17",
    "PO62",
    "PY37",
    "PO20",
    "PR264",
    "PG50",
    "PR177",
    "PR102",
    "PB36",
    "PBk7",
    "PB15:1",
    "PV16",
    "PR206",
    "PY97",
    "PR255",
    "PG26",
    "PV14",
    "PY83",
    "PBr24",
    "PR170",
    "PV19-red",
    "PY74",
    "PY53",
    "PBk11",
    "PY40",
    "PR112",
];

/// Hues of sticks, pencils and pens, in the order in which they are worth owning, and what they are called.
const HUES: [(&str, &str); 14] = [
    ("PB29", "blue"),
    ("PY43", "ochre"),
    ("PR101", "rust"),
    ("PG7", "green"),
    ("PY154", "yellow"),
    ("PR122", "rose"),
    ("PR102", "earth"),
    ("PO73", "orange"),
    ("PV23", "violet"),
    ("PR254", "red"),
    ("PG23", "moss"),
    ("PB15:3", "sky"),
    ("PBr7-burnt-sienna", "brick"),
    ("PB16", "teal"),
];

/// Values a hue comes in: what it is called, parts of white or black to one of pigment, and how strong a pen of it is against a full coat.
const TONES: [(&str, f64, f64, f64); 4] =
    [("", 0.4, 0.0, 0.8), ("light ", 3.0, 0.0, 0.3), ("deep ", 0.0, 0.12, 1.0), ("pale ", 12.0, 0.0, 0.1)];

/// A starter Box of one of the [sizes](SIZES), or of as many as there are.
pub fn starter(medium: Medium, size: usize) -> PaintBox {
    let pigments = match medium {
        Medium::Oil => ["PW6"].into_iter().chain(WET).take(size).filter_map(library::find).cloned().collect(),
        Medium::Watercolour => WET.into_iter().take(size).filter_map(library::find).cloned().collect(),
        Medium::SoftPastel | Medium::Pencil | Medium::Marker => toned(medium, size),
    };
    PaintBox { name: format!("{size} {} to start with", things(medium)), medium, pigments }
}

fn things(medium: Medium) -> &'static str {
    match medium {
        Medium::SoftPastel => "sticks",
        Medium::Marker => "pens",
        Medium::Pencil => "pencils",
        Medium::Watercolour => "pans",
        Medium::Oil => "tubes",
    }
}

/// Sticks, pencils and pens: a white and a black, greys, and hues in several values.
fn toned(medium: Medium, size: usize) -> Vec<Pigment> {
    let white = (medium != Medium::Marker).then(|| named(medium, "white", &[("PW6", 1.0)], 1.0, true));
    let black = named(medium, "black", &[("PBk9", 1.0)], 1.0, false);
    let mut all: Vec<Pigment> = white.into_iter().chain([black]).collect();
    // As many hues as a Box of this size has room for in so many values.
    let tones = 1 + [6, 12, 24].iter().filter(|least| size > **least).count();
    for (tone, light, dark, strength) in TONES.iter().take(tones) {
        for (id, hue) in HUES {
            if all.len() < size && (tones > 1 || all.len() < 6) && room(tones, size, hue) {
                let mut of = vec![(id, 1.0)];
                if medium == Medium::Marker {
                    of.extend((*dark > 0.0).then_some(("PBk9", *dark)));
                } else {
                    of.extend((*light > 0.0).then_some(("PW6", *light)));
                    of.extend((*dark > 0.0).then_some(("PBk9", *dark)));
                }
                all.push(named(medium, &format!("{tone}{hue}"), &of, *strength, false));
            }
        }
    }
    for (name, white, strength) in [("dark grey", 0.8, 0.5), ("middle grey", 3.0, 0.25), ("light grey", 10.0, 0.1)] {
        if all.len() < size {
            let of: &[(&str, f64)] = if medium == Medium::Marker { &[("PBk9", 1.0)] } else { &[("PBk9", 1.0), ("PW6", white)] };
            all.push(named(medium, name, of, strength, false));
        }
    }
    all
}

/// Whether a hue is among those a Box of this size has: as many as leave room for all their values.
fn room(tones: usize, size: usize, hue: &str) -> bool {
    let most = size.saturating_sub(2).div_ceil(tones);
    HUES.iter().position(|(_, h)| *h == hue).is_some_and(|at| at < most)
}

fn named(medium: Medium, name: &str, of: &[(&str, f64)], strength: f64, white: bool) -> Pigment {
    let parts: Vec<(&Pigment, Parts)> = of.iter().filter_map(|(id, n)| Some((library::find(id)?, Parts(*n)))).collect();
    let mut made = Pigment { white: false, ..Pigment::blended(PigmentId(name.replace(' ', "-")), name.to_owned(), &parts) };
    made.white = white && medium.has_white();
    if medium == Medium::Marker {
        // A pen is dye: a paler one is the same dye in more of the solvent.
        return inked(made, strength);
    }
    made
}

#[cfg(test)]
mod tests {
    use super::*;
    use std::collections::BTreeSet;

    #[test]
    fn every_size_of_every_medium_is_sound_and_each_holds_the_smaller() {
        for medium in Medium::ALL {
            for size in SIZES {
                let b = starter(medium, size);
                b.check().unwrap();
                assert!(b.pigments.len() <= size && b.pigments.len() + 6 >= size.min(60), "{medium:?} {size}: {}", b.pigments.len());
                let names: BTreeSet<&str> = b.pigments.iter().map(|p| p.name.as_str()).collect();
                assert_eq!(names.len(), b.pigments.len(), "no two are called the same");
            }
        }
        assert!(starter(Medium::Oil, 6).pigments[0].white, "oil begins with white");
        assert!(WET.iter().all(|id| library::find(id).is_some()));
    }

    #[test]
    fn no_stick_of_a_starter_box_makes_hazardous_dust() {
        let dusty = [Medium::SoftPastel, Medium::Pencil].map(|m| starter(m, 60));
        assert!(dusty.iter().flat_map(|b| &b.pigments).all(|p| p.hazard.is_empty()));
    }

    #[test]
    fn pale_pens_are_paler() {
        let pens = starter(Medium::Marker, 60);
        let strength = |name: &str| pens.pigments.iter().find(|p| p.name == name).unwrap().k[20];
        assert!(strength("pale blue") < strength("light blue") && strength("light blue") < strength("blue"));
    }
}
