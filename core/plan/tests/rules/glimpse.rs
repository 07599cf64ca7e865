//! What is shown while a mark is dragged is what follows when it is let go.

use lean_colour::Lab;
use lean_media::{Medium, ground};
use lean_picture::Reading;
use lean_piece::change::SetTarget;
use lean_piece::*;
use lean_plan::derived::{derived, glimpse};
use lean_plan::paints::starter::starter;
use lean_search::RecipeLists;

#[test]
fn a_glimpse_is_the_whole_with_less_of_it() {
    for medium in [Medium::Oil, Medium::SoftPastel, Medium::Watercolour] {
        let size = Size { width: Millimetres(200.0), height: Millimetres(150.0) };
        let mut piece = Piece::new(Brief { title: "Drag".into(), medium, ground: ground::usual(medium).id, size });
        let colours = [Lab::new(42.0, 14.0, 18.0), Lab::new(70.0, -4.0, 10.0), Lab::new(30.0, 2.0, -14.0)];
        let zone = |(i, lab): (usize, &Lab)| Zone::read(ZoneId(i as u16 + 1), Reading { area: 1.0 / 3.0, value: lab.value(), lab: *lab });
        piece.zones = colours.iter().enumerate().map(zone).collect();
        let paint_box = starter(medium, 12);
        piece.chosen.pigments = paint_box.pigments.iter().filter(|p| !p.white).take(4).map(|p| p.id.clone()).collect();
        let dragged = SetTarget { zone: ZoneId(1), target: Lab::new(55.0, 9.0, 20.0) };
        let supposed = piece.supposing(dragged.clone()).unwrap();
        let done = piece.apply(dragged).unwrap().0;
        assert_eq!(supposed, done);
        // What the list of recipes remembers of the drag so far changes nothing.
        let lists = RecipeLists::default();
        glimpse(&piece, Some(&paint_box), &lists);
        let (seen, whole) = (glimpse(&supposed, Some(&paint_box), &lists), derived(&done, Some(&paint_box), &RecipeLists::default()));
        assert_eq!((seen.mixes, seen.wells), (whole.mixes, whole.wells), "{medium:?}");
        assert_eq!((seen.findings, seen.cost), (whole.findings, whole.cost), "{medium:?}");
    }
    let piece = Piece::new(Brief {
        title: "Empty".into(),
        medium: Medium::Oil,
        ground: ground::usual(Medium::Oil).id,
        size: Size { width: Millimetres(200.0), height: Millimetres(150.0) },
    });
    assert!(piece.supposing(SetTarget { zone: ZoneId(9), target: Lab::new(50.0, 0.0, 0.0) }).is_err());
}
