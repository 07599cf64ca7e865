//! Drills over the API: asked, answered, kept, and calm without material.

use crate::support::Api;
use axum::http::StatusCode;
use serde_json::{Value, json};

const ON: &str = "on=2025-03-01";

async fn question(api: &Api, more: &str) -> Value {
    let (status, q) = api.ask("GET", &format!("/api/drills/question?{ON}&{more}"), None).await;
    assert_eq!(status, StatusCode::OK, "{q}");
    q
}

fn answer(q: &Value, given: Value) -> Option<Value> {
    let of = &q["question"];
    Some(
        json!({ "drill": of["drill"], "size": of["size"], "seed": of["seed"], "paint_box": q["paint_box"], "on": "2025-03-01", "given": given }),
    )
}

#[tokio::test]
async fn answers_are_kept_and_the_next_question_is_harder_after_right_ones() {
    let api = Api::demo();
    let view = api.ask("GET", &format!("/api/drills?{ON}"), None).await.1;
    assert_eq!(view["standings"].as_array().unwrap().len(), 8, "the demo has material for all of them");
    let first = question(&api, "drill=warmer").await;
    // The right one is found out by asking a copy of the studio, so that only right answers are kept in this one.
    let copy = Api::demo();
    for seed in 1..=10 {
        let q = question(&api, &format!("drill=warmer&seed={seed}")).await;
        let mut right = false;
        for at in 0..2 {
            let (status, verdict) = copy.ask("POST", "/api/drills/answer", answer(&q, json!({ "by": "choice", "at": at }))).await;
            assert_eq!(status, StatusCode::OK, "{verdict}");
            if verdict["right"] == true {
                api.ask("POST", "/api/drills/answer", answer(&q, json!({ "by": "choice", "at": at }))).await;
                right = true;
            }
        }
        assert!(right);
    }
    let view = api.ask("GET", &format!("/api/drills?{ON}"), None).await.1;
    let warmer = view["standings"].as_array().unwrap().iter().find(|s| s["drill"] == "warmer").unwrap().clone();
    assert_eq!(warmer["answers"], 10);
    let last = question(&api, "drill=warmer&seed=99").await;
    let size = |q: &Value| q["question"]["size"].as_f64().unwrap();
    assert!(size(&last) < 0.7 * size(&first), "{} after {}", size(&last), size(&first));
    let without = api.ask("GET", &format!("/api/drills?{ON}&without_hue=true"), None).await.1;
    assert!(without["standings"].as_array().unwrap().iter().all(|s| s["without_hue"] == true));
}

#[tokio::test]
async fn what_does_not_fit_is_refused_and_not_kept() {
    let api = Api::demo();
    let q = question(&api, "drill=value").await;
    for given in [json!({ "by": "choice", "at": 3 }), json!({ "by": "value", "value": 99.0 }), json!({ "by": "parts", "trials": [] })] {
        let (status, problem) = api.ask("POST", "/api/drills/answer", answer(&q, given)).await;
        assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY, "{problem}");
    }
    assert!(api.studio.store.answers().unwrap().is_empty());
    assert_eq!(api.ask("GET", "/api/drills?on=monday", None).await.0, StatusCode::UNPROCESSABLE_ENTITY);
    let empty = Api::empty();
    let (status, problem) = empty.ask("GET", &format!("/api/drills?{ON}"), None).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    assert!(problem["detail"].as_str().unwrap().contains("your own Box"), "{problem}");
}
