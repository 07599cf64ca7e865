//! "Hen on the stove stool".

use super::{Colour, Examined, Part, in_the_light, name_colours, plan_accent, spot, take_in, zone_at};
use crate::problem::Problem;
use lean_colour::Lab;
use lean_media::{GroundId, Medium};
use lean_piece::change::{ChangeZones, UseBox};
use lean_piece::light::{Distance, Exception, Falling, Kind, Lamp, LampFrom, Lighting, Plane, Role, Tint, Which};
use lean_piece::paint_box::{BoxId, PaintBox};
use lean_piece::{Brief, Command, Importance, Millimetres, Piece, Size, Zone};
use lean_plan::zones;
use lean_store::{PieceId, Store};

/// Colours the painter asks for.
const FOUND: usize = 13;

/// Two lights in watercolour: a stove from below, daylight from a door behind. It stands at Light.
pub(super) fn fill(store: &Store, (box_id, _): &(BoxId, PaintBox)) -> Result<(), Problem> {
    let brief = Brief {
        title: "Hen on the stove stool".into(),
        medium: Medium::Watercolour,
        ground: GroundId("cold-pressed".into()),
        size: Size { width: Millimetres(180.0), height: Millimetres(240.0) },
    };
    let id = store.create_piece(&Piece::new(brief))?.id;
    store.apply(id, None, Command::UseBox(UseBox { paint_box: Some(box_id.clone()) }))?;
    let seen = take_in(store, id, lean_demo::HEN, lean_demo::HEN_FILE, FOUND)?;
    part_comb(store, id, &seen)?;
    name_colours(store, id, COLOURS)?;
    let stove = Lamp { tint: Tint::Warm, from: LampFrom::Left, hard: false };
    let day = Lamp { tint: Tint::Cool, from: LampFrom::Behind, hard: false };
    let lighting =
        Lighting { falling: Falling::Two { first: stove, second: day }, outdoors: false, exceptions: vec![Exception::Backlight] };
    in_the_light(store, id, &lighting, PARTS)?;
    by_daylight(store, id)
}

/// Zones that stand in the daylight from the door, not in the glow of the stove.
const BY_DAY: &[&str] = &["door sky", "yard wall", "floor by the door", "floor", "floor in halftone", "back by daylight"];

fn by_daylight(store: &Store, id: PieceId) -> Result<(), Problem> {
    let piece = store.piece(id)?.piece;
    let with = |z: &Zone| {
        let mut zone = z.clone();
        zone.facts.light = Which::Second;
        zone
    };
    let zones = piece.zones.iter().filter(|z| BY_DAY.contains(&z.name.as_str())).map(with).collect();
    store.apply(id, None, Command::ChangeZones(ChangeZones { zones, what: "what stands in the daylight".into() }))?;
    Ok(())
}

const COLOURS: &[Colour] = &[
    Colour("dark wall", (0.207, 0.155), Importance::Quiet),
    Colour("floor in halftone", (0.312, 0.69), Importance::Usual),
    Colour("back in shade", (0.84, 0.403), Importance::Usual),
    Colour("floor by the door", (0.926, 0.485), Importance::Usual),
    Colour("back by daylight", (0.523, 0.922), Importance::Focal),
    Colour("breast in the glow", (0.456, 0.389), Importance::Focal),
    Colour("floor", (0.221, 0.767), Importance::Usual),
    Colour("door sky", (0.898, 0.088), Importance::Quiet),
    Colour("stool in shade", (0.466, 0.294), Importance::Usual),
    Colour("grain", (0.197, 0.928), Importance::Usual),
    Colour("yard wall", (0.958, 0.239), Importance::Quiet),
    Colour("bowl in the glow", (0.335, 0.88), Importance::Usual),
    Colour("bowl, turning", (0.182, 0.868), Importance::Quiet),
];

/// A spot of the comb, the line where it ends, and its red: the smallest and strongest of the picture.
const COMB: (f64, f64) = (0.43, 0.2);
const UNDER_COMB: [(f64, f64); 2] = [(0.53, 0.232), (0.34, 0.232)];
const COMB_RED: Lab = Lab::new(30.0, 36.0, 24.0);

/// Parts the comb from the neck, which has its colour in this light.
fn part_comb(store: &Store, id: PieceId, seen: &Examined) -> Result<(), Problem> {
    let piece = store.piece(id)?.piece;
    let Some(zone) = zone_at(&piece, COMB) else { return Ok(()) };
    store.apply(id, None, zones::split(&piece, seen.look(), zone, &UNDER_COMB.map(spot)).map_err(Problem::internal)?)?;
    match zone_at(&store.piece(id)?.piece, COMB) {
        Some(comb) => plan_accent(store, id, comb, "comb", Some(COMB_RED)),
        None => Ok(()),
    }
}

const PARTS: &[Part] = &[
    Part("door sky", Plane::Sky, Distance::Far, Some(Role::SelfLuminous), None),
    Part("yard wall", Plane::Upright, Distance::Far, Some(Role::Lit), None),
    Part("bowl in the glow", Plane::Upright, Distance::Near, Some(Role::Lit), Some(Kind::White)),
    Part("bowl, turning", Plane::Upright, Distance::Near, Some(Role::Halftone), Some(Kind::White)),
    Part("breast in the glow", Plane::Upright, Distance::Middle, Some(Role::Lit), None),
    Part("back in shade", Plane::Upright, Distance::Middle, Some(Role::Shadow), None),
    Part("comb", Plane::Upright, Distance::Middle, Some(Role::Lit), None),
    Part("grain", Plane::Flat, Distance::Near, Some(Role::Halftone), None),
    Part("back by daylight", Plane::Upright, Distance::Middle, Some(Role::Halftone), None),
    Part("stool in shade", Plane::Upright, Distance::Middle, Some(Role::Shadow), None),
    Part("dark wall", Plane::Upright, Distance::Far, Some(Role::Shadow), None),
    Part("floor", Plane::Flat, Distance::Near, Some(Role::Shadow), None),
    Part("floor in halftone", Plane::Flat, Distance::Near, Some(Role::Halftone), None),
    Part("floor by the door", Plane::Flat, Distance::Middle, Some(Role::Lit), None),
];
