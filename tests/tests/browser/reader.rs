//! What follows where the reader is.

use lean_browser_tests::stage::Stage;
use lean_browser_tests::views::VIEWS;
use serde_json::Value;

/// Every number with a decimal point that can be read on the page or is read out.
const POINTS: &str = r"[document.body.innerText, ...[...document.querySelectorAll('[aria-label]')].map(e => e.ariaLabel)]
    .flatMap(t => t.match(/.{0,24}\d\.\d.{0,12}/g) ?? [])";

#[tokio::test]
async fn decimals_are_set_off_as_the_reader_does() {
    let stage = Stage::demo();
    let page = stage.page().await;
    page.speaks("de-DE").await;
    let (mut points, mut commas) = (Vec::new(), 0);
    for (path, words) in VIEWS {
        page.go(path).await;
        // The words waited for may hold a number themselves.
        page.says(&words.replace('.', ",")).await;
        points.extend(page.value(POINTS).await.as_array().into_iter().flatten().map(|n| format!("{path}: {n}")));
        commas += page.value("(document.body.innerText.match(/\\d,\\d/g) ?? []).length").await.as_u64().unwrap_or(0);
    }
    assert!(points.is_empty(), "{points:#?}");
    assert!(commas > 100, "only {commas} decimals were seen");

    page.speaks("en-GB").await;
    page.go("/pieces/1/subject?zone=4").await;
    page.says("Importance").await;
    assert_ne!(page.value(&format!("{POINTS}.length")).await, Value::from(0));
    page.close().await;
}
