//! Extractors whose rejections are problem documents.

use crate::limits;
use crate::problem::Problem;
use axum::body::Bytes;
use axum::extract::rejection::{BytesRejection, JsonRejection, PathRejection, QueryRejection};
use axum::extract::{DefaultBodyLimit, FromRequest, FromRequestParts, Request};
use axum::http::StatusCode;
use serde::de::DeserializeOwned;
use std::time::Duration;

/// A JSON body, none of whose texts and lists is longer than fits.
pub(crate) struct Json<T>(pub T);

impl<T: DeserializeOwned, S: Send + Sync> FromRequest<S> for Json<T> {
    type Rejection = Problem;

    async fn from_request(request: Request, state: &S) -> Result<Self, Problem> {
        let (parts, body) = request.into_parts();
        let typed = Request::from_parts(parts.clone(), axum::body::Body::empty());
        let arriving = Bytes::from_request(Request::from_parts(parts, body), state);
        let bytes = tokio::time::timeout(WORDS_ARRIVE, arriving).await.map_err(|_| too_slow())??;
        limits::checked(&bytes).map_err(Problem::unusable)?;
        let axum::Json(value) = axum::Json::from_request(typed.map(|_| bytes.into()), state).await?;
        Ok(Self(value))
    }
}

/// Parts of the path.
#[derive(FromRequestParts)]
#[from_request(via(axum::extract::Path), rejection(Problem))]
pub(crate) struct Path<T>(pub T);

/// The query.
#[derive(FromRequestParts)]
#[from_request(via(axum::extract::Query), rejection(Problem))]
pub(crate) struct Query<T>(pub T);

/// Largest file taken in, in bytes.
pub(crate) const MOST_BYTES: usize = 256 << 20;

/// Longest time for a JSON body to arrive, and for a file.
const WORDS_ARRIVE: Duration = Duration::from_secs(30);
const FILE_ARRIVES: Duration = Duration::from_secs(600);

fn too_slow() -> Problem {
    let detail = "The request stopped arriving before all of it was here. Nothing was changed; send it again.";
    Problem::new(StatusCode::REQUEST_TIMEOUT, "too-slow", "The request did not arrive", detail)
}

/// A file.
pub(crate) struct Body(pub Bytes);

impl<S: Send + Sync> FromRequest<S> for Body {
    type Rejection = Problem;

    async fn from_request(request: Request, state: &S) -> Result<Self, Problem> {
        let mut request = request;
        // A file may be larger than words.
        DefaultBodyLimit::max(MOST_BYTES).apply(&mut request);
        Ok(Self(tokio::time::timeout(FILE_ARRIVES, Bytes::from_request(request, state)).await.map_err(|_| too_slow())??))
    }
}

impl From<JsonRejection> for Problem {
    fn from(e: JsonRejection) -> Self {
        let status = if e.status() == StatusCode::BAD_REQUEST { StatusCode::UNPROCESSABLE_ENTITY } else { e.status() };
        Self::new(status, "unusable", "The request cannot be understood", e.body_text())
    }
}

impl From<PathRejection> for Problem {
    fn from(e: PathRejection) -> Self {
        Self::not_found(e.body_text())
    }
}

impl From<QueryRejection> for Problem {
    fn from(e: QueryRejection) -> Self {
        Self::new(StatusCode::UNPROCESSABLE_ENTITY, "unusable", "The request cannot be understood", e.body_text())
    }
}

impl From<BytesRejection> for Problem {
    fn from(e: BytesRejection) -> Self {
        if e.status() != StatusCode::PAYLOAD_TOO_LARGE {
            return too_slow();
        }
        Self::new(
            e.status(),
            "too-large",
            "The file is too large",
            "The file is larger than the 256 MB that fit. Export a picture as JPEG and drop that; read a larger archive with lean-swatch import.",
        )
    }
}
