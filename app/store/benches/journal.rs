//! Searches over ten thousand studies.
//!
//! Run `cargo bench -p lean-store --bench journal`.

#[path = "../tests/file/made_up/mod.rs"]
mod made_up;

use lean_colour::{Lab, Value};
use lean_journal::{EntryKind, Search, Season};
use lean_piece::easel::Outcome;
use lean_store::Store;
use made_up::{finished, study};
use std::time::Instant;

const PIECES: u32 = 1250;
const STUDIES: u8 = 8;
const TIMES: usize = 30;

/// Numbers that look drawn by lot and are the same every time.
fn lot(seed: u32) -> impl FnMut() -> f64 {
    let mut x = u64::from(seed) * 2_654_435_761 + 1;
    move || {
        x = x.wrapping_mul(6_364_136_223_846_793_005).wrapping_add(1_442_695_040_888_963_407);
        (x >> 40) as f64 / (1u64 << 24) as f64
    }
}

fn filled() -> Store {
    let store = Store::in_memory().expect("memory");
    let words = ["weir", "lane", "sluice", "jug", "poplars", "frost", "mist", "punt", "shed", "gate"];
    for n in 0..PIECES {
        let mut next = lot(n);
        let day = format!("20{:02}-{:02}-{:02}", 5 + n % 20, 1 + n % 12, 1 + n % 28);
        let title = format!("{} and {} {n}", words[(n % 10) as usize], words[(n / 10 % 10) as usize]);
        let mut piece = finished(&title, &day, Outcome::AsHoped);
        piece.intent.occasion.at = Some(format!("{day}T{:02}:00", n % 24));
        piece.intent.occasion.weather = ["clear", "mist", "rain", "snow"][(n % 4) as usize].into();
        let area = 1.0 / 8.0;
        piece.zones = (1..=8)
            .map(|z| lean_piece::Zone {
                id: lean_piece::ZoneId(z),
                reading: lean_picture::Reading { area, ..piece.zones[0].reading.clone() },
                ..piece.zones[0].clone()
            })
            .collect();
        let mut colours = || (0..8).map(|_| Lab::new(10.0 + 85.0 * next(), 80.0 * next() - 40.0, 90.0 * next() - 40.0)).collect::<Vec<_>>();
        piece.studies = (1..=STUDIES).map(|s| study(s, &colours(), &day)).collect();
        store.create_piece(&piece).expect("kept");
    }
    store
}

fn main() {
    let store = filled();
    let first = Instant::now();
    let all = store.journal(&Search { kinds: vec![EntryKind::Study], ..Search::default() }, 0, 60).expect("found").all;
    println!("{all} studies; the journal made of them in {:.1} s", first.elapsed().as_secs_f64());
    let s = Search::default;
    let searches: Vec<(&str, Search)> = vec![
        ("nothing asked", s()),
        ("one word", Search { words: "poplars".into(), ..s() }),
        ("two beginnings of words", Search { words: "po fr".into(), ..s() }),
        ("a season", Search { season: Some(Season::Autumn), ..s() }),
        ("weather and hour", Search { weather: Some("mist".into()), day_time: Some(lean_journal::DayTime::Early), ..s() }),
        ("a grey violet", Search { colour: Some(Lab::new(60.0, 6.0, -9.0)), ..s() }),
        ("a strong orange", Search { colour: Some(Lab::new(65.0, 38.0, 48.0)), ..s() }),
        ("a colour and a word", Search { colour: Some(Lab::new(30.0, -10.0, 12.0)), words: "weir".into(), ..s() }),
        ("a mean value", Search { value: Some(Value(5.0)), ..s() }),
        ("a pigment", Search { pigment: Some("ochre".into()), ..s() }),
        ("years", Search { from: Some("2010-01-01".into()), to: Some("2012-12-31".into()), ..s() }),
    ];
    for (name, search) in &searches {
        let mut took: Vec<f64> = (0..TIMES)
            .map(|_| {
                let start = Instant::now();
                let found = store.journal(search, 0, 60).expect("found");
                assert!(found.all > 0, "{name} finds something");
                start.elapsed().as_secs_f64() * 1000.0
            })
            .collect();
        took.sort_by(f64::total_cmp);
        let found = store.journal(search, 0, 60).expect("found").all;
        println!("{name}: {found} found, {:.1} ms in the middle, {:.1} ms at most", took[TIMES / 2], took[TIMES - 1]);
    }
    let edit = Instant::now();
    let kept = store.piece(7).expect("there");
    let mut brief = kept.piece.brief.clone();
    brief.title = "another name".into();
    store.apply(7, None, lean_piece::change::SetBrief { brief }.into()).expect("kept");
    let found = store.journal(&Search { words: "another".into(), ..s() }, 0, 60).expect("found").all;
    println!("a piece changed and its {found} entries found again: {:.1} ms", edit.elapsed().as_secs_f64() * 1000.0);
}
