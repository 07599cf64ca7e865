//! The pages, embedded in the program.

use crate::problem::Problem;
use axum::http::{StatusCode, Uri, header};
use axum::response::{IntoResponse, Response};
use rust_embed::RustEmbed;

#[derive(RustEmbed)]
#[folder = "../../web/dist"]
struct Pages;

/// A file of the front end, or its one page for every station's URL.
pub(crate) async fn page(uri: Uri) -> Response {
    let path = uri.path().trim_start_matches('/');
    if path.starts_with("api/") {
        return Problem::not_found(format!("There is no /{path} in this API. See /api/openapi.json.")).into_response();
    }
    let file = match Pages::get(path).filter(|_| !path.is_empty()) {
        Some(file) => file,
        None if path.starts_with("assets/") => return StatusCode::NOT_FOUND.into_response(),
        None => match Pages::get("index.html") {
            Some(file) => file,
            None => {
                return (StatusCode::NOT_FOUND, "The pages are not built: run `cargo xtask demo`, or `npm ci && npm run build` in web/.")
                    .into_response();
            }
        },
    };
    let lasting = if path.starts_with("assets/") { "public, max-age=31536000, immutable" } else { "no-cache" };
    let kind = file.metadata.mimetype().to_owned();
    ([(header::CONTENT_TYPE, kind), (header::CACHE_CONTROL, lasting.to_owned())], file.data.into_owned()).into_response()
}
