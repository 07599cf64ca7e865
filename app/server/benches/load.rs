//! Fifty painters at once, three thousand pieces, twenty photos of twelve megapixels: what a server of its own answers.
//!
//! Run `cargo bench -p lean-swatch --bench load`. Client and server share the machine.

#[path = "asking/mod.rs"]
mod asking;

use asking::{Client, most_memory, serve, told};
use image::codecs::jpeg::JpegEncoder;
use image::{ExtendedColorType, ImageEncoder};
use lean_store::Store;
use serde_json::{Value, json};
use std::net::SocketAddr;
use std::path::Path;
use std::time::{Duration, Instant};
use tokio::task::JoinSet;

const PAINTERS: usize = 50;
const PIECES: i64 = 3000;
const DRAGS: usize = 4;
/// How long a painter looks before the next mark is taken up.
const LOOKED: Duration = Duration::from_secs(8);
const MOVES_OF_A_DRAG: usize = 12;
const UPLOADS: usize = 20;

/// Pieces like the fullest one in work of the demo, with its set, and without what only one of them has.
fn fill(data: &Path) {
    let store = Store::open(data).expect("a data file");
    let rest = lean_swatch::demo::begin(&store).unwrap_or_else(|p| panic!("{}", p.detail)).expect("an empty data file");
    rest.fill_in_work(&store).unwrap_or_else(|p| panic!("{}", p.detail));
    let like = store.piece(1).expect("the demo's first piece").piece;
    let piece = lean_piece::Piece { search: None, chart: None, studies: Vec::new(), chosen_study: None, ..like };
    let there = store.pieces().expect("a list").len() as i64;
    for _ in there..PIECES {
        store.create_piece(&piece).expect("kept");
    }
}

/// One painter drags marks of one piece: questions on the way, and a move where it is let go.
async fn painter(host: SocketAddr, piece: i64, alone: bool) -> (Vec<Duration>, Vec<Duration>) {
    let mut client = Client::to(host).await;
    let (mut asked, mut moved) = (Vec::new(), Vec::new());
    let view = client.json("GET", &format!("/api/pieces/{piece}"), &Value::Null).await.1;
    let zones: Vec<i64> = view["piece"]["zones"].as_array().expect("zones").iter().filter_map(|z| z["id"].as_i64()).collect();
    let mut revision = view["revision"].as_i64().expect("a revision");
    // Nobody begins at the same moment as everybody.
    let first = LOOKED.mul_f64((piece % PAINTERS as i64) as f64 / PAINTERS as f64);
    tokio::time::sleep(if alone { Duration::ZERO } else { first }).await;
    for drag in 0..DRAGS {
        let zone = zones[(piece as usize + drag) % zones.len()];
        let to = |step: usize| json!({ "value": 3.0 + 0.3 * step as f64, "temperature": -4.0 + step as f64 });
        for step in 0..MOVES_OF_A_DRAG {
            let at = Instant::now();
            let body = json!({ "base_revision": revision, "zone": zone, "to": to(step) });
            let (status, said) = client.json("POST", &format!("/api/pieces/{piece}/zones/preview"), &body).await;
            assert_eq!(status, 200, "{said}");
            asked.push(at.elapsed());
            // A hand moves on about every thirtieth of a second.
            tokio::time::sleep(Duration::from_millis(33)).await;
        }
        let at = Instant::now();
        let body = json!({ "base_revision": revision, "zone": zone, "to": to(MOVES_OF_A_DRAG) });
        let (status, next) = client.json("POST", &format!("/api/pieces/{piece}/zones/move"), &body).await;
        assert_eq!(status, 200, "{next}");
        moved.push(at.elapsed());
        revision = next["revision"].as_i64().expect("a revision");
        tokio::time::sleep(if alone { Duration::ZERO } else { LOOKED }).await;
    }
    (asked, moved)
}

async fn painters(host: SocketAddr, many: usize) {
    let mut all = JoinSet::new();
    (0..many).for_each(|n| drop(all.spawn(painter(host, 100 + n as i64, many == 1))));
    let (mut asked, mut moved) = (Vec::new(), Vec::new());
    while let Some(done) = all.join_next().await {
        let (a, m) = done.expect("no painter was refused");
        asked.extend(a);
        moved.extend(m);
    }
    told(&format!("{many} at once, a mark dragged"), asked);
    told(&format!("{many} at once, a mark put down"), moved);
}

/// A photo of twelve megapixels that no two share.
fn photo(seed: u32) -> Vec<u8> {
    let (w, h) = (4000u32, 3000u32);
    let pixel = |n: u32| {
        let (x, y) = (n % w, n / w);
        [(x / 17 + seed) as u8, (y / 13) as u8, ((x + y) / 23) as u8]
    };
    let rgb: Vec<u8> = (0..w * h).flat_map(pixel).collect();
    let mut out = Vec::new();
    JpegEncoder::new_with_quality(&mut out, 85).write_image(&rgb, w, h, ExtendedColorType::Rgb8).expect("a JPEG");
    out
}

async fn upload(host: SocketAddr, piece: i64, file: Vec<u8>) -> Duration {
    let mut client = Client::to(host).await;
    let at = Instant::now();
    let path = format!("/api/pieces/{piece}/easel/photos?at=2025-01-18T10:00&file_name=photo.jpg");
    let (status, said) = client.ask("PUT", &path, "application/octet-stream", &file).await;
    assert_eq!(status, 200, "{}", String::from_utf8_lossy(&said));
    at.elapsed()
}

fn main() {
    let folder = tempfile::tempdir().expect("a folder");
    let data = folder.path().join("load.db");
    fill(&data);
    let (mut server, host) = serve(&data);
    let runtime = tokio::runtime::Runtime::new().expect("a runtime");
    runtime.block_on(async {
        let mut client = Client::to(host).await;
        let mut lists = Vec::new();
        for _ in 0..12 {
            let at = Instant::now();
            let (status, list) = client.json("GET", "/api/studio", &Value::Null).await;
            assert_eq!((status, list["pieces"].as_array().map(Vec::len)), (200, Some(PIECES as usize)));
            lists.push(at.elapsed());
        }
        println!("list of {PIECES} pieces: first {:.0} ms", lists.remove(0).as_secs_f64() * 1000.0);
        told("list again", lists);
        painters(host, 1).await;
        painters(host, PAINTERS).await;
        println!("memory: {:.0} MB at most so far", most_memory(&server));
        let mut all = JoinSet::new();
        let files: Vec<Vec<u8>> = (0..UPLOADS as u32).map(photo).collect();
        for (n, file) in files.into_iter().enumerate() {
            all.spawn(upload(host, 500 + n as i64, file));
        }
        let mut times = Vec::new();
        while let Some(done) = all.join_next().await {
            times.push(done.expect("taken in"));
        }
        told(&format!("{UPLOADS} photos of 12 megapixels side by side"), times);
        println!("memory: {:.0} MB at most", most_memory(&server));
    });
    server.kill().expect("it ends");
}
