//! What is printed, written for its reader.

use crate::support::Api;
use axum::body::Body;
use axum::http::{Request, StatusCode, header};

async fn printed(api: &Api, path: &str, languages: &str) -> (StatusCode, Vec<u8>) {
    let request = Request::get(path).header(header::HOST, "127.0.0.1:7436").header(header::ACCEPT_LANGUAGE, languages);
    let (status, _, bytes) = api.send(request.body(Body::empty()).unwrap()).await;
    (status, bytes)
}

/// How often a number is set off so in the words of a sheet.
async fn set_off(api: &Api, languages: &str, by: char) -> usize {
    let (status, svg) = printed(api, "/api/pieces/1/sheet.svg", languages).await;
    assert_eq!(status, StatusCode::OK);
    let svg = String::from_utf8(svg).unwrap();
    let words = svg.split("<text ").skip(1).map(|t| t.split(['>', '<']).nth(1).unwrap_or_default());
    let numbers = |text: &str| {
        let letters: Vec<char> = text.chars().collect();
        letters.windows(3).filter(|l| l[0].is_ascii_digit() && l[1] == by && l[2].is_ascii_digit()).count()
    };
    words.map(numbers).sum()
}

#[tokio::test]
async fn a_sheet_sets_decimals_off_as_its_reader_does() {
    let api = Api::demo();
    let points = set_off(&api, "en-GB", '.').await;
    assert!(points > 10, "only {points} decimals stand on the sheet");
    assert_eq!((set_off(&api, "de-DE,de;q=0.9,en;q=0.8", '.').await, set_off(&api, "de-DE", ',').await), (0, points));
    for path in ["sheet.pdf", "ladder.pdf", "enlarging/grid.pdf", "enlarging/tracing.pdf"] {
        let (status, pdf) = printed(&api, &format!("/api/pieces/1/{path}"), "de-DE").await;
        assert!(status == StatusCode::OK && pdf.starts_with(b"%PDF"), "{path}: {status}");
    }
}
