//! A stick of which little is left is kept for small zones.

use crate::made_up::{SIX, grid, paint_box};
use lean_colour::Lab;
use lean_media::swatch::swatch;
use lean_media::{Medium, PigmentId};
use lean_piece::Piece;
use lean_piece::paint_box::PaintBox;
use lean_plan::paints::too_little::too_little;
use lean_search::progress::Unwatched;
use lean_search::{Tables, search};

/// Six zones of equal size, and the pigment nearest to one of them.
fn with_one_at_its_end(medium: Medium, zone: usize) -> (Piece, PaintBox, PigmentId) {
    let colours: Vec<Lab> = SIX.iter().map(|(l, a, b)| Lab::new(*l, *a, *b)).collect();
    let (piece, mut paint_box) = (grid(medium, &colours, 3, 20), paint_box(medium));
    let ground = piece.ground();
    let far = |p: &lean_media::Pigment| lean_recipes::cost::apart(swatch(medium, &ground, p), colours[zone]);
    let nearest = paint_box.pigments.iter_mut().filter(|p| !p.white).min_by(|a, b| far(a).total_cmp(&far(b))).unwrap();
    nearest.owned.left = Some(0.1);
    let id = nearest.id.clone();
    (piece, paint_box, id)
}

fn found(piece: &Piece, paint_box: &PaintBox) -> Vec<PigmentId> {
    let asked = piece.ask(paint_box, vec![piece.own_need()], 4..=4);
    search(&asked.ask(), &Tables::default(), &Unwatched, &|_| {}).unwrap().remove(0).pigments
}

#[test]
fn what_is_nearly_finished_is_not_searched_for_a_large_zone_and_the_reason_is_said() {
    for medium in Medium::ALL {
        let (piece, paint_box, id) = with_one_at_its_end(medium, 2);
        let told = too_little(&piece, &paint_box);
        assert_eq!(told.iter().map(|l| l.pigment.clone()).collect::<Vec<_>>(), std::slice::from_ref(&id), "{medium:?}");
        assert!(told[0].why.contains("nearly finished") && told[0].why.contains("17 %"), "{}", told[0].why);
        assert!(!found(&piece, &paint_box).contains(&id), "{medium:?}");

        let mut locked = piece.clone();
        locked.locked = vec![id.clone()];
        assert!(too_little(&locked, &paint_box).is_empty() && found(&locked, &paint_box).contains(&id), "the painter has decided");

        let mut full = paint_box.clone();
        full.pigments.iter_mut().for_each(|p| p.owned.left = Some(0.5));
        assert!(too_little(&piece, &full).is_empty());
    }
}

#[test]
fn it_still_serves_a_small_zone() {
    let (mut piece, paint_box, id) = with_one_at_its_end(Medium::Marker, 2);
    assert_eq!(too_little(&piece, &paint_box)[0].pigment, id);
    piece.zones[2].reading.area = 0.02;
    assert!(too_little(&piece, &paint_box).is_empty());
}
