//! "Hen on the stove stool".

use super::{Mass, Part, in_the_light, name_zones, take_in, zone_at};
use crate::problem::Problem;
use lean_media::{GroundId, Medium};
use lean_picture::spot::Spot;
use lean_store::Store;
use lean_studio::light::{Distance, Exception, Falling, From, Kind, Lamp, Lighting, Plane, Role, Tint, Which};
use lean_studio::paint_box::{BoxId, PaintBox};
use lean_studio::piece::{Brief, Command, Importance, Millimetres, Piece, Size, Zone};
use lean_studio::zones;

/// Zones found before the painter's corrections.
const FOUND: usize = 12;

/// Two lights in watercolour: a stove from below, daylight from a door behind. It stands at Light.
pub fn fill(store: &Store, (box_id, _): &(BoxId, PaintBox)) -> Result<(), Problem> {
    let brief = Brief {
        title: "Hen on the stove stool".into(),
        medium: Medium::Watercolour,
        ground: GroundId("cold-pressed".into()),
        size: Size { width: Millimetres(180.0), height: Millimetres(240.0) },
    };
    let id = store.create_piece(&Piece::new(brief))?.id;
    store.apply(id, None, Command::UseBox { paint_box: Some(box_id.clone()) })?;
    let seen = take_in(store, id, lean_demo::HEN, lean_demo::HEN_FILE, FOUND)?;
    let piece = store.piece(id)?.piece;
    let seat = SEAT.map(|(x, y)| Spot { x, y });
    if let Some(zone) = zone_at(&piece, (0.50, 0.575)) {
        store.apply(id, None, zones::split(&piece, seen.look(), zone, &seat).map_err(Problem::internal)?)?;
    }
    name_zones(store, id, &seen, MASSES)?;
    let stove = Lamp { tint: Tint::Warm, from: From::Left, hard: false };
    let day = Lamp { tint: Tint::Cool, from: From::Behind, hard: false };
    let lighting =
        Lighting { falling: Falling::Two { first: stove, second: day }, outdoors: false, exceptions: vec![Exception::Backlight] };
    in_the_light(store, id, &lighting, PARTS)?;
    by_daylight(store, id)
}

/// Zones that stand in the daylight from the door, not in the glow of the stove.
const BY_DAY: &[&str] = &["door sky", "yard wall", "floor by the door", "floor", "bowl by daylight", "back and tail"];

fn by_daylight(store: &Store, id: lean_store::PieceId) -> Result<(), Problem> {
    let piece = store.piece(id)?.piece;
    let with = |z: &Zone| {
        let mut zone = z.clone();
        zone.facts.light = Which::Second;
        zone
    };
    let zones = piece.zones.iter().filter(|z| BY_DAY.contains(&z.name.as_str())).map(with).collect();
    store.apply(id, None, Command::ChangeZones { zones, what: "what stands in the daylight".into() })?;
    Ok(())
}

const MASSES: &[Mass] = &[
    Mass("door sky", &[(0.90, 0.10)], Importance::Quiet),
    Mass("yard wall", &[(0.955, 0.37)], Importance::Quiet),
    Mass("bowl by daylight", &[(0.09, 0.89)], Importance::Usual),
    Mass("bowl in the glow", &[(0.245, 0.885)], Importance::Usual),
    Mass("grain", &[(0.22, 0.93)], Importance::Usual),
    Mass("breast", &[(0.50, 0.43)], Importance::Focal),
    Mass("back and tail", &[(0.66, 0.36)], Importance::Usual),
    Mass("stool", &[(0.50, 0.575)], Importance::Usual),
    Mass("dark wall", &[(0.25, 0.19)], Importance::Quiet),
    Mass("floor", &[(0.28, 0.69), (0.59, 0.87)], Importance::Usual),
    Mass("floor by the door", &[(0.90, 0.65), (0.92, 0.48)], Importance::Usual),
];

/// Where the hen ends and its stool begins: both are dark in the reference.
const SEAT: [(f64, f64); 2] = [(0.37, 0.525), (0.90, 0.525)];

const PARTS: &[Part] = &[
    Part("door sky", Plane::Sky, Distance::Far, Some(Role::SelfLuminous), None),
    Part("yard wall", Plane::Upright, Distance::Far, Some(Role::Lit), None),
    Part("bowl by daylight", Plane::Upright, Distance::Near, Some(Role::Lit), Some(Kind::White)),
    Part("bowl in the glow", Plane::Upright, Distance::Near, Some(Role::Lit), Some(Kind::White)),
    Part("breast", Plane::Upright, Distance::Middle, Some(Role::Lit), None),
    Part("grain", Plane::Flat, Distance::Near, Some(Role::Halftone), None),
    Part("back and tail", Plane::Upright, Distance::Middle, Some(Role::Shadow), None),
    Part("stool", Plane::Upright, Distance::Middle, Some(Role::Shadow), None),
    Part("dark wall", Plane::Upright, Distance::Far, Some(Role::Shadow), None),
    Part("floor", Plane::Flat, Distance::Near, Some(Role::Halftone), None),
    Part("floor by the door", Plane::Flat, Distance::Middle, Some(Role::Lit), None),
];
