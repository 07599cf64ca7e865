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
use axum::routing::get;
use axum::{Router, middleware};

use tower_http::compression::CompressionLayer;
use tower_http::set_header::SetResponseHeaderLayer;
use tower_http::trace::TraceLayer;
use utoipa::OpenApi;
use utoipa::openapi::OpenApi as Description;
use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::routes;

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

fn described() -> (Router<Studio>, Description) {
    OpenApiRouter::with_openapi(Api::openapi())
        .routes(routes!(studio::health))
        .routes(routes!(studio::overview))
        .routes(routes!(studio::shipped_pigments))
        .routes(routes!(studio::choices))
        .routes(routes!(studio::visit_demo))
        .routes(routes!(studio::create_piece))
        .routes(routes!(pieces::read, pieces::remove))
        .routes(routes!(pieces::change))
        .routes(routes!(pieces::undo))
        .routes(routes!(pieces::redo))
        .routes(routes!(zones::propose))
        .routes(routes!(zones::colours))
        .routes(routes!(zones::brush))
        .routes(routes!(zones::take))
        .routes(routes!(zones::part_by_mass))
        .routes(routes!(zones::give))
        .routes(routes!(zones::own))
        .routes(routes!(zones::propose_masses))
        .routes(routes!(maps::read))
        .routes(routes!(zones::merge))
        .routes(routes!(zones::split))
        .routes(routes!(zones::join))
        .routes(routes!(zones::redraw))
        .routes(routes!(zones::from_lines))
        .routes(routes!(zones::drag))
        .routes(routes!(zones::preview))
        .routes(routes!(reference::take_in))
        .routes(routes!(reference::original))
        .routes(routes!(reference::look))
        .routes(routes!(reference::values))
        .routes(routes!(reference::patch))
        .routes(routes!(reference::look_planned))
        .routes(routes!(reference::frame))
        .routes(routes!(reference::neutral))
        .routes(routes!(reference::line))
        .routes(routes!(reference::compare_patches))
        .routes(routes!(reference::spread))
        .routes(routes!(others::add))
        .routes(routes!(others::look))
        .routes(routes!(others::make_main))
        .routes(routes!(others::cut))
        .routes(routes!(others::carry))
        .routes(routes!(others::chart))
        .routes(routes!(others::occurs))
        .routes(routes!(borrowed::wish_colours))
        .routes(routes!(borrowed::borrow_light))
        .routes(routes!(wall::put))
        .routes(routes!(wall::look))
        .routes(routes!(wall::mocked_up))
        .routes(routes!(devices::list))
        .routes(routes!(devices::code))
        .routes(routes!(devices::away))
        .routes(routes!(devices::pair))
        .routes(routes!(easel::did))
        .routes(routes!(field_notes::list, field_notes::create))
        .routes(routes!(field_notes::photo))
        .routes(routes!(field_notes::look))
        .routes(routes!(field_notes::read, field_notes::keep, field_notes::remove))
        .routes(routes!(field_notes::into_piece))
        .routes(routes!(work::find_sets))
        .routes(routes!(studies::kinds))
        .routes(routes!(studies::make_studies))
        .routes(routes!(studies::move_shares))
        .routes(routes!(studies::lend, studies::lend_picture))
        .routes(routes!(studies::lamps))
        .routes(routes!(studies::painted))
        .routes(routes!(easel::read))
        .routes(routes!(easel::offers))
        .routes(routes!(easel::look))
        .routes(routes!(easel::all))
        .routes(routes!(progress::put))
        .routes(routes!(progress::simulate))
        .routes(routes!(progress::read))
        .routes(routes!(progress::look))
        .routes(routes!(surfaces::read))
        .routes(routes!(enlarging::read))
        .routes(routes!(enlarging::grid))
        .routes(routes!(enlarging::tracing))
        .routes(routes!(drills::read))
        .routes(routes!(drills::question))
        .routes(routes!(drills::answer))
        .routes(routes!(journal::find::find))
        .routes(routes!(journal::find::choices))
        .routes(routes!(journal::learnt::read))
        .routes(routes!(journal::learnt::csv))
        .routes(routes!(journal::learnt::measure))
        .routes(routes!(journal::learnt::one_set))
        .routes(routes!(journal::lend::piece_of_study))
        .routes(routes!(journal::lend::lend_set))
        .routes(routes!(journal::booklet::pdf))
        .routes(routes!(wheel::read))
        .routes(routes!(work::read_additions))
        .routes(routes!(sheet::pdf))
        .routes(routes!(sheet::ladder_pdf))
        .routes(routes!(sheet::png))
        .routes(routes!(sheet::svg))
        .routes(routes!(boxes::create))
        .routes(routes!(boxes::read, boxes::remove))
        .routes(routes!(boxes::add))
        .routes(routes!(boxes::take_out, boxes::describe))
        .routes(routes!(boxes::understand))
        .routes(routes!(boxes::add_list))
        .routes(routes!(boxes::inventory, boxes::put_inventory))
        .routes(routes!(boxes::swatches))
        .routes(routes!(boxes::strings))
        .routes(routes!(boxes::greys))
        .routes(routes!(readings::list, readings::take))
        .routes(routes!(readings::take_in_file, readings::save_file))
        .routes(routes!(readings::change, readings::remove))
        .routes(routes!(readings::of_piece))
        .routes(routes!(cards::pdf))
        .routes(routes!(cards::photograph))
        .routes(routes!(cards::read))
        .routes(routes!(grounds::list, grounds::create))
        .routes(routes!(grounds::put, grounds::remove))
        .routes(routes!(instruments::meter))
        .routes(routes!(instruments::calibrate))
        .routes(routes!(instruments::play))
        .routes(routes!(keeping::read))
        .routes(routes!(keeping::back_up))
        .routes(routes!(keeping::check))
        .routes(routes!(keeping::export, keeping::import))
        .routes(routes!(damaged::save, damaged::put_aside))
        .routes(routes!(jobs::read, jobs::cancel))
        .routes(routes!(jobs::follow))
        .split_for_parts()
}

/// The generated description of the whole API.
pub fn description() -> Description {
    with_limits(described().1)
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
    let (api, description) = described();
    // Made into text once: every connection holds the router, and a description of its own would weigh megabytes.
    let description = Bytes::from(serde_json::to_vec(&with_limits(description)).unwrap_or_default());
    let described = move || async move { ([(header_names::CONTENT_TYPE, "application/json")], description) };
    let header = |name: &'static str, value: &'static str| {
        SetResponseHeaderLayer::if_not_present(HeaderName::from_static(name), HeaderValue::from_static(value))
    };
    let open = api
        .route("/api/openapi.json", get(described))
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

async fn wrong_method() -> crate::problem::Problem {
    crate::problem::Problem::new(
        axum::http::StatusCode::METHOD_NOT_ALLOWED,
        "wrong-method",
        "Not that way",
        "This address does not take that method. See /api/openapi.json.",
    )
}
