//! "Bench by the north window".

use super::{Mass, Part, in_the_light, name_zones, put_set, take_in, zone_at};
use crate::pictures::TakenIn;
use crate::problem::Problem;
use lean_media::{GroundId, Medium};
use lean_picture::spot::Spot;
use lean_store::Store;
use lean_studio::lean::Tables;
use lean_studio::light::{Distance, Falling, From, Kind, Lamp, Lighting, Plane, Role, Tint};
use lean_studio::paint_box::{BoxId, PaintBox};
use lean_studio::piece::{Brief, Command, Importance, Millimetres, Piece, Session, Size, StudySlot};
use lean_studio::progress::Unwatched;
use lean_studio::studies::make;
use lean_studio::wall::{Candidate, Heard, Measure, Panels, Wall, loudness};
use lean_studio::zones;

/// Zones found before the painter's corrections.
const FOUND: usize = 11;
/// Size of its set.
const SET: usize = 5;

/// One cool light in oil, measured for its place over a stair. Its studies are made and one is chosen.
pub fn fill(store: &Store, (box_id, oils): &(BoxId, PaintBox)) -> Result<(), Problem> {
    let brief = Brief {
        title: "Bench by the north window".into(),
        medium: Medium::Oil,
        ground: GroundId("panel-white".into()),
        size: Size { width: Millimetres(400.0), height: Millimetres(500.0) },
    };
    let id = store.create_piece(&Piece::new(brief))?.id;
    store.apply(id, None, Command::UseBox { paint_box: Some(box_id.clone()) })?;
    let mut intent = store.piece(id)?.piece.intent;
    intent.purpose = "to hang over the stair, seen in passing".into();
    intent.fit.edge = Some(Millimetres(20.0));
    store.apply(id, None, Command::SetIntent { intent })?;
    store.apply(id, None, Command::SetWall { wall: Some(stair(store)?), what: "the wall over the stair".into() })?;

    let seen = take_in(store, id, lean_demo::BENCH, lean_demo::BENCH_FILE, FOUND)?;
    for line in MUG {
        let piece = store.piece(id)?.piece;
        let line: Vec<Spot> = line.iter().map(|(x, y)| Spot { x: *x, y: *y }).collect();
        if let Some(zone) = zone_at(&piece, (0.17, 0.60)) {
            store.apply(id, None, zones::split(&piece, seen.look(), zone, &line).map_err(Problem::internal)?)?;
        }
    }
    name_zones(store, id, &seen, MASSES)?;
    let first = Lamp { tint: Tint::Cool, from: From::Left, hard: false };
    in_the_light(store, id, &Lighting { falling: Falling::One { first }, outdoors: false, exceptions: Vec::new() }, PARTS)?;

    let tables = Tables::default();
    put_set(store, id, oils, SET, &tables)?;
    let studies = make(&store.piece(id)?.piece, oils, &tables, &Unwatched)?;
    store.apply(id, None, Command::KeepStudies { studies, chosen: Some(StudySlot::A) })?;
    store.apply(id, None, Command::SetSessions { sessions: sessions(&store.piece(id)?.piece) })?;
    Ok(())
}

/// Two winter evenings at it.
fn sessions(piece: &Piece) -> Vec<Session> {
    let zones = |places: &[(f64, f64)]| places.iter().filter_map(|p| zone_at(piece, *p)).collect();
    vec![
        Session {
            on: "2025-01-18".into(),
            minutes: 75,
            did: "Ground tone wiped thin, drawing set with a brush, wall and bench top laid in.".into(),
            zones: zones(&[(0.37, 0.39), (0.14, 0.73)]),
        },
        Session {
            on: "2025-01-25".into(),
            minutes: 110,
            did: "Darks under the bench and behind the shelf; plane blocked in, mug left.".into(),
            zones: zones(&[(0.045, 0.96), (0.83, 0.25), (0.58, 0.655)]),
        },
    ]
}

/// The stair wall, measured along a folding rule one metre long.
fn stair(store: &Store) -> Result<Wall, Problem> {
    let TakenIn { digest, full, working, .. } = TakenIn::keep(store, lean_demo::STAIR)?;
    let rule = Measure::Line { from: Spot { x: 0.2455, y: 0.622 }, to: Spot { x: 0.2490, y: 0.908 }, length: Millimetres(1000.0) };
    let size = Size { width: Millimetres(400.0), height: Millimetres(500.0) };
    let hung = |panels, size, gap: f64, x: f64, y: f64| Candidate { panels, size, gap: Millimetres(gap), at: Spot { x, y } };
    let pair = Size { width: Millimetres(300.0), height: Millimetres(400.0) };
    Ok(Wall {
        measure: Some(rule),
        candidates: vec![hung(Panels::Single, size, 0.0, 0.40, 0.50), hung(Panels::Pair, pair, 40.0, 0.63, 0.26)],
        taken: Some(0),
        heard: Some(Heard::Quiet),
        ..Wall::of(digest, lean_demo::STAIR_FILE.into(), full, loudness::read(&working))
    })
}

/// Round the mug, which squinting loses against the wall, and where its light turns to shade.
const MUG: &[&[(f64, f64)]] = &[&[(0.085, 0.50), (0.092, 0.655), (0.262, 0.658), (0.275, 0.50)], &[(0.158, 0.45), (0.158, 0.70)]];

const MASSES: &[Mass] = &[
    Mass("plaster wall", &[(0.37, 0.39), (0.78, 0.09), (0.93, 0.38)], Importance::Quiet),
    Mass("mug in the light", &[(0.13, 0.60)], Importance::Focal),
    Mass("mug in shade", &[(0.20, 0.60)], Importance::Usual),
    Mass("shelf and its shadow", &[(0.83, 0.25)], Importance::Usual),
    Mass("bench top", &[(0.14, 0.73), (0.86, 0.71), (0.51, 0.865), (0.18, 0.90)], Importance::Usual),
    Mass("bench edge", &[(0.045, 0.96)], Importance::Quiet),
    Mass("plane", &[(0.58, 0.655)], Importance::Usual),
    Mass("window reveal", &[(0.02, 0.42)], Importance::Quiet),
];

const PARTS: &[Part] = &[
    Part("plaster wall", Plane::Upright, Distance::Far, Some(Role::Lit), None),
    Part("mug in the light", Plane::Upright, Distance::Middle, Some(Role::Lit), Some(Kind::White)),
    Part("mug in shade", Plane::Upright, Distance::Middle, Some(Role::Shadow), Some(Kind::White)),
    Part("shelf and its shadow", Plane::Upright, Distance::Far, Some(Role::Shadow), None),
    Part("bench top", Plane::Flat, Distance::Near, Some(Role::Halftone), None),
    Part("bench edge", Plane::Upright, Distance::Near, Some(Role::Shadow), None),
    Part("plane", Plane::Upright, Distance::Near, Some(Role::Shadow), None),
    Part("window reveal", Plane::Upright, Distance::Far, Some(Role::Shadow), None),
];
