//! Colours in words and photos of swatches on their way into a Box, a trial and a note.

use crate::support::{Api, painted};
use axum::http::StatusCode;
use serde_json::{Value, json};

const ACROSS: u32 = 4;
const DOWN: u32 = 3;
const ALL: usize = (ACROSS * DOWN) as usize;

/// A sheet of twelve patches on white paper, as PNG.
fn sheet() -> Vec<u8> {
    painted(800, 600, |x, y| {
        let (column, row) = (x.saturating_sub(60) / 170, y.saturating_sub(60) / 160);
        let inside = x >= 60 && y >= 60 && (x - 60) % 170 < 110 && (y - 60) % 160 < 90 && column < ACROSS && row < DOWN;
        let hue = f64::from(row * ACROSS + column) * 30.0;
        let c = lean_colour::Lab::<lean_colour::D65>::from_lch(34.0 + 12.0 * f64::from(row), 24.0, hue).xyz().srgb();
        if inside { [c.r, c.g, c.b] } else { [239, 239, 239] }
    })
}

async fn kept(api: &Api) -> String {
    let (status, photo) = api.post("/api/field-notes/photo", sheet()).await;
    assert_eq!(status, StatusCode::OK, "{photo}");
    photo["digest"].as_str().unwrap().to_owned()
}

async fn found(api: &Api, photo: &str) -> Vec<Value> {
    let (status, patches) = api.ask("POST", "/api/photo-patches", Some(json!({ "photo": photo }))).await;
    assert_eq!(status, StatusCode::OK, "{patches}");
    patches.as_array().unwrap().clone()
}

fn lab(v: &Value) -> lean_colour::Lab {
    let [l, a, b] = ["l", "a", "b"].map(|c| v[c].as_f64().unwrap());
    lean_colour::Lab::new(l, a, b)
}

#[tokio::test]
async fn a_sheet_of_swatches_becomes_a_box_of_sticks_that_look_like_it() {
    let api = Api::empty();
    let (status, made) = api.ask("POST", "/api/boxes", Some(json!({ "name": "Sticks", "medium": "soft-pastel" }))).await;
    assert_eq!(status, StatusCode::CREATED, "{made}");
    let at = format!("/api/boxes/{}/from-photo", made["id"].as_str().unwrap());
    let photo = kept(&api).await;
    let patches = found(&api, &photo).await;
    assert_eq!(patches.len(), ALL, "{patches:?}");
    let cells: Vec<Value> = patches.iter().map(|p| json!({ "place": p["place"], "name": p["name"] })).collect();
    let (status, taken) = api.ask("POST", &at, Some(json!({ "photo": photo, "cells": cells }))).await;
    assert_eq!(status, StatusCode::OK, "{taken}");
    assert_eq!(taken["readings"].as_array().unwrap().len(), ALL);
    assert!(taken["readings"][0]["reading"]["note"].as_str().unwrap().contains("give or take"));
    let (_, paint_box) = api.ask("GET", &format!("/api/boxes/{}", made["id"].as_str().unwrap()), None).await;
    let pigments = paint_box["pigments"].as_array().unwrap();
    assert_eq!(pigments.len(), ALL);
    let mut off: Vec<f64> = patches
        .iter()
        .map(|p| {
            let stick = pigments.iter().find(|s| s["name"] == p["name"]).unwrap();
            lean_colour::difference::ciede2000(lab(&p["lab"]), lab(&stick["mark"]["lab"]))
        })
        .collect();
    off.sort_by(f64::total_cmp);
    assert!(off[off.len() / 2] < 2.0 && off[off.len() - 1] < 5.0, "sticks look as they were photographed: {off:?}");

    // The same photo once more: the names are there, so that they are readings of the same sticks.
    let (status, again) = api.ask("POST", &at, Some(json!({ "photo": photo, "cells": cells }))).await;
    assert_eq!(status, StatusCode::OK, "{again}");
    assert_eq!(again["readings"].as_array().unwrap().len(), 2 * ALL);
    let twice = json!({ "photo": photo, "cells": [cells[0], cells[0]] });
    let (status, problem) = api.ask("POST", &at, Some(twice)).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    assert!(problem["detail"].as_str().unwrap().contains("1 and 2"), "{problem}");
}

#[tokio::test]
async fn a_photo_without_paper_or_a_cell_beside_it_is_said() {
    let api = Api::empty();
    let (_, wrong) = api.ask("POST", "/api/photo-patches", Some(json!({ "photo": "00" }))).await;
    assert_eq!(wrong["status"], 404, "{wrong}");
    let photo = kept(&api).await;
    let beside = json!({ "x": 0.9, "y": 0.1, "width": 0.2, "height": 0.1 });
    let (status, problem) = api.ask("POST", "/api/photo-patches", Some(json!({ "photo": photo, "cells": [beside] }))).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    assert!(problem["detail"].as_str().unwrap().contains("does not lie on the photo"), "{problem}");
}

#[tokio::test]
async fn a_trial_is_read_off_a_photo_and_words_off_a_typed_colour() {
    let api = Api::demo();
    let (_, trials) = api.ask("GET", "/api/pieces/4/trials?zone=1", None).await;
    let photo = kept(&api).await;
    let cell = found(&api, &photo).await[5].clone();
    let tried_for = json!({ "piece": 4, "zone": 1, "cell": null });
    let from = json!({ "by": "photo", "photo": photo, "cell": cell["place"], "grey": null });
    let reading = json!({ "swatch": trials["next"], "tried_for": tried_for, "from": from });
    let (status, view) = api.ask("POST", "/api/boxes/bench-oils/readings", Some(reading)).await;
    assert_eq!(status, StatusCode::OK, "{view}");
    let read = &view["readings"][0]["reading"];
    assert_eq!((read["with"].as_str(), &read["seen"]["lab"], &read["played"]), (Some("photo"), &cell["lab"], &json!(false)));

    let words = json!({ "swatch": trials["next"], "from": { "by": "typed", "text": "dull blue green" } });
    let (status, view) = api.ask("POST", "/api/boxes/bench-oils/readings", Some(words)).await;
    assert_eq!(status, StatusCode::OK, "{view}");
    let read = &view["readings"][0]["reading"];
    assert_eq!(read["with"], "eye");
    assert!(read["eye"]["doubt"]["value"].as_f64().unwrap() > 5.0, "words are doubtful: {read}");
    let (_, colour) = api.ask("GET", "/api/colour?text=dull%20blue%20green", None).await;
    assert_eq!(colour["lab"], read["seen"]["lab"]);
    assert_eq!(colour["in_words"], true);
}

#[tokio::test]
async fn words_of_a_field_note_are_its_colours() {
    let api = Api::empty();
    let mark = |x: f64, word: &str, pigment: &str| json!({ "place": { "x": x, "y": 0.5 }, "word": word, "value": null, "side": null, "pigment": pigment });
    let note = json!({
        "words": "sheds", "at": "", "light": "", "weather": "", "photo": null, "file_name": "", "proportion": 1.5, "outline": [],
        "marks": [mark(0.2, "turquoise shed", ""), mark(0.8, "far bank", "yellow ochre?"), mark(0.5, "gate", "")]
    });
    let (status, kept) = api.ask("POST", "/api/field-notes", Some(note)).await;
    assert_eq!(status, StatusCode::CREATED, "{kept}");
    assert!(kept["said"][0]["value"].is_number() && kept["said"][1]["value"].is_number() && kept["said"][2].is_null(), "{kept}");
    let brief =
        json!({ "title": "note", "medium": "soft-pastel", "ground": "sanded-warm-grey", "size": { "width": 300.0, "height": 300.0 } });
    let (status, piece) = api.ask("POST", &format!("/api/field-notes/{}/piece", kept["id"]), Some(json!({ "brief": brief }))).await;
    assert_eq!(status, StatusCode::CREATED, "{piece}");
    let zones = piece["piece"]["zones"].as_array().unwrap();
    let target = |name: &str| lab(&zones.iter().find(|z| z["name"].as_str().unwrap().contains(name)).unwrap()["target"]);
    assert!(target("turquoise").hue().apart(lean_colour::HueAngle(196.0)) < 15.0, "{zones:?}");
    assert!(target("far bank").temperature().0 > 15.0, "{zones:?}");
    assert!(target("gate").chroma() < 1.0);
}
