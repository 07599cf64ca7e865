//! A page for whoever started the program by its icon and sees no terminal.

use super::browser::{has_screen, open_browser};
use crate::serving::{Limits, serve};
use axum::Router;
use axum::response::Html;
use std::io::IsTerminal;
use std::net::Ipv4Addr;
use std::sync::Arc;
use std::time::Duration;
use tokio::net::TcpListener;
use tokio::sync::Notify;

/// Longest time the page waits for the browser.
const PATIENCE: Duration = Duration::from_secs(30);

/// Shows in the browser why the program did not start, where there is a screen and no terminal. Returns once the page was fetched.
pub(crate) fn show_problem(words: &str) {
    if std::io::stderr().is_terminal() || !has_screen() {
        return;
    }
    let Ok(runtime) = tokio::runtime::Runtime::new() else { return };
    runtime.block_on(async {
        let Ok(listener) = TcpListener::bind((Ipv4Addr::LOCALHOST, 0)).await else { return };
        let Ok(address) = listener.local_addr() else { return };
        let fetched = Arc::new(Notify::new());
        let (page, told) = (page(words), fetched.clone());
        let router = Router::new().fallback(move || {
            told.notify_one();
            std::future::ready(Html(page.clone()))
        });
        if open_browser(&format!("http://{address}")) {
            let seen = async {
                let _ = tokio::time::timeout(PATIENCE, fetched.notified()).await;
            };
            serve(listener, router, seen, Limits::default()).await;
        }
    });
}

fn page(words: &str) -> String {
    let words = words.replace('&', "&amp;").replace('<', "&lt;");
    format!(
        "<!doctype html><html lang=\"en\"><meta charset=\"utf-8\"><title>Lean Swatch did not start</title>\
         <body style=\"font: 16px/1.5 sans-serif; max-width: 640px; margin: 15vh auto; padding: 0 20px; background: #d6d6d6; color: #111\">\
         <h1 style=\"font-size: 20px\">Lean Swatch did not start</h1><p style=\"white-space: pre-wrap; overflow-wrap: anywhere\">{words}</p></body></html>"
    )
}

#[cfg(test)]
mod tests {
    #[test]
    fn what_went_wrong_is_shown_as_text() {
        assert!(super::page("<b>& no").contains("&lt;b>&amp; no"));
    }
}
