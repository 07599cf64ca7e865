//! What a paired device may see and do. Everything else stays on this machine.

use axum::http::Method;

/// Paths a device may read, a star for one part; two stars for the rest.
const READ: [&str; 20] = [
    "/api/health",
    "/api/studio",
    "/api/choices",
    "/api/pieces/*",
    "/api/pieces/*/easel/**",
    "/api/pieces/*/easel",
    "/api/pieces/*/painted",
    "/api/pieces/*/planned/view",
    "/api/pieces/*/reference/view",
    "/api/pieces/*/pictures/*",
    "/api/pieces/*/trials",
    "/api/maps/*",
    "/api/pieces/*/match",
    "/api/boxes/*",
    "/api/boxes/*/match",
    "/api/field-notes",
    "/api/field-notes/*",
    "/api/field-notes/photo/*",
    "/api/drills",
    "/api/drills/question",
];

/// What it may do.
const DONE: [(Method, &str); 8] = [
    (Method::POST, "/api/field-notes"),
    (Method::PUT, "/api/field-notes/*"),
    (Method::POST, "/api/field-notes/photo"),
    (Method::POST, "/api/drills/answer"),
    (Method::PUT, "/api/pieces/*/easel/photos"),
    (Method::PUT, "/api/pieces/*/easel/done"),
    (Method::POST, "/api/boxes/*/readings/by-eye"),
    (Method::POST, "/api/boxes/*/readings"),
];

/// Pages it may open; the rest lead to its own first page.
const PAGES: [&str; 7] = ["/device", "/device/**", "/field", "/field/*", "/drills", "/match", "/pair"];

fn fits(pattern: &str, path: &str) -> bool {
    let (mut p, mut q) = (pattern.split('/'), path.split('/'));
    loop {
        match (p.next(), q.next()) {
            (Some("**"), Some(_)) => return true,
            (Some("*"), Some(part)) if !part.is_empty() => {}
            (Some(a), Some(b)) if a == b => {}
            (None, None) => return true,
            _ => return false,
        }
    }
}

/// Whether a paired device may ask this of the API.
pub(crate) fn of_the_api(method: &Method, path: &str) -> bool {
    let read = matches!(*method, Method::GET | Method::HEAD) && READ.iter().any(|p| fits(p, path));
    read || DONE.iter().any(|(m, p)| m == method && fits(p, path))
}

/// Whether it is a page for devices.
pub(crate) fn is_page(path: &str) -> bool {
    PAGES.iter().any(|p| fits(p, path))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_device_reads_what_it_needs_at_the_easel() {
        for path in [
            "/api/studio",
            "/api/pieces/3",
            "/api/pieces/3/easel",
            "/api/pieces/3/easel/look",
            "/api/field-notes/photo/ab12",
            "/api/boxes/pens/match",
        ] {
            assert!(of_the_api(&Method::GET, path), "{path}");
        }
        assert!(of_the_api(&Method::POST, "/api/field-notes") && of_the_api(&Method::PUT, "/api/pieces/3/easel/photos"));
    }

    #[test]
    fn it_changes_no_plan_and_sees_no_archive() {
        for (method, path) in [
            (Method::POST, "/api/pieces/3/requests"),
            (Method::POST, "/api/pieces/3/undo"),
            (Method::DELETE, "/api/pieces/3"),
            (Method::DELETE, "/api/field-notes/1"),
            (Method::GET, "/api/archive"),
            (Method::GET, "/api/keeping"),
            (Method::GET, "/api/devices"),
            (Method::POST, "/api/devices/code"),
            (Method::GET, "/api/pieces/"),
            (Method::GET, "/api/pieces/3/original"),
        ] {
            assert!(!of_the_api(&method, path), "{method} {path}");
        }
        assert!(
            is_page("/device/pieces/3") && is_page("/field/2") && is_page("/match") && !is_page("/pieces/3/brief") && !is_page("/keeping")
        );
    }
}
