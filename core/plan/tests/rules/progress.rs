//! Photos of painted stages: painted by the same physics, seen askew, in tinted uneven light and with noise.

use crate::made_up::{grid, paint_box, with_set};
use lean_colour::Lab;
use lean_colour::screen::{LINEAR, grey_byte};
use lean_media::Medium;
use lean_picture::Picture;
use lean_picture::paint::Fill;
use lean_picture::painted::{Hand, Painting, painted};
use lean_piece::easel::*;
use lean_piece::*;
use lean_plan::progress::{Progress, compared, gain};
use lean_plan::stages::{StageLook, at_the_easel};
use std::collections::BTreeMap;

/// Numbers by chance, the same every time.
struct Chance(u64);

impl Chance {
    fn of(&mut self, from: f64, to: f64) -> f64 {
        self.0 = self.0.wrapping_mul(6364136223846793005).wrapping_add(1442695040888963407);
        from + (to - from) * ((self.0 >> 33) as f64 / f64::from(u32::MAX >> 1))
    }
}

/// A piece of twelve zones with roofs, walls and a sky, in a medium.
fn yard(medium: Medium) -> Piece {
    let colours: Vec<Lab> = [
        (86.0, -2.0, -8.0),
        (84.0, 0.0, 4.0),
        (70.0, 4.0, 18.0),
        (58.0, 20.0, 24.0),
        (40.0, 12.0, 10.0),
        (66.0, -6.0, -12.0),
        (50.0, -8.0, 18.0),
        (34.0, -6.0, 8.0),
        (24.0, 2.0, -6.0),
        (76.0, 2.0, 12.0),
        (46.0, 4.0, -16.0),
        (30.0, 18.0, 12.0),
    ]
    .iter()
    .map(|(l, a, b)| Lab::new(*l, *a, *b))
    .collect();
    let mut piece = with_set(grid(medium, &colours, 4, 45), 5).0;
    piece.zones[3].name = "roof".into();
    piece.zones[3].importance = Importance::Focal;
    piece.zones[7].name = "tree".into();
    piece.zones[2].reading.area = 0.04;
    piece.zones[9].reading.area = 0.04;
    piece
}

fn hand(medium: Medium) -> Hand {
    match medium {
        Medium::SoftPastel => Hand::Pastel,
        Medium::Pencil => Hand::Pencil,
        Medium::Watercolour => Hand::Wash,
        Medium::Marker => Hand::Ink,
        Medium::Oil => Hand::Dabs,
    }
}

/// A look painted in the hand of its medium, with colours changed where `change` says.
fn paint_it(piece: &Piece, look: &StageLook, change: &dyn Fn(ZoneId, Lab) -> Option<Lab>, seed: u32) -> Picture {
    let fills: BTreeMap<u16, Fill> = look
        .zones
        .iter()
        .filter(|z| !z.bare)
        .filter_map(|z| Some((z.zone.0, Fill { lab: change(z.zone, z.mark.lab)?, to: None })))
        .collect();
    let painting = Painting { hand: hand(piece.brief.medium), brush: 6.0, seed };
    painted(piece.map().unwrap(), &fills, look.ground.lab, 480, painting)
}

/// A photo of a painting: on a grey table, askew, in warm light falling off to one side, with noise. `turned` by quarter turns.
fn photograph(painting: &Picture, chance: &mut Chance, turned: usize) -> Picture {
    let (w, h) = (600u32, 600u32);
    let proportion = f64::from(painting.width) / f64::from(painting.height);
    let size = chance.of(0.66, 0.8);
    let (pw, ph) = if proportion > 1.0 { (size, size / proportion) } else { (size * proportion, size) };
    let (x, y) = (chance.of(0.06, 0.94 - pw), chance.of(0.06, 0.94 - ph));
    let mut tilt = || chance.of(-0.025, 0.025);
    let upright = [(x, y), (x + pw, y), (x + pw, y + ph), (x, y + ph)].map(|(x, y)| (x + tilt(), y + tilt()));
    let gain = [chance.of(0.7, 0.9), chance.of(0.65, 0.8), chance.of(0.5, 0.7)];
    let slope = (chance.of(-0.2, 0.2), chance.of(-0.2, 0.2));
    // From the photo to the painting: the inverse projection.
    let corners: [(f64, f64); 4] = std::array::from_fn(|i| upright[(i + turned) % 4]);
    let back = lean_picture::projection::projection(&corners, &[(0.0, 0.0), (1.0, 0.0), (1.0, 1.0), (0.0, 1.0)]).unwrap();
    let mut rgb = Vec::with_capacity((w * h * 3) as usize);
    for py in 0..h {
        for px in 0..w {
            let (u, v) = ((f64::from(px) + 0.5) / f64::from(w), (f64::from(py) + 0.5) / f64::from(h));
            let (sx, sy) = back.at(u, v);
            let inside = (0.0..1.0).contains(&sx) && (0.0..1.0).contains(&sy);
            let base = if inside {
                painting.at((sx * f64::from(painting.width)) as u32, (sy * f64::from(painting.height)) as u32)
            } else {
                [96, 90, 84]
            };
            let light = (slope.0 * (u - 0.5) + slope.1 * (v - 0.5)).exp();
            for c in 0..3 {
                let noise = chance.of(-0.012, 0.012);
                rgb.push(grey_byte((LINEAR[usize::from(base[c])] * gain[c] * light + noise).clamp(0.0, 1.0)));
            }
        }
    }
    Picture { width: w, height: h, rgb }
}

fn about() -> ProgressPhoto {
    let at = "2025-03-01T10:00".into();
    ProgressPhoto { digest: "d".into(), file_name: "p.jpg".into(), width: 600, height: 600, at, corners: None, card: None, stage: None }
}

fn looks(piece: &Piece) -> Vec<StageLook> {
    at_the_easel(piece, &paint_box(piece.brief.medium), "2025-03-01T10:00".parse().unwrap()).unwrap().unwrap().looks
}

fn judged(piece: &Piece, photo: &Picture) -> Result<Progress, String> {
    compared(piece, &paint_box(piece.brief.medium), photo, &about())
}

#[test]
fn stages_are_recognised_planted_misses_found_and_sound_ones_left_alone() {
    let (mut right, mut stages, mut found, mut planted, mut alarms, mut sound) = (0, 0, 0, 0, 0, 0);
    let mut chance = Chance(7);
    for medium in [Medium::Oil, Medium::Watercolour, Medium::SoftPastel, Medium::Marker] {
        let piece = yard(medium);
        for look in looks(&piece).iter().filter(|l| l.stage >= Some(Stage::BigShapes)) {
            for seed in 0..4u32 {
                let laid: Vec<ZoneId> = look.zones.iter().filter(|z| !z.bare).map(|z| z.zone).collect();
                // One zone 0.6 of a step too dark, on every second photo; the other photo is sound.
                let wrong = (seed % 2 == 1).then(|| laid[(chance.of(0.0, laid.len() as f64 - 0.01)) as usize]);
                let darker = |z: ZoneId, lab: Lab| {
                    let off = if wrong == Some(z) { 0.6 } else { 0.0 };
                    Some(lean_colour::moves::with_value(lab, lean_colour::Value((lab.value().0 - off).max(0.2))))
                };
                let photo = photograph(&paint_it(&piece, look, &darker, seed), &mut chance, 0);
                let p = judged(&piece, &photo).unwrap_or_else(|e| panic!("{medium:?} {:?}: {e}", look.stage));
                stages += 1;
                right += usize::from(p.stage == look.stage);
                if p.stage != look.stage {
                    println!("{medium:?} {:?} taken for {:?}", look.stage, p.stage);
                    continue;
                }
                for z in &p.zones {
                    if wrong == Some(z.zone) {
                        planted += 1;
                        found += usize::from(z.off);
                        if !z.off {
                            println!("{medium:?} {:?}: missed {:?} {} for {}", look.stage, z.zone, z.read.value.0, z.wanted.value.0);
                        }
                    } else {
                        sound += 1;
                        alarms += usize::from(z.off);
                        if z.off {
                            println!("{} {:?}", p.fit, p.corners);
                            println!(
                                "{medium:?} {:?}: alarm {:?} {} for {}: {}",
                                look.stage, z.zone, z.read.value.0, z.wanted.value.0, z.sentence
                            );
                        }
                    }
                }
            }
        }
    }
    println!("{right} of {stages} stages, {found} of {planted} misses, {alarms} alarms on {sound}");
    assert!(right * 20 >= stages * 19, "{right} of {stages} stages recognised");
    assert!(found * 20 >= planted * 19, "{found} of {planted} planted misses found");
    assert_eq!(alarms, 0, "alarms on {sound} sound zones");
}

/// A photo as a phone makes it: light raised to a power about middle grey.
fn as_a_phone(photo: &Picture, power: f64) -> Picture {
    let steeper = |b: &u8| grey_byte((0.18 * (LINEAR[usize::from(*b)] / 0.18).powf(power)).clamp(0.0, 1.0));
    Picture { rgb: photo.rgb.iter().map(steeper).collect(), ..photo.clone() }
}

#[test]
fn the_curve_of_a_phone_is_recognised_and_a_zone_that_is_off_still_found() {
    let piece = yard(Medium::Oil);
    let look = looks(&piece).pop().unwrap();
    let mut chance = Chance(11);
    for seed in 0..5u32 {
        let sound = as_a_phone(&photograph(&paint_it(&piece, &look, &|_, lab| Some(lab), seed), &mut chance, 0), 1.25);
        let p = judged(&piece, &sound).unwrap();
        let off: Vec<_> = p.zones.iter().filter(|z| z.off).map(|z| (z.zone, &z.sentence)).collect();
        assert!(off.is_empty() && p.words.contains("contrast"), "{seed}: {} {off:?}", p.words);
        let wrong = ZoneId(4 + seed as u16);
        let darker = |z: ZoneId, lab: Lab| {
            let off = if z == wrong { 0.8 } else { 0.0 };
            Some(lean_colour::moves::with_value(lab, lean_colour::Value((lab.value().0 - off).max(0.2))))
        };
        let photo = as_a_phone(&photograph(&paint_it(&piece, &look, &darker, seed), &mut chance, 0), 1.25);
        let p = judged(&piece, &photo).unwrap();
        assert!(p.zones.iter().any(|z| z.zone == wrong && z.off), "{seed}: {wrong:?}");
    }
}

#[test]
fn a_forgotten_zone_a_turned_relation_and_what_to_do_next_are_told() {
    let piece = yard(Medium::Oil);
    let look = looks(&piece).pop().unwrap();
    let mut chance = Chance(3);
    // The roof is left bare, and the tree, darker than what is round it, is far too light.
    let change = |z: ZoneId, lab: Lab| match z.0 {
        4 => None,
        8 => Some(Lab::new(72.0, lab.a, lab.b)),
        _ => Some(lab),
    };
    let p = judged(&piece, &photograph(&paint_it(&piece, &look, &change, 1), &mut chance, 0)).unwrap();
    let all = format!("{:?} {:?}", p.relations, p.next);
    assert!(all.contains("Roof is still bare ground"), "{all}");
    assert!(all.contains("Darken tree by"), "{all}");
    assert!(p.relations.iter().any(|r| r.starts_with("Tree is")), "{all}");
}

#[test]
fn a_photo_upside_down_is_turned_and_others_are_refused_calmly() {
    let piece = yard(Medium::SoftPastel);
    let look = looks(&piece).pop().unwrap();
    let mut chance = Chance(11);
    let plain = |_: ZoneId, lab: Lab| Some(lab);
    let painting = paint_it(&piece, &look, &plain, 1);
    let p = judged(&piece, &photograph(&painting, &mut chance, 2)).unwrap();
    assert!(p.words.contains("turned the right way up"), "{}", p.words);
    let off: Vec<_> = p.zones.iter().filter(|z| z.off).map(|z| (z.zone, z.sentence.clone())).collect();
    assert_eq!(off, [], "{:?}", p.corners);
    // Another picture: the same colours, elsewhere.
    let other = grid(Medium::SoftPastel, &piece.zones.iter().rev().map(|z| z.target).collect::<Vec<_>>(), 3, 45);
    let fills: BTreeMap<u16, Fill> = other.zones.iter().map(|z| (z.id.0, Fill { lab: z.target, to: None })).collect();
    let stripes = painted(other.map().unwrap(), &fills, look.ground.lab, 480, Painting { hand: Hand::Dabs, brush: 6.0, seed: 1 });
    let noise = Picture { width: 300, height: 200, rgb: (0..180_000).map(|_| chance.of(60.0, 200.0) as u8).collect() };
    for (photo, says) in [(noise, "by hand"), (Picture { width: 90, height: 60, rgb: vec![2; 16_200] }, "daylight")] {
        let refused = judged(&piece, &photo).unwrap_err();
        assert!(refused.contains(says), "{refused}");
    }
    let refused = judged(&piece, &photograph(&stripes, &mut chance, 0));
    assert!(refused.is_err() || refused.as_ref().is_ok_and(|p| p.zones.iter().filter(|z| z.off).count() > 6), "{refused:?}");
    // Corners set on top of each other.
    let spot = lean_picture::spot::Spot { x: 0.5, y: 0.5 };
    let flat = ProgressPhoto { corners: Some([spot; 4]), ..about() };
    assert!(compared(&piece, &paint_box(Medium::SoftPastel), &painting, &flat).unwrap_err().contains("corner"));
}

#[test]
fn finishing_checks_ask_about_a_rough_passage_and_a_rim() {
    let mut piece = yard(Medium::Oil);
    let look = looks(&piece).pop().unwrap();
    piece.easel.done = Vec::new();
    let mut chance = Chance(5);
    let plain = |_: ZoneId, lab: Lab| Some(lab);
    let sound = judged(&piece, &photograph(&paint_it(&piece, &look, &plain, 1), &mut chance, 0)).unwrap();
    assert_eq!(sound.stage, look.stage);
    assert!(sound.finishing.len() >= 3 && sound.finishing.iter().all(|c| c.sound), "{:?}", sound.finishing);
    assert!(gain(0.5, 0.49).contains("stop") && gain(0.5, 0.3).contains("Nearer") && gain(0.3, 0.5).contains("farther"));
    // The roof in strokes of light and dark.
    let mut rough = paint_it(&piece, &look, &plain, 1);
    for y in 0..rough.height {
        for x in 0..rough.width {
            let cell = (f64::from(x) / f64::from(rough.width) * 4.0) as u32 + (f64::from(y) / f64::from(rough.height) * 3.0) as u32 * 4;
            if cell == 3 && (x / 5 + y / 7) % 2 == 0 {
                let i = (y * rough.width + x) as usize * 3;
                (0..3).for_each(|c| {
                    rough.rgb[i + c] = rough.rgb[i + c].saturating_add(if (x / 5) % 2 == 0 { 70 } else { 0 }).saturating_sub(35)
                });
            }
        }
    }
    let told = judged(&piece, &photograph(&rough, &mut chance, 0)).unwrap();
    assert!(told.finishing.iter().any(|c| !c.sound && c.words.contains("rougher")), "{:?}", told.finishing);
}
