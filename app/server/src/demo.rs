//! Fills a fresh data file with the demo studio, through the same commands a painter would give.

use crate::handlers::reference::png;
use crate::problem::Problem;
use lean_colour::Lab;
use lean_media::{GroundId, Medium};
use lean_picture::place::Place;
use lean_picture::segment::Proposal;
use lean_picture::{Picture, decode};
use lean_store::{PieceId, Store};
use lean_studio::lean::{Tables, search};
use lean_studio::outlook::basis;
use lean_studio::paint_box::{BoxId, PaintBox};
use lean_studio::piece::{Brief, ChosenSet, Command, Importance, Millimetres, Piece, SearchKept, Size, StudySlot, ZoneId};
use lean_studio::progress::Unwatched;
use lean_studio::studies::make;
use lean_studio::zones;

/// Zones found before the painter's corrections.
const FOUND: usize = 10;
/// Size of the set the demo piece uses.
const SET: usize = 5;

/// Puts Boxes and the piece "Tram shed, first frost" into an empty data file; a file that has pieces is left alone.
///
/// # Errors
/// When the data file cannot be written.
pub fn fill(store: &Store) -> Result<(), Problem> {
    if !store.pieces()?.is_empty() {
        return Ok(());
    }
    let pastels = put(store, lean_demo::pastels(), "yard-pastels")?;
    put(store, lean_demo::oils(), "bench-oils")?;
    put(store, lean_demo::pens(), "kite-pens")?;
    put(store, lean_demo::pencils(), "bell-pencils")?;
    put(store, lean_demo::pans(), "hen-pans")?;
    tram_shed(store, &pastels)
}

fn put(store: &Store, b: lean_demo::DemoBox, id: &str) -> Result<(BoxId, PaintBox), Problem> {
    let (id, paint_box) = (BoxId(id.into()), PaintBox { name: b.name, medium: b.medium, pigments: b.pigments });
    store.put_box(&id, &paint_box)?;
    Ok((id, paint_box))
}

fn tram_shed(store: &Store, (box_id, pastels): &(BoxId, PaintBox)) -> Result<(), Problem> {
    let brief = Brief {
        title: "Tram shed, first frost".into(),
        medium: Medium::SoftPastel,
        ground: GroundId("sanded-warm-grey".into()),
        size: Size { width: Millimetres(400.0), height: Millimetres(300.0) },
    };
    let id = store.create_piece(&Piece::new(brief))?.id;
    let apply = |command| store.apply(id, None, command);
    apply(Command::UseBox { paint_box: Some(box_id.clone()) })?;

    let picture = decode(lean_demo::TRAM_SHED)?;
    let full = (picture.width, picture.height);
    let working = picture.reduced(zones::WORKING_SIDE);
    let digest = store.put_picture(lean_demo::TRAM_SHED, &png(&working)?)?;
    apply(zones::set_reference(&working, digest, lean_demo::TRAM_SHED_FILE.into(), full))?;
    apply(zones::propose(&store.piece(id)?.piece, &working, &Proposal::of(&working), FOUND))?;
    name_zones(store, id, &working)?;
    take_out_tram(store, id, &working)?;

    let piece = store.piece(id)?.piece;
    let tables = Tables::default();
    let sizes = search(&piece.ask(pastels, vec![piece.own_need()], piece.sizes()).ask(), &tables, &Unwatched, &|_| {})?;
    let pigments = sizes.iter().find(|s| s.pigments.len() == SET).map(|s| s.pigments.clone()).unwrap_or_default();
    let kept = SearchKept { basis: basis(&piece, Some(pastels)), zones: piece.zones.iter().map(|z| z.id).collect(), sizes };
    apply(Command::KeepSearch { search: Some(kept), chosen: ChosenSet { pigments } })?;

    let studies = make(&store.piece(id)?.piece, pastels, &tables, &Unwatched)?;
    apply(Command::KeepStudies { studies, chosen: Some(StudySlot::B) })?;
    Ok(())
}

/// One mass of the picture: what it is called, places that belong to it (all are joined into the zone of the first), and how much it
/// matters. Given by place, so that it holds when the finding of zones is improved.
struct Mass(&'static str, &'static [(f64, f64)], Importance);

const MASSES: &[Mass] = &[
    Mass("sky", &[(0.60, 0.10)], Importance::Usual),
    Mass("slate roof", &[(0.43, 0.31)], Importance::Usual),
    Mass("shaded front", &[(0.64, 0.33)], Importance::Focal),
    Mass("lit wall", &[(0.36, 0.52)], Importance::Focal),
    Mass("far yard", &[(0.87, 0.59)], Importance::Quiet),
    Mass("gasholder in haze", &[(0.04, 0.53)], Importance::Quiet),
    Mass("frosted ground", &[(0.20, 0.87)], Importance::Usual),
    Mass("rails and water", &[(0.45, 0.755), (0.71, 0.80), (0.91, 0.87)], Importance::Usual),
];

/// A place on the tram's dull-red side.
const TRAM: (f64, f64) = (0.63, 0.60);
/// What the tram is planned as: the shade swallows its red in the reference, and the piece wants one red.
const DULL_RED: Lab = Lab::new(35.5, 27.0, 17.0);
/// A line from, to, and a place on the side that goes back to the front.
type Cut = ((f64, f64), (f64, f64), (f64, f64));
/// Lines a painter would draw to take the tram out of the shaded front: what lies above its window sills, left of it, right of it.
const CUTS: &[Cut] = &[
    ((0.50, 0.575), (0.70, 0.565), (0.64, 0.33)),
    ((0.502, 0.70), (0.502, 0.50), (0.47, 0.62)),
    ((0.697, 0.50), (0.697, 0.70), (0.725, 0.62)),
];

/// Parts the tram from the shaded front, a small strong accent that squinting loses, and plans its red.
fn take_out_tram(store: &Store, id: PieceId, working: &Picture) -> Result<(), Problem> {
    let place = |(x, y)| Place { x, y };
    for (from, to, rest) in CUTS {
        let piece = store.piece(id)?.piece;
        let Some(zone) = zone_at(&piece, TRAM) else { return Ok(()) };
        store.apply(id, None, zones::split(&piece, working, zone, &[place(*from), place(*to)]).map_err(Problem::internal)?)?;
        let piece = store.piece(id)?.piece;
        let (front, rest) = (zone_at(&piece, CUTS[0].2), zone_at(&piece, *rest));
        if let Some((front, rest)) = front.zip(rest).filter(|(f, r)| f != r) {
            store.apply(id, None, zones::merge(&piece, working, rest, front).map_err(Problem::internal)?)?;
        }
    }
    if let Some(zone) = zone_at(&store.piece(id)?.piece, TRAM) {
        store.apply(id, None, Command::RenameZone { zone, name: "tram".into() })?;
        store.apply(id, None, Command::SetImportance { zone, importance: Importance::Focal })?;
        store.apply(id, None, Command::SetTarget { zone, target: DULL_RED })?;
    }
    Ok(())
}

/// Corrects and names the zones as a painter would.
fn name_zones(store: &Store, id: PieceId, working: &Picture) -> Result<(), Problem> {
    for Mass(name, places, importance) in MASSES {
        let piece = store.piece(id)?.piece;
        let Some(zone) = zone_at(&piece, places[0]).filter(|z| piece.zone(*z).is_some_and(|z| z.name.is_empty())) else { continue };
        for place in &places[1..] {
            let piece = store.piece(id)?.piece;
            if let Some(other) = zone_at(&piece, *place).filter(|o| *o != zone) {
                store.apply(id, None, zones::merge(&piece, working, other, zone).map_err(Problem::internal)?)?;
            }
        }
        store.apply(id, None, Command::RenameZone { zone, name: (*name).into() })?;
        if *importance != Importance::Usual {
            store.apply(id, None, Command::SetImportance { zone, importance: *importance })?;
        }
    }
    Ok(())
}

fn zone_at(piece: &Piece, (x, y): (f64, f64)) -> Option<ZoneId> {
    let map = piece.zone_map.as_ref()?;
    let cell = |share: f64, n: u32| ((share * f64::from(n)) as u32).min(n - 1);
    Some(ZoneId(map.at(cell(x, map.width), cell(y, map.height))))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_demo_reference_parts_into_a_handful_and_its_masses_are_found() {
        let store = Store::in_memory().unwrap_or_else(|e| panic!("{e}"));
        fill(&store).unwrap_or_else(|p| panic!("{}", p.detail));
        let piece = store.pieces().unwrap_or_default().remove(0).piece;
        let names: Vec<&str> = piece.zones.iter().map(|z| z.name.as_str()).collect();
        for Mass(name, ..) in MASSES {
            assert!(names.contains(name), "{name} is missing from {names:?}");
        }
        assert!(names.contains(&"tram"), "{names:?}");
        assert_eq!(piece.zones.iter().map(|z| z.id.0).collect::<Vec<_>>(), (1..=9).collect::<Vec<_>>());
        let picture = decode(lean_demo::TRAM_SHED).unwrap_or_else(|e| panic!("{e}")).reduced(zones::WORKING_SIDE);
        let handful = lean_picture::segment::Proposal::of(&picture).natural_count();
        assert!((5..=9).contains(&handful), "{handful}");
        assert!(piece.studies.len() == 3 && piece.chosen_study.is_some());
    }
}
