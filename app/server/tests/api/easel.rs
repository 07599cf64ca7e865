//! The easel over the API: what to do next, photos of the progress, surfaces, grids and tracings.

use crate::support::{Api, painted};
use axum::body::Body;
use axum::http::{Request, StatusCode, header};
use serde_json::{Value, json};

const NOW: &str = "2025-03-01T10:00";

async fn easel(api: &Api, id: i64) -> Value {
    let (status, view) = api.ask("GET", &format!("/api/pieces/{id}/easel?now={NOW}"), None).await;
    assert_eq!(status, StatusCode::OK, "{view}");
    view
}

async fn file(api: &Api, path: &str) -> (StatusCode, String, Vec<u8>) {
    api.send(Request::get(path).header(header::HOST, "localhost").body(Body::empty()).unwrap()).await
}

#[tokio::test]
async fn the_bench_stands_half_way_and_goes_on_task_by_task() {
    let api = Api::demo();
    let at = easel(&api, 4).await["at"].clone();
    let open = |at: &Value| at["tasks"].as_array().unwrap().iter().filter(|t| t["done"] == false).count();
    let (done, left) = (at["tasks"].as_array().unwrap().len() - open(&at), open(&at));
    assert!(done >= 8 && left >= 5, "{done} done, {left} left");
    assert_eq!(at["looks"].as_array().unwrap().last().unwrap()["wrong"], json!([]), "in the end nothing looks wrong");
    // The zone that was left out looks like what has grown over it: the plan's own map has no hole.
    let zones = api.piece(4).await["piece"]["zones"].as_array().unwrap().len();
    assert_eq!(at["now"]["zones"].as_array().unwrap().len(), zones);
    let next = at["next"].clone();
    let (status, view) = api.request(4, json!({ "do": "did-task", "task": next, "done": true, "at": NOW })).await;
    assert_eq!(status, StatusCode::OK, "{view}");
    let at = easel(&api, 4).await["at"].clone();
    assert_eq!(open(&at), left - 1);
    assert!(at["wet"].as_array().unwrap().iter().any(|w| w["task"] == next), "it is wet: {}", at["wet"]);
    assert_ne!(at["next"], next);
    let (status, _) = api.ask("POST", "/api/pieces/4/undo", Some(json!({ "base_revision": view["revision"] }))).await;
    assert_eq!(status, StatusCode::OK);
    assert_eq!(open(&easel(&api, 4).await["at"]), left);
    // A session logged with what was done is one step.
    let session = json!({ "on": "2025-03-01", "minutes": 45, "did": "the edge", "zones": [next["zone"]] });
    let (status, view) = api.request(4, json!({ "do": "log-session", "session": session, "tasks": [next], "at": NOW })).await;
    assert_eq!(status, StatusCode::OK, "{view}");
    assert_eq!((view["piece"]["sessions"].as_array().unwrap().len(), open(&easel(&api, 4).await["at"])), (3, left - 1));
}

#[tokio::test]
async fn what_is_wrong_is_said_and_nothing_is_lost() {
    let api = Api::demo();
    let before = api.piece(4).await;
    let whole = |stage: &str| json!({ "stage": stage, "zone": null, "layer": 0 });
    for (request, words) in [
        (json!({ "do": "did-task", "task": whole("drawing"), "done": true, "at": "yesterday" }), "no time"),
        (json!({ "do": "depart", "departure": { "change": { "was": "left-out", "zone": 900 }, "reason": "" } }), "no zone"),
        (json!({ "do": "take-back-departure", "at": 7 }), "not there any more"),
        (json!({ "do": "set-progress-photo", "at": 9, "photo": null }), "not there any more"),
        (json!({ "do": "set-easel", "easel": { "tone": "moonlight" } }), "not in the Box"),
        (json!({ "do": "set-easel", "easel": { "air": { "warmth": 80, "damp": 50 } } }), "out of range"),
    ] {
        let (status, problem) = api.request(4, request.clone()).await;
        assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY, "{request}");
        assert!(problem["detail"].as_str().unwrap().contains(words), "{problem}");
    }
    assert_eq!(api.piece(4).await["piece"], before["piece"]);
    for path in ["/api/pieces/4/easel?now=tea-time", "/api/pieces/4/surfaces/900", "/api/pieces/4/enlarging?squares=99"] {
        let (status, problem) = api.ask("GET", path, None).await;
        assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY, "{path}: {problem}");
    }
    // A piece without a set: calm.
    assert_eq!(easel(&api, 2).await["at"], Value::Null);
    assert_eq!(api.ask("GET", "/api/pieces/2/easel/offers", None).await.0, StatusCode::UNPROCESSABLE_ENTITY);
    let (status, problem) = api.put(&format!("/api/pieces/4/easel/photos?at={NOW}"), b"no picture".to_vec()).await;
    assert!(status.is_client_error(), "{problem}");
}

#[tokio::test]
async fn a_photo_of_the_bench_says_what_is_off_and_another_picture_is_refused() {
    let api = Api::demo();
    let (status, view) = api.ask("GET", "/api/pieces/4/easel/photos/0", None).await;
    assert_eq!(status, StatusCode::OK, "{view}");
    let off: Vec<&Value> = view["progress"]["zones"].as_array().unwrap().iter().filter(|z| z["off"] == true).collect();
    assert_eq!(off.len(), 1, "{off:?}");
    assert!(off[0]["sentence"].as_str().unwrap().contains("too dark"));
    assert!(view["progress"]["next"][0].as_str().unwrap().starts_with("Lighten plane"), "{}", view["progress"]["next"]);
    let (status, kind, _) = file(&api, "/api/pieces/4/easel/photos/0/view").await;
    assert_eq!((status, kind.as_str()), (StatusCode::OK, "image/jpeg"));

    let other = painted(300, 300, |x, y| if (x / 20 + y / 20) % 2 == 0 { [220, 210, 60] } else { [30, 60, 160] });
    let (status, view) = api.put(&format!("/api/pieces/4/easel/photos?at={NOW}&file_name=other.png"), other).await;
    assert_eq!(status, StatusCode::OK, "it is kept: {view}");
    let (status, problem) = api.ask("GET", "/api/pieces/4/easel/photos/1", None).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    assert!(problem["detail"].as_str().unwrap().contains("by hand"), "{problem}");
    assert_eq!(api.request(4, json!({ "do": "set-progress-photo", "at": 1, "photo": null })).await.0, StatusCode::OK);

    // The simulated camera sees the piece as it should be: nothing is off, and it is nearer than the photo before.
    assert_eq!(api.ask("POST", &format!("/api/pieces/4/easel/photos/simulated?at={NOW}"), None).await.0, StatusCode::OK);
    let view = api.ask("GET", "/api/pieces/4/easel/photos/1", None).await.1;
    assert!(view["progress"]["zones"].as_array().unwrap().iter().all(|z| z["off"] == false), "{}", view["progress"]["zones"]);
    assert!(view["gain"].as_str().unwrap().contains("Nearer"), "{}", view["gain"]);
}

#[tokio::test]
async fn looks_offers_surfaces_and_prints_are_served() {
    let api = Api::demo();
    for path in ["/api/pieces/4/easel/look?width=200", "/api/pieces/1/easel/look?stage=big-shapes&width=200"] {
        let (status, kind, bytes) = file(&api, path).await;
        assert_eq!((status, kind.as_str()), (StatusCode::OK, "image/png"), "{path}");
        assert_eq!(image::load_from_memory(&bytes).unwrap().width(), 200);
    }
    let offers = api.ask("GET", "/api/pieces/4/easel/offers", None).await.1;
    assert!(!offers["lay_ins"].as_array().unwrap().is_empty(), "{offers}");
    let surfaces = api.ask("GET", "/api/pieces/4/surfaces/2?count=3", None).await.1;
    assert_eq!(surfaces["surfaces"]["siblings"].as_array().unwrap().len(), 3, "{surfaces}");

    let enlarging = api.ask("GET", "/api/pieces/4/enlarging?squares=5&format=a4", None).await.1;
    assert_eq!(enlarging["grid"]["on_piece"], 100.0);
    let (status, kind, bytes) = file(&api, "/api/pieces/4/enlarging/tracing.pdf?from=outlines&format=a4").await;
    assert_eq!((status, kind.as_str()), (StatusCode::OK, "application/pdf"));
    let pdf = lopdf::Document::load_mem(&bytes).unwrap();
    assert_eq!(pdf.get_pages().len() as u64, enlarging["pages"].as_u64().unwrap());
    assert!(pdf.extract_text(&[1]).unwrap().contains("page 1 of"));
    for under in ["reference", "plan", "study"] {
        let (status, _, bytes) = file(&api, &format!("/api/pieces/4/enlarging/grid.pdf?squares=5&under={under}")).await;
        assert_eq!(status, StatusCode::OK, "{under}");
        assert_eq!(lopdf::Document::load_mem(&bytes).unwrap().get_pages().len(), 1);
    }
}

#[tokio::test]
async fn pieces_that_are_due_are_timed_together() {
    let api = Api::demo();
    let mut intent = api.piece(1).await["piece"]["intent"].clone();
    intent["due"] = json!("2025-03-20");
    intent["for_whom"] = json!("the fair");
    assert_eq!(api.request(1, json!({ "do": "set-intent", "intent": intent })).await.0, StatusCode::OK);
    let (status, calendar) = api.ask("GET", &format!("/api/easel/calendar?now={NOW}"), None).await;
    assert_eq!(status, StatusCode::OK, "{calendar}");
    let titles: Vec<&str> = calendar["pieces"].as_array().unwrap().iter().map(|p| p["title"].as_str().unwrap()).collect();
    assert_eq!(titles, ["Tram shed, first frost", "Bench by the north window"], "soonest due first");
    assert!(calendar["words"].as_str().unwrap().contains("All dates are kept"), "{}", calendar["words"]);
    let slots = calendar["sessions"]["sessions"].as_array().unwrap().iter().flat_map(|s| s["slots"].as_array().unwrap());
    let pieces: std::collections::BTreeSet<u64> = slots.map(|s| s["piece"].as_u64().unwrap()).collect();
    assert_eq!(pieces.len(), 2, "both are worked on");
}
