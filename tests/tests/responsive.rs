//! Whatever takes long, the server answers: its health is asked every 50 ms during each long work, alone and beside another.

use lean_browser_tests::ask::{ask, put, send};
use lean_browser_tests::pictures;
use lean_browser_tests::server::Server;
use serde_json::{Value, json};
use std::sync::atomic::{AtomicBool, Ordering};
use std::time::{Duration, Instant};

/// How often it is asked.
const EVERY: Duration = Duration::from_millis(50);
/// How long an answer may take.
const AT_MOST: Duration = Duration::from_millis(300);

/// Files that are sent.
struct Files {
    photo: Vec<u8>,
    sheet: Vec<u8>,
}

type Work = (&'static str, fn(&str, &Files));

/// Long work of every kind.
const WORKS: [Work; 6] = [
    ("a search", |address, _| job(address, "/api/pieces/1/search", &Value::Null)),
    ("studies", |address, _| job(address, "/api/pieces/1/studies", &json!({ "count": 3 }))),
    ("a photo of 24 megapixels", |address, files| {
        let read = put(address, "/api/pieces/2/reference?file_name=large.jpg", &files.photo).expect("the photo is taken in");
        ended(address, &read);
    }),
    ("a sheet of compositions", |address, files| {
        put(address, "/api/pieces/3/compositions?file_name=sheet.jpg", &files.sheet).expect("the sheet is cut apart");
    }),
    ("a check of everything", |address, _| job(address, "/api/keeping/check", &Value::Null)),
    ("an archive", |address, _| {
        assert!(send(address, "GET", "/api/archive", "application/json", &[]).expect("the archive comes").len() > 1 << 20);
    }),
];

fn job(address: &str, path: &str, body: &Value) {
    let begun = ask(address, "POST", path, body).unwrap_or_else(|| panic!("{path} was refused"));
    ended(address, &begun);
}

/// Waits for a job; the server holds back answers to those who ask too often.
fn ended(address: &str, begun: &Value) {
    loop {
        let now = ask(address, "GET", &format!("/api/jobs/{}", begun["id"]), &Value::Null).expect("the job is known");
        if now["finished"] == true {
            assert!(now["problem"].is_null(), "{now}");
            return;
        }
    }
}

/// Says that the work is over, also where it failed.
struct Ended<'a>(&'a AtomicBool);

impl Drop for Ended<'_> {
    fn drop(&mut self) {
        self.0.store(true, Ordering::Relaxed);
    }
}

/// The slowest answer to a question for health while some work goes on.
fn slowest(address: &str, work: impl FnOnce() + Send) -> Duration {
    let over = AtomicBool::new(false);
    std::thread::scope(|s| {
        let asked = s.spawn(|| {
            let mut slowest = Duration::ZERO;
            while !over.load(Ordering::Relaxed) {
                let began = Instant::now();
                ask(address, "GET", "/api/health", &Value::Null).expect("the server answers");
                slowest = slowest.max(began.elapsed());
                // The pace of the questions, not a wait for something to happen.
                std::thread::sleep(EVERY.saturating_sub(began.elapsed()));
            }
            slowest
        });
        let ended = Ended(&over);
        work();
        drop(ended);
        asked.join().unwrap()
    })
}

#[test]
fn health_is_answered_during_every_long_work_and_any_two_of_them() {
    let folder = tempfile::tempdir().unwrap();
    let server = Server::start(&folder.path().join("demo.db"), true);
    let (photo, sheet) = (folder.path().join("large.jpg"), folder.path().join("sheet.png"));
    pictures::barn(&photo, 6000, 4000);
    pictures::compositions(&sheet);
    let files = Files { photo: std::fs::read(photo).unwrap(), sheet: std::fs::read(sheet).unwrap() };
    let (address, mut late) = (server.address.as_str(), Vec::new());
    // What holds the server up does so every time; a machine that stands still for a moment seldom does it twice.
    let mut judge = |what: String, works: &dyn Fn() -> Duration| {
        let mut took = works();
        if took > AT_MOST {
            eprintln!("{:>4} ms  {what}, once more", took.as_millis());
            took = works();
        }
        eprintln!("{:>4} ms  {what}", took.as_millis());
        if took > AT_MOST {
            late.push(format!("{what}: {} ms, twice", took.as_millis()));
        }
    };
    for (one, work) in &WORKS {
        judge((*one).to_owned(), &|| slowest(address, || work(address, &files)));
    }
    for (n, (one, work)) in WORKS.iter().enumerate() {
        for (other, beside) in &WORKS[n + 1..] {
            let both = || {
                std::thread::scope(|s| {
                    s.spawn(|| work(address, &files));
                    beside(address, &files);
                });
            };
            judge(format!("{one} and {other}"), &|| slowest(address, both));
        }
    }
    assert!(late.is_empty(), "answered later than after {AT_MOST:?}: {late:#?}");
}
