//! The piece as an aggregate: every command can be taken back exactly, and refusals change nothing.

use crate::made_up::brought;
use lean_colour::{Lab, Temperature};
use lean_media::{GroundId, Medium, Second};
use lean_picture::frame::Crop;
use lean_picture::{Reading, ZoneMap};
use lean_piece::change::{
    ChangeZones, ChooseSet, ChooseStudy, GoOn, KeepChart, KeepSearch, KeepStudies, LayPlanes, LayZones, MarkReference, NoteStudy,
    RenameZone, SetAim, SetBrief, SetChoice, SetCompositions, SetDemands, SetDismissed, SetEasel, SetImportance, SetIntent, SetLighting,
    SetMasses, SetMixing, SetOthers, SetReference, SetSessions, SetSheet, SetTarget, SetTogether, SetWall, SetWished, UseBox,
};
use lean_piece::easel::{Departure, DepartureKind, Done, Easel, Stage, TaskId};
use lean_piece::intent::Intent;
use lean_piece::intent::schools::{Question, School};
use lean_piece::light::{Falling, Lamp, LampFrom, Lighting, Tint};
use lean_piece::paint_box::BoxId;
use lean_piece::*;
use lean_plan::carry_out::moved;
use lean_plan::findings;
use lean_plan::mixes::compare;
use lean_plan::requests::FieldMove;
use lean_recipes::{Mix, Part};
use lean_search::Demands;
use proptest::prelude::*;
use proptest::strategy::ValueTree;
use proptest::test_runner::TestRunner;
use std::collections::BTreeSet;

fn brief(title: &str) -> Brief {
    Brief {
        title: title.into(),
        medium: Medium::Oil,
        ground: GroundId("panel-white".into()),
        size: Size { width: Millimetres(400.0), height: Millimetres(300.0) },
    }
}

fn zone(id: u16, lab: Lab, area: f64) -> Zone {
    Zone::read(ZoneId(id), Reading { area, value: lab.value(), lab })
}

/// Four zones in a row.
fn piece() -> Piece {
    let colours = [Lab::new(85.0, 0.0, -6.0), Lab::new(60.0, 20.0, 25.0), Lab::new(35.0, 4.0, 2.0), Lab::new(70.0, 2.0, 8.0)];
    let zones: Vec<Zone> = colours.iter().enumerate().map(|(i, c)| zone(i as u16 + 1, *c, 0.25)).collect();
    let map = ZoneMap { width: 8, height: 2, labels: vec![1, 1, 2, 2, 3, 3, 4, 4, 1, 1, 2, 2, 3, 3, 4, 4] };
    let reference = Reference::whole("d".into(), "r.png".into(), (8, 2), Temperature(3.0));
    brought(brief("Row"), reference, map, zones)
}

fn made_study(number: u8) -> Study {
    let mixes =
        piece().zones.iter().map(|z| StudyMix { zone: z.id, wanted: z.reading.lab, mix: mix(z.reading.lab), then: vec![] }).collect();
    Study {
        number: StudyNumber(number),
        scheme: Scheme::AsRead,
        pigments: vec!["x".into()],
        cost: 2.5,
        mixes,
        basis: "b".into(),
        reason: String::new(),
        minutes: 0,
        made: Some("2025-01-14".into()),
        running_since: None,
    }
}

fn command() -> impl Strategy<Value = Command> {
    let zone = (1u16..5).prop_map(ZoneId);
    let lab = (5.0..95.0f64, -30.0..30.0f64, -30.0..30.0f64).prop_map(|(l, a, b)| Lab::new(l, a, b));
    let name = "[a-z ]{1,12}[a-z]";
    prop_oneof![
        (name, any::<bool>()).prop_map(|(t, wet)| Command::SetBrief(SetBrief {
            brief: Brief { medium: if wet { Medium::Watercolour } else { Medium::Oil }, ..brief(&t) }
        })),
        (1u32..2000, "20[0-9]{2}-0[1-9]-[0-3][0-9]").prop_map(|(minutes, on)| Command::SetSessions(SetSessions {
            sessions: vec![Session { on, minutes, did: "lay-in".into(), zones: vec![ZoneId(1)] }],
            done: None
        })),
        (zone.clone(), name).prop_map(|(zone, name)| Command::RenameZone(RenameZone { zone, name })),
        (zone.clone(), lab).prop_map(|(zone, target)| Command::SetTarget(SetTarget { zone, target })),
        zone.prop_map(|zone| Command::SetImportance(SetImportance { zone, importance: Importance::Focal })),
        Just(Command::UseBox(UseBox { paint_box: Some(BoxId("b".into())) })),
        Just(Command::SetChoice(SetChoice { locked: vec!["x".into()], excluded: vec!["y".into()] })),
        Just(Command::ChooseSet(ChooseSet { chosen: ChosenSet { pigments: vec!["x".into(), "z".into()] } })),
        (any::<bool>(), prop::option::of(0u8..6)).prop_map(|(no_black, most_in_mix)| Command::SetDemands(SetDemands {
            demands: Demands { no_black, most_in_mix, ..Demands::default() }
        })),
        (0u8..10, 0.0..120.0f64)
            .prop_map(|(largest, value_weight)| Command::SetAim(SetAim { aim: Aim { largest, value_weight, ..Aim::default() } })),
        any::<bool>().prop_map(|finer| Command::SetMixing(SetMixing { mixing: Mixing { finer, kin: !finer, ..Mixing::default() } })),
        (0u32..90_000, "[a-z ]{0,20}").prop_map(|(minutes, purpose)| Command::SetIntent(SetIntent {
            intent: Intent { minutes: Some(minutes), purpose, ..Intent::default() }
        })),
        any::<bool>().prop_map(|outdoors| Command::SetLighting(SetLighting {
            lighting: Lighting {
                falling: Falling::One { first: Lamp { tint: Tint::Warm, from: LampFrom::Left, hard: true } },
                outdoors,
                ..Lighting::default()
            }
        })),
        (1u16..6, any::<bool>()).prop_map(|(id, kept)| Command::ChangeZones(ChangeZones {
            zones: vec![Zone { kept, ..self::zone(id, Lab::new(50.0, 3.0, 3.0), 0.2) }],
            what: "a lock".into()
        })),
        Just(Command::SetOthers(SetOthers {
            others: vec![Other { serves: vec![Serves::Light], ..Other::of("o".into(), "o.jpg".into(), (9, 9)) }]
        })),
        Just(Command::KeepChart(KeepChart { chart: Some(Chart { cells: vec![] }) })),
        (0.0..20.0f64)
            .prop_map(|weight| Command::SetWished(SetWished { wished: Some(Wished { from: "a quilt".into(), colours: vec![], weight }) })),
        Just(Command::SetReference(SetReference {
            reference: None,
            zone_map: None,
            zones: vec![],
            cut: None,
            masses: vec![],
            mass_map: None
        })),
        Just(Command::LayZones(LayZones { zone_map: None, zones: vec![], cut: None, what: "none".into() })),
        (20.0..300.0f64)
            .prop_map(|mm| Command::SetSheet(SetSheet { sheet: SheetSettings { longer_side: Millimetres(mm), page: PageFormat::Letter } })),
        Just(Command::LayPlanes(LayPlanes {
            planes: vec![PlaneShape { part: Crop { left: 0.1, top: 0.0, width: 0.5, height: 0.4 }, kind: PlaneKind::Sky }],
            zone_map: piece().zone_map,
            zones: piece().zones
        })),
        Just(Command::LayZones(LayZones { zone_map: piece().zone_map, zones: piece().zones, cut: None, what: "x".repeat(200) })),
        Just(Command::MarkReference(MarkReference { serves: vec![Serves::Light] })),
        prop::collection::vec(1u16..5, 0..3).prop_map(|zones| Command::SetSessions(SetSessions {
            sessions: vec![Session {
                on: "2025-01-14".into(),
                minutes: 20,
                did: String::new(),
                zones: zones.into_iter().map(ZoneId).collect()
            }],
            done: None
        })),
        (0u32..3, 0u32..3).prop_map(|(width, height)| Command::SetCompositions(SetCompositions {
            compositions: Some(Compositions { digest: "c".into(), file_name: "c.jpg".into(), width, height, cut: vec![], chosen: None })
        })),
        Just(Command::SetCompositions(SetCompositions { compositions: None })),
        (1u16..5, 0u8..3, any::<bool>()).prop_map(|(zone, layer, out)| {
            let zone = ZoneId(zone);
            let task = TaskId { stage: Stage::Parts, zone: Some(zone), layer };
            let departures = if out { vec![Departure { change: DepartureKind::LeftOut { zone }, reason: "r".into() }] } else { vec![] };
            let done = vec![Done { task, at: Some("2025-01-18T19:40".into()) }];
            Command::SetEasel(SetEasel { easel: Easel { done, departures, ..Easel::default() }, what: "e".into() })
        }),
        Just(Command::KeepSearch(KeepSearch { search: None, chosen: ChosenSet { pigments: vec!["z".into()] } })),
        prop::collection::vec(1u8..4, 0..3).prop_map(|numbers| {
            let numbers: BTreeSet<u8> = numbers.into_iter().collect();
            let chosen = numbers.first().map(|n| StudyNumber(*n));
            Command::KeepStudies(KeepStudies { studies: numbers.into_iter().map(made_study).collect(), chosen })
        }),
        prop::option::of(1u8..4).prop_map(|n| Command::ChooseStudy(ChooseStudy { number: n.map(StudyNumber) })),
        (1u8..4, any::<bool>(), prop::option::of(0u8..3)).prop_map(|(n, former, more)| Command::GoOn(GoOn {
            number: StudyNumber(n),
            former: former.then(|| Box::new(made_study(9))),
            targets: vec![(ZoneId(1), Lab::new(40.0, 5.0, 9.0))],
            basis: "later".into(),
            more,
        })),
        (1u8..4, 0u32..7000).prop_map(|(n, minutes)| Command::NoteStudy(NoteStudy {
            number: StudyNumber(n),
            reason: "calm".into(),
            minutes,
            running_since: Some(1_736_840_000),
        })),
        any::<bool>().prop_map(|some| Command::SetTogether(SetTogether {
            together: some.then(|| Together { second: Second::Acrylic, paint_box: BoxId("a".into()) }),
        })),
        (any::<bool>(), 1u16..5).prop_map(|(some, zone)| Command::SetMasses(SetMasses {
            masses: some
                .then(|| Mass { id: MassId(1), name: "near".into(), plane: None, distance: None, light: None })
                .into_iter()
                .collect(),
            mass_map: some.then(|| ZoneMap { width: 8, height: 2, labels: vec![1; 16] }.into()),
            zones: vec![piece().zones[usize::from(zone) - 1].clone()],
            what: "masses".into(),
        })),
        Just(Command::SetWall(SetWall { wall: None, what: "no wall".into() })),
        Just(Command::SetBrief(SetBrief {
            brief: Brief { medium: Medium::Watercolour, ground: GroundId("cold-pressed".into()), ..piece().brief }
        })),
        (1.0..1e308f64).prop_map(|mm| Command::SetBrief(SetBrief {
            brief: Brief { size: Size { width: Millimetres(mm), height: Millimetres(300.0) }, ..piece().brief }
        })),
        Just(Command::SetDismissed(SetDismissed { dismissed: vec![Dismissal { finding: "f".into(), reason: "meant".into() }] })),
    ]
}

proptest! {
    #[test]
    fn undoing_in_reverse_order_leads_back_exactly(commands in prop::collection::vec(command(), 1..14)) {
        let start = piece();
        let (mut now, mut undos) = (start.clone(), Vec::new());
        for c in commands {
            if let Ok((next, undo)) = now.apply(c) {
                now = next;
                undos.push(undo);
            }
        }
        for undo in undos.into_iter().rev() {
            now = now.take_back(undo).unwrap();
        }
        prop_assert_eq!(now, start);
    }

    #[test]
    fn undo_and_redo_go_all_the_way_back_and_forth(commands in prop::collection::vec(command(), 1..14)) {
        let start = piece();
        let (mut now, mut done) = (start.clone(), Vec::new());
        for c in commands {
            if let Ok((next, undo)) = now.apply(c.clone()) {
                now = next;
                done.push((c, undo));
            }
        }
        let end = now.clone();
        for (_, undo) in done.iter().rev() {
            now = now.take_back(undo.clone()).unwrap();
        }
        prop_assert_eq!(&now, &start);
        for (command, _) in done {
            now = now.apply(command).unwrap().0;
        }
        prop_assert_eq!(now, end);
    }

    #[test]
    fn a_piece_survives_being_written_and_read(commands in prop::collection::vec(command(), 0..6)) {
        let (mut now, mut done) = (piece(), Vec::new());
        for c in commands {
            if let Ok((next, _)) = now.apply(c.clone()) {
                now = next;
                done.push(c);
            }
        }
        prop_assert_eq!(Piece::from_text(now.to_text().unwrap().as_bytes()).unwrap(), now);
        for c in &done {
            prop_assert_eq!(&Command::from_text(c.to_text().unwrap().as_bytes()).unwrap(), c);
        }
        prop_assert_eq!(Vec::from_text(done.to_text().unwrap().as_bytes()).unwrap(), done);
    }
}

/// A command that no sequence holds is one whose undo nobody tried.
#[test]
fn every_command_is_among_those_that_are_tried() {
    let mut runner = TestRunner::deterministic();
    let name = |c: &Command| format!("{c:?}").split('(').next().unwrap_or_default().to_owned();
    let tried: BTreeSet<String> = (0..1500).map(|_| name(&command().new_tree(&mut runner).unwrap().current())).collect();
    let all: BTreeSet<String> = Command::NAMES.iter().map(|n| (*n).to_owned()).collect();
    assert_eq!(tried, all);
}

#[test]
fn a_command_nobody_knows_is_said_by_name() {
    let said = Command::from_text(br#"{"do":"set-sail","to":1}"#).unwrap_err().to_string();
    assert!(said.contains("set-sail"), "{said}");
    assert!(Command::from_text(b"{}").is_err());
    assert!(Vec::<Command>::from_text(br#"[{"do":"set-sail"}]"#).is_err());
}

#[test]
fn what_cannot_be_is_refused_in_words() {
    let p = piece();
    let refused = |c: Command| p.apply(c).unwrap_err().to_string();
    assert!(refused(Command::RenameZone(RenameZone { zone: ZoneId(9), name: "x".into() })).contains("no zone 9"));
    assert!(refused(Command::RenameZone(RenameZone { zone: ZoneId(1), name: "x".repeat(81) })).contains("81 characters"));
    assert!(refused(Command::SetBrief(SetBrief { brief: brief(" ") })).contains("empty"));
    let mut huge = brief("x");
    huge.size.width = Millimetres(9000.0);
    assert!(refused(Command::SetBrief(SetBrief { brief: huge })).contains("9000 mm wide"));
    assert!(
        refused(Command::SetChoice(SetChoice { locked: vec!["a".into()], excluded: vec!["a".into()] }))
            .contains("both locked and excluded")
    );
    assert!(refused(Command::ChooseSet(ChooseSet { chosen: ChosenSet { pigments: vec!["a".into(), "a".into()] } })).contains("twice"));
    assert!(refused(Command::ChooseStudy(ChooseStudy { number: Some(StudyNumber(2)) })).contains("has not been made"));
    assert!(
        refused(Command::LayZones(LayZones { zone_map: None, zones: p.zones.clone(), cut: None, what: "x".into() }))
            .contains("not the zones on the map")
    );
}

#[test]
fn a_field_move_changes_one_quality() {
    let from = Lab::new(50.0, 12.0, 20.0);
    let up = moved(from, Temperature(3.0), FieldMove { value: Some(7.0), temperature: None }).unwrap();
    assert!((up.value().0 - 7.0).abs() < 1e-6 && (up.hue().0 - from.hue().0).abs() < 1e-6);
    let across = moved(from, Temperature(3.0), FieldMove { value: None, temperature: Some(-5.0) }).unwrap();
    assert!((across.temperature().0 + 2.0).abs() < 1e-9 && across.l == from.l);
    assert!(moved(from, Temperature(0.0), FieldMove { value: Some(10.5), temperature: None }).is_err());
    assert!(moved(from, Temperature(0.0), FieldMove { value: None, temperature: Some(f64::NAN) }).is_err());
}

fn mix(lab: Lab) -> Mix {
    Mix { parts: vec![Part { pigment: "x".into(), parts: 1, touch: false }], ..Mix::bare(lab) }
}

#[test]
fn the_set_that_cannot_go_dark_enough_is_noticed_and_a_good_one_is_not() {
    let p = piece();
    let wanted = Lab::new(20.0, 0.0, 0.0);
    let short = compare(ZoneId(3), wanted, mix(Lab::new(34.0, 0.0, 0.0)), p.neutral());
    let f = findings::beyond_the_set(&p, &short).unwrap();
    assert!(f.title.contains("cannot go this dark") && f.suggestion.is_some());
    assert!(!short.reached && short.sentence.contains("too light"));
    let near = compare(ZoneId(3), wanted, mix(Lab::new(21.0, 0.0, 0.0)), p.neutral());
    assert!(near.reached && findings::beyond_the_set(&p, &near).is_none());
}

#[test]
fn only_alike_neighbours_read_as_one() {
    let p = piece();
    assert!(findings::read_as_one(&findings::Plan::of(&p, &[], None)).is_empty());
    let alike = p.apply(Command::SetTarget(SetTarget { zone: ZoneId(2), target: Lab::new(85.5, 0.5, -6.0) })).unwrap().0;
    let found = findings::read_as_one(&findings::Plan::of(&alike, &[], None));
    assert_eq!((found.len(), &found[0].zones), (1, &vec![ZoneId(1), ZoneId(2)]));
    // Zones 1 and 3 do not touch: alike or not, nothing is said.
    let apart = p.apply(Command::SetTarget(SetTarget { zone: ZoneId(3), target: Lab::new(85.0, 0.0, -6.0) })).unwrap().0;
    let mut outlined = alike.clone();
    outlined.intent.schools.insert(Question::Outline, School::DrawnContours);
    assert!(findings::read_as_one(&findings::Plan::of(&outlined, &[], None)).is_empty(), "a drawn line lies between them");
    assert!(findings::read_as_one(&findings::Plan::of(&apart, &[], None)).is_empty());
}

#[test]
fn another_medium_draws_on_no_box_and_undo_brings_all_of_it_back() {
    let commands = [
        Command::UseBox(UseBox { paint_box: Some(BoxId("b".into())) }),
        Command::SetChoice(SetChoice { locked: vec!["x".into()], excluded: vec!["y".into()] }),
        Command::ChooseSet(ChooseSet { chosen: ChosenSet { pigments: vec!["x".into(), "z".into()] } }),
    ];
    let piece = commands.into_iter().fold(piece(), |p, c| p.apply(c).unwrap().0);
    let brief = Brief { medium: Medium::Watercolour, ground: GroundId("cold-pressed".into()), ..piece.brief.clone() };
    let (next, undo) = piece.apply(Command::SetBrief(SetBrief { brief: brief.clone() })).unwrap();
    assert_eq!((&next.brief, &next.paint_box), (&brief, &None));
    assert!(next.locked.is_empty() && next.chosen.pigments.is_empty() && next.search.is_none());
    let back = next.take_back(undo).unwrap();
    assert_eq!(back, piece);
    // Another title alone touches none of that.
    let (titled, _) = piece.apply(Command::SetBrief(SetBrief { brief: Brief { title: "Other".into(), ..piece.brief.clone() } })).unwrap();
    assert_eq!(titled.paint_box, piece.paint_box);
}
