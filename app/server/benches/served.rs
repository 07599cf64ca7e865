//! The running program as a painter meets it: time to the first answer, a 24-megapixel photo taken in and the memory it takes, a
//! dragged mark, a search.
//!
//! Run `cargo bench --bench served`. Dragging is also given as a ratio to the server's quickest answer in the same run.

use image::codecs::jpeg::JpegEncoder;
use image::{ExtendedColorType, ImageEncoder};
use serde_json::{Value, json};
use std::io::{BufRead, BufReader, Read, Write};
use std::net::TcpStream;
use std::path::Path;
use std::process::{Child, Command, Stdio};
use std::time::{Duration, Instant};

struct Server {
    child: Child,
    at: String,
}

impl Server {
    fn start(data: &Path) -> Self {
        let mut child = Command::new(env!("CARGO_BIN_EXE_lean-swatch"))
            .args(["serve", "--demo", "--listen", "127.0.0.1:0", "--data"])
            .arg(data)
            .env("LEAN_SWATCH_LOG", "warn")
            .stdout(Stdio::piped())
            .spawn()
            .expect("the program starts");
        let mut lines = BufReader::new(child.stdout.take().expect("its output is piped")).lines();
        let at = lines
            .find_map(|l| l.ok()?.split("http://").nth(1).map(|a| a.trim().trim_end_matches('/').to_owned()))
            .expect("the program says where it listens");
        std::thread::spawn(move || lines.for_each(drop));
        Self { child, at }
    }

    fn ask(&self, method: &str, path: &str, kind: &str, body: &[u8]) -> Value {
        let mut stream = TcpStream::connect(&self.at).expect("the server listens");
        let head = format!(
            "{method} {path} HTTP/1.1\r\nHost: {}\r\nContent-Type: {kind}\r\nContent-Length: {}\r\nConnection: close\r\n\r\n",
            self.at,
            body.len()
        );
        stream.write_all(head.as_bytes()).and_then(|()| stream.write_all(body)).expect("the request is sent");
        let mut answer = Vec::new();
        stream.read_to_end(&mut answer).expect("the server answers");
        let text = String::from_utf8_lossy(&answer);
        let body = text.split_once("\r\n\r\n").map_or("", |(_, b)| b);
        let body = match (body.find('{'), body.rfind('}')) {
            (Some(a), Some(b)) => &body[a..=b],
            _ => body,
        };
        serde_json::from_str(body).unwrap_or(Value::Null)
    }

    fn get(&self, path: &str) -> Value {
        self.ask("GET", path, "application/json", b"")
    }

    fn post(&self, path: &str, body: &Value) -> Value {
        self.ask("POST", path, "application/json", body.to_string().as_bytes())
    }

    /// Follows a job's events until it has ended, as the page does; gives the times of its first set and of its end.
    fn followed(&self, job: &Value, start: Instant) -> (Option<Duration>, Duration) {
        let mut stream = TcpStream::connect(&self.at).expect("the server listens");
        let head = format!("GET /api/jobs/{}/events HTTP/1.1\r\nHost: {}\r\nConnection: close\r\n\r\n", job["id"], self.at);
        stream.write_all(head.as_bytes()).expect("the request is sent");
        let mut first = None;
        for line in BufReader::new(stream).lines() {
            let line = line.expect("events are text");
            let Some(now) = line.strip_prefix("data:").and_then(|d| serde_json::from_str::<Value>(d).ok()) else { continue };
            if first.is_none() && now["found"].as_array().is_some_and(|f| !f.is_empty()) {
                first = Some(start.elapsed());
            }
            if now["finished"] == true {
                assert_eq!(now["problem"], Value::Null, "{now}");
                return (first, start.elapsed());
            }
        }
        panic!("the events ended before the job did");
    }

    fn most_memory(&self) -> String {
        let status = std::fs::read_to_string(format!("/proc/{}/status", self.child.id())).unwrap_or_default();
        let kilobytes = status.lines().find_map(|l| l.strip_prefix("VmHWM:")?.trim().strip_suffix(" kB")?.parse::<f64>().ok());
        kilobytes.map_or_else(|| "unknown".into(), |k| format!("{:.0} MB", k / 1024.0))
    }
}

impl Drop for Server {
    fn drop(&mut self) {
        let _ = self.child.kill();
        let _ = self.child.wait();
    }
}

/// A made-up photo with texture, so that its file is as large as a phone's.
fn photo(width: u32, height: u32) -> Vec<u8> {
    let mut seed = 1u32;
    let rgb: Vec<u8> = (0..width * height)
        .flat_map(|i| {
            let (u, v) = (f64::from(i % width) / f64::from(width), f64::from(i / width) / f64::from(height));
            seed = seed.wrapping_mul(1_664_525).wrapping_add(1_013_904_223);
            let grain = f64::from(seed >> 24) / 12.0 - 10.0;
            let wall = f64::from(u8::from((0.3..0.7).contains(&u) && (0.35..0.8).contains(&v)));
            let base = 190.0 - 90.0 * wall * (1.5 - u) + 30.0 * (v * 9.0).sin() * (u * 7.0).cos();
            [base + 18.0 * wall + grain, base + grain, base + 20.0 * (1.0 - v) + grain].map(|c| c.clamp(0.0, 255.0) as u8)
        })
        .collect();
    let mut out = Vec::new();
    JpegEncoder::new_with_quality(&mut out, 90).write_image(&rgb, width, height, ExtendedColorType::Rgb8).expect("a JPEG is written");
    out
}

fn main() {
    let folder = tempfile::tempdir().expect("a folder for the data file");
    let data = folder.path().join("studio.db");
    let filled = Command::new(env!("CARGO_BIN_EXE_lean-swatch")).arg("fill-demo").arg(&data).status().expect("the program starts");
    assert!(filled.success(), "the demo is filled");

    let start = Instant::now();
    let server = Server::start(&data);
    assert_eq!(server.get("/api/health")["ok"], true);
    println!("start to first answer on an existing file: {:.0?}", start.elapsed());

    let floor = (0..50).map(|_| timed(|| server.get("/api/health"))).min().unwrap_or_default();
    let revision = server.get("/api/pieces/1")["revision"].clone();
    let mut drags: Vec<Duration> = (0..60)
        .map(|i| {
            let to = json!({ "value": 3.0 + f64::from(i) * 0.06, "temperature": f64::from(i % 9) - 4.0 });
            let body = json!({ "base_revision": revision, "zone": 1 + i % 5, "to": to });
            timed(|| assert!(server.post("/api/pieces/1/zones/preview", &body)["mixes"].is_array()))
        })
        .collect();
    drags.sort();
    println!(
        "a mark dragged: half of the answers within {:.1?}, the slowest {:.1?}; {:.0} times the quickest answer of the server",
        drags[30],
        drags[59],
        drags[30].as_secs_f64() / floor.as_secs_f64()
    );

    let start = Instant::now();
    let (first, all) = server.followed(&server.post("/api/pieces/1/search", &Value::Null), start);
    println!("search over 60 pigments, 9 zones, sizes 2..6: first size after {:.2?}, all after {all:.2?}", first.unwrap_or(all));

    for (w, h) in [(4000, 3000), (6000, 4000)] {
        let bytes = photo(w, h);
        let start = Instant::now();
        let job = server.ask("PUT", "/api/pieces/1/reference?file_name=photo.jpg", "application/octet-stream", &bytes);
        let (_, all) = server.followed(&job, start);
        println!(
            "{} megapixels ({} MB) sent, read, zoned, kept: {all:.2?}; most memory so far {}",
            w * h / 1_000_000,
            bytes.len() >> 20,
            server.most_memory()
        );
    }
}

fn timed<T>(work: impl FnOnce() -> T) -> Duration {
    let start = Instant::now();
    work();
    start.elapsed()
}
