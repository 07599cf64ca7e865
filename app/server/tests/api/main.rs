//! Requests against the real router: what is refused, in which words, and that nothing is lost. And the demo studio, filled once for all of them.

mod by_eye;
mod demo_studio;
mod described;
mod devices;
mod drawing;
mod drills;
mod easel;
mod from_photo;
mod hands;
mod hard_pictures;
mod journal;
mod kept;
mod matching;
mod paints;
mod printed;
mod support;
mod windows;

use axum::body::Body;
use axum::http::{Request, StatusCode, header};
use image::{ExtendedColorType, ImageEncoder};
use lean_media::{Medium, library};
use lean_piece::paint_box::{BoxId, PaintBox};
use serde_json::{Value, json};
use support::{Api, brief, png};
use tower::ServiceExt;

#[tokio::test]
async fn only_this_machine_and_our_own_pages_are_answered() {
    let api = Api::empty();
    for (host, origin, wanted) in [
        ("127.0.0.1:7436", None, StatusCode::OK),
        ("localhost:7436", Some("http://localhost:7436"), StatusCode::OK),
        ("paints.example", None, StatusCode::FORBIDDEN),
        ("127.0.0.1:7436", Some("http://paints.example"), StatusCode::FORBIDDEN),
        ("127.0.0.1:7436", Some("null"), StatusCode::FORBIDDEN),
    ] {
        let mut request = Request::get("/api/health").header(header::HOST, host);
        if let Some(origin) = origin {
            request = request.header(header::ORIGIN, origin);
        }
        let (status, _, body) = api.send(request.body(Body::empty()).unwrap()).await;
        assert_eq!(status, wanted, "{host} {origin:?}: {}", String::from_utf8_lossy(&body));
    }
}

#[tokio::test]
async fn bad_requests_are_problems_that_say_what_to_do() {
    let api = Api::demo();
    let request = |request: Value| Some(json!({ "base_revision": 1, "request": request }));
    for (method, path, body, status, words) in [
        ("GET", "/api/pieces/77", None, 404, "piece 77"),
        ("GET", "/api/pieces/x", None, 404, ""),
        ("GET", "/api/nothing", None, 404, "openapi"),
        ("PATCH", "/api/studio", None, 405, ""),
        ("POST", "/api/pieces", Some(brief("  ")), 422, "title is empty"),
        ("POST", "/api/pieces", Some(json!({ "brief": 3 })), 422, ""),
        ("POST", "/api/pieces/1/requests", request(json!({ "do": "rename-zone", "zone": 1, "name": "x" })), 409, "another window"),
        ("POST", "/api/pieces/1/requests", request(json!({ "do": "choose-set", "pigments": ["velvet"] })), 422, "velvet"),
        ("POST", "/api/pieces/1/requests", request(json!({ "do": "choose-set", "pigments": ["chalk-white"] })), 422, "white"),
        ("POST", "/api/pieces/1/requests", request(json!({ "do": "use-box", "paint_box": "bench-oils" })), 422, "oil"),
        ("POST", "/api/pieces/1/requests", request(json!({ "do": "keep-search" })), 422, ""),
        (
            "POST",
            "/api/pieces/1/requests",
            request(json!({ "do": "set-target", "zone": 1, "target": { "l": 900, "a": 0, "b": 0 } })),
            422,
            "",
        ),
        ("POST", "/api/pieces/1/zones/propose", Some(json!({ "base_revision": 1, "count": 0 })), 422, "3 to 24"),
        ("POST", "/api/pieces/1/zones/merge", Some(json!({ "base_revision": 1, "from": 1, "into": 1 })), 422, "itself"),
        (
            "POST",
            "/api/pieces/1/zones/preview",
            Some(json!({ "base_revision": 1, "zone": 1, "to": { "value": 6 } })),
            409,
            "another window",
        ),
        ("GET", "/api/pieces/1/painted?width=9", None, 422, "40 to 3600"),
        ("GET", "/api/pieces/1/painted?study=23", None, 404, "not there any more"),
        ("POST", "/api/pieces/1/studies/1/shares", Some(json!({ "hues": [] })), 422, "several hues"),
        ("POST", "/api/pieces/1/studies", Some(json!({ "count": 40 })), 422, "3 to 12"),
        ("GET", "/api/pieces/1/wall/mock-up?study=1", None, 404, "wall"),
        ("POST", "/api/pieces/1/studies/lent", Some(json!({ "piece": 99 })), 404, ""),
        ("PUT", "/api/pieces/1/studies/lent", Some(json!("no picture")), 422, ""),
        ("GET", "/api/pieces/1/reference/patch?x=2&y=0", None, 422, "0 to 1"),
        ("GET", "/api/pieces/1/reference/view?groups=99", None, 422, "2 to 12"),
        ("GET", "/api/jobs/9999", None, 404, "9999"),
        ("DELETE", "/api/boxes/yard-pastels", None, 409, "draw on this Box"),
        ("POST", "/api/boxes", Some(json!({ "name": "x", "medium": "oil", "pigment_file": "{\"pigments\":[]}" })), 422, "no pigment"),
    ] {
        let (got, problem) = api.ask(method, path, body).await;
        assert_eq!(got.as_u16(), status, "{method} {path}: {problem}");
        assert!(problem["detail"].as_str().unwrap().contains(words), "{method} {path}: {problem}");
    }
    let text = Request::post("/api/pieces").header(header::HOST, "localhost").body(Body::from("{}")).unwrap();
    assert_eq!(api.send(text).await.0, StatusCode::UNSUPPORTED_MEDIA_TYPE);
}

#[tokio::test]
async fn the_description_is_of_every_path_and_nothing_odd_brings_the_server_down() {
    let api = Api::demo();
    let (status, description) = api.ask("GET", "/api/openapi.json", None).await;
    assert_eq!(status, StatusCode::OK);
    let paths = description["paths"].as_object().unwrap();
    assert!(paths.len() > 20);
    for (path, methods) in paths {
        for method in methods.as_object().unwrap().keys() {
            // The piece that is there as well, but for what removes it.
            let there = if method == "delete" { "0" } else { "1" };
            for odd in ["-1", "0", "99999999999999999999", "%00", "ü", there] {
                let real: Vec<String> = path.split('/').map(|p| if p.starts_with('{') { odd.to_owned() } else { p.to_owned() }).collect();
                // What only looks takes no body.
                let bodies = if method == "get" { 1 } else { 3 };
                for body in [json!(null), json!([]), json!({ "base_revision": -5 })].into_iter().take(bodies) {
                    let uri = real.join("/");
                    let Ok(request) = Request::builder()
                        .method(method.to_uppercase().as_str())
                        .uri(&uri)
                        .header(header::HOST, "127.0.0.1")
                        .header(header::CONTENT_TYPE, "application/json")
                        .body(Body::from(body.to_string()))
                    else {
                        continue;
                    };
                    let status = api.router.clone().oneshot(request).await.unwrap().status();
                    assert!(!status.is_server_error(), "{method} {uri}: {status}");
                }
            }
        }
    }
    assert_eq!(api.ask("GET", "/api/pieces/1", None).await.0, StatusCode::OK);
}

#[tokio::test]
async fn a_picture_becomes_zones_and_its_file_is_kept_byte_for_byte() {
    let api = Api::empty();
    let (status, piece) = api.ask("POST", "/api/pieces", Some(brief("Two halves"))).await;
    assert_eq!((status, &piece["piece"]["paint_box"]), (StatusCode::CREATED, &Value::Null));
    let file = png(320, 200);
    let job = api.upload(1, "halves.png", file.clone()).await;
    assert_eq!((job["finished"].as_bool(), &job["problem"]), (Some(true), &Value::Null));
    let (_, view) = api.ask("GET", "/api/pieces/1", None).await;
    assert_eq!(view["piece"]["zones"].as_array().unwrap().len(), 2);
    assert_eq!(view["piece"]["reference"]["file_name"], "halves.png");
    let original = Request::get("/api/pieces/1/reference/original").header(header::HOST, "localhost").body(Body::empty()).unwrap();
    assert_eq!(api.send(original).await.2, file);
}

#[tokio::test]
async fn unreadable_pictures_leave_the_piece_as_it_was() {
    let api = Api::demo();
    let before = api.ask("GET", "/api/pieces/1", None).await.1;
    let whole = png(64, 64);
    let cmyk = vec![0xFFu8, 0xD8, 0xFF, 0xC0, 0, 20, 8, 0, 8, 0, 8, 4, 1, 0x11, 0, 2, 0x11, 0, 3, 0x11, 0, 4, 0x11, 0];
    for (bytes, words) in [
        (Vec::new(), "empty"),
        (b"GIF89a\x01\0\x01\0".to_vec(), "gif"),
        (whole[..whole.len() / 2].to_vec(), "damaged"),
        (cmyk, "CMYK"),
        (b"%PDF-1.7".to_vec(), "PDF"),
    ] {
        let job = api.upload(1, "x.jpg", bytes).await;
        assert!(job["problem"]["detail"].as_str().unwrap().contains(words), "{job}");
    }
    assert_eq!(api.ask("GET", "/api/pieces/1", None).await.1["revision"], before["revision"]);
}

#[tokio::test]
async fn a_box_with_one_pigment_says_what_is_missing() {
    let api = Api::empty();
    let one = PaintBox { name: "One".into(), medium: Medium::Oil, pigments: vec![library::find("PB29").unwrap().clone()] };
    api.studio.store.put_box(&BoxId("one".into()), &one).unwrap();
    api.ask("POST", "/api/pieces", Some(brief("Lonely"))).await;
    let (status, problem) = api.ask("POST", "/api/pieces/1/search", None).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    assert!(problem["detail"].as_str().unwrap().contains("Drop a picture"));
    api.upload(1, "p.png", png(120, 80)).await;
    let (_, job) = api.ask("POST", "/api/pieces/1/search", None).await;
    let job = api.ended(job["id"].as_u64().unwrap()).await;
    let words = job["problem"]["detail"].as_str().unwrap();
    assert!(words.contains("one pigment") && words.contains("Add pigments"), "{words}");
}

#[tokio::test]
async fn a_full_disk_is_said_and_the_piece_stays() {
    let api = Api::demo();
    let before = api.ask("GET", "/api/pieces/1", None).await.1;
    api.studio.store.limit_pages(1).unwrap();
    let noisy: Vec<u8> = {
        let mut seed = 7u32;
        let rgb: Vec<u8> = std::iter::repeat_with(|| {
            seed = seed.wrapping_mul(1_664_525).wrapping_add(1_013_904_223);
            (seed >> 24) as u8
        })
        .take(600 * 400 * 3)
        .collect();
        let mut out = Vec::new();
        image::codecs::png::PngEncoder::new(&mut out).write_image(&rgb, 600, 400, ExtendedColorType::Rgb8).unwrap();
        out
    };
    let job = api.upload(1, "big.png", noisy).await;
    assert!(job["problem"]["detail"].as_str().unwrap().contains("disk is full"), "{job}");
    assert_eq!(job["problem"]["status"], 507);
    assert_eq!(api.ask("GET", "/api/pieces/1", None).await.1["piece"], before["piece"]);
}

#[tokio::test]
async fn a_cancelled_search_changes_nothing() {
    let api = Api::demo();
    let before = api.ask("GET", "/api/pieces/1", None).await.1;
    let (_, job) = api.ask("POST", "/api/pieces/1/search", None).await;
    let id = job["id"].as_u64().unwrap();
    assert_eq!(api.ask("DELETE", &format!("/api/jobs/{id}"), None).await.0, StatusCode::OK);
    let ended = api.ended(id).await;
    assert!(ended["problem"]["type"].as_str().unwrap().ends_with("cancelled"), "{ended}");
    assert_eq!(api.ask("GET", "/api/pieces/1", None).await.1["revision"], before["revision"]);
}

#[tokio::test]
async fn what_the_painter_decides_while_a_search_runs_is_not_undone_by_it() {
    let api = Api::demo();
    let search = async || api.ask("POST", "/api/pieces/1/search", None).await.1["id"].as_u64().unwrap();
    let request = async |request: Value| {
        let revision = api.ask("GET", "/api/pieces/1", None).await.1["revision"].clone();
        let (status, problem) =
            api.ask("POST", "/api/pieces/1/requests", Some(json!({ "base_revision": revision, "request": request }))).await;
        assert_eq!(status, StatusCode::OK, "{problem}");
    };
    let id = search().await;
    request(json!({ "do": "choose-set", "pigments": ["apricot", "mud"] })).await;
    assert_eq!(api.ended(id).await["problem"], Value::Null);
    let view = api.ask("GET", "/api/pieces/1", None).await.1;
    assert_eq!(view["piece"]["chosen"]["pigments"], json!(["apricot", "mud"]));

    let other = PaintBox { name: "Few".into(), medium: Medium::SoftPastel, pigments: vec![library::find("PB29").unwrap().clone()] };
    api.studio.store.put_box(&BoxId("few".into()), &other).unwrap();
    let id = search().await;
    request(json!({ "do": "use-box", "paint_box": "few" })).await;
    let words = api.ended(id).await["problem"]["detail"].to_string();
    assert!(words.contains("changed while") && words.contains("Start it again"), "{words}");
    assert_eq!(api.ask("GET", "/api/pieces/1", None).await.1["piece"]["search"], Value::Null, "the old Box's answer was left out");
}

#[tokio::test]
async fn studies_are_shown_while_they_are_made_and_the_wheel_tells_opposites() {
    let api = Api::demo();
    let (status, job) = api.ask("POST", "/api/pieces/4/studies", Some(json!({ "kinds": ["as-read", "opposites", "late-sun"] }))).await;
    assert_eq!(status, 202, "{job}");
    let ended = api.ended(job["id"].as_u64().unwrap()).await;
    let made = ended["made"].as_array().unwrap();
    let piece = api.ask("GET", "/api/pieces/4", None).await.1;
    assert_eq!(made.len(), 3);
    for (shown, kept) in made.iter().zip(piece["study_notes"].as_array().unwrap()) {
        assert_eq!((&shown["number"], &shown["scheme"]), (&kept["number"], &kept["scheme"]));
        assert_eq!(shown["marks"].as_array().unwrap().len(), kept["marks"].as_array().unwrap().len());
        assert!(kept["measures"].as_array().unwrap().len() >= 4, "{kept}");
    }
    let wheel = api.ask("GET", "/api/pieces/4/wheel", None).await.1;
    assert_eq!(wheel["opposites"].as_array().unwrap().len(), 24);
    let greys: Vec<f64> = wheel["threads"]
        .as_array()
        .unwrap()
        .iter()
        .map(|t| t["grey"]["lab"]["a"].as_f64().unwrap().hypot(t["grey"]["lab"]["b"].as_f64().unwrap()))
        .collect();
    assert!(!greys.is_empty() && greys.windows(2).all(|w| w[0] <= w[1]), "greyest first: {greys:?}");
    // The studies hang on the wall of the bench, each another picture.
    let hung = async |n: u8| {
        let path = format!("/api/pieces/4/wall/mock-up?study={n}");
        api.send(Request::get(path).header(header::HOST, "localhost").body(Body::empty()).unwrap()).await.2
    };
    let (one, two) = (hung(1).await, hung(2).await);
    assert!(one.starts_with(b"\x89PNG") && one != two);
}

#[tokio::test]
async fn studies_hold_the_values_and_keep_warm_zones_warm() {
    let api = Api::demo();
    let view = api.ask("GET", "/api/pieces/1", None).await.1;
    let notes = view["study_notes"].as_array().unwrap();
    assert_eq!(notes.len(), 6);
    let zones: Vec<&Value> = view["piece"]["zones"].as_array().unwrap().iter().collect();
    let t = |marks: &Value, i: usize| marks[i]["temperature"].as_f64().unwrap();
    for note in &notes[1..3] {
        assert_eq!(note["values_held"], true, "{note}");
        let told = note["order_lost"].as_array().unwrap();
        let (mut lost, mut ordered) = (0, 0);
        for (i, _) in zones.iter().enumerate() {
            let planned = view["derived"]["shapes"][i]["target"]["value"].as_f64().unwrap();
            assert!((note["marks"][i]["value"].as_f64().unwrap() - planned).abs() <= 0.25);
        }
        for border in view["derived"]["borders"].as_array().unwrap() {
            let at = |n: usize| zones.iter().position(|z| z["id"] == border[n]).unwrap();
            let (a, b) = (at(0), at(1));
            // In each study its own colours say what is to be warmer; what did not come out so is told, one by one.
            let wanted = t(&note["wanted"], a) - t(&note["wanted"], b);
            if wanted.abs() >= 3.0 {
                ordered += 1;
                let mixed = t(&note["marks"], a) - t(&note["marks"], b);
                lost += usize::from(mixed * wanted <= 0.0);
            }
        }
        assert_eq!(told.len(), lost, "{}: {told:?}", note["scheme"]);
        assert!(lost < ordered / 2, "{}: {lost} of {ordered} are lost", note["scheme"]);
    }
    let sets: Vec<&Value> = view["piece"]["studies"].as_array().unwrap().iter().map(|s| &s["pigments"]).collect();
    assert!(sets[0] != sets[1] && sets[1] != sets[2] && sets[0] != sets[2], "each has its own set");
}

#[tokio::test]
async fn the_sheet_is_one_page_of_the_chosen_paper_or_says_what_fits() {
    let api = Api::demo();
    for (page, size) in [("a4", [595.276, 841.89]), ("letter", [612.0, 792.0])] {
        let revision = api.ask("GET", "/api/pieces/1", None).await.1["revision"].clone();
        let request = json!({ "base_revision": revision, "request": { "do": "set-sheet", "sheet": { "longer_side": 100, "page": page } } });
        assert_eq!(api.ask("POST", "/api/pieces/1/requests", Some(request)).await.0, StatusCode::OK);
        let request = Request::get("/api/pieces/1/sheet.pdf").header(header::HOST, "localhost").body(Body::empty()).unwrap();
        let (status, kind, bytes) = api.send(request).await;
        assert_eq!((status, kind.as_str()), (StatusCode::OK, "application/pdf"));
        let pdf = lopdf::Document::load_mem(&bytes).unwrap();
        let first = pdf.get_pages()[&1];
        let media = pdf.get_dictionary(first).unwrap().get(b"MediaBox").unwrap().as_array().unwrap().clone();
        assert_eq!(pdf.get_pages().len(), 3, "two of the six studies to a page, in letters that are read");
        assert!((media[2].as_float().unwrap() - size[0]).abs() < 0.1 && (media[3].as_float().unwrap() - size[1]).abs() < 0.1);
        assert!(pdf.extract_text(&[1]).unwrap().contains("Tram shed, first frost"));
    }
    let revision = api.ask("GET", "/api/pieces/1", None).await.1["revision"].clone();
    let request = json!({ "base_revision": revision, "request": { "do": "set-sheet", "sheet": { "longer_side": 290, "page": "a4" } } });
    api.ask("POST", "/api/pieces/1/requests", Some(request)).await;
    let (status, problem) = api.ask("GET", "/api/pieces/1/sheet.pdf", None).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    assert!(problem["detail"].as_str().unwrap().contains("is the most that does"), "{problem}");
}
