//! The journal: what is found, by what, and that it follows what it was read from.

use crate::made_up::{finished, study};
use jiff::civil::date;
use lean_colour::{Lab, Value};
use lean_journal::{DayTime, EntryKind, Search, Season};
use lean_piece::change::SetSessions;
use lean_piece::easel::Outcome;
use lean_piece::{Session, StudyNumber};
use lean_plan::field_note::FieldNote;
use lean_store::{Source, Store};

fn titles(store: &Store, search: Search) -> Vec<String> {
    store.journal(&search, 0, 100).unwrap().entries.into_iter().map(|e| e.entry.of).collect()
}

fn only(kind: EntryKind) -> Search {
    Search { kinds: vec![kind], ..Search::default() }
}

/// A weir in mist, grey; a lane in autumn, red.
fn two() -> Store {
    let store = Store::in_memory().unwrap();
    let mut weir = finished("Weir in winter mist", "2025-02-06", Outcome::AsHoped);
    weir.intent.occasion.weather = "mist".into();
    weir.intent.occasion.at = Some("2025-02-06T08:10".into());
    weir.studies = vec![study(1, &[Lab::new(60.0, 3.0, -6.0), Lab::new(40.0, 2.0, -5.0)], "2025-02-06")];
    weir.easel.ending.as_mut().unwrap().words = "Wet into wet all through, nothing darker.".into();
    let mut lane = finished("Lane, late in October", "2025-10-21", Outcome::NotAtAll);
    lane.intent.occasion.at = Some("2025-10-21T16:40".into());
    lane.studies = vec![study(1, &[Lab::new(45.0, 45.0, 35.0), Lab::new(30.0, 5.0, 5.0)], "2025-10-20")];
    store.create_piece(&weir).unwrap();
    store.create_piece(&lane).unwrap();
    store
}

#[test]
fn a_study_is_found_by_words_season_hour_weather_outcome_and_day() {
    let store = two();
    let study = only(EntryKind::Study);
    assert_eq!(titles(&store, study.clone()), ["Lane, late in October", "Weir in winter mist"], "the newest first");
    let of = |search: Search| titles(&store, Search { kinds: vec![EntryKind::Study], ..search });
    assert_eq!(of(Search { words: "WEIR mi".into(), ..study.clone() }), ["Weir in winter mist"], "beginnings of words, whatever the case");
    assert_eq!(of(Search { words: "weir october".into(), ..study.clone() }).len(), 0, "all words must occur");
    assert_eq!(of(Search { season: Some(Season::Winter), ..study.clone() }), ["Weir in winter mist"]);
    assert_eq!(of(Search { season: Some(Season::Winter), southern: true, ..study.clone() }).len(), 0);
    assert_eq!(of(Search { day_time: Some(DayTime::Late), ..study.clone() }), ["Lane, late in October"]);
    assert_eq!(of(Search { weather: Some("mist".into()), ..study.clone() }), ["Weir in winter mist"]);
    assert_eq!(of(Search { from: Some("2025-03-01".into()), ..study.clone() }), ["Lane, late in October"]);
    assert_eq!(of(Search { to: Some("2025-03-01".into()), ..study.clone() }), ["Weir in winter mist"]);
    assert_eq!(of(Search { pigment: Some("ochre".into()), ..study.clone() }).len(), 2);
    assert_eq!(of(Search { pigment: Some("rose".into()), ..study }).len(), 0);
    let failed = Search { outcome: Some(Outcome::NotAtAll), ..only(EntryKind::Piece) };
    assert_eq!(titles(&store, failed), ["Lane, late in October"]);
}

#[test]
fn words_that_look_like_commands_are_words() {
    let store = two();
    for words in ["weir OR lane", "\"", "NEAR(", "*", "a AND", "words:weir", "'); DROP TABLE pieces; --", "-mist"] {
        store.journal(&Search { words: words.into(), ..Search::default() }, 0, 10).unwrap();
    }
    assert_eq!(store.pieces().unwrap().len(), 2);
}

#[test]
fn a_colour_finds_its_like() {
    let store = two();
    let like = |l, a, b| titles(&store, Search { colour: Some(Lab::new(l, a, b)), ..only(EntryKind::Study) });
    assert_eq!(like(60.0, 4.0, -7.0), ["Weir in winter mist"], "a grey violet like this");
    assert_eq!(like(46.0, 44.0, 33.0), ["Lane, late in October"]);
    assert_eq!(like(60.0, -60.0, 40.0).len(), 0);
    let mut speck = finished("Speck", "2025-04-01", Outcome::AsHoped);
    speck.zones[1].reading.area = 0.002;
    speck.studies = vec![study(1, &[Lab::new(20.0, 0.0, 0.0), Lab::new(60.0, -60.0, 40.0)], "2025-04-01")];
    store.create_piece(&speck).unwrap();
    assert_eq!(like(60.0, -60.0, 40.0).len(), 0, "a colour that is hardly there is not found");
    let light = Search { value: Some(Value(lean_colour::Lab::new(50.0, 0.0, 0.0).value().0)), ..only(EntryKind::Study) };
    assert_eq!(titles(&store, light), ["Weir in winter mist"], "its mean lies half way between its two");
}

#[test]
fn it_follows_what_it_was_read_from() {
    let store = two();
    let sessions = || titles(&store, only(EntryKind::Session));
    assert_eq!(sessions().len(), 2, "each made in a sitting");
    let id = store.pieces().unwrap()[0].id;
    let day = date(2025, 11, 2).to_string();
    let session = Session { on: day.clone(), minutes: 30, did: "the far bank again".into(), zones: Vec::new() };
    let kept = store.apply(id, None, SetSessions { sessions: vec![session], done: None }.into()).unwrap();
    let found = store.journal(&Search { words: "bank".into(), ..only(EntryKind::Session) }, 0, 10).unwrap();
    assert_eq!((found.all, found.entries[0].entry.on.as_str()), (1, day.as_str()));
    assert_eq!(found.entries[0].source, Source::Piece(id));
    store.undo(id, kept.revision).unwrap();
    assert_eq!(titles(&store, Search { words: "bank".into(), ..only(EntryKind::Session) }).len(), 0, "taken back");
    store.delete_piece(id).unwrap();
    assert_eq!(sessions().len(), 1, "what was made of a removed piece went with it");
    store
        .create_field_note(&FieldNote {
            words: "kingfisher over the sluice".into(),
            at: "2025-06-02T05:40".into(),
            light: String::new(),
            weather: String::new(),
            photo: None,
            file_name: String::new(),
            proportion: 1.0,
            outline: Vec::new(),
            marks: Vec::new(),
        })
        .unwrap();
    let note = Search { words: "kingfisher".into(), season: Some(Season::Summer), day_time: Some(DayTime::Early), ..Search::default() };
    assert_eq!(titles(&store, note).len(), 1);
}

#[test]
fn another_program_that_writes_is_noticed() {
    let dir = tempfile::tempdir().unwrap();
    let path = dir.path().join("studio.db");
    let (one, other) = (Store::open(&path).unwrap(), Store::open(&path).unwrap());
    assert_eq!(titles(&one, only(EntryKind::Study)).len(), 0);
    let mut piece = finished("Weir", "2025-02-06", Outcome::AsHoped);
    piece.studies = vec![study(1, &[Lab::new(60.0, 3.0, -6.0)], "2025-02-06")];
    other.create_piece(&piece).unwrap();
    assert_eq!(titles(&one, only(EntryKind::Study)), ["Weir"]);
}

#[test]
fn a_page_of_many_says_how_many_there_are() {
    let store = Store::in_memory().unwrap();
    let mut piece = finished("Series", "2025-02-06", Outcome::AsHoped);
    piece.studies = (1..=9).map(|n| study(n, &[Lab::new(60.0, 3.0, -6.0)], "2025-02-06")).collect();
    store.create_piece(&piece).unwrap();
    let page = |skip| store.journal(&only(EntryKind::Study), skip, 4).unwrap();
    let numbers: Vec<u32> = [0, 4, 8].into_iter().flat_map(|s| page(s).entries).map(|e| e.entry.number).collect();
    assert_eq!((page(0).all, numbers.len()), (9, 9));
    let mut sorted = numbers.clone();
    sorted.sort_unstable();
    assert_eq!(sorted, (1..=9).collect::<Vec<_>>(), "each once");
    assert_eq!(piece.studies[8].number, StudyNumber(9));
}

#[test]
fn what_was_measured_holds_until_the_piece_changes() {
    use lean_journal::learnt::{Came, Measured};
    let store = two();
    assert!(store.measured_pieces().unwrap().iter().all(|(_, m)| m.is_none()));
    let kept = store.piece(1).unwrap();
    let measured = Measured { values: vec![Came { planned: Value(3.0), came: Value(3.4) }], stages: Vec::new() };
    store.keep_measured(1, kept.revision, &measured).unwrap();
    assert_eq!(store.measured_pieces().unwrap()[0], (1, Some(measured)));
    let session = Session { on: "2025-11-02".into(), minutes: 30, did: "again".into(), zones: Vec::new() };
    store.apply(1, None, SetSessions { sessions: vec![session], done: None }.into()).unwrap();
    assert_eq!(store.measured_pieces().unwrap()[0], (1, None));
}
