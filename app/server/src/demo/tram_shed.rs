//! "Tram shed, first frost".

use super::{Mass, Part, in_the_light, name_zones, take_in, zone_at};
use crate::problem::Problem;
use lean_colour::Lab;
use lean_media::{GroundId, Medium};
use lean_picture::chart::distinct;
use lean_picture::spot::Spot;
use lean_picture::decode;
use lean_store::{PieceId, Store};
use lean_studio::chart::arranged;
use lean_studio::lean::{Tables, search};
use lean_studio::light::{Distance, Exception, Falling, From, Kind, Lamp, Lighting, Plane, Role, Tint};
use lean_studio::mixes::aimed_at;
use lean_studio::outlook::basis;
use lean_studio::paint_box::{BoxId, PaintBox};
use lean_studio::piece::{Brief, ChosenSet, Command, Importance, Millimetres, Piece, SearchKept, Size, StudySlot};
use lean_studio::progress::Unwatched;
use lean_studio::studies::make;
use lean_studio::zones;

/// Zones found before the painter's corrections.
const FOUND: usize = 10;
/// Size of the set the demo piece uses.
const SET: usize = 5;

/// Outdoors in pastel: the piece with its zones in the light.
pub fn start(store: &Store, (box_id, _): &(BoxId, PaintBox)) -> Result<PieceId, Problem> {
    let brief = Brief {
        title: "Tram shed, first frost".into(),
        medium: Medium::SoftPastel,
        ground: GroundId("sanded-warm-grey".into()),
        size: Size { width: Millimetres(400.0), height: Millimetres(300.0) },
    };
    let id = store.create_piece(&Piece::new(brief))?.id;
    let apply = |command| store.apply(id, None, command);
    apply(Command::UseBox { paint_box: Some(box_id.clone()) })?;

    let seen = take_in(store, id, lean_demo::TRAM_SHED, lean_demo::TRAM_SHED_FILE, FOUND)?;
    name_zones(store, id, &seen, MASSES)?;
    take_out_tram(store, id, &seen)?;
    in_the_light(store, id, &lighting(), PARTS)?;

    Ok(id)
}

/// Its set, and three studies of which one is chosen.
pub fn finish(store: &Store, id: PieceId, (_, pastels): &(BoxId, PaintBox)) -> Result<(), Problem> {
    let apply = |command| store.apply(id, None, command);
    let kept = store.piece(id)?.piece;
    let digest = kept.reference.map(|r| r.digest).unwrap_or_default();
    let picture = decode(&store.working(&digest)?)?;
    apply(Command::KeepChart { chart: Some(arranged(&distinct(&picture, None).colours)) })?;
    let piece = store.piece(id)?.piece;
    let tables = Tables::default();
    let sizes = search(&piece.ask(pastels, vec![piece.own_need()], piece.sizes()).ask(), &tables, &Unwatched, &|_| {})?;
    let pigments = sizes.iter().find(|s| s.pigments.len() == SET).map(|s| s.pigments.clone()).unwrap_or_default();
    let kept = SearchKept { basis: basis(&piece, Some(pastels)), zones: aimed_at(&piece), sizes };
    apply(Command::KeepSearch { search: Some(kept), chosen: ChosenSet { pigments } })?;

    let studies = make(&store.piece(id)?.piece, pastels, &tables, &Unwatched)?;
    apply(Command::KeepStudies { studies, chosen: Some(StudySlot::B) })?;
    Ok(())
}

/// What each mass plays in the light.
const PARTS: &[Part] = &[
    Part("sky", Plane::Sky, Distance::Far, None, None),
    Part("slate roof", Plane::Slanted, Distance::Middle, Some(Role::Lit), None),
    Part("shaded front", Plane::Upright, Distance::Middle, Some(Role::Shadow), None),
    Part("lit wall", Plane::Upright, Distance::Middle, Some(Role::Lit), None),
    Part("far yard", Plane::Flat, Distance::Far, None, None),
    Part("gasholder in haze", Plane::Upright, Distance::Far, None, None),
    Part("frosted ground", Plane::Flat, Distance::Near, Some(Role::Lit), None),
    Part("rails and water", Plane::Flat, Distance::Near, None, Some(Kind::Water)),
    Part("tram", Plane::Upright, Distance::Middle, Some(Role::Shadow), None),
];

/// One low warm sun from the left on frost.
fn lighting() -> Lighting {
    let first = Lamp { tint: Tint::Warm, from: From::Left, hard: true };
    Lighting { falling: Falling::One { first }, outdoors: true, exceptions: vec![Exception::Snow, Exception::LowSun] }
}

pub const MASSES: &[Mass] = &[
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
fn take_out_tram(store: &Store, id: PieceId, seen: &super::Seen) -> Result<(), Problem> {
    let place = |(x, y)| Spot { x, y };
    for (from, to, rest) in CUTS {
        let piece = store.piece(id)?.piece;
        let Some(zone) = zone_at(&piece, TRAM) else { return Ok(()) };
        store.apply(id, None, zones::split(&piece, seen.look(), zone, &[place(*from), place(*to)]).map_err(Problem::internal)?)?;
        let piece = store.piece(id)?.piece;
        let (front, rest) = (zone_at(&piece, CUTS[0].2), zone_at(&piece, *rest));
        if let Some((front, rest)) = front.zip(rest).filter(|(f, r)| f != r) {
            store.apply(id, None, zones::merge(&piece, seen.look(), rest, front).map_err(Problem::internal)?)?;
        }
    }
    if let Some(zone) = zone_at(&store.piece(id)?.piece, TRAM) {
        store.apply(id, None, Command::RenameZone { zone, name: "tram".into() })?;
        store.apply(id, None, Command::SetImportance { zone, importance: Importance::Focal })?;
        store.apply(id, None, Command::SetTarget { zone, target: DULL_RED })?;
    }
    Ok(())
}
