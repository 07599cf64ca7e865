//! The data file on a real disk: undo across restarts, two windows, a full disk, a damaged or locked file.

use lean_colour::{Lab, Temperature};
use lean_media::{GroundId, Medium};
use lean_picture::{Reading, ZoneMap};
use lean_store::{Store, StoreError};
use lean_studio::piece::{Brief, Command, Millimetres, Piece, Reference, Size, Zone, ZoneId};

fn brief(title: &str) -> Brief {
    Brief {
        title: title.into(),
        medium: Medium::Oil,
        ground: GroundId("panel-white".into()),
        size: Size { width: Millimetres(400.0), height: Millimetres(300.0) },
    }
}

fn rename(zone: u16, name: &str) -> Command {
    Command::RenameZone { zone: ZoneId(zone), name: name.into() }
}

/// A store on disk with one piece of two zones.
fn kept_on(path: &std::path::Path) -> (Store, i64) {
    let store = Store::open(path).unwrap();
    let digest = store.put_picture(b"original bytes", b"working bytes").unwrap();
    let zone =
        |n: u16| Zone::read(ZoneId(n), Reading { area: 0.5, value: Lab::new(50.0, 0.0, 0.0).value(), lab: Lab::new(50.0, 0.0, 0.0) });
    let id = store.create_piece(&Piece::new(brief("Yard gate"))).unwrap().id;
    let command = Command::SetReference {
        reference: Some(Reference::whole(digest, "gate.png".into(), (2, 1), Temperature(0.0))),
        zone_map: Some(ZoneMap { width: 2, height: 1, labels: vec![1, 2] }),
        zones: vec![zone(1), zone(2)],
    };
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
    store.apply(id, None, Command::SetBrief { brief: brief("Another name") }).unwrap();
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
    assert!(matches!(Store::open(&path), Err(StoreError::Damaged(_))));
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
