//! The data file on a real disk: undo across restarts, two windows, a full disk, a damaged or locked file.

use lean_colour::{Lab, Temperature};
use lean_media::{GroundId, Medium};
use lean_picture::{Reading, ZoneMap};
use lean_piece::change::{RenameZone, SetBrief, SetReference, SetSheet, SetTarget};
use lean_piece::paint_box::{Dampness, PaintBox, ReadColour, ReadWith, Swatch, SwatchReading, TriedFor, WetPart};
use lean_piece::{Brief, Command, Millimetres, Piece, Reference, SheetSettings, Size, Zone, ZoneId};
use lean_store::{Readings, Store, StoreError};

fn brief(title: &str) -> Brief {
    Brief {
        title: title.into(),
        medium: Medium::Oil,
        ground: GroundId("panel-white".into()),
        size: Size { width: Millimetres(400.0), height: Millimetres(300.0) },
    }
}

fn rename(zone: u16, name: &str) -> Command {
    Command::RenameZone(RenameZone { zone: ZoneId(zone), name: name.into() })
}

/// A store on disk with one piece of two zones.
fn kept_on(path: &std::path::Path) -> (Store, i64) {
    let store = Store::open(path).unwrap();
    let digest = store.put_picture(b"original bytes", b"working bytes").unwrap();
    let zone =
        |n: u16| Zone::read(ZoneId(n), Reading { area: 0.5, value: Lab::new(50.0, 0.0, 0.0).value(), lab: Lab::new(50.0, 0.0, 0.0) });
    let id = store.create_piece(&Piece::new(brief("Yard gate"))).unwrap().id;
    let command = Command::SetReference(SetReference {
        reference: Some(Reference::whole(digest, "gate.png".into(), (2, 1), Temperature(0.0))),
        zone_map: Some(ZoneMap { width: 2, height: 1, labels: vec![1, 2] }.into()),
        cut: None,
        masses: Vec::new(),
        mass_map: None,
        zones: vec![zone(1), zone(2)],
    });
    store.apply(id, Some(1), command).unwrap();
    (store, id)
}

#[test]
fn undo_and_redo_work_across_a_restart() {
    let dir = tempfile::tempdir().unwrap();
    let path = dir.path().join("studio.db");
    let (store, id) = kept_on(&path);
    let before = store.piece(id).unwrap();
    let after = store.apply(id, Some(before.revision), rename(1, "sky")).unwrap();
    drop(store);

    let store = Store::open(&path).unwrap();
    assert_eq!(store.piece(id).unwrap(), after);
    let undone = store.undo(id, after.revision).unwrap();
    assert_eq!(undone.piece, before.piece);
    assert_eq!(undone.redo.as_deref(), Some("the name sky"));
    let again = store.redo(id, undone.revision).unwrap();
    assert_eq!(again.piece, after.piece);
    assert!(matches!(store.redo(id, again.revision), Err(StoreError::NoFurther("redo"))));
}

#[test]
fn undoing_everything_leads_back_to_the_bare_piece() {
    let dir = tempfile::tempdir().unwrap();
    let (store, id) = kept_on(&dir.path().join("studio.db"));
    store.apply(id, None, rename(2, "wall")).unwrap();
    store.apply(id, None, Command::SetBrief(SetBrief { brief: brief("Another name") })).unwrap();
    let mut kept = store.piece(id).unwrap();
    while kept.undo.is_some() {
        kept = store.undo(id, kept.revision).unwrap();
    }
    assert_eq!(kept.piece, Piece::new(brief("Yard gate")));
}

#[test]
fn a_new_change_after_undo_drops_what_could_be_redone() {
    let dir = tempfile::tempdir().unwrap();
    let (store, id) = kept_on(&dir.path().join("studio.db"));
    let r = store.apply(id, None, rename(1, "sky")).unwrap().revision;
    store.undo(id, r).unwrap();
    let kept = store.apply(id, None, rename(1, "haze")).unwrap();
    assert_eq!((kept.redo, kept.piece.zones[0].name.as_str()), (None, "haze"));
}

#[test]
fn the_later_of_two_windows_is_told_and_nothing_is_swallowed() {
    let dir = tempfile::tempdir().unwrap();
    let (store, id) = kept_on(&dir.path().join("studio.db"));
    let seen = store.piece(id).unwrap().revision;
    store.apply(id, Some(seen), rename(1, "sky")).unwrap();
    match store.apply(id, Some(seen), rename(1, "cloud")) {
        Err(StoreError::Conflict { what, .. }) => assert_eq!(what, "the name sky"),
        other => panic!("{other:?}"),
    }
    assert_eq!(store.piece(id).unwrap().piece.zones[0].name, "sky");
}

#[test]
fn a_refused_command_changes_nothing() {
    let dir = tempfile::tempdir().unwrap();
    let (store, id) = kept_on(&dir.path().join("studio.db"));
    let before = store.piece(id).unwrap();
    assert!(matches!(store.apply(id, None, rename(9, "x")), Err(StoreError::Refused(_))));
    assert_eq!(store.piece(id).unwrap(), before);
}

#[test]
fn a_full_disk_is_said_and_loses_nothing() {
    let dir = tempfile::tempdir().unwrap();
    let path = dir.path().join("studio.db");
    let (store, id) = kept_on(&path);
    let before = store.piece(id).unwrap();
    store.limit_pages(1).unwrap();
    let big = vec![7u8; 1 << 20];
    assert!(matches!(store.put_picture(&big, &big), Err(StoreError::Full)));
    drop(store);
    let store = Store::open(&path).unwrap();
    assert_eq!(store.piece(id).unwrap(), before);
    assert_eq!(store.original(&before.piece.reference.unwrap().digest).unwrap(), b"original bytes");
}

#[test]
fn a_file_that_is_not_ours_is_refused_and_left_alone() {
    let dir = tempfile::tempdir().unwrap();
    let path = dir.path().join("notes.txt");
    let text = "these are only words, and rather many of them ".repeat(200);
    std::fs::write(&path, &text).unwrap();
    assert!(matches!(Store::open(&path), Err(StoreError::Damaged(_))));
    assert_eq!(std::fs::read_to_string(&path).unwrap(), text);
}

#[test]
fn broken_pages_are_found_when_the_file_is_opened() {
    let dir = tempfile::tempdir().unwrap();
    let path = dir.path().join("studio.db");
    let (store, id) = kept_on(&path);
    for i in 0..60 {
        store.apply(id, None, rename(1, &format!("name {i}"))).unwrap();
    }
    drop(store);
    let mut bytes = std::fs::read(&path).unwrap();
    let end = bytes.len();
    bytes[8192..end].fill(0xA5);
    std::fs::write(&path, &bytes).unwrap();
    assert!(matches!(Store::open_only(&path), Err(StoreError::Damaged(_))));
    // Nothing of it is left but its head: what is opened is empty, and says so.
    let store = Store::open(&path).unwrap();
    let replaced = store.replaced().unwrap();
    assert!(!replaced.rescued.lost.is_empty());
    assert!(std::fs::read(&replaced.kept).unwrap() == bytes, "the damaged file is kept as it was");
}

#[test]
fn a_file_held_by_another_program_is_said() {
    let dir = tempfile::tempdir().unwrap();
    let path = dir.path().join("studio.db");
    let (store, id) = kept_on(&path);
    let other = rusqlite::Connection::open(&path).unwrap();
    other.execute_batch("BEGIN IMMEDIATE").unwrap();
    assert!(matches!(store.apply(id, None, rename(1, "sky")), Err(StoreError::Locked)));
    other.execute_batch("ROLLBACK").unwrap();
    store.apply(id, None, rename(1, "sky")).unwrap();
}

/// A file as the program before maps were kept apart wrote it: six changes, one of them undone.
#[test]
fn a_file_with_maps_inside_its_pieces_is_carried_over_whole() {
    let folder = tempfile::tempdir().unwrap();
    let path = folder.path().join("studio.db");
    std::fs::write(&path, include_bytes!("../data/maps_inline.db")).unwrap();
    let store = Store::open(&path).unwrap();
    let kept = store.piece(1).unwrap();
    let zones: Vec<(u16, &str)> = kept.piece.zones.iter().map(|z| (z.id.0, z.name.as_str())).collect();
    assert_eq!(zones, [(1, "sky, left"), (2, ""), (3, ""), (4, ""), (5, ""), (6, ""), (7, "")]);
    let map = kept.piece.map().expect("the old map is there");
    assert_eq!((map.width, map.height), (200, 150));
    let areas: u64 = map.areas().iter().map(|a| a.1).sum();
    assert_eq!(areas, 200 * 150);
    for z in &kept.piece.zones {
        let cells = map.areas().iter().find(|a| a.0 == z.id.0).map_or(0, |a| a.1);
        assert!((cells as f64 / 30_000.0 - z.reading.area).abs() < 0.01, "zone {} lies where it was read", z.id.0);
    }
    assert_eq!(kept.redo.as_deref(), Some("joining zones 3 and 4"));

    // Every step can be done again and taken back, to the beginning.
    let redone = store.redo(1, kept.revision).unwrap();
    assert_eq!(redone.piece.zones.len(), 6);
    let mut now = redone;
    while now.undo.is_some() {
        now = store.undo(1, now.revision).unwrap();
    }
    assert!(now.piece.reference.is_none() && now.piece.map().is_none());
    for _ in 0..5 {
        now = store.redo(1, now.revision).unwrap();
    }
    assert_eq!(now.piece, kept.piece);
    assert_eq!(now.piece.map(), kept.piece.map());
}

#[test]
fn a_map_is_kept_once_and_a_moved_target_keeps_none() {
    let folder = tempfile::tempdir().unwrap();
    let (store, id) = kept_on(&folder.path().join("studio.db"));
    let piece = store.piece(id).unwrap().piece;
    let digest = piece.zone_map.as_ref().map(|m| m.digest().to_owned()).unwrap();
    assert_eq!(store.map(&digest).unwrap().map(), piece.map());
    let zone = piece.zones[0].id;
    let moved = store.apply(id, None, Command::SetTarget(SetTarget { zone, target: lean_colour::Lab::new(50.0, 0.0, 0.0) })).unwrap();
    assert_eq!(moved.piece.zone_map, piece.zone_map);
    assert_eq!(moved.piece.map(), piece.map(), "the map is found again by its digest");
    assert!(matches!(store.map("0000"), Err(StoreError::NotFound(_))));
}

#[test]
fn a_revision_is_parsed_once() {
    let folder = tempfile::tempdir().unwrap();
    let path = folder.path().join("studio.db");
    let ids: Vec<i64> = {
        let store = Store::open(&path).unwrap();
        (0..5).map(|i| store.create_piece(&Piece::new(brief(&format!("Piece {i}")))).unwrap().id).collect()
    };
    let store = Store::open(&path).unwrap();
    assert_eq!(store.pieces().unwrap().len(), 5);
    assert_eq!(store.parsed(), 5, "after a start every piece is read for the list");
    let sheet = SheetSettings { longer_side: Millimetres(80.0), ..SheetSettings::default() };
    store.piece(ids[0]).unwrap();
    let before = store.parsed();
    store.apply(ids[0], Some(1), SetSheet { sheet }.into()).unwrap();
    assert_eq!(store.parsed() - before, 1, "what was written is read back");
    assert_eq!(store.piece(ids[0]).unwrap().piece.sheet, sheet);
    let listed = store.pieces().unwrap();
    assert!(store.damaged().unwrap().is_empty() && listed.len() == 5);
    assert_eq!(store.parsed() - before, 1, "a change of one piece touches no other");
    assert!(matches!(store.piece_at(ids[0], 1), Err(StoreError::Conflict { current: 2, .. })));
}

/// A reading that says so light.
pub(crate) fn reading_of(l: f64) -> SwatchReading {
    let seen = ReadColour { lab: Lab::new(l, 10.0, -50.0), bands: Vec::new() };
    SwatchReading { seen, ..reading(None) }
}

fn reading(piece: Option<i64>) -> SwatchReading {
    SwatchReading {
        swatch: Swatch {
            ground: GroundId("panel-white".into()),
            parts: vec![WetPart { pigment: "PB29".into(), parts: 1.0 }],
            layers: Vec::new(),
        },
        seen: ReadColour { lab: Lab::new(30.0, 10.0, -50.0), bands: Vec::new() },
        state: Dampness::Dry,
        sealed: false,
        with: ReadWith::Typed,
        eye: None,
        played: Some(false),
        at: "2026-01-01T00:00:00Z".into(),
        tried_for: piece.map(|piece| TriedFor { piece, zone: Some(ZoneId(1)), cell: None }),
        left_out: false,
        note: String::new(),
    }
}

#[test]
fn readings_and_what_was_learned_are_kept_together_or_not_at_all() {
    let dir = tempfile::tempdir().unwrap();
    let path = dir.path().join("studio.db");
    let (store, piece) = kept_on(&path);
    let blue = lean_media::library::find("PB29").unwrap().clone();
    let id = store.create_box(&PaintBox { name: "Few".into(), medium: Medium::Oil, pigments: vec![blue] }).unwrap();
    let darker = |b: &PaintBox, kept: &[(i64, SwatchReading)]| -> Result<PaintBox, StoreError> {
        let mut b = b.clone();
        b.pigments[0].k[0] = 100.0 + kept.len() as f64;
        Ok(b)
    };
    let (before, after) = store.change_readings(&id, Readings::Add(vec![reading(None), reading(Some(piece))]), darker).unwrap();
    assert!(before != after && after.pigments[0].k[0] == 102.0, "it learns from all of them");
    assert_eq!((store.readings(&id).unwrap().len(), store.trials(piece).unwrap().len()), (2, 1));

    let refused = store.change_readings(&id, Readings::Add(vec![reading(None)]), |_, _| Err(StoreError::Damaged("no".into())));
    assert!(refused.is_err());
    let unknown = store.change_readings(&id, Readings::Add(vec![reading(None), reading(Some(99))]), darker);
    assert!(matches!(unknown, Err(StoreError::NotFound(_))));
    drop(store);
    let store = Store::open(&path).unwrap();
    assert_eq!(
        (store.readings(&id).unwrap().len(), store.paint_box(&id).unwrap()),
        (2, after),
        "neither a reading nor a Box of what failed"
    );

    let first = store.readings(&id).unwrap()[0].0;
    store.change_readings(&id, Readings::Remove(first), darker).unwrap();
    assert!(matches!(store.change_readings(&id, Readings::Remove(first), darker), Err(StoreError::NotFound(_))));
    store.delete_piece(piece).unwrap();
    assert_eq!(store.readings(&id).unwrap().len(), 1, "a trial outlives its piece: it taught the Box");
}

#[test]
fn nobody_waits_while_it_is_learned_and_what_came_meanwhile_is_learned_too() {
    let dir = tempfile::tempdir().unwrap();
    let (store, piece) = kept_on(&dir.path().join("studio.db"));
    let blue = lean_media::library::find("PB29").unwrap().clone();
    let id = store.create_box(&PaintBox { name: "Few".into(), medium: Medium::Oil, pigments: vec![blue] }).unwrap();
    let counted = |b: &PaintBox, kept: &[(i64, SwatchReading)]| -> Result<PaintBox, StoreError> {
        let mut b = b.clone();
        b.pigments[0].k[0] = 100.0 + kept.len() as f64;
        Ok(b)
    };
    // Once, and as often as it is tried while others may write.
    for comes in [1, 3] {
        let before = store.readings(&id).unwrap().len();
        let left = std::cell::Cell::<usize>::new(comes);
        let learn = |b: &PaintBox, kept: &[(i64, SwatchReading)]| {
            if left.replace(left.get().saturating_sub(1)) > 0 {
                store.change_readings(&id, Readings::Add(vec![reading(None)]), counted)?;
            }
            counted(b, kept)
        };
        let (_, after) = store.change_readings(&id, Readings::Add(vec![reading(Some(piece))]), learn).unwrap();
        let now = store.readings(&id).unwrap().len();
        assert_eq!(now, before + comes + 1, "others wrote meanwhile");
        assert_eq!(after.pigments[0].k[0], 100.0 + now as f64, "and it was learned from theirs too");
        assert_eq!(store.paint_box(&id).unwrap(), after);
    }
}
