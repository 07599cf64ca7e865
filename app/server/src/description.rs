//! The description of the API and the list of its addresses, from the attributes of the handlers. `cargo xtask api-types` writes both.

use crate::handlers::{
    borrowed, boxes, by_eye, cards, damaged, devices, drawing, drills, easel, enlarging, field_notes, form, from_photo, grounds,
    instruments, jobs, journal, keeping, maps, matching, others, photo_patches, pieces, played, progress, readings, reference, sheet,
    studies, studio, surfaces, typed_colour, wall, wheel, work, zones,
};
use crate::limits;
use crate::paths::every_path;
use crate::state::Studio;
use utoipa::OpenApi;
use utoipa::openapi::OpenApi as Description;
use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::{paste, routes};

#[derive(OpenApi)]
#[openapi(
    info(
        title = "Lean Swatch",
        description = "Few pigments, values first: the API of the bench. Problems are RFC 9457 documents.",
        license(name = "MIT OR Apache-2.0")
    ),
    components(schemas(
        crate::handlers::reference::Look,
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

/// The description of everything the handlers say about themselves.
macro_rules! described {
    ($($($handler:path),+;)+) => {
        OpenApiRouter::<Studio>::with_openapi(Api::openapi())$(.routes(routes!($($handler),+)))+.into_openapi()
    };
}

/// A line for each handler: its name, its method, its address.
macro_rules! listed {
    ($($($handler:path),+;)+) => {
        vec![$($((
            stringify!($handler),
            paste! { routes!(@path [methods()] of $handler) },
            paste! { routes!(@path [path()] of $handler) },
        )),+),+]
    };
}

/// The description of the whole API, with the limits of texts and lists.
pub fn description() -> Description {
    let description = every_path!(described);
    let limited = serde_json::to_value(&description).and_then(|mut of| {
        limits::stated(&mut of);
        serde_json::from_value(of)
    });
    limited.unwrap_or(description)
}

/// The handlers with their methods and addresses, a line each, as `routes.txt` has them.
pub fn addresses() -> String {
    let line = |(handler, methods, path): (&str, Vec<utoipa::openapi::HttpMethod>, String)| {
        let name: String = handler.split_whitespace().collect();
        let said = methods.iter().filter_map(|m| serde_json::to_value(m).ok()?.as_str().map(str::to_uppercase));
        said.map(|method| format!("{name} {method} {path}\n")).collect::<String>()
    };
    every_path!(listed).into_iter().map(line).collect()
}
