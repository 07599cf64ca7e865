//! A drawing from its open shapes to nine colourings.

use lean_colour::difference::ciede2000;
use lean_media::{Medium, ground};
use lean_picture::decode;
use lean_piece::paint_box::PaintBox;
use lean_piece::{Brief, Importance, Millimetres, Piece, Size, Study, ZoneId};
use lean_plan::drawing::{alike, value_plans};
use lean_plan::mixes::{mixes, pigments_of, reach_of, technique_of};
use lean_plan::paints::starter::starter;
use lean_plan::requests::{Colouring, Request};
use lean_plan::studies::{StudyKind, make};
use lean_plan::zones::{PictureFile, WORKING_SIDE, set_drawing};
use lean_search::progress::Unwatched;
use lean_search::{NoAnswer, Recipes, Tables, search};

fn kite() -> Piece {
    let full = decode(lean_demo::KITE).unwrap();
    let file = PictureFile::of("kite".into(), lean_demo::KITE_FILE.into(), &full);
    let size = Size { width: Millimetres(210.0), height: Millimetres(297.0) };
    let medium = Medium::Marker;
    let piece = Piece::new(Brief { title: "Kite".into(), medium, ground: ground::usual(medium).id, size });
    piece.apply(set_drawing(&full.reduced(WORKING_SIDE), file).unwrap()).unwrap().0
}

fn pens() -> PaintBox {
    starter(Medium::Marker, 60)
}

fn asked(piece: &Piece, request: Request) -> Piece {
    piece.apply(request.into_command(piece, Some(&pens()), None).unwrap()).unwrap().0
}

fn planned(plan: u8) -> Piece {
    asked(&kite(), Request::PlanValues { plan, keep: Vec::new() })
}

/// The background: the largest shape.
fn background(piece: &Piece) -> ZoneId {
    piece.zones.iter().max_by(|a, b| a.reading.area.total_cmp(&b.reading.area)).unwrap().id
}

/// Share of the borders between shapes, the background left out, over which `apart` holds.
fn share_of_borders(piece: &Piece, apart: impl Fn(ZoneId, ZoneId) -> bool) -> f64 {
    let ground = background(piece);
    let mirrored = alike(piece);
    let (mut all, mut held) = (0.0, 0.0);
    for (a, b, length) in &piece.geometry().borders {
        let (a, b) = (ZoneId(*a), ZoneId(*b));
        // Halves that mirror each other are of one colour: the line parts them.
        if a == ground || b == ground || mirrored.iter().any(|g| g.contains(&a) && g.contains(&b)) {
            continue;
        }
        all += *length as f64;
        held += if apart(a, b) { *length as f64 } else { 0.0 };
    }
    held / all
}

#[test]
fn shapes_are_open_until_they_are_given_a_colour_and_nothing_is_said_of_them() {
    let piece = kite();
    assert!(piece.zones.len() >= 20 && piece.zones.iter().all(|z| z.open));
    let owned = pens();
    let nothing = search(&piece.ask(&owned, vec![piece.own_need()], 2..=3).ask(), &Tables::default(), &Unwatched, &|_| {});
    assert_eq!(nothing, Err(NoAnswer::NoTargets), "an open shape is no target");
    assert!(lean_plan::findings::findings(&piece, &[], &[], None).is_empty(), "nothing is found in open shapes");
    let shape = piece.zones[3].id;
    let given = asked(&piece, Request::Colour { zones: vec![shape], how: Colouring::Typed { text: "38 12 -40".into() }, local: false });
    let zone = given.zone(shape).unwrap();
    assert!(!zone.open && (zone.target.l - 38.0).abs() < 0.5, "all of the colour is taken, its value too: {:?}", zone.target);
    assert_eq!(given.zones.iter().filter(|z| !z.open).count(), 1);
    let bare = asked(&given, Request::LeaveBare { zones: vec![shape], bare: true });
    assert!(!bare.zone(shape).unwrap().open && bare.zone(shape).unwrap().target == bare.ground().lab);
    let again = asked(&bare, Request::LeaveBare { zones: vec![shape], bare: false });
    assert!(again.zone(shape).unwrap().open);
}

#[test]
fn three_plans_keep_neighbours_apart_mirrored_shapes_alike_and_the_ground_flat() {
    let piece = kite();
    let reach = reach_of(&piece, &pens());
    let plans = value_plans(&piece, reach, &[]);
    assert_eq!(plans, value_plans(&piece, reach, &[]), "the same drawing has the same plans");
    assert_eq!(plans.len(), 3);
    let groups = alike(&piece);
    assert!(groups.len() >= 8, "wings, eyes, spots and vanes mirror each other: {}", groups.len());
    for plan in &plans {
        assert!(plan.apart >= 0.9, "{}: {}", plan.words, plan.apart);
        let value = |id: ZoneId| plan.values.iter().find(|v| v.zone == id).map(|v| v.value.0);
        for group in &groups {
            assert!(group.iter().all(|id| value(*id) == value(group[0])), "{}", plan.words);
        }
        let r = reach.unwrap();
        assert!(plan.values.iter().all(|v| (r.darkest..=r.lightest).contains(&v.value.0)), "{}", plan.words);
        let mut levels: Vec<i64> = plan.values.iter().map(|v| (v.value.0 * 10.0).round() as i64).collect();
        levels.sort_unstable();
        levels.dedup();
        assert!((3..=7).contains(&levels.len()), "{}: few values rule: {levels:?}", plan.words);
    }
    let shapes = piece.zones.len();
    assert!(plans[0].values.len() == shapes - 1 && plans[1].values.len() == shapes - 1, "a light ground stays bare");
    assert_eq!(plans[2].values.len(), shapes, "a dark ground is laid");
}

#[test]
fn what_is_kept_stays_and_a_focal_shape_has_the_strongest_contrast() {
    let piece = planned(2);
    let kept = piece.zones[5].id;
    let before = piece.zone(kept).unwrap().target;
    let again = asked(&piece, Request::PlanValues { plan: 1, keep: vec![kept] });
    assert_eq!(again.zone(kept).unwrap().target, before);
    let mut focal = kite();
    let ground = background(&focal);
    let small = focal.zones.iter_mut().filter(|z| z.id != ground).min_by(|a, b| a.reading.area.total_cmp(&b.reading.area)).unwrap();
    small.importance = Importance::Focal;
    let id = small.id;
    let plan = &value_plans(&focal, reach_of(&focal, &pens()), &[])[1];
    let value = |id: ZoneId| plan.values.iter().find(|v| v.zone == id).map_or(focal.ground().lab.value().0, |v| v.value.0);
    let contrast = |id: ZoneId| {
        let borders = focal.geometry().borders.iter().filter(|(a, b, _)| ZoneId(*a) == id || ZoneId(*b) == id);
        borders.map(|(a, b, _)| (value(ZoneId(*a)) - value(ZoneId(*b))).abs()).fold(0.0, f64::max)
    };
    let strongest = focal.zones.iter().filter(|z| z.id != ground).map(|z| contrast(z.id)).fold(0.0, f64::max);
    assert!(contrast(id) >= strongest - 1.0, "{} of {strongest}", contrast(id));
}

fn nine(piece: &Piece) -> Vec<Study> {
    let kinds = StudyKind::usual(piece, 9);
    assert_eq!(kinds.len(), 9);
    make(piece, &pens(), &Tables::default(), &kinds, &Unwatched, &|_| {}).unwrap()
}

#[test]
fn nine_colourings_differ_and_hold_their_values() {
    let piece = planned(2);
    let ground = background(&piece);
    let studies = nine(&piece);
    assert_eq!(studies.len(), 9);
    let area = |id: ZoneId| piece.zone(id).map_or(0.0, |z| z.reading.area);
    let figure: f64 = piece.zones.iter().filter(|z| z.id != ground).map(|z| z.reading.area).sum();
    for (i, a) in studies.iter().enumerate() {
        for b in &studies[..i] {
            let pairs = a.mixes.iter().zip(&b.mixes).filter(|(m, _)| m.zone != ground);
            let apart: f64 = pairs.map(|(m, n)| area(m.zone) * ciede2000(m.mix.lab, n.mix.lab)).sum::<f64>() / figure;
            assert!(apart >= 8.0, "{:?} and {:?} are {apart:.1} apart", a.scheme, b.scheme);
        }
        let given = |id: ZoneId| a.mixes.iter().find(|m| m.zone == id).unwrap().mix.lab;
        let held = share_of_borders(&piece, |x, y| ciede2000(given(x), given(y)) >= 8.0);
        assert!(held >= 0.9, "{:?}: neighbours are apart over {held:.2} of their borders", a.scheme);
    }
}

#[test]
fn a_plan_of_values_can_be_laid_by_a_set_of_nine_pens() {
    let piece = planned(2);
    let owned = pens();
    let found = search(&piece.ask(&owned, vec![piece.own_need()], 9..=9).ask(), &Tables::default(), &Unwatched, &|_| {}).unwrap();
    let set = pigments_of(&owned, &found[0].pigments);
    let technique = technique_of(&piece, &owned, &set);
    let off = mixes(&piece, &Recipes::of(technique.as_ref()));
    let worst = off.iter().map(|m| (m.given.lab.value().0 - m.wanted.lab.value().0).abs()).fold(0.0, f64::max);
    assert!(worst < 1.0, "{worst}");
}

#[test]
fn the_kite_has_the_shapes_of_a_hand_count() {
    // Ground, head, collar; two eyes, two patches, four vanes, six parts of wings, six spots, three ribbons.
    assert_eq!(kite().zones.len(), 26);
}
