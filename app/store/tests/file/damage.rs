//! A data file whose bytes were changed by something else: what is read is either what was written, or it is said that it is not.

use crate::made_up::{finished, study};
use lean_colour::Lab;
use lean_piece::easel::Outcome;
use lean_piece::paint_box::{BoxId, PaintBox};
use lean_plan::field_note::FieldNote;
use lean_store::{Store, StoreError};
use rand_like::Chance;
use std::path::Path;

/// Numbers that look random and repeat.
mod rand_like {
    pub struct Chance(pub u64);

    impl Chance {
        pub fn below(&mut self, n: usize) -> usize {
            self.0 = self.0.wrapping_mul(6_364_136_223_846_793_005).wrapping_add(1_442_695_040_888_963_407);
            ((self.0 >> 33) as usize) % n
        }
    }
}

/// Kinds of damage, each tried at fifty places.
const KINDS: [&str; 5] = ["a bit", "a byte", "sixteen bytes gone", "a page of nothing", "a page in the place of another"];
const PLACES: usize = 50;
const PAGE: usize = 4096;

fn fill(path: &Path) {
    let store = Store::open(path).unwrap();
    let picture: Vec<u8> = (0..60_000u32).map(|n| (n.wrapping_mul(2_654_435_761) >> 24) as u8).collect();
    store.put_picture(&picture, &picture[..40_000]).unwrap();
    let pigments = lean_demo::pans().pigments;
    store.put_box(&BoxId("pans".into()), &PaintBox { name: "Pans".into(), medium: lean_media::Medium::Watercolour, pigments }).unwrap();
    for n in 0..12 {
        let mut piece = finished(&format!("Weir {n}"), "2025-02-06", Outcome::InPart);
        piece.studies = (1..=9).map(|s| study(s, &[Lab::new(f64::from(s) * 9.87, 3.21, f64::from(n) - 6.123_456)], "2025-02-06")).collect();
        let kept = store.create_piece(&piece).unwrap();
        let brief = lean_piece::Brief { title: format!("Weir {n}, again"), ..piece.brief };
        store.apply(kept.id, None, lean_piece::Command::SetBrief(lean_piece::change::SetBrief { brief })).unwrap();
    }
    let note = |n: i32| FieldNote { words: format!("mist {n} over the sluice"), ..blank() };
    for n in 0..12 {
        store.create_field_note(&note(n)).unwrap();
    }
}

fn blank() -> FieldNote {
    serde_json::from_str(
        r#"{"words":"","at":"2025-01-18T07:40","light":"","weather":"","photo":null,"file_name":"","proportion":1.5,"outline":[],"marks":[]}"#,
    )
    .unwrap()
}

/// Everything a painter would see, as text; an error where something is not sound.
fn read(path: &Path) -> Result<String, StoreError> {
    let store = Store::open(path)?;
    let mut all = Vec::new();
    for id in 1..=12 {
        let kept = store.piece(id)?;
        all.push(format!("{} {:?} {}", kept.revision, kept.undo, serde_json::to_string(&kept.piece)?));
    }
    all.extend(store.pieces()?.iter().map(|line| format!("{line:?}")));
    all.push(serde_json::to_string(&store.paint_box(&BoxId("pans".into()))?)?);
    let notes = store.field_notes()?;
    all.extend(notes.iter().map(|n| format!("{n:?}")));
    for id in 1..=12 {
        all.push(serde_json::to_string(&store.undo(id, 2)?.piece)?);
    }
    let problems = store.check_all(&|_| {})?.problems;
    if problems.is_empty() { Ok(all.join("\n")) } else { Err(StoreError::Damaged(problems.join(" "))) }
}

fn damaged(bytes: &[u8], kind: usize, chance: &mut Chance) -> Vec<u8> {
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
    bytes
}

#[test]
fn no_damage_to_the_file_changes_what_is_read_without_a_word() {
    let dir = tempfile::tempdir().unwrap();
    let sound = dir.path().join("sound.db");
    fill(&sound);
    let (written, bytes) = (read(&sound).unwrap(), std::fs::read(&sound).unwrap());
    let mut chance = Chance(20_250_206);
    let (mut said, mut silent) = (0, Vec::new());
    for n in 0..KINDS.len() * PLACES {
        let path = dir.path().join(format!("{n}.db"));
        std::fs::write(&path, damaged(&bytes, n % KINDS.len(), &mut chance)).unwrap();
        match read(&path) {
            Err(_) => said += 1,
            Ok(text) if text == written => {}
            Ok(_) => silent.push((n, KINDS[n % KINDS.len()])),
        }
        std::fs::remove_file(&path).unwrap();
    }
    assert!(silent.is_empty(), "{} of {} changed what was read and nobody said so: {silent:?}", silent.len(), KINDS.len() * PLACES);
    assert!(said > 50, "only {said} were said: the damage hit nothing");
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
