//! One colour over the API: which of mine is this, how do I mix it, and the families of a set.

use crate::support::Api;
use axum::http::StatusCode;
use serde_json::Value;

#[tokio::test]
async fn the_nearest_of_a_box_come_with_their_relatives_and_mixes_where_colours_are_mixed() {
    let api = Api::demo();
    let (status, found) = api.ask("GET", "/api/pieces/1/match?colour=46%2018%2018", None).await;
    assert_eq!(status, StatusCode::OK, "{found}");
    let near = found["nearest"]["near"].as_array().unwrap();
    assert_eq!(near.len(), 5);
    assert!(near.windows(2).all(|w| w[0]["apart"].as_f64() <= w[1]["apart"].as_f64()));
    assert!(near.iter().all(|n| !n["off"].as_str().unwrap().is_empty()));
    assert!(found["mixes"].as_array().unwrap().is_empty(), "sticks are chosen");
    let set = api.piece(1).await["piece"]["chosen"]["pigments"].clone();
    let in_set = found["in_set"]["near"].as_array().unwrap();
    assert!(in_set.iter().all(|n| set.as_array().unwrap().contains(&n["pigment"]) || n["name"] == "chalk white"), "{in_set:?}");

    let oils = api.ask("GET", "/api/boxes/bench-oils/match?colour=%23805a3c", None).await.1;
    let mixes = oils["mixes"].as_array().unwrap();
    assert!((1..=3).contains(&mixes.len()), "{mixes:?}");
    let apart = |m: &Value| m["apart"].as_f64().unwrap();
    assert!(apart(&mixes[mixes.len() - 1]) < 8.0, "three pigments and white come near a brown: {mixes:?}");

    let (status, problem) = api.ask("GET", "/api/boxes/bench-oils/match?colour=boat", None).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    assert!(problem["detail"].as_str().unwrap().contains("\"boat\" is no colour"), "{problem}");
    assert_eq!(api.ask("GET", "/api/boxes/nobody/match?colour=50%200%200", None).await.0, StatusCode::NOT_FOUND);
}

#[tokio::test]
async fn a_dozen_pastels_are_told_by_their_families() {
    let api = Api::demo();
    let families = api.ask("GET", "/api/pieces/1/families", None).await.1;
    let sets = families.as_array().unwrap();
    let dozen = sets.iter().find(|s| s["size"] == 12).expect("the demo's pastels are twelve");
    let members: usize = dozen["families"].as_array().unwrap().iter().map(|f| f["members"].as_array().unwrap().len()).sum();
    assert_eq!(members, 12);
    assert!(sets.iter().skip(1).all(|s| s["step"].as_str().unwrap().starts_with("+ a ")), "{sets:?}");
    assert_eq!(sets[0]["step"], "");
}
