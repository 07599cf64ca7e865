//! The shipped pigments. All are **modelled, not measured**: parametric spectra shaped from general knowledge and fitted to
//! remembered masstones and tints. Names are plain words and Colour Index generic names.

use crate::pigment::{Owned, Pigment, PigmentId, Provenance};
use serde::Deserialize;
use std::collections::BTreeMap;
use std::sync::LazyLock;

#[derive(Deserialize)]
struct File {
    pigments: BTreeMap<String, Entry>,
}

#[derive(Deserialize)]
struct Entry {
    label: String,
    white: bool,
    #[serde(rename = "K")]
    k: Vec<f64>,
    #[serde(rename = "S")]
    s: Vec<f64>,
    lightfastness: String,
    hazard: String,
    staining: bool,
    granulating: bool,
}

static MODELLED: LazyLock<Vec<Pigment>> = LazyLock::new(|| {
    let file: File = serde_json::from_str(include_str!("../data/modelled_pigments.json")).expect("the shipped pigments are readable");
    file.pigments.into_iter().map(|(id, e)| from_entry(id, e)).collect()
});

fn from_entry(id: String, e: Entry) -> Pigment {
    // `PBr7-burnt-umber` is our id; the generic name is what stands before the first hyphen.
    let generic = id.split('-').next().unwrap_or(&id).to_owned();
    Pigment {
        id: PigmentId(id),
        name: e.label,
        colour_index: vec![generic],
        k: e.k,
        s: e.s,
        white: e.white,
        lightfastness: e.lightfastness,
        hazard: if e.hazard == "none" { String::new() } else { e.hazard },
        staining: e.staining,
        granulating: e.granulating,
        provenance: Provenance::Modelled,
        model: None,
        doubt: None,
        owned: Owned::default(),
        second: None,
    }
}

/// All shipped pigments, ordered by id.
pub fn modelled() -> &'static [Pigment] {
    &MODELLED
}

/// A shipped pigment by its id, e.g. `PB29` or `PBr7-burnt-umber`.
pub fn find(id: &str) -> Option<&'static Pigment> {
    MODELLED.iter().find(|p| p.id.0 == id)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn every_shipped_pigment_is_sound_and_called_modelled() {
        assert_eq!(modelled().len(), 61);
        for p in modelled() {
            p.check().unwrap();
            assert_eq!(p.provenance, Provenance::Modelled);
        }
        assert_eq!(modelled().iter().filter(|p| p.white).count(), 2);
    }

    #[test]
    fn names_are_short_plain_and_each_its_own() {
        let names: Vec<&str> = modelled().iter().map(|p| p.name.as_str()).collect();
        assert!(names.iter().all(|n| n.chars().count() <= 22), "{names:?}");
        assert!(names.iter().all(|n| !n.chars().any(|c| c.is_ascii_digit() || "()/".contains(c))), "no codes: {names:?}");
        let mut each = names.clone();
        each.sort_unstable();
        each.dedup();
        assert_eq!(each.len(), names.len());
    }

    #[test]
    fn the_generic_name_is_split_from_the_id() {
        assert_eq!(find("PBr7-burnt-umber").unwrap().colour_index, ["PBr7"]);
        assert_eq!(find("PB15:3").unwrap().colour_index, ["PB15:3"]);
    }
}
