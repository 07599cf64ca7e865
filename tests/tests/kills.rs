//! Nothing acknowledged is lost when the program is killed: while it writes and backs up, takes pictures in, imports, restores, rescues, or brings
//! an old file up to date. `KILLS=700 cargo test --workspace --test kills` kills it that often; without, a few times.

use lean_browser_tests::ask::{ask, put};
use lean_browser_tests::pictures;
use lean_browser_tests::server::{Server, program};
use proptest::prelude::Rng;
use proptest::test_runner::{RngAlgorithm, TestRng};
use serde_json::{Value, json};
use std::collections::BTreeSet;
use std::path::{Path, PathBuf};
use std::process::{Command, Stdio};
use std::sync::atomic::{AtomicBool, Ordering};
use std::time::{Duration, Instant};

/// How often it is killed while it writes.
fn kills() -> usize {
    std::env::var("KILLS").ok().and_then(|n| n.parse().ok()).unwrap_or(8)
}

fn moments(seed: u8) -> TestRng {
    TestRng::from_seed(RngAlgorithm::ChaCha, &[seed; 32])
}

/// A moment before `latest`.
fn moment(rng: &mut TestRng, latest: Duration) -> Duration {
    latest.mul_f64((rng.next_u64() % 1000) as f64 / 1000.0)
}

fn note(words: &str) -> Value {
    json!({ "words": words, "at": "2025-01-18T07:40", "light": "", "weather": "", "photo": null, "file_name": "", "proportion": 1.5, "outline": [], "marks": [] })
}

fn brief(title: &str) -> Value {
    json!({ "title": title, "medium": "oil", "ground": "panel-white", "size": { "width": 200, "height": 150 } })
}

/// What was acknowledged so far.
#[derive(Default)]
struct Acknowledged {
    notes: BTreeSet<String>,
    revision: i64,
    title: usize,
    backups: usize,
}

impl Acknowledged {
    /// Writes until the server is gone or it is told to stop.
    fn write(&mut self, address: &str, piece: i64, over: &AtomicBool) {
        while !over.load(Ordering::Relaxed) {
            let words = format!("note {}", self.notes.len());
            if ask(address, "POST", "/api/field-notes", &note(&words)).is_none() {
                return;
            }
            self.notes.insert(words);
            let next = self.title + 1;
            let request =
                json!({ "base_revision": self.revision, "request": { "do": "set-brief", "brief": brief(&format!("Weir {next}")) } });
            let Some(view) = ask(address, "POST", &format!("/api/pieces/{piece}/requests"), &request) else { return };
            (self.title, self.revision) = (next, view["revision"].as_i64().unwrap());
            if next.is_multiple_of(5) && ask(address, "POST", "/api/keeping/backup", &Value::Null).is_some() {
                self.backups += 1;
            }
        }
    }

    /// Compares with what is there now, and takes over what was under way when it ended.
    fn compare(&mut self, address: &str, piece: i64) {
        let notes = ask(address, "GET", "/api/field-notes", &Value::Null).expect("the notes are read");
        let there: BTreeSet<String> = notes.as_array().unwrap().iter().map(|n| n["note"]["words"].as_str().unwrap().to_owned()).collect();
        let lost: Vec<_> = self.notes.difference(&there).collect();
        assert!(lost.is_empty(), "acknowledged and lost: {lost:?}");
        self.notes = there;
        let view = ask(address, "GET", &format!("/api/pieces/{piece}"), &Value::Null).expect("the piece is read");
        let title: usize = view["piece"]["brief"]["title"].as_str().unwrap().trim_start_matches("Weir ").parse().unwrap();
        assert!(title == self.title || title == self.title + 1, "Weir {} was acknowledged, Weir {title} is there", self.title);
        (self.title, self.revision) = (title, view["revision"].as_i64().unwrap());
    }
}

#[test]
fn what_was_acknowledged_is_there_after_a_kill() {
    let folder = tempfile::tempdir().unwrap();
    let data = folder.path().join("studio.db");
    let (mut rng, mut done) = (moments(7), Acknowledged::default());
    let mut server = Server::start(&data, false);
    let made = ask(&server.address, "POST", "/api/pieces", &json!({ "brief": brief("Weir 0") })).expect("a piece is made");
    let piece = made["id"].as_i64().unwrap();
    done.revision = made["revision"].as_i64().unwrap();
    for _ in 0..kills() {
        let (address, over) = (server.address.clone(), AtomicBool::new(false));
        std::thread::scope(|s| {
            s.spawn(|| done.write(&address, piece, &over));
            // The moment it is killed at, not a wait for something to happen.
            std::thread::sleep(Duration::from_millis(20) + moment(&mut rng, Duration::from_millis(250)));
            server.kill();
            over.store(true, Ordering::Relaxed);
        });
        server = Server::start(&data, false);
        done.compare(&server.address, piece);
    }
    let (notes, changes) = (done.notes.len(), done.title);
    eprintln!("{} kills: {notes} notes, {changes} changes and {} backups acknowledged, none lost", kills(), done.backups);
    assert!(notes > kills() && changes > kills(), "{notes} notes and {changes} changes are too few to tell");
    drop(server);
    assert_eq!(sound(&data), None);
}

/// Runs a command of the program to its end. What it says of a failure.
fn run(args: &[&str], data: &Path) -> Option<String> {
    let out = Command::new(program()).args(args).arg("--data").arg(data).env("LEAN_SWATCH_LOG", "warn").output().unwrap();
    (!out.status.success()).then(|| String::from_utf8_lossy(&[out.stdout, out.stderr].concat()).into_owned())
}

/// What the check finds wrong with a data file.
fn sound(data: &Path) -> Option<String> {
    run(&["check"], data)
}

/// Starts a command of the program and kills it after so long.
fn killed(args: &[&str], data: &Path, after: Duration) {
    let mut command = Command::new(program());
    command.args(args).arg("--data").arg(data).env("LEAN_SWATCH_LOG", "error").stdout(Stdio::null()).stderr(Stdio::null());
    let mut child = command.spawn().unwrap();
    std::thread::sleep(after);
    let _ = child.kill();
    child.wait().unwrap();
}

/// Everything a data file holds, as the archive tells it.
fn told(data: &Path) -> String {
    let archive = data.with_extension("told.json");
    assert_eq!(run(&["export", archive.to_str().unwrap()], data), None);
    let text = std::fs::read_to_string(&archive).unwrap();
    std::fs::remove_file(archive).unwrap();
    text
}

/// The file the first released program left, with three hundred notes more.
fn old_and_new(folder: &Path) -> (PathBuf, PathBuf) {
    let first = Path::new(env!("CARGO_MANIFEST_DIR")).join("../app/store/tests/data/maps_inline.db");
    let (old, new) = (folder.join("old.db"), folder.join("new.db"));
    std::fs::copy(&first, &old).unwrap();
    std::fs::copy(&first, &new).unwrap();
    let server = Server::start(&new, false);
    for n in 0..300 {
        ask(&server.address, "POST", "/api/field-notes", &note(&format!("note {n}"))).expect("a note is kept");
    }
    (old, new)
}

#[test]
fn a_killed_import_leaves_nothing_or_everything() {
    let folder = tempfile::tempdir().unwrap();
    let (_, studio) = old_and_new(folder.path());
    let archive = folder.path().join("archive.json");
    let archive = archive.to_str().unwrap();
    assert_eq!(run(&["export", archive], &studio), None);
    let (whole, began) = (folder.path().join("whole.db"), Instant::now());
    assert_eq!(run(&["import", archive], &whole), None);
    let (takes, everything) = (began.elapsed(), told(&whole));
    let (mut rng, mut early, mut all) = (moments(11), 0, 0);
    for n in 0..kills().div_ceil(4) {
        let data = folder.path().join(format!("import{n}.db"));
        killed(&["import", archive], &data, moment(&mut rng, takes));
        if data.exists() {
            assert_eq!(sound(&data), None, "import {n}");
            assert_eq!(told(&data), everything, "import {n}");
            all += 1;
        } else {
            assert_eq!(run(&["import", archive], &data), None, "import {n} cannot be done again");
            early += 1;
        }
    }
    eprintln!("imports killed: {early} left nothing, {all} left everything");
    assert!(early > 0, "every import was over before it was killed");
}

#[test]
fn a_killed_migration_is_made_up_for() {
    let folder = tempfile::tempdir().unwrap();
    let (old, _) = old_and_new(folder.path());
    let data = folder.path().join("studio.db");
    let fresh = || {
        for left in ["studio.db", "studio.db-wal", "studio.db-shm"] {
            let _ = std::fs::remove_file(folder.path().join(left));
        }
        std::fs::copy(&old, &data).unwrap();
    };
    fresh();
    let began = Instant::now();
    drop(Server::start(&data, false));
    let (takes, everything) = (began.elapsed(), told(&data));
    let mut rng = moments(13);
    for n in 0..kills().div_ceil(4) {
        fresh();
        killed(&["serve", "--listen", "127.0.0.1:0"], &data, moment(&mut rng, takes));
        drop(Server::start(&data, false));
        assert_eq!(sound(&data), None, "migration {n}");
        assert_eq!(told(&data), everything, "migration {n}");
    }
}

#[test]
fn a_killed_restore_leaves_a_whole_data_file_in_its_place() {
    let folder = tempfile::tempdir().unwrap();
    let (_, data) = old_and_new(folder.path());
    let backup = folder.path().join("backup.db");
    assert_eq!(run(&["backup", backup.to_str().unwrap()], &data), None);
    let server = Server::start(&data, false);
    for n in 0..300 {
        ask(&server.address, "POST", "/api/field-notes", &note(&format!("later {n}"))).expect("a note is kept");
    }
    drop(server);
    let (earlier, later) = (told(&backup), told(&data));
    let newest = folder.path().join("newest.db");
    assert_eq!(run(&["backup", newest.to_str().unwrap()], &data), None);
    let began = Instant::now();
    assert_eq!(run(&["restore", backup.to_str().unwrap()], &data), None);
    let takes = began.elapsed();
    let (mut rng, mut before, mut after) = (moments(17), 0, 0);
    for n in 0..kills().div_ceil(4) {
        assert_eq!(run(&["restore", newest.to_str().unwrap()], &data), None);
        killed(&["restore", backup.to_str().unwrap()], &data, moment(&mut rng, takes));
        assert!(data.exists(), "restore {n} left no data file");
        assert_eq!(sound(&data), None, "restore {n}");
        let now = told(&data);
        assert!(now == earlier || now == later, "restore {n} left neither the one nor the other");
        if now == later { before += 1 } else { after += 1 }
    }
    eprintln!("restores killed: {before} left the file as it was, {after} the backup in its place");
}

#[test]
fn a_killed_rescue_leaves_the_damaged_file_and_nothing_half_made() {
    let folder = tempfile::tempdir().unwrap();
    let (_, data) = old_and_new(folder.path());
    // The second half of a page in the middle of the file is gone.
    let mut bytes = std::fs::read(&data).unwrap();
    let middle = bytes.len() / 8192 * 4096;
    bytes[middle + 2048..middle + 4096].fill(0);
    std::fs::write(&data, &bytes).unwrap();
    let rescued = |to: &Path| {
        let out = Command::new(program()).arg("rescue").arg(&data).arg("--data").arg(to).output().unwrap();
        assert!(matches!(out.status.code(), Some(0 | 3)), "{out:?}");
    };
    let (whole, began) = (folder.path().join("whole.db"), Instant::now());
    rescued(&whole);
    let (takes, everything) = (began.elapsed(), told(&whole));
    let (mut rng, file) = (moments(19), data.to_str().unwrap().to_owned());
    for n in 0..kills().div_ceil(4) {
        let to = folder.path().join(format!("rescued{n}.db"));
        killed(&["rescue", &file], &to, moment(&mut rng, takes));
        if !to.exists() {
            rescued(&to);
        }
        assert_eq!(told(&to), everything, "rescue {n}");
        assert!(std::fs::read(&data).unwrap() == bytes, "rescue {n} changed the damaged file");
    }
}

#[test]
fn a_picture_taken_in_by_a_killed_server_is_there_or_is_not() {
    let folder = tempfile::tempdir().unwrap();
    let data = folder.path().join("studio.db");
    let photo = folder.path().join("barn.jpg");
    pictures::barn(&photo, 1600, 1200);
    let photo = std::fs::read(photo).unwrap();
    let mut server = Server::start(&data, false);
    let mut rng = moments(23);
    for n in 0..kills().div_ceil(4) {
        let made = ask(&server.address, "POST", "/api/pieces", &json!({ "brief": brief(&format!("Barn {n}")) })).expect("a piece is made");
        let (address, path) = (server.address.clone(), format!("/api/pieces/{}/others?file_name=barn.jpg", made["id"]));
        let acknowledged = std::thread::scope(|s| {
            let sent = s.spawn(|| put(&address, &path, &photo).is_some());
            std::thread::sleep(moment(&mut rng, Duration::from_millis(600)));
            server.kill();
            sent.join().unwrap()
        });
        server = Server::start(&data, false);
        let view = ask(&server.address, "GET", &format!("/api/pieces/{}", made["id"]), &Value::Null).expect("the piece is read");
        assert!(!acknowledged || view["piece"]["others"].as_array().unwrap().len() == 1, "photo {n} was acknowledged and lost");
    }
    drop(server);
    assert_eq!(sound(&data), None);
}
