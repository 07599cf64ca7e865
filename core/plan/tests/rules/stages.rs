//! Carrying a piece out: tasks in the order of the medium, nothing wet touched, dates, looks on the way, departures.

use crate::made_up::{paint_box, six};
use jiff::civil::DateTime;
use lean_media::Medium;
use lean_piece::easel::*;
use lean_piece::light::{Facts, Role};
use lean_piece::*;
use lean_plan::departures::{as_painted, follows};
use lean_plan::mixes::mixes_of;
use lean_plan::requests::Request;
use lean_plan::stages::{AtTheEasel, at_the_easel, glaze, lay_in};

const NOW: &str = "2025-03-01T10:00";

fn at(piece: &Piece) -> AtTheEasel {
    at_the_easel(piece, &paint_box(piece.brief.medium), NOW.parse().unwrap()).unwrap().unwrap()
}

fn minutes_of(view: &AtTheEasel, task: TaskId) -> (u32, u32) {
    // Minutes from now to the beginning and end of a task, by its day.
    let first: DateTime = NOW.parse().unwrap();
    let mut span = (u32::MAX, 0);
    for s in &view.sessions.sessions {
        let day: jiff::civil::Date = s.on.parse().unwrap();
        let days = first.date().until(day).unwrap().get_days() as u32;
        for slot in s.slots.iter().filter(|slot| slot.task == task) {
            span = (span.0.min(days * 1440 + slot.begins), span.1.max(days * 1440 + slot.begins + slot.minutes));
        }
    }
    span
}

fn zone(stage: Stage, zone: u16, layer: u8) -> TaskId {
    TaskId { stage, zone: Some(ZoneId(zone)), layer }
}

#[test]
fn every_medium_is_carried_out_to_the_end_in_the_planned_mixes() {
    for medium in Medium::ALL {
        let (piece, _) = six(medium);
        let view = at(&piece);
        let zones: std::collections::BTreeSet<_> = view.tasks.iter().filter_map(|t| t.id.zone).collect();
        assert!(zones.len() >= 5, "{medium:?}: {zones:?}");
        let timed: usize = view.sessions.sessions.iter().map(|s| s.slots.len()).sum();
        assert!(timed >= view.tasks.len(), "{medium:?}");
        let mixes = lean_plan::mixes::mixes_of(&piece, Some(&paint_box(medium)));
        for z in &view.looks.last().unwrap().zones {
            let mix = mixes.iter().find(|m| m.zone == z.zone).unwrap();
            assert!((z.mark.lab.l - mix.given.lab.l).abs() < 0.5, "{medium:?} {:?}: {} is not {}", z.zone, z.mark.lab.l, mix.given.lab.l);
        }
        assert!(view.now.zones.iter().all(|z| z.bare), "nothing is done yet");
    }
}

#[test]
fn nothing_wet_is_touched_in_a_watercolour() {
    let (piece, _) = six(Medium::Watercolour);
    let view = at(&piece);
    let borders = &piece.geometry().borders;
    for a in &view.tasks {
        for b in &view.tasks {
            let (Some(x), Some(y)) = (a.id.zone, b.id.zone) else { continue };
            let touch = borders.iter().any(|(p, q, _)| (*p, *q) == (x.0, y.0) || (*q, *p) == (x.0, y.0));
            let (first, second) = (minutes_of(&view, a.id), minutes_of(&view, b.id));
            if touch && first.0 < second.0 {
                assert!(second.0 >= first.1 + a.drying.beside, "{} at {second:?} beside {} at {first:?}", b.title, a.title);
            }
            if x == y && a.id.layer < b.id.layer {
                assert!(second.0 >= first.1 + a.drying.over, "{} over {}", b.title, a.title);
            }
        }
    }
}

#[test]
fn lights_come_last_and_accents_after_the_big_shapes() {
    let (mut piece, _) = six(Medium::Oil);
    piece.zones[0].facts = Facts { role: Some(Role::Highlight), ..Facts::default() };
    piece.easel.drawing.with = DrawnWith::Charcoal;
    let view = at(&piece);
    let light = minutes_of(&view, zone(Stage::Lights, 1, 0));
    for t in view.tasks.iter().filter(|t| t.id.stage < Stage::Lights) {
        assert!(minutes_of(&view, t.id).1 <= light.0, "{}", t.title);
    }
    assert_eq!(view.next, Some(TaskId::whole(Stage::Drawing)));
}

#[test]
fn after_the_big_shapes_the_parts_are_still_bare() {
    let (mut piece, _) = six(Medium::Oil);
    piece.zones[3].reading.area = 0.04;
    let view = at(&piece);
    let big = view.looks.iter().find(|l| l.stage == Some(Stage::BigShapes)).unwrap();
    let bare = |z: u16| big.zones.iter().find(|n| n.zone == ZoneId(z)).unwrap().bare;
    assert!(bare(4) && !bare(1) && !bare(6));
    assert!(view.looks.last().unwrap().zones.iter().all(|z| !z.bare && z.to_come == 0));
}

#[test]
fn what_is_done_is_not_done_again_and_its_drying_is_waited_for() {
    let (mut piece, _) = six(Medium::Watercolour);
    let first = at(&piece).tasks.into_iter().find(|t| t.id.zone.is_some()).unwrap();
    piece.easel.done.push(Done { task: first.id, at: Some("2025-03-01T09:58".into()) });
    let view = at(&piece);
    assert!(view.tasks.iter().any(|t| t.id == first.id && t.done));
    assert_eq!(minutes_of(&view, first.id).1, 0, "it is planned no more");
    let wet = view.wet.iter().find(|w| w.task == first.id).unwrap();
    assert_eq!(wet.over, first.drying.over - 2);
    // Nobody knows when: then it is dry.
    piece.easel.done[0].at = None;
    assert!(at(&piece).wet.is_empty());
}

#[test]
fn a_date_is_counted_back_from_or_said_to_be_impossible() {
    let (mut piece, _) = six(Medium::Oil);
    piece.easel.lay_in = None;
    piece.intent.for_whom = "the neighbours".into();
    piece.intent.due = Some("2025-06-01".into());
    let view = at(&piece);
    let by = view.begin_by.clone().unwrap();
    assert!(view.words.contains("the neighbours") && view.words.contains(&by), "{}", view.words);
    // Begun on that day it is ready on the day itself.
    let late = at_the_easel(&piece, &paint_box(Medium::Oil), format!("{by}T10:00").parse().unwrap()).unwrap().unwrap();
    assert_eq!(late.sessions.finished.as_deref(), Some("2025-06-01"));
    assert_eq!(late.sessions.late_days, 0);
    piece.intent.due = Some("2025-03-02".into());
    let view = at(&piece);
    assert!(view.sessions.late_days > 0 && view.words.contains("cannot be ready"), "{}", view.words);
}

#[test]
fn a_time_limit_leaves_out_what_costs_least_and_says_so() {
    let (mut piece, _) = six(Medium::Watercolour);
    let whole = at(&piece);
    let work: u32 = whole.tasks.iter().map(|t| t.minutes).sum();
    piece.intent.minutes = Some(work * 3 / 4);
    let view = at(&piece);
    let left: u32 = view.tasks.iter().map(|t| t.minutes).sum();
    assert!(left <= work * 3 / 4 && !view.left_out.is_empty());
    assert!(view.left_out.iter().all(|l| !l.costs.is_empty()));
    assert_eq!(left + view.left_out.iter().map(|l| l.minutes).sum::<u32>(), work);
}

#[test]
fn a_longer_session_than_planned_changes_the_plan() {
    let (mut piece, _) = six(Medium::Pencil);
    let view = at(&piece);
    let done: u32 = view.tasks.iter().take(3).map(|t| t.minutes).sum();
    piece.easel.done = view.tasks.iter().take(3).map(|t| Done { task: t.id, at: None }).collect();
    piece.sessions = vec![Session { on: "2025-02-20".into(), minutes: done.max(20) * 2, did: "slow".into(), zones: vec![] }];
    assert!(done >= 30, "the made-up pencil piece is too small to tell: {done} minutes");
    let slower = at(&piece);
    let before: u32 = view.tasks.iter().skip(3).map(|t| t.minutes).sum();
    let after: u32 = slower.tasks.iter().skip(3).map(|t| t.minutes).sum();
    assert!(after as f64 > 1.6 * before as f64, "{before} then {after}");
}

#[test]
fn the_order_of_tones_that_is_said_is_kept_among_neighbours() {
    let (mut piece, _) = six(Medium::Watercolour);
    let value = |z: ZoneId| piece.wanted(piece.zone(z).unwrap()).value().0;
    let view = at(&piece);
    let borders = &piece.geometry().borders;
    let firsts: Vec<TaskId> = view.tasks.iter().map(|t| t.id).filter(|t| t.zone.is_some() && t.layer == 0).collect();
    let mut compared = 0;
    for (a, b) in firsts.iter().flat_map(|a| firsts.iter().map(move |b| (a, b))).filter(|(a, b)| a.stage == b.stage) {
        let (x, y) = (a.zone.unwrap(), b.zone.unwrap());
        let touch = borders.iter().any(|(p, q, _)| (*p, *q) == (x.0, y.0) || (*q, *p) == (x.0, y.0));
        if touch && matches!(a.stage, Stage::BigShapes | Stage::Parts) && value(x) > value(y) {
            compared += 1;
            assert!(minutes_of(&view, *a).0 < minutes_of(&view, *b).0, "light before dark: {a:?} {b:?}");
        }
    }
    assert!(compared > 0, "some neighbours lie in one stage");
    piece.easel.hours.quicker = true;
    assert_eq!(at(&piece).sessions.quicker_by, 0, "nothing is offered that is taken already");
}

#[test]
fn the_painter_puts_one_thing_before_another_but_not_a_layer_under_itself() {
    let (piece, b) = six(Medium::SoftPastel);
    let view = at(&piece);
    let bigs: Vec<TaskId> = view.tasks.iter().filter(|t| t.id.stage == Stage::BigShapes).map(|t| t.id).collect();
    let (first, last) = (bigs[0], bigs[bigs.len() - 1]);
    let command = Request::PutTaskBefore { task: last, before: first }.into_command(&piece, Some(&b), None).unwrap();
    let (moved, _) = piece.apply(command).unwrap();
    let view = at(&moved);
    assert!(minutes_of(&view, last).1 <= minutes_of(&view, first).0);
    let second = view.tasks.iter().find(|t| t.id.layer == 1).expect("a zone has two layers").id;
    let under = view.tasks.iter().find(|t| t.id.zone == second.zone && t.id.layer == 0).unwrap().id;
    let refused = Request::PutTaskBefore { task: second, before: under }.into_command(&piece, Some(&b), None);
    assert!(refused.unwrap_err().to_string().contains("waits for it"));
    let back = Request::UsualOrder.into_command(&moved, Some(&b), None).unwrap();
    assert!(moved.apply(back).unwrap().0.easel.orders.is_empty());
}

#[test]
fn a_zone_that_looks_wrong_on_the_way_is_named_with_what_mends_it() {
    let (mut piece, _) = six(Medium::Oil);
    // A middle grey surrounded by what will be dark: on white ground it looks too dark.
    for (z, l) in piece.zones.iter_mut().zip([20.0, 18.0, 22.0, 20.0, 52.0, 19.0]) {
        z.target = lean_colour::Lab::new(l, 0.0, 0.0);
    }
    let view = at(&piece);
    let order: Vec<TaskId> = view.tasks.iter().map(|t| t.id).collect();
    let five = order.iter().find(|t| t.zone == Some(ZoneId(5))).unwrap();
    let alone = {
        let mut p = piece.clone();
        p.easel.done = vec![Done { task: *five, at: None }];
        at(&p).now
    };
    assert!(alone.wrong.iter().any(|w| w.contains("zone 5") || w.contains("Zone 5")), "{:?}", alone.wrong);
    assert!(alone.wrong[0].contains("too dark until"), "{:?}", alone.wrong);
    let finished = view.looks.last().unwrap();
    assert!(finished.wrong.is_empty(), "{:?}", finished.wrong);
}

#[test]
fn a_lay_in_is_a_value_plan_and_quiet_ones_that_raise_least_come_first() {
    for medium in [Medium::Oil, Medium::Watercolour, Medium::SoftPastel, Medium::Marker] {
        let (piece, b) = six(medium);
        let offers = lay_in::offers(&piece, &b);
        let loud = |o: &lay_in::LayInOffer| o.zones.iter().any(|z| z.mark.lab.chroma() >= 40.0);
        let sorted = |of: &[&lay_in::LayInOffer]| of.windows(2).all(|w| w[0].raises <= w[1].raises);
        let (shouting, quiet): (Vec<_>, Vec<_>) = offers.iter().partition(|o| loud(o));
        assert!(sorted(&quiet) && sorted(&shouting), "{medium:?}");
        assert!(offers.iter().skip(quiet.len()).all(loud), "{medium:?}: a loud one comes before a quiet one");
        for o in &offers {
            let value = |z: ZoneId| piece.wanted(piece.zone(z).unwrap()).value();
            for l in &o.lay_in.levels {
                let sound = |other: &Level| value(other.zone) >= value(l.zone) || other.level >= l.level;
                assert!(o.lay_in.levels.iter().all(sound), "{medium:?}: light under dark");
            }
        }
    }
    let (piece, b) = six(Medium::Oil);
    assert!(!lay_in::offers(&piece, &b).is_empty(), "oil hides a lay-in well");
}

#[test]
fn a_last_layer_draws_together_in_every_medium_and_says_what_it_takes() {
    for medium in Medium::ALL {
        let (piece, b) = six(medium);
        let offers = glaze::offers(&piece, &b);
        assert!(!offers.is_empty(), "{medium:?}");
        for o in &offers {
            assert!(o.unity >= 0.03 && o.value_lost <= 0.6, "{medium:?}: {}", o.words);
            assert_eq!(o.zones.len(), piece.zones.len());
        }
    }
}

#[test]
fn a_breath_of_pastel_lies_over_a_full_tooth_once_it_is_fixed() {
    let (piece, b) = six(Medium::SoftPastel);
    let mixes = mixes_of(&piece, Some(&b));
    let fullest = mixes.iter().map(|m| m.mix.layers.iter().map(|l| l.times).sum::<u8>()).max();
    assert!(fullest >= Some(2), "some zone is laid more than once: {fullest:?}");
    for id in &piece.chosen.pigments {
        let of = |strength| glaze::offer(&piece, &b, &mixes, Glaze { pigment: id.clone(), strength }).expect("it holds on every zone");
        let own = lean_media::swatch::swatch(Medium::SoftPastel, &piece.ground(), b.find(id).unwrap());
        let (faint, full) = (of(0.03), of(0.4));
        for ((faint, full), before) in faint.zones.iter().zip(&full.zones).zip(&mixes) {
            let far = |m: lean_colour::Lab| lean_colour::difference::ciede2000(m, own);
            let near = far(before.mix.lab) < 3.0;
            assert!(
                near || far(full.mark.lab) < far(faint.mark.lab) && far(faint.mark.lab) < far(before.mix.lab),
                "{id:?}: nearer to the stick"
            );
        }
    }
}

#[test]
fn what_is_said_to_cover_makes_no_glaze() {
    let (piece, mut b) = six(Medium::Oil);
    let first = glaze::offers(&piece, &b)[0].glaze.pigment.clone();
    b.pigments.iter_mut().find(|p| p.id == first).unwrap().owned.covering = Some(0.9);
    assert!(glaze::offers(&piece, &b).iter().all(|o| o.glaze.pigment != first));
}

#[test]
fn departures_change_the_plan_and_are_asked_about() {
    let (mut piece, b) = six(Medium::Oil);
    piece.zones[4].name = "barrel".into();
    piece.zones[4].importance = Importance::Focal;
    piece.zones[5].facts.role = Some(Role::Contact);
    piece.zones[5].name = "its shadow".into();
    assert_eq!(as_painted(&piece), piece);
    let depart = |piece: &Piece, change| {
        let d = Departure { change, reason: "it crowded the path".into() };
        let command = Request::Depart { departure: d }.into_command(piece, Some(&b), None).unwrap();
        piece.apply(command).unwrap().0
    };
    let out = depart(&piece, DepartureKind::LeftOut { zone: ZoneId(5) });
    let painted = as_painted(&out);
    assert!(painted.zone(ZoneId(5)).is_none() && at(&out).tasks.iter().all(|t| t.id.zone != Some(ZoneId(5))));
    let grown = lean_plan::departures::grown_over_by(&out, &painted);
    assert_eq!(grown.len(), 1);
    assert!(grown[0].0 == ZoneId(5) && painted.zone(grown[0].1).is_some(), "{grown:?}");
    let areas: f64 = painted.zones.iter().map(|z| z.reading.area).sum();
    assert!((areas - 1.0).abs() < 1e-9, "what lies round it goes on");
    let asked = follows(&out, &b).unwrap().asked.join(" ");
    assert!(asked.contains("its shadow") && asked.contains("the eye"), "{asked}");

    let moved = depart(&piece, DepartureKind::Moved { zone: ZoneId(1), right: 0.2, down: 0.1 });
    assert!(as_painted(&moved).zone(ZoneId(1)).unwrap().reading.area > 0.1);

    let lab = lean_colour::Lab::new(50.0, 50.0, 30.0);
    let at_spot = lean_picture::spot::Spot { x: 0.5, y: 0.5 };
    let kite = DepartureKind::Added { name: "red kite".into(), at: at_spot, size: Extent { across: 0.2, down: 0.2 }, lab };
    let added = depart(&piece, kite);
    assert!(at(&added).tasks.iter().any(|t| t.title.contains("Red kite")));
    let back = Request::TakeBackDeparture { at: 0 }.into_command(&added, Some(&b), None).unwrap();
    assert_eq!(added.apply(back).unwrap().0.easel.departures, vec![]);
    let nobody = Departure { change: DepartureKind::LeftOut { zone: ZoneId(77) }, reason: String::new() };
    assert!(Request::Depart { departure: nobody }.into_command(&piece, Some(&b), None).is_err());
}
