//! Phones and tablets: pairing, what a paired one may do, and notes that were written away from the network.

use crate::support::Api;
use axum::Router;
use axum::body::Body;
use axum::http::{Request, StatusCode, header};
use http_body_util::BodyExt;
use serde_json::{Value, json};
use tower::ServiceExt;

const HOST: &str = "192.168.7.20:7437";

fn shared() -> (Api, Router) {
    Api::demo().shared(HOST)
}

async fn ask(
    router: &Router,
    method: &str,
    path: &str,
    cookie: Option<&str>,
    body: Option<Value>,
) -> (StatusCode, header::HeaderMap, Value) {
    let mut request =
        Request::builder().method(method).uri(path).header(header::HOST, HOST).header(header::CONTENT_TYPE, "application/json");
    if let Some(cookie) = cookie {
        request = request.header(header::COOKIE, format!("theme=dark; {cookie}"));
    }
    let body = body.map_or_else(Body::empty, |b| Body::from(b.to_string()));
    let response = router.clone().oneshot(request.body(body).unwrap()).await.unwrap();
    let (status, headers) = (response.status(), response.headers().clone());
    let bytes = response.into_body().collect().await.unwrap().to_bytes();
    (status, headers, serde_json::from_slice(&bytes).unwrap_or(Value::Null))
}

async fn paired(api: &Api, devices: &Router) -> String {
    let (status, code) = api.ask("POST", "/api/devices/code", None).await;
    assert_eq!(status, StatusCode::CREATED, "{code}");
    let url = code["url"].as_str().unwrap();
    assert!(url.starts_with(&format!("http://{HOST}/pair#")) && code["drawn"].as_str().unwrap().contains("<svg"));
    let shown = json!({ "code": url.split('#').next_back().unwrap(), "name": "tablet" });
    let (status, headers, problem) = ask(devices, "POST", "/api/pair", None, Some(shown.clone())).await;
    assert_eq!(status, StatusCode::NO_CONTENT, "{problem}");
    let cookie = headers[header::SET_COOKIE].to_str().unwrap().to_owned();
    assert!(cookie.contains("HttpOnly") && cookie.contains("SameSite=Strict"), "{cookie}");
    assert_eq!(ask(devices, "POST", "/api/pair", None, Some(shown)).await.0, StatusCode::FORBIDDEN, "a code is good once");
    cookie.split(';').next().unwrap().to_owned()
}

#[tokio::test]
async fn nobody_comes_in_who_was_not_paired_and_nobody_stays_who_was_sent_away() {
    let (api, devices) = shared();
    for path in ["/api/studio", "/api/pieces/1", "/api/field-notes"] {
        assert_eq!(ask(&devices, "GET", path, None, None).await.0, StatusCode::UNAUTHORIZED, "{path}");
    }
    assert_eq!(ask(&devices, "GET", "/pieces/1/brief", None, None).await.0, StatusCode::SEE_OTHER);
    let cookie = paired(&api, &devices).await;
    assert_eq!(ask(&devices, "GET", "/api/studio", Some(&cookie), None).await.0, StatusCode::OK);
    assert_eq!(ask(&devices, "GET", "/api/studio", Some("lean_device=00ff"), None).await.0, StatusCode::UNAUTHORIZED);

    let device = api.ask("GET", "/api/devices", None).await.1["devices"][0].clone();
    assert_eq!(device["name"], "tablet");
    assert!(!device.to_string().contains(&cookie[12..]), "what a device carries is told to nobody");
    assert_eq!(api.ask("DELETE", &format!("/api/devices/{}", device["id"]), None).await.0, StatusCode::NO_CONTENT);
    assert_eq!(ask(&devices, "GET", "/api/studio", Some(&cookie), None).await.0, StatusCode::UNAUTHORIZED);
}

#[tokio::test]
async fn a_paired_device_works_at_the_easel_and_changes_no_plan() {
    let (api, devices) = shared();
    let cookie = paired(&api, &devices).await;
    let before = api.piece(1).await;
    for (method, path) in [
        ("POST", "/api/pieces/1/undo"),
        ("DELETE", "/api/pieces/1"),
        ("GET", "/api/archive"),
        ("GET", "/api/devices"),
        ("POST", "/api/devices/code"),
    ] {
        let (status, _, problem) = ask(&devices, method, path, Some(&cookie), Some(json!({ "base_revision": 1 }))).await;
        assert_eq!(status, StatusCode::FORBIDDEN, "{method} {path}: {problem}");
    }
    assert_eq!(api.piece(1).await["revision"], before["revision"]);
    let (_, _, easel) = ask(&devices, "GET", "/api/pieces/1/easel?now=2025-01-18T10:00", Some(&cookie), None).await;
    let task = easel["at"]["next"].clone();
    assert!(task.is_object(), "{easel}");
    let done = json!({ "task": task, "done": true, "at": "2025-01-18T10:30", "base_revision": before["revision"] });
    let (status, _, view) = ask(&devices, "PUT", "/api/pieces/1/easel/done", Some(&cookie), Some(done)).await;
    assert_eq!(status, StatusCode::OK, "{view}");
    assert_ne!(api.piece(1).await["revision"], before["revision"]);
}

#[tokio::test]
async fn a_note_sent_again_is_the_note_it_was() {
    let (api, devices) = shared();
    let cookie = paired(&api, &devices).await;
    let count = async || api.ask("GET", "/api/field-notes", None).await.1.as_array().unwrap().len();
    let before = count().await;
    let note = json!({ "words": "mist over the sluice", "at": "2025-01-18T07:40", "light": "", "weather": "", "photo": null, "file_name": "", "proportion": 1.5, "outline": [], "marks": [] });
    let path = "/api/field-notes?sent_as=0f3a9b77c1d2e4f5";
    let (first, second) = (
        ask(&devices, "POST", path, Some(&cookie), Some(note.clone())).await,
        ask(&devices, "POST", path, Some(&cookie), Some(note.clone())).await,
    );
    assert_eq!((first.0, second.0), (StatusCode::CREATED, StatusCode::CREATED), "{}", first.2);
    assert_eq!(first.2["id"], second.2["id"]);
    assert_eq!(count().await, before + 1);
    assert_eq!(ask(&devices, "POST", "/api/field-notes?sent_as=x", Some(&cookie), Some(note)).await.0, StatusCode::UNPROCESSABLE_ENTITY);
}

#[tokio::test]
async fn other_hosts_and_other_pages_are_refused() {
    let (api, devices) = shared();
    let cookie = paired(&api, &devices).await;
    for (host, origin) in [("paints.example", None), (HOST, Some("http://paints.example")), ("192.168.7.20:80", None)] {
        let mut request = Request::get("/api/studio").header(header::HOST, host).header(header::COOKIE, &cookie);
        if let Some(origin) = origin {
            request = request.header(header::ORIGIN, origin);
        }
        let response = devices.clone().oneshot(request.body(Body::empty()).unwrap()).await.unwrap();
        assert_eq!(response.status(), StatusCode::FORBIDDEN, "{host} {origin:?}");
    }
}

#[tokio::test]
async fn without_sharing_there_is_no_code() {
    let api = Api::empty();
    let (status, problem) = api.ask("POST", "/api/devices/code", None).await;
    assert_eq!(status, StatusCode::UNPROCESSABLE_ENTITY);
    assert!(problem["detail"].as_str().unwrap().contains("--share"), "{problem}");
    assert_eq!(api.ask("POST", "/api/pair", Some(json!({ "code": "0", "name": "x" }))).await.0, StatusCode::UNPROCESSABLE_ENTITY);
}
