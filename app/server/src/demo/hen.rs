//! "Hen on the stove stool".

use super::{Colour, Own, Part, in_the_light, make_own, name_colours, take_in};
use lean_colour::Lab;
use crate::problem::Problem;
use lean_media::{GroundId, Medium};
use lean_store::Store;
use lean_studio::light::{Distance, Exception, Falling, From, Kind, Lamp, Lighting, Plane, Role, Tint, Which};
use lean_studio::paint_box::{BoxId, PaintBox};
use lean_studio::piece::{Brief, Command, Importance, Millimetres, Piece, Size, Zone};

/// Colours the painter asks for.
const FOUND: usize = 13;

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
    make_own(store, id, &seen, OWN)?;
    name_colours(store, id, COLOURS)?;
    let stove = Lamp { tint: Tint::Warm, from: From::Left, hard: false };
    let day = Lamp { tint: Tint::Cool, from: From::Behind, hard: false };
    let lighting =
        Lighting { falling: Falling::Two { first: stove, second: day }, outdoors: false, exceptions: vec![Exception::Backlight] };
    in_the_light(store, id, &lighting, PARTS)?;
    by_daylight(store, id)
}

/// Zones that stand in the daylight from the door, not in the glow of the stove.
const BY_DAY: &[&str] = &["door sky", "yard wall", "floor by the door", "floor", "floor in halftone", "back by daylight"];

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

const COLOURS: &[Colour] = &[
    Colour("dark wall", (0.207, 0.155), Importance::Quiet),
    Colour("floor", (0.082, 0.751), Importance::Usual),
    Colour("floor by the door", (0.926, 0.485), Importance::Usual),
    Colour("back by daylight", (0.60, 0.315), Importance::Focal),
    Colour("floor in halftone", (0.375, 0.612), Importance::Usual),
    Colour("door sky", (0.898, 0.075), Importance::Quiet),
    Colour("neck", (0.431, 0.31), Importance::Focal),
    Colour("breast in the glow", (0.54, 0.473), Importance::Focal),
    Colour("stool in shade", (0.513, 0.541), Importance::Usual),
    Colour("yard wall", (0.958, 0.239), Importance::Quiet),
    Colour("grain", (0.126, 0.897), Importance::Usual),
    Colour("bowl in the glow", (0.333, 0.879), Importance::Usual),
    Colour("bowl, turning", (0.19, 0.874), Importance::Quiet),
];

/// The comb: its red is the smallest and strongest of the picture.
const OWN: &[Own] = &[Own("comb", &[(0.43, 0.208)], Some(Lab::new(30.0, 36.0, 24.0)))];

const PARTS: &[Part] = &[
    Part("door sky", Plane::Sky, Distance::Far, Some(Role::SelfLuminous), None),
    Part("yard wall", Plane::Upright, Distance::Far, Some(Role::Lit), None),
    Part("bowl in the glow", Plane::Upright, Distance::Near, Some(Role::Lit), Some(Kind::White)),
    Part("bowl, turning", Plane::Upright, Distance::Near, Some(Role::Halftone), Some(Kind::White)),
    Part("breast in the glow", Plane::Upright, Distance::Middle, Some(Role::Lit), None),
    Part("neck", Plane::Upright, Distance::Middle, Some(Role::Halftone), None),
    Part("comb", Plane::Upright, Distance::Middle, Some(Role::Lit), None),
    Part("grain", Plane::Flat, Distance::Near, Some(Role::Halftone), None),
    Part("back by daylight", Plane::Upright, Distance::Middle, Some(Role::Halftone), None),
    Part("stool in shade", Plane::Upright, Distance::Middle, Some(Role::Shadow), None),
    Part("dark wall", Plane::Upright, Distance::Far, Some(Role::Shadow), None),
    Part("floor", Plane::Flat, Distance::Near, Some(Role::Shadow), None),
    Part("floor in halftone", Plane::Flat, Distance::Near, Some(Role::Halftone), None),
    Part("floor by the door", Plane::Flat, Distance::Middle, Some(Role::Lit), None),
];
