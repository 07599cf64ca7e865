//! What a plan of colours and places promises, on made-up pictures.

use lean_colour::{Lab, Share, screen};
use lean_picture::places::{LARGEST, Laid, MIDDLE, SMALLEST, Survey};
use lean_picture::zone_map::parts::Parts;
use lean_picture::{KeptMap, Picture, ZoneMap, readings};
use proptest::prelude::*;
use std::collections::BTreeSet;

const SIDE: u32 = 1024;
const DOWN: u32 = 700;

/// A picture of the size of the grid, so that a pixel is a cell.
fn picture(colour: impl Fn(f64, f64) -> Lab) -> Picture {
    let mut seed = 7u32;
    let mut rgb = Vec::new();
    for y in 0..DOWN {
        for x in 0..SIDE {
            let c = colour(f64::from(x), f64::from(y)).xyz().srgb();
            // Film grain, the same every time.
            seed = seed.wrapping_mul(1_664_525).wrapping_add(1_013_904_223);
            let grain = (seed >> 24) as i32 % 7 - 3;
            rgb.extend([c.r, c.g, c.b].map(|b| (i32::from(b) + grain).clamp(0, 255) as u8));
        }
    }
    Picture { width: SIDE, height: DOWN, rgb }
}

fn grey(l: f64) -> Lab {
    Lab::new(l, 0.0, 0.0)
}

fn within(x: f64, y: f64, (cx, cy): (f64, f64), r: f64) -> bool {
    (x - cx).hypot(y - cy) < r
}

fn laid(survey: &Survey, colours: usize, brush: f64) -> (Vec<Laid>, ZoneMap) {
    let (shades, _) = survey.palette(colours);
    let map = survey.lay(&shades, Share(brush));
    (shades, map)
}

fn colours_of(picture: &Picture, survey: &Survey, shades: &[Laid]) -> Vec<Lab> {
    readings::read(picture, &survey.colour_map(shades)).into_values().map(|r| r.lab).collect()
}

/// Cells of the smallest place a brush leaves: a round mark.
fn mark(brush: f64) -> f64 {
    std::f64::consts::FRAC_PI_4 * (brush * f64::from(SIDE)).powi(2)
}

fn all_as_large_as(map: &ZoneMap, brush: f64) -> bool {
    Parts::of(map).all.iter().all(|p| f64::from(p.cells) >= mark(brush).floor())
}

fn smaller_than(map: &ZoneMap, brush: f64) -> usize {
    Parts::of(map).all.iter().filter(|p| f64::from(p.cells) < mark(brush).floor()).count()
}

/// A street at evening: sky that pales downwards, a dark house, a lit wall, ground, a lamp, a pole.
fn street() -> Picture {
    picture(|x, y| match () {
        () if within(x, y, (700.0, 260.0), 20.0) => Lab::new(82.0, 4.0, 62.0),
        () if (880.0..894.0).contains(&x) && (90.0..560.0).contains(&y) => Lab::new(18.0, 0.0, 2.0),
        () if (560.0..820.0).contains(&x) && (180.0..520.0).contains(&y) => Lab::new(28.0, 3.0, -6.0),
        () if (300.0..560.0).contains(&x) && (180.0..520.0).contains(&y) => Lab::new(62.0, 22.0, 30.0),
        () if y > 520.0 => Lab::new(48.0 + 4.0 * ((x / 9.0).sin() * (y / 7.0).cos()), 2.0, 9.0),
        () => Lab::new(58.0 + 24.0 * y / 520.0, -2.0, -14.0 + 8.0 * y / 520.0),
    })
}

#[test]
fn an_accent_gets_a_colour_before_a_large_shape_gets_its_second_shade() {
    // Two shades of one wall, and a red spot a little larger than the middle brush.
    let p = picture(|x, y| match () {
        () if within(x, y, (300.0, 350.0), 17.0) => Lab::new(45.0, 60.0, 40.0),
        () if x > 560.0 => grey(70.0),
        () => grey(62.0),
    });
    let survey = Survey::of(&p);
    let (shades, map) = laid(&survey, 2, MIDDLE);
    let found = colours_of(&p, &survey, &shades);
    assert_eq!(found.len(), 2);
    assert!(found.iter().any(|c| c.a > 30.0), "the red is one of two colours: {found:?}");
    assert_eq!(map.at(300, 350), map.zones().into_iter().find(|z| *z != map.at(10, 10)).unwrap());
    // With one colour more the wall gets its second shade.
    let (_, map) = laid(&survey, 3, MIDDLE);
    assert_eq!(BTreeSet::from([map.at(300, 350), map.at(100, 100), map.at(900, 100)]).len(), 3);
}

#[test]
fn a_smooth_gradient_is_one_graded_zone_without_bands() {
    let p = street();
    let survey = Survey::of(&p);
    let (shades, map) = laid(&survey, 10, MIDDLE);
    let sky = map.at(100, 20);
    for at in [(40, 300), (100, 500), (980, 40), (980, 400), (500, 100)] {
        assert_eq!(map.at(at.0, at.1), sky, "the sky is one zone at {at:?}");
    }
    let run = survey.grading(&map, &shades, sky).expect("the sky is graded");
    let down = (run.direction - 90.0).abs() < 12.0;
    let (top, foot) = if down { (run.from, run.to) } else { (run.to, run.from) };
    assert!(down || (run.direction - 270.0).abs() < 12.0, "it runs down: {run:?}");
    assert!((top.l - 58.0).abs() < 3.0 && (foot.l - 82.0).abs() < 3.0, "from end to end: {run:?}");
    let wall = map.at(420, 300);
    assert!(survey.grading(&map, &shades, wall).is_none(), "an even wall is not graded");
}

#[test]
fn a_pole_stays_where_the_brush_allows_it_and_is_gone_cleanly_where_not() {
    let p = street();
    let survey = Survey::of(&p);
    // 14 cells wide: at a brush of 20 cells it stays whole, at a tenth of the side no piece of it is left.
    let (_, fine) = laid(&survey, 10, 20.0 / f64::from(SIDE));
    let pole = fine.at(887, 300);
    assert_ne!(pole, fine.at(860, 300));
    for y in (110..510).step_by(20) {
        assert_eq!(fine.at(887, y), pole, "the pole is whole at {y}");
    }
    let (_, coarse) = laid(&survey, 10, LARGEST);
    // At its foot the ground may round off.
    for y in (100..480).step_by(10) {
        assert_eq!(coarse.at(887, y), coarse.at(950, y), "nothing of the pole is left at {y}");
    }
}

#[test]
fn a_light_subject_before_a_light_ground_of_another_hue_is_kept_apart() {
    let p = picture(|x, y| match () {
        () if within(x, y, (500.0, 350.0), 150.0) => Lab::new(84.0, 9.0, 24.0),
        () if y > 600.0 => Lab::new(30.0, 4.0, 8.0),
        () => Lab::new(84.0, -2.0, -8.0),
    });
    let (_, map) = laid(&Survey::of(&p), 3, MIDDLE);
    assert_ne!(map.at(500, 350), map.at(100, 100));
    assert_ne!(map.at(500, 650), map.at(100, 100));
}

#[test]
fn edges_lie_where_the_picture_has_them() {
    // A leaning edge across the picture, sharp but for the grain.
    let edge = |y: f64| 400.0 + 0.35 * y;
    let p = picture(|x, y| if x < edge(y) { Lab::new(75.0, 2.0, 10.0) } else { Lab::new(40.0, -4.0, -12.0) });
    let survey = Survey::of(&p);
    for brush in [SMALLEST, MIDDLE, LARGEST] {
        let (_, map) = laid(&survey, 4, brush);
        for y in (60..DOWN - 60).step_by(4) {
            let zone = map.at(10, y);
            let found = (0..SIDE).find(|x| map.at(*x, y) != zone).unwrap_or(SIDE);
            let off = f64::from(found) - edge(f64::from(y));
            assert!(off.abs() <= 2.5, "at row {y} and brush {brush} the edge is {off:.1} cells off");
        }
    }
}

#[test]
fn grain_makes_no_colours_and_two_flat_halves_make_two() {
    let flat = Survey::of(&picture(|_, _| grey(55.0)));
    assert_eq!(laid(&flat, 10, MIDDLE).1.zones(), [1]);
    let halves = Survey::of(&picture(|x, _| if x < 500.0 { Lab::new(70.0, 5.0, 20.0) } else { Lab::new(35.0, 0.0, -10.0) }));
    assert_eq!(laid(&halves, 10, MIDDLE).1.zones(), [1, 2]);
}

#[test]
fn a_large_brush_leaves_few_big_shapes() {
    let p = picture(|x, y| grey(50.0 + 22.0 * ((x / 31.0).sin() + (y / 23.0).cos() + ((x + y) / 57.0).sin())));
    let survey = Survey::of(&p);
    let (_, map) = laid(&survey, 8, LARGEST);
    assert!(Parts::of(&map).all.len() <= 25);
    let masses = survey.masses();
    let n = masses.zones().len();
    assert!((1..=9).contains(&n) && Parts::of(&masses).all.len() == n, "each mass is in one piece");
}

#[test]
fn turning_the_brush_to_and_fro_is_exact_and_so_is_another_day() {
    let p = street();
    let survey = Survey::of(&p);
    let (shades, before) = laid(&survey, 10, MIDDLE);
    for brush in [LARGEST, SMALLEST, 0.05] {
        survey.lay(&shades, Share(brush));
    }
    assert_eq!(survey.lay(&shades, Share(MIDDLE)), before);
    let again = Survey::of(&p);
    assert_eq!(laid(&again, 10, MIDDLE), (shades, before));
}

#[test]
fn one_thread_and_two_give_the_same() {
    let p = street();
    let on = |threads| {
        let pool = rayon::ThreadPoolBuilder::new().num_threads(threads).build().unwrap();
        pool.install(|| {
            let survey = Survey::of(&p);
            (laid(&survey, 11, MIDDLE), laid(&survey, 5, LARGEST), survey.masses())
        })
    };
    assert!(on(1) == on(2));
}

#[test]
fn one_colour_more_parts_one_zone_and_leaves_the_others() {
    let survey = Survey::of(&street());
    for count in 2..20 {
        let zones = |n: usize| -> Vec<u16> { survey.palette(n).0.iter().map(|s| s.zone).collect() };
        let (few, more) = (zones(count), zones(count + 1));
        let whole = |z: &u16| {
            let parts: BTreeSet<u16> = few.iter().zip(&more).filter(|(f, _)| *f == z).map(|(_, m)| *m).collect();
            parts.len()
        };
        let parted: Vec<usize> = few.iter().collect::<BTreeSet<_>>().into_iter().map(whole).collect();
        let grown = more.iter().collect::<BTreeSet<_>>().len() - few.iter().collect::<BTreeSet<_>>().len();
        assert!(grown <= 1);
        assert_eq!(parted.iter().filter(|n| **n > 1).count(), grown, "{count} colours to {}", count + 1);
    }
}

#[test]
fn nothing_but_grain_and_a_strip_narrower_than_a_mark_have_colours_and_places_too() {
    let mut seed = 5u64;
    let mut noise = |width: u32, height: u32, middle: f64, spread: f64| {
        let rgb = (0..width * height * 3).map(|_| {
            let sum: f64 = (0..4)
                .map(|_| {
                    seed = seed.wrapping_mul(6_364_136_223_846_793_005).wrapping_add(1_442_695_040_888_963_407);
                    (seed >> 33) as f64 / f64::from(1u32 << 31) - 0.5
                })
                .sum();
            (middle + spread * sum).clamp(0.0, 255.0) as u8
        });
        Picture { width, height, rgb: rgb.collect() }
    };
    let pictures = [noise(800, 600, 128.0, 70.0), noise(640, 480, 20.0, 70.0), noise(800, 600, 128.0, 500.0), noise(3, 4000, 128.0, 120.0)];
    for p in pictures {
        let survey = Survey::of(&p);
        let (shades, map) = laid(&survey, 10, MIDDLE);
        let known: BTreeSet<u16> = shades.iter().map(|s| s.zone).collect();
        assert!(!known.is_empty(), "{} by {} has no colour", p.width, p.height);
        assert!(map.labels.iter().all(|l| known.contains(l)), "{} by {}: places without a colour", p.width, p.height);
    }
}

#[test]
fn small_pictures_and_odd_ones_do_not_break_it() {
    for (w, h) in [(1, 1), (2, 1), (1, 9), (5, 4), (900, 3)] {
        let p = Picture { width: w, height: h, rgb: (0..w * h * 3).map(|i| (i * 37) as u8).collect() };
        let survey = Survey::of(&p);
        let (_, map) = laid(&survey, 6, MIDDLE);
        assert_eq!((map.width.max(map.height), map.labels.len() as u32), (1024, map.width * map.height));
        assert!(!map.zones().is_empty() && !survey.masses().zones().is_empty());
    }
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 6, ..ProptestConfig::default() })]

    /// Random soft blobs on a slanted ground, at random brushes.
    #[test]
    fn every_place_is_connected_and_as_large_as_the_brush_or_one_of_few_marks_of_its_tip(
        blobs in prop::collection::vec((0.0f64..1024.0, 0.0f64..700.0, 4.0f64..160.0, 10.0f64..95.0, -40.0f64..40.0, -40.0f64..60.0), 6..28),
        brush in 0.0f64..1.0,
        colours in 3usize..16,
    ) {
        let p = picture(|x, y| {
            let blob = blobs.iter().rev().find(|b| within(x, y, (b.0, b.1), b.2));
            blob.map_or(grey(40.0 + 30.0 * x / 1024.0), |b| Lab::new(b.3, b.4, b.5))
        });
        let brush = SMALLEST * (LARGEST / SMALLEST).powf(brush);
        let survey = Survey::of(&p);
        let (shades, map) = laid(&survey, colours, brush);
        let named: BTreeSet<u16> = shades.iter().map(|s| s.zone).collect();
        prop_assert_eq!(map.labels.len() as u32, SIDE * DOWN);
        prop_assert!(map.labels.iter().all(|l| named.contains(l)), "every cell belongs to one zone");
        prop_assert!(all_as_large_as(&map, brush * 0.5), "nothing is smaller than the tip of the brush");
        prop_assert!(smaller_than(&map, brush) <= 16, "few places are smaller than the brush");
        // What is drawn says the same as the cells.
        let kept = KeptMap::from(map.clone());
        prop_assert_eq!(&kept.geometry().areas, &map.areas());
        // A place given away by hand stays away.
        let hand = ZoneMap { labels: map.labels.iter().map(|l| if *l == map.labels[0] { 99 } else { 0 }).collect(), ..map };
        let mended = survey.under_hand(&map, &hand, Share(brush));
        prop_assert!(all_as_large_as(&mended, brush * 0.5));
        prop_assert!(smaller_than(&mended, brush) <= 16);
        prop_assert_eq!(mended.labels[0], 99);
    }
}

#[test]
fn the_middle_of_a_place_reads_as_its_colour() {
    let p = street();
    let survey = Survey::of(&p);
    let (shades, map) = laid(&survey, 10, MIDDLE);
    let read = readings::read(&p, &survey.colour_map(&shades));
    let wall = &read[&map.at(420, 300)].lab;
    let truth = screen::lab_of_srgb(p.at(420, 300));
    assert!((wall.l - truth.l).abs() < 4.0 && (wall.a - truth.a).abs() < 6.0);
}

/// Fur: brown streaks of many values, with two green eyes and dark pupils, and a row of cushions below.
fn cat() -> Picture {
    const CUSHIONS: [(f64, f64, f64); 7] = [
        (80.0, 1.0, 2.0),
        (68.0, 8.0, 6.0),
        (30.0, 14.0, 8.0),
        (55.0, 2.0, 10.0),
        (25.0, 2.0, 20.0),
        (62.0, 16.0, 12.0),
        (40.0, 12.0, 40.0),
    ];
    picture(|x, y| {
        for cx in [365.0, 655.0] {
            if within(x, y, (cx, 430.0), 9.0) {
                return Lab::new(12.0, 2.0, 4.0);
            }
            if within(x, y, (cx, 430.0), 30.0) {
                return Lab::new(50.0, 2.0, 24.0);
            }
        }
        if y > 560.0 {
            let (l, a, b) = CUSHIONS[(x / 146.5) as usize];
            return Lab::new(l, a, b);
        }
        let streak = ((x / 27.0).sin() + (y / 43.0 + x / 90.0).sin()) * 0.5;
        Lab::new(50.0 + 22.0 * streak, 11.0 + 3.0 * streak, 25.0 + 5.0 * streak)
    })
}

#[test]
fn green_eyes_in_brown_fur_are_green_at_twelve_colours_and_at_ten() {
    let picture = cat();
    let survey = Survey::of(&picture);
    for colours in [10, 12] {
        let (shades, map) = laid(&survey, colours, MIDDLE);
        let read = readings::read(&picture, &survey.colour_map(&shades));
        for x in [345, 385, 635, 675] {
            let at = map.at(x, 430);
            assert!(read[&at].lab.a < 5.0, "{colours} colours: at {x} lies {:?}", read[&at].lab);
        }
    }
}

/// A face before a wall of nearly its colour, hair between them, under a hundred other colours of a busy foreground.
fn portrait() -> Picture {
    picture(|x, y| {
        if y > 500.0 {
            let (i, j) = ((x / 170.0) as i32, (y / 70.0) as i32);
            return Lab::new(f64::from(15 + 9 * ((i * 5 + j * 3) % 9)), f64::from(-30 + 12 * (i % 6)), f64::from(-25 + 11 * (j % 6)));
        }
        match () {
            () if within(x, y, (512.0, 300.0), 110.0) => Lab::new(77.0, 8.0, 13.0),
            () if within(x, y, (512.0, 270.0), 170.0) => Lab::new(33.0, 6.0, 18.0),
            () => Lab::new(80.0, 2.0, 3.0),
        }
    })
}

#[test]
fn a_face_before_a_wall_of_nearly_its_colour_has_its_own() {
    let picture = portrait();
    let survey = Survey::of(&picture);
    let (shades, map) = laid(&survey, 8, MIDDLE);
    let (face, wall) = (map.at(512, 320), map.at(100, 100));
    assert_ne!(face, wall);
    let read = readings::read(&picture, &survey.colour_map(&shades));
    assert!(read[&face].lab.a > read[&wall].lab.a + 4.0, "each is measured by itself");
}

#[test]
fn a_light_smaller_than_the_brush_is_put_in_with_its_tip_but_hair_is_not() {
    let spoon = picture(|x, y| if within(x, y, (512.0, 358.0), 8.0) { grey(96.0) } else { grey(if x > 800.0 { 95.0 } else { 28.0 }) });
    let survey = Survey::of(&spoon);
    let (_, map) = laid(&survey, 6, MIDDLE);
    assert_ne!(map.at(512, 358), map.at(300, 358), "the light on the spoon is there");
    let hair = picture(|x, y| {
        let (u, v) = (x % 46.0 - 23.0, y % 46.0 - 23.0);
        if u.hypot(v) < 8.0 { grey(96.0) } else { grey(if x > 800.0 { 95.0 } else { 28.0 }) }
    });
    let survey = Survey::of(&hair);
    let (_, map) = laid(&survey, 6, MIDDLE);
    assert!(Parts::of(&map).all.len() <= 20, "one of many is not put back: {}", Parts::of(&map).all.len());
}
