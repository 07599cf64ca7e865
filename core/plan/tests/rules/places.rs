//! The two dials, mending by hand and masses, on a made-up picture: through commands and back.

use lean_colour::{Lab, Share, Value};
use lean_media::{GroundId, Medium};
use lean_picture::places::{LARGEST, SMALLEST, Survey};
use lean_picture::spot::Spot;
use lean_picture::{Picture, Reading, ZoneMap};
use lean_piece::change::{RenameZone, SetMasses, SetReference, SetTarget};
use lean_piece::light::{Distance, Plane};
use lean_piece::{Brief, Command, Millimetres, Piece, Reference, Size, Undo, Zone, ZoneId};
use lean_plan::derived::derived;
use lean_plan::requests::OfMass;
use lean_plan::zones::masses;
use lean_plan::zones::{self, PictureFile, Surveyed, dials};
use lean_search::RecipeLists;
use std::sync::LazyLock;

/// A yard: sky, a house with a row of windows, ground, a red door.
static YARD: LazyLock<(Picture, Survey)> = LazyLock::new(|| {
    let (w, h) = (1024u32, 768u32);
    let window = |x: u32, y: u32| (0..4).any(|i| (340 + 90 * i..384 + 90 * i).contains(&x)) && (300..360).contains(&y);
    let rgb = (0..w * h)
        .flat_map(|i| {
            let (x, y) = (i % w, i / w);
            let c = match () {
                () if (720..760).contains(&x) && (480..560).contains(&y) => Lab::new(42.0, 52.0, 34.0),
                () if window(x, y) => Lab::new(24.0, 0.0, -8.0),
                () if (280..820).contains(&x) && (190..240).contains(&y) => Lab::new(40.0, 12.0, 12.0),
                () if (f64::from(x) - 170.0).hypot(f64::from(y) - 500.0) < 70.0 => Lab::new(38.0, -18.0, 22.0),
                () if (480..640).contains(&x) && y > 560 => Lab::new(64.0, 2.0, 6.0),
                () if (300..800).contains(&x) && (240..560).contains(&y) => Lab::new(70.0, 8.0, 26.0),
                () if y > 560 => Lab::new(46.0, 4.0, 14.0 + f64::from((x / 7 + y / 5) % 3)),
                () => Lab::new(84.0, -2.0, -12.0),
            }
            .xyz()
            .srgb();
            [c.r, c.g, c.b]
        })
        .collect();
    let picture = Picture { width: w, height: h, rgb };
    let survey = Survey::of(&picture);
    (picture, survey)
});

fn look() -> Surveyed<'static> {
    Surveyed { working: &YARD.0, survey: &YARD.1 }
}

fn bare() -> Piece {
    let size = Size { width: Millimetres(400.0), height: Millimetres(300.0) };
    Piece::new(Brief { title: "Yard".into(), medium: Medium::Oil, ground: GroundId("panel-white".into()), size })
}

fn file() -> PictureFile {
    PictureFile { digest: "d".into(), file_name: "yard.png".into(), full: (1024, 768), sharpness: 1.0 }
}

fn done(piece: &Piece, command: Command) -> Piece {
    piece.apply(command).unwrap().0
}

fn piece(colours: usize) -> Piece {
    done(&bare(), zones::set_reference_at(look(), colours, file()))
}

fn at(x: u32, y: u32) -> Spot {
    Spot { x: (f64::from(x) + 0.5) / 1024.0, y: (f64::from(y) + 0.5) / 768.0 }
}

fn zone_at(piece: &Piece, x: u32, y: u32) -> ZoneId {
    zones::zone_at(piece.map().unwrap(), at(x, y))
}

/// What a painter would notice of a piece, its maps by what they say.
fn seen(p: &Piece) -> (Vec<Zone>, Option<ZoneMap>, Vec<lean_piece::Mass>) {
    (p.zones.clone(), p.map().cloned(), p.masses.clone())
}

#[test]
fn turning_the_dials_to_and_fro_leaves_everything_as_it_was() {
    let mut p = piece(6);
    for zone in p.zones.clone() {
        p = done(&p, Command::RenameZone(RenameZone { zone: zone.id, name: format!("name of {}", zone.id.0) }));
    }
    let sky = zone_at(&p, 40, 40);
    p = done(&p, Command::SetTarget(SetTarget { zone: sky, target: Lab::new(88.0, 0.0, -4.0) }));
    for there in [7, 8, 4, 3] {
        let turned = done(&p, dials::colours(&p, look(), there).unwrap());
        assert_eq!(turned.zones.len(), there);
        let back = done(&turned, dials::colours(&turned, look(), 6).unwrap());
        assert_eq!(seen(&back), seen(&p), "{there} colours and back");
    }
    for brush in [LARGEST, 0.04, SMALLEST] {
        let turned = done(&p, dials::brush(&p, look(), Share(brush), "x").unwrap());
        assert_eq!(turned.zones, p.zones, "a brush changes places only");
        let back = done(&turned, dials::brush(&turned, look(), Share(p.cut.as_ref().unwrap().brush), "x").unwrap());
        assert_eq!(seen(&back), seen(&p));
    }
}

#[test]
fn one_colour_more_parts_one_zone_and_the_others_keep_name_and_target() {
    let mut p = piece(4);
    for zone in p.zones.clone() {
        p = done(&p, Command::RenameZone(RenameZone { zone: zone.id, name: format!("name of {}", zone.id.0) }));
        p = done(&p, Command::SetTarget(SetTarget { zone: zone.id, target: Lab::new(f64::from(zone.id.0) * 10.0, 0.0, 0.0) }));
    }
    let more = done(&p, dials::colours(&p, look(), 5).unwrap());
    let same = more.zones.iter().filter(|z| p.zone(z.id).is_some_and(|old| old.target == z.target && old.name == z.name)).count();
    assert_eq!((more.zones.len(), same), (5, 3), "one zone is read anew, three stay");
    let mut locked = p.clone();
    locked.zones.iter_mut().for_each(|z| z.kept = true);
    assert!(dials::colours(&locked, look(), 5).unwrap_err().contains("No more colours"));
    assert!(dials::colours(&locked, look(), 3).unwrap_err().contains("locked"));
    assert!(dials::colours(&p, look(), 25).unwrap_err().contains("3 to 24"));
    assert!(dials::brush(&p, look(), Share(0.4), "x").unwrap_err().contains("may be"));
}

#[test]
fn a_place_can_be_given_away_or_made_a_zone_and_comes_back_by_undo() {
    let p = piece(8);
    let windows = zone_at(&p, 360, 330);
    assert_eq!(p.geometry().places_of(windows.0).len(), 4, "four windows are one zone in four places");
    let wall = zone_at(&p, 500, 450);

    let (given, undo) = p.apply(zones::give(&p, look(), at(360, 330), wall).unwrap()).unwrap();
    assert_eq!(zone_at(&given, 360, 330), wall);
    assert_eq!(given.geometry().places_of(windows.0).len(), 3);
    assert_eq!(given.zone(wall).unwrap().target, p.zone(wall).unwrap().target, "what takes a place in keeps its target");
    assert!(given.zone(wall).unwrap().reading.area > p.zone(wall).unwrap().reading.area);
    assert_eq!(seen(&back(&given, undo)), seen(&p));

    let own = done(&p, zones::own(&p, look(), at(450, 330)).unwrap());
    let new = zone_at(&own, 450, 330);
    assert!(new != windows && own.zones.len() == p.zones.len() + 1);
    assert!((own.zone(new).unwrap().reading.lab.l - 24.0).abs() < 2.0, "it is read anew");
    // It is still there after the brush was turned and back, and with one colour more and less.
    let mut turned = own.clone();
    for brush in [SMALLEST, 0.04, own.cut.as_ref().unwrap().brush] {
        turned = done(&turned, dials::brush(&turned, look(), Share(brush), "x").unwrap());
        assert_eq!(zone_at(&turned, 450, 330), new);
    }
    assert_eq!(seen(&turned), seen(&own));
    // At a brush larger than the window it has no place, but is not forgotten.
    let coarse = done(&own, dials::brush(&own, look(), Share(LARGEST), "x").unwrap());
    assert!(coarse.geometry().places_of(new.0).is_empty() && coarse.zone(new).is_some());
    assert!(derived(&coarse, None, &RecipeLists::default()).dials.unwrap().too_small.contains(&new));

    assert!(zones::give(&p, look(), at(360, 330), windows).unwrap_err().contains("already"));
    let door = zone_at(&p, 740, 520);
    assert!(zones::give(&p, look(), at(740, 520), wall).unwrap_err().contains("only place"));
    assert!(zones::own(&p, look(), at(740, 520)).unwrap_err().contains("one place only"), "{door:?}");
}

fn back(piece: &Piece, undo: Undo) -> Piece {
    piece.take_back(undo).unwrap()
}

#[test]
fn a_colour_is_taken_from_the_picture_and_zones_are_joined_and_parted() {
    let p = piece(3);
    let few = done(&p, dials::colours(&p, look(), 3).unwrap());
    assert_eq!(seen(&few), seen(&p));
    // With three colours the windows are not told from something else; taken, they are.
    let with = done(&p, zones::take(&p, look(), at(360, 330)).unwrap());
    assert_ne!(zone_at(&with, 360, 330), zone_at(&with, 500, 450));
    assert_eq!(with.zones.len(), 4);
    assert!(zones::take(&with, look(), at(362, 332)).unwrap_err().contains("already"));

    let ground = zone_at(&with, 200, 700);
    let wall = zone_at(&with, 500, 450);
    let joined = done(&with, zones::merge(&with, look(), wall, ground).unwrap());
    assert_eq!(zone_at(&joined, 500, 450), zone_at(&joined, 200, 700));
    let line = [at(400, 560), at(405, 767)];
    let (parted, undo) = joined.apply(zones::split(&joined, look(), ground, &line).unwrap()).unwrap();
    assert_ne!(zone_at(&parted, 100, 720), zone_at(&parted, 900, 720));
    assert_eq!(seen(&back(&parted, undo)), seen(&joined));
}

#[test]
fn moving_a_target_rewrites_no_map_and_the_history_stays_small() {
    let p = piece(8);
    let sky = zone_at(&p, 40, 40);
    let moved = done(&p, Command::SetTarget(SetTarget { zone: sky, target: Lab::new(80.0, 0.0, 0.0) }));
    assert_eq!(moved.zone_map, p.zone_map);
    let command = zones::give(&p, look(), at(360, 330), sky).unwrap();
    let text = serde_json::to_string(&command).unwrap();
    assert!(text.len() < 40_000, "a mended place takes {} bytes of history", text.len());
    assert!(!text.contains("runs") && text.contains("digest"), "maps go by their digest");
    assert!(serde_json::to_string(&moved).unwrap().len() < 60_000);
}

#[test]
fn zones_laid_in_another_way_stay_under_the_brush_and_are_found_anew_by_the_dial_of_colours() {
    // As an earlier program left it: a coarse map, no colours, no brush.
    let labels = (0..40 * 30).map(|i| if i / 40 < 22 { 1 } else { 2 }).collect();
    let map = ZoneMap { width: 40, height: 30, labels };
    let zone = |id, l| {
        let lab = Lab::new(l, 0.0, 0.0);
        Zone { name: format!("old {id}"), ..Zone::read(ZoneId(id), Reading { area: 0.5, value: lab.value(), lab }) }
    };
    let reference = Reference::whole("d".into(), "yard.png".into(), (1024, 768), lean_colour::Temperature(0.0));
    let p = done(
        &bare(),
        Command::SetReference(SetReference {
            reference: Some(reference),
            zone_map: Some(map.into()),
            zones: vec![zone(1, 70.0), zone(2, 40.0)],
            cut: None,
            masses: Vec::new(),
            mass_map: None,
        }),
    );
    let brushed = done(&p, dials::brush(&p, look(), Share(0.05), "x").unwrap());
    assert_eq!(brushed.zones, p.zones);
    assert_eq!((zone_at(&brushed, 500, 100), zone_at(&brushed, 500, 700)), (ZoneId(1), ZoneId(2)));
    let anew = done(&p, dials::colours(&p, look(), 6).unwrap());
    assert!(anew.cut.is_some() && anew.zones.len() <= 6 && anew.zones.iter().all(|z| z.name.is_empty()));
}

#[test]
fn locked_zones_stay_where_they_lie_when_colours_are_found_anew() {
    let mut p = piece(8);
    let wall = zone_at(&p, 500, 450);
    p.zones.iter_mut().filter(|z| z.id == wall).for_each(|z| (z.kept, z.name) = (true, "the wall".into()));
    let anew = done(&p, zones::propose(&p, look(), 7));
    assert_eq!(zone_at(&anew, 500, 450), wall);
    assert_eq!(anew.zone(wall).unwrap().name, "the wall");
    assert!(anew.zones.iter().all(|z| z.id == wall || z.name.is_empty()));
}

#[test]
fn what_is_said_of_a_mass_holds_for_its_zones_unless_they_say_otherwise() {
    let p = piece(8);
    let sky = zone_at(&p, 40, 40);
    let mass_of = masses::mass_of(&p);
    let mass = mass_of[&sky];
    let said = OfMass { name: "sky".into(), plane: Some(Plane::Sky), distance: Some(Distance::Far), light: None };
    let (told, undo) = p.apply(masses::say(&p, mass, said.clone()).unwrap()).unwrap();
    assert_eq!(told.zone(sky).unwrap().facts.plane, Some(Plane::Sky));
    assert_eq!(told.mass(mass).unwrap().name, "sky");
    assert_eq!(seen(&back(&told, undo)), seen(&p));
    let mut by_hand = p.clone();
    by_hand.zones.iter_mut().filter(|z| z.id == sky).for_each(|z| (z.facts.plane, z.facts.by_hand) = (Some(Plane::Flat), true));
    let told = done(&by_hand, masses::say(&by_hand, mass, said).unwrap());
    assert_eq!(told.zone(sky).unwrap().facts.plane, Some(Plane::Flat), "the zone says otherwise");
}

#[test]
fn a_colour_in_two_masses_of_different_light_can_be_two_zones() {
    // The left half of the picture stands in one mass, the right in another; the ground lies in both.
    let mut p = piece(4);
    let halves = ZoneMap { width: 2, height: 1, labels: vec![1, 2] };
    let mass = |id: u16, plane| lean_piece::Mass { plane: Some(plane), ..lean_piece::Mass::new(lean_piece::MassId(id)) };
    let set =
        |masses| Command::SetMasses(SetMasses { masses, mass_map: Some(halves.clone().into()), zones: Vec::new(), what: "halves".into() });
    p = done(&p, set(vec![mass(1, Plane::Flat), mass(2, Plane::Flat)]));
    assert!(masses::straddling(&p).is_empty(), "the same light is no reason");
    p = done(&p, set(vec![mass(1, Plane::Flat), mass(2, Plane::Upright)]));
    let ground = zone_at(&p, 200, 700);
    let both = masses::straddling(&p).into_iter().find(|s| s.zone == ground).expect("the ground lies in both");
    let parted = done(&p, zones::part_by_mass(&p, look(), ground, both.mass).unwrap());
    let (left, right) = (zone_at(&parted, 200, 700), zone_at(&parted, 900, 700));
    assert!(left != right && parted.zones.len() == p.zones.len() + 1);
    assert!(parted.zone(if left == ground { right } else { left }).unwrap().facts.plane.is_some());
}

#[test]
fn masses_are_joined_parted_and_refused_with_a_reason() {
    let p = piece(8);
    let ids: Vec<_> = p.masses.iter().map(|m| m.id).collect();
    assert!((2..=9).contains(&ids.len()), "{ids:?}");
    let joined = done(&p, masses::join(&p, ids[0], ids[1]).unwrap());
    assert_eq!(joined.masses.len(), ids.len() - 1);
    assert!(masses::join(&p, ids[0], ids[0]).is_err());
    assert!(masses::part(&p, ids[0], &[at(5, 5), at(6, 5)]).is_err(), "a line that parts nothing");
    let value: Value = p.zones[0].reading.value;
    assert!(value.0 > 0.0);
}
