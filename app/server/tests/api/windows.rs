//! Two windows on one studio: what one of them changed is not written over by what the other one saw before.

use crate::support::{Api, brief, png};
use axum::http::StatusCode;
use serde_json::{Value, json};

/// Files that are added, or replace a picture that one step of undo brings back: whatever the window saw, nothing of another is lost.
const ADDED: [&str; 10] = [
    "/api/archive",
    "/api/boxes/{id}/card",
    "/api/boxes/{id}/readings/file",
    "/api/pieces/{id}/compositions",
    "/api/pieces/{id}/easel/photos",
    "/api/pieces/{id}/others",
    "/api/pieces/{id}/reference",
    "/api/pieces/{id}/studies/lent",
    "/api/pieces/{id}/wall",
    // What lies under the simulated meter is kept nowhere.
    "/api/instruments/world",
];

/// Addresses that write something whole, each with a request that saw an older state.
fn stale() -> Vec<(&'static str, &'static str, Value)> {
    let note = json!({ "words": "", "at": "", "light": "", "weather": "", "photo": null, "file_name": "", "proportion": 1.5, "outline": [], "marks": [] });
    let said = json!({
        "name": "Sea", "colour_index": [], "lightfastness": "I", "hazard": "", "staining": false, "granulating": true,
        "owned": { "label": "", "hardness": null, "covering": null, "left": null, "bought": "", "lent_to": "", "used_up": false }
    });
    vec![
        ("/api/boxes/{id}/pigments/{pigment}", "/api/boxes/oils/pigments/PB29?seen=0000000000000000", said),
        ("/api/boxes/{id}/inventory", "/api/boxes/oils/inventory?seen=0000000000000000", Value::Null),
        ("/api/boxes/{id}/readings/{reading}", "/api/boxes/oils/readings/1?seen=0000000000000000", json!({ "left_out": true, "note": "" })),
        ("/api/field-notes/{id}", "/api/field-notes/1?base_revision=0", note),
        ("/api/grounds/{number}", "/api/grounds/1?seen=0000000000000000", ground("linen")),
        (
            "/api/pieces/{id}/easel/done",
            "/api/pieces/1/easel/done",
            json!({ "base_revision": 0, "task": { "stage": "drawing", "zone": null, "layer": 0 }, "done": true, "at": "2025-01-18T07:40" }),
        ),
        (
            "/api/pieces/{id}/reference/frame",
            "/api/pieces/1/reference/frame",
            json!({ "base_revision": 0, "straighten": 1.0, "crop": null, "fit": false }),
        ),
        (
            "/api/pieces/{id}/reference/neutral",
            "/api/pieces/1/reference/neutral",
            json!({ "base_revision": 0, "at": { "x": 0.5, "y": 0.5 }, "card": null }),
        ),
    ]
}

fn ground(name: &str) -> Value {
    json!({
        "ground": { "like": "panel-white", "name": name, "lab": { "l": 90.0, "a": 0.0, "b": 4.0 }, "tooth": 0.3, "absorbency": 0.2, "layers": 4, "dry_minutes": 20.0 },
        "lifts_minutes": null, "side": "", "opaque_holds": null, "rehearsals": []
    })
}

/// A studio with one of everything that can be written over.
async fn studio() -> Api {
    let api = Api::empty();
    assert_eq!(api.ask("POST", "/api/pieces", Some(brief("Halves"))).await.0, StatusCode::CREATED);
    api.upload(1, "halves.png", png(320, 200)).await;
    let oils = json!({ "name": "oils", "medium": "oil", "shipped": true });
    assert_eq!(api.ask("POST", "/api/boxes", Some(oils)).await.0, StatusCode::CREATED);
    let swatch = api.ask("GET", "/api/boxes/oils/swatches?pigment=PB29", None).await.1[0]["swatch"].clone();
    let reading = json!({ "swatch": swatch, "from": { "by": "typed", "text": "30 10 -40" } });
    let (status, view) = api.ask("POST", "/api/boxes/oils/readings", Some(reading)).await;
    assert_eq!(status, StatusCode::OK, "{view}");
    let note = stale().remove(3).2;
    assert_eq!(api.ask("POST", "/api/field-notes", Some(note)).await.0, StatusCode::CREATED);
    assert_eq!(api.ask("POST", "/api/grounds", Some(ground("linen"))).await.0, StatusCode::CREATED);
    api
}

#[tokio::test]
async fn every_address_that_writes_something_whole_refuses_what_saw_an_older_state() {
    let api = studio().await;
    let described = api.ask("GET", "/api/openapi.json", None).await.1;
    let stale = stale();
    for (path, ways) in described["paths"].as_object().unwrap() {
        for way in ["put", "patch"] {
            let known = ADDED.contains(&path.as_str()) || stale.iter().any(|(of, ..)| of == path);
            assert!(ways[way].is_null() || known, "{way} {path}: may two windows send it? Let it say what it saw, and try it here");
        }
    }
    for (path, at, body) in stale {
        let body = if body.is_null() { None } else { Some(body) };
        let (status, problem) = match &body {
            Some(body) => api.ask("PUT", at, Some(body.clone())).await,
            None => api.put(at, b"name,L,a,b\nmy moss,45,-18,22\n".to_vec()).await,
        };
        assert_eq!(status, StatusCode::CONFLICT, "{path}: {problem}");
        assert!(problem["detail"].as_str().unwrap().contains("another window"), "{problem}");
    }
}

#[tokio::test]
async fn what_was_seen_last_may_be_written_over() {
    let api = studio().await;
    let ground_now = api.ask("GET", "/api/grounds", None).await.1[0].clone();
    let at = format!("/api/grounds/1?seen={}", ground_now["version"].as_str().unwrap());
    assert_eq!(api.ask("PUT", &at, Some(ground("jute"))).await.0, StatusCode::OK);
    assert_eq!(api.ask("PUT", &at, Some(ground("hemp"))).await.0, StatusCode::CONFLICT, "it was seen before it was jute");
    assert_eq!(api.ask("GET", "/api/grounds", None).await.1[0]["record"]["ground"]["name"], "jute");
}
