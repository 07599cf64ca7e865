//! A second medium in one piece: searched where the brief allows it, told in recipes, kept apart where it is for studies alone.

use lean_colour::Lab;
use lean_media::{Layering, Medium, Pigment, Second, State, ground};
use lean_picture::Reading;
use lean_piece::change::{ChooseSet, SetTogether};
use lean_piece::paint_box::{BoxId, PaintBox};
use lean_piece::*;
use lean_plan::mixes::{mixes_of, pigments_of, technique_of};
use lean_plan::paints::starter::starter;
use lean_plan::studies::StudyKind;
use lean_plan::studies::make::make;
use lean_search::demands::Mother;
use lean_search::progress::Unwatched;
use lean_search::{Tables, search};

fn piece(medium: Medium, colours: &[Lab]) -> Piece {
    let size = Size { width: Millimetres(200.0), height: Millimetres(150.0) };
    let mut piece = Piece::new(Brief { title: "Two".into(), medium, ground: ground::usual(medium).id, size });
    let area = 1.0 / colours.len() as f64;
    let zone = |(i, lab): (usize, &Lab)| Zone::read(ZoneId(i as u16 + 1), Reading { area, value: lab.value(), lab: *lab });
    piece.zones = colours.iter().enumerate().map(zone).collect();
    // With more to choose from more hues of the plan can be asked for: here only the cost counts.
    piece.demands.families_may_go = true;
    piece
}

fn drawing_on(piece: &Piece, second: Second) -> Piece {
    piece.apply(SetTogether { together: Some(Together { second, paint_box: BoxId("b".into()) }) }).unwrap().0
}

/// The least cost of a set of so many from this Box.
fn least(piece: &Piece, paint_box: &PaintBox, size: usize) -> (f64, Vec<lean_media::PigmentId>) {
    let asked = piece.ask(paint_box, vec![piece.own_need()], size..=size);
    let found = search(&asked.ask(), &Tables::default(), &Unwatched, &|_| {}).unwrap();
    assert!(found[0].proved_optimal);
    (found[0].cost, found[0].pigments.clone())
}

/// A light accent on a dark wash: what a watercolour alone cannot lay there.
fn lantern() -> Piece {
    piece(Medium::Watercolour, &[Lab::new(28.0, 2.0, -14.0), Lab::new(55.0, 18.0, 30.0), Lab::new(72.0, 1.0, 2.0)])
}

#[test]
fn a_second_box_never_makes_the_best_set_worse_and_every_recipe_gives_its_colour() {
    let pens = starter(Medium::Marker, 12);
    let both = pens.clone().with(Second::Pencil, Some(&starter(Medium::Pencil, 12)));
    let alone = piece(Medium::Marker, &[Lab::new(45.0, 8.0, 10.0), Lab::new(70.0, -6.0, 12.0), Lab::new(60.0, 14.0, -4.0)]);
    let piece = drawing_on(&alone, Second::Pencil);
    for size in [2, 3] {
        let (without, with) = (least(&alone, &pens, size), least(&piece, &both, size));
        assert!(with.0 <= without.0 + 1e-9, "{size}: {with:?} {without:?}");
    }
    let pencil = both.pigments.iter().find(|p| p.second.is_some()).unwrap().id.clone();
    let set = vec![pens.pigments[0].id.clone(), pens.pigments[3].id.clone(), pencil];
    let chosen = piece.apply(ChooseSet { chosen: ChosenSet { pigments: set } }).unwrap().0;
    let paper = chosen.ground();
    for m in mixes_of(&chosen, Some(&both)) {
        let Some(layers) = m.mix.general(Medium::Marker, &|id| both.find(id)) else { continue };
        let laid = Layering { ground: &paper, layers }.lay(State::Dry).unwrap().reflectance.xyz().lab();
        assert!(lean_colour::difference::ciede2000(laid, m.mix.lab) < 1e-6, "zone {}", m.zone.0);
        assert!(
            m.mix.layers.iter().skip(1).all(|l| l.second.is_some() || m.mix.layers[0].second.is_none()),
            "pencil lies over ink, never under it"
        );
    }
}

#[test]
fn opaque_white_is_counted_and_lies_over_the_wash() {
    let pans = starter(Medium::Watercolour, 12);
    let whites =
        PaintBox { name: "whites".into(), medium: Medium::Watercolour, pigments: vec![lean_media::library::find("PW6").unwrap().clone()] };
    let both = pans.with(Second::BodyColour, Some(&whites));
    let piece = drawing_on(&lantern(), Second::BodyColour);
    let white: &Pigment = both.pigments.last().unwrap();
    let set = pigments_of(&both, &[both.pigments[0].id.clone(), white.id.clone()]);
    assert_eq!(set.len(), 2, "it is carried like any other");
    let technique = technique_of(&piece, &both, &set);
    let lightest = technique.exact(&[0, 1]).iter().map(|l| l.value().0).fold(0.0, f64::max);
    let wash = technique.exact(&[0]).iter().map(|l| l.value().0).fold(10.0, f64::min);
    assert!(lightest > 8.0 && wash < 5.0, "{lightest} {wash}");
}

#[test]
fn an_oil_is_studied_in_acrylic_and_keeps_its_own_set() {
    let oils = starter(Medium::Oil, 12);
    let both = oils.clone().with(Second::Acrylic, Some(&starter(Medium::Oil, 6)));
    let alone = piece(Medium::Oil, &[Lab::new(45.0, 18.0, 20.0), Lab::new(70.0, -6.0, 12.0), Lab::new(30.0, 4.0, -14.0)]);
    let mut piece = drawing_on(&alone, Second::Acrylic);
    let (cost, set) = least(&piece, &both, 3);
    assert_eq!((cost, &set), (least(&alone, &oils, 3).0, &least(&alone, &oils, 3).1), "the piece itself is searched among the oils");
    // A lock of the oils says nothing of the acrylics.
    piece.locked = vec![set[0].clone()];
    piece.chosen.pigments = set.clone();
    let made = make(&piece, &both, &Tables::default(), &[StudyKind::AsRead], &Unwatched, &|_| {}).unwrap();
    assert!(made[0].pigments.iter().all(|id| both.find(id).unwrap().second == Some(Second::Acrylic)), "{:?}", made[0].pigments);
    let acrylic = made[0].mixes[0].mix.general(Medium::Oil, &|id| both.find(id)).unwrap();
    assert_eq!(acrylic[0].medium(), "acrylic");
    assert_eq!(piece.set_with(&made[0]), set, "going on with it leaves the tubes on the palette");
}

#[test]
fn taking_the_second_medium_back_takes_what_it_gave() {
    let pens = starter(Medium::Marker, 6);
    let both = pens.clone().with(Second::Pencil, Some(&starter(Medium::Pencil, 6)));
    let mut piece = drawing_on(&piece(Medium::Marker, &[Lab::new(45.0, 8.0, 10.0)]), Second::Pencil);
    piece.chosen.pigments = vec![pens.pigments[0].id.clone(), both.pigments.last().unwrap().id.clone()];
    piece.demands.mother = Some(Mother { pigment: both.pigments.last().unwrap().id.clone(), share: 0.1 });
    let (next, undo) = piece.apply(SetTogether { together: None }).unwrap();
    assert_eq!(next.chosen.pigments, [pens.pigments[0].id.clone()]);
    assert!(next.demands.mother.is_none(), "a pencil is in no mix of pens");
    assert_eq!(next.take_back(undo).unwrap().chosen.pigments.len(), 2);
    assert!(piece.apply(SetTogether { together: Some(Together { second: Second::Acrylic, paint_box: BoxId("b".into()) }) }).is_err());
}
