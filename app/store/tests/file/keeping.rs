//! Keeping what was made: archives, backups, the check, and the file itself.

use crate::made_up::{finished, study};
use jiff::civil::{Date, date};
use lean_colour::{Lab, Temperature};
use lean_drills::{Answered, Drill};
use lean_picture::{Reading, ZoneMap};
use lean_piece::change::{RenameZone, SetReference};
use lean_piece::easel::Outcome;
use lean_piece::paint_box::{BoxId, PaintBox};
use lean_piece::{Command, Reference, Zone, ZoneId};
use lean_store::{Backups, KEPT, Store, StoreError};
use rusqlite::Connection;
use std::path::Path;

/// A studio with something of everything, on disk.
pub(crate) fn studio(path: &Path) -> (Store, i64) {
    let store = Store::open(path).unwrap();
    let digest = store.put_picture(b"original \x00 bytes", b"working bytes").unwrap();
    let paint_box =
        PaintBox { name: "Pans, \"pocket\"".into(), medium: lean_media::Medium::Watercolour, pigments: lean_demo::pans().pigments };
    store.put_box(&BoxId("pans".into()), &paint_box).unwrap();
    let mut piece = finished("Weir – früh", "2025-02-06", Outcome::InPart);
    piece.studies = vec![study(1, &[Lab::new(60.1, 3.0, -6.123_456_789_012_345)], "2025-02-06")];
    piece.paint_box = Some(BoxId("pans".into()));
    let id = store.create_piece(&piece).unwrap().id;
    let lab = Lab::new(1.0 / 3.0 * 100.0, 0.1 + 0.2, -0.0);
    let zone = |n| Zone::read(ZoneId(n), Reading { area: 0.5, value: lab.value(), lab });
    let put = SetReference {
        reference: Some(Reference::whole(digest, "gate.png".into(), (2, 1), Temperature(0.0))),
        zone_map: Some(ZoneMap { width: 2, height: 1, labels: vec![1, 2] }.into()),
        cut: None,
        masses: Vec::new(),
        mass_map: None,
        zones: vec![zone(1), zone(2)],
    };
    store.apply(id, None, Command::SetReference(put)).unwrap();
    store.apply(id, None, Command::RenameZone(RenameZone { zone: ZoneId(1), name: "sky\u{2028}".into() })).unwrap();
    store.keep_answer(&Answered { drill: Drill::Value, on: "2025-02-06".into(), size: 0.1, right: true, off: 0.3 }).unwrap();
    (store, id)
}

fn archived(store: &Store) -> Vec<u8> {
    let mut out = Vec::new();
    store.export(&mut out).unwrap();
    out
}

#[test]
fn a_studio_goes_into_an_archive_and_back_bit_for_bit() {
    let dir = tempfile::tempdir().unwrap();
    let (store, id) = studio(&dir.path().join("studio.db"));
    // The number of a piece that was removed is not given again.
    let gone = store.create_piece(&finished("Gone", "2025-02-07", Outcome::AsHoped)).unwrap().id;
    store.delete_piece(gone).unwrap();
    let archive = archived(&store);
    assert_eq!(archive, archived(&store), "the same studio is written the same");
    let again = dir.path().join("again.db");
    Store::import(&archive[..], &again).unwrap();
    let other = Store::open(&again).unwrap();
    assert_eq!(archived(&other), archive);
    assert_eq!(other.piece(id).unwrap(), store.piece(id).unwrap());
    assert_eq!(other.original(&Store::digest_of(b"original \x00 bytes")).unwrap(), b"original \x00 bytes");
    let undone = other.undo(id, other.piece(id).unwrap().revision).unwrap();
    assert_eq!(undone.piece.zones[0].name, "");
    assert_eq!(other.create_piece(&finished("Next", "2025-02-07", Outcome::AsHoped)).unwrap().id, gone + 1);
    assert_eq!(other.check_all(&|_| {}).unwrap().problems, Vec::<String>::new());
}

#[test]
fn a_damaged_record_goes_along_as_it_is() {
    let dir = tempfile::tempdir().unwrap();
    let path = dir.path().join("studio.db");
    let (store, id) = studio(&path);
    drop(store);
    Connection::open(&path).unwrap().execute("UPDATE pieces SET snapshot = '{\"brief\": nonsense \"' WHERE id = ?1", [id]).unwrap();
    let store = Store::open(&path).unwrap();
    let archive = archived(&store);
    serde_json::from_slice::<serde_json::Value>(&archive).expect("the archive is sound even so");
    let again = dir.path().join("again.db");
    Store::import(&archive[..], &again).unwrap();
    let raw: String = Connection::open(&again).unwrap().query_row("SELECT snapshot FROM pieces", [], |r| r.get(0)).unwrap();
    assert_eq!(raw, "{\"brief\": nonsense \"");
}

#[test]
fn an_archive_of_an_earlier_shape_is_read() {
    let dir = tempfile::tempdir().unwrap();
    let (store, id) = studio(&dir.path().join("studio.db"));
    let mut archive: serde_json::Value = serde_json::from_slice(&archived(&store)).unwrap();
    archive["shape"] = 8.into();
    archive["version"] = 1.into();
    for row in archive["tables"].as_object_mut().unwrap().values_mut().flat_map(|t| t.as_array_mut().unwrap()) {
        let row = row.as_object_mut().unwrap();
        ["sum", "sent_as", "meaning"].iter().for_each(|later| drop(row.remove(*later)));
    }
    for table in ["readings", "grounds", "drills"] {
        archive["tables"][table].as_array_mut().unwrap().iter_mut().for_each(|row| drop(row.as_object_mut().unwrap().remove("aside")));
    }
    let again = dir.path().join("again.db");
    Store::import(archive.to_string().as_bytes(), &again).unwrap();
    assert_eq!(Store::open(&again).unwrap().piece(id).unwrap().piece, store.piece(id).unwrap().piece);
}

#[test]
fn what_is_no_archive_is_refused_with_the_reason_and_leaves_nothing_behind() {
    let dir = tempfile::tempdir().unwrap();
    let (store, _) = studio(&dir.path().join("studio.db"));
    let sound: serde_json::Value = serde_json::from_slice(&archived(&store)).unwrap();
    let with = |change: &dyn Fn(&mut serde_json::Value)| {
        let mut next = sound.clone();
        change(&mut next);
        next.to_string()
    };
    let cases = [
        ("nothing".to_owned(), "expected"),
        (with(&|a| a["format"] = "another program".into()), "another program"),
        (with(&|a| a["tables"]["wishes"] = serde_json::json!([])), "wishes"),
        (with(&|a| a["tables"]["pieces"][0]["mood"] = 3.into()), "mood"),
        (
            with(&|a| {
                a["tables"]["pieces"][0].as_object_mut().unwrap().remove("revision");
            }),
            "revision",
        ),
        (with(&|a| a["tables"]["pictures"][0]["original"] = serde_json::json!({ "base64": "?" })), "base64"),
    ];
    for (text, why) in cases {
        let to = dir.path().join("new.db");
        let refused = Store::import(text.as_bytes(), &to).unwrap_err();
        assert!(matches!(refused, StoreError::NoArchive(_)) && refused.to_string().contains(why), "{why}: {refused}");
        assert!(!to.exists() && !to.with_extension("partial").exists(), "{why} leaves a file");
    }
    let newer = with(&|a| a["shape"] = 4000.into());
    assert!(matches!(Store::import(newer.as_bytes(), &dir.path().join("n.db")), Err(StoreError::Newer { .. })));
    let there = dir.path().join("studio.db");
    assert!(matches!(Store::import(sound.to_string().as_bytes(), &there), Err(StoreError::There(_))));
}

/// An archive as another program would write what it read: other spaces, another order, other letters for the same numbers.
fn rewritten(archive: &[u8]) -> String {
    let value: serde_json::Value = serde_json::from_slice(archive).unwrap();
    serde_json::to_string_pretty(&value).unwrap().replace(": 0.0", ": 0").replace("0.5,", "0.50,")
}

#[test]
fn an_archive_that_another_program_wrote_anew_is_the_same_studio() {
    let dir = tempfile::tempdir().unwrap();
    let (store, id) = studio(&dir.path().join("studio.db"));
    let again = dir.path().join("again.db");
    assert_eq!(Store::import(rewritten(&archived(&store)).as_bytes(), &again).unwrap(), Vec::<String>::new());
    let other = Store::open(&again).unwrap();
    assert_eq!(other.piece(id).unwrap().piece, store.piece(id).unwrap().piece);
    assert_eq!(other.boxes().unwrap(), store.boxes().unwrap());
    assert_eq!(other.answers().unwrap(), store.answers().unwrap());
    other.undo(id, other.piece(id).unwrap().revision).unwrap();
}

#[test]
fn what_was_changed_in_an_archive_or_is_missing_is_left_out_by_name_and_the_rest_comes_in() {
    let dir = tempfile::tempdir().unwrap();
    let (store, id) = studio(&dir.path().join("studio.db"));
    let sound: serde_json::Value = serde_json::from_slice(&archived(&store)).unwrap();
    type Change = Box<dyn Fn(&mut serde_json::Value)>;
    let cases: [(&str, Change); 6] = [
        ("\"drills\"", Box::new(|a| a["tables"]["drills"][0]["body"]["right"] = false.into())),
        ("\"pieces\"", Box::new(|a| a["tables"]["pieces"][0]["snapshot"]["brief"]["title"] = "Not mine".into())),
        ("map of zones", Box::new(|a| a["tables"]["maps"] = serde_json::json!([]))),
        ("picture", Box::new(|a| a["tables"]["pictures"] = serde_json::json!([]))),
        ("picture", Box::new(|a| a["tables"]["pictures"][0]["original"] = serde_json::json!({ "base64": "AAAA" }))),
        ("Box pans", Box::new(|a| a["tables"]["boxes"] = serde_json::json!([]))),
    ];
    for (n, (what, change)) in cases.iter().enumerate() {
        let mut archive = sound.clone();
        change(&mut archive);
        let path = dir.path().join(format!("{n}.db"));
        let left_out = Store::import(archive.to_string().as_bytes(), &path).unwrap();
        assert!(left_out.iter().any(|l| l.contains(what)), "{what}: {left_out:?}");
        let other = Store::open(&path).unwrap();
        assert!(other.replaced().is_none(), "{what}: the new file is sound");
        if !what.contains("pieces") && !what.contains("map") {
            assert_eq!(other.piece(id).unwrap().piece.brief, store.piece(id).unwrap().piece.brief, "{what}");
        }
    }
}

/// Archives as version 1 wrote them: without what a row means, its sum of its letters.
#[test]
fn an_archive_of_the_first_version_is_read_also_with_other_spaces() {
    let dir = tempfile::tempdir().unwrap();
    let (store, id) = studio(&dir.path().join("studio.db"));
    let text = String::from_utf8(archived(&store)).unwrap().replace("\"version\":2", "\"version\":1");
    let mut first = String::new();
    for part in text.split(",\"meaning\":\"") {
        first.push_str(if first.is_empty() { part } else { &part[33..] });
    }
    assert!(!first.contains("meaning"));
    for (n, text) in [first.clone(), first.replace(",\"", " ,\n  \"")].into_iter().enumerate() {
        let path = dir.path().join(format!("{n}.db"));
        assert_eq!(Store::import(text.as_bytes(), &path).unwrap(), Vec::<String>::new());
        assert_eq!(Store::open(&path).unwrap().piece(id).unwrap().piece, store.piece(id).unwrap().piece);
    }
    let changed = first.replace("0.30000000000000004", "0.4");
    assert_ne!(changed, first);
    let left_out = Store::import(changed.as_bytes(), &dir.path().join("changed.db")).unwrap();
    assert!(!left_out.is_empty());
}

#[test]
fn an_archive_is_read_into_an_empty_studio_and_never_mixed_into_another() {
    let dir = tempfile::tempdir().unwrap();
    let (store, id) = studio(&dir.path().join("studio.db"));
    let archive = archived(&store);
    assert!(matches!(store.import_here(&archive[..]), Err(StoreError::InUse(_))));
    let path = dir.path().join("empty.db");
    let empty = Store::open(&path).unwrap();
    empty.import_here(&archive[..]).unwrap();
    assert_eq!(archived(&empty), archive);
    let kept = empty.piece(id).unwrap();
    empty.apply(id, Some(kept.revision), Command::RenameZone(RenameZone { zone: ZoneId(2), name: "bank".into() })).unwrap();
    drop(empty);
    assert_eq!(Store::open(&path).unwrap().piece(id).unwrap().piece.zones[1].name, "bank");
}

#[test]
fn backups_are_whole_made_once_a_day_and_seven_are_kept() {
    let dir = tempfile::tempdir().unwrap();
    let path = dir.path().join("studio.db");
    let (store, id) = studio(&path);
    let backups = Backups::of(&path);
    let day = |n: i8| -> Date { date(2025, 3, n) };
    let first = backups.of_day(&store, day(1)).unwrap().expect("made");
    assert_eq!(backups.of_day(&store, day(1)).unwrap(), None, "once a day");
    assert_eq!(archived(&Store::open(&first).unwrap()), archived(&store));
    for n in 2..=12 {
        store.apply(id, None, Command::RenameZone(RenameZone { zone: ZoneId(1), name: format!("name {n}") })).unwrap();
        backups.of_day(&store, day(n)).unwrap();
    }
    let all = backups.all();
    assert_eq!(all.len(), KEPT);
    assert!(all[0].ends_with("studio-2025-03-06.db") && all[KEPT - 1].ends_with("studio-2025-03-12.db"), "{all:?}");
    assert_eq!(Store::open(&all[KEPT - 1]).unwrap().piece(id).unwrap().piece.zones[0].name, "name 12");
    assert!(matches!(store.backup(&all[0]), Err(StoreError::There(_))));
}

#[test]
fn a_backup_is_put_in_the_place_of_the_file_and_what_was_there_is_kept() {
    let dir = tempfile::tempdir().unwrap();
    let path = dir.path().join("studio.db");
    let (store, id) = studio(&path);
    let backup = Backups::of(&path).of_day(&store, date(2025, 3, 1)).unwrap().unwrap();
    store.apply(id, None, Command::RenameZone(RenameZone { zone: ZoneId(1), name: "later".into() })).unwrap();
    assert!(matches!(Store::restore(&backup, &path), Err(StoreError::Locked)), "a program holds the file");
    drop(store);
    let aside = Store::restore(&backup, &path).unwrap().expect("kept");
    let name = |p: &Path| Store::open(p).unwrap().piece(id).unwrap().piece.zones[0].name.clone();
    assert_eq!((name(&path).as_str(), name(&aside).as_str()), ("sky\u{2028}", "later"));
    std::fs::write(&path, b"no database any more, but long enough to look at").unwrap();
    assert!(Store::restore(&dir.path().join("studio.txt"), &path).is_err(), "no such backup");
    Store::restore(&backup, &path).unwrap();
    assert_eq!(name(&path), "sky\u{2028}");
}

#[test]
fn the_check_names_what_is_not_sound() {
    let dir = tempfile::tempdir().unwrap();
    let path = dir.path().join("studio.db");
    let (store, _) = studio(&path);
    let sound = store.check_all(&|_| {}).unwrap();
    assert_eq!((sound.problems.len(), sound.pictures, sound.maps), (0, 1, 1));
    drop(store);
    let other = Connection::open(&path).unwrap();
    other.execute("UPDATE pictures SET working = x'00'", []).unwrap();
    other.execute("UPDATE drills SET body = '{'", []).unwrap();
    other.execute("UPDATE boxes SET body = '[]'", []).unwrap();
    drop(other);
    let store = Store::open(&path).unwrap();
    let problems = store.check_all(&|_| {}).unwrap().problems.join("\n");
    for part in ["working copy", "answer of a drill", "Box pans"] {
        assert!(problems.contains(part), "{part} is missing in {problems}");
    }
    let digest = Store::digest_of(b"original \x00 bytes");
    assert!(matches!(store.working(&digest), Err(StoreError::Damaged(_))), "and it is not shown as if it were sound");
}

#[test]
fn a_database_of_another_program_is_left_alone() {
    let dir = tempfile::tempdir().unwrap();
    let path = dir.path().join("other.db");
    let other = Connection::open(&path).unwrap();
    other.execute_batch("CREATE TABLE songs (id INTEGER PRIMARY KEY); INSERT INTO songs VALUES (1);").unwrap();
    drop(other);
    let before = std::fs::read(&path).unwrap();
    assert!(Store::open(&path).err().unwrap().to_string().contains("another program"));
    assert_eq!(std::fs::read(&path).unwrap(), before);
}

#[cfg(unix)]
#[test]
fn the_file_is_its_owners_alone_and_a_link_that_leads_nowhere_makes_none() {
    use std::os::unix::fs::{PermissionsExt, symlink};
    let dir = tempfile::tempdir().unwrap();
    let path = dir.path().join("studio.db");
    drop(Store::open(&path).unwrap());
    assert_eq!(std::fs::metadata(&path).unwrap().permissions().mode() & 0o777, 0o600);
    let (link, target) = (dir.path().join("link.db"), dir.path().join("elsewhere.db"));
    symlink(&target, &link).unwrap();
    assert!(matches!(Store::open(&link), Err(StoreError::LeadsNowhere(_))));
    assert!(!target.exists());
}

#[cfg(unix)]
#[test]
fn a_file_taken_away_under_the_program_is_noticed_at_the_next_write() {
    let dir = tempfile::tempdir().unwrap();
    let path = dir.path().join("studio.db");
    let (store, id) = studio(&path);
    std::fs::rename(&path, dir.path().join("moved.db")).unwrap();
    let rename = || Command::RenameZone(RenameZone { zone: ZoneId(1), name: "lost?".into() });
    assert!(matches!(store.apply(id, None, rename()), Err(StoreError::Gone)));
    std::fs::rename(dir.path().join("moved.db"), &path).unwrap();
    assert_eq!(store.apply(id, None, rename()).unwrap().piece.zones[0].name, "lost?", "put back, it goes on");
}

#[test]
fn a_file_of_an_earlier_shape_is_kept_as_it_was_before_it_is_changed() {
    let dir = tempfile::tempdir().unwrap();
    let path = dir.path().join("studio.db");
    let first = concat!(env!("CARGO_MANIFEST_DIR"), "/tests/data/maps_inline.db");
    std::fs::copy(first, &path).unwrap();
    let shape = |p: &Path| Connection::open(p).unwrap().pragma_query_value(None, "user_version", |r| r.get::<_, i64>(0)).unwrap();
    let before = shape(&path);
    drop(Store::open(&path).unwrap());
    let kept: Vec<_> = std::fs::read_dir(dir.path().join("backups")).unwrap().flatten().map(|f| f.path()).collect();
    assert_eq!(kept.len(), 1);
    assert!(shape(&path) > before);
    assert_eq!(shape(&kept[0]), before);
}

fn names_in(folder: &Path) -> Vec<String> {
    let mut names: Vec<String> =
        std::fs::read_dir(folder).into_iter().flatten().flatten().map(|f| f.file_name().to_string_lossy().into_owned()).collect();
    names.sort();
    names
}

#[test]
fn a_backup_that_finds_no_room_leaves_the_disk_as_it_was() {
    let dir = tempfile::tempdir().unwrap();
    let path = dir.path().join("studio.db");
    let (store, id) = studio(&path);
    let full = Backups::of(&path).with_free(8 << 20).of_day(&store, date(2025, 3, 1)).unwrap_err();
    assert!(matches!(full, StoreError::NoRoom { free: 8, .. }), "{full}");
    assert_eq!(names_in(&dir.path().join("backups")), Vec::<String>::new());
    store.apply(id, None, Command::RenameZone(RenameZone { zone: ZoneId(1), name: "bank".into() })).expect("changes are saved as before");
    assert!(Backups::of(&path).with_free(1 << 30).of_day(&store, date(2025, 3, 1)).unwrap().is_some());
}

#[test]
fn what_a_killed_program_left_half_made_is_cleared_away_and_nothing_else_is() {
    let dir = tempfile::tempdir().unwrap();
    let path = dir.path().join("studio.db");
    drop(studio(&path));
    let backups = dir.path().join("backups");
    std::fs::create_dir(&backups).unwrap();
    let ours = std::fs::read(&path).unwrap();
    for left in ["studio-2025-03-01.db.aB3xYz.half-made", "studio-2025-03-02.partial"] {
        std::fs::write(backups.join(left), &ours).unwrap();
    }
    std::fs::write(dir.path().join("studio.db.aB3xYz.half-made"), &ours).unwrap();
    // A painter's own files, one with a name as earlier versions used it.
    for own in ["studio-2025-03-03.partial", "studio-of-last-year.partial", "palette.half-made"] {
        std::fs::write(backups.join(own), b"mine").unwrap();
    }
    std::fs::write(dir.path().join("copy.partial"), b"mine").unwrap();
    let store = Store::open(&path).unwrap();
    store.backup(&dir.path().join("copy.db")).unwrap();
    assert_eq!(names_in(&backups), ["palette.half-made", "studio-2025-03-03.partial", "studio-of-last-year.partial"]);
    let beside = names_in(dir.path());
    assert!(beside.contains(&"copy.partial".into()) && !beside.iter().any(|n| n.ends_with("half-made")), "{beside:?}");
}

#[cfg(unix)]
#[test]
fn a_backup_that_is_being_made_is_left_alone() {
    let dir = tempfile::tempdir().unwrap();
    let path = dir.path().join("studio.db");
    drop(studio(&path));
    let half = lean_store::UnfinishedFile::begun(&dir.path().join("backups/studio-2025-03-01.db")).unwrap();
    drop(Store::open(&path).unwrap());
    assert!(half.path().exists());
    half.finished().unwrap();
    assert_eq!(names_in(&dir.path().join("backups")), ["studio-2025-03-01.db"]);
}

#[test]
fn a_backup_made_today_stays_beside_seven_of_days_to_come() {
    let dir = tempfile::tempdir().unwrap();
    let path = dir.path().join("studio.db");
    let (store, _) = studio(&path);
    let backups = Backups::of(&path);
    for n in 1..=7 {
        backups.of_day(&store, date(2031, 3, n)).unwrap();
    }
    let made = backups.of_day(&store, date(2025, 3, 1)).unwrap().unwrap();
    assert!(made.exists());
    assert_eq!(backups.all().len(), KEPT);
}

#[test]
fn an_empty_file_and_one_of_a_later_version_are_not_put_in_the_place_of_the_data_file() {
    let dir = tempfile::tempdir().unwrap();
    let path = dir.path().join("studio.db");
    drop(studio(&path));
    let before = std::fs::read(&path).unwrap();
    let (empty, later) = (dir.path().join("empty.db"), dir.path().join("later.db"));
    std::fs::write(&empty, b"").unwrap();
    std::fs::copy(&path, &later).unwrap();
    Connection::open(&later).unwrap().pragma_update(None, "user_version", 4000).unwrap();
    assert!(Store::restore(&empty, &path).unwrap_err().to_string().contains("it is empty"));
    assert!(matches!(Store::restore(&later, &path), Err(StoreError::Newer { .. })));
    assert_eq!(std::fs::read(&path).unwrap(), before);
}

#[test]
fn an_archive_is_not_read_over_grounds_answers_pictures_or_devices() {
    let dir = tempfile::tempdir().unwrap();
    let (from, _) = studio(&dir.path().join("from.db"));
    let archive = archived(&from);
    let answer = Answered { drill: Drill::Value, on: "2025-02-06".into(), size: 0.1, right: true, off: 0.3 };
    type Kind<'a> = (&'a str, &'a dyn Fn(&Store));
    let kinds: [Kind; 4] = [
        ("ground", &|s| assert!(s.create_ground(&crate::damage::ground(1)).is_ok())),
        ("device", &|s| assert!(s.pair_device("phone", "0123").is_ok())),
        ("answer", &|s| s.keep_answer(&answer).unwrap()),
        ("picture", &|s| drop(s.put_picture(b"a", b"b").unwrap())),
    ];
    for (name, put) in kinds {
        let store = Store::open(&dir.path().join(format!("{name}.db"))).unwrap();
        assert!(store.is_empty().unwrap());
        put(&store);
        assert!(matches!(store.import_here(&archive[..]), Err(StoreError::InUse(_))), "{name}");
        assert!(!store.is_empty().unwrap());
    }
}

/// The log of a file that is gone holds pages of it: read into a backup they would make a file of neither.
#[test]
fn the_log_of_a_file_that_is_gone_is_not_read_into_the_backup() {
    let dir = tempfile::tempdir().unwrap();
    let path = dir.path().join("studio.db");
    let (store, id) = studio(&path);
    let backup = Backups::of(&path).of_day(&store, date(2025, 3, 1)).unwrap().unwrap();
    store.apply(id, None, Command::RenameZone(RenameZone { zone: ZoneId(1), name: "later".into() })).unwrap();
    let log = dir.path().join("studio.db-wal");
    let left = std::fs::read(&log).unwrap();
    drop(store);
    std::fs::remove_file(&path).unwrap();
    std::fs::write(&log, &left).unwrap();
    assert!(!left.is_empty() && matches!(Store::import(&b"{}"[..], &path), Err(StoreError::There(_))));
    assert_eq!(Store::restore(&backup, &path).unwrap(), None);
    let store = Store::open(&path).unwrap();
    assert!(store.replaced().is_none());
    assert_eq!(store.piece(id).unwrap().piece.zones[0].name, "sky\u{2028}");
    assert!(names_in(&dir.path().join("backups")).iter().any(|n| n.ends_with("-wal")), "it is kept");
}
