//! Errors as problem documents (RFC 9457): what was wrong, with which input, what to do.

use axum::Json;
use axum::http::{HeaderValue, StatusCode, header};
use axum::response::{IntoResponse, Response};
use lean_picture::Unreadable;
use lean_piece::Refusal;
use lean_search::NoAnswer;
use lean_store::StoreError;
use serde::Serialize;

/// A problem document.
#[derive(Debug, Clone, Serialize)]
#[cfg_attr(feature = "description", derive(utoipa::ToSchema))]
pub struct Problem {
    /// What kind of problem, stable for programs.
    #[serde(rename = "type")]
    pub kind: String,
    /// The kind in a few words.
    pub title: String,
    /// HTTP status.
    pub status: u16,
    /// What was wrong, with which input, and what to do.
    pub detail: String,
}

impl Problem {
    /// A problem of a status with a kind and its words.
    pub fn new(status: StatusCode, kind: &str, title: &str, detail: impl Into<String>) -> Self {
        Self { kind: format!("/problems/{kind}"), title: title.into(), status: status.as_u16(), detail: detail.into() }
    }

    /// Input that could not be understood or used.
    pub(crate) fn unusable(detail: impl Into<String>) -> Self {
        Self::new(StatusCode::UNPROCESSABLE_ENTITY, "unusable", "That cannot be used", detail)
    }

    /// Nothing there.
    pub fn not_found(detail: impl Into<String>) -> Self {
        Self::new(StatusCode::NOT_FOUND, "not-found", "Not here", detail)
    }

    /// Work that was called off.
    pub fn cancelled() -> Self {
        lean_search::NoAnswer::Cancelled.into()
    }

    /// Something that should not happen.
    pub fn internal(detail: impl Into<String>) -> Self {
        Self::new(StatusCode::INTERNAL_SERVER_ERROR, "internal", "Something went wrong here", detail)
    }
}

impl IntoResponse for Problem {
    fn into_response(self) -> Response {
        let status = StatusCode::from_u16(self.status).unwrap_or(StatusCode::INTERNAL_SERVER_ERROR);
        if status.is_server_error() {
            tracing::error!(kind = self.kind, detail = self.detail, "problem");
        }
        let mut response = (status, Json(self)).into_response();
        response.headers_mut().insert(header::CONTENT_TYPE, HeaderValue::from_static("application/problem+json"));
        response
    }
}

impl From<StoreError> for Problem {
    fn from(e: StoreError) -> Self {
        let detail = e.to_string();
        let (status, kind, title) = match e {
            StoreError::NotFound(_) => (StatusCode::NOT_FOUND, "not-found", "Not here"),
            StoreError::Conflict { .. } => (StatusCode::CONFLICT, "changed-elsewhere", "Changed in another window"),
            StoreError::NoFurther(_) => (StatusCode::CONFLICT, "no-further", "Nothing left"),
            StoreError::InUse(_) => (StatusCode::CONFLICT, "in-use", "Still in use"),
            StoreError::Refused(_) => (StatusCode::UNPROCESSABLE_ENTITY, "refused", "That cannot be done"),
            StoreError::NoArchive(_) => (StatusCode::UNPROCESSABLE_ENTITY, "no-archive", "That is no archive"),
            StoreError::NoBackup(_) => (StatusCode::UNPROCESSABLE_ENTITY, "no-backup", "That is no backup"),
            StoreError::Newer { .. } => (StatusCode::UNPROCESSABLE_ENTITY, "newer", "Written by a later version"),
            StoreError::There(_) => (StatusCode::CONFLICT, "there-already", "There is one already"),
            StoreError::Gone => (StatusCode::SERVICE_UNAVAILABLE, "gone", "The data file is gone"),
            StoreError::NoRoom { .. } => (StatusCode::INSUFFICIENT_STORAGE, "no-room", "Not enough room on the disk"),
            StoreError::Full => (StatusCode::INSUFFICIENT_STORAGE, "disk-full", "The disk is full"),
            StoreError::Locked => (StatusCode::SERVICE_UNAVAILABLE, "locked", "The data file is held by another program"),
            _ => (StatusCode::INTERNAL_SERVER_ERROR, "data-file", "The data file could not be used"),
        };
        Self::new(status, kind, title, detail)
    }
}

impl From<Refusal> for Problem {
    fn from(e: Refusal) -> Self {
        StoreError::from(e).into()
    }
}

impl From<Unreadable> for Problem {
    fn from(e: Unreadable) -> Self {
        Self::new(StatusCode::UNPROCESSABLE_ENTITY, "unreadable-picture", "This picture cannot be read", e.to_string())
    }
}

impl From<NoAnswer> for Problem {
    fn from(e: NoAnswer) -> Self {
        let title = if e == NoAnswer::Cancelled { "Cancelled" } else { "There is no set to find" };
        Self::new(StatusCode::UNPROCESSABLE_ENTITY, if e == NoAnswer::Cancelled { "cancelled" } else { "no-answer" }, title, e.to_string())
    }
}
