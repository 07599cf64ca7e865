//! Whole tasks with pictures that have little to hold on to.

use crate::support::{Api, brief, painted};
use axum::http::StatusCode;
use lean_media::{Medium, library};
use lean_piece::paint_box::{BoxId, PaintBox};
use serde_json::{Value, json};

/// A piece in oil with a Box of six and a picture taken in.
async fn piece_of(file: Vec<u8>) -> Api {
    let api = Api::empty();
    let pigments = ["PW6", "PB29", "PY43", "PBr7-burnt-sienna", "PR254", "PBk9"].map(|id| library::find(id).unwrap().clone());
    let paint_box = PaintBox { name: "Six".into(), medium: Medium::Oil, pigments: pigments.into() };
    api.studio.store.put_box(&BoxId("six".into()), &paint_box).unwrap();
    assert_eq!(api.ask("POST", "/api/pieces", Some(brief("Hard to see"))).await.0, StatusCode::CREATED);
    assert_eq!(api.request(1, json!({ "do": "use-box", "paint_box": "six" })).await.0, StatusCode::OK);
    let job = api.upload(1, "hard.png", file).await;
    assert_eq!(job["problem"], Value::Null, "{job}");
    api
}

fn targets(view: &Value) -> Vec<(f64, f64)> {
    let shapes = view["derived"]["shapes"].as_array().unwrap();
    shapes.iter().map(|s| (s["reading"]["value"].as_f64().unwrap(), s["target"]["value"].as_f64().unwrap())).collect()
}

fn said(view: &Value) -> Vec<String> {
    view["derived"]["findings"].as_array().unwrap().iter().map(|f| f["key"].as_str().unwrap().to_owned()).collect()
}

/// The targets of a picture mapped into reach keep the order of what was read.
async fn mapped_in_order(api: &Api) -> Value {
    let (status, view) = api.request(1, json!({ "do": "map-values", "key": "full" })).await;
    assert_eq!(status, StatusCode::OK, "{view}");
    let mut of = targets(&view);
    of.sort_by(|a, b| a.0.total_cmp(&b.0));
    assert!(of.windows(2).all(|w| w[0].1 <= w[1].1 + 1e-6), "{of:?}");
    let reach = &view["derived"]["light"]["reach"];
    let (dark, light) = (reach["darkest"].as_f64().unwrap(), reach["lightest"].as_f64().unwrap());
    assert!(of.iter().all(|(_, t)| *t >= dark - 0.01 && *t <= light + 0.01), "{of:?} outside {dark} to {light}");
    view
}

/// Dark sky and houses with grain, one small window far off glowing.
fn night() -> Vec<u8> {
    painted(480, 320, |x, y| {
        let grain = ((x * 7919 + y * 104_729) % 7) as u8;
        match (x, y) {
            (300..=360, 150..=200) => [250, 190, 90],
            (_, 0..=129) => [12 + grain, 16 + grain, 30 + grain],
            (200..=420, 130..=239) => [24 + grain, 22 + grain, 26 + grain],
            _ => [40 + grain, 38 + grain, 44 + grain],
        }
    })
}

#[tokio::test]
async fn a_photo_taken_at_night_is_planned_and_its_rules_stay_silent_once_night_is_named() {
    let api = piece_of(night()).await;
    let zones = api.piece(1).await["piece"]["zones"].as_array().unwrap().len();
    assert!((2..=10).contains(&zones), "{zones} zones");
    assert_eq!(api.request(1, json!({ "do": "propose-facts" })).await.0, StatusCode::OK);
    assert_eq!(api.request(1, json!({ "do": "confirm-facts" })).await.0, StatusCode::OK);
    let light = |exceptions: &[&str]| {
        let first = json!({ "tint": "cool", "from": "above", "hard": false });
        json!({ "do": "set-lighting", "lighting": { "falling": { "kind": "one", "first": first }, "outdoors": true, "exceptions": exceptions } })
    };
    let of_day = |keys: &[String]| keys.iter().filter(|k| k.starts_with("planes-") || k.starts_with("distance-")).count();
    let (_, by_day) = api.request(1, light(&[])).await;
    assert!(of_day(&said(&by_day)) > 0, "by day ground lighter than the sky is noticed: {:?}", said(&by_day));
    let (_, by_night) = api.request(1, light(&["night", "far-glow"])).await;
    assert_eq!(of_day(&said(&by_night)), 0, "{:?}", said(&by_night));
    mapped_in_order(&api).await;
}

#[tokio::test]
async fn a_nearly_white_picture_is_parted_where_it_can_be_and_mapped_without_turning_over() {
    let white = painted(480, 320, |x, y| {
        let grain = ((x * 31 + y * 17) % 3) as u8;
        if y < 140 { [250 - grain, 250 - grain, 251 - grain] } else { [238 - grain, 240 - grain, 243 - grain] }
    });
    let api = piece_of(white).await;
    let view = mapped_in_order(&api).await;
    let read = targets(&view);
    assert!((1..=9).contains(&read.len()) && read.iter().all(|(r, _)| *r > 9.0), "{read:?}");
    let (status, ladder) = api.ask("GET", "/api/pieces/1/reference/ladder", None).await;
    assert_eq!(status, StatusCode::OK);
    assert!(ladder["median"].as_f64().unwrap() > 9.0, "{ladder}");
    let revision = view["revision"].clone();
    let (status, charted) = api.ask("POST", "/api/pieces/1/chart", Some(json!({ "base_revision": revision }))).await;
    assert_eq!(status, StatusCode::OK, "{charted}");
    let cells = charted["piece"]["chart"]["cells"].as_array().unwrap().len();
    assert!((1..=4).contains(&cells), "{cells} colours in a nearly white picture");
}

#[tokio::test]
async fn one_odd_pixel_is_neither_a_zone_nor_in_the_way() {
    let odd = painted(400, 300, |x, y| if (x, y) == (211, 97) { [200, 20, 20] } else { [128, 128, 128] });
    let api = piece_of(odd).await;
    let view = api.piece(1).await;
    assert_eq!(view["piece"]["zones"].as_array().unwrap().len(), 1);
    let revision = view["revision"].clone();
    let (status, view) = api.ask("POST", "/api/pieces/1/zones/propose", Some(json!({ "base_revision": revision, "count": 8 }))).await;
    assert_eq!(status, StatusCode::OK, "{view}");
    assert!(!view["piece"]["zones"].as_array().unwrap().is_empty());
}

#[tokio::test]
async fn a_wall_line_without_length_is_refused_with_what_to_do() {
    let api = piece_of(night()).await;
    let (status, _) = api.put("/api/pieces/1/wall?file_name=wall.png", night()).await;
    assert_eq!(status, StatusCode::OK);
    let place = json!({ "x": 0.4, "y": 0.5 });
    let wall = |to: Value| {
        let measure = json!({ "by": "line", "from": place, "to": to, "length": 1000.0 });
        json!({ "do": "set-wall", "measure": measure, "candidates": [], "taken": null, "heard": null })
    };
    let before = api.piece(1).await;
    let (status, problem) = api.request(1, wall(place.clone())).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    assert!(problem["detail"].as_str().unwrap().contains("line"), "{problem}");
    assert_eq!(api.piece(1).await, before, "nothing is lost");
    assert_eq!(api.request(1, wall(json!({ "x": 0.4, "y": 0.8 }))).await.0, StatusCode::OK);
}

#[tokio::test]
async fn sessions_are_logged_in_their_order_and_bad_ones_refused() {
    let api = piece_of(night()).await;
    let session = |on: &str, minutes: u32| json!({ "on": on, "minutes": minutes, "did": "lay-in", "zones": [1] });
    let log = |sessions: Vec<Value>| json!({ "do": "set-sessions", "sessions": sessions });
    let (status, view) = api.request(1, log(vec![session("2025-02-03", 40), session("2025-01-14", 90)])).await;
    assert_eq!(status, StatusCode::OK, "{view}");
    assert_eq!(view["piece"]["sessions"][0]["on"], "2025-01-14");
    let (status, problem) = api.request(1, log(vec![session("2025-02-30", 40)])).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    assert!(problem["detail"].as_str().unwrap().contains("no day"), "{problem}");
    assert_eq!(api.piece(1).await["piece"]["sessions"].as_array().unwrap().len(), 2);
}

#[tokio::test]
async fn light_is_borrowed_from_another_reference_or_refused_where_it_has_none() {
    let halves = |light: [u8; 3], dark: [u8; 3]| painted(400, 300, move |x, _| if x < 200 { light } else { dark });
    let api = piece_of(halves([180, 120, 60], [150, 140, 150])).await;
    assert_eq!(api.request(1, json!({ "do": "propose-facts" })).await.0, StatusCode::OK);
    let facts = |role: &str| json!({ "plane": null, "distance": null, "role": role, "kind": null, "light": "first", "local": null, "by_hand": true });
    for (zone, role) in [(1, "lit"), (2, "shadow")] {
        let (status, view) = api.request(1, json!({ "do": "set-facts", "zone": zone, "facts": facts(role) })).await;
        assert_eq!(status, StatusCode::OK, "{view}");
    }
    let borrow = async |name: &str, file: Vec<u8>| {
        let (status, view) = api.put(&format!("/api/pieces/1/others?file_name={name}"), file).await;
        assert_eq!(status, StatusCode::OK);
        let others = view["piece"]["others"].as_array().unwrap();
        let digest = &others.iter().find(|o| o["file_name"] == name).unwrap()["digest"];
        let from = json!({ "of": "picture", "digest": digest });
        api.ask("POST", "/api/pieces/1/borrow-light", Some(json!({ "base_revision": view["revision"], "from": from }))).await
    };
    let (status, problem) = borrow("fog.png", halves([120, 120, 120], [123, 123, 123])).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    assert!(problem["detail"].as_str().unwrap().contains("fog.png"), "{problem}");
    let (status, view) = borrow("sun.png", halves([230, 200, 150], [60, 62, 88])).await;
    assert_eq!(status, StatusCode::OK, "{view}");
    let planned: Vec<f64> = targets(&view).into_iter().map(|t| t.1).collect();
    let read: Vec<f64> = targets(&view).into_iter().map(|t| t.0).collect();
    assert!(planned[0] - planned[1] > read[0] - read[1] + 2.0, "the deep shadow of the sun: {planned:?}");
}
