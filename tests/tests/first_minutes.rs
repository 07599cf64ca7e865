//! From nothing to a printed sheet: how many actions it takes a newcomer, and how long.

use lean_browser_tests::stage::Stage;
use std::time::Instant;

/// Most presses, choices and drops it may take.
const MOST: u32 = 12;

#[tokio::test]
async fn from_nothing_to_a_printed_sheet() {
    let stage = Stage::empty();
    let page = stage.page().await;
    let folder = tempfile::tempdir().unwrap();
    let picture = folder.path().join("harbour-wall_late.jpg");
    std::fs::write(&picture, lean_demo::YEARS.iter().find(|(n, _)| *n == "weir-summer-late").unwrap().1).unwrap();
    let begun = Instant::now();
    let mut actions = 0;
    page.go("/").await;
    page.says("Drop a picture to begin").await;
    assert_eq!(page.axe().await, Vec::<String>::new());
    page.value("(() => { const s = document.querySelector('[aria-label=\"A new piece\"] select'); Object.getOwnPropertyDescriptor(HTMLSelectElement.prototype, 'value').set.call(s, 'watercolour'); s.dispatchEvent(new Event('change', { bubbles: true })); return 1 })()").await;
    actions += 1;
    page.give_file("#first-picture", &picture).await;
    actions += 1;
    page.says("harbour wall late").await;
    page.says("Next: say what you own").await;
    page.says("a starter Box does for a beginning").await;
    page.click("Next: say what you own").await;
    actions += 1;
    page.click("12 pans").await;
    actions += 1;
    page.click("Next: find the lean set").await;
    actions += 1;
    page.click("Next: make three studies").await;
    actions += 1;
    page.says("Next: print the sheet").await;
    page.until("three are there", "document.querySelectorAll('main svg[role=img], main img').length >= 3").await;
    assert_eq!(page.axe().await, Vec::<String>::new());
    // The last press opens the sheet in a window of its own; what it opens is a page that can be printed.
    page.value("(window.opened = null, window.open = (a) => { window.opened = a }, 1)").await;
    page.click("Next: print the sheet").await;
    actions += 1;
    page.until("it is opened", "window.opened").await;
    page.value("(window.pdf = null, fetch(window.opened).then(r => r.arrayBuffer()).then(b => window.pdf = new Uint8Array(b)), 1)").await;
    page.until("it is a PDF", "window.pdf && String.fromCharCode(...window.pdf.slice(0, 5)) === '%PDF-'").await;
    let took = begun.elapsed();
    assert!(actions <= MOST, "{actions} actions");
    assert!(took.as_secs() < 180, "{took:?}");
    assert_eq!(page.console_errors().await, Vec::<String>::new());
    // What is no picture leaves no piece behind.
    page.go("/").await;
    let text = folder.path().join("letter.png");
    std::fs::write(&text, "Dear Sir or Madam").unwrap();
    page.give_file("#first-picture", &text).await;
    page.says("a text file").await;
    page.until("only the one piece is there", "document.querySelectorAll('[aria-label=Pieces] li').length === 1").await;
    page.close().await;
}
