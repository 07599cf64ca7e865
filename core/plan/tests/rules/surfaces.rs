//! Surfaces and enlarging: siblings, variation, broken colour, what stays bare; grids and tracings measured.

use crate::made_up::six;
use lean_colour::difference::ciede2000;
use lean_media::Medium;
use lean_picture::Picture;
use lean_piece::*;
use lean_plan::enlarging::{TracedFrom, fitting, pages};
use lean_plan::mixes::mixes_of;
use lean_plan::paper::Item;
use lean_plan::planned::painted_mixes;
use lean_plan::requests::Request;
use lean_plan::surfaces::broken::largest_dab;
use lean_plan::surfaces::reserved::reserved;
use lean_plan::surfaces::siblings::{APART, WITHIN};
use lean_plan::surfaces::{in_use, surfaces};

const ACROSS_A_ROOM: Millimetres = Millimetres(2500.0);

#[test]
fn siblings_are_of_one_value_and_no_two_alike() {
    for medium in Medium::ALL {
        let (piece, b) = six(medium);
        for zone in [3, 4] {
            let s = surfaces(&piece, &b, ZoneId(zone), 4, ACROSS_A_ROOM).unwrap();
            let wanted = piece.wanted(piece.zone(ZoneId(zone)).unwrap()).value().0;
            for (i, a) in s.siblings.iter().enumerate() {
                assert!((a.mark.value.0 - wanted).abs() <= WITHIN + 1e-9, "{medium:?}: {}", a.recipe);
                for other in &s.siblings[i + 1..] {
                    assert!(ciede2000(a.mark.lab, other.mark.lab) >= APART, "{medium:?}: {} and {}", a.recipe, other.recipe);
                }
            }
            if medium == Medium::Oil {
                assert_eq!(s.siblings.len(), 4, "oil mixes anything");
            }
        }
    }
}

#[test]
fn a_varied_zone_holds_the_whole_set_with_one_ruling_or_says_what_it_cannot() {
    let (piece, b) = six(Medium::Oil);
    let s = surfaces(&piece, &b, ZoneId(4), 3, ACROSS_A_ROOM).unwrap();
    let total: f64 = s.variation.iter().map(|m| m.share).sum();
    assert!((total - 1.0).abs() < 1e-9 && s.variation[0].share >= 0.6);
    for id in &piece.chosen.pigments {
        let name = &b.find(id).unwrap().name;
        let held = s.variation.iter().any(|m| m.recipe.contains(name.as_str()));
        assert!(held != s.left_out.contains(id), "{name}: {:?}", s.variation);
    }
    assert!(surfaces(&piece, &b, ZoneId(99), 3, ACROSS_A_ROOM).is_err());
}

#[test]
fn dabs_fuse_to_the_target_by_the_sum_of_their_light() {
    let (piece, b) = six(Medium::Oil);
    let mut seen = 0;
    for z in &piece.zones {
        let Some(broken) = surfaces(&piece, &b, z.id, 2, ACROSS_A_ROOM).unwrap().broken else { continue };
        seen += 1;
        let shares: f64 = broken.dabs.iter().map(|d| d.share).sum();
        assert!((shares - 1.0).abs() < 1e-9 && (2..=3).contains(&broken.dabs.len()));
        let mean = |f: fn(lean_colour::Xyz) -> f64| broken.dabs.iter().map(|d| d.share * f(d.mark.lab.xyz())).sum::<f64>();
        let fused = lean_colour::Xyz { x: mean(|c| c.x), y: mean(|c| c.y), z: mean(|c| c.z) }.lab();
        assert!(ciede2000(fused, broken.fused.lab) < 0.01 && ciede2000(fused, piece.wanted(z)) <= 4.0);
        assert!(broken.dabs.windows(2).all(|d| ciede2000(d[0].mark.lab, d[1].mark.lab) >= 14.0), "dabs differ plainly");
    }
    assert!(seen >= 2, "middle tones can be broken: {seen}");
    // An arc minute and a half at two and a half metres is a little over a millimetre.
    assert!((largest_dab(ACROSS_A_ROOM).0 - 1.09).abs() < 0.01);
    assert!(lean_media::broken::fuses(largest_dab(ACROSS_A_ROOM).0, ACROSS_A_ROOM.0));
}

#[test]
fn bare_paper_is_said_to_be_reserved() {
    let (mut piece, b) = six(Medium::Watercolour);
    piece.zones[0].target = piece.ground().lab;
    let kept = reserved(&piece, &mixes_of(&piece, Some(&b)));
    assert!(kept.iter().any(|r| r.zone == ZoneId(1) && r.words.contains("mask it")), "{kept:?}");
}

#[test]
fn a_grid_has_the_same_squares_on_print_and_piece() {
    let (piece, _) = six(Medium::Oil);
    let print = Size { width: Millimetres(120.0), height: Millimetres(90.0) };
    let g = fitting(&piece, 6, print).unwrap();
    assert_eq!((g.across, g.down), (6, 5));
    assert!((g.on_piece.0 - 40.0).abs() < 1e-9 && (g.on_print.0 - 20.0).abs() < 1e-9);
    assert_eq!(g.lines_across.len(), 5);
    assert!(fitting(&piece, 1, print).is_err() && fitting(&piece, 99, print).is_err());
}

#[test]
fn a_tracing_is_true_in_size_joined_by_crosses_and_goes_round_deep_edges() {
    let (mut piece, _) = six(Medium::Oil);
    piece.brief.size = Size { width: Millimetres(500.0), height: Millimetres(375.0) };
    let sheets = pages(&piece, None, TracedFrom::Outlines, PageFormat::A4, 0).unwrap();
    let (rim, overlap) = (8.0, 8.0);
    // Joined with their overlap the pages hold the whole of it.
    let first = &sheets[0];
    let columns = if first.width > first.height { 2 } else { 3 };
    let inner = (first.width - 2.0 * rim, first.height - 2.0 * rim);
    assert!(columns as f64 * (inner.0 - overlap) + overlap >= 500.0 - 1e-9, "{columns} pages of {}", first.width);
    // The outer frame is as long as the piece is wide, added up over the pages of the first row without their overlap.
    let top = |s: &lean_plan::paper::Sheet| {
        s.marks
            .iter()
            .filter_map(|m| match m {
                Item::Line { ends: [x0, y0, x1, y1], width } if *width == 0.3 && (y0 - rim).abs() < 1e-6 && (y1 - rim).abs() < 1e-6 => {
                    Some((x1 - x0).abs())
                }
                _ => None,
            })
            .sum::<f64>()
    };
    let row: f64 = sheets.iter().take(columns).map(top).sum();
    assert!((row - overlap * (columns - 1) as f64 - 500.0).abs() < 0.01, "{row}");
    let crosses = |s: &lean_plan::paper::Sheet| s.marks.iter().filter(|m| matches!(m, Item::Line { width, .. } if *width == 0.2)).count();
    assert!(sheets.iter().all(|s| crosses(s) >= 4));
    piece.intent.fit.edge = Some(Millimetres(30.0));
    let deep = pages(&piece, None, TracedFrom::Outlines, PageFormat::A3, 4).unwrap();
    let row: f64 = deep.iter().take(2).map(top).sum();
    assert!(row > 540.0, "the edges are part of it: {row}");
    assert!(pages(&piece, None, TracedFrom::Reference, PageFormat::A4, 0).unwrap_err().contains("no reference"));
    piece.brief.size = Size { width: Millimetres(3000.0), height: Millimetres(3000.0) };
    assert!(pages(&piece, None, TracedFrom::Outlines, PageFormat::A5, 0).unwrap_err().contains("larger paper"));
}

#[test]
fn a_surface_that_is_used_is_in_the_plan_and_in_the_work_and_goes_with_its_colour() {
    let (piece, b) = six(Medium::Oil);
    let use_it = |zone: u16, worked| Request::UseSurface { zone: ZoneId(zone), worked, count: 3, distance: Millimetres(4000.0) };
    let done = |piece: &Piece, request: Request| piece.apply(request.into_command(piece, Some(&b), None).unwrap()).unwrap();
    let (zone, broken) = piece
        .zones
        .iter()
        .find_map(|z| Some((z.id, surfaces(&piece, &b, z.id, 2, Millimetres(4000.0)).unwrap().broken?)))
        .expect("a zone that can be broken");
    let (kept, undo) = done(&piece, use_it(zone.0, Worked::Broken));
    let surface = in_use(&kept, zone).expect("it is in use");
    assert_eq!(surface.mixes.len(), broken.dabs.len());
    assert_eq!(kept.take_back(undo).unwrap(), piece, "one step back");

    // The painted plan shows the dabs, and their light adds up to what they fuse to.
    let mixes = mixes_of(&kept, Some(&b));
    let (plain, dabbed) = (painted_mixes(&piece, &mixes, 700).unwrap(), painted_mixes(&kept, &mixes, 700).unwrap());
    let inside = |p: &Picture| -> Vec<[f64; 3]> {
        let map = kept.map().unwrap();
        let at = |x: u32, y: u32| map.at(x * map.width / p.width, y * map.height / p.height);
        (0..p.width * p.height)
            .map(|i| (i % p.width, i / p.width))
            .filter(|(x, y)| at(*x, *y) == zone.0)
            .map(|(x, y)| p.at(x, y).map(|c| lean_colour::screen::LINEAR[usize::from(c)]))
            .collect()
    };
    let mean = |all: &[[f64; 3]]| -> [f64; 3] { std::array::from_fn(|c| all.iter().map(|p| p[c]).sum::<f64>() / all.len() as f64) };
    let spread = |all: &[[f64; 3]]| {
        let m = mean(all);
        all.iter().map(|p| (0..3).map(|c| (p[c] - m[c]).powi(2)).sum::<f64>()).sum::<f64>() / all.len() as f64
    };
    let (flat, dabs) = (inside(&plain), inside(&dabbed));
    let fused = lean_colour::screen::xyz_of_linear(mean(&dabs)).lab();
    assert!(ciede2000(fused, broken.fused.lab) < 3.0, "{fused:?} {:?}", broken.fused.lab);
    assert!(spread(&dabs) > 2.0 * spread(&flat), "the dabs are seen");

    // It is what there is to do, with all its pigments.
    let work = lean_plan::stages::at_the_easel(&kept, &b, "2026-03-02T10:00".parse().unwrap()).unwrap().unwrap();
    let task = work.tasks.iter().find(|t| t.id.zone == Some(zone)).unwrap();
    assert!(task.how.contains("Dabs side by side") && task.how.contains('%'), "{}", task.how);

    // Another colour is another surface; another set waits.
    let moved = Request::SetTarget { zone, target: lean_colour::Lab::new(60.0, 5.0, 5.0) };
    assert!(done(&kept, moved).0.zone(zone).unwrap().surface.is_none());
    let fewer = Request::ChooseSet { pigments: piece.chosen.pigments[1..].to_vec() };
    let other = done(&kept, fewer).0;
    assert!(in_use(&other, zone).is_none() && other.zone(zone).unwrap().surface.is_some());
    let dropped = done(&kept, Request::DropSurface { zone }).0;
    assert!(dropped.zone(zone).unwrap().surface.is_none());
    let far = Request::UseSurface { zone, worked: Worked::Siblings, count: 40, distance: Millimetres(4000.0) };
    assert!(far.into_command(&piece, Some(&b), None).is_err());
}
