//! Every path of the server.

use crate::handlers::{
    borrowed, boxes, by_eye, cards, damaged, devices, drawing, drills, easel, enlarging, field_notes, form, from_photo, grounds,
    instruments, jobs, journal, keeping, maps, matching, others, photo_patches, pieces, played, progress, readings, reference, sheet,
    studies, studio, surfaces, typed_colour, wall, wheel, work, zones,
};
use crate::paths::every_path;
use crate::state::Studio;
use crate::{frontend, guard};
use axum::extract::DefaultBodyLimit;
use axum::http::{HeaderName, HeaderValue, Method, Request, header as header_names};
use axum::response::IntoResponse;
use axum::routing::{MethodFilter, get, on};
use axum::{Router, middleware};
use std::collections::HashMap;
use std::sync::LazyLock;

use tower_http::compression::CompressionLayer;
use tower_http::set_header::SetResponseHeaderLayer;
use tower_http::trace::TraceLayer;

/// Largest request that is no file, in bytes: all the zones of a piece with room to spare.
const MOST_WORDS: usize = 8 << 20;

/// Every handler under its method and address.
macro_rules! served {
    ($($($handler:path),+;)+) => {
        Router::<Studio>::new()$($(.route(address_of(stringify!($handler)).1, on(address_of(stringify!($handler)).0, $handler)))+)+
    };
}

/// Method and address of a handler by its name, as in `studio::health`.
fn address_of(handler: &str) -> (MethodFilter, &'static str) {
    static ROUTES: LazyLock<HashMap<&str, (MethodFilter, &str)>> =
        LazyLock::new(|| include_str!("routes.txt").lines().filter_map(route).collect());
    let name: String = handler.split_whitespace().collect();
    let listed = ROUTES.get(name.as_str()).copied();
    listed.unwrap_or_else(|| panic!("{name} is not in routes.txt: run `cargo xtask api-types`, which writes it"))
}

/// A line of `routes.txt`: handler, method, address.
fn route(line: &'static str) -> Option<(&'static str, (MethodFilter, &'static str))> {
    let mut words = line.split(' ');
    let (handler, method, address) = (words.next()?, words.next()?, words.next()?);
    let method = Method::from_bytes(method.as_bytes()).ok()?;
    Some((handler, (MethodFilter::try_from(method).ok()?, address)))
}

/// The server's router over a studio, for this machine.
pub fn router(studio: Studio) -> Router {
    guarded(|r| r.layer(middleware::from_fn(guard::only_ourselves))).with_state(studio)
}

/// The same for devices that come over the network.
pub fn router_for_devices(studio: Studio) -> Router {
    let door = middleware::from_fn_with_state(studio.clone(), guard::devices::only_paired);
    guarded(|r| r.layer(door)).with_state(studio)
}

/// The same behind a proxy that has let in whom it knows.
pub(crate) fn router_behind_proxy(studio: Studio) -> Router {
    guarded(|r| r).with_state(studio)
}

fn guarded(guard: impl FnOnce(Router<Studio>) -> Router<Studio>) -> Router<Studio> {
    let header = |name: &'static str, value: &'static str| {
        SetResponseHeaderLayer::if_not_present(HeaderName::from_static(name), HeaderValue::from_static(value))
    };
    let open = every_path!(served)
        .route("/api/openapi.json", get(description))
        .fallback(frontend::page)
        .method_not_allowed_fallback(wrong_method)
        .layer(DefaultBodyLimit::max(MOST_WORDS))
        .layer(middleware::from_fn(guard::no_longer_than_fits));
    guard(open)
        .layer(CompressionLayer::new())
        .layer(header("x-content-type-options", "nosniff"))
        .layer(header("referrer-policy", "same-origin"))
        .layer(header("x-frame-options", "DENY"))
        .layer(header("cross-origin-resource-policy", "same-origin"))
        .layer(header("content-security-policy", "default-src 'self'; style-src 'self' 'unsafe-inline'; img-src 'self' blob: data:; font-src 'self' data:; object-src 'none'; base-uri 'none'"))
        .layer(TraceLayer::new_for_http().make_span_with(|r: &Request<_>| tracing::info_span!("request", method = %r.method(), path = r.uri().path())))
}

/// The description of the API, as `cargo xtask api-types` wrote it.
async fn description() -> impl IntoResponse {
    ([(header_names::CONTENT_TYPE, "application/json")], include_str!("../../../web/src/api/openapi.json"))
}

async fn wrong_method() -> crate::problem::Problem {
    crate::problem::Problem::new(
        axum::http::StatusCode::METHOD_NOT_ALLOWED,
        "wrong-method",
        "Not that way",
        "This address does not take that method. See /api/openapi.json.",
    )
}
