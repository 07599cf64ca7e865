//! How far one data file goes: ten thousand pieces and a hundred thousand readings.
//!
//! Run `cargo bench -p lean-swatch --bench scale`. Filling takes some minutes.

#[path = "asking/mod.rs"]
mod asking;

use asking::{Client, most_memory, serve, told};
use lean_piece::paint_box::{BoxId, PaintBox};
use lean_store::{Readings, Store, StoreError};
use serde_json::{Value, json};
use std::path::Path;
use std::time::{Duration, Instant};

const PIECES: usize = 10_000;
const BOXES: usize = 100;
const READINGS: usize = 100_000;
/// How often each thing is asked.
const ASKED: usize = 20;

/// Pieces like one in work of the demo, and Boxes with readings like those of the demo.
fn fill(data: &Path) {
    let store = Store::open(data).expect("a data file");
    let rest = lean_swatch::demo::begin(&store).unwrap_or_else(|p| panic!("{}", p.detail)).expect("an empty data file");
    rest.fill_in_work(&store).unwrap_or_else(|p| panic!("{}", p.detail));
    let like = store.piece(1).expect("the demo's first piece").piece;
    let there = store.pieces().expect("a list").len();
    (there..PIECES).for_each(|_| drop(store.create_piece(&like).expect("kept")));
    let pans = BoxId("hen-pans".into());
    let (pan_box, known) = (store.paint_box(&pans).expect("a Box"), store.readings(&pans).expect("readings"));
    let many: Vec<_> = known
        .iter()
        .map(|(_, r)| lean_piece::paint_box::SwatchReading { tried_for: None, ..r.clone() })
        .cycle()
        .take(READINGS / BOXES)
        .collect();
    for n in 0..BOXES {
        let id = BoxId(format!("school-{n}"));
        store.put_box(&id, &PaintBox { name: format!("School {n}"), ..pan_box.clone() }).expect("kept");
        let as_it_was = |b: &PaintBox, _: &[(i64, lean_piece::paint_box::SwatchReading)]| Ok::<_, StoreError>(b.clone());
        store.change_readings(&id, Readings::Add(many.clone()), as_it_was).expect("kept");
    }
}

/// The same question again and again.
async fn asked(client: &mut Client, what: &str, method: &str, path: &str, body: &Value) {
    let mut times: Vec<Duration> = Vec::new();
    for _ in 0..ASKED {
        let at = Instant::now();
        let (status, said) = client.json(method, path, body).await;
        assert_eq!(status / 100, 2, "{path}: {said}");
        times.push(at.elapsed());
    }
    told(what, times);
}

fn main() {
    let folder = tempfile::tempdir().expect("a folder");
    let data = folder.path().join("scale.db");
    let at = Instant::now();
    fill(&data);
    let bytes = std::fs::metadata(&data).map_or(0, |m| m.len());
    println!("{PIECES} pieces and {READINGS} readings: {:.0} MB, filled in {:.0} s", bytes as f64 / 1e6, at.elapsed().as_secs_f64());
    let at = Instant::now();
    let (mut server, host) = serve(&data);
    println!("it listens after {:.1} s", at.elapsed().as_secs_f64());
    let runtime = tokio::runtime::Runtime::new().expect("a runtime");
    runtime.block_on(async {
        let mut client = Client::to(host).await;
        let at = Instant::now();
        let (status, list) = client.json("GET", "/api/studio", &Value::Null).await;
        assert_eq!((status, list["pieces"].as_array().map(Vec::len)), (200, Some(PIECES)));
        println!("list of pieces, first: {:.1} s", at.elapsed().as_secs_f64());
        asked(&mut client, "list of pieces", "GET", "/api/studio", &Value::Null).await;
        let view = client.json("GET", "/api/pieces/9000", &Value::Null).await.1;
        let zone = view["piece"]["zones"][3]["id"].clone();
        let drag = json!({ "base_revision": view["revision"], "zone": zone, "to": { "value": 4.2 } });
        asked(&mut client, "a mark dragged", "POST", "/api/pieces/9000/zones/preview", &drag).await;
        let mut times = Vec::new();
        let mut revision = view["revision"].clone();
        for step in 0..ASKED {
            let body = json!({ "base_revision": revision, "zone": zone, "to": { "value": 3.0 + 0.1 * step as f64 } });
            let at = Instant::now();
            let (status, next) = client.json("POST", "/api/pieces/9000/zones/move", &body).await;
            assert_eq!(status, 200, "{next}");
            times.push(at.elapsed());
            revision = next["revision"].clone();
        }
        told("a mark put down", times);
        let at = Instant::now();
        assert_eq!(client.json("GET", "/api/boxes/school-50/readings", &Value::Null).await.0, 200);
        println!("a thousand readings of a Box, first, which learns from them: {:.1} s", at.elapsed().as_secs_f64());
        asked(&mut client, "readings of a Box that has a thousand", "GET", "/api/boxes/school-50/readings", &Value::Null).await;
        let at = Instant::now();
        let (status, said) = client.json("GET", "/api/journal?words=weir", &Value::Null).await;
        assert_eq!(status, 200, "{said}");
        println!("the journal's first search, which makes its index: {:.1} s", at.elapsed().as_secs_f64());
        asked(&mut client, "a search in the journal", "GET", "/api/journal?words=shed", &Value::Null).await;
        let at = Instant::now();
        assert_eq!(client.json("POST", "/api/keeping/backup", &Value::Null).await.0, 200);
        println!("a backup: {:.1} s", at.elapsed().as_secs_f64());
        println!("memory: {:.0} MB at most", most_memory(&server));
    });
    server.kill().expect("it ends");
}
