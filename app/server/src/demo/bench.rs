//! "Bench by the north window".

use super::{Colour, Named, Part, in_the_light, map_values, name_colours, name_masses, put_set, take_in, zone_at};
use crate::handlers::progress::{SHOT, simulated, with_photo};
use crate::pictures::{TakenIn, png};
use crate::problem::Problem;
use jiff::{Span, Zoned};
use lean_colour::moves::with_value;
use lean_colour::{Lab, Value};
use lean_media::{GroundId, Medium};
use lean_picture::spot::Spot;
use lean_piece::change::{KeepStudies, SetEasel, SetIntent, SetSessions, SetWall, UseBox};
use lean_piece::easel::{Air, Departure, DepartureKind, Done, DrawnWith, Easel, Hours, PreliminaryDrawing, Stage, TaskId};
use lean_piece::light::{Distance, Falling, Kind, Lamp, LampFrom, Lighting, Plane, Role, Tint};
use lean_piece::paint_box::{BoxId, PaintBox};
use lean_piece::wall::{Candidate, Heard, Measure, Panels, Wall};
use lean_piece::{Brief, Command, Importance, Millimetres, Piece, Session, Size, StudyNumber, ZoneId};
use lean_plan::stages::requests::depart;
use lean_plan::stages::{at_the_easel, lay_in};
use lean_plan::studies::{StudyKind, make};
use lean_plan::wall::loudness;
use lean_search::Tables;
use lean_search::progress::Unwatched;
use lean_store::{PieceId, Store};

/// Colours the painter asks for.
const FOUND: usize = 13;
/// Size of its set.
const SET: usize = 5;

/// One cool light in oil, measured for its place over a stair. Its studies are made and one is chosen.
pub(super) fn fill(store: &Store, (box_id, oils): &(BoxId, PaintBox)) -> Result<(), Problem> {
    let brief = Brief {
        title: "Bench by the north window".into(),
        medium: Medium::Oil,
        ground: GroundId("panel-white".into()),
        size: Size { width: Millimetres(400.0), height: Millimetres(500.0) },
    };
    let id = store.create_piece(&Piece::new(brief))?.id;
    store.apply(id, None, Command::UseBox(UseBox { paint_box: Some(box_id.clone()) }))?;
    let mut intent = store.piece(id)?.piece.intent;
    intent.purpose = "to hang over the stair, seen in passing".into();
    intent.for_whom = "the house on the stair".into();
    intent.due = Some(days_from_now(55));
    intent.fit.edge = Some(Millimetres(20.0));
    store.apply(id, None, Command::SetIntent(SetIntent { intent }))?;
    store.apply(id, None, Command::SetWall(SetWall { wall: Some(stair(store)?), what: "the wall over the stair".into() }))?;

    take_in(store, id, lean_demo::BENCH, lean_demo::BENCH_FILE, FOUND)?;
    map_values(store, id, oils)?;
    name_colours(store, id, COLOURS)?;
    name_masses(store, id, MASSES)?;
    let first = Lamp { tint: Tint::Cool, from: LampFrom::Left, hard: false };
    in_the_light(store, id, &Lighting { falling: Falling::One { first }, outdoors: false, exceptions: Vec::new() }, PARTS)?;

    let tables = Tables::default();
    put_set(store, id, oils, SET, &tables)?;
    let studies = make(&store.piece(id)?.piece, oils, &tables, &StudyKind::ALL[..3], &Unwatched, &|_| {})?;
    store.apply(id, None, Command::KeepStudies(KeepStudies { studies, chosen: Some(StudyNumber(1)) }))?;
    store.apply(id, None, Command::SetSessions(SetSessions { sessions: sessions(&store.piece(id)?.piece), done: None }))?;
    half_way(store, id, oils)
}

/// It stands half way: toned, drawn, laid in, and the first big shapes are in; one thing was left out.
fn half_way(store: &Store, id: PieceId, oils: &PaintBox) -> Result<(), Problem> {
    let piece = store.piece(id)?.piece;
    let lay_in = lay_in::offers(&piece, oils).into_iter().next().map(|o| o.lay_in);
    let easel = Easel {
        drawing: PreliminaryDrawing { with: DrawnWith::Brush, belongs: false, after_lay_in: false },
        tone: lay_in.as_ref().map(|l| l.pigment.clone()),
        lay_in,
        hours: Hours { every_days: 7, ..Hours::default() },
        air: Air { warmth: 17.0, damp: 60.0 },
        ..Easel::default()
    };
    store.apply(id, None, Command::SetEasel(SetEasel { easel, what: "how it is carried out".into() }))?;
    let piece = store.piece(id)?.piece;
    let Some(at) = at_the_easel(&piece, oils, Zoned::now().datetime()).map_err(Problem::internal)? else {
        return Ok(());
    };
    let laid: Vec<ZoneId> = piece.sessions.iter().flat_map(|s| s.zones.clone()).collect();
    let sheet = |t: &TaskId| t.zone.is_none() && t.stage <= Stage::LayIn;
    let done = at.tasks.iter().map(|t| t.id).filter(|t| sheet(t) || t.zone.is_some_and(|z| laid.contains(&z)));
    let evening =
        |t: &TaskId| if sheet(t) { format!("{}T19:30", days_from_now(FIRST)) } else { format!("{}T20:10", days_from_now(SECOND)) };
    let easel = Easel { done: done.map(|task| Done { at: Some(evening(&task)), task }).collect(), ..piece.easel };
    store.apply(id, None, Command::SetEasel(SetEasel { easel, what: "what is done".into() }))?;
    photographed(store, id, oils)?;
    left_out(store, id)
}

/// The tins in shade were left out, with the reason.
fn left_out(store: &Store, id: PieceId) -> Result<(), Problem> {
    let piece = store.piece(id)?.piece;
    let Some(zone) = piece.zones.iter().find(|z| z.name == "tins in shade").map(|z| z.id) else { return Ok(()) };
    let change = DepartureKind::LeftOut { zone };
    let command = depart(&piece, Departure { change, reason: "too small to tell at this size".into() })
        .map_err(|e| Problem::internal(e.to_string()))?;
    store.apply(id, None, command.into())?;
    Ok(())
}

/// A photo after the second evening: the plane has come out too dark. Made by the simulated camera.
fn photographed(store: &Store, id: PieceId, oils: &PaintBox) -> Result<(), Problem> {
    let piece = store.piece(id)?.piece;
    let hand = |z: ZoneId, lab: Lab| match piece.zone(z).is_some_and(|z| z.name == "plane") {
        true => with_value(lab, Value((lab.value().0 - TOO_DARK).max(0.0))),
        false => lab,
    };
    let photo = png(&simulated(&piece, oils, &hand, SHOT)?)?;
    let TakenIn { digest, full, .. } = TakenIn::keep(store, &photo)?;
    let at = format!("{}T20:20", days_from_now(SECOND));
    store.apply(id, None, with_photo(piece, digest, "bench-second-evening.png".into(), full, at))?;
    Ok(())
}

/// Steps by which the plane came out too dark.
const TOO_DARK: f64 = 0.7;

/// Days from now of its two sessions: paint of the second is still wet.
const FIRST: i64 = -9;
const SECOND: i64 = -2;

fn days_from_now(days: i64) -> String {
    let today = Zoned::now().date();
    today.checked_add(Span::new().days(days)).unwrap_or(today).to_string()
}

/// Two evenings at it.
fn sessions(piece: &Piece) -> Vec<Session> {
    let zones = |places: &[(f64, f64)]| places.iter().filter_map(|p| zone_at(piece, *p)).collect();
    vec![
        Session {
            on: days_from_now(FIRST),
            minutes: 75,
            did: "Ground tone wiped thin, drawing set with a brush, wall and bench top laid in.".into(),
            zones: zones(&[(0.275, 0.396), (0.927, 0.808)]),
        },
        Session {
            on: days_from_now(SECOND),
            minutes: 110,
            did: "Darks under the bench; shelf and plane blocked in, mug left.".into(),
            zones: zones(&[(0.491, 0.959), (0.897, 0.275), (0.357, 0.681)]),
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

const COLOURS: &[Colour] = &[
    Colour("plaster wall", (0.275, 0.396), Importance::Quiet),
    Colour("bench top", (0.927, 0.808), Importance::Usual),
    Colour("under the bench", (0.491, 0.959), Importance::Quiet),
    Colour("wall, turning", (0.845, 0.085), Importance::Quiet),
    Colour("bench edge", (0.201, 0.904), Importance::Quiet),
    Colour("plane", (0.357, 0.681), Importance::Usual),
    Colour("shelf", (0.897, 0.275), Importance::Usual),
    Colour("wall in shade", (0.093, 0.147), Importance::Quiet),
    Colour("bench in the light", (0.308, 0.594), Importance::Usual),
    Colour("darks", (0.47, 0.869), Importance::Usual),
    Colour("mug and shavings", (0.863, 0.583), Importance::Focal),
    Colour("blue tins", (0.929, 0.133), Importance::Usual),
    Colour("tins in shade", (0.955, 0.113), Importance::Quiet),
];

const MASSES: &[Named] = &[
    Named((0.275, 0.396), "plaster wall", Some(Plane::Upright), Some(Distance::Far)),
    Named((0.476, 0.959), "under the bench", Some(Plane::Upright), Some(Distance::Near)),
    Named((0.816, 0.261), "shelf", Some(Plane::Upright), Some(Distance::Far)),
];

const PARTS: &[Part] = &[
    Part("plaster wall", Plane::Upright, Distance::Far, Some(Role::Lit), None),
    Part("wall, turning", Plane::Upright, Distance::Far, Some(Role::Halftone), None),
    Part("wall in shade", Plane::Upright, Distance::Far, Some(Role::Shadow), None),
    Part("mug and shavings", Plane::Upright, Distance::Middle, Some(Role::Lit), Some(Kind::White)),
    Part("shelf", Plane::Upright, Distance::Middle, Some(Role::Shadow), None),
    Part("plane", Plane::Upright, Distance::Middle, Some(Role::Shadow), None),
    Part("bench top", Plane::Flat, Distance::Near, Some(Role::Halftone), None),
    Part("bench in the light", Plane::Flat, Distance::Near, Some(Role::Lit), None),
    Part("bench edge", Plane::Upright, Distance::Near, Some(Role::Shadow), None),
    Part("under the bench", Plane::Upright, Distance::Near, Some(Role::Shadow), None),
    Part("blue tins", Plane::Upright, Distance::Far, Some(Role::Lit), None),
    Part("tins in shade", Plane::Upright, Distance::Far, Some(Role::Shadow), None),
];
