//! Requests against the real router, and pictures to send.

use axum::Router;
use axum::body::Body;
use axum::http::{Request, StatusCode, header};
use http_body_util::BodyExt;
use image::{ExtendedColorType, ImageEncoder};
use lean_store::Store;
use lean_swatch::demo;
use lean_swatch::router::{router, router_for_devices};
use lean_swatch::sharing::Sharing;
use lean_swatch::state::Studio;
use serde_json::{Value, json};
use std::path::{Path, PathBuf};
use std::sync::{Arc, OnceLock};
use std::time::UNIX_EPOCH;
use tempfile::TempDir;
use tower::ServiceExt;

/// The router over one data file.
pub(crate) struct Api {
    pub router: Router,
    pub studio: Studio,
    /// The folder of its data file, removed in the end.
    _kept: Option<TempDir>,
}

/// The demo as tests in the browser had this build of the program fill it, if they ran before.
fn filled_by_this_build() -> Option<PathBuf> {
    let test = std::env::current_exe().ok()?;
    let program = test.parent()?.parent()?.join("lean-swatch");
    let age = program.metadata().ok()?.modified().ok()?.duration_since(UNIX_EPOCH).ok()?.as_nanos();
    Some(program.with_file_name("demo-for-tests").join(age.to_string()).join("demo.db")).filter(|p| p.exists())
}

/// Copies a data file with the log SQLite keeps beside it.
fn copied(from: &Path, to: &Path) {
    for beside in ["", "-wal"] {
        let file = format!("{}{beside}", from.display());
        if Path::new(&file).exists() {
            std::fs::copy(file, format!("{}{beside}", to.display())).unwrap();
        }
    }
}

impl Api {
    pub(crate) fn over(store: Store) -> Self {
        let studio = Studio::new(store).simulated();
        Self { router: router(studio.clone()), studio, _kept: None }
    }

    pub(crate) fn empty() -> Self {
        Self::over(Store::in_memory().unwrap())
    }

    /// A demo studio of its own: a copy of one that is filled once for all tests.
    pub(crate) fn demo() -> Self {
        static FILLED: OnceLock<TempDir> = OnceLock::new();
        let filled = FILLED.get_or_init(|| {
            let folder = tempfile::tempdir().unwrap();
            let data = folder.path().join("demo.db");
            match filled_by_this_build() {
                Some(there) => copied(&there, &data),
                None => demo::fill(&Store::open(&data).unwrap()).unwrap_or_else(|p| panic!("{}", p.detail)),
            }
            folder
        });
        let folder = tempfile::tempdir().unwrap();
        let data = folder.path().join("demo.db");
        copied(&filled.path().join("demo.db"), &data);
        Self { _kept: Some(folder), ..Self::over(Store::open(&data).unwrap()) }
    }

    /// The same as a painter's own studio, without simulated instruments.
    pub(crate) fn without_instruments(self) -> Self {
        let data = self.studio.store.path().expect("a demo lies in a file");
        let studio = Studio::new(Store::open(data).unwrap());
        Self { router: router(studio.clone()), studio, _kept: self._kept }
    }

    /// The same with an address for devices, and the router they meet there.
    pub(crate) fn shared(mut self, host: &str) -> (Self, Router) {
        self.studio.sharing = Some(Arc::new(Sharing::at(host.parse().unwrap(), false)));
        self.router = router(self.studio.clone());
        let devices = router_for_devices(self.studio.clone());
        (self, devices)
    }

    pub(crate) async fn send(&self, request: Request<Body>) -> (StatusCode, String, Vec<u8>) {
        let response = self.router.clone().oneshot(request).await.unwrap();
        let kind = response.headers().get(header::CONTENT_TYPE).map(|v| v.to_str().unwrap().to_owned()).unwrap_or_default();
        let status = response.status();
        (status, kind, response.into_body().collect().await.unwrap().to_bytes().to_vec())
    }

    pub(crate) async fn ask(&self, method: &str, path: &str, body: Option<Value>) -> (StatusCode, Value) {
        let mut request = Request::builder().method(method).uri(path).header(header::HOST, "127.0.0.1:7436");
        if body.is_some() {
            request = request.header(header::CONTENT_TYPE, "application/json");
        }
        let body = body.map_or(Body::empty(), |b| Body::from(b.to_string()));
        let (status, kind, bytes) = self.send(request.body(body).unwrap()).await;
        if !status.is_success() {
            assert_eq!(kind, "application/problem+json", "{method} {path} answered {status}");
        }
        (status, serde_json::from_slice(&bytes).unwrap_or(Value::Null))
    }

    /// Sends a file to an address.
    pub(crate) async fn put(&self, path: &str, bytes: Vec<u8>) -> (StatusCode, Value) {
        self.send_file("PUT", path, bytes).await
    }

    /// Posts a file to an address.
    pub(crate) async fn post(&self, path: &str, bytes: Vec<u8>) -> (StatusCode, Value) {
        self.send_file("POST", path, bytes).await
    }

    async fn send_file(&self, method: &str, path: &str, bytes: Vec<u8>) -> (StatusCode, Value) {
        let request = Request::builder().method(method).uri(path).header(header::HOST, "localhost:7436").body(Body::from(bytes)).unwrap();
        let (status, _, body) = self.send(request).await;
        (status, serde_json::from_slice(&body).unwrap())
    }

    /// Takes a reference in and waits for it.
    pub(crate) async fn upload(&self, piece: i64, name: &str, bytes: Vec<u8>) -> Value {
        let (status, job) = self.put(&format!("/api/pieces/{piece}/reference?file_name={name}"), bytes).await;
        assert_eq!(status, StatusCode::ACCEPTED);
        self.ended(job["id"].as_u64().unwrap()).await
    }

    /// The piece as it is now.
    pub(crate) async fn piece(&self, id: i64) -> Value {
        self.ask("GET", &format!("/api/pieces/{id}"), None).await.1
    }

    /// Says a request about the newest revision.
    pub(crate) async fn request(&self, id: i64, request: Value) -> (StatusCode, Value) {
        let revision = self.piece(id).await["revision"].clone();
        self.ask("POST", &format!("/api/pieces/{id}/requests"), Some(json!({ "base_revision": revision, "request": request }))).await
    }

    /// The view of a job once it has ended.
    pub(crate) async fn ended(&self, id: u64) -> Value {
        let mut watch = self.studio.jobs.get(id).expect("the job is known").watch();
        let view = watch.wait_for(|v| v.finished).await.expect("the job ends").clone();
        serde_json::to_value(view).unwrap()
    }
}

pub(crate) fn brief(title: &str) -> Value {
    json!({ "brief": { "title": title, "medium": "oil", "ground": "panel-white", "size": { "width": 300, "height": 200 } } })
}

/// A picture of two halves.
pub(crate) fn png(width: u32, height: u32) -> Vec<u8> {
    painted(width, height, |x, _| if x < width / 2 { [200, 150, 110] } else { [50, 60, 90] })
}

/// A picture by its pixels.
pub(crate) fn painted(width: u32, height: u32, pixel: impl Fn(u32, u32) -> [u8; 3]) -> Vec<u8> {
    let rgb: Vec<u8> = (0..width * height).flat_map(|i| pixel(i % width, i / width)).collect();
    let mut out = Vec::new();
    image::codecs::png::PngEncoder::new(&mut out).write_image(&rgb, width, height, ExtendedColorType::Rgb8).unwrap();
    out
}
