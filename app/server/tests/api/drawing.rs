//! A drawing over the API: taken for one, read as a picture again, its values planned, coloured nine times.

use crate::support::Api;
use axum::http::{Request, StatusCode, header};
use serde_json::{Value, json};

async fn started(api: &Api) -> i64 {
    let brief = json!({ "title": "Kite again", "medium": "marker", "ground": "marker-white", "size": { "width": 210, "height": 297 } });
    let (status, piece) = api.ask("POST", "/api/pieces", Some(json!({ "brief": brief }))).await;
    assert_eq!(status, StatusCode::CREATED, "{piece}");
    let id = piece["id"].as_i64().unwrap();
    api.upload(id, "kite.jpg", lean_demo::KITE.to_vec()).await;
    let (status, view) = api.request(id, json!({ "do": "use-box", "paint_box": "kite-pens" })).await;
    assert!(status.is_success(), "{view}");
    id
}

#[tokio::test]
async fn a_dropped_drawing_has_open_shapes_and_three_plans() {
    let api = Api::demo();
    let id = started(&api).await;
    let piece = api.piece(id).await["piece"].clone();
    let zones = piece["zones"].as_array().unwrap();
    assert_eq!(piece["reference"]["lines"], true);
    assert!(zones.len() >= 20 && zones.iter().all(|z| z["open"] == true));
    let drawing = api.ask("GET", &format!("/api/pieces/{id}/drawing"), None).await.1;
    assert_eq!((drawing["coloured"].as_u64(), drawing["plans"].as_array().unwrap().len()), (Some(0), 3));
    for plan in 1..=3 {
        let request = Request::get(format!("/api/pieces/{id}/drawing/view?plan={plan}")).header(header::HOST, "localhost");
        let (status, kind, bytes) = api.send(request.body(axum::body::Body::empty()).unwrap()).await;
        assert_eq!((status, kind.as_str()), (StatusCode::OK, "image/png"));
        assert!(bytes.len() > 2000);
    }
    assert_eq!(api.ask("GET", &format!("/api/pieces/{id}/drawing/view?plan=4"), None).await.0, StatusCode::UNPROCESSABLE_ENTITY);
    let (status, view) = api.request(id, json!({ "do": "plan-values", "plan": 1, "keep": [] })).await;
    assert!(status.is_success(), "{view}");
    assert!(view["piece"]["zones"].as_array().unwrap().iter().all(|z| z["open"] == false));
}

#[tokio::test]
async fn it_is_read_as_a_picture_and_as_a_drawing_again() {
    let api = Api::demo();
    let id = started(&api).await;
    let revision = api.piece(id).await["revision"].clone();
    let (status, view) = api.ask("POST", &format!("/api/pieces/{id}/zones/picture"), Some(json!({ "base_revision": revision }))).await;
    assert_eq!(status, StatusCode::OK, "{view}");
    assert_eq!(view["piece"]["reference"]["lines"], false);
    assert!(view["piece"]["zones"].as_array().unwrap().iter().all(|z| z["open"] == false));
    let (status, problem) = api.ask("GET", &format!("/api/pieces/{id}/drawing"), None).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY, "{problem}");
    let lines = json!({ "base_revision": view["revision"], "outline": false });
    let view = api.ask("POST", &format!("/api/pieces/{id}/zones/lines"), Some(lines)).await.1;
    assert_eq!(view["piece"]["reference"]["lines"], true);
    let photo = lean_demo::TRAM_SHED.to_vec();
    api.upload(id, "shed.jpg", photo).await;
    assert_eq!(api.piece(id).await["piece"]["reference"]["lines"], false, "a photograph is no drawing");
}

#[tokio::test]
async fn studies_of_an_open_drawing_are_nine_over_a_plan_of_its_values() {
    let api = Api::demo();
    let id = started(&api).await;
    let (status, job) = api.ask("POST", &format!("/api/pieces/{id}/studies"), Some(json!({ "kinds": [] }))).await;
    assert_eq!(status, StatusCode::ACCEPTED, "{job}");
    api.ended(job["id"].as_u64().unwrap()).await;
    let piece = api.piece(id).await["piece"].clone();
    let studies = piece["studies"].as_array().unwrap();
    assert_eq!(studies.len(), 9);
    assert!(piece["zones"].as_array().unwrap().iter().all(|z| z["open"] == false), "the values were planned first");
    let schemes: Vec<&Value> = studies.iter().map(|s| &s["scheme"]).collect();
    assert!((0..9).all(|i| (0..i).all(|j| schemes[i] != schemes[j])));
    assert!(studies.iter().all(|s| s["pigments"].as_array().unwrap().len() <= 9));

    // The first is turned: its hues go on by as much, its values stay.
    let number = studies[0]["number"].as_u64().unwrap();
    let (status, job) = api.ask("POST", &format!("/api/pieces/{id}/studies/{number}/turn"), Some(json!({ "by": 45.0 }))).await;
    assert_eq!(status, StatusCode::ACCEPTED, "{job}");
    api.ended(job["id"].as_u64().unwrap()).await;
    let after = api.piece(id).await["piece"]["studies"][0].clone();
    let hue = |s: &Value| s["scheme"]["dominant"].as_f64().unwrap();
    assert!(((hue(&after) - hue(&studies[0])).rem_euclid(360.0) - 45.0).abs() < 1e-6, "{}", after["scheme"]);
    let lightness = |s: &Value| s["mixes"].as_array().unwrap().iter().map(|m| m["wanted"]["l"].as_f64().unwrap()).collect::<Vec<_>>();
    assert!(lightness(&after).iter().zip(lightness(&studies[0])).all(|(a, b)| (a - b).abs() < 0.5));
    let too_far = api.ask("POST", &format!("/api/pieces/{id}/studies/{number}/turn"), Some(json!({ "by": 400.0 }))).await;
    assert_eq!(too_far.0, StatusCode::UNPROCESSABLE_ENTITY);
}
