//! A data file whose bytes were changed by something else: what is read is either what was written, or it is said that it is not.

use crate::data_file::reading_of as reading;
use crate::made_up::{finished, study};
use lean_colour::Lab;
use lean_drills::{Answered, Drill};
use lean_media::ground::OwnGround;
use lean_piece::easel::Outcome;
use lean_piece::own_ground::GroundRecord;
use lean_piece::paint_box::{BoxId, PaintBox};
use lean_plan::field_note::FieldNote;
use lean_store::{Readings, Store, StoreError};
use rand_like::Chance;
use std::collections::{BTreeMap, BTreeSet, HashMap};
use std::path::Path;

/// Numbers that look random and repeat.
mod rand_like {
    pub(super) struct Chance(pub u64);

    impl Chance {
        pub(super) fn below(&mut self, n: usize) -> usize {
            self.0 = self.0.wrapping_mul(6_364_136_223_846_793_005).wrapping_add(1_442_695_040_888_963_407);
            ((self.0 >> 33) as usize) % n
        }
    }
}

/// Kinds of damage, each tried at sixty places.
const KINDS: [&str; 5] = ["a bit", "a byte", "sixteen bytes gone", "a page of nothing", "a page in the place of another"];
const PLACES: usize = 60;
const PAGE: usize = 4096;
const PIECES: i64 = 12;

fn fill(path: &Path) {
    let store = Store::open(path).unwrap();
    let picture: Vec<u8> = (0..60_000u32).map(|n| (n.wrapping_mul(2_654_435_761) >> 24) as u8).collect();
    store.put_picture(&picture, &picture[..40_000]).unwrap();
    let pigments = lean_demo::pans().pigments;
    let pans = BoxId("pans".into());
    store.put_box(&pans, &PaintBox { name: "Pans".into(), medium: lean_media::Medium::Watercolour, pigments }).unwrap();
    for n in 0..PIECES {
        let mut piece = finished(&format!("Weir {n}"), "2025-02-06", Outcome::InPart);
        piece.studies = (1..=9).map(|s| study(s, &[Lab::new(f64::from(s) * 9.87, 3.21, n as f64 - 6.123_456)], "2025-02-06")).collect();
        let kept = store.create_piece(&piece).unwrap();
        let brief = lean_piece::Brief { title: format!("Weir {n}, again"), ..piece.brief };
        store.apply(kept.id, None, lean_piece::Command::SetBrief(lean_piece::change::SetBrief { brief })).unwrap();
    }
    // What was deleted does not come back.
    let gone = store.create_piece(&finished("Deleted", "2025-02-06", Outcome::InPart)).unwrap();
    store.delete_piece(gone.id).unwrap();
    let note = |n: i32| FieldNote { words: format!("mist {n} over the sluice"), ..blank() };
    for n in 0..12 {
        store.create_field_note(&note(n)).unwrap();
        store.create_ground(&ground(n)).unwrap();
        let off = f64::from(n) / 7.0;
        store.keep_answer(&Answered { drill: Drill::Value, on: "2025-02-06".into(), size: 0.1, right: true, off }).unwrap();
    }
    let readings = (0..12).map(|n| reading(f64::from(n))).collect();
    store.change_readings(&pans, Readings::Add(readings), |b, _| Ok::<_, StoreError>(b.clone())).unwrap();
    store.pair_device("tablet", "digest of what it carries").unwrap();
}

fn blank() -> FieldNote {
    serde_json::from_str(
        r#"{"words":"","at":"2025-01-18T07:40","light":"","weather":"","photo":null,"file_name":"","proportion":1.5,"outline":[],"marks":[]}"#,
    )
    .unwrap()
}

pub(crate) fn ground(n: i32) -> GroundRecord {
    let like = "cold-pressed".into();
    let own = OwnGround {
        like,
        name: format!("offcut {n}"),
        lab: Lab::new(90.0, 0.0, 4.0),
        tooth: 0.5,
        absorbency: 0.5,
        layers: 3,
        dry_minutes: 20.0,
    };
    GroundRecord { ground: own, lifts_minutes: Some(f64::from(n)), side: "felt side".into(), opaque_holds: None, rehearsals: Vec::new() }
}

/// Every record a painter sees, as text under what it is called.
fn seen(store: &Store) -> BTreeMap<String, String> {
    let mut all = BTreeMap::new();
    for line in store.pieces().unwrap() {
        let Ok(kept) = store.piece(line.id) else { continue };
        let text = format!("{} {} {line:?}", kept.revision, serde_json::to_string(&kept.piece).unwrap());
        all.insert(format!("piece {}", line.id), text);
        if let Ok(undone) = store.undo(line.id, kept.revision) {
            all.insert(format!("step of {}", line.id), serde_json::to_string(&undone.piece).unwrap());
        }
    }
    all.extend(store.boxes().unwrap().into_iter().map(|b| (format!("Box {}", b.id.0), serde_json::to_string(&b.paint_box).unwrap())));
    all.extend(store.field_notes().unwrap().into_iter().map(|n| (format!("note {}", n.id), format!("{n:?}"))));
    all.extend(store.grounds().unwrap().into_iter().map(|(n, g)| (format!("ground {n}"), format!("{g:?}"))));
    all.extend(store.answers().unwrap().into_iter().map(|a| (format!("answer {}", a.off), format!("{a:?}"))));
    all.extend(store.readings(&BoxId("pans".into())).unwrap().into_iter().map(|(n, r)| (format!("reading {n}"), format!("{r:?}"))));
    all.extend(store.devices().unwrap().into_iter().map(|d| (format!("device {}", d.id), format!("{d:?}"))));
    all
}

/// Whether somebody is told that something is not as it was.
fn told(store: &Store) -> bool {
    store.replaced().is_some() || !store.damaged().unwrap().is_empty() || !store.check_all(&|_| {}).unwrap().problems.is_empty()
}

fn damaged(bytes: &[u8], kind: usize, chance: &mut Chance) -> (Vec<u8>, usize) {
    let mut bytes = bytes.to_vec();
    let at = chance.below(bytes.len() - 16);
    let page = |n: usize| n / PAGE * PAGE;
    match kind {
        0 => bytes[at] ^= 1 << chance.below(8),
        1 => bytes[at] = bytes[at].wrapping_add(1 + chance.below(254) as u8),
        2 => bytes[at..at + 16].fill(0),
        3 => bytes[page(at)..page(at) + PAGE].fill(0),
        _ => {
            let (from, to) = (page(chance.below(bytes.len() - 16)), page(at));
            let taken = bytes[from..from + PAGE].to_vec();
            bytes[to..to + PAGE].copy_from_slice(&taken);
        }
    }
    (bytes, at / PAGE)
}

/// Which record a page holds bytes of: those that stand in one record alone tell it.
struct Pages(Vec<BTreeSet<String>>);

const TELLING: usize = 16;

impl Pages {
    fn of(path: &Path, bytes: &[u8]) -> Self {
        let c = rusqlite::Connection::open(path).unwrap();
        let mut of: HashMap<Vec<u8>, Option<String>> = HashMap::new();
        let texts = "SELECT 'piece ' || id, snapshot FROM pieces UNION ALL SELECT 'step of ' || piece, command || undo FROM log
            UNION ALL SELECT 'Box ' || id, body FROM boxes UNION ALL SELECT 'note ' || id, body FROM field_notes
            UNION ALL SELECT 'ground ' || id, body FROM grounds UNION ALL SELECT 'answer ' || json_extract(body, '$.off'), body FROM drills
            UNION ALL SELECT 'reading ' || id, body FROM readings UNION ALL SELECT 'device ' || id, name || carries FROM devices";
        let mut rows = c.prepare(texts).unwrap();
        let mut rows = rows.query([]).unwrap();
        while let Some(r) = rows.next().unwrap() {
            let (name, text): (String, String) = (r.get(0).unwrap(), r.get(1).unwrap());
            for part in text.as_bytes().windows(TELLING) {
                let is = of.entry(part.to_vec()).or_insert_with(|| Some(name.clone()));
                if is.as_ref().is_some_and(|n| *n != name) {
                    *is = None;
                }
            }
        }
        let held = |page: &[u8]| page.windows(TELLING).filter_map(|p| of.get(p)?.clone()).collect();
        Self(bytes.chunks(PAGE).map(held).collect())
    }

    /// The record as it is called where a page holds it: a piece and its steps are read from the same places.
    fn holds(&self, page: usize, name: &str) -> bool {
        let piece = name.replace("step of", "piece");
        self.0[page].contains(name) || self.0[page].contains(&piece)
    }
}

#[test]
fn damage_is_told_opens_all_the_same_and_takes_nothing_along_that_it_did_not_hit() {
    let dir = tempfile::tempdir().unwrap();
    let sound = dir.path().join("sound.db");
    fill(&sound);
    let bytes = std::fs::read(&sound).unwrap();
    let pages = Pages::of(&sound, &bytes);
    let written = seen(&Store::open(&sound).unwrap());
    let mut chance = Chance(20_250_206);
    let (mut refused, mut silent, mut wrong) = (Vec::new(), Vec::new(), Vec::new());
    let (mut outside, mut saved) = (0_usize, 0_usize);
    for n in 0..KINDS.len() * PLACES {
        let folder = tempfile::tempdir().unwrap();
        let path = folder.path().join("studio.db");
        let (hit, page) = damaged(&bytes, n % KINDS.len(), &mut chance);
        if hit == bytes {
            continue;
        }
        std::fs::write(&path, &hit).unwrap();
        let name = format!("{n}, {} on page {}", KINDS[n % KINDS.len()], page + 1);
        let store = match Store::open(&path) {
            Ok(store) => store,
            Err(e) => {
                refused.push(format!("{name}: {e}"));
                continue;
            }
        };
        let was_told = told(&store);
        let now = seen(&store);
        if now != written && !was_told {
            silent.push(name.clone());
        }
        wrong.extend(now.iter().filter(|(k, v)| written.get(*k) != Some(v) && !k.starts_with("Box ")).map(|(k, _)| format!("{name}: {k}")));
        for record in written.keys().filter(|r| !pages.holds(page, r)) {
            outside += 1;
            saved += usize::from(now.contains_key(record));
        }
    }
    assert!(silent.is_empty(), "{} changed what was read and nobody said so: {silent:?}", silent.len());
    assert!(wrong.is_empty(), "{} are not what was written: {wrong:?}", wrong.len());
    assert!(refused.len() <= 10, "{} of {} were refused: {refused:#?}", refused.len(), KINDS.len() * PLACES);
    let share = saved as f64 / outside as f64;
    assert!(share >= 0.99, "{saved} of {outside} records outside the damaged pages came back");
    println!("refused {}, told all, {saved} of {outside} records outside the damaged pages came back", refused.len());
}

/// Each of these once went by without a word.
#[test]
fn aimed_damage_is_told() {
    let cases = [
        "UPDATE pieces SET aside = 1 WHERE id = 3",
        "UPDATE pieces SET changed = '2024-01-01T00:00:00Z' WHERE id = 3",
        "UPDATE pieces SET revision = 7 WHERE id = 3",
        "UPDATE pieces SET sum = NULL WHERE id = 3",
        "UPDATE pieces SET id = 77 WHERE id = 3",
        "UPDATE boxes SET changed = '2024-01-01T00:00:00Z'",
        "UPDATE field_notes SET aside = 1 WHERE id = 2",
        "UPDATE readings SET body = replace(body, '0', '1') WHERE id = 2",
        "UPDATE drills SET body = replace(body, 'true', 'false') WHERE id = 2",
        "UPDATE grounds SET body = replace(body, 'felt', 'wire') WHERE id = 2",
        "UPDATE devices SET name = 'a stranger'",
        "DELETE FROM log WHERE piece = 4",
        "DELETE FROM maps",
        "DELETE FROM pictures",
        "UPDATE pictures SET sum = NULL",
    ];
    let dir = tempfile::tempdir().unwrap();
    let sound = dir.path().join("sound.db");
    crate::keeping::studio(&sound);
    fill(&sound);
    assert!(!told(&Store::open(&sound).unwrap()));
    for (n, case) in cases.into_iter().enumerate() {
        let path = dir.path().join(format!("{n}.db"));
        std::fs::copy(&sound, &path).unwrap();
        let c = rusqlite::Connection::open(&path).unwrap();
        c.pragma_update(None, "foreign_keys", "OFF").unwrap();
        assert!(c.execute(case, []).unwrap() > 0, "{case} changes nothing");
        drop(c);
        assert!(told(&Store::open(&path).unwrap()), "{case}: nobody said so");
    }
}

#[test]
fn a_damaged_file_gives_way_and_is_kept_and_what_is_taken_out_can_be_worked_on() {
    let dir = tempfile::tempdir().unwrap();
    let path = dir.path().join("studio.db");
    fill(&path);
    let mut bytes = std::fs::read(&path).unwrap();
    let c = rusqlite::Connection::open(&path).unwrap();
    let root: i64 = c.query_row("SELECT rootpage FROM sqlite_schema WHERE name = 'pieces'", [], |r| r.get(0)).unwrap();
    drop(c);
    bytes[(root as usize - 1) * PAGE..root as usize * PAGE].fill(0);
    std::fs::write(&path, &bytes).unwrap();
    assert!(matches!(Store::open_only(&path), Err(StoreError::Damaged(_))));
    let store = Store::open(&path).unwrap();
    let replaced = store.replaced().unwrap().clone();
    assert_eq!(std::fs::read(&replaced.kept).unwrap(), bytes, "the damaged file is kept as it was");
    assert_eq!(store.damaged_files(), [replaced.kept]);
    assert!(!replaced.rescued.lost.is_empty());
    assert!(store.pieces().unwrap().len() >= PIECES as usize - 1, "pages below the damaged one are found: {:?}", replaced.rescued.lost);
    let next = store.create_piece(&finished("Next", "2025-02-07", Outcome::AsHoped)).unwrap();
    assert!(next.id > PIECES + 1, "no number is given twice");
    drop(store);
    let again = Store::open(&path).unwrap();
    assert!(again.replaced().is_none());
    assert_eq!(again.piece(next.id).unwrap().piece.brief.title, "Next");
}

#[test]
fn a_rescue_writes_a_file_of_its_own_and_leaves_the_damaged_one() {
    let dir = tempfile::tempdir().unwrap();
    let (path, new) = (dir.path().join("studio.db"), dir.path().join("new.db"));
    fill(&path);
    let copy = dir.path().join("copy.db");
    std::fs::copy(&path, &copy).unwrap();
    let written = seen(&Store::open(&copy).unwrap());
    // The head of the file is gone: nothing tells which page belongs to which table.
    let mut bytes = std::fs::read(&path).unwrap();
    bytes[..PAGE].fill(0xff);
    std::fs::write(&path, &bytes).unwrap();
    let rescued = Store::rescue(&path, &new).unwrap();
    assert_eq!(std::fs::read(&path).unwrap(), bytes);
    let now = seen(&Store::open(&new).unwrap());
    assert_eq!(now.keys().collect::<Vec<_>>(), written.keys().collect::<Vec<_>>(), "{:?}", rescued.lost);
    assert!(matches!(Store::rescue(&path, &new), Err(StoreError::There(_))));
    let letter = dir.path().join("letter.txt");
    std::fs::write(&letter, "Dear Sir or Madam").unwrap();
    assert!(matches!(Store::rescue(&letter, &dir.path().join("other.db")), Err(StoreError::Damaged(_))));
    assert!(!dir.path().join("other.db").exists());
}

/// A number that is another number is still good JSON: only the sum knows.
#[test]
fn a_changed_digit_is_damage_like_any_other() {
    let dir = tempfile::tempdir().unwrap();
    let path = dir.path().join("studio.db");
    fill(&path);
    let c = rusqlite::Connection::open(&path).unwrap();
    c.execute("UPDATE pieces SET snapshot = replace(snapshot, '3.21', '8.21') WHERE id = 3", []).unwrap();
    c.execute("UPDATE field_notes SET body = replace(body, 'sluice', 'slough') WHERE id = 2", []).unwrap();
    c.execute("UPDATE pieces SET revision = 7 WHERE id = 5", []).unwrap();
    c.execute("UPDATE log SET undo = replace(undo, 'Weir 5', 'Weir 8') WHERE piece = 6", []).unwrap();
    drop(c);
    let store = Store::open(&path).unwrap();
    assert!(store.piece(5).is_err(), "a revision that was never given");
    assert!(store.undo(6, 2).unwrap_err().to_string().contains("not what was written"));
    assert!(store.check_all(&|_| {}).unwrap().problems.iter().any(|p| p.contains("Step 1 of the piece 6")));
    store.put_aside(lean_store::Record::Piece, "5").unwrap();
    assert!(store.piece(3).is_err() && store.field_note(2).is_err());
    assert_eq!(store.pieces().unwrap().len(), 10);
    let told: Vec<String> = store.damaged().unwrap().iter().map(|d| d.id.clone()).collect();
    assert_eq!(told, ["3", "2"]);
    assert!(
        String::from_utf8(store.raw(lean_store::Record::Piece, "3").unwrap()).unwrap().contains("8.21"),
        "it can be written out as it is"
    );
    store.put_aside(lean_store::Record::Piece, "3").unwrap();
    assert_eq!(store.damaged().unwrap().len(), 1);
}
