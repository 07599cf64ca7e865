//! Only this machine, and only our own pages, may talk to the server; over the network paired [`devices`] and nobody else.

pub(crate) mod allowed;
pub(crate) mod devices;

use crate::limits::MOST_ADDRESS;
use crate::problem::Problem;
use axum::extract::Request;
use axum::http::{HeaderMap, StatusCode, header};
use axum::middleware::Next;
use axum::response::{IntoResponse, Response};

/// Refuses requests whose Host is not this machine or whose Origin is another page (DNS rebinding, cross-site requests).
pub(crate) async fn only_ourselves(request: Request, next: Next) -> Response {
    match foreign(request.headers(), request.uri().host()) {
        None => next.run(request).await,
        Some(who) => Problem::new(
            StatusCode::FORBIDDEN,
            "foreign",
            "Refused",
            format!(
                "This server answers only pages it served itself on this machine, not {who}. Open it as http://127.0.0.1 with its port."
            ),
        )
        .into_response(),
    }
}

/// Refuses addresses that are longer than any the pages ask for.
pub(crate) async fn no_longer_than_fits(request: Request, next: Next) -> Response {
    let long = request.uri().path_and_query().map_or(0, |p| p.as_str().len());
    if long <= MOST_ADDRESS {
        return next.run(request).await;
    }
    let detail = format!("The address has {long} characters; {MOST_ADDRESS} fit. Ask for less at once.");
    Problem::new(StatusCode::URI_TOO_LONG, "too-long", "The address is too long", detail).into_response()
}

fn foreign(headers: &HeaderMap, uri_host: Option<&str>) -> Option<String> {
    let text = |name| headers.get(name).map(|v| v.to_str().unwrap_or("?").to_owned());
    let host = text(header::HOST).or_else(|| uri_host.map(str::to_owned));
    let Some(host) = host else { return Some("a request without a Host".into()) };
    if !is_local(&host) {
        return Some(format!("the host \"{host}\""));
    }
    let origin = text(header::ORIGIN)?;
    let own = origin.strip_prefix("http://").is_some_and(|o| o.eq_ignore_ascii_case(&host));
    (!own).then(|| format!("the origin \"{origin}\""))
}

fn is_local(host: &str) -> bool {
    let name = match host.strip_prefix('[') {
        // Nothing but a port may follow the bracket.
        Some(rest) => rest.split_once(']').filter(|(_, after)| after.is_empty() || after.starts_with(':')).map_or("", |(name, _)| name),
        None => host.split(':').next().unwrap_or(""),
    };
    matches!(name.to_ascii_lowercase().as_str(), "127.0.0.1" | "localhost" | "::1")
}

#[cfg(test)]
mod tests {
    use super::*;

    fn asked(pairs: &[(header::HeaderName, &str)]) -> Option<String> {
        let mut h = HeaderMap::new();
        for (k, v) in pairs {
            h.insert(k, v.parse().unwrap());
        }
        foreign(&h, None)
    }

    #[test]
    fn our_own_pages_are_let_in() {
        assert_eq!(asked(&[(header::HOST, "127.0.0.1:8080")]), None);
        assert_eq!(asked(&[(header::HOST, "localhost:8080"), (header::ORIGIN, "http://localhost:8080")]), None);
        assert_eq!(asked(&[(header::HOST, "[::1]:8080")]), None);
    }

    #[test]
    fn everyone_else_is_refused() {
        assert!(asked(&[]).is_some());
        assert!(asked(&[(header::HOST, "paints.example")]).is_some());
        assert!(asked(&[(header::HOST, "127.0.0.1.paints.example")]).is_some());
        assert!(asked(&[(header::HOST, "[::1].paints.example")]).is_some());
        assert!(asked(&[(header::HOST, "127.0.0.1:80"), (header::ORIGIN, "http://paints.example")]).is_some());
        assert!(asked(&[(header::HOST, "127.0.0.1:80"), (header::ORIGIN, "http://127.0.0.1:81")]).is_some());
        assert!(asked(&[(header::HOST, "127.0.0.1:80"), (header::ORIGIN, "null")]).is_some());
    }
}
