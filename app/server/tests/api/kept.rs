//! Nothing acknowledged is lost, and one broken thing closes nothing.

use crate::support::{Api, brief, png};
use axum::http::StatusCode;
use serde_json::{Value, json};

async fn with_picture() -> Api {
    let api = Api::empty();
    assert_eq!(api.ask("POST", "/api/pieces", Some(brief("Halves"))).await.0, StatusCode::CREATED);
    let job = api.upload(1, "halves.png", png(320, 200)).await;
    assert_eq!(job["problem"], Value::Null, "{job}");
    api
}

async fn step(api: &Api, what: &str) -> Value {
    let revision = api.piece(1).await["revision"].clone();
    let (status, view) = api.ask("POST", &format!("/api/pieces/1/{what}"), Some(json!({ "base_revision": revision }))).await;
    assert_eq!(status, StatusCode::OK, "{view}");
    view
}

#[tokio::test]
async fn another_reference_becomes_the_main_one_in_one_step() {
    let api = with_picture().await;
    assert_eq!(api.put("/api/pieces/1/others?file_name=other.png", png(200, 320)).await.0, StatusCode::OK);
    let before = api.piece(1).await;
    let other = before["piece"]["others"][0]["digest"].clone();
    let ask = json!({ "base_revision": before["revision"], "digest": other });
    let (status, after) = api.ask("POST", "/api/pieces/1/others/main", Some(ask)).await;
    assert_eq!((status, &after["piece"]["reference"]["digest"]), (StatusCode::OK, &other), "{after}");
    assert_eq!(step(&api, "undo").await["piece"], before["piece"]);
    assert_eq!(step(&api, "redo").await["piece"], after["piece"]);
}

#[tokio::test]
async fn saying_what_a_reference_is_for_touches_nothing_else() {
    let api = with_picture().await;
    let session = json!({ "on": "2025-01-14", "minutes": 20, "did": "", "zones": [1] });
    assert_eq!(api.request(1, json!({ "do": "set-sessions", "sessions": [session] })).await.0, StatusCode::OK);
    let before = api.piece(1).await;
    assert_eq!(before["piece"]["sessions"][0]["zones"], json!([1]));
    let (status, after) = api.request(1, json!({ "do": "set-serves", "serves": ["light"] })).await;
    assert_eq!(status, StatusCode::OK, "{after}");
    assert_eq!(after["piece"]["sessions"], before["piece"]["sessions"]);
    assert_eq!(after["undo"], "what the reference is for");
    assert_eq!(step(&api, "undo").await["piece"], before["piece"]);
}

#[tokio::test]
async fn taking_back_a_correction_that_was_never_made_changes_nothing() {
    let api = with_picture().await;
    let before = api.piece(1).await;
    let ask = json!({ "base_revision": before["revision"], "at": null, "card": null });
    let (status, after) = api.ask("PUT", "/api/pieces/1/reference/neutral", Some(ask)).await;
    assert_eq!((status, &after["revision"]), (StatusCode::OK, &before["revision"]), "{after}");
}

#[tokio::test]
async fn a_line_from_far_outside_the_picture_is_refused_at_once() {
    let api = with_picture().await;
    for far in [1e7, 1e300, -40.0] {
        let revision = api.piece(1).await["revision"].clone();
        let stroke = json!([{ "x": 0.2, "y": 0.2 }, { "x": far, "y": 0.5 }]);
        let ask = json!({ "base_revision": revision, "zone": 1, "stroke": stroke });
        let (status, problem) = api.ask("POST", "/api/pieces/1/zones/split", Some(ask)).await;
        assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
        assert!(problem["detail"].as_str().unwrap().contains("outside the picture"), "{problem}");
    }
}

#[tokio::test]
async fn the_border_of_a_zone_with_a_long_name_can_be_redrawn() {
    let api = with_picture().await;
    assert_eq!(api.request(1, json!({ "do": "rename-zone", "zone": 1, "name": "n".repeat(80) })).await.0, StatusCode::OK);
    let revision = api.piece(1).await["revision"].clone();
    let line: Vec<Value> = [(0.3, 0.2), (0.7, 0.2), (0.7, 0.8), (0.3, 0.8)].iter().map(|(x, y)| json!({ "x": x, "y": y })).collect();
    let ask = json!({ "base_revision": revision, "zone": 1, "stroke": line });
    let (status, view) = api.ask("POST", "/api/pieces/1/zones/redraw", Some(ask)).await;
    assert_eq!(status, StatusCode::OK, "{view}");
}

#[tokio::test]
async fn a_note_changed_in_another_window_is_not_overwritten() {
    let api = Api::empty();
    let note = |words: &str| json!({ "words": words, "at": "", "light": "", "weather": "", "photo": null, "file_name": "", "proportion": 1.5, "outline": [], "marks": [] });
    let (_, first) = api.ask("POST", "/api/field-notes", Some(note("weir"))).await;
    assert_eq!(first["revision"], 1);
    assert_eq!(api.ask("PUT", "/api/field-notes/1?base_revision=1", Some(note("weir at dawn"))).await.0, StatusCode::OK);
    let (status, problem) = api.ask("PUT", "/api/field-notes/1?base_revision=1", Some(note("weir at noon"))).await;
    assert_eq!(status, StatusCode::CONFLICT, "{problem}");
    assert_eq!(api.ask("GET", "/api/field-notes/1", None).await.1["note"]["words"], "weir at dawn");
}

#[tokio::test]
async fn what_is_not_damaged_is_not_put_aside() {
    let api = with_picture().await;
    assert_eq!(api.ask("GET", "/api/studio", None).await.1["damaged"], json!([]));
    assert_eq!(api.ask("DELETE", "/api/damaged/piece/1", None).await.0, StatusCode::CONFLICT);
    assert_eq!(api.ask("DELETE", "/api/damaged/piece/7", None).await.0, StatusCode::NOT_FOUND);
    assert_eq!(api.ask("GET", "/api/pieces/1", None).await.0, StatusCode::OK);
}
