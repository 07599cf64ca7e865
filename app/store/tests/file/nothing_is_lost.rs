//! What was acknowledged stays: undo is never refused, changes at once are all kept, one broken record closes nothing.

use lean_colour::{Lab, Temperature};
use lean_media::{GroundId, Medium, library};
use lean_picture::frame::Crop;
use lean_picture::{Reading, ZoneMap};
use lean_piece::change::{LayPlanes, RenameZone, SetCompositions, SetOthers, SetReference, SetSessions, UseBox};
use lean_piece::paint_box::{BoxId, PaintBox};
use lean_piece::*;
use lean_plan::field_note::FieldNote;
use lean_store::{Kept, Record, Store, StoreError};
use std::sync::Arc;

fn bare() -> Piece {
    let size = Size { width: Millimetres(400.0), height: Millimetres(300.0) };
    Piece::new(Brief { title: "Yard gate".into(), medium: Medium::Oil, ground: GroundId("panel-white".into()), size })
}

fn zone(n: u16) -> Zone {
    let lab = Lab::new(50.0, 0.0, 0.0);
    Zone::read(ZoneId(n), Reading { area: 0.5, value: lab.value(), lab })
}

fn two_zones() -> (ZoneMap, Vec<Zone>) {
    (ZoneMap { width: 2, height: 1, labels: vec![1, 2] }, vec![zone(1), zone(2)])
}

fn planes() -> Command {
    let (map, zones) = two_zones();
    let part = Crop { left: 0.0, top: 0.0, width: 1.0, height: 0.5 };
    Command::LayPlanes(LayPlanes { planes: vec![PlaneShape { kind: PlaneKind::Sky, part }], zone_map: Some(map.into()), zones })
}

fn picture(store: &Store) -> Command {
    let digest = store.put_picture(b"original bytes", b"working bytes").unwrap();
    let (map, zones) = two_zones();
    Command::SetReference(SetReference {
        reference: Some(Reference::whole(digest, "gate.png".into(), (2, 1), Temperature(0.0))),
        zone_map: Some(map.into()),
        cut: None,
        masses: Vec::new(),
        mass_map: None,
        zones,
    })
}

fn a_box(name: &str) -> PaintBox {
    PaintBox { name: name.into(), medium: Medium::Oil, pigments: Vec::new() }
}

/// Carries out commands, takes all of them back, and brings all of them into force again.
fn there_and_back(store: &Store, start: &Piece, commands: Vec<Command>) {
    let id = store.create_piece(start).unwrap().id;
    let mut states: Vec<Kept> = vec![store.piece(id).unwrap()];
    for c in commands {
        states.push(store.apply(id, None, c).unwrap());
    }
    for before in states.iter().rev().skip(1) {
        let now = store.piece(id).unwrap();
        assert_eq!(store.undo(id, now.revision).unwrap().piece, before.piece);
    }
    for after in &states[1..] {
        let now = store.piece(id).unwrap();
        assert_eq!(store.redo(id, now.revision).unwrap().piece, after.piece);
    }
}

#[test]
fn a_picture_dropped_on_planes_can_be_taken_back() {
    let store = Store::in_memory().unwrap();
    there_and_back(&store, &bare(), vec![planes(), picture(&store), planes(), picture(&store)]);
}

#[test]
fn a_session_of_zones_alone_survives_a_new_picture_taken_back() {
    let store = Store::in_memory().unwrap();
    let session = Session { on: "2025-01-14".into(), minutes: 30, did: String::new(), zones: vec![ZoneId(1), ZoneId(2)] };
    there_and_back(
        &store,
        &bare(),
        vec![picture(&store), Command::SetSessions(SetSessions { sessions: vec![session], done: None }), picture(&store)],
    );
}

#[test]
fn a_box_that_was_removed_comes_back_with_the_step_that_drew_on_it() {
    let store = Store::in_memory().unwrap();
    let (old, new) = (store.create_box(&a_box("Yard")).unwrap(), store.create_box(&a_box("Bench")).unwrap());
    let id = store.create_piece(&bare()).unwrap().id;
    store.apply(id, None, Command::UseBox(UseBox { paint_box: Some(old.clone()) })).unwrap();
    let now = store.apply(id, None, Command::UseBox(UseBox { paint_box: Some(new) })).unwrap();
    store.delete_box(&old).unwrap();
    assert!(store.boxes().unwrap().iter().all(|b| b.id != old));
    assert_ne!(store.create_box(&a_box("Yard")).unwrap(), old, "its name is not given away");
    assert_eq!(store.undo(id, now.revision).unwrap().piece.paint_box, Some(old.clone()));
    assert!(store.boxes().unwrap().iter().any(|b| b.id == old));
    assert!(matches!(store.delete_box(&old), Err(StoreError::InUse(_))));
    assert!(matches!(store.delete_box(&BoxId("none".into())), Err(StoreError::NotFound(_))));
}

#[test]
fn several_commands_are_one_step() {
    let store = Store::in_memory().unwrap();
    let id = store.create_piece(&bare()).unwrap().id;
    let first = store.apply(id, None, planes()).unwrap();
    let both = |_: &Piece| Ok::<_, StoreError>(vec![Command::SetOthers(SetOthers { others: Vec::new() }), picture(&store)]);
    // The picture is kept before the transaction is open.
    let commands = both(&first.piece).unwrap();
    let second = store.change(id, Some(first.revision), |_| Ok::<_, StoreError>(commands)).unwrap();
    assert_eq!(second.revision, first.revision + 1);
    assert_eq!(second.undo.as_deref(), Some("the reference gate.png"));
    assert_eq!(store.undo(id, second.revision).unwrap().piece, first.piece);
}

#[test]
fn a_change_that_is_refused_inside_leaves_nothing_behind() {
    let store = Store::in_memory().unwrap();
    let id = store.create_piece(&bare()).unwrap().id;
    let before = store.apply(id, None, planes()).unwrap();
    let stray = Command::RenameZone(RenameZone { zone: ZoneId(9), name: "x".into() });
    let named = Command::RenameZone(RenameZone { zone: ZoneId(1), name: "sky".into() });
    assert!(matches!(store.change::<StoreError>(id, None, |_| Ok(vec![named, stray])), Err(StoreError::Refused(_))));
    assert_eq!(store.piece(id).unwrap(), before);
}

#[test]
fn a_sheet_without_a_size_is_refused_before_it_is_kept() {
    let store = Store::in_memory().unwrap();
    let id = store.create_piece(&bare()).unwrap().id;
    let sheet = |width, height| {
        Command::SetCompositions(SetCompositions {
            compositions: Some(Compositions {
                digest: "d".into(),
                file_name: "s.jpg".into(),
                width,
                height,
                cut: Vec::new(),
                chosen: None,
            }),
        })
    };
    for (width, height) in [(0, 0), (0, 9), (9, 0)] {
        assert!(matches!(store.apply(id, None, sheet(width, height)), Err(StoreError::Refused(_))));
    }
    assert!(store.apply(id, None, sheet(9, 9)).is_ok());
    assert!(store.damaged().unwrap().is_empty());
}

/// Runs `work` on eight threads twenty times each.
fn at_once(store: &Arc<Store>, work: impl Fn(&Store, usize) + Send + Sync + 'static) {
    let work = Arc::new(work);
    let threads: Vec<_> = (0..8)
        .map(|t| {
            let (store, work) = (store.clone(), work.clone());
            std::thread::spawn(move || (0..20).for_each(|n| work(&store, 20 * t + n)))
        })
        .collect();
    threads.into_iter().for_each(|t| t.join().unwrap());
}

#[test]
fn of_changes_made_at_once_none_is_lost() {
    let dir = tempfile::tempdir().unwrap();
    let store = Arc::new(Store::open(&dir.path().join("studio.db")).unwrap());
    let id = store.create_piece(&bare()).unwrap().id;
    let paint_box = store.create_box(&a_box("Yard")).unwrap();
    let into = paint_box.clone();
    at_once(&store, move |store, n| {
        let add = |b: &mut PaintBox| {
            b.pigments.push(lean_media::Pigment { id: lean_media::PigmentId(format!("p{n}")), ..library::modelled()[0].clone() });
            Ok::<_, StoreError>(())
        };
        store.change_box(&into, add).unwrap();
        store.create_box(&a_box("Same name")).unwrap();
        let other = Other::of(n.to_string(), "o.jpg".into(), (9, 9));
        let added = |p: &Piece| {
            // More than are kept beside the main one: the last eight stay.
            let mut others = p.others.clone();
            others.push(other);
            others.drain(..others.len().saturating_sub(MOST_OTHERS));
            Ok::<_, StoreError>(vec![Command::SetOthers(SetOthers { others })])
        };
        store.change(id, None, added).unwrap();
    });
    assert_eq!(store.paint_box(&paint_box).unwrap().pigments.len(), 160);
    assert_eq!(store.boxes().unwrap().len(), 161);
    assert_eq!(store.piece(id).unwrap().revision, 161);
    assert_eq!(store.piece(id).unwrap().piece.others.len(), MOST_OTHERS);
}

#[test]
fn the_later_of_two_changes_to_a_note_is_told() {
    let store = Store::in_memory().unwrap();
    let note = |words: &str| FieldNote {
        words: words.into(),
        at: String::new(),
        light: String::new(),
        weather: String::new(),
        photo: None,
        file_name: String::new(),
        proportion: 1.5,
        outline: Vec::new(),
        marks: Vec::new(),
    };
    let id = store.create_field_note(&note("")).unwrap();
    store.put_field_note(id, 1, &note("wind from the yard")).unwrap();
    assert!(matches!(store.put_field_note(id, 1, &note("rain")), Err(StoreError::Conflict { current: 2, .. })));
    assert_eq!(store.field_note(id).unwrap().note.words, "wind from the yard");
    assert!(matches!(store.put_field_note(99, 1, &note("")), Err(StoreError::NotFound(_))));
}

#[test]
fn one_broken_record_closes_nothing_and_is_kept() {
    let dir = tempfile::tempdir().unwrap();
    let path = dir.path().join("studio.db");
    let (sound, broken, paint_box) = {
        let store = Store::open(&path).unwrap();
        (store.create_piece(&bare()).unwrap().id, store.create_piece(&bare()).unwrap().id, store.create_box(&a_box("Yard")).unwrap())
    };
    let c = rusqlite::Connection::open(&path).unwrap();
    c.execute("UPDATE pieces SET snapshot = replace(snapshot, '400.0', 'null') WHERE id = ?1", [broken]).unwrap();
    c.execute("UPDATE boxes SET body = CAST(x'7bff' AS TEXT) WHERE id = ?1", [&paint_box.0]).unwrap();
    drop(c);

    let store = Store::open(&path).unwrap();
    assert_eq!(store.pieces().unwrap().iter().map(|s| s.id).collect::<Vec<_>>(), [sound]);
    assert!(store.boxes().unwrap().is_empty());
    let damaged = store.damaged().unwrap();
    assert_eq!(
        damaged.iter().map(|d| (d.record, d.id.clone())).collect::<Vec<_>>(),
        [(Record::Piece, broken.to_string()), (Record::PaintBox, paint_box.0.clone())]
    );
    assert!(String::from_utf8(store.raw(Record::Piece, &broken.to_string()).unwrap()).unwrap().contains("Yard gate"));
    assert!(matches!(store.put_aside(Record::Piece, &sound.to_string()), Err(StoreError::InUse(_))));
    store.put_aside(Record::Piece, &broken.to_string()).unwrap();
    assert_eq!(store.damaged().unwrap().len(), 1);
    assert!(store.raw(Record::Piece, &broken.to_string()).is_ok(), "it stays in the file");
}
