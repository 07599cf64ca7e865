//! Boxes, readings, the meter and trials over the API.

use crate::support::Api;
use axum::body::Body;
use axum::http::{Request, StatusCode, header};
use serde_json::{Value, json};

async fn text(api: &Api, path: &str) -> String {
    let request = Request::get(path).header(header::HOST, "localhost").body(Body::empty()).unwrap();
    let (status, _, body) = api.send(request).await;
    assert_eq!(status, StatusCode::OK, "{path}");
    String::from_utf8(body).unwrap()
}

async fn calibrated(api: &Api) {
    assert_eq!(api.ask("PUT", "/api/instruments/world", Some(json!({ "tile": true }))).await.0, StatusCode::OK);
    for _ in 0..5 {
        assert_eq!(api.ask("POST", "/api/instruments/meter/calibrate", None).await.0, StatusCode::OK);
    }
}

async fn laid(api: &Api, paint_box: &str, swatch: &Value) {
    let world = json!({ "under": { "paint_box": paint_box, "swatch": swatch } });
    let (status, problem) = api.ask("PUT", "/api/instruments/world", Some(world)).await;
    assert_eq!(status, StatusCode::OK, "{problem}");
}

const READINGS: &str = "/api/boxes/bench-oils/readings";

#[tokio::test]
async fn the_meter_teaches_the_box_and_pieces_hear_of_it() {
    let api = Api::demo();
    let swatches = api.ask("GET", "/api/boxes/bench-oils/swatches?pigment=burnt-sienna", None).await.1;
    let swatches: Vec<Value> = swatches.as_array().unwrap().iter().map(|s| s["swatch"].clone()).collect();
    let by_meter = |swatch: &Value| Some(json!({ "swatch": swatch, "from": { "by": "meter" } }));
    let (status, problem) = api.ask("POST", READINGS, by_meter(&swatches[0])).await;
    assert_eq!(status, StatusCode::CONFLICT);
    assert!(problem["detail"].as_str().unwrap().contains("white tile"), "{problem}");
    assert!(api.ask("GET", READINGS, None).await.1["readings"].as_array().unwrap().is_empty(), "nothing was kept");

    calibrated(&api).await;
    let before = api.piece(4).await["derived"]["basis"].clone();
    let mut moved = Vec::new();
    for swatch in &swatches {
        laid(&api, "bench-oils", swatch).await;
        let (status, view) = api.ask("POST", READINGS, by_meter(swatch)).await;
        assert_eq!(status, StatusCode::OK, "{view}");
        moved.extend(view["moved"].as_array().unwrap().clone());
    }
    let view = api.ask("GET", READINGS, None).await.1;
    assert_eq!(view["readings"].as_array().unwrap().len(), swatches.len());
    assert!(view["readings"].as_array().unwrap().iter().all(|r| r["stray"] == "" && r["predicted"].is_object()));
    assert!(view["changed"].as_array().unwrap().iter().any(|c| c["pigment"] == "burnt-sienna"));
    let owned = api.ask("GET", "/api/boxes/bench-oils", None).await.1;
    let sienna = owned["pigments"].as_array().unwrap().iter().find(|p| p["id"] == "burnt-sienna").unwrap().clone();
    let mut used = 0;
    for line in api.ask("GET", "/api/studio", None).await.1["pieces"].as_array().unwrap() {
        let piece = api.piece(line["id"].as_i64().unwrap()).await["piece"].clone();
        let set = piece["chosen"]["pigments"].as_array().unwrap();
        used += u64::from(piece["paint_box"] == "bench-oils" && set.contains(&json!("burnt-sienna")));
    }
    assert!(used > 0);
    assert_eq!((sienna["provenance"].as_str(), sienna["used_in"].as_u64()), (Some("measured"), Some(used)));
    assert!(sienna["doubt"].as_f64().unwrap() < 2.0, "{sienna}");
    assert!(moved.iter().any(|m| m["piece"] == 4 && m["words"].as_str().unwrap().contains("moved")), "{moved:?}");
    assert_ne!(api.piece(4).await["derived"]["basis"], before, "the search says it is out of date");
    let note = &api.piece(4).await["study_notes"][0];
    assert!(note["moved"].as_str().unwrap().contains("moved"), "studies keep their record and say how it looks now: {note}");

    // Left out, all is as it was.
    for r in view["readings"].as_array().unwrap() {
        let path = format!("{READINGS}/{}?seen={}", r["id"], r["version"].as_str().unwrap());
        assert_eq!(api.ask("PUT", &path, Some(json!({ "left_out": true, "note": "by hand" }))).await.0, StatusCode::OK);
    }
    assert_eq!(api.piece(4).await["derived"]["basis"], before);
    let first = format!("{READINGS}/{}", view["readings"][0]["id"]);
    assert_eq!(api.ask("DELETE", &first, None).await.0, StatusCode::OK);
    assert_eq!(api.ask("DELETE", &first, None).await.0, StatusCode::NOT_FOUND);
}

#[tokio::test]
async fn trials_are_judged_and_what_to_add_is_said() {
    let api = Api::demo();
    let swatch = json!({ "ground": "panel-white", "parts": [{ "pigment": "titanium-white", "parts": 4 }], "layers": [] });
    let typed =
        json!({ "swatch": swatch, "from": { "by": "typed", "text": "96 0 2" }, "tried_for": { "piece": 4, "zone": 2, "cell": null } });
    assert_eq!(api.ask("POST", READINGS, Some(typed)).await.0, StatusCode::OK);
    let trials = api.ask("GET", "/api/pieces/4/trials?zone=2", None).await.1;
    assert_eq!(trials["trials"].as_array().unwrap().len(), 1);
    assert!(trials["trials"][0]["sentence"].as_str().unwrap().contains("too light"), "{trials}");
    assert!(trials["correction"]["words"].as_str().unwrap().starts_with("Add "), "{}", trials["correction"]);
    assert!(api.ask("GET", "/api/pieces/4/trials?zone=3", None).await.1["trials"].as_array().unwrap().is_empty());
    assert_eq!(api.ask("GET", "/api/pieces/4/trials?zone=99", None).await.0, StatusCode::NOT_FOUND);
    assert_eq!(api.ask("GET", "/api/pieces/4/trials", None).await.0, StatusCode::UNPROCESSABLE_ENTITY);
}

#[tokio::test]
async fn bad_readings_and_a_bad_meter_are_said_calmly_and_nothing_is_kept() {
    let api = Api::demo();
    let of = |pigment: &str, ground: &str, parts: Value| json!({ "ground": ground, "parts": [{ "pigment": pigment, "parts": parts }], "layers": [] });
    let typed = |swatch: Value, text: &str| Some(json!({ "swatch": swatch, "from": { "by": "typed", "text": text } }));
    for (body, words) in [
        (typed(of("velvet", "panel-white", json!(1)), "#334455"), "not in this Box"),
        (typed(of("viridian", "velvet", json!(1)), "#334455"), "no ground"),
        (typed(of("viridian", "panel-white", json!(-1)), "#334455"), "above 0"),
        (typed(of("viridian", "panel-white", json!(1)), "boat"), "no colour"),
        (typed(json!({ "ground": "panel-white", "parts": [], "layers": [] }), "#334455"), "made of"),
    ] {
        let (status, problem) = api.ask("POST", READINGS, body).await;
        assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY, "{problem}");
        assert!(problem["detail"].as_str().unwrap().contains(words), "{problem} does not say {words}");
    }
    calibrated(&api).await;
    let swatch = of("viridian", "panel-white", json!(1));
    for (world, words) in [(json!({ "unplugged": true }), "Plug it in"), (json!({ "busy": true }), "Close that")] {
        api.ask("PUT", "/api/instruments/world", Some(world)).await;
        let (status, problem) = api.ask("POST", READINGS, Some(json!({ "swatch": swatch, "from": { "by": "meter" } }))).await;
        assert_eq!(status, StatusCode::CONFLICT);
        assert!(problem["detail"].as_str().unwrap().contains(words), "{problem}");
    }
    for file in [&b"\xff\xfe\x00"[..], b"id,L,a,b\nviridian,40", b"id,L,a,b\nnobody,40,1,1", b"id,fraction\nviridian,1"] {
        let (status, problem) = api.put("/api/boxes/bench-oils/readings/file", file.to_vec()).await;
        assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY, "{problem}");
    }
    assert!(api.ask("GET", READINGS, None).await.1["readings"].as_array().unwrap().is_empty());
}

#[tokio::test]
async fn reading_files_come_back_as_they_went() {
    let api = Api::demo();
    let file = "id,fraction,L,a,b\nviridian,1,24,-18,2\nviridian,0.25,62,-24,2\nyellow ochre,0.5,74,10,34\n";
    let (status, view) = api.put("/api/boxes/bench-oils/readings/file", file.into()).await;
    assert_eq!((status, view["readings"].as_array().unwrap().len()), (StatusCode::OK, 3), "{view}");
    let out = text(&api, "/api/boxes/bench-oils/readings/file").await;
    assert!(out.contains("viridian") && out.contains("0.25") && out.lines().count() == 4, "{out}");
    for kind in ["csv", "iso"] {
        let saved = text(&api, &format!("/api/boxes/bench-oils/readings/file?kind={kind}")).await;
        let (status, view) = api.put("/api/boxes/bench-oils/readings/file", saved.into_bytes()).await;
        assert_eq!(status, StatusCode::OK, "{kind}: {view}");
    }
    assert_eq!(api.ask("GET", READINGS, None).await.1["readings"].as_array().unwrap().len(), 12);
    let request =
        Request::get("/api/boxes/bench-oils/readings/file?kind=velvet").header(header::HOST, "localhost").body(Body::empty()).unwrap();
    assert_eq!(api.send(request).await.0, StatusCode::UNPROCESSABLE_ENTITY);
}

#[tokio::test]
async fn a_box_is_started_in_minutes_and_described() {
    let api = Api::demo();
    let new = |fill: Value| {
        let mut body = json!({ "name": "Mine", "medium": "oil" });
        body.as_object_mut().unwrap().extend(fill.as_object().unwrap().clone());
        Some(body)
    };
    let made = api.ask("POST", "/api/boxes", new(json!({ "starter": 12 }))).await;
    assert_eq!((made.0, made.1["pigments"].as_array().unwrap().len()), (StatusCode::CREATED, 12));
    let (status, problem) = api.ask("POST", "/api/boxes", new(json!({ "starter": 7 }))).await;
    assert!(status == StatusCode::UNPROCESSABLE_ENTITY && problem["detail"].as_str().unwrap().contains("6, 12, 24"), "{problem}");
    let typed = api.ask("POST", "/api/boxes", new(json!({ "list": "PB29, burnt sienna, PW6" }))).await.1;
    assert_eq!(typed["pigments"].as_array().unwrap().len(), 3);
    let id = typed["id"].as_str().unwrap();
    let (status, problem) = api.ask("POST", &format!("/api/boxes/{id}/list"), Some(json!({ "list": "PY43, velvet" }))).await;
    assert!(status == StatusCode::UNPROCESSABLE_ENTITY && problem["detail"].as_str().unwrap().contains("velvet"), "{problem}");
    let five_hundred = vec!["PB29"; 497].join(",");
    assert_eq!(api.ask("POST", &format!("/api/boxes/{id}/list"), Some(json!({ "list": five_hundred }))).await.0, StatusCode::OK);
    let (status, problem) = api.ask("POST", &format!("/api/boxes/{id}/list"), Some(json!({ "list": "PY43" }))).await;
    assert!(status == StatusCode::UNPROCESSABLE_ENTITY && problem["detail"].as_str().unwrap().contains("500"), "{problem}");

    // Far too many to go through: said, and nothing hangs.
    assert_eq!(api.request(4, json!({ "do": "use-box", "paint_box": id })).await.0, StatusCode::OK);
    for (method, path) in [("POST", "/api/pieces/4/search"), ("GET", "/api/pieces/4/wheel")] {
        let (status, problem) = api.ask(method, path, None).await;
        assert!(status == StatusCode::UNPROCESSABLE_ENTITY && problem["detail"].as_str().unwrap().contains("120"), "{path}: {problem}");
    }
    assert_eq!(api.request(4, json!({ "do": "use-box", "paint_box": "bench-oils" })).await.0, StatusCode::OK);

    let said = json!({
        "name": "Sea", "colour_index": ["PB29"], "lightfastness": "I", "hazard": "", "staining": false, "granulating": true,
        "owned": { "label": "No 5", "hardness": null, "covering": 0.3, "left": 0.5, "bought": "the fair", "lent_to": "", "used_up": true }
    });
    let of = |view: &Value| view["pigments"].as_array().unwrap().iter().find(|p| p["id"] == "ultramarine").unwrap().clone();
    let path = |view: &Value| format!("/api/boxes/bench-oils/pigments/ultramarine?seen={}", of(view)["version"].as_str().unwrap());
    let seen = api.ask("GET", "/api/boxes/bench-oils", None).await.1;
    let view = api.ask("PUT", &path(&seen), Some(said.clone())).await.1;
    let p = view["pigments"].as_array().unwrap().iter().find(|p| p["id"] == "ultramarine").unwrap().clone();
    assert_eq!(
        (p["name"].as_str(), p["owned"]["label"].as_str(), p["owned"]["used_up"].as_bool()),
        (Some("Sea"), Some("No 5"), Some(true))
    );
    let mut wrong = said;
    wrong["owned"]["left"] = json!(7);
    let (status, problem) = api.ask("PUT", &path(&view), Some(wrong)).await;
    assert!(status == StatusCode::UNPROCESSABLE_ENTITY && problem["detail"].as_str().unwrap().contains("from 0 to 1"), "{problem}");
    let table = text(&api, "/api/boxes/bench-oils/inventory").await;
    assert!(table.contains("No 5") && table.contains("the fair"), "{table}");
    let inventory = format!("/api/boxes/bench-oils/inventory?seen={}", view["version"].as_str().unwrap());
    let (status, view) = api.put(&inventory, b"name,L,a,b\nmy moss,45,-18,22\n".to_vec()).await;
    assert!(status == StatusCode::OK && view["pigments"].as_array().unwrap().iter().any(|p| p["provenance"] == "inferred"), "{view}");

    // What is used up is not searched.
    let id = api.ask("POST", "/api/pieces/4/search", None).await.1["id"].as_u64().unwrap();
    assert_eq!(api.ended(id).await["problem"], Value::Null);
    let sizes = api.piece(4).await["piece"]["search"]["sizes"].clone();
    assert!(sizes.as_array().unwrap().iter().all(|s| !s["pigments"].as_array().unwrap().contains(&json!("ultramarine"))));
    assert!(!api.ask("GET", "/api/boxes/kite-pens/strings", None).await.1["blending"].as_array().unwrap().is_empty());
    assert_eq!(api.ask("GET", "/api/boxes/kite-pens/greys?pigment=teal&drop=90", None).await.0, StatusCode::UNPROCESSABLE_ENTITY);
}

#[tokio::test]
async fn a_test_card_is_printed_painted_photographed_and_read_back() {
    let api = Api::demo();
    let get = async |path: String| api.send(Request::get(path).header(header::HOST, "localhost").body(Body::empty()).unwrap()).await;
    let card = "kind=alone&pigments=viridian,yellow-ochre,burnt-sienna,ultramarine";
    let (status, kind, bytes) = get(format!("/api/boxes/bench-oils/card.pdf?{card}")).await;
    assert_eq!((status, kind.as_str()), (StatusCode::OK, "application/pdf"));
    assert!(lopdf::Document::load_mem(&bytes).unwrap().extract_text(&[1]).unwrap().contains("grey card"));
    let photo = get(format!("/api/boxes/bench-oils/card/photo?{card}")).await.2;
    let (status, view) = api.put(&format!("/api/boxes/bench-oils/card?{card}"), photo.clone()).await;
    assert_eq!(status, StatusCode::OK, "{view}");
    let readings = view["readings"].as_array().unwrap();
    assert_eq!(readings.len(), 8);
    assert!(readings.iter().all(|r| r["reading"]["with"] == "photo" && r["reading"]["left_out"] == false), "{readings:?}");
    let owned = api.ask("GET", "/api/boxes/bench-oils", None).await.1;
    let viridian = owned["pigments"].as_array().unwrap().iter().find(|p| p["id"] == "viridian").unwrap().clone();
    assert_eq!(viridian["provenance"], "inferred", "a photo knows no spectrum");

    // Half a photo, another picture, no photo: said calmly, nothing kept.
    let half = image::load_from_memory(&photo).unwrap().crop_imm(0, 0, 1500, 900);
    let mut cut = std::io::Cursor::new(Vec::new());
    half.write_to(&mut cut, image::ImageFormat::Png).unwrap();
    for (bytes, words) in [(cut.into_inner(), "corners"), (crate::support::png(300, 200), "corners"), (b"no picture".to_vec(), "")] {
        let (status, problem) = api.put(&format!("/api/boxes/bench-oils/card?{card}"), bytes).await;
        assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
        assert!(problem["detail"].as_str().unwrap().contains(words), "{problem}");
    }
    assert_eq!(api.ask("GET", READINGS, None).await.1["readings"].as_array().unwrap().len(), 8);
    for (path, words) in [("kind=orders&pigments=viridian,yellow-ochre", "Oil is mixed"), ("kind=alone&page=9", "no page 9")] {
        let (status, problem) = api.put(&format!("/api/boxes/bench-oils/card?{path}"), photo.clone()).await;
        assert!(status == StatusCode::UNPROCESSABLE_ENTITY && problem["detail"].as_str().unwrap().contains(words), "{problem}");
    }
    let pens = get("/api/boxes/kite-pens/card.pdf?kind=orders&pigments=teal,ochre,raspberry".into()).await;
    assert_eq!(pens.0, StatusCode::OK);
}

#[tokio::test]
async fn a_chart_is_filled_by_hand_photographed_and_read_back() {
    let api = Api::demo();
    let get = async |path: String| api.send(Request::get(path).header(header::HOST, "localhost").body(Body::empty()).unwrap()).await;
    let revision = api.piece(4).await["revision"].clone();
    let (status, piece) = api.ask("POST", "/api/pieces/4/chart", Some(json!({ "base_revision": revision, "count": 9 }))).await;
    assert_eq!(status, StatusCode::OK, "{piece}");
    let (status, cells) = api.ask("GET", "/api/pieces/4/chart/by-hand", None).await;
    assert_eq!(status, StatusCode::OK, "{cells}");
    let cells = cells.as_array().unwrap();
    assert!(cells.len() == 9 && cells.iter().all(|c| c["nearest"]["name"].is_string()), "{cells:?}");
    let recipes: Vec<&Value> = cells.iter().filter(|c| c["mix"].is_object()).collect();

    let sheet = "kind=chart&piece=4";
    let (status, _, bytes) = get(format!("/api/boxes/bench-oils/card.pdf?{sheet}")).await;
    assert_eq!(status, StatusCode::OK);
    assert!(lopdf::Document::load_mem(&bytes).unwrap().extract_text(&[1]).unwrap().contains("grey card"));
    let photo = get(format!("/api/boxes/bench-oils/card/photo?{sheet}")).await.2;
    let (status, view) = api.put(&format!("/api/boxes/bench-oils/card?{sheet}"), photo).await;
    assert_eq!(status, StatusCode::OK, "{view}");
    let readings = view["readings"].as_array().unwrap();
    assert_eq!(readings.len(), recipes.len());
    assert!(readings.iter().all(|r| r["reading"]["left_out"] == false), "{readings:?}");
    let (status, problem) = api.ask("GET", "/api/boxes/bench-oils/card.pdf?kind=chart", None).await;
    assert!(status == StatusCode::UNPROCESSABLE_ENTITY && problem["detail"].as_str().unwrap().contains("Say of which"), "{problem}");
}

#[tokio::test]
async fn a_piece_draws_on_two_boxes_and_the_search_uses_both() {
    let api = Api::demo();
    let draw = |second: &str, from: &str| json!({ "do": "draw-on-two", "together": { "second": second, "paint_box": from } });
    let ask = async |piece: i64, request: Value| {
        let revision = api.piece(piece).await["revision"].clone();
        api.ask("POST", &format!("/api/pieces/{piece}/requests"), Some(json!({ "base_revision": revision, "request": request }))).await
    };
    for (piece, request, words) in [
        (3, draw("pencil", "hen-pans"), "taken from a Box of coloured pencil"),
        (3, draw("acrylic", "bench-oils"), "does not go with alcohol marker"),
        (2, draw("body-colour", "hen-pans"), "no white"),
        (1, draw("pencil", "bell-pencils"), "another medium"),
    ] {
        let (status, problem) = ask(piece, request).await;
        assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
        assert!(problem["detail"].as_str().unwrap().contains(words), "{problem}");
    }
    let (status, view) = ask(3, draw("pencil", "bell-pencils")).await;
    assert_eq!(status, StatusCode::OK, "{view}");
    let both = api.ask("GET", "/api/boxes/kite-pens?second=pencil&from=bell-pencils", None).await.1;
    let pencils = both["pigments"].as_array().unwrap().iter().filter(|p| p["second"] == "pencil").count();
    assert_eq!(pencils, 24);

    let (status, job) = api.ask("POST", "/api/pieces/3/search", None).await;
    assert_eq!(status, StatusCode::ACCEPTED, "{job}");
    // The stream ends by itself once the search is done: were it left open, this would never come back.
    let events = text(&api, &format!("/api/jobs/{}/events", job["id"])).await;
    assert!(events.contains("event: done"), "{events}");
    let sizes = api.piece(3).await["piece"]["search"]["sizes"].clone();
    let names = sizes.to_string();
    assert!(names.contains("second:"), "some pencil serves this kite: {names}");

    // A Box that is laid over is in use like any other, and comes back with the step that draws on it.
    let spare = json!({ "name": "Spare pencils", "medium": "pencil", "starter": 6 });
    assert_eq!(api.ask("POST", "/api/boxes", Some(spare)).await.0, StatusCode::CREATED);
    assert_eq!(ask(3, draw("pencil", "spare-pencils")).await.0, StatusCode::OK);
    let (status, problem) = api.ask("DELETE", "/api/boxes/spare-pencils", None).await;
    assert_eq!(status, StatusCode::CONFLICT, "{problem}");
    assert_eq!(ask(3, json!({ "do": "draw-on-two", "together": null })).await.0, StatusCode::OK);
    assert_eq!(api.ask("DELETE", "/api/boxes/spare-pencils", None).await.0, StatusCode::NO_CONTENT);
    let revision = api.piece(3).await["revision"].clone();
    let (status, view) = api.ask("POST", "/api/pieces/3/undo", Some(json!({ "base_revision": revision }))).await;
    assert_eq!(status, StatusCode::OK, "{view}");
    assert_eq!(view["piece"]["together"]["paint_box"], "spare-pencils");
    let boxes = api.ask("GET", "/api/studio", None).await.1["boxes"].to_string();
    assert!(boxes.contains("Spare pencils"), "{boxes}");
}
