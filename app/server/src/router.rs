//! Every path of the server.

use crate::handlers::{
    borrowed, boxes, cards, damaged, devices, drills, easel, enlarging, field_notes, grounds, instruments, jobs, journal, keeping, maps,
    others, pieces, progress, readings, reference, sheet, studies, studio, surfaces, wall, wheel, work, zones,
};
use crate::state::Studio;
use crate::{frontend, guard, limits};
use axum::body::Bytes;
use axum::extract::DefaultBodyLimit;
use axum::http::{HeaderName, HeaderValue, Request, header as header_names};
use axum::response::IntoResponse;
use axum::routing::{MethodFilter, MethodRouter, get};
use axum::{Router, middleware};

use std::sync::OnceLock;
use tower_http::compression::CompressionLayer;
use tower_http::set_header::SetResponseHeaderLayer;
use tower_http::trace::TraceLayer;
use utoipa::OpenApi;
use utoipa::openapi::HttpMethod;
use utoipa::openapi::OpenApi as Description;
use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::{PathItemExt, routes};

/// Largest request that is no file, in bytes: all the zones of a piece with room to spare.
const MOST_WORDS: usize = 8 << 20;

#[derive(OpenApi)]
#[openapi(
    info(
        title = "Lean Swatch",
        description = "Few pigments, values first: the API of the bench. Problems are RFC 9457 documents.",
        license(name = "MIT OR Apache-2.0")
    ),
    components(schemas(
        reference::Look,
        sheet::WhichCopy,
        lean_plan::paints::card::CardKind,
        lean_plan::enlarging::TracedFrom,
        enlarging::UnderGrid,
        lean_piece::PageFormat,
        lean_drills::Drill,
        lean_journal::Season,
        lean_journal::DayTime,
        lean_piece::easel::Outcome,
        lean_piece::easel::Stage
    ))
)]
struct Api;

/// Hands every path of the API to a macro: handlers of one address stand together.
macro_rules! every_path {
    ($to:ident) => {
        $to! {
            studio::health;
            studio::overview;
            studio::shipped_pigments;
            studio::choices;
            studio::visit_demo;
            studio::create_piece;
            pieces::read, pieces::remove;
            pieces::change;
            pieces::undo;
            pieces::redo;
            zones::propose;
            zones::colours;
            zones::brush;
            zones::take;
            zones::part_by_mass;
            zones::give;
            zones::own;
            zones::propose_masses;
            maps::read;
            zones::merge;
            zones::split;
            zones::join;
            zones::redraw;
            zones::from_lines;
            zones::drag;
            zones::preview;
            reference::take_in;
            reference::original;
            reference::look;
            reference::values;
            reference::patch;
            reference::look_planned;
            reference::frame;
            reference::neutral;
            reference::line;
            reference::compare_patches;
            reference::spread;
            others::add;
            others::look;
            others::make_main;
            others::cut;
            others::carry;
            others::chart;
            others::occurs;
            borrowed::wish_colours;
            borrowed::borrow_light;
            wall::put;
            wall::look;
            wall::mocked_up;
            devices::list;
            devices::code;
            devices::away;
            devices::pair;
            easel::did;
            field_notes::list, field_notes::create;
            field_notes::photo;
            field_notes::look;
            field_notes::read, field_notes::keep, field_notes::remove;
            field_notes::into_piece;
            work::find_sets;
            studies::kinds;
            studies::make_studies;
            studies::move_shares;
            studies::lend, studies::lend_picture;
            studies::lamps;
            studies::painted;
            easel::read;
            easel::offers;
            easel::look;
            easel::all;
            progress::put;
            progress::simulate;
            progress::read;
            progress::look;
            surfaces::read;
            enlarging::read;
            enlarging::grid;
            enlarging::tracing;
            drills::read;
            drills::question;
            drills::answer;
            journal::find::find;
            journal::find::choices;
            journal::learnt::read;
            journal::learnt::csv;
            journal::learnt::measure;
            journal::learnt::one_set;
            journal::lend::piece_of_study;
            journal::lend::lend_set;
            journal::booklet::pdf;
            wheel::read;
            work::read_additions;
            sheet::pdf;
            sheet::ladder_pdf;
            sheet::png;
            sheet::svg;
            boxes::create;
            boxes::read, boxes::remove;
            boxes::add;
            boxes::take_out, boxes::describe;
            boxes::understand;
            boxes::add_list;
            boxes::inventory, boxes::put_inventory;
            boxes::swatches;
            boxes::strings;
            boxes::greys;
            readings::list, readings::take;
            readings::take_in_file, readings::save_file;
            readings::change, readings::remove;
            readings::of_piece;
            cards::pdf;
            cards::photograph;
            cards::read;
            grounds::list, grounds::create;
            grounds::put, grounds::remove;
            instruments::meter;
            instruments::calibrate;
            instruments::play;
            keeping::read;
            keeping::back_up;
            keeping::check;
            keeping::export, keeping::import;
            damaged::save, damaged::put_aside;
            jobs::read, jobs::cancel;
            jobs::follow;
        }
    };
}

/// The description of everything the handlers say about themselves.
macro_rules! described {
    ($($($handler:path),+;)+) => {
        OpenApiRouter::<Studio>::with_openapi(Api::openapi())$(.routes(routes!($($handler),+)))+.into_openapi()
    };
}

/// The addresses alone. They are there at once; to describe them takes half a second.
macro_rules! served {
    ($($($handler:path),+;)+) => {
        Router::<Studio>::new()$(.route(
            [$(utoipa_axum::paste! { utoipa_axum::routes!(@path [path()] of $handler) }),+][0].as_str(),
            MethodRouter::new()$(.on(filter(utoipa_axum::paste! { utoipa_axum::routes!(@path [methods()] of $handler) }), $handler))+,
        ))+
    };
}

/// All of some methods.
fn filter(methods: Vec<HttpMethod>) -> MethodFilter {
    methods.iter().map(PathItemExt::to_method_filter).reduce(MethodFilter::or).unwrap_or(MethodFilter::GET)
}

/// The generated description of the whole API.
pub fn description() -> Description {
    with_limits(every_path!(described))
}

fn with_limits(description: Description) -> Description {
    let limited = serde_json::to_value(&description).and_then(|mut of| {
        limits::stated(&mut of);
        serde_json::from_value(of)
    });
    limited.unwrap_or(description)
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
pub fn router_behind_proxy(studio: Studio) -> Router {
    guarded(|r| r).with_state(studio)
}

fn guarded(guard: impl FnOnce(Router<Studio>) -> Router<Studio>) -> Router<Studio> {
    let header = |name: &'static str, value: &'static str| {
        SetResponseHeaderLayer::if_not_present(HeaderName::from_static(name), HeaderValue::from_static(value))
    };
    let open = every_path!(served)
        .route("/api/openapi.json", get(said))
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

/// The description as text, made when it is first asked for.
async fn said() -> impl IntoResponse {
    static SAID: OnceLock<Bytes> = OnceLock::new();
    let made = || Bytes::from(serde_json::to_vec(&description()).unwrap_or_default());
    let text = tokio::task::spawn_blocking(move || SAID.get_or_init(made).clone()).await.unwrap_or_default();
    ([(header_names::CONTENT_TYPE, "application/json")], text)
}

async fn wrong_method() -> crate::problem::Problem {
    crate::problem::Problem::new(
        axum::http::StatusCode::METHOD_NOT_ALLOWED,
        "wrong-method",
        "Not that way",
        "This address does not take that method. See /api/openapi.json.",
    )
}
