//! What readings of one's own paints do: better pigments, strays named, mixes that move, and what to add to a mix that missed.

use lean_colour::difference::ciede2000;
use lean_colour::{Lab, Reflectance};
use lean_media::layering::State;
use lean_media::opaque::OIL;
use lean_media::{GroundId, Medium, Paint, Parts, Pigment, PigmentId, Provenance};
use lean_piece::paint_box::{Dampness, PaintBox, ReadColour, ReadWith, Swatch, SwatchReading, TriedFor, WetPart};
use lean_piece::*;
use lean_plan::mixes::mixes_of;
use lean_plan::paints::correction::correction;
use lean_plan::paints::learned::{before_after, learned, predicted, swatch_of};
use lean_plan::paints::moved::moved;
use lean_plan::paints::trial::trials;

/// Random numbers that are the same every time.
pub(crate) struct Chance(pub(crate) u64);

impl Chance {
    pub(crate) fn uniform(&mut self) -> f64 {
        self.0 = self.0.wrapping_mul(6_364_136_223_846_793_005).wrapping_add(1_442_695_040_888_963_407);
        (self.0 >> 11) as f64 / (1u64 << 53) as f64
    }
}

pub(crate) fn box_of(b: lean_demo::DemoBox) -> PaintBox {
    PaintBox { name: b.name, medium: b.medium, pigments: b.pigments }
}

pub(crate) fn oils() -> PaintBox {
    box_of(lean_demo::oils())
}

/// The painter's own tubes: each off its model by up to a share.
pub(crate) fn own(paint_box: &PaintBox, by: f64, chance: &mut Chance) -> PaintBox {
    let off = |p: &Pigment, chance: &mut Chance| {
        let share = if p.white { 0.02 } else { by };
        let (k, s) = (1.0 + share * (2.0 * chance.uniform() - 1.0), 1.0 + share * (2.0 * chance.uniform() - 1.0));
        Pigment { k: p.k.iter().map(|x| x * k).collect(), s: p.s.iter().map(|x| x * s).collect(), ..p.clone() }
    };
    PaintBox { pigments: paint_box.pigments.iter().map(|p| off(p, chance)).collect(), ..paint_box.clone() }
}

fn reading(swatch: Swatch, of: &Reflectance, with: ReadWith) -> SwatchReading {
    let bands = if with == ReadWith::Meter { of.0.to_vec() } else { Vec::new() };
    SwatchReading {
        swatch,
        seen: ReadColour { lab: of.xyz().lab(), bands },
        state: Dampness::Dry,
        sealed: false,
        with,
        eye: None,
        played: Some(false),
        at: "2026-03-01T10:00:00Z".into(),
        tried_for: None,
        left_out: false,
        note: String::new(),
    }
}

fn piece(paint_box: &PaintBox, chosen: &[&str]) -> Piece {
    let brief = Brief {
        title: "Panel".into(),
        medium: paint_box.medium,
        ground: lean_media::ground::usual(paint_box.medium).id,
        size: Size { width: Millimetres(300.0), height: Millimetres(200.0) },
    };
    let mut piece = Piece::new(brief);
    piece.zones = [(70.0, 4.0, 20.0), (45.0, 20.0, 14.0), (30.0, -2.0, -14.0)]
        .iter()
        .enumerate()
        .map(|(i, (l, a, b))| {
            let lab = Lab::new(*l, *a, *b);
            Zone::read(ZoneId(i as u16 + 1), lean_picture::Reading { area: 0.33, value: lab.value(), lab })
        })
        .collect();
    piece.chosen = ChosenSet { pigments: chosen.iter().map(|id| PigmentId((*id).into())).collect() };
    piece
}

fn white(paint_box: &PaintBox) -> PigmentId {
    paint_box.pigments.iter().find(|p| p.white).unwrap().id.clone()
}

fn ids(paint_box: &PaintBox, count: usize) -> Vec<&str> {
    paint_box.pigments.iter().filter(|p| !p.white).take(count).map(|p| p.id.0.as_str()).collect()
}

#[test]
fn a_box_learns_and_says_where_every_number_comes_from() {
    let paint_box = oils();
    let mut chance = Chance(11);
    let true_box = own(&paint_box, 0.25, &mut chance);
    let mut kept = Vec::new();
    for p in paint_box.pigments.iter().filter(|p| !p.white).take(4) {
        for white in [0.0, 4.0, 12.0] {
            let swatch = swatch_of(&paint_box, p, Parts(white)).unwrap();
            let of = predicted(&true_box, &swatch, State::Dry).unwrap();
            kept.push((kept.len() as i64 + 1, reading(swatch, &of, if white > 5.0 { ReadWith::Photo } else { ReadWith::Meter })));
        }
    }
    let typed = &paint_box.pigments.iter().filter(|p| !p.white).nth(5).unwrap();
    let swatch = swatch_of(&paint_box, typed, Parts(2.0)).unwrap();
    let of = predicted(&true_box, &swatch, State::Dry).unwrap();
    kept.push((40, reading(swatch, &of, ReadWith::Typed)));
    let got = learned(&paint_box, &kept).unwrap();
    assert!(got.strays.is_empty(), "{:?}", got.strays);
    let of = |id: &PigmentId| got.paint_box.find(id).unwrap();
    for (n, p) in paint_box.pigments.iter().filter(|p| !p.white).enumerate() {
        let learned = of(&p.id);
        let expected = match n {
            ..=3 => Provenance::Measured,
            5 => Provenance::Inferred,
            _ => Provenance::Modelled,
        };
        assert_eq!(learned.provenance, expected, "{}", p.id);
        assert_eq!(learned.model.is_some(), expected != Provenance::Modelled);
        if n < 4 {
            let tint = swatch_of(&paint_box, p, Parts(7.0)).unwrap();
            let colour = |b: &PaintBox| predicted(b, &tint, State::Dry).unwrap().xyz().lab();
            let (was, is) = (ciede2000(colour(&paint_box), colour(&true_box)), ciede2000(colour(&got.paint_box), colour(&true_box)));
            assert!(is <= 0.5 * was + 0.3, "{}: {was:.2} became {is:.2}", p.id);
            assert!(learned.doubt.unwrap() < 3.0);
        }
    }
    assert_eq!(
        before_after(&got.paint_box).len(),
        5 + usize::from(of(&white(&paint_box)).model.is_some()),
        "what changed is shown side by side"
    );
    // Learning is from the model each time: the same readings again change nothing, and without them all is as it was.
    assert_eq!(learned(&got.paint_box, &kept).unwrap().paint_box, got.paint_box);
    assert_eq!(learned(&got.paint_box, &[]).unwrap().paint_box, paint_box);
    // What one more reading would teach is of pigments that are still doubted.
    let first = &got.teaches[0];
    assert!(first.then < first.now && first.words.contains("uncertainty"), "{first:?}");
    assert!(got.teaches.iter().all(|t| of(&t.pigment).provenance != Provenance::Measured || t.now >= 0.8));
}

#[test]
fn a_stray_is_named_and_what_is_left_out_damp_or_varnished_teaches_nothing() {
    let paint_box = oils();
    let p = paint_box.pigments.iter().find(|p| !p.white).unwrap();
    let good = |white: f64| {
        let swatch = swatch_of(&paint_box, p, Parts(white)).unwrap();
        let of = predicted(&paint_box, &swatch, State::Dry).unwrap();
        reading(swatch, &of, ReadWith::Meter)
    };
    let wrong = reading(swatch_of(&paint_box, p, Parts(6.0)).unwrap(), &Reflectance::flat(0.04), ReadWith::Meter);
    let mut kept: Vec<(i64, SwatchReading)> = [0.0, 1.0, 3.0, 8.0, 16.0].iter().enumerate().map(|(i, w)| (i as i64, good(*w))).collect();
    kept.push((9, wrong.clone()));
    let got = learned(&paint_box, &kept).unwrap();
    assert_eq!(got.strays.len(), 1);
    assert!(got.strays[0].reading == 9 && got.strays[0].words.contains("Smeared"), "{:?}", got.strays);
    for change in [
        |r: &mut SwatchReading| r.left_out = true,
        |r: &mut SwatchReading| r.sealed = true,
        |r: &mut SwatchReading| r.state = Dampness::Damp,
        |r: &mut SwatchReading| r.swatch.parts[0].pigment = "gone".into(),
        |r: &mut SwatchReading| r.swatch.ground = GroundId("gone".into()),
    ] {
        let mut out = wrong.clone();
        change(&mut out);
        assert_eq!(learned(&paint_box, &[(1, out)]).unwrap().paint_box, paint_box);
    }
    let one = PaintBox { pigments: vec![p.clone()], ..paint_box.clone() };
    assert!(learned(&one, &kept[..1]).is_ok(), "a Box of one pigment, without white");
}

#[test]
fn a_piece_says_how_its_mixes_moved() {
    let paint_box = oils();
    let piece = piece(&paint_box, &ids(&paint_box, 4));
    assert_eq!(moved(&piece, &paint_box, &paint_box), None);
    let mut darker = paint_box.clone();
    let used = mixes_of(&piece, Some(&paint_box))[0].mix.parts.iter().find(|p| p.pigment != white(&paint_box)).unwrap().pigment.clone();
    darker.pigments.iter_mut().filter(|p| p.id == used).for_each(|p| p.k.iter_mut().for_each(|k| *k *= 2.0));
    let m = moved(&piece, &paint_box, &darker).expect("twice as strong is seen");
    assert!(m.most > 1.0 && m.zones.contains(&ZoneId(1)) && m.words.contains("of 3 mixes moved") && m.words.contains("darker"), "{m:?}");
}

fn paint(paint_box: &PaintBox, parts: &[WetPart]) -> Lab {
    let of: Vec<(&Pigment, Parts)> = parts.iter().map(|p| (paint_box.find(&p.pigment).unwrap(), Parts(p.parts))).collect();
    Paint::mixed(&of).unwrap().opaque(OIL).xyz().lab()
}

#[test]
fn from_200_misses_the_advised_additions_come_within_the_visible() {
    let paint_box = oils();
    let (set, white) = (ids(&paint_box, 6), white(&paint_box).0);
    let piece = piece(&paint_box, &set);
    let (mut mended, mut tried) = (0, 0);
    let mut chance = Chance(5);
    while tried < 200 {
        // Somebody aims at a mix that can be had, and is off by a hand's slip and more in every amount.
        let of: Vec<&str> = (0..2).map(|_| set[(chance.uniform() * set.len() as f64) as usize]).chain([white.as_str()]).collect();
        if of[0] == of[1] {
            continue;
        }
        let aimed: Vec<WetPart> =
            of.iter().map(|id| WetPart { pigment: (*id).into(), parts: (1.0 + 7.0 * chance.uniform()).round() }).collect();
        let own = own(&paint_box, 0.1, &mut chance);
        let wanted = paint(&own, &aimed);
        let mut heap: Vec<WetPart> =
            aimed.iter().map(|p| WetPart { parts: p.parts * (0.5 + 1.2 * chance.uniform()), ..p.clone() }).collect();
        if ciede2000(paint(&own, &heap), wanted) < 3.0 {
            continue;
        }
        tried += 1;
        for _ in 0..2 {
            let swatch = Swatch { ground: GroundId("panel-white".into()), parts: heap.clone(), layers: Vec::new() };
            let advice = correction(&piece, &paint_box, &swatch, paint(&own, &heap), wanted);
            for add in advice.add {
                match heap.iter_mut().find(|p| p.pigment == add.pigment) {
                    Some(there) => there.parts += add.parts,
                    None => heap.push(add),
                }
            }
        }
        mended += usize::from(ciede2000(paint(&own, &heap), wanted) <= 2.0);
    }
    println!("{mended} of {tried} mended in at most two steps");
    assert!(mended >= 180, "{mended} of {tried}");
}

#[test]
fn what_is_near_is_left_and_what_cannot_be_mended_is_begun_anew() {
    let paint_box = oils();
    let piece = piece(&paint_box, &ids(&paint_box, 6));
    let parts = |of: &[(&str, f64)]| Swatch {
        ground: GroundId("panel-white".into()),
        parts: of.iter().map(|(id, n)| WetPart { pigment: (*id).into(), parts: *n }).collect(),
        layers: Vec::new(),
    };
    let value = |p: &&Pigment| Paint::mixed(&[(*p, Parts(1.0))]).unwrap().opaque(OIL).xyz().y;
    let black = paint_box.pigments.iter().min_by(|a, b| value(a).total_cmp(&value(b))).unwrap().id.0.clone();
    let dark = parts(&[(&black, 8.0)]);
    let seen = paint(&paint_box, &dark.parts);
    assert_eq!(correction(&piece, &paint_box, &dark, seen, seen).words, "Near enough: leave it.");
    let pale = correction(&piece, &paint_box, &dark, seen, Lab::new(92.0, 0.0, 4.0));
    assert!(pale.anew.as_ref().is_some_and(|a| !a.is_empty()), "{pale:?}");
    let white = parts(&[(&white(&paint_box).0, 4.0)]);
    let little = correction(&piece, &paint_box, &white, paint(&paint_box, &white.parts), Lab::new(80.0, 4.0, 22.0));
    assert!(little.words.starts_with("Add ") && little.anew.is_none() && little.difference < 6.0, "{little:?}");
}

#[test]
fn in_layers_something_is_laid_over_and_a_wet_wash_is_judged_by_what_it_dries_to() {
    let pans = box_of(lean_demo::pans());
    let piece = piece(&pans, &ids(&pans, 5));
    let p = pans.pigments.iter().find(|p| !p.white).unwrap();
    let swatch = swatch_of(&pans, p, Parts(0.0)).unwrap();
    let at = |s: State| predicted(&pans, &swatch, s).unwrap();
    let wet = SwatchReading { state: Dampness::Wet, ..reading(swatch.clone(), &at(State::Wet), ReadWith::Meter) };
    let dry = at(State::Dry).xyz().lab();
    let judged = trials(&piece, &pans, dry, None, &[(1, wet.clone())]);
    assert!(judged.trials[0].dries_to && judged.trials[0].difference < 0.1, "{:?}", judged.trials);
    // What another of the pans, laid over it, would give.
    let over = swatch_of(&pans, pans.find(&piece.chosen.pigments[3]).unwrap(), Parts(0.0)).unwrap();
    let both = Swatch { layers: [swatch.layers.clone(), over.layers].concat(), ..swatch.clone() };
    let darker = predicted(&pans, &both, State::Dry).unwrap().xyz().lab();
    let mut dry_one = reading(swatch.clone(), &at(State::Dry), ReadWith::Typed);
    dry_one.tried_for = Some(TriedFor { piece: 1, zone: Some(ZoneId(1)), cell: None });
    let two = trials(&piece, &pans, darker, None, &[(1, wet), (2, dry_one)]);
    assert_eq!(two.trials[1].went, "no nearer");
    let advice = two.correction.unwrap();
    assert_eq!(two.next.unwrap().layers, [swatch.layers.clone(), advice.over.clone()].concat(), "the next begins with what lies there");
    let first = trials(&piece, &pans, darker, None, &[]);
    assert!(first.trials.is_empty() && !first.next.unwrap().layers.is_empty(), "the first begins with the nearest recipe");
    assert!(advice.words.starts_with("Lay over it: ") && advice.difference < two.trials[1].difference, "{advice:?}");
    assert_eq!(pans.medium, Medium::Watercolour);
}
