//! The demo studio: what stands where, and that none of its pieces is talked over.

use crate::support::Api;
use lean_plan::derived::derived;
use lean_search::RecipeLists;

#[test]
fn the_demo_studio_stands_at_its_stages() {
    let api = Api::demo();
    let store = &api.studio.store;
    let pieces = store.pieces().unwrap();
    let piece = |title: &str| {
        let id = pieces.iter().find(|p| p.line.title == title).unwrap_or_else(|| panic!("{title}")).id;
        store.piece(id).unwrap().piece
    };

    let shed = piece("Tram shed, first frost");
    let names: Vec<&str> = shed.zones.iter().map(|z| z.name.as_str()).collect();
    for name in ["sky", "far, in haze", "lit wall", "cool shadow", "mud and rails", "pole and gates", "tram, red", "tram, cream"] {
        assert!(names.contains(&name), "{name} is missing from {names:?}");
    }
    assert!(shed.studies.len() == 6 && shed.chosen_study.is_some());
    assert_eq!(pieces[0].line.title, shed.brief.title, "the main piece is first in the list");

    let hen = piece("Hen on the stove stool");
    assert!(hen.zones.iter().filter(|z| z.facts.role.is_some()).count() >= 5);
    assert!(hen.chosen.pigments.is_empty(), "it stands at Light");
    let kite = piece("Beetle kite");
    assert!((19..=26).contains(&kite.zones.len()), "{} zones", kite.zones.len());
    assert_eq!(kite.chosen.pigments.len(), 9, "it stands at Mixes with nine pens");
    let bell = piece("Depot bell");
    assert!(bell.search.is_some() && bell.chosen.pigments.len() == 9 && bell.studies.is_empty(), "it stands at Lean set");
    assert!(bell.zones.iter().any(|z| z.name == "cord" && z.target.a > 40.0));
    let spots = kite.zones.iter().find(|z| z.name == "spots").expect("spots");
    assert_eq!(kite.zones.iter().filter(|z| z.name.starts_with("spot")).count(), 1, "six spots are one zone");
    assert!(spots.reading.area > 0.005);
    let bench = piece("Bench by the north window");
    let wall = bench.wall.as_ref().expect("a wall");
    assert!(wall.scale().is_some() && wall.taken.is_some());
    assert!(bench.studies.len() == 3);
    assert_eq!(store.field_notes().unwrap().len(), 2);
    for title in ["Tram shed, first frost", "Hen on the stove stool", "Bench by the north window"] {
        let piece = piece(title);
        let paint_box = piece.paint_box.as_ref().and_then(|b| store.paint_box(b).ok());
        let said: Vec<String> =
            derived(&piece, paint_box.as_ref(), &RecipeLists::default()).findings.into_iter().map(|f| f.title).collect();
        assert!(said.len() <= 9, "{title} is talked over: {said:#?}");
    }
}
