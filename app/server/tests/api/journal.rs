//! The journal over the API: found, learnt from, lent, printed; and the archive.

use crate::support::{Api, brief};
use axum::body::Body;
use axum::http::{Request, StatusCode, header};
use serde_json::{Value, json};

async fn find(api: &Api, query: &str) -> Value {
    let (status, found) = api.ask("GET", &format!("/api/journal?{query}"), None).await;
    assert_eq!(status, StatusCode::OK, "{found}");
    found
}

async fn bytes(api: &Api, path: &str) -> (StatusCode, Vec<u8>) {
    let request = Request::get(path).header(header::HOST, "localhost:7436").body(Body::empty()).unwrap();
    let (status, _, body) = api.send(request).await;
    (status, body)
}

#[tokio::test]
async fn two_years_of_the_demo_are_found_by_what_a_painter_remembers() {
    let api = Api::demo();
    let all = find(&api, "kinds=piece").await;
    assert_eq!(all["all"], 16);
    let mist = find(&api, "kinds=piece&weather=mist").await;
    assert_eq!(mist["all"], 2);
    for e in mist["entries"].as_array().unwrap() {
        assert!(e["picture"].as_str().unwrap().contains("/painted?") && e["painted"].as_str().unwrap().contains("/photos/0/view"), "{e}");
        let (status, png) = bytes(&api, e["picture"].as_str().unwrap()).await;
        assert!(status.is_success() && png.starts_with(&[0x89, b'P']));
    }
    assert_eq!(find(&api, "kinds=piece&words=punt").await["all"], 0, "only what was written of a piece counts");
    assert_eq!(find(&api, "kinds=piece&words=wax%20dark").await["all"], 1);
    assert_eq!(find(&api, "kinds=field-note").await["all"], 2);
    // A colour of the screen finds what lies near it, the nearest first.
    let orange = find(&api, "kinds=study&colour=%23d08040").await;
    let lab = |e: &Value| {
        let c = &e["entry"]["colours"];
        c.as_array().unwrap().iter().map(|c| (c["lab"]["l"].as_f64().unwrap(), c["lab"]["a"].as_f64().unwrap())).collect::<Vec<_>>()
    };
    assert!(orange["all"].as_u64().unwrap() > 1);
    assert!(lab(&orange["entries"][0]).iter().any(|(l, a)| (*l - 61.0).abs() < 12.0 && *a > 15.0), "{orange}");
    // A colour may be said in words.
    let blue = find(&api, "kinds=study&colour=blue").await;
    assert!(blue["all"].as_u64().unwrap() > 0 && blue["all"] != orange["all"], "{}", blue["all"]);
    for (query, why) in [("kinds=songs", "songs"), ("colour=boat", "boat"), ("from=yesterday", "yesterday"), ("value=30", "0 to 10")] {
        let (status, p) = api.ask("GET", &format!("/api/journal?{query}"), None).await;
        assert!(status == StatusCode::UNPROCESSABLE_ENTITY && p["detail"].as_str().unwrap().contains(why), "{p}");
    }
}

#[tokio::test]
async fn a_study_begins_a_piece_and_lends_its_set() {
    let api = Api::demo();
    let study = find(&api, "kinds=study&words=analogous%20shed").await["entries"][0].clone();
    let (piece, number) = (study["source"]["id"].as_i64().unwrap(), study["entry"]["number"].as_u64().unwrap());
    let (status, next) = api.ask("POST", &format!("/api/pieces/{piece}/studies/{number}/piece"), None).await;
    assert_eq!(status, StatusCode::CREATED);
    let pigments: Vec<&Value> = study["entry"]["pigments"].as_array().unwrap().iter().map(|p| &p["pigment"]).collect();
    assert_eq!(next["piece"]["chosen"]["pigments"].as_array().unwrap().iter().collect::<Vec<_>>(), pigments);
    assert_eq!(next["piece"]["studies"], json!([]));
    assert!(next["derived"]["mixes"].as_array().unwrap().len() > 5, "its mixes are there at once");
    // The set of study 6 goes to it, and can be taken back.
    let id = next["id"].as_i64().unwrap();
    let (status, lent) = api.ask("POST", &format!("/api/pieces/{id}/lent-set"), Some(json!({ "piece": piece, "study": 6 }))).await;
    assert_eq!(status, StatusCode::OK, "{lent}");
    assert_eq!(lent["piece"]["chosen"]["pigments"], api.piece(piece).await["piece"]["studies"][5]["pigments"]);
    let revision = lent["revision"].clone();
    let (_, undone) = api.ask("POST", &format!("/api/pieces/{id}/undo"), Some(json!({ "base_revision": revision }))).await;
    assert_eq!(undone["piece"]["chosen"], next["piece"]["chosen"]);
    // Another Box does not hold these sticks.
    let (status, refused) = api.ask("POST", "/api/pieces/4/lent-set", Some(json!({ "piece": piece, "study": 6 }))).await;
    assert!(status == StatusCode::UNPROCESSABLE_ENTITY && refused["detail"].as_str().unwrap().contains("does not hold"), "{refused}");
    assert_eq!(api.ask("POST", &format!("/api/pieces/{piece}/studies/99/piece"), None).await.0, StatusCode::UNPROCESSABLE_ENTITY);
}

#[tokio::test]
async fn what_is_learnt_stands_in_plots_and_files() {
    let api = Api::demo();
    let before = api.ask("GET", "/api/journal/learnt", None).await.1;
    assert_eq!(before["unmeasured"], 16);
    let (status, job) = api.ask("POST", "/api/journal/measure", None).await;
    assert_eq!(status, StatusCode::ACCEPTED);
    assert_eq!(api.ended(job["id"].as_u64().unwrap()).await["problem"], Value::Null);
    let after = api.ask("GET", "/api/journal/learnt", None).await.1;
    assert_eq!(after["unmeasured"], 0);
    let plot = |key: &str| after["plots"].as_array().unwrap().iter().find(|p| p["key"] == key).unwrap().clone();
    // The demo's painter lays darks too light, and takes longer than the tables say: the photos tell.
    let drift = plot("drift");
    let mark =
        |name: &str| drift["marks"].as_array().unwrap().iter().find(|m| m["label"].as_str().unwrap().contains(name)).unwrap().clone();
    let (dark, light) = (mark("2 to 4"), mark("6 to 8"));
    assert!(dark["y"].as_f64().unwrap() > light["y"].as_f64().unwrap() + 2.0 * dark["doubt"].as_f64().unwrap(), "{drift}");
    assert!(drift["says"].as_str().unwrap().contains("too light"), "{drift}");
    for m in plot("pace")["marks"].as_array().unwrap() {
        assert!(m["y"].as_f64().unwrap() > m["beside"].as_f64().unwrap(), "{m}");
    }
    let tries = plot("tries");
    assert!(tries["marks"][1]["y"].as_f64().unwrap() < tries["marks"][0]["y"].as_f64().unwrap());
    let pans = after["worth"].as_array().unwrap().iter().find(|b| b["name"] == "Pocket pans").unwrap();
    assert!(pans["pigments"].as_array().unwrap().iter().any(|p| p["words"] == "never used"), "{pans}");
    assert!(after["habits"].as_array().unwrap().iter().any(|h| h["usual"].as_array().unwrap().len() >= 2));
    let (status, csv) = bytes(&api, "/api/journal/plots/tries.csv").await;
    let csv = String::from_utf8(csv).unwrap();
    assert!(status.is_success() && csv.lines().count() == 1 + tries["marks"].as_array().unwrap().len(), "{csv}");
    assert_eq!(bytes(&api, "/api/journal/plots/nothing.csv").await.0, StatusCode::NOT_FOUND);
}

#[tokio::test]
async fn one_set_for_several_is_never_better_than_each_ones_own() {
    let api = Api::demo();
    let pieces = find(&api, "kinds=piece&medium=watercolour").await;
    let ids: Vec<i64> = pieces["entries"].as_array().unwrap().iter().take(3).map(|e| e["source"]["id"].as_i64().unwrap()).collect();
    let ask = |body: Value| api.ask("POST", "/api/journal/one-set", Some(body));
    let (status, job) = ask(json!({ "pieces": ids })).await;
    assert_eq!(status, StatusCode::ACCEPTED, "{job}");
    let ended = api.ended(job["id"].as_u64().unwrap()).await;
    let sets = ended["shared"].as_array().unwrap().clone();
    assert!(sets.len() >= 4, "{ended}");
    for set in &sets {
        assert_eq!(set["proved"], true);
        for loss in set["losses"].as_array().unwrap() {
            assert!(loss["cost"].as_f64().unwrap() >= loss["own_cost"].as_f64().unwrap() - 1e-9, "{loss}");
        }
    }
    // Without what is always taken the same pieces cost more.
    let usual = json!(["burnt-sienna", "ultramarine"]);
    let (_, job) = ask(json!({ "pieces": ids, "without": usual })).await;
    let without = api.ended(job["id"].as_u64().unwrap()).await["shared"].as_array().unwrap().clone();
    let cost = |set: &Value| set["cost"].as_f64().unwrap();
    assert!(sets.iter().zip(&without).any(|(with, without)| cost(without) > 1.05 * cost(with)), "the price of doing without is told");
    for (with, without) in sets.iter().zip(&without) {
        assert!(cost(without) >= cost(with) - 1e-9, "{without}");
        let used = without["pigments"].as_array().unwrap();
        assert!(usual.as_array().unwrap().iter().all(|p| !used.contains(p)));
    }
    let (status, p) = ask(json!({ "pieces": [1, 4] })).await;
    assert!(status == StatusCode::UNPROCESSABLE_ENTITY && p["detail"].as_str().unwrap().contains("one medium"), "{p}");
    assert_eq!(ask(json!({ "pieces": [] })).await.0, StatusCode::UNPROCESSABLE_ENTITY);
    assert_eq!(ask(json!({ "pieces": [9999] })).await.0, StatusCode::NOT_FOUND);
}

#[tokio::test]
async fn a_booklet_has_a_page_of_contents_and_every_study_at_true_size() {
    let api = Api::demo();
    let (status, pdf) = bytes(&api, "/api/journal/booklet.pdf?of=1:2,4:1,1:3&title=Winter&page=a4").await;
    assert!(status.is_success(), "{}", String::from_utf8_lossy(&pdf));
    let pdf = lopdf::Document::load_mem(&pdf).unwrap();
    let contents = pdf.extract_text(&[1]).unwrap();
    for words in ["Winter", "Tram shed", "studies 2, 3", "Bench"] {
        assert!(contents.contains(words), "{words} is missing in {contents}");
    }
    let pages = pdf.get_pages();
    assert!(pages.len() >= 3);
    for page in pages.values() {
        let size = pdf.get_dictionary(*page).unwrap().get(b"MediaBox").unwrap().as_array().unwrap().clone();
        let points = |i: usize| size[i].as_float().unwrap();
        assert!((points(2) - 595.28).abs() < 0.1 && (points(3) - 841.89).abs() < 0.1, "every page is A4");
    }
    for (of, why) in [("", "no studies"), ("1", "names no study"), ("1:77", "none of these")] {
        let (status, p) = bytes(&api, &format!("/api/journal/booklet.pdf?of={of}")).await;
        let p: Value = serde_json::from_slice(&p).unwrap();
        assert!(status == StatusCode::UNPROCESSABLE_ENTITY && p["detail"].as_str().unwrap().to_lowercase().contains(why), "{p}");
    }
}

#[tokio::test]
async fn a_piece_that_is_finished_is_in_the_journal_with_its_occasion() {
    let api = Api::empty();
    let id = api.ask("POST", "/api/pieces", Some(brief("Sluice"))).await.1["id"].as_i64().unwrap();
    let mut intent = api.piece(id).await["piece"]["intent"].clone();
    intent["occasion"] = json!({ "subject": "water", "at": "2025-06-02T05:40", "weather": "haze", "light": "first light" });
    assert!(api.request(id, json!({ "do": "set-intent", "intent": intent })).await.0.is_success());
    intent["occasion"]["at"] = "soon".into();
    let (status, p) = api.request(id, json!({ "do": "set-intent", "intent": intent })).await;
    assert!(status == StatusCode::UNPROCESSABLE_ENTITY && p["detail"].as_str().unwrap().contains("soon"), "{p}");
    let mut easel = api.piece(id).await["piece"]["easel"].clone();
    easel["ending"] = json!({ "on": "2025-06-03", "outcome": "in-part", "words": "too many blues" });
    assert!(api.request(id, json!({ "do": "set-easel", "easel": easel })).await.0.is_success());
    let found = find(&api, "words=blues&season=summer&day_time=early&weather=haze&outcome=in-part").await;
    assert_eq!((found["all"].clone(), found["entries"][0]["entry"]["of"].clone()), (json!(1), json!("Sluice")));
    assert_eq!(api.ask("GET", "/api/studio", None).await.1["pieces"][0]["ended"], "2025-06-03");
    easel["ending"]["on"] = "June".into();
    assert_eq!(api.request(id, json!({ "do": "set-easel", "easel": easel })).await.0, StatusCode::UNPROCESSABLE_ENTITY);
}

#[tokio::test]
async fn the_whole_studio_goes_out_over_the_wire_and_into_an_empty_one() {
    let api = Api::demo();
    let (status, archive) = bytes(&api, "/api/archive").await;
    assert!(status.is_success());
    let (status, refused) = api.put("/api/archive", archive.clone()).await;
    assert!(status == StatusCode::CONFLICT && refused["detail"].as_str().unwrap().contains("never mixed"), "{refused}");
    let other = Api::empty();
    assert_eq!(other.ask("GET", "/api/keeping", None).await.1["empty"], true);
    let (status, _) = other.put("/api/archive", archive[..archive.len() / 2].to_vec()).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY, "half an archive");
    let (status, view) = other.put("/api/archive", archive.clone()).await;
    assert!(status.is_success() && view["empty"] == false, "{view}");
    assert!(bytes(&other, "/api/archive").await.1 == archive, "bit for bit");
    assert_eq!(other.piece(1).await["piece"], api.piece(1).await["piece"]);
    assert_eq!(find(&other, "kinds=piece").await["all"], 16);
}

#[tokio::test]
async fn a_backup_and_a_check_from_the_page() {
    let api = Api::demo();
    let (status, view) = api.ask("POST", "/api/keeping/backup", None).await;
    assert!(status.is_success() && view["backups"].as_array().unwrap().len() == 1, "{view}");
    assert!(std::path::Path::new(view["backups"][0]["file"].as_str().unwrap()).exists());
    let (_, job) = api.ask("POST", "/api/keeping/check", None).await;
    let ended = api.ended(job["id"].as_u64().unwrap()).await;
    assert_eq!(ended["checked"]["problems"], json!([]));
    assert!(ended["checked"]["pictures"].as_u64().unwrap() > 30);
}
