//! Who comes in over the network: a device that carries its secret, one that is being paired, and nobody else.

use super::allowed;
use crate::problem::Problem;
use crate::state::Studio;
use axum::extract::{Request, State};
use axum::http::{HeaderMap, Method, StatusCode, header};
use axum::middleware::Next;
use axum::response::{IntoResponse, Redirect, Response};
use lean_store::Store;

/// Name of the cookie a device carries.
pub(crate) const COOKIE: &str = "lean_device";

/// Files of the pages themselves: they say nothing of the studio.
fn is_of_the_pages(path: &str) -> bool {
    path.starts_with("/assets/")
        || matches!(path, "/icon.svg" | "/icon-192.png" | "/icon-512.png" | "/manifest.webmanifest" | "/worker.js" | "/offline.html")
}

/// Lets paired devices in to what is [`allowed`]; says to others how to be paired.
pub(crate) async fn only_paired(State(studio): State<Studio>, request: Request, next: Next) -> Response {
    let (method, path) = (request.method().clone(), request.uri().path().to_owned());
    if let Some(problem) = foreign(&studio, request.headers()) {
        return problem.into_response();
    }
    if method == Method::GET && (is_of_the_pages(&path) || path == "/pair") || (method == Method::POST && path == "/api/pair") {
        return next.run(request).await;
    }
    let known = match carried(request.headers()) {
        Some(secret) => {
            let digest = Store::digest_of(secret.as_bytes());
            studio.run(move |s| Ok(s.store.knows_device(&digest)?)).await
        }
        None => Ok(false),
    };
    let api = path.starts_with("/api/");
    match known {
        Err(problem) => problem.into_response(),
        Ok(false) if api => Problem::new(
            StatusCode::UNAUTHORIZED,
            "not-paired",
            "This device is not paired",
            "Ask for a code on the machine where the studio is, under Backups, and open it here.",
        )
        .into_response(),
        Ok(false) => Redirect::to("/pair").into_response(),
        Ok(true) if api && !allowed::of_the_api(&method, &path) => {
            Problem::new(StatusCode::FORBIDDEN, "not-from-here", "Not from a device", "That is done on the machine where the studio is.")
                .into_response()
        }
        Ok(true) if !api && !allowed::is_page(&path) => Redirect::to("/device").into_response(),
        Ok(true) => next.run(request).await,
    }
}

/// A host or page that is not ours (DNS rebinding, cross-site requests).
fn foreign(studio: &Studio, headers: &HeaderMap) -> Option<Problem> {
    let sharing = studio.sharing.as_ref()?;
    let text = |name| headers.get(name).map(|v| v.to_str().unwrap_or("?").to_owned());
    let host = text(header::HOST).unwrap_or_default();
    let own_page = text(header::ORIGIN).is_none_or(|o| o == format!("{}://{host}", sharing.scheme()));
    (!sharing.is_own_host(&host) || !own_page)
        .then(|| Problem::new(StatusCode::FORBIDDEN, "foreign", "Refused", format!("Devices come to {} and nowhere else.", sharing.url())))
}

/// What the cookie of a device says.
fn carried(headers: &HeaderMap) -> Option<String> {
    let cookies = headers.get_all(header::COOKIE).iter().filter_map(|v| v.to_str().ok()).flat_map(|v| v.split(';'));
    cookies.filter_map(|c| c.trim().split_once('=')).find(|(name, _)| *name == COOKIE).map(|(_, secret)| secret.to_owned())
}

/// The cookie that gives a device its secret: not for scripts, not for other sites, for a year.
pub(crate) fn cookie(secret: &str, encrypted: bool) -> String {
    let secure = if encrypted { "; Secure" } else { "" };
    format!("{COOKIE}={secret}; Path=/; Max-Age=31536000; HttpOnly; SameSite=Strict{secure}")
}
