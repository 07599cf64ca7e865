//! Trials judged by eye, and studios without instruments.

use crate::support::Api;
use axum::http::StatusCode;
use serde_json::{Value, json};

const OILS: &str = "/api/boxes/bench-oils/readings";

/// The trials of the first zone of the bench, which is painted in oil.
async fn trials(api: &Api) -> Value {
    let (status, trials) = api.ask("GET", "/api/pieces/4/trials?zone=1", None).await;
    assert_eq!(status, StatusCode::OK, "{trials}");
    trials
}

fn judged(swatch: &Value, answers: Value) -> Value {
    let tried_for = json!({ "piece": 4, "zone": 1, "cell": null });
    json!({ "swatch": swatch, "tried_for": tried_for, "answers": answers.clone(), "from": { "by": "eye", "answers": answers } })
}

#[tokio::test]
async fn a_trial_by_eye_is_a_reading_says_what_to_add_and_three_of_them_move_the_mixes() {
    let api = Api::demo();
    let before = trials(&api).await;
    let (swatch, against) = (&before["next"], before["against"]["lab"].clone());
    assert!(against["l"].is_number(), "{before}");

    let dark = judged(swatch, json!({ "lighter": -3 }));
    let (status, seen) = api.ask("POST", "/api/boxes/bench-oils/readings/by-eye", Some(dark.clone())).await;
    assert_eq!(status, StatusCode::OK, "{seen}");
    let l = |lab: &Value| lab["l"].as_f64().unwrap();
    assert!((l(&against) - l(&seen["seen"]["lab"]) - 7.5).abs() < 1e-9, "three quarter steps darker: {seen}");
    assert!(seen["words"].as_str().unwrap().contains("dark") && !seen["correction"]["words"].as_str().unwrap().is_empty(), "{seen}");
    assert!(trials(&api).await["trials"].as_array().unwrap().is_empty(), "looking keeps nothing");

    let mut moved = 0;
    for _ in 0..3 {
        let (status, view) = api.ask("POST", OILS, Some(dark.clone())).await;
        assert_eq!(status, StatusCode::OK, "{view}");
        moved += view["moved"].as_array().unwrap().len();
        let reading = &view["readings"][0]["reading"];
        assert_eq!((reading["with"].as_str(), reading["played"].as_bool()), (Some("eye"), Some(false)));
        assert!(reading["eye"]["doubt"]["value"].as_f64().unwrap() > 0.0);
    }
    let after = trials(&api).await;
    assert_eq!(after["trials"].as_array().unwrap().len(), 3);
    assert!(after["trials"][0]["sentence"].as_str().unwrap().contains("dark") && moved > 0, "{after}");

    let far = api.ask("POST", OILS, Some(judged(swatch, json!({ "warmer": 40 })))).await;
    assert_eq!(far.0, StatusCode::UNPROCESSABLE_ENTITY);
    assert!(far.1["detail"].as_str().unwrap().contains("40"), "{}", far.1);
}

#[tokio::test]
async fn what_was_really_laid_is_told_in_layers() {
    let api = Api::demo();
    let (status, planned) = api.ask("GET", "/api/pieces/1/trials?zone=1", None).await;
    assert_eq!(status, StatusCode::OK, "{planned}");
    let paint_box = api.piece(1).await["piece"]["paint_box"].as_str().unwrap().to_owned();
    let mut steps = planned["next_steps"].as_array().unwrap().clone();
    assert!(!steps.is_empty(), "the planned layers can be changed: {planned}");
    steps[0]["amount"] = json!(3);
    steps[0]["times"] = json!(2);
    let told = |steps: &[Value]| {
        json!({
            "swatch": planned["next"], "laid": steps, "tried_for": { "piece": 1, "zone": 1, "cell": null },
            "from": { "by": "eye", "answers": {} }
        })
    };
    let (status, view) = api.ask("POST", &format!("/api/boxes/{paint_box}/readings"), Some(told(&steps))).await;
    assert_eq!(status, StatusCode::OK, "{view}");
    let laid = &view["readings"][0]["reading"]["swatch"]["layers"][0];
    assert_eq!((laid["how"].as_str(), laid["times"].as_u64()), (Some("heavy, twice"), Some(2)), "{laid}");
    assert_eq!(laid["amounts"].as_array().unwrap().len(), 2);

    steps[0]["amount"] = json!(9);
    let (status, problem) = api.ask("POST", &format!("/api/boxes/{paint_box}/readings"), Some(told(&steps))).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    assert!(problem["detail"].as_str().unwrap().starts_with("Layer 1"), "{problem}");
}

#[tokio::test]
async fn no_number_is_invented_in_a_real_studio() {
    let api = Api::demo().without_instruments();
    let swatch = trials(&api).await["next"].clone();
    for (method, path, body) in [
        ("GET", "/api/instruments/meter", None),
        ("POST", "/api/instruments/meter/calibrate", None),
        ("PUT", "/api/instruments/world", Some(json!({ "tile": true }))),
        ("POST", OILS, Some(json!({ "swatch": swatch, "from": { "by": "meter" } }))),
        ("GET", "/api/boxes/bench-oils/card/photo?kind=alone", None),
    ] {
        let (status, problem) = api.ask(method, path, body).await;
        assert_eq!(status, StatusCode::NOT_FOUND, "{method} {path}");
        assert!(problem["detail"].as_str().unwrap().contains("by eye"), "{problem}");
    }
}

#[tokio::test]
async fn readings_made_up_by_an_earlier_version_are_told_and_set_aside() {
    let api = Api::demo().without_instruments();
    let studio = api.ask("GET", "/api/studio", None).await.1;
    let played = studio["played"].as_array().unwrap().clone();
    assert!(!played.is_empty(), "the demo's pans were read by the simulated meter");
    assert_eq!(studio["simulates"], false);
    for line in &played {
        let path = format!("/api/boxes/{}/readings/played/aside", line["paint_box"].as_str().unwrap());
        let (status, view) = api.ask("POST", &path, None).await;
        assert_eq!(status, StatusCode::OK, "{view}");
        let aside = view["readings"].as_array().unwrap().iter().filter(|r| r["reading"]["left_out"] == true).count();
        assert!(aside >= line["readings"].as_u64().unwrap() as usize, "they are kept, and left out");
        assert!(view["changed"].as_array().unwrap().is_empty(), "nothing is learned any more: {}", view["changed"]);
    }
    assert_eq!(api.ask("GET", "/api/studio", None).await.1["played"], json!([]), "it is said once");
    assert_eq!(Api::demo().ask("GET", "/api/studio", None).await.1["played"], json!([]), "a demo's own are no fault");
}
