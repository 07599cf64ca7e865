//! The modelled pigments held to what painters know, and to their remembered single colours.

use lean_colour::Lab;
use lean_colour::difference::ciede2000;
use lean_media::facts::{Fact, Facts};
use lean_media::opaque::OIL;
use lean_media::{Paint, Parts, Pigment, library};

fn read(text: &str) -> Vec<Fact> {
    serde_json::from_str::<Facts>(text).expect("the facts are readable").facts
}

fn given() -> Vec<Fact> {
    read(include_str!("data/mixing_facts.json"))
}

fn own() -> Vec<Fact> {
    read(include_str!("data/own_facts.json"))
}

fn of_media() -> Vec<Fact> {
    read(include_str!("data/media_facts.json"))
}

/// Facts that do not hold, with what they miss.
fn failed(facts: &[Fact]) -> Vec<String> {
    let pigments: &[Pigment] = library::modelled();
    let misses = |f: &Fact| f.misses(&pigments, 0.0).unwrap_or_else(|e| panic!("{e}"));
    facts.iter().map(|f| (f, misses(f))).filter(|(_, m)| !m.is_empty()).map(|(f, m)| format!("{}: {m:?}", f.claim)).collect()
}

#[test]
fn known_facts_about_mixes_hold() {
    let facts = given();
    assert_eq!(facts.len(), 32);
    let failed = failed(&facts);
    assert!(failed.len() as f64 <= 0.05 * facts.len() as f64, "{failed:#?}");
}

#[test]
fn more_facts_hold_and_so_do_those_that_took_no_part_in_the_fit() {
    let (held, fitted): (Vec<Fact>, Vec<Fact>) = own().into_iter().partition(|f| f.held_out);
    assert!(held.len() >= 20 && held.len() + fitted.len() >= 60);
    assert!(failed(&fitted).is_empty(), "{:#?}", failed(&fitted));
    let missed = failed(&held);
    assert!(missed.len() as f64 <= 0.05 * held.len() as f64, "{missed:#?}");
}

#[test]
fn facts_about_washes_pens_pencils_and_sticks_hold() {
    let facts = of_media();
    assert!(facts.len() >= 60);
    let failed = failed(&facts);
    assert!(failed.len() as f64 <= 0.05 * facts.len() as f64, "{} of {}: {failed:#?}", failed.len(), facts.len());
}

#[test]
fn a_wrong_pigment_breaks_the_facts() {
    // Facts that nothing could fail would prove nothing: with ultramarine's spectrum under every name, most of them fail.
    let blue = library::find("PB29").unwrap();
    let pigments: Vec<Pigment> =
        library::modelled().iter().map(|p| if p.white { p.clone() } else { Pigment { id: p.id.clone(), ..blue.clone() } }).collect();
    let pigments: &[Pigment] = &pigments;
    let broken = |facts: Vec<Fact>| facts.iter().filter(|f| f.misses(&pigments, 0.0).map_or(true, |m| !m.is_empty())).count();
    assert!(broken(given()) > 20 && broken(of_media()) > 50, "{} {}", broken(given()), broken(of_media()));
}

#[test]
fn single_colours_stay_near_what_is_remembered() {
    let before: serde_json::Value = serde_json::from_str(include_str!("../data/before_mixes.json")).unwrap();
    let lab =
        |v: &serde_json::Value| v.as_array().map(|a| Lab::new(a[0].as_f64().unwrap(), a[1].as_f64().unwrap(), a[2].as_f64().unwrap()));
    let white = library::find("PW6").unwrap();
    let mut off = Vec::new();
    for p in library::modelled().iter().filter(|p| !p.white) {
        let entry = &before["pigments"][&p.id.0];
        let colour = |n: f64| Paint::mixed(&[(p, Parts(1.0)), (white, Parts(n))]).unwrap().opaque(OIL).xyz().lab();
        for (key, n) in [("target_masstone_lab", 0.0), ("target_tint_lab", 10.0)] {
            off.push(ciede2000(lab(&entry[key]).unwrap(), colour(n)));
        }
    }
    off.sort_by(f64::total_cmp);
    assert!(off[off.len() / 2] < 1.5 && off[off.len() - 1] < 4.0, "median {} most {}", off[off.len() / 2], off[off.len() - 1]);
}
