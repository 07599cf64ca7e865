//! "Depot bell".

use super::{Colour, Named, Own, Part, in_the_light, make_own, name_colours, name_masses, put_set, take_in};
use crate::problem::Problem;
use lean_colour::Lab;
use lean_media::{GroundId, Medium};
use lean_piece::change::UseBox;
use lean_piece::light::{Distance, Falling, Kind, Lamp, LampFrom, Lighting, Plane, Role, Tint};
use lean_piece::paint_box::{BoxId, PaintBox};
use lean_piece::{Brief, Command, Importance, Millimetres, Piece, Size};
use lean_search::Tables;
use lean_store::Store;

/// Colours the painter asks for.
const FOUND: usize = 12;
/// Size of its set.
const SET: usize = 9;

/// Coloured pencil on kraft-brown paper, one warm lamp: many hues inside one brass, and a ground that must be overcome. It stands at Lean set.
pub(super) fn fill(store: &Store, (box_id, pencils): &(BoxId, PaintBox)) -> Result<(), Problem> {
    let brief = Brief {
        title: "Depot bell".into(),
        medium: Medium::Pencil,
        ground: GroundId("kraft-brown".into()),
        size: Size { width: Millimetres(150.0), height: Millimetres(200.0) },
    };
    let id = store.create_piece(&Piece::new(brief))?.id;
    store.apply(id, None, Command::UseBox(UseBox { paint_box: Some(box_id.clone()) }))?;
    let seen = take_in(store, id, lean_demo::BELL, lean_demo::BELL_FILE, FOUND)?;
    make_own(store, id, &seen, OWN)?;
    name_colours(store, id, COLOURS)?;
    name_masses(store, id, MASSES)?;
    let first = Lamp { tint: Tint::Warm, from: LampFrom::Left, hard: true };
    in_the_light(store, id, &Lighting { falling: Falling::One { first }, outdoors: false, exceptions: Vec::new() }, PARTS)?;
    put_set(store, id, pencils, SET, &Tables::default())
}

const COLOURS: &[Colour] = &[
    Colour("bell's shadow", (0.71, 0.608), Importance::Usual),
    Colour("boards, turning", (0.891, 0.411), Importance::Quiet),
    Colour("boards, middle", (0.363, 0.518), Importance::Quiet),
    Colour("boards, far left", (0.104, 0.451), Importance::Quiet),
    Colour("boards by the lamp", (0.232, 0.128), Importance::Usual),
    Colour("brass and boards in the light", (0.372, 0.28), Importance::Focal),
    Colour("soft edge of shadow", (0.766, 0.857), Importance::Quiet),
    Colour("shelf in shade", (0.941, 0.956), Importance::Quiet),
    Colour("boards, upper right", (0.624, 0.169), Importance::Quiet),
    Colour("shelf", (0.316, 0.916), Importance::Quiet),
    Colour("glow and glints", (0.1, 0.045), Importance::Usual),
    Colour("brass, turning", (0.503, 0.439), Importance::Focal),
];

/// The plaited cord: its red is small, and there is no other.
const OWN: &[Own] = &[Own("cord", &[(0.472, 0.735)], Some(Lab::new(34.0, 44.0, 30.0)))];

const MASSES: &[Named] = &[
    Named((0.15, 0.40), "boards", Some(Plane::Upright), Some(Distance::Far)),
    Named((0.70, 0.60), "bell's shadow", Some(Plane::Upright), Some(Distance::Far)),
    Named((0.57, 0.94), "shelf", Some(Plane::Flat), Some(Distance::Near)),
];

const PARTS: &[Part] = &[
    Part("bell's shadow", Plane::Upright, Distance::Far, Some(Role::Shadow), Some(Kind::Dark)),
    Part("boards, middle", Plane::Upright, Distance::Far, Some(Role::Halftone), None),
    Part("boards, turning", Plane::Upright, Distance::Far, Some(Role::Halftone), None),
    Part("boards, far left", Plane::Upright, Distance::Far, Some(Role::Lit), None),
    Part("boards by the lamp", Plane::Upright, Distance::Far, Some(Role::Lit), None),
    Part("brass and boards in the light", Plane::Upright, Distance::Far, Some(Role::Lit), None),
    Part("soft edge of shadow", Plane::Upright, Distance::Far, Some(Role::Shadow), None),
    Part("brass, turning", Plane::Upright, Distance::Middle, Some(Role::Halftone), None),
    Part("cord", Plane::Upright, Distance::Middle, Some(Role::Lit), None),
    Part("shelf", Plane::Flat, Distance::Near, Some(Role::Halftone), None),
    Part("shelf in shade", Plane::Upright, Distance::Near, Some(Role::Shadow), None),
    Part("shelf in the light", Plane::Flat, Distance::Near, Some(Role::Lit), None),
];
